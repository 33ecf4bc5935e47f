"""What the commands share: reading, showing, writing and refusing."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path as FilePath
from typing import NoReturn, TypeAlias

from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeElapsedColumn
from rich.table import Table

from metaspira.checks import Check, Report, report_on, why_of
from metaspira.part import make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"

MARKS = {"clear": "[green]● clear[/]", "watch": "[yellow]▲ watch[/]", "stop": "[red]■ stop[/]"}


def report_of(file: FilePath) -> Report:
    """The whole report on a recipe file. Raises RecipeError."""
    with Console(stderr=True).status("checking"):
        return report_on(make_part(read_recipe_file(file)))


def progress_bar() -> Progress:
    """A bar on standard error, gone when it is done."""
    columns = (TextColumn("{task.description:>14}"), BarColumn(), TimeElapsedColumn())
    return Progress(*columns, console=Console(stderr=True), transient=True)


def demand_suffix(output: FilePath, known: Sequence[str]) -> None:
    """Raises RecipeError where a file does not end in one of the suffixes, or its folder is not there."""
    if output.suffix not in known:
        raise RecipeError(
            Problem(
                "",
                f"“{output.name}” does not end in a format made here",
                f"use one of {', '.join(known)}",
            )
        )
    if not output.parent.is_dir():
        raise RecipeError(Problem("", f"there is no folder {output.parent}", "make it first"))


def write(output: FilePath, data: bytes) -> None:
    """Write a file. Raises RecipeError where it cannot be."""
    try:
        output.write_bytes(data)
    except OSError as error:
        raise RecipeError(unwritable(output, error)) from None


def unwritable(output: FilePath, error: OSError) -> Problem:
    """A file that cannot be written."""
    return Problem("", f"{output}: {error.strerror}", "name a file that can be written")


def show(report: Report) -> None:
    """Verdict, figures and checks."""
    console = Console()
    figures = Table("figure", "value", "unit", box=None)
    figures.columns[1].justify = "right"
    stands_behind = why_of(report.part)
    for name, value in report.figures.items():
        why = stands_behind[name]
        figures.add_row(why.title, "–" if value is None else f"{value:.6g}", why.unit)
    console.print(f"[bold]{report.part.recipe.name}[/]  {MARKS[report.verdict]}")
    console.print(figures)
    show_checks(console, report.checks)


def show_checks(console: Console, checks: Iterable[Check]) -> None:
    """Each check, with its remedies."""
    for check in checks:
        console.print(f"{MARKS[check.verdict]}  [bold]{check.title}[/]: {check.why}", highlight=False)
        for remedy in check.remedies:
            console.print(
                f"         remedy: {remedy.text} {remedy.cost}   ({remedy.input} = {remedy.value})"
            )


def refuse(*problems: Problem) -> NoReturn:
    """One line on standard error, and exit status 2."""
    more = f" (and {len(problems) - 1} more)" if len(problems) > 1 else ""
    print(f"metaspira: {problems[0].line()}{more}", file=sys.stderr)
    sys.exit(2)

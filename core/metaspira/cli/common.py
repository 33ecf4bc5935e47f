"""What the commands share: reading, showing, writing and refusing."""

from __future__ import annotations

import json
import sys
import time
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path as FilePath
from typing import Any, NamedTuple

from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeElapsedColumn
from rich.table import Table

from metaspira.checks import Check, Report, Verdict, answered, questions_of, report_on, why_of
from metaspira.numbers.compiled import is_ahead
from metaspira.numbers.shown import sized_unit, unit_shown
from metaspira.parts import AnyPart, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file
from metaspira.views.headline import headline

_REMEDY_SECONDS = 20.0

MARKS = {"clear": "[green]● clear[/]", "watch": "[yellow]▲ watch[/]", "stop": "[red]■ stop[/]"}


def report_of(file: FilePath) -> Report:
    """The whole report on a recipe file; the search for remedies ends after some seconds. Raises
    RecipeError."""
    once = "" if is_ahead() else "; the first time takes about a minute more, to compile"
    with Console(stderr=True).status(f"checking{once}"):
        part = make_part(read_recipe_file(file))
        until = time.monotonic() + _REMEDY_SECONDS
        return report_on(part, enough=lambda: time.monotonic() > until)


class Told(NamedTuple):
    """What a command says of one file: its answer as JSON, its verdict, and how it is shown in full."""

    answer: Callable[[], dict[str, Any]]
    verdict: Verdict
    show: Callable[[], None]
    why: str = ""


def tell(files: Sequence[FilePath], one: Callable[[FilePath], Told], as_json: bool) -> int:
    """Say what there is to say of one file, or of several, a line each or a list in their order. The exit
    status. Raises RecipeError where the only one cannot be used."""
    if len(files) == 1:
        told = one(files[0])
        if as_json:
            print(json.dumps(told.answer(), ensure_ascii=False, indent=1))
        else:
            told.show()
        return 1 if told.verdict == "stop" else 0
    answers: list[dict[str, Any]] = []
    verdicts: list[str] = []
    console = Console()
    for file in files:
        try:
            told = one(file)
        except RecipeError as error:
            print(f"metaspira: {file}: {error.problems[0].line()}", file=sys.stderr)
            answers.append({"verdict": "unusable", "problems": [vars(p) for p in error.problems]})
            verdicts.append("unusable")
            continue
        verdicts.append(told.verdict)
        if as_json:
            answers.append(told.answer())
        else:
            console.print(f"{MARKS[told.verdict]}  {file}  {told.why}", highlight=False, soft_wrap=True)
    if as_json:
        print(json.dumps(answers, ensure_ascii=False, indent=1, default=vars))
    return 2 if "unusable" in verdicts else 1 if "stop" in verdicts else 0


def shown_figures(figures: Iterable[dict[str, Any]], length: str) -> dict[str, list[Any]]:
    """Value and unit of each figure, by its key, as they are shown beside a unit of length."""
    shown = {}
    for figure in figures:
        size, unit = unit_shown(figure["unit"], length)
        value = figure["value"]
        shown[figure["key"]] = [None if value is None else value / size, unit]
    return shown


def answers_about(part: AnyPart, what: str) -> list[Check]:
    """The answers of the questions whose ids begin with a word, such as “spring”."""
    return [answered(one, part) for key, one in questions_of(part).items() if key.startswith(f"{what}-")]


def first_reason(checks: Iterable[Check], verdict: Verdict) -> str:
    """Why a part is not clear."""
    return next((check.why for check in checks if check.verdict == verdict != "clear"), "")


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
    demand_folder(output)


def demand_folder(output: FilePath) -> None:
    """Raises RecipeError where the folder of a file is not there."""
    if not output.parent.is_dir():
        raise RecipeError(Problem("", f"there is no folder {output.parent}", "make it first"))


def write_recipe(recipe: dict[str, Any], output: FilePath | None) -> None:
    """A recipe as indented JSON to a file, or to standard output. Raises RecipeError."""
    text = json.dumps(recipe, ensure_ascii=False, indent=2)
    if output is None:
        print(text)
    else:
        write(output, (text + "\n").encode())


def read_file(file: FilePath, place: str, remedy: str, most: int = -1) -> bytes:
    """The bytes of a file, no more than `most` of them. Raises RecipeError where it cannot be read."""
    try:
        with file.open("rb") as stream:
            return stream.read(most)
    except OSError as error:
        raise RecipeError(Problem(place, f"{file}: {error.strerror}", remedy)) from None


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
    for figure in headline(report.part):
        size, unit = unit_shown(figure.unit, report.part.typed.unit)
        told = "–" if figure.value is None else f"{figure.value / size:.6g}"
        figures.add_row(f"[bold]{figure.title}[/]", told, unit)
    stands_behind = why_of(report.part)
    for name, value in report.figures.items():
        why = stands_behind[name]
        size, unit = sized_unit(value or 0.0, why.unit, report.part.typed.unit)
        figures.add_row(why.title, "–" if value is None else f"{value / size:.6g}", unit)
    console.print(f"[bold]{report.part.recipe.name}[/]  {MARKS[report.verdict]}")
    console.print(figures)
    show_checks(console, report.checks)
    if not report.searched:
        console.print(f"The search for remedies was ended after {_REMEDY_SECONDS:g} s; there may be more.")


def show_checks(console: Console, checks: Iterable[Check]) -> None:
    """Each check, with its remedies."""
    for check in checks:
        console.print(f"{MARKS[check.verdict]}  [bold]{check.title}[/]: {check.why}", highlight=False)
        for remedy in check.remedies:
            console.print(f"         remedy: {remedy.text} {remedy.cost}   ({remedy.input} = {remedy.value})")

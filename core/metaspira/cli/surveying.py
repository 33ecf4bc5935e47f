"""The work of `metaspira survey`."""

from __future__ import annotations

import argparse
import itertools
import json

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import MARKS, demand_suffix, progress_bar, write
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file
from metaspira.studies.survey import Over, csv_of, survey


def surveyed(options: argparse.Namespace) -> int:
    """Do what is asked; the exit status."""
    if options.output is not None:
        demand_suffix(options.output, [".csv"])
    over = [_over(text) for text in options.over]
    typed = read_recipe_file(options.file)
    with progress_bar() as bar:
        task = bar.add_task("starting", total=1.0)
        found = survey(
            typed,
            over,
            lambda share, step: bar.update(task, completed=share, description=step),
            exact=options.exact,
        )
    if options.output is not None:
        write(options.output, csv_of(found).encode())
    if options.json:
        print(json.dumps(found.as_dict(), ensure_ascii=False, indent=1))
        return 0
    table = Table(*(f"{one.words} {one.unit}".strip() for one in found.inputs), "verdict", "why", box=None)
    points = itertools.product(*found.steps)
    for point, verdict, reason in zip(points, found.verdicts, found.reasons, strict=True):
        table.add_row(*(f"{value:.8g}" for value in point), MARKS.get(verdict, verdict), reason)
    Console().print(table)
    return 0


def _over(text: str) -> Over:
    place, _, steps = text.partition("=")
    try:
        low, high, count = steps.split(":")
        return Over(input=place, low=float(low), high=float(high), count=int(count))
    except ValueError:
        raise RecipeError(
            Problem("--over", f"“{text[:80]}” is no range", "write it as /path/pitch=4:8:21")
        ) from None

"""One input or two over a range."""

from __future__ import annotations

import argparse
import itertools
import json
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import MARKS, Commands, demand_suffix, progress_bar, write
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file
from metaspira.surveying import Over, csv_of, survey


def add_to(commands: Commands) -> None:
    """Add the command."""
    parser = commands.add_parser("survey", help="figures and checks over a range of one input or two")
    parser.add_argument("file", type=FilePath)
    parser.add_argument(
        "--over",
        action="append",
        required=True,
        metavar="INPUT=LOW:HIGH:COUNT",
        help="a JSON pointer and its even steps, such as /path/pitch=4:8:21",
    )
    parser.add_argument("-o", "--output", type=FilePath, help="a table, .csv")
    parser.add_argument("--json", action="store_true")
    parser.set_defaults(run=_survey)


def _survey(options: argparse.Namespace) -> int:
    if options.output is not None:
        demand_suffix(options.output, [".csv"])
    over = [_over(text) for text in options.over]
    typed = read_recipe_file(options.file)
    with progress_bar() as bar:
        task = bar.add_task("starting", total=1.0)
        found = survey(
            typed, over, lambda share, step: bar.update(task, completed=share, description=step)
        )
    if options.output is not None:
        write(options.output, csv_of(found).encode())
    if options.json:
        print(json.dumps(found.as_dict(), ensure_ascii=False, indent=1))
        return 0
    table = Table(
        *(f"{one.words} {one.unit}".strip() for one in found.inputs), "verdict", "why", box=None
    )
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

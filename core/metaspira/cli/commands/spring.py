"""Rate, loads, stresses and limits of a spring."""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path as FilePath
from typing import Any

from rich.console import Console
from rich.table import Table

from metaspira.checks import Check, worst
from metaspira.checks.check import WHOLE
from metaspira.checks.springs import spring_checks_of
from metaspira.cli.common import Told, demand_suffix, first_reason, show_checks, tell, write
from metaspira.part import Part, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file
from metaspira.sheets import SHEETS
from metaspira.sheets.spring import spring_sheet
from metaspira.spring_views import spring_view
from metaspira.springs.compared import compared


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("files", type=FilePath, nargs="+", metavar="file")
    parser.add_argument("-o", "--output", type=FilePath, help="a data sheet, .html or .pdf")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Tell of one file or of several."""
    if options.output is not None and len(options.files) > 1:
        raise RecipeError(Problem("-o", "a data sheet is of one recipe", "name one file"))
    return tell(options.files, lambda file: _told(file, options.output), options.json)


def _told(file: FilePath, output: FilePath | None) -> Told:
    part = make_part(read_recipe_file(file))
    told = spring_view(part) if isinstance(part, Part) else None
    if told is None:
        remedy = "add “spring” with its kind and working points"
        raise RecipeError(Problem("/spring", "the recipe says nothing of a spring", remedy))
    assert isinstance(part, Part)
    if output is not None:
        demand_suffix(output, list(SHEETS))
        write(output, SHEETS[output.suffix](spring_sheet(part, date.today())))
    checks = [check(part, WHOLE) for check in spring_checks_of(part).values()]
    verdict = worst([check.verdict for check in checks])

    def answer() -> dict[str, Any]:
        beams = None if part.spring is None else compared(part.spring)
        told["beams"] = None if beams is None else vars(beams)
        return {"verdict": verdict, **told, "checks": [check.as_dict() for check in checks]}

    return Told(answer, verdict, lambda: _show(told, checks), first_reason(checks, verdict))


def _show(told: dict[str, Any], checks: list[Check]) -> None:
    console = Console()
    figures = Table("figure", "value", "unit", "source", box=None)
    for figure in told["figures"]:
        value = "–" if figure["value"] is None else f"{figure['value']:.6g}"
        figures.add_row(figure["title"], value, figure["unit"], figure["source"])
    console.print(figures)
    place, effort = told["units"]
    loads = Table(f"at {place}", effort, "stress MPa", "corrected MPa", "of what is allowed", box=None)
    for load in told["loads"]:
        loads.add_row(
            *(f"{load[key]:.5g}" for key in ("place", "effort", "stress", "corrected_stress")),
            f"{100 * load['utilisation']:.3g} %",
        )
    console.print(loads)
    show_checks(console, checks)

"""Rate, loads, stresses and limits of a spring, and its data sheet."""

from __future__ import annotations

import argparse
import json
from datetime import date
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.checks import worst
from metaspira.checks.check import WHOLE
from metaspira.checks.springs import spring_checks_of
from metaspira.cli.common import Commands, demand_suffix, show_checks, write
from metaspira.part import Part, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file
from metaspira.sheets import SHEETS
from metaspira.sheets.spring import spring_sheet
from metaspira.spring_views import spring_view
from metaspira.springs.compared import compared


def add_to(commands: Commands) -> None:
    """Add the command."""
    spring = commands.add_parser("spring", help="rate, loads, stresses and limits of a spring")
    spring.add_argument("file", type=FilePath)
    spring.add_argument("-o", "--output", type=FilePath, help="a data sheet, .html or .pdf")
    spring.add_argument("--json", action="store_true")
    spring.set_defaults(run=_spring)


def _spring(options: argparse.Namespace) -> int:
    part = make_part(read_recipe_file(options.file))
    told = spring_view(part) if isinstance(part, Part) else None
    if told is None:
        raise RecipeError(
            Problem("/spring", "the recipe says nothing of a spring", "add “spring” with its kind and working points")
        )  # fmt: skip
    assert isinstance(part, Part)
    if options.output is not None:
        demand_suffix(options.output, list(SHEETS))
        write(options.output, SHEETS[options.output.suffix](spring_sheet(part, date.today())))
    checks = [check(part, WHOLE) for check in spring_checks_of(part).values()]
    verdict = worst([check.verdict for check in checks])
    if options.json:
        beams = None if part.spring is None else compared(part.spring)
        told["beams"] = None if beams is None else vars(beams)
        answer = {"verdict": verdict, **told, "checks": [check.as_dict() for check in checks]}
        print(json.dumps(answer, ensure_ascii=False, indent=1))
        return 1 if verdict == "stop" else 0
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
    return 1 if verdict == "stop" else 0

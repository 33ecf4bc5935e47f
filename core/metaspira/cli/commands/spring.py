"""Rate, loads, stresses and limits of a spring."""

from __future__ import annotations

import argparse
from dataclasses import asdict
from pathlib import Path as FilePath
from typing import Any

from rich.console import Console
from rich.table import Table

from metaspira.checks import Check, worst
from metaspira.cli.building import saved
from metaspira.cli.common import (
    Told,
    answers_about,
    demand_suffix,
    first_reason,
    show_checks,
    shown_figures,
    tell,
)
from metaspira.formats.readings import MOST_BYTES, read_readings
from metaspira.numbers.shown import unit_shown
from metaspira.outputs import by_suffix
from metaspira.parts import Part, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import AnyRecipe, Recipe
from metaspira.recipe.reading import bytes_of, read_recipe_file
from metaspira.springs.asked import AxialSpring
from metaspira.springs.compared import compared
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.made import scatters
from metaspira.springs.scatter import scatter_of
from metaspira.springs.torsion import Torsion
from metaspira.views.springs import spring_view


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("files", type=FilePath, nargs="+", metavar="file")
    parser.add_argument("-o", "--output", type=FilePath, help="a data sheet, .html or .pdf")
    parser.add_argument(
        "--measured", type=FilePath, metavar="CSV", help="readings of a made spring: length and force"
    )
    parser.add_argument(
        "--units", help="of readings whose first line does not tell, such as “mm N” or “in lbf”"
    )
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Tell of one file or of several."""
    if options.output is not None and len(options.files) > 1:
        raise RecipeError(Problem("-o", "a data sheet is of one recipe", "name one file"))
    readings = None
    if options.measured is not None:
        readings = read_readings(bytes_of(options.measured, MOST_BYTES), options.units)
    return tell(options.files, lambda file: _told(file, options.output, readings), options.json)


def _told(file: FilePath, output: FilePath | None, readings: list[list[float]] | None) -> Told:
    recipe = read_recipe_file(file)
    if readings is not None:
        recipe = _measured(recipe, readings)
    part = make_part(recipe)
    told = spring_view(part) if isinstance(part, Part) else None
    if told is None:
        remedy = "add “spring” with its kind and working points"
        raise RecipeError(Problem("/spring", "the recipe says nothing of a spring", remedy))
    assert isinstance(part, Part)
    if output is not None:
        sheets = by_suffix("sheet")
        demand_suffix(output, list(sheets))
        saved(sheets[output.suffix], part, output)
    checks = answers_about(part, "spring")
    verdict = worst([check.verdict for check in checks])

    def answer() -> dict[str, Any]:
        beams = None if part.spring is None else compared(part.spring)
        told["beams"] = None if beams is None else vars(beams)
        told["exact"] = _exact(part)
        told["scatter"] = asdict(scatter_of(part.spring)) if scatters(part.spring) else None
        shown = _shown(told, part.typed.unit)
        return {"verdict": verdict, **told, "shown": shown, "checks": [check.as_dict() for check in checks]}

    return Told(answer, verdict, lambda: _show(told, checks, part.recipe.unit), first_reason(checks, verdict))


def _shown(told: dict[str, Any], length: str) -> dict[str, Any]:
    """Figures and loads in the units that are shown beside the recipe's unit of length."""
    place, effort = told["units"]
    bases = {"place": place, "effort": effort, "stress": "MPa", "corrected_stress": "MPa"}

    def own(value: float | None, base: str) -> float | None:
        return None if value is None else value / unit_shown(base, length)[0]

    return {
        "units": {name: unit_shown(base, length)[1] for name, base in bases.items()},
        "figures": shown_figures(told["figures"], length),
        "loads": [{name: own(load[name], base) for name, base in bases.items()} for load in told["loads"]],
    }


def _measured(recipe: AnyRecipe, readings: list[list[float]]) -> AnyRecipe:
    """A recipe with readings of its spring, mm and N, in place of its own."""
    if not isinstance(recipe, Recipe) or not isinstance(recipe.spring, AxialSpring):
        raise RecipeError(
            Problem("--measured", "readings are of springs that push or pull", "leave them out")
        )
    typed = tuple((f"{length} mm", force) for length, force in readings)
    return recipe.model_copy(update={"spring": recipe.spring.model_copy(update={"measured": typed})})


def _show_measured(console: Console, found: dict[str, Any], length: str) -> None:
    def text(value: float, base: str, digits: int = 5, sign: str = "") -> str:
        size, own = unit_shown(base, length)
        return f"{value / size:{sign}.{digits}g} {own}".rstrip()

    low, high = found["between"]
    off = 100 * (found["rate"] / found["calculated_rate"] - 1)
    console.print(
        f"Measured: rate {text(found['rate'], 'N/mm')} from {text(low, 'mm')} to {text(high, 'mm')}, "
        f"{off:+.2f} % off the design's; {text(found['offset'], 'N', 4, '+')} in their middle"
    )
    if found["hysteresis"] is not None:
        lost = 100 * (found["lost"] or 0.0)
        back = text(found["hysteresis"], "N", 4)
        console.print(f"Coming back up to {back} less; {lost:.3g} % of the work is lost")
    table = Table("alone explained by", "design", "would be", "± kept", box=None)
    for one in found["explained"]:
        kept = "" if one["either"] is None else text(one["either"], one["unit"], 4)
        table.add_row(one["title"], *(text(one[key], one["unit"]) for key in ("design", "value")), kept)
    console.print(table)


def _exact(part: Part) -> dict[str, Any] | None:
    """Rate and stresses by the exact elasticity of a turn; None of spirals and nests."""
    if not isinstance(part.spring, Compression | Extension | Torsion):
        return None
    from metaspira.springs.exact import exact_of

    found = exact_of(part.spring)
    return {
        "rate": found.rate,
        "rate_turning": found.rate_turning,
        "loads": [vars(load) for load in found.loads],
        "hooks": [vars(hook) for hook in found.hooks],
        "most_at": found.most_at,
    }


def _show(told: dict[str, Any], checks: list[Check], length: str) -> None:
    """`length` is the recipe's unit of length; forces and stresses stand beside it."""
    console = Console()

    def text(value: float, base: str, digits: int = 5) -> str:
        return f"{value / unit_shown(base, length)[0]:.{digits}g}"

    def named(base: str) -> str:
        return unit_shown(base, length)[1]

    figures = Table("figure", "value", "unit", "source", box=None)
    for figure in told["figures"]:
        value = "–" if figure["value"] is None else text(figure["value"], figure["unit"], 6)
        figures.add_row(figure["title"], value, named(figure["unit"]), figure["source"])
    console.print(figures)
    place, effort = told["units"]
    drawn = told["as_drawn"]
    beside = [f"as drawn {named(effort)}"] if drawn else []
    stress = named("MPa")
    loads = Table(
        f"at {named(place)}",
        named(effort),
        *beside,
        f"stress {stress}",
        f"corrected {stress}",
        "of what is allowed",
        box=None,
    )
    for index, load in enumerate(told["loads"]):
        loads.add_row(
            text(load["place"], place),
            text(load["effort"], effort),
            *([text(drawn["loads"][index]["effort"], effort)] if drawn else []),
            *(text(load[key], "MPa") for key in ("stress", "corrected_stress")),
            f"{100 * load['utilisation']:.3g} %",
        )
    console.print(loads)
    if drawn:
        rates = text(told["rate"], "N/mm"), text(drawn["rate"], "N/mm")
        console.print(f"Rate by {told['rules_words']} {rates[0]}, as drawn {rates[1]} {named('N/mm')}")
    if told["measured"]:
        _show_measured(console, told["measured"], length)
    show_checks(console, checks)

"""Basic sizes, limits and gauging of a standard thread."""

from __future__ import annotations

import argparse
import json
from typing import Any

from metaspira.cli.typed import finite
from metaspira.problems import RecipeError
from metaspira.threads.gauging import as_dict
from metaspira.threads.lookup import read_thread
from metaspira.threads.thread import Thread


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument(
        "designation", nargs="+", help="as people write it, such as M10x1.25-6g; one or several"
    )
    parser.add_argument("--wire", type=finite, metavar="MM", help="diameter of three wires at hand")
    parser.add_argument("--over", type=finite, metavar="MM", help="measured over these wires")
    parser.add_argument("--pitch-diameter", type=finite, metavar="MM", help="measured another way")
    parser.add_argument(
        "--crest", type=finite, metavar="MM", help="measured major diameter, of a nut minor diameter"
    )
    parser.add_argument("--depth", type=finite, metavar="MM", help="measured from crest to root")
    parser.add_argument(
        "--pitch-error", type=finite, metavar="MM", default=0.0, help="of the pitch, over the engagement"
    )
    parser.add_argument(
        "--flank-errors", type=finite, nargs=2, metavar="DEG", default=(), help="of both half angles"
    )
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Print what is known of one thread or of several; 1 where a measured one is beyond its limits."""
    threads = _threads(options.designation)
    told = [as_dict(thread) | _judged(thread, options) for thread in threads]
    if options.json:
        print(json.dumps(told if len(told) > 1 else told[0], ensure_ascii=False, indent=1))
    else:
        for thread, one in zip(threads, told, strict=True):
            _show(thread, one)
            _show_measured(one)
    return 0 if all(row["within"] for one in told for row in one.get("measured", ())) else 1


def _judged(thread: Thread, options: argparse.Namespace) -> dict[str, Any]:
    """What was measured of a thread against its limits, and its sizes over the wires at hand, mm."""
    given = {name: getattr(options, name) for name in ("wire", "over", "pitch_diameter", "crest", "depth")}
    if all(value is None for value in given.values()):
        return {}
    from pydantic import ValidationError

    from metaspira.recipe.reading import problems_of
    from metaspira.threads.judging import Readings, judgement

    errors = {"pitch_error": options.pitch_error, "flank_errors": tuple(options.flank_errors) or (0.0, 0.0)}
    try:
        readings = Readings.model_validate(given | errors)
    except ValidationError as error:
        raise RecipeError(problems_of(error.errors(), given | errors, Readings)) from None
    found = judgement(thread, thread.side or "external", readings)
    return {
        **({"over_wires": found.over_wires} if found.over_wires else {}),
        **({"measured": [vars(row) for row in found.measured]} if found.measured else {}),
    }


def _show_measured(told: dict[str, Any]) -> None:
    from rich.console import Console

    console = Console()
    if "over_wires" in told:
        sizes = ", ".join(f"{value:.4f} mm {name}" for name, value in told["over_wires"].items())
        console.print(f"Over these wires: {sizes}", highlight=False)
    for row in told.get("measured", ()):
        limits = " to ".join("–" if row[key] is None else f"{row[key]:.4f}" for key in ("least", "most"))
        verdict = "within" if row["within"] else f"{row['off']:.4f} mm beyond"
        console.print(f"{row['title']} {row['value']:.4f} mm: {verdict} {limits} mm", highlight=False)


def _threads(words: list[str]) -> list[Thread]:
    """The threads that are named by words one after another, each by as many of them as name one. Raises
    RecipeError."""
    found: list[Thread] = []
    while words:
        for count in range(len(words), 0, -1):
            try:
                found.append(read_thread(" ".join(words[:count])))
            except RecipeError:
                continue
            words = words[count:]
            break
        else:
            read_thread(" ".join(words) if not found else words[0])
    return found


def _show(thread: Thread, told: dict[str, Any]) -> None:
    from rich.console import Console
    from rich.table import Table

    console = Console()
    unit, digits = ("in", thread.digits) if thread.inch else ("mm", thread.digits)
    members = told["inch"] if thread.inch else told
    console.print(
        f"[bold]{thread.designation}[/]  {thread.title}, {'; '.join(f'{a}: {b}' for a, b in thread.sources)}"
    )
    for side in ("external", "internal"):
        sizes = Table(f"{side} {members[side]['tolerance']}", "basic", "most", "least", "unit", box=None)
        for name in ("major", "pitch", "minor"):
            row = members[side][name]
            shown = ["–" if row[k] is None else f"{row[k]:.{digits}f}" for k in ("basic", "max", "min")]
            sizes.add_row(f"{name} diameter", *shown, unit)
        console.print(sizes)
    figures = Table("figure", "value", "unit", "from", box=None)
    for figure in members["gauging"]:
        value = "–" if figure["value"] is None else f"{figure['value']:.5g}"
        figures.add_row(figure["title"], value, figure["unit"], figure["formula"] or figure["source"])
    console.print(figures)
    if told["gauges"]:
        gauges = Table("gauge, pitch diameter", "most", "least", "worn", "unit", box=None)
        for gauge in told["gauges"]:
            gauges.add_row(gauge["name"], *(f"{gauge[key]:.4f}" for key in ("most", "least", "worn")), "mm")
        console.print(gauges)
    some = told["drills"]
    if some:
        each = [f"{one['name']} ({100 * one['share']:.0f} %)" for one in some[:: max(len(some) // 8, 1)]]
        console.print(
            f"Drills within the limits, and the height each leaves: {', '.join(each)}", highlight=False
        )

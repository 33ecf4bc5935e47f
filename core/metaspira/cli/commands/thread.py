"""Basic sizes, limits and gauging of a standard thread."""

from __future__ import annotations

import argparse
import json

from metaspira.problems import RecipeError
from metaspira.threads.gauging import as_dict, gauging, in_inches
from metaspira.threads.lookup import read_thread
from metaspira.threads.thread import Thread


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument(
        "designation", nargs="+", help="as people write it, such as M10x1.25-6g; one or several"
    )
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Print what is known of one thread or of several."""
    threads = _threads(options.designation)
    if options.json:
        told = [as_dict(thread) for thread in threads]
        print(json.dumps(told if len(told) > 1 else told[0], ensure_ascii=False, indent=1))
        return 0
    for thread in threads:
        _show(thread)
    return 0


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


def _show(thread: Thread) -> None:
    from rich.console import Console
    from rich.table import Table

    told = as_dict(thread)
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
    for figure in gauging(thread):
        figure = in_inches(figure) if thread.inch else figure
        value = "–" if figure.value is None else f"{figure.value:.5g}"
        figures.add_row(figure.title, value, figure.unit, figure.formula or figure.source)
    console.print(figures)
    some = told["drills"]
    if some:
        each = [f"{one['name']} ({100 * one['share']:.0f} %)" for one in some[:: max(len(some) // 8, 1)]]
        console.print(
            f"Drills within the limits, and the height each leaves: {', '.join(each)}", highlight=False
        )

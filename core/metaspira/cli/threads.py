"""Basic sizes, limits and gauging of a standard thread."""

from __future__ import annotations

import argparse
import json

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import Commands
from metaspira.threads.finding import read_thread
from metaspira.threads.gauging import as_dict, gauging


def add_to(commands: Commands) -> None:
    """Add the command."""
    thread = commands.add_parser("thread", help="basic sizes, limits and gauging of a standard thread")
    thread.add_argument("designation", nargs="+", help="as people write it, such as M10x1.25-6g")
    thread.add_argument("--json", action="store_true")
    thread.set_defaults(run=_thread)


def _thread(options: argparse.Namespace) -> int:
    thread = read_thread(" ".join(options.designation))
    told = as_dict(thread)
    if options.json:
        print(json.dumps(told, ensure_ascii=False, indent=1))
        return 0
    console = Console()
    unit, digits = ("in", thread.digits) if thread.inch else ("mm", thread.digits)
    members = told["inch"] if thread.inch else told
    console.print(
        f"[bold]{thread.designation}[/]  {thread.title}, {'; '.join(f'{a}: {b}' for a, b in thread.sources)}"
    )
    for side in ("external", "internal"):
        sizes = Table(
            f"{side} {members[side]['tolerance']}", "basic", "most", "least", "unit", box=None
        )
        for name in ("major", "pitch", "minor"):
            row = members[side][name]
            shown = ["–" if row[k] is None else f"{row[k]:.{digits}f}" for k in ("basic", "max", "min")]
            sizes.add_row(f"{name} diameter", *shown, unit)
        console.print(sizes)
    figures = Table("figure", "value", "unit", "from", box=None)
    for figure in gauging(thread):
        value = "–" if figure.value is None else f"{figure.value:.5g}"
        figures.add_row(figure.title, value, figure.unit, figure.formula or figure.source)
    console.print(figures)
    return 0

"""From a scanned body back to its recipe: a coil, a thread, or a bar."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import progress_bar, read_file, write_recipe
from metaspira.formats.outside import MOST_BYTES
from metaspira.numbers.shown import LENGTHS
from metaspira.studies.trace import SCANS, Deviation, Traced, trace


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("body", type=FilePath, help="a file of " + ", ".join(SCANS))
    parser.add_argument("--unit", choices=LENGTHS, help="of a file that does not say its own")
    parser.add_argument("-o", "--output", type=FilePath, help="the recipe to write")
    parser.add_argument("--round", action="store_true", help="to a designer's numbers")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Trace it, say what was measured and how sure it is, and write the recipe."""
    file: FilePath = options.body
    data = read_file(file, "/file", "name a body that can be read", MOST_BYTES + 1)
    with progress_bar() as bar:
        task = bar.add_task("", total=1.0)
        found = trace(
            data,
            file.suffix,
            options.unit,
            file.stem,
            lambda share, words: bar.update(task, completed=share, description=words),
        )
    recipe = found.rounded if options.round else found.recipe
    if options.output:
        write_recipe(recipe, options.output)
    if options.json:
        sure = {one.input: [one.value - one.sure, one.value + one.sure] for one in found.figures if one.input}
        told = {key: value for key, value in asdict(found).items() if key != "ghost"}
        print(json.dumps({**told, "sure": sure}, ensure_ascii=False, indent=1))
    else:
        _show(found)
    return 0


def _show(found: Traced) -> None:
    console = Console()
    table = Table("measured", "value", "±", "unit", box=None)
    for one in found.figures:
        table.add_row(one.title, f"{one.value:.5g}", f"{one.sure:.2g}", one.unit)
    console.print(table)
    if found.designations:
        table = Table("thread", "probable", "off mm", "pitch off mm", "diameter off mm", box=None)
        for thread in found.designations:
            offs = f"{thread.off:.3f}", f"{thread.pitch_off:+.3f}", f"{thread.diameter_off:+.3f}"
            table.add_row(thread.designation, f"{100 * thread.probable:.0f} %", *offs)
        console.print(table)
    for words, off in (("as traced", found.deviation), ("rounded", found.rounded_deviation)):
        if off is not None:
            console.print(f"{words}: {_said(off)}", highlight=False)
    for words in found.told:
        console.print(words, highlight=False)


def _said(off: Deviation) -> str:
    return f"{off.mean:.2g} mm off on average, {off.p95:.2g} at 95 %, {off.max:.2g} at the most"

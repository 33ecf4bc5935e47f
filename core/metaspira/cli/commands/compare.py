"""A recipe beside another, or a body from a file."""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterable
from dataclasses import asdict
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.checks import report_on
from metaspira.cli.common import MARKS, read_file
from metaspira.formats.bodies import BODIES, bodies_in
from metaspira.formats.outside import plain_suffix
from metaspira.parts import make_part
from metaspira.recipe.reading import read_recipe_file
from metaspira.studies.body import held_against
from metaspira.studies.compare import FigureChange, changes, check_changes, figure_changes


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("before", type=FilePath, help="a recipe, or a body: " + ", ".join(BODIES))
    parser.add_argument("after", type=FilePath, help="a recipe")
    parser.add_argument("--unit", help="of a body whose file does not say: mm, cm, m or in")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    if plain_suffix(options.before.suffix) in BODIES:
        return _hold(options)
    files = (options.before, options.after)
    typed = [read_recipe_file(file) for file in files]
    before, after = (report_on(make_part(one), with_remedies=False) for one in typed)
    given = (json.loads(file.read_bytes()) for file in files)
    told, figures, checks = changes(*given), figure_changes(before, after), check_changes(before, after)
    if options.json:
        data = {
            "changes": [asdict(row) for row in told],
            "figures": [asdict(row) for row in figures],
            "checks": [asdict(row) for row in checks],
        }
        print(json.dumps(data, ensure_ascii=False, indent=1))
        return 0
    console = Console()
    for change in told:
        console.print(change.words, highlight=False)
    console.print(_table(figures))
    for check in checks:
        sides = (MARKS.get(side or "", "not asked") for side in (check.before, check.after))
        console.print(f"{check.title}: {' → '.join(sides)}")
    return 0


def _hold(options: argparse.Namespace) -> int:
    part = make_part(read_recipe_file(options.after))
    file: FilePath = options.before
    data = read_file(file, "", "name a file that is there")
    found = held_against(part, bodies_in(data, file.suffix, options.unit, file.stem))
    if options.json:
        print(json.dumps(asdict(found) | {"body": file.stem}, ensure_ascii=False, indent=1))
        return 0
    console = Console()
    console.print(_table(found.figures))
    for which, apart in (("part", found.part_beyond), ("body", found.body_beyond)):
        at = ", ".join(f"{c:.5g}" for c in apart.at)
        console.print(f"The {which} reaches beyond by {apart.distance:.4g} mm, at {at}", highlight=False)
    said = "They are the same" if found.same else "They differ"
    console.print(f"{said}, within {found.within:g} mm", highlight=False)
    return 0


def _table(rows: Iterable[FigureChange]) -> Table:
    table = Table("figure", "before", "after", "change", "unit", box=None)
    for row in rows:
        both = row.before is not None and row.after is not None
        off = f"{(row.after or 0.0) - (row.before or 0.0):+.5g}" if both else ""
        values = ("–" if value is None else f"{value:.6g}" for value in (row.before, row.after))
        table.add_row(row.title, *values, off, row.unit)
    return table

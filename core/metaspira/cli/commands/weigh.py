"""Mass, surface, box, centre of mass and inertia."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.parts import make_part
from metaspira.parts.weight import weigh, weight_figures
from metaspira.recipe.reading import read_recipe_file


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    found = weigh(make_part(read_recipe_file(options.file)))
    if options.json:
        print(json.dumps(asdict(found), ensure_ascii=False, indent=1))
        return 0
    table = Table("figure", "value", "unit", box=None)
    for figure in weight_figures(found):
        table.add_row(figure.title, f"{figure.value:.6g}", figure.unit)
    Console().print(table)
    return 0

"""A recipe to begin with, by what it is to become; without a name, the list of them."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import write_recipe
from metaspira.numbers.shown import LENGTHS
from metaspira.recipe.units import in_unit
from metaspira.starting import starting_point, starting_points


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("key", nargs="?", help="what to begin with")
    parser.add_argument("--unit", choices=LENGTHS, default="mm")
    parser.add_argument("-o", "--output", type=FilePath, help="the file to write, else standard output")


def run(options: argparse.Namespace) -> int:
    """Print or write it."""
    if options.key is None:
        table = Table("begin with", "what it is", box=None)
        for start in starting_points().values():
            table.add_row(start.key, f"{start.title}: {start.sentence}")
        Console().print(table)
        return 0
    recipe = in_unit(starting_point(options.key).recipe, options.unit)
    write_recipe(recipe, options.output)
    return 0

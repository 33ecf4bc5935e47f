"""The same recipe in another unit of length."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath

from metaspira.cli.common import write_recipe
from metaspira.numbers.shown import LENGTHS
from metaspira.recipe.reading import read_json_file
from metaspira.recipe.units import in_unit


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("--unit", choices=LENGTHS, required=True)
    parser.add_argument("-o", "--output", type=FilePath, help="the file to write, else standard output")


def run(options: argparse.Namespace) -> int:
    """Print or write it."""
    recipe = in_unit(read_json_file(options.file), options.unit)
    write_recipe(recipe, options.output)
    return 0

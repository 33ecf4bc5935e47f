"""A dimensioned drawing: front, top, section, detail, title block."""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path as FilePath

from metaspira.cli.common import demand_suffix, write
from metaspira.drawings import DRAWINGS, drawing_of
from metaspira.part import make_part
from metaspira.recipe.reading import read_recipe_file


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("-o", "--output", type=FilePath, required=True, help=", ".join(DRAWINGS))


def run(options: argparse.Namespace) -> int:
    output: FilePath = options.output
    demand_suffix(output, list(DRAWINGS))
    drawn = drawing_of(make_part(read_recipe_file(options.file)), date.today())
    write(output, DRAWINGS[output.suffix](drawn))
    print(f"{output}: {len(drawn.parts)} lines and texts on {drawn.width:g} × {drawn.height:g} mm")
    return 0

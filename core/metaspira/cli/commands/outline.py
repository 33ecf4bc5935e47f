"""The section as a drawing, across and through the axis."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath

from metaspira.cli.common import demand_suffix, unwritable
from metaspira.formats.outlines import OUTLINES, write_outline
from metaspira.part import make_part
from metaspira.problems import RecipeError
from metaspira.recipe.reading import read_recipe_file


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("-o", "--output", type=FilePath, required=True, help="a drawing, .dxf or .svg")


def run(options: argparse.Namespace) -> int:
    output: FilePath = options.output
    demand_suffix(output, OUTLINES)
    part = make_part(read_recipe_file(options.file))
    try:
        proof = write_outline(part, output)
    except OSError as error:
        raise RecipeError(unwritable(output, error)) from None
    print(f"{output}: {proof.measure:.6g} read back, off the predicted by {proof.relative_error:.1e}")
    return 0

"""The loops of a DXF or SVG drawing, as a section, or as the outline of a turned body."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path as FilePath

from metaspira.formats.drawing import MAX_BYTES as MAX_DRAWING
from metaspira.formats.drawing import Drawing, read_drawing
from metaspira.numbers.shown import LENGTHS
from metaspira.problems import Problem, RecipeError
from metaspira.sections.half_section import half_section


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("--unit", choices=LENGTHS, help="where the drawing has none")
    parser.add_argument("--turned", action="store_true", help="the outline of a body turned around x = 0")


def run(options: argparse.Namespace) -> int:
    file: FilePath = options.file
    try:
        data = file.read_bytes()[: MAX_DRAWING + 1]
    except OSError as error:
        raise RecipeError(
            Problem("/file", f"{file}: {error.strerror}", "name a drawing that can be read")
        ) from None
    drawing = read_drawing(data, file.suffix, options.unit)
    if options.turned:
        print(json.dumps({"profile": half_section(drawing.loops)}))
    else:
        _print_section(drawing)
    for fault in drawing.faults:
        print(f"metaspira: {fault.text}", file=sys.stderr)
    return 0


def _print_section(drawing: Drawing) -> None:
    loops = [loop.model_dump(mode="json") for loop in drawing.loops]
    plane = {} if drawing.plane is None else {"plane": drawing.plane}
    print(json.dumps({"kind": "free", "loops": loops, **plane}, ensure_ascii=False, indent=1))

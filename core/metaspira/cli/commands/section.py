"""The loops of a DXF or SVG drawing, as a section, or as the outline of a turned body."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path as FilePath

from metaspira.cli.common import read_file
from metaspira.formats.drawing import MAX_BYTES as MAX_DRAWING
from metaspira.formats.drawing import Drawing, read_drawing
from metaspira.formats.half_section import half_section
from metaspira.numbers.shown import LENGTHS


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("--unit", choices=LENGTHS, help="where the drawing has none")
    parser.add_argument("--turned", action="store_true", help="the outline of a body turned around x = 0")


def run(options: argparse.Namespace) -> int:
    file: FilePath = options.file
    data = read_file(file, "/file", "name a drawing that can be read", MAX_DRAWING + 1)
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

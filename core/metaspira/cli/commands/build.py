"""Check, build, prove and write a recipe's solid."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath

from metaspira.cli.typed import finite
from metaspira.processes import warm


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument(
        "-o",
        "--output",
        type=FilePath,
        required=True,
        help="a solid, or what else the end of its name says: see “batch”",
    )
    parser.add_argument("--chord-error", type=finite, help="of meshes, in mm")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Do it, while another process loads what its children need."""
    warm(
        "metaspira.outputs.child",
        *(["metaspira.solids.step"] if options.output.suffix == ".step" else []),
    )
    from metaspira.cli.building import built

    return built(options)

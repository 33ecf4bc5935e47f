"""Figures and checks over a range of one input or two."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath

from metaspira.processes import warm


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument(
        "--over",
        action="append",
        required=True,
        metavar="INPUT=LOW:HIGH:COUNT",
        help="a JSON pointer and its even steps, such as /path/pitch=4:8:21",
    )
    parser.add_argument(
        "--exact",
        action="store_true",
        help="with the exact elasticity of a spring, which takes longer",
    )
    parser.add_argument("-o", "--output", type=FilePath, help="a table, .csv")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Do it, while another process loads what its children need."""
    warm("metaspira.studies.survey")
    from metaspira.cli.surveying import surveyed

    return surveyed(options)

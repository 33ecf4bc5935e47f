"""Figures and checks of recipes."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath

from metaspira.cli.common import Told, first_reason, report_of, show, tell


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("files", type=FilePath, nargs="+", metavar="file")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Check one file or several."""
    return tell(options.files, _told, options.json)


def _told(file: FilePath) -> Told:
    report = report_of(file)
    why = first_reason(report.checks, report.verdict)
    return Told(report.as_dict, report.verdict, lambda: show(report), why)

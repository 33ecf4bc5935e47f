"""Figures and checks of a recipe, and the JSON Schema of recipes."""

from __future__ import annotations

import argparse
import json
from pathlib import Path as FilePath

from metaspira.cli.common import Commands, report_of, show
from metaspira.recipe.model import json_schema


def add_to(commands: Commands) -> None:
    """Add the command."""
    check = commands.add_parser("check", help="figures and checks of a recipe")
    check.add_argument("file", type=FilePath)
    check.add_argument("--json", action="store_true")
    check.set_defaults(run=_check)
    schema = commands.add_parser("schema", help="the JSON Schema of recipes")
    schema.set_defaults(run=_schema)


def _check(options: argparse.Namespace) -> int:
    report = report_of(options.file)
    if options.json:
        print(json.dumps(report.as_dict(), ensure_ascii=False, indent=1))
    else:
        show(report)
    return 1 if report.verdict == "stop" else 0


def _schema(options: argparse.Namespace) -> int:
    print(json.dumps(json_schema(), ensure_ascii=False, indent=1))
    return 0

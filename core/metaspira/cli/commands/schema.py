"""The JSON Schema of recipes."""

from __future__ import annotations

import argparse
import json

from metaspira.recipe.model import json_schema


def add_to(parser: argparse.ArgumentParser) -> None:
    """It has no arguments."""


def run(options: argparse.Namespace) -> int:
    """Print it."""
    print(json.dumps(json_schema(), ensure_ascii=False, indent=1))
    return 0

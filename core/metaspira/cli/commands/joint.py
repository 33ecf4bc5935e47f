"""What a threaded joint bears."""

from __future__ import annotations

import argparse
from pathlib import Path as FilePath
from typing import Any

from rich.console import Console
from rich.table import Table

from metaspira.checks import Check, worst
from metaspira.cli.common import Told, answers_about, first_reason, show_checks, shown_figures, tell
from metaspira.parts import make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file
from metaspira.views.joints import joint_view


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("files", type=FilePath, nargs="+", metavar="file")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Tell of one file or of several."""
    return tell(options.files, _told, options.json)


def _told(file: FilePath) -> Told:
    part = make_part(read_recipe_file(file))
    told = joint_view(part)
    if told is None:
        raise RecipeError(
            Problem("/joint", "the recipe says nothing of a joint", "add “joint” with materials and load")
        )
    checks = answers_about(part, "joint")
    verdict = worst([check.verdict for check in checks])
    shown = shown_figures(told["figures"], part.typed.unit)

    def answer() -> dict[str, Any]:
        return {
            "verdict": verdict,
            **told,
            "shown": {"figures": shown},
            "checks": [check.as_dict() for check in checks],
        }

    return Told(answer, verdict, lambda: _show(told, shown, checks), first_reason(checks, verdict))


def _show(told: dict[str, Any], shown: dict[str, list[Any]], checks: list[Check]) -> None:
    console = Console()
    console.print(f"{told['external']['title']} in {told['internal']['title']}", highlight=False)
    table = Table("figure", "value", "unit", "source", box=None)
    for figure in told["figures"]:
        value, unit = shown[figure["key"]]
        table.add_row(figure["title"], "–" if value is None else f"{value:.5g}", unit, figure["source"])
    console.print(table)
    shares = ", ".join(f"{100 * share:.3g} %" for share in told["shares"])
    console.print(f"Load on the turns of the nut, from its face on: {shares}", highlight=False)
    show_checks(console, checks)

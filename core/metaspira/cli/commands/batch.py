"""Check, and make files of, every recipe in a folder."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path as FilePath
from typing import Any

from rich.console import Console
from rich.table import Table

from metaspira.checks import report_on, worst
from metaspira.cli.common import MARKS, first_reason, progress_bar
from metaspira.outputs import outputs
from metaspira.outputs.building import BuildError
from metaspira.parts import make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file

_ENDING = ".spira.json"


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("folder", type=FilePath)
    parser.add_argument("--to", nargs="+", default=[], metavar="WHAT", help=", ".join(outputs()))
    parser.add_argument(
        "-o", "--output", type=FilePath, help="the folder for the files (default: the recipes')"
    )
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    folder: FilePath = options.folder
    output: FilePath = options.output or folder
    wrong = next((what for what in options.to if what not in outputs()), None)
    if wrong is not None:
        raise RecipeError(Problem("--to", f"“{wrong}” is not made here", f"use {', '.join(outputs())}"))
    if not folder.is_dir():
        raise RecipeError(Problem("", f"there is no folder {folder}", "name one that holds recipes"))
    files = sorted(folder.glob(f"*{_ENDING}"))
    if not files:
        raise RecipeError(
            Problem("", f"no file in {folder} ends in {_ENDING}", "name a folder that holds recipes")
        )
    output.mkdir(parents=True, exist_ok=True)
    rows = []
    with progress_bar() as bar:
        task = bar.add_task("starting", total=len(files))
        for file in files:
            bar.update(task, description=file.name[:30])
            rows.append(_one(file, output, options.to))
            bar.advance(task)
    if options.json:
        print(json.dumps(rows, ensure_ascii=False, indent=1))
    else:
        _show(rows)
    verdicts = {row["verdict"] for row in rows}
    if "unusable" in verdicts or any(row["faults"] for row in rows):
        print("metaspira: not everything could be made; see the faults", file=sys.stderr)
        return 2
    return 1 if worst([row["verdict"] for row in rows]) == "stop" else 0


def _one(file: FilePath, output: FilePath, wanted: list[str]) -> dict[str, Any]:
    """What became of one recipe: its verdict, why where it is not clear, the files that were made, and what
    could not be."""
    row: dict[str, Any] = {
        "file": file.name,
        "verdict": "unusable",
        "why": "",
        "made": [],
        "faults": [],
    }
    try:
        part = make_part(read_recipe_file(file))
        report = report_on(part, with_remedies=False)
    except RecipeError as error:
        return {**row, "why": error.problems[0].line()}
    row["verdict"] = report.verdict
    row["why"] = first_reason(report.checks, report.verdict)
    if report.verdict == "stop":
        return row
    stem = file.name.removesuffix(_ENDING)
    for what in wanted:
        made = output / f"{stem}.{what}"
        try:
            outputs()[what].save(part, made)
            row["made"].append(made.name)
        except (RecipeError, BuildError, OSError) as error:
            row["faults"].append(f"{what}: {error}")
    return row


def _show(rows: list[dict[str, Any]]) -> None:
    table = Table("recipe", "verdict", "files", "why", box=None)
    for row in rows:
        faults = "; ".join(row["faults"])
        table.add_row(
            row["file"],
            MARKS.get(row["verdict"], row["verdict"]),
            str(len(row["made"])),
            faults or row["why"],
        )
    Console().print(table)

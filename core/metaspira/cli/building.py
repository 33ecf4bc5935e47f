"""Checking a recipe and making a file of it."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path as FilePath
from typing import Any

from metaspira.cli.common import (
    demand_folder,
    demand_suffix,
    progress_bar,
    report_of,
    show,
    unwritable,
)
from metaspira.outputs import Output, by_suffix, output_for
from metaspira.outputs.building import LEAST_CHORD_ERROR, MOST_CHORD_ERROR, BuildError
from metaspira.parts import AnyPart, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file


def built(options: argparse.Namespace) -> int:
    """Do what `metaspira build` is asked for; the exit status."""
    file: FilePath = options.output
    output = output_for(file.name)
    demand_folder(file)
    chord_error = options.chord_error
    if chord_error is not None and not LEAST_CHORD_ERROR <= chord_error <= MOST_CHORD_ERROR:
        raise RecipeError(
            Problem("", f"a chord error of {options.chord_error} mm is out of range", "use 0.01")
        )
    report = report_of(options.file)
    answer = report.as_dict()
    if report.verdict == "stop":
        if options.json:
            print(json.dumps(answer, ensure_ascii=False, indent=1))
        else:
            show(report)
        print("metaspira: a check says stop; nothing was written", file=sys.stderr)
        return 1
    proof = saved(output, report.part, file, chord_error)
    if options.json:
        print(json.dumps({**answer, "proof": proof}, ensure_ascii=False, indent=1))
    else:
        show(report)
        print(f"{file}: {told(proof)}")
    return 0


def saved(output: Output, part: AnyPart, file: FilePath, chord_error: float | None = None) -> dict[str, Any]:
    """Write a file; what was measured on it. Raises RecipeError."""
    try:
        with progress_bar() as bar:
            task = bar.add_task("starting", total=1.0)
            return output.save(
                part,
                file,
                chord_error,
                lambda share, step: bar.update(task, completed=share, description=step),
            )
    except BuildError as error:
        raise RecipeError(Problem("", f"no solid: {error}", "nothing was written")) from None
    except OSError as error:
        raise RecipeError(unwritable(file, error)) from None


def told(proof: dict[str, Any]) -> str:
    """What was measured on a file, in a line."""
    given = dict(proof)
    error = given.pop("relative_error", None)
    words = [f"{name.replace('_', ' ')} {_said(value)}" for name, value in given.items() if value is not None]
    return ", ".join([*words, *([] if error is None else [f"off the predicted by {error:.1e}"])])


def _said(value: object) -> str:
    return f"{value:.6g}" if isinstance(value, float) else str(value)


def command_for(
    what: str,
) -> tuple[Callable[[argparse.ArgumentParser], None], Callable[[argparse.Namespace], int]]:
    """The arguments and the work of a command that makes one thing, whose keys begin with `what`."""
    formats = by_suffix(what)

    def add_to(parser: argparse.ArgumentParser) -> None:
        parser.add_argument("file", type=FilePath)
        parser.add_argument("-o", "--output", type=FilePath, required=True, help=", ".join(formats))

    def run(options: argparse.Namespace) -> int:
        output: FilePath = options.output
        demand_suffix(output, list(formats))
        part = make_part(read_recipe_file(options.file))
        print(f"{output}: {told(saved(formats[output.suffix], part, output))}")
        return 0

    return add_to, run

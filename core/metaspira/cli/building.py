"""The work of `metaspira build`."""

from __future__ import annotations

import argparse
import json
import sys
from dataclasses import asdict
from pathlib import Path as FilePath
from typing import Any

from metaspira.cli.common import demand_suffix, progress_bar, report_of, show, unwritable
from metaspira.formats import FORMATS
from metaspira.formats.lines import LINES, write_lines
from metaspira.part import AnyPart
from metaspira.problems import Problem, RecipeError
from metaspira.solids.building import (
    LEAST_CHORD_ERROR,
    MOST_CHORD_ERROR,
    BuildError,
    build_files,
)


def built(options: argparse.Namespace) -> int:
    """Do what is asked; the exit status."""
    output: FilePath = options.output
    demand_suffix(output, (*FORMATS, *LINES))
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
    try:
        proof = (
            _written(report.part, output)
            if output.suffix in LINES
            else _with_progress(report.part, output, options.chord_error)
        )
    except BuildError as error:
        raise RecipeError(Problem("", f"no solid: {error}", "nothing was written")) from None
    except OSError as error:
        raise RecipeError(unwritable(output, error)) from None
    if options.json:
        print(json.dumps({**answer, "proof": proof}, ensure_ascii=False, indent=1))
    else:
        show(report)
        if output.suffix in LINES:
            print(
                f"{output}: {proof['length']:.6g} mm read back, off the predicted by {proof['relative_error']:.1e}"
            )
            return 0
        print(
            f"{output}: closed {proof['closed']}, valid {proof['valid']}, volume {proof['volume']:.6g} mm³, "
            f"off the predicted by {proof['relative_error']:.1e}"
        )
    return 0


def _written(part: AnyPart, output: FilePath) -> dict[str, Any]:
    proof = write_lines(part, output)
    return {**asdict(proof), "relative_error": proof.relative_error}


def _with_progress(part: AnyPart, output: FilePath, chord_error: float | None) -> dict[str, object]:
    with progress_bar() as bar:
        task = bar.add_task("starting", total=1.0)
        proofs = build_files(
            part,
            [output],
            chord_error,
            lambda share, step: bar.update(task, completed=share, description=step),
        )
    return proofs[output.suffix]

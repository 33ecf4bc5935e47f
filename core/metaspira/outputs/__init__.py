"""Every file that a part can become. A new one is a module in `files/` that has it in OUTPUTS, and a test
that reads it back."""

from __future__ import annotations

import sys
from functools import cache
from pathlib import Path as FilePath
from typing import Any

from metaspira.numbers.kind import modules_of
from metaspira.outputs import files
from metaspira.outputs.output import Built, Made, Output
from metaspira.parts import AnyPart
from metaspira.problems import Problem, RecipeError

__all__ = [
    "Built",
    "Made",
    "Output",
    "built",
    "by_suffix",
    "ending",
    "listing",
    "made",
    "output_for",
    "outputs",
]


@cache
def outputs() -> dict[str, Output]:
    """All of them, by key, in the order in which they are offered."""
    modules_of(files)
    modules = [module for name, module in sys.modules.items() if name.startswith(f"{files.__name__}.")]
    modules.sort(key=lambda module: (getattr(module, "LISTED", 50), module.__name__))
    return {output.key: output for module in modules for output in module.OUTPUTS}


def built() -> dict[str, Built]:
    """Those that are built, by their suffix."""
    return {output.suffix: output for output in outputs().values() if isinstance(output, Built)}


def by_suffix(what: str) -> dict[str, Output]:
    """Those whose keys begin with `what`, such as “drawing”, by their suffix."""
    return {one.suffix: one for one in outputs().values() if one.key.startswith(f"{what}.")}


def made(key: str) -> Made:
    """One that is made at once. Raises RecipeError where there is none."""
    found = outputs().get(key)
    if isinstance(found, Made):
        return found
    known = ", ".join(output.key for output in outputs().values() if isinstance(output, Made))
    raise RecipeError(Problem("/key", f"“{key[:40]}” is not made here", f"use one of {known}"))


def output_for(name: str) -> Output:
    """What a file of that name is: by the longest key that it ends with, or the first that has its suffix.
    Raises RecipeError."""
    every = sorted(outputs().values(), key=lambda output: -len(output.key))
    found = next((output for output in every if name.endswith(f".{output.key}")), None)
    if found is None:
        found = next((o for o in outputs().values() if name.endswith(o.suffix)), None)
    if found is None:
        raise RecipeError(
            Problem(
                "",
                f"“{name[-80:]}” does not end in a format made here",
                f"use one of {', '.join(outputs())}",
            )
        )
    return found


def ending(file: FilePath) -> str:
    """The suffix of what a file is, as an output has it. Raises RecipeError."""
    return output_for(file.name).suffix


def listing(part: AnyPart) -> list[dict[str, Any]]:
    """What is offered of each output, in order, with the reason where the part cannot become one."""
    return [
        {
            **{name: getattr(output, name) for name in ("key", "what", "title", "use", "suffix", "built")},
            "misfit": output.misfit(part),
        }
        for output in outputs().values()
    ]

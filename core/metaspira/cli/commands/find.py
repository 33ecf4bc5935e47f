"""Springs for a duty, the best first: two loads, the space, the life, the wires."""

from __future__ import annotations

import argparse
import csv
import json
from pathlib import Path as FilePath
from typing import Any

from pydantic import ValidationError

from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import problems_of, read_json_file
from metaspira.studies.find_spring import Answer, Found, Wish, find_springs

_EXAMPLE = (
    '{"kind": "compression", "loads": [{"length": 40, "force": 250}, {"length": 31, "force": 600}], '
    '"bore": 36, "rod": 20, "cycles": 1e7, "peened": true}'
)


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.epilog = f"for example: {_EXAMPLE}"
    parser.add_argument("file", type=FilePath, help="what the spring has to do, JSON")
    parser.add_argument(
        "--stock", type=FilePath, help="wire in stock, CSV: a diameter a line, in the file's unit"
    )
    parser.add_argument("--most", type=int, default=24, help="how many springs beside the front")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Print what was found; 1 where nothing was."""
    data = read_json_file(options.file)
    if not isinstance(data, dict):
        raise RecipeError(
            Problem("", "what a spring has to do is a JSON object", "give it its loads by name")
        )
    if options.stock is not None:
        data |= {"stock": _stock(options.stock)}
    try:
        wish = Wish.model_validate(data)
    except ValidationError as error:
        raise RecipeError(problems_of(error.errors(), data, Wish)) from None
    answer = find_springs(wish, options.most)
    if options.json:
        print(json.dumps(_as_dict(answer), ensure_ascii=False, indent=1))
    else:
        _show(answer)
    return 0 if answer.springs else 1


def _stock(file: FilePath) -> list[float]:
    """The diameters: of each line the first cell that is a number."""
    try:
        rows = list(csv.reader(file.read_text("utf-8-sig").splitlines()))
    except (OSError, UnicodeDecodeError) as error:
        raise RecipeError(Problem("--stock", f"{file} cannot be read", "give a CSV file of text")) from error
    each = (next((number for cell in row if (number := _number(cell)) is not None), None) for row in rows)
    found = [number for number in each if number is not None]
    if not found:
        raise RecipeError(Problem("--stock", f"{file} holds no diameter", "write one a line"))
    return found


def _number(cell: str) -> float | None:
    try:
        return float(cell.strip().replace(",", "."))
    except ValueError:
        return None


def _as_dict(answer: Answer) -> dict[str, Any]:
    return {
        "rate": answer.wish.rate,
        "springs": [vars(found) for found in answer.springs],
        "blocking": [vars(one) for one in answer.blocking],
        "nearest": None if answer.nearest is None else vars(answer.nearest),
    }


def _both(found: Found, name: str, form: str) -> str:
    """A figure, of a pair the outer spring's and the inner one's."""
    each = [one for one in (found, found.inner) if one is not None]
    return " / ".join(format(getattr(one, name), form) for one in each)


def _show(answer: Answer) -> None:
    from rich.console import Console
    from rich.table import Table

    console = Console()
    unit = "N mm/°" if answer.wish.kind == "torsion" else "N/mm"
    console.print(
        f"Both loads set a rate of {answer.wish.rate:.5g} {unit}; {answer.tried} springs were tried."
    )
    if not answer.springs:
        console.print("No spring does that. In the way:")
        for one in answer.blocking:
            console.print(f"  {one.limit}, {100 * one.use:.3g} % of it; it takes {one.free}")
        if not answer.blocking:
            console.print("  no wire of those that are allowed fits there")
        return
    table = Table("wire", "⌀ mm", "mean ⌀ mm", "turns", "mass g", "most used limit", "", box=None)
    for found in answer.springs:
        table.add_row(
            found.wire,
            _both(found, "wire_diameter", "g"),
            _both(found, "mean_diameter", ".5g"),
            _both(found, "turns", ".5g"),
            f"{found.mass:.4g}",
            f"{found.limit}, {100 * found.use:.3g} %",
            "front" if found.front else "",
        )
    console.print(table)

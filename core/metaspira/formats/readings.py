"""Readings of length and force from a table (CSV), and such a table of readings."""

from __future__ import annotations

import csv
import itertools
import re
from collections.abc import Iterable

from metaspira.formats.limited import limited
from metaspira.numbers.measure import FORCE, LENGTH, Dimension, unit, unit_names
from metaspira.numbers.tables import csv_text
from metaspira.problems import Problem, RecipeError

MOST_BYTES = 200_000
_MOST = 600
_SECONDS, _MEMORY = 2.0, 500_000_000
_DELIMITERS = ";\t,"
_HEAD = re.compile(r"^\s*(length|force)\b[\s,\[(]*([A-Za-zµμ_]*)", re.IGNORECASE)
_ASKED = ("length", LENGTH), ("force", FORCE)


def read_readings(data: bytes, units: str | None) -> list[list[float]]:
    """Readings (n, 2) of a table: length, mm, and force, N, from the columns of these names, or the first
    two; `units` are theirs where the first line does not tell, such as “mm N” or “in lbf”. Numbers may have a
    decimal comma where cells are set apart by semicolons or tabs. Raises RecipeError."""
    if len(data) > MOST_BYTES:
        raise RecipeError(Problem("/file", "the table is larger than 200 kB", "keep fewer readings"))
    found: list[list[float]] = limited(_SECONDS, _MEMORY, _read, data, units)
    return found


def _read(data: bytes, units: str | None) -> list[list[float]]:
    rows, delimiter = _rows(data)
    heads = [_HEAD.match(cell) for cell in rows[0]] if rows else []
    named = {head[1].lower(): (k, head[2]) for k, head in enumerate(heads) if head}
    first = 1 if named else 0
    if named and set(named) != {"length", "force"}:
        raise RecipeError(
            Problem(
                "/file", "the first line does not name both columns", "write “length mm” and “force N” in it"
            )
        )
    columns = [named[name][0] for name, _ in _ASKED] if named else [0, 1]
    own = [named[name][1] for name, _ in _ASKED] if named else ["", ""]
    asked = (units or "").split()
    told = [mine or (asked[k] if len(asked) == len(_ASKED) else "") for k, mine in enumerate(own)]
    sizes = [_size(name, dimension) for name, (_, dimension) in zip(told, _ASKED, strict=True)]
    found = [
        [_number(row, k, number, delimiter) * size for k, size in zip(columns, sizes, strict=True)]
        for number, row in enumerate(rows[first:], first + 1)
    ]
    if len(found) > _MOST:
        raise RecipeError(Problem("/file", f"the table has more than {_MOST} readings", "keep fewer"))
    if len({length for length, _ in found}) < 3:
        raise RecipeError(
            Problem(
                "/file", "a made spring is told by readings at three lengths or more", "measure more of them"
            )
        )
    if any(length <= 0 or force < 0 for length, force in found):
        raise RecipeError(
            Problem(
                "/file", "a length is not above nothing, or a force is below it", "write both as positive"
            )
        )
    return found


def readings_csv(readings: Iterable[Iterable[float]]) -> bytes:
    """Readings (n, 2) of length, mm, and force, N, as the table that is read."""
    rows = [[f"{length:.6g}", f"{force:.6g}"] for length, force in readings]
    return csv_text([["length mm", "force N"], *rows]).encode()


def _rows(data: bytes) -> tuple[list[list[str]], str]:
    try:
        lines = [line for line in data.decode("utf-8-sig").splitlines() if line.strip() and line[0] != "#"]
        delimiter = next((one for one in _DELIMITERS if lines and one in lines[0]), ",")
        return list(itertools.islice(csv.reader(lines, delimiter=delimiter), _MOST + 2)), delimiter
    except (UnicodeDecodeError, csv.Error):
        raise RecipeError(
            Problem("/file", "this is no table that can be read", "save it as CSV in UTF-8")
        ) from None


def _size(name: str, dimension: Dimension) -> float:
    if not name:
        raise RecipeError(
            Problem(
                "/unit",
                "the table does not say its units",
                "write “length mm” and “force N” in its first line",
            )
        )
    if name not in unit_names() or unit(name).dimension != dimension:
        what = "length" if dimension == LENGTH else "force"
        raise RecipeError(Problem("/unit", f"“{name}” is no unit of {what} here", "use mm or in, N or lbf"))
    return unit(name).value


def _number(row: list[str], column: int, line: int, delimiter: str) -> float:
    try:
        cell = row[column].strip()
        number = float(cell if delimiter == "," else cell.replace(",", "."))
    except (ValueError, IndexError):
        raise RecipeError(
            Problem("/file", f"row {line} does not hold two numbers", "give a length and a force in each")
        ) from None
    if not abs(number) < 1e6:
        raise RecipeError(Problem("/file", f"row {line} is out of reach", "check its units"))
    return number

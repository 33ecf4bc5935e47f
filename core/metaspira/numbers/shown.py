"""What base units are shown as: millimetres, newtons and megapascals, and beside inches pounds-force and kips
a square inch. As a program, the table of all of them as JSON: by unit of length and base unit, how many base
units one shown unit is, and its name."""

from __future__ import annotations

import json

from metaspira.numbers.measure import unit

LENGTHS = ("mm", "cm", "m", "in")
_POWERS = {"mm": 1, "mm²": 2, "mm³": 3}
_POUNDS = {
    "N": ("lbf", "lbf", 0),
    "N/mm": ("lbf/in", "lbf", -1),
    "N mm": ("lbf in", "lbf", 1),
    "N mm/°": ("lbf in/°", "lbf", 1),
    "MPa": ("ksi", "ksi", 0),
}
"""Beside inches: the name of what is shown, and the unit, times a power of the inch, that it is."""


def unit_shown(base: str, length: str) -> tuple[float, str]:
    """How many of a base unit (mm, mm², mm³, N, N/mm, MPa, …) one of its unit beside a unit of length is, and
    that unit."""
    if base in _POWERS:
        return unit(length).value ** _POWERS[base], length + base[2:]
    if length != "in" or base not in _POUNDS:
        return 1.0, base
    name, own, inches = _POUNDS[base]
    return unit(own).value * unit("in").value ** inches, name


def table() -> dict[str, dict[str, tuple[float, str]]]:
    """Every base unit that is shown as another, by unit of length."""
    return {length: {base: unit_shown(base, length) for base in (*_POWERS, *_POUNDS)} for length in LENGTHS}


if __name__ == "__main__":
    print(json.dumps(table(), ensure_ascii=False, indent=1))

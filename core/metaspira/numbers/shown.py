"""What base units are shown as: millimetres, newtons and megapascals, and beside inches pounds-force and kips
a square inch; masses and volumes by their size. As a program, the table of all of them as JSON: by unit of
length and base unit, from which value on, how many base units one shown unit is, and its name."""

from __future__ import annotations

import json
import re
from typing import Literal, get_args

from metaspira.numbers.measure import unit

LengthUnit = Literal["mm", "cm", "m", "in"]
LENGTHS: tuple[LengthUnit, ...] = get_args(LengthUnit)
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


_BY_SIZE = {
    "g": ((0.0, "mg"), (1.0, "g"), (1e3, "kg")),
    "mm³": ((0.0, "mm³"), (1e5, "cm³"), (1e6, "L")),
}
_SIZES = {"mg": 1e-3, "g": 1.0, "kg": 1e3, "mm³": 1.0, "cm³": 1e3, "L": 1e6}


def units_by_size(base: str, length: str) -> tuple[tuple[float, float, str], ...]:
    """The units of a base unit beside a unit of length: from which value on, how many base units one is, its
    name."""
    if base == "g" and length == "in":
        return ((0.0, unit("lb").value, "lb"),)
    if base not in _BY_SIZE or (base == "mm³" and length != "mm"):
        return ((0.0, *unit_shown(base, length)),)
    return tuple((least, _SIZES[name], name) for least, name in _BY_SIZE[base])


def sized_unit(value: float, base: str, length: str) -> tuple[float, str]:
    """How many of a base unit one of the unit is that a value of this size is shown in, and that unit."""
    rows = units_by_size(base, length)
    fit = (
        [row for row in rows if row[0] <= abs(value)] if value else [r for r in rows if r[2] == base] or rows
    )
    return fit[-1][1:]


def number_shown(value: float, digits: int = 5) -> str:
    """A number with that many digits that count, and never as a power of ten where it is large."""
    told = f"{value:.{digits}g}"
    return f"{value:.0f}" if "e+" in told else told


def quantity_shown(value: float, base: str, length: str, digits: int = 5) -> str:
    """A value in a base unit, beside a unit of length, in the unit that its size is shown in."""
    size, name = sized_unit(value, base, length)
    return f"{number_shown(value / size, digits)}{'' if name == '°' else ' '}{name}".rstrip()


_NUMBER = r"[-+−]?\d+(?:\.\d+)?(?:e[-+]?\d+)?"
_SAID = re.compile(
    rf"“[^”]*”|(?<![\w.])(?P<numbers>{_NUMBER}(?:(?: to | and | or |, | × | … ){_NUMBER})*)"
    r" (?P<unit>N mm/°|N mm|N/mm|N|MPa|mm[²³]?)(?![\w/°²³])"
)
_LEAST_DIGITS = 4


def sentence_shown(sentence: str, length: str) -> str:
    """A sentence in base units, its numbers in those that are shown beside a unit of length, with as many
    digits, or four; what it quotes stays."""

    def told(found: re.Match[str]) -> str:
        if found["unit"] is None:
            return found.group()
        size, name = unit_shown(found["unit"], length)
        numbers = re.sub(_NUMBER, lambda one: _in_digits(one.group(), size), found["numbers"])
        return f"{numbers} {name}"

    return sentence if length == "mm" else _SAID.sub(told, sentence)


def _in_digits(text: str, size: float) -> str:
    digits = len(text.split("e")[0].lstrip("-+−0.").replace(".", ""))
    value = float(text.replace("−", "-")) / size
    sign = "+" if text.startswith("+") else ""
    told = f"{value:{sign}.{max(digits, _LEAST_DIGITS)}g}"
    return told.replace("-", "−", 1) if text.startswith("−") else told


def table() -> dict[str, dict[str, tuple[tuple[float, float, str], ...]]]:
    """Every base unit that is shown as another, by unit of length."""
    bases = (*_POWERS, *_POUNDS, "g")
    return {length: {base: units_by_size(base, length) for base in bases} for length in LENGTHS}


if __name__ == "__main__":
    print(json.dumps(table(), ensure_ascii=False, indent=1))

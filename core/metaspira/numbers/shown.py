"""What base units are shown as: millimetres, newtons and megapascals, and beside inches pounds-force and kips
a square inch. As a program, the table of all of them as JSON: by unit of length and base unit, how many base
units one shown unit is, and its name."""

from __future__ import annotations

import json
import re

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


_GRAMS = ((1e3, "kg"), (1.0, "g"), (1e-3, "mg"))
_POUND = 453.59237


def number_shown(value: float, digits: int = 5) -> str:
    """A number with that many digits that count, and never as a power of ten where it is large."""
    told = f"{value:.{digits}g}"
    return f"{value:.0f}" if "e+" in told else told


def quantity_shown(value: float, base: str, length: str, digits: int = 5) -> str:
    """A value in a base unit, beside a unit of length, with its unit. A mass, in g, is in mg, g or kg, and
    beside inches in pounds."""
    if base == "g":
        size, name = (_POUND, "lb") if length == "in" else _of_grams(value)
    else:
        size, name = unit_shown(base, length)
    return f"{number_shown(value / size, digits)}{'' if name == '°' else ' '}{name}".rstrip()


def _of_grams(value: float) -> tuple[float, str]:
    return next((row for row in _GRAMS if abs(value) >= row[0]), _GRAMS[-1] if value else _GRAMS[1])


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


def table() -> dict[str, dict[str, tuple[float, str]]]:
    """Every base unit that is shown as another, by unit of length."""
    return {length: {base: unit_shown(base, length) for base in (*_POWERS, *_POUNDS)} for length in LENGTHS}


if __name__ == "__main__":
    print(json.dumps(table(), ensure_ascii=False, indent=1))

"""A recipe's fields in words."""

from __future__ import annotations

from metaspira.numbers.fields import Quantity
from metaspira.recipe.fields import Parts

_UNSAID = ("path", "along", "thread")


def field_words(parts: Parts) -> str:
    """A field in words: “pitch”, “section height”, “size to”, “twist point 2”."""
    words = [
        str(word).replace("_", " ")
        for word in (parts[1:] if parts[0] in _UNSAID and len(parts) > 1 else parts)
    ]
    if "points" in words:
        at = words.index("points")
        index, rest = words[at + 1 : at + 2], [word for word in words[at + 2 :] if not word.isdecimal()]
        counted = (str(int(word) + 1) if word.isdecimal() else word for word in index)
        words = [*words[:at], "point", *counted, *rest]
    return " ".join(words)


def unit_words(quantity: Quantity, unit: str) -> str:
    """What a plain number of a quantity counts in, to stand behind it; `unit` is the recipe's of length."""
    return {
        "length": f" {unit}",
        "angle": "°",
        "force": " N",
        "torque": " N mm",
        "stress": " MPa",
        "mass": " g",
    }.get(quantity.kind, "")

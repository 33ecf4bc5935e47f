"""Spring wire: least strength by diameter and moduli by temperature, of the standards and of one's own."""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Literal

from metaspira.materials import MaterialName

_COLD = 20.0


@dataclass(frozen=True)
class SpringWire:
    """A kind of wire: `law` says how `rows` give the least tensile strength (see `data/wires.json`), MPa; diameters
    `least` to `most` in mm; moduli `E` and `G` in MPa at 20 °C, of which a share `softening` is lost for each
    kelvin; `life` names its row of fatigue shares; `material` gives density and colour; a strip's
    diameter is its thickness."""

    name: str
    title: str
    standard: str
    law: Literal["logarithm", "power", "steps", "constant"]
    rows: tuple[tuple[float, ...], ...]
    least: float
    most: float
    E: float
    G: float
    softening: float
    life: Literal["drawn", "tempered"]
    material: MaterialName
    source: str
    form: Literal["wire", "strip"] = "wire"

    def strength(self, diameter: float) -> float:
        """Least tensile strength, MPa, of a wire of a diameter, mm; beyond its range that of the nearest one."""
        d = min(max(diameter, self.least), self.most)
        if self.law == "constant":
            return self.rows[0][0]
        if self.law == "logarithm":
            a, b = self.rows[0]
            return a - b * math.log10(d)
        row = next((row for row in self.rows if d <= row[0] + 1e-9), self.rows[-1])
        return row[1] if self.law == "steps" else row[1] / d ** row[2]

    def has(self, diameter: float) -> bool:
        """Whether it is made in a diameter, mm."""
        return self.least - 1e-9 <= diameter <= self.most + 1e-9

    def shear_modulus(self, temperature: float) -> float:
        """MPa at a temperature, °C."""
        return self.G * (1 - self.softening * (temperature - _COLD))

    def elastic_modulus(self, temperature: float) -> float:
        """MPa at a temperature, °C."""
        return self.E * (1 - self.softening * (temperature - _COLD))


@cache
def wires() -> dict[str, SpringWire]:
    """Every wire that is kept here, by its name."""
    text = resources.files(__package__).joinpath("data/wires.json").read_text("utf-8")
    return {
        row["name"]: SpringWire(**{**row, "rows": tuple(tuple(values) for values in row["rows"])})
        for row in json.loads(text)["wires"]
    }

"""Spring wire: least strength by diameter and moduli by temperature, of the standards and of one's own."""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Literal

import numpy as np

from metaspira.materials import MaterialName

_COLD = 20.0


@dataclass(frozen=True)
class SpringWire:
    """A kind of wire: `law` says how `rows` give the least tensile strength (see `data/wires.json`), MPa;
    diameters `least` to `most` in mm; moduli `E` and `G` in MPa at 20 °C, of which a share `softening` is
    lost for each kelvin, up to a service temperature of `hottest` °C where one is known; `life` names its
    row of fatigue shares; `material` gives density and colour; a strip's diameter is its thickness.
    `tolerances` are (up to, ±) of the diameter, mm; `moduli` are (up to, E, G) where they go by the
    diameter."""

    name: str
    title: str
    standard: str
    law: Literal["logarithm", "power", "points", "steps", "constant"]
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
    hottest: float | None = None
    tolerances: tuple[tuple[float, float], ...] = ()
    moduli: tuple[tuple[float, float, float], ...] = ()

    def tolerance(self, diameter: float) -> float:
        """± of its diameter, mm, by its standard; none where none is kept."""
        return next((either for most, either in self.tolerances if diameter <= most + 1e-9), 0.0)

    def strength(self, diameter: float) -> float:
        """Least tensile strength, MPa, of a wire of a diameter, mm; beyond its range that of the nearest
        one."""
        d = min(max(diameter, self.least), self.most)
        if self.law == "constant":
            return self.rows[0][0]
        if self.law == "logarithm":
            a, b, *most = self.rows[0]
            return min([a - b * math.log10(d), *most])
        if self.law == "points":
            sizes, strengths = zip(*self.rows, strict=True)
            return math.exp(np.interp(math.log(d), np.log(sizes), np.log(strengths)))
        row = next((row for row in self.rows if d <= row[0] + 1e-9), self.rows[-1])
        return row[1] if self.law == "steps" else row[1] / d ** row[2]

    def has(self, diameter: float) -> bool:
        """Whether it is made in a diameter, mm."""
        return self.least - 1e-9 <= diameter <= self.most + 1e-9

    def cold_moduli(self, diameter: float) -> tuple[float, float]:
        """E and G, MPa, at 20 °C of a wire of a diameter, mm."""
        rows = (pair[1:] for pair in self.moduli if diameter <= pair[0] + 1e-9)
        return next(rows, self.moduli[-1][1:] if self.moduli else (self.E, self.G))

    def shear_modulus(self, diameter: float, temperature: float) -> float:
        """MPa of a wire of a diameter, mm, at a temperature, °C."""
        return self.cold_moduli(diameter)[1] * (1 - self.softening * (temperature - _COLD))

    def elastic_modulus(self, diameter: float, temperature: float) -> float:
        """MPa of a wire of a diameter, mm, at a temperature, °C."""
        return self.cold_moduli(diameter)[0] * (1 - self.softening * (temperature - _COLD))


@cache
def wires() -> dict[str, SpringWire]:
    """Every wire that is kept here, by its name."""
    kept = json.loads(resources.files(__package__).joinpath("data/wires.json").read_text("utf-8"))

    def table(rows: list[list[float]]) -> tuple[tuple[float, ...], ...]:
        return tuple(tuple(values) for values in rows)

    return {
        row["name"]: SpringWire(
            **{**row, "rows": table(row["rows"]), "moduli": table(row.get("moduli", []))},
            tolerances=table(kept["tolerances"].get(row["standard"], [])),  # type: ignore[arg-type]
        )
        for row in kept["wires"]
    }

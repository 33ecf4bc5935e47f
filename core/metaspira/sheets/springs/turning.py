"""The data sheet of springs that turn: of wound wire, and of strip wound up."""

from __future__ import annotations

from metaspira.parts import Part
from metaspira.sheets.sheet import Row, Section
from metaspira.sheets.springs.common import SpringSheet, exact, made, mm, relaxed, scatter
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion
from metaspira.springs.turning import Turned, Turning


def torsion(part: Part, spring: Torsion) -> SpringSheet:
    """Of wound wire."""
    rows = [_load(point, f"; inside {mm(spring.inside_diameter(point.angle))}") for point in spring.points]
    loads = Section("Loads and rate", (*rows, _rate(spring), *exact(spring), _most(spring), *relaxed(spring)))
    sections = (*made(part, spring), loads, *scatter(spring))
    return SpringSheet("Torsion spring, data sheet", "EN 13906-3", sections)


def spiral(part: Part, spring: Spiral) -> SpringSheet:
    """Of strip wound up."""
    solid = Row("Solid on its arbor", f"at {spring.solid_angle:.4g}°", f"arbor {mm(spring.arbor)}")
    rows = [_load(point) for point in spring.points]
    loads = Section("Loads and rate", (*rows, _rate(spring), _most(spring), solid, *relaxed(spring)))
    held = (Row("Outer end", spring.asked.outer),)
    sections = (*made(part, spring, held=held), loads)
    return SpringSheet("Spiral spring, data sheet", "Wahl and EN 13906-3", sections)


def _load(point: Turned, inside: str = "") -> Row:
    used = f"{100 * point.utilisation:.3g} % of 0.7 Rm"
    stress = f"{point.stress:.4g} MPa, corrected {point.corrected:.4g} MPa; {used}{inside}"
    return Row(f"At {point.angle:.5g}°", f"{point.torque:.4g} N mm", stress)


def _rate(spring: Turning) -> Row:
    formula = "E I / L" if spring.give == 1 else f"E I / ({spring.give:.4g} L)"
    return Row("Rate", f"{spring.rate:.4g} N mm/°", formula)


def _most(spring: Turning) -> Row:
    at = f"0.7 Rm, at {spring.most_torque / spring.rate:.4g}°"
    return Row("Most torque", f"{spring.most_torque:.4g} N mm", at)

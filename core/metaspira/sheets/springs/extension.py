"""The data sheet of springs that pull."""

from __future__ import annotations

from metaspira.parts import Part
from metaspira.sheets.sheet import Row, Section
from metaspira.sheets.springs.common import SpringSheet, exact, made, mm, relaxed, scatter
from metaspira.springs.extension import Extension


def pulling(part: Part, spring: Extension) -> SpringSheet:
    lengths = (Row("Free length, L0", mm(spring.free_length), "inside its hooks"),)
    sections = (*made(part, spring, lengths), _pulls(spring), _body_limits(spring), *scatter(spring))
    hooks = "hooks after Shigley" if spring.shape.round else "wire and hooks by exact elasticity"
    return SpringSheet("Extension spring, data sheet", f"EN 13906-2, {hooks}", sections)


def _pulls(spring: Extension) -> Section:
    rows = [
        Row(
            f"At {mm(point.length)}",
            f"{point.force:.4g} N",
            (
                f"{point.stress:.4g} MPa, corrected {point.corrected:.4g} MPa; "
                f"{100 * point.utilisation:.3g} % of 0.45 Rm"
            ),
        )
        for point in spring.points
    ]
    return Section(
        "Loads and rate",
        (
            Row(
                "Initial tension, F0",
                f"{spring.initial:.4g} N",
                f"{spring.most_initial:.4g} N can be wound",
            ),
            *rows,
            Row(
                "Rate, R",
                f"{spring.rate:.4g} N/mm",
                "G d⁴ / (8 D³ n)" if spring.shape.round else "a turn over n, by its exact elasticity",
            ),
            *exact(spring),
            *relaxed(spring),
        ),
    )


def _body_limits(spring: Extension) -> Section:
    stresses = spring.hook_stresses(spring.worst_effort)
    hooks = (
        "it has none" if stresses is None else f"bending {stresses[0]:.4g} MPa, torsion {stresses[1]:.4g} MPa"
    )
    bent, twisted = spring.allowed_hook
    return Section(
        "Limits",
        (
            Row("Most force of the body", f"{spring.most_force:.4g} N", "0.45 Rm"),
            Row("Hooks at the largest load", hooks, f"{bent:.4g} and {twisted:.4g} MPa allowed"),
        ),
    )

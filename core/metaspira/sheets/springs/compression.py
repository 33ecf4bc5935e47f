"""The data sheet of springs that push, one or several in one another."""

from __future__ import annotations

from dataclasses import replace

from metaspira.drawings.told import is_ground
from metaspira.numbers.shown import number_shown
from metaspira.parts import Part
from metaspira.sheets.sheet import Row, Section
from metaspira.sheets.springs.common import SpringSheet, exact, made, mm, relaxed, scatter
from metaspira.springs.compression import Compression, Pushing
from metaspira.springs.fatigue import life_of
from metaspira.springs.nested import Nested
from metaspira.springs.tolerance import tolerances_of

_STANDARDS = "EN 13906-1 and EN 15800"


def alone(part: Part, spring: Compression) -> SpringSheet:
    """Of one by itself."""
    sections = (*_pushing(part, spring), *scatter(spring))
    return SpringSheet("Compression spring, data sheet", _STANDARDS, sections, _finish(spring))


def nested(part: Part, spring: Nested) -> SpringSheet:
    """Of several in one another."""
    sections = (_shared(part, spring), *_of_each(part, spring))
    title = "Compression springs one in the other, data sheet"
    return SpringSheet(title, _STANDARDS, sections, _finish(spring))


def _finish(spring: Pushing) -> str:
    return "shot-peened" if spring.asked.peened else "none asked for"


def _pushing(part: Part, spring: Compression) -> tuple[Section, ...]:
    grown = f"{mm(spring.outside_diameter(spring.deflection_to_block))} at solid length"
    lengths = (
        Row("Free length, L0", mm(spring.free_length)),
        Row("Solid length, Lc", mm(spring.solid_length)),
    )
    return (
        *made(part, spring, lengths, grown),
        _loads(part, spring),
        _tolerances(part, spring),
        _limits(spring),
    )


def _of_each(part: Part, spring: Nested) -> tuple[Section, ...]:
    """The sections of each spring of a nest, with its name."""
    named = zip(part.bodies, part.members, spring.members, strict=True)
    return tuple(
        replace(section, title=f"{section.title}, {body.name}")
        for body, member, one in named
        for section in _pushing(member, one)
    )


def _shared(part: Part, spring: Nested) -> Section:
    """What the springs of a nest do together."""
    rows = [
        Row(
            f"At {mm(point.length)}",
            f"{point.force:.4g} N",
            ", ".join(
                f"{body.name} {force:.4g} N"
                for body, force in zip(part.bodies, spring.forces(point.length), strict=True)
            ),
        )
        for point in spring.points
    ]
    return Section(
        "Loads of the nest",
        (
            *rows,
            Row("Free length", mm(spring.free_length), "the longest spring"),
            Row("At solid length", f"{spring.block_force:.4g} N", f"at {mm(spring.solid_length)}"),
            Row("Rate", f"{spring.rate:.4g} N/mm", "from 30 to 70 % of the way to solid length"),
        ),
    )


def _loads(part: Part, spring: Compression) -> Section:
    found = tolerances_of(spring)
    allowed = [f" ± {force:.3g} N" for force in found.forces] if found else [""] * len(spring.points)
    rows = [
        Row(
            f"At {mm(point.length)}",
            f"{point.force:.4g} N{allowance}",
            (
                f"{point.stress:.4g} MPa, corrected {point.corrected:.4g} MPa; "
                f"{100 * point.utilisation:.3g} % of 0.5 Rm"
            ),
        )
        for point, allowance in zip(spring.points, allowed, strict=True)
    ]
    return Section(
        "Loads and rate",
        (
            *rows,
            Row("At solid length", f"{spring.block_force:.4g} N", f"{spring.block.stress:.4g} MPa"),
            Row("Rate, R", f"{spring.rate:.4g} N/mm", spring.rules_named),
            *_as_drawn(spring),
            *exact(spring),
            *relaxed(spring),
        ),
    )


def _as_drawn(spring: Compression) -> tuple[Row, ...]:
    """What the contact of the drawn turns makes of rate and loads, where the figures are the standard's."""
    drawn = spring.drawn
    if drawn is None:
        return ()
    loads = ", ".join(f"{drawn.at_length(point.length).force:.4g} N" for point in spring.points)
    rate = Row("As drawn, rate", f"{drawn.rate:.4g} N/mm", "contact of its turns, 30 to 70 % of its travel")
    return (rate, Row("As drawn, at the same lengths", loads)) if loads else (rate,)


def _tolerances(part: Part, spring: Compression) -> Section:
    found = tolerances_of(spring)
    if found is None:
        return Section(
            "Tolerances", (Row("By agreement", "EN 15800 speaks of cylinders of round wire alone"),)
        )
    of_diameter = (
        "by agreement: outside the standard's table" if found.diameter is None else f"± {mm(found.diameter)}"
    )
    return Section(
        f"Tolerances, grade {spring.asked.grade}",
        (
            Row("Free length", f"± {mm(found.free_length)}"),
            Row("Coil diameter", of_diameter, "outside, mean or inside"),
            *(
                (
                    Row("Squareness, e1", mm(found.square), "ground ends"),
                    Row("Parallelism, e2", mm(found.parallel), "ground ends"),
                )
                if is_ground(part)
                else ()
            ),
        ),
    )


def _limits(spring: Compression) -> Section:
    life = life_of(spring)
    buckles = (
        "not before solid length" if spring.buckling is None else f"at {mm(spring.buckling)} of deflection"
    )
    return Section(
        "Limits",
        (
            Row("Least sum of gaps", mm(spring.least_gaps)),
            Row("Buckles", buckles, f"seats: {spring.asked.seat}"),
            Row("Natural frequency", f"{spring.frequency:.4g} Hz"),
            Row(
                "Life",
                "none asked for"
                if life is None
                else f"{number_shown(life.cycles)} cycles, {100 * life.utilisation:.3g} % used",
                "" if life is None else "Goodman's line",
            ),
        ),
    )

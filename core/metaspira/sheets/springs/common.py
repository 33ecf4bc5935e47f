"""What stands on the data sheet of every spring."""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.numbers.shown import quantity_shown
from metaspira.parts import Part
from metaspira.sheets.sheet import Row, Section
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.compression import Compression
from metaspira.springs.exact import exact_of
from metaspira.springs.extension import Extension
from metaspira.springs.made import made_of
from metaspira.springs.scatter import Spread, scatter_of
from metaspira.springs.torsion import Torsion
from metaspira.springs.working import WorkedPoint

_END_WORDS = {"ground": "ground", "flat": "cut", "dome": "domed", "point": "pointed", "open": "open"}


@dataclass(frozen=True)
class SpringSheet:
    """What is told of a kind of spring: what it is called, by which standards, section by section, and its
    finish."""

    title: str
    standards: str
    sections: tuple[Section, ...]
    finish: str = "none asked for"


def mm(value: float) -> str:
    return f"{value:.5g} mm"


def made(
    part: Part,
    spring: AnySpring,
    lengths: tuple[Row, ...] = (),
    grown: str = "",
    held: tuple[Row, ...] = (),
) -> tuple[Section, ...]:
    """What it is made as: its sizes with its `lengths`, `grown` saying how wide it gets; its wire; and its
    ends, and how they are `held`."""
    return _dimensions(part, spring, lengths, grown), _wire(part, spring), _ends(part, held)


def _dimensions(part: Part, spring: AnySpring, lengths: tuple[Row, ...], grown: str) -> Section:
    shape = spring.shape
    least, most = (2 * radius for radius in spring.turns.radius.extremes())
    mean = sorted({round(diameter, 3) for diameter in (least, most)})
    inside, outside = least - shape.width, most + shape.width
    return Section(
        "Dimensions",
        (
            Row("Wire diameter, d", mm(shape.width))
            if shape.round
            else Row("Wire, width by height", f"{mm(shape.width)} by {mm(shape.height)}"),
            Row("Mean diameter, D", " … ".join(mm(m) for m in mean)),
            Row("Outside diameter", mm(outside), grown),
            Row("Inside diameter", mm(inside)),
            *lengths,
            Row("Turns in all", f"{spring.turns.turns:.5g}"),
            Row("Active turns, n", f"{spring.active:.4g}"),
            Row("Spring index, w", f"{spring.index:.4g}"),
            Row("Bore and rod", _fit(part)),
        ),
    )


def _fit(part: Part) -> str:
    fit = part.recipe.fit
    bore = "no bore" if fit.bore is None else f"bore {mm(fit.bore)}"
    rod = "no rod" if fit.rod is None else f"rod {mm(fit.rod)}"
    return f"{bore}, {rod}"


def _wire(part: Part, spring: AnySpring) -> Section:
    return Section(
        "Wire",
        (
            Row("Wire", spring.wire.name, spring.wire.title),
            Row("Least tensile strength", f"{spring.strength:.4g} MPa", _strength_source(spring)),
            Row(*_modulus(spring), f"at {spring.asked.temperature:g} °C"),
            Row("Developed length", mm(part.sweep.wire_length)),
            Row(
                "Mass",
                quantity_shown(part.volume * part.material.density, "g", part.typed.unit, 4),
                part.material.name,
            ),
        ),
    )


def _strength_source(spring: AnySpring) -> str:
    left = spring.asked.strength_left
    warm = "" if left == 100 else f"; {left:g} % of it left at {spring.asked.temperature:g} °C, as typed"
    return spring.wire.source + warm


def _modulus(spring: AnySpring) -> tuple[str, str]:
    """That which it works by."""
    if spring.asked.bends:
        return "Elastic modulus", f"{spring.elastic_modulus:.6g} MPa"
    return "Shear modulus", f"{spring.shear_modulus:.5g} MPa"


def _ends(part: Part, held: tuple[Row, ...]) -> Section:
    recipe = part.recipe
    first, last = recipe.path.closed_counts
    rows = []
    for name, end, count in (("Start", recipe.ends.start, first), ("End", recipe.ends.end, last)):
        shape = _END_WORDS.get(end.kind, end.kind) if end else "cut"
        wound = f"closed, {count:g} {'turn' if count == 1 else 'turns'}" if count else "open"
        rows.append(Row(name, f"{wound}, {shape}"))
    hand = getattr(recipe.path, "hand", "right")
    legs = recipe.path.legs
    hooks = [
        Row(f"{name}, leg", ", ".join(leg.word for leg in own))
        for name, own in (("Start", legs.start if legs else ()), ("End", legs.end if legs else ()))
        if own
    ]
    return Section("Ends and hand", (*rows, *hooks, *held, Row("Hand", hand)))


def exact(spring: Compression | Extension | Torsion) -> tuple[Row, ...]:
    """What the exact elasticity of a turn makes of rate and stress."""
    found = exact_of(spring)
    stress = ", ".join(f"{load.stress:.4g} MPa" for load in found.loads)
    place, effort = spring.units
    rate = Row("Exact, rate", f"{found.rate:.4g} {effort}/{place}", f"a turn in elasticity, {found.ends}")
    hooks = ", ".join(f"{hook.stress:.4g} MPa" for hook in found.hooks)
    bends = ", ".join(f"{hook.shear:.4g} MPa" for hook in found.hooks)
    rows = (
        (f"Exact, greatest {found.stress} at the loads", stress),
        ("Exact, bending in the hooks", hooks),
        ("Exact, torsion in the hooks", bends),
    )
    return (rate, *(Row(title, told) for title, told in rows if told))


def relaxed(spring: AnySpring) -> tuple[Row, ...]:
    """What is left of its loads after relaxation."""
    lost, (_, effort) = spring.asked.relaxation, spring.units
    points: tuple[WorkedPoint, ...] = spring.points
    left = ", ".join(f"{point.effort * spring.left:.4g} {effort}" for point in points)
    return (Row("After relaxation", left, f"{lost:.3g} % of the load is lost"),) if lost and left else ()


def scatter(spring: AnySpring) -> tuple[Section, ...]:
    """What its tolerances come to, where they are carried through, and its maker or a standard tells some."""
    carried = made_of(spring)
    if carried is None or not carried.known:
        return ()
    found = scatter_of(spring)
    kept = [
        Row(f"{one.title} ± {_in(one.unit, f'{one.either:.3g}')}", f"{100 * one.cost:.3g} %", one.source)
        for one in found.kept
    ]
    spreads = [
        Row(
            one.title if one.at is None else f"{one.title} at {_in(one.at_unit, f'{one.at:.5g}')}",
            f"{one.random[0]:.4g} … {one.random[1]:.4g} {one.unit}",
            f"worst case {one.worst[0]:.4g} … {one.worst[1]:.4g}{_held(one)}",
        )
        for one in found.spreads
    ]
    scattered = "rate" if found.within is None else "load that binds"
    return (
        Section(f"What 99.73 % of the springs do, of {found.made:,} made at random", tuple(spreads)),
        Section(f"What each tolerance costs of the scatter of the {scattered}", tuple(kept)),
    )


def _in(unit: str, value: str) -> str:
    """A value with its unit."""
    return f"{value}°" if unit == "°" else f"{value} {unit}".rstrip()


def _held(spread: Spread) -> str:
    if spread.limits is None or spread.within is None:
        return ""
    return f"; {100 * spread.within:.4g} % within ± {spread.limits[1] - spread.value:.3g}"

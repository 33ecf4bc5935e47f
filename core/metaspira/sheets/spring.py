"""The data sheet of a spring, in the trade's usual order: dimensions, wire, ends, hand, loads, rate,
tolerances, finish, notes."""

from __future__ import annotations

from dataclasses import replace

from metaspira.drawings.diagram import diagram
from metaspira.drawings.told import is_ground
from metaspira.numbers.shown import number_shown, quantity_shown
from metaspira.parts import Part
from metaspira.paths.coil import Coil
from metaspira.sheets.composed import sheet
from metaspira.sheets.sheet import Row, Section, Sheet
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.asked import SpiralSpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.fatigue import life_of
from metaspira.springs.nested import Nested
from metaspira.springs.scatter import Spread, scatter_of, scatters
from metaspira.springs.spiral import Spiral
from metaspira.springs.tolerance import tolerances_of
from metaspira.springs.torsion import Torsion
from metaspira.springs.turning import Turning

_END_WORDS = {"ground": "ground", "flat": "cut", "dome": "domed", "point": "pointed", "open": "open"}


def spring_sheet(part: Part, spring: AnySpring) -> Sheet:
    """The data sheet of a part that is a spring."""
    finish = "none asked for"
    if isinstance(spring, Extension):
        title, standards = "Extension spring, data sheet", "EN 13906-2, hooks after Shigley"
        sections = (*_made(part, spring), _pulls(part, spring), _body_limits(spring))
    elif isinstance(spring, Spiral):
        title, standards = "Spiral spring, data sheet", "Wahl and EN 13906-3"
        sections = (*_made(part, spring), _turns(spring))
    elif isinstance(spring, Torsion):
        title, standards = "Torsion spring, data sheet", "EN 13906-3"
        sections = (*_made(part, spring), _turns(spring))
    else:
        title, standards = "Compression spring, data sheet", "EN 13906-1 and EN 15800"
        finish = "shot-peened" if spring.asked.peened else finish
        if isinstance(spring, Nested):
            title = "Compression springs one in the other, data sheet"
            sections = (_shared(part, spring), *_of_each(part, spring))
        else:
            sections = (*_pushing(part, spring), *_scatter(spring))
    notes = Section("Notes", (Row("Note", part.recipe.note or "none"), Row("Finish", finish)))
    return sheet(
        part,
        title,
        (*sections, notes),
        (diagram(spring, part.typed.unit),),
        f"Formulas of {standards}; strengths and tolerances not checked against the printed standards.",
    )


def _made(part: Part, spring: AnySpring) -> tuple[Section, ...]:
    """What it is made as."""
    return _dimensions(part, spring), _wire(part, spring), _ends(part)


def _pushing(part: Part, spring: Compression) -> tuple[Section, ...]:
    return *_made(part, spring), _loads(part, spring), _tolerances(part, spring), _limits(spring)


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
            f"At {_mm(point.length)}",
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
            Row("Free length", _mm(spring.free_length), "the longest spring"),
            Row("At block", f"{spring.block_force:.4g} N", f"at {_mm(spring.solid_length)}"),
            Row("Rate", f"{spring.rate:.4g} N/mm", "from 30 to 70 % of the way to block"),
        ),
    )


def _mm(value: float) -> str:
    return f"{value:.5g} mm"


def _dimensions(part: Part, spring: AnySpring) -> Section:
    shape = spring.shape
    least, most = (2 * radius for radius in spring.turns.radius.extremes())
    mean = sorted({round(diameter, 3) for diameter in (least, most)})
    inside, outside = least - shape.width, most + shape.width
    grown = ""
    length: tuple[Row, ...] = ()
    if isinstance(spring, Compression):
        grown = f"{_mm(spring.outside_diameter(spring.deflection_to_block))} at block"
        length = (
            Row("Free length, L0", _mm(spring.free_length)),
            Row("Length at block, Lc", _mm(spring.solid_length)),
        )
    elif isinstance(spring, Extension):
        length = (Row("Free length, L0", _mm(spring.free_length), "inside its hooks"),)
    return Section(
        "Dimensions",
        (
            Row("Wire diameter, d", _mm(shape.width))
            if shape.round
            else Row("Wire, width by height", f"{_mm(shape.width)} by {_mm(shape.height)}"),
            Row("Mean diameter, D", " … ".join(_mm(m) for m in mean)),
            Row("Outside diameter", _mm(outside), grown),
            Row("Inside diameter", _mm(inside)),
            *length,
            Row("Turns in all", f"{spring.turns.turns:.5g}"),
            Row("Active turns, n", f"{spring.active:.4g}"),
            Row("Spring index, w", f"{spring.index:.4g}"),
            Row("Bore and rod", _fit(part)),
        ),
    )


def _fit(part: Part) -> str:
    fit = part.recipe.fit
    bore = "no bore" if fit.bore is None else f"bore {_mm(fit.bore)}"
    rod = "no rod" if fit.rod is None else f"rod {_mm(fit.rod)}"
    return f"{bore}, {rod}"


def _wire(part: Part, spring: AnySpring) -> Section:
    return Section(
        "Wire",
        (
            Row("Wire", spring.wire.name, spring.wire.title),
            Row("Least tensile strength", f"{spring.strength:.4g} MPa", spring.wire.source),
            Row(*_modulus(spring), f"at {spring.asked.temperature:g} °C"),
            Row("Developed length", _mm(part.sweep.wire_length)),
            Row(
                "Mass",
                quantity_shown(part.volume * part.material.density, "g", part.typed.unit, 4),
                part.material.name,
            ),
        ),
    )


def _modulus(spring: AnySpring) -> tuple[str, str]:
    """That which it works by."""
    if isinstance(spring, Turning):
        return "Elastic modulus", f"{spring.elastic_modulus:.6g} MPa"
    return "Shear modulus", f"{spring.shear_modulus:.5g} MPa"


def _ends(part: Part) -> Section:
    recipe = part.recipe
    closed = recipe.path.closed if isinstance(recipe.path, Coil) else None
    rows = []
    for name, end, count in (
        ("Start", recipe.ends.start, closed.start if closed else 0.0),
        ("End", recipe.ends.end, closed.end if closed else 0.0),
    ):
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
    held = (Row("Outer end", recipe.spring.outer),) if isinstance(recipe.spring, SpiralSpring) else ()
    return Section("Ends and hand", (*rows, *hooks, *held, Row("Hand", hand)))


def _pulls(part: Part, spring: Extension) -> Section:
    rows = [
        Row(
            f"At {_mm(point.length)}",
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
            Row("Rate, R", f"{spring.rate:.4g} N/mm", "G d⁴ / (8 D³ n)"),
            *_exact(spring),
        ),
    )


def _turns(spring: Turning) -> Section:
    rows = [
        Row(
            f"At {point.angle:.5g}°",
            f"{point.torque:.4g} N mm",
            (
                f"{point.stress:.4g} MPa, corrected {point.corrected:.4g} MPa; "
                f"{100 * point.utilisation:.3g} % of 0.7 Rm"
            )
            + (f"; inside {_mm(spring.inside_diameter(point.angle))}" if isinstance(spring, Torsion) else ""),
        )
        for point in spring.points
    ]
    most = Row(
        "Most torque",
        f"{spring.most_torque:.4g} N mm",
        f"0.7 Rm, at {spring.most_torque / spring.rate:.4g}°",
    )
    rate = Row(
        "Rate", f"{spring.rate:.4g} N mm/°", "E I / L" if spring.give == 1 else f"E I / ({spring.give:.4g} L)"
    )
    solid = (
        (Row("Solid on its arbor", f"at {spring.solid_angle:.4g}°", f"arbor {_mm(spring.arbor)}"),)
        if isinstance(spring, Spiral)
        else ()
    )
    exact = _exact(spring) if isinstance(spring, Torsion) else ()
    return Section("Loads and rate", (*rows, rate, *exact, most, *solid))


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


def _exact(spring: Compression | Extension | Torsion) -> tuple[Row, ...]:
    """What the exact elasticity of a turn makes of rate and stress."""
    from metaspira.springs.exact import exact_of

    found = exact_of(spring)
    stress = ", ".join(f"{load.stress:.4g} MPa" for load in found.loads)
    turns = isinstance(spring, Torsion)
    rate = Row(
        "Exact, rate",
        f"{found.rate:.4g} {'N mm/°' if turns else 'N/mm'}",
        "a turn in elasticity, " + ("wound" if turns else "ends held from turning"),
    )
    hooks = ", ".join(f"{hook.stress:.4g} MPa" for hook in found.hooks)
    rows = (
        (f"Exact, greatest {found.stress} at the loads", stress),
        ("Exact, bending in the hooks", hooks),
    )
    return (rate, *(Row(title, told) for title, told in rows if told))


def _loads(part: Part, spring: Compression) -> Section:
    found = tolerances_of(spring)
    allowed = [f" ± {force:.3g} N" for force in found.forces] if found else [""] * len(spring.points)
    rows = [
        Row(
            f"At {_mm(point.length)}",
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
            Row("At block", f"{spring.block_force:.4g} N", f"{spring.block.stress:.4g} MPa"),
            Row("Rate, R", f"{spring.rate:.4g} N/mm", spring.rules_named),
            *_as_drawn(spring),
            *_exact(spring),
            *_relaxed(spring),
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


def _relaxed(spring: Compression) -> tuple[Row, ...]:
    lost = spring.asked.relaxation
    left = ", ".join(f"{point.force * (1 - lost / 100):.4g} N" for point in spring.points)
    return (Row("After relaxation", left, f"{lost:.3g} % of the force is lost"),) if lost and left else ()


def _scatter(spring: Compression) -> tuple[Section, ...]:
    """What its tolerances come to, where they are carried through."""
    if not scatters(spring):
        return ()
    found = scatter_of(spring)
    kept = [
        Row(f"{one.title} ± {one.either:.3g} {one.unit}".rstrip(), f"{100 * one.cost:.3g} %", one.source)
        for one in found.kept
    ]
    spreads = [
        Row(
            one.title if one.at is None else f"{one.title} at {_mm(one.at)}",
            f"{one.random[0]:.4g} … {one.random[1]:.4g} {one.unit}",
            f"worst case {one.worst[0]:.4g} … {one.worst[1]:.4g}{_held(one)}",
        )
        for one in found.spreads
    ]
    return (
        Section(f"What 99.73 % of the springs do, of {found.made:,} made at random", tuple(spreads)),
        Section("What each tolerance costs of the scatter of the force that binds", tuple(kept)),
    )


def _held(spread: Spread) -> str:
    if spread.limits is None or spread.within is None:
        return ""
    return f"; {100 * spread.within:.4g} % within ± {spread.limits[1] - spread.value:.3g}"


def _tolerances(part: Part, spring: Compression) -> Section:
    found = tolerances_of(spring)
    if found is None:
        return Section(
            "Tolerances", (Row("By agreement", "EN 15800 speaks of cylinders of round wire alone"),)
        )
    of_diameter = (
        "by agreement: outside the standard's table" if found.diameter is None else f"± {_mm(found.diameter)}"
    )
    return Section(
        f"Tolerances, grade {spring.asked.grade}",
        (
            Row("Free length", f"± {_mm(found.free_length)}"),
            Row("Coil diameter", of_diameter, "outside, mean or inside"),
            *(
                (
                    Row("Squareness, e1", _mm(found.square), "ground ends"),
                    Row("Parallelism, e2", _mm(found.parallel), "ground ends"),
                )
                if is_ground(part)
                else ()
            ),
        ),
    )


def _limits(spring: Compression) -> Section:
    life = life_of(spring)
    buckles = "not before block" if spring.buckling is None else f"at {_mm(spring.buckling)} of deflection"
    return Section(
        "Limits",
        (
            Row("Least sum of gaps", _mm(spring.least_gaps)),
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

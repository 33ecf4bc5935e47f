"""What a part is beside its shape, in words: the properties that go with its file."""

from __future__ import annotations

from metaspira.numbers.shown import quantity_shown
from metaspira.parts import AnyPart
from metaspira.parts.identity import identity_of
from metaspira.parts.threaded import ThreadedPart
from metaspira.parts.wound import Part


def properties_of(part: AnyPart) -> list[tuple[str, str]]:
    """Titles and values, in the recipe's units."""
    own = _thread(part) if isinstance(part, ThreadedPart) else _wire(part)
    mass = part.quick_figures["mass"]
    block = identity_of(part).block
    told = [
        ("Number", block.number),
        ("Revision", block.revision),
        *own,
        ("Mass", "" if mass is None else _said(part, mass, "g")),
        ("Note", part.recipe.note),
    ]
    return [(title, value) for title, value in told if value]


def _said(part: AnyPart, value: float, base: str) -> str:
    return quantity_shown(value, base, part.typed.unit)


def _thread(part: ThreadedPart) -> list[tuple[str, str]]:
    thread = part.thread
    member = thread.member(part.side)
    sizes = (
        ("Major diameter", member.major),
        ("Pitch diameter", member.pitch),
        ("Minor diameter", member.minor),
    )
    return [
        ("Thread", f"{thread.designation}, {part.side}"),
        ("Thread, source", " ".join(thread.sources[0]) if thread.sources else ""),
        *(
            (title, f"{_said(part, size.min, 'mm')} to {_said(part, size.max, 'mm')}")
            for title, size in sizes
            if size.min is not None and size.max is not None
        ),
    ]


def _wire(part: Part) -> list[tuple[str, str]]:
    told = []
    for body in part.bodies:
        of = f", {body.name}" if len(part.bodies) > 1 else ""
        coil = body.sweep.path.coil
        told.append((f"Length of wire{of}", _said(part, body.sweep.wire_length, "mm")))
        if coil is not None:
            told.append((f"Hand{of}", "right" if coil.hand > 0 else "left"))
            told.append((f"Turns in all{of}", f"{coil.turns:.6g}"))
    spring = part.spring
    if spring is None:
        return told
    place, effort = spring.units
    wire = spring.wire
    told += [("Wire", wire.title), ("Rate", _said(part, spring.rate, f"{effort}/{place}"))]
    loads = [
        f"{_said(part, point.effort, effort)} at {_said(part, point.place, place)}" for point in spring.points
    ]
    return told + [(f"Load {k}", load) for k, load in enumerate(loads, 1)]

"""Clearance: is there the air that was asked for, between coils and to bore, rod and length?"""

from __future__ import annotations

from metaspira.checks.check import Check, Span, Verdict, Window, spans_below
from metaspira.checks.gaps import self_gaps
from metaspira.part import Part
from metaspira.sweep.extents import extents


def check_clearance(part: Part, window: Window) -> Check:
    gaps = self_gaps(part.sweep, window)
    fit = part.recipe.fit
    wanted = fit.gap or 0.0
    air: dict[str, float] = {}
    if gaps.smallest is not None:
        air["between coils"] = gaps.smallest
    if fit.bore is not None:
        air["to the bore"] = fit.bore / 2 - extents(part.sweep).outside_radius
    if fit.rod is not None:
        air["to the rod"] = extents(part.sweep).inside_radius - fit.rod / 2
    if fit.length is not None:
        air["to the ends of the space"] = fit.length - extents(part.sweep).height
    if not air:
        return _answer("clear", None, wanted, "Nothing is near the wire", 1.0)
    place = min(air, key=lambda name: air[name])
    value = air[place]
    where: tuple[Span, ...] = ()
    if place == "between coils":
        where = spans_below(gaps.lane.s, gaps.lane.value, wanted)
    elif value < wanted:
        where = ((0.0, part.path.length),)
    listed = ", ".join(f"{amount:.4g} mm {name}" for name, amount in air.items())
    if value < 0:
        return _answer("stop", value, wanted, f"No room {place}: {listed}", value - wanted, where)
    if value < wanted:
        why = f"Less than the {wanted:.4g} mm asked for: {listed}"
        return _answer("watch", value, wanted, why, value - wanted, where)
    return _answer("clear", value, wanted, f"Air: {listed}", value - wanted - gaps.error)


def _answer(
    verdict: Verdict,
    value: float | None,
    limit: float,
    why: str,
    margin: float,
    where: tuple[Span, ...] = (),
) -> Check:
    return Check("clearance", "Clearance", verdict, value, limit, "mm", why, margin, where)

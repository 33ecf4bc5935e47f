"""Clearance: is there the air that was asked for, between coils and to bore, rod and length?"""

from __future__ import annotations

from metaspira.checks.check import Check, Verdict, Window, spans_below
from metaspira.checks.gaps import part_gaps
from metaspira.part import Part
from metaspira.paths.path import Span


def check_clearance(part: Part, window: Window) -> Check:
    gaps = part_gaps(part, window)
    fit = part.recipe.fit
    wanted = fit.gap or 0.0
    air: dict[str, float] = {}
    for name, found in (("between coils", gaps.within), ("between wires", gaps.between)):
        known = [g.smallest for _, g in found if g.smallest is not None]
        if known:
            air[name] = min(known)
    if fit.bore is not None or fit.rod is not None or fit.length is not None:
        box = part.extents
        if fit.bore is not None:
            air["to the bore"] = fit.bore / 2 - box.outside_radius
        if fit.rod is not None:
            air["to the rod"] = box.inside_radius - fit.rod / 2
        if fit.length is not None:
            air["to the ends of the space"] = fit.length - box.height
    error = max((g.error for _, g in (*gaps.within, *gaps.between)), default=0.0)
    if not air:
        return _answer("clear", None, wanted, "Nothing is near the wire", 1.0)
    place = min(air, key=lambda name: air[name])
    value = air[place]
    where: tuple[Span, ...] = ()
    if place in ("between coils", "between wires"):
        where = spans_below(gaps.lane.s, gaps.lane.value, wanted)
    elif value < wanted:
        where = ((0.0, part.path.length),)
    listed = ", ".join(f"{amount:.4g} mm {name}" for name, amount in air.items())
    if value < 0:
        return _answer("stop", value, wanted, f"No room {place}: {listed}", value - wanted, where)
    if value < wanted:
        why = f"Less than the {wanted:.4g} mm asked for: {listed}"
        return _answer("watch", value, wanted, why, value - wanted, where)
    return _answer("clear", value, wanted, f"Air: {listed}", value - wanted - error)


def _answer(
    verdict: Verdict,
    value: float | None,
    limit: float,
    why: str,
    margin: float,
    where: tuple[Span, ...] = (),
) -> Check:
    return Check("clearance", "Clearance", verdict, value, limit, "mm", why, margin, where)

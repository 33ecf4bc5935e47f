"""Clearance: is there the air that was asked for, between coils and to bore, rod and length?"""

from __future__ import annotations

from metaspira.checks.bend import fold_depth, stretch_along
from metaspira.checks.check import Check, Verdict, Window, in_words, spans_below
from metaspira.checks.gaps import PartGaps, part_gaps
from metaspira.checks.question import Question, of_wire
from metaspira.gaps.extents import Extents
from metaspira.parts import Part
from metaspira.paths.path import Span


def clearance_margin(part: Part, window: Window) -> float:
    """The margin of the check, to about a hundredth of the wire where it is small, in less time."""
    air = _air(part, window, part_gaps(part, window, certain=False), part.extents)
    return min((value for value, _ in air.values()), default=1.0) - (part.recipe.fit.gap or 0.0)


def check_clearance(part: Part, window: Window) -> Check:
    gaps = part_gaps(part, window)
    wanted = part.recipe.fit.gap or 0.0
    air = _air(part, window, gaps, part.extents)
    if any(low < wanted <= value for value, low in air.values()):
        air = _air(part, window, gaps, part.sharp_extents)
    if not air:
        return _answer("clear", None, wanted, "Nothing is near the wire", 1.0)
    place = min(air, key=lambda name: air[name][0])
    value, low = air[place][0], min(low for _, low in air.values())
    listed = ", ".join(f"{in_words(amount)} mm {name}" for name, (amount, _) in air.items())
    if value >= wanted and low >= wanted:
        return _answer("clear", value, wanted, f"Air: {listed}", value - wanted)
    where: tuple[Span, ...] = ((0.0, part.path.length),) if value < wanted else ()
    if place in ("between coils", "between wires"):
        where = spans_below(gaps.lane.s, gaps.lane.value, wanted)
    if value < 0:
        others = [f"{in_words(amount)} mm {name}" for name, (amount, _) in air.items() if name != place]
        beside = f"; beside that, {', '.join(others)}" if others else ""
        why = f"{in_words(-value)} mm too little {place}{beside}"
        return _answer("stop", value, wanted, why, value - wanted, where)
    if value < wanted:
        why = f"Less than the {wanted:.4g} mm asked for: {listed}"
        return _answer("watch", value, wanted, why, value - wanted, where)
    why = f"Too near the {wanted:.4g} mm asked for to tell, {low:.6g} mm for certain: {listed}"
    return _answer("watch", value, wanted, why, low - wanted, where)


def _air(part: Part, window: Window, gaps: PartGaps, box: Extents) -> dict[str, tuple[float, float]]:
    """The air in each place, and the least that it can be, mm."""
    air: dict[str, tuple[float, float]] = {}
    for name, found in (("between coils", gaps.within), ("between wires", gaps.between)):
        if found is not None:
            air[name] = (found.gap.value, found.gap.low)
    folded = fold_depth(stretch_along(part.sweep, window))
    if folded > 0:
        air["between coils"] = (-folded, -folded)
    fit = part.recipe.fit
    if fit.bore is not None:
        air["to the bore"] = (
            fit.bore / 2 - box.outside_radius,
            fit.bore / 2 - box.outside_radius - box.error,
        )
    if fit.rod is not None:
        air["to the rod"] = (
            box.inside_radius - fit.rod / 2,
            box.inside_radius - box.error - fit.rod / 2,
        )
    if fit.length is not None:
        air["to the ends of the space"] = (
            fit.length - box.height,
            fit.length - box.height - 2 * box.error,
        )
    return air


def _answer(
    verdict: Verdict,
    value: float | None,
    limit: float,
    why: str,
    margin: float,
    where: tuple[Span, ...] = (),
) -> Check:
    return Check("clearance", "Clearance", verdict, value, limit, "mm", why, margin, where)


QUESTIONS = (
    Question(
        "clearance",
        check_clearance,
        of_wire,
        "wire",
        12,
        "least air between coils, to bore, rod and the ends of the space, mm",
        "below 0",
        "below `fit.gap`",
        cures=(
            "/path/pitch",
            "/path/height",
            "/path/turns",
            "/path/diameter",
            "/path/end_diameter",
            "/strands/lay",
            "/strands/radius",
            "/section",
            "/path/around/pitch",
            "/path/around/diameter",
            "/wires",
            "/fit",
        ),
        points=True,
        margin=clearance_margin,
    ),
)

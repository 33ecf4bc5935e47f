"""The data sheet of a thread: what it is, the limits of its members, how it is gauged, and what the joint
bears."""

from __future__ import annotations

import math

from metaspira.numbers.shown import number_shown
from metaspira.parts import ThreadedPart
from metaspira.sheets.composed import sheet
from metaspira.sheets.figures import figure_rows, part_rows
from metaspira.sheets.sheet import Row, Section, Sheet
from metaspira.threads.gauges import limit_gauges
from metaspira.threads.gauging import gauging
from metaspira.threads.joint.figures import joint_figures
from metaspira.threads.thread import Side, Size


def thread_sheet(part: ThreadedPart) -> Sheet:
    """The data sheet of a threaded part."""
    joint = part.joint
    sections = (
        _thread(part),
        *(_limits(part, side) for side in part.thread.sides),
        Section("Gauging", tuple(_gauging(part))),
        Section("Limit gauges, ISO 1502", tuple(_gauges(part))),
        Section("Joint", () if joint is None else figure_rows(joint_figures(joint))),
        Section("The part", part_rows(part)),
        Section("Notes", (Row("Note", part.recipe.note or "none"),)),
    )
    sources = "; ".join(" ".join(source) for source in part.thread.sources)
    return sheet(part, "Thread, data sheet", sections, (), f"Sizes: {sources}.")


def _thread(part: ThreadedPart) -> Section:
    thread = part.thread
    angles = f"{math.degrees(thread.leading):.5g}° and {math.degrees(thread.trailing):.5g}°"
    return Section(
        "Thread",
        (
            Row("Designation", thread.designation, thread.title),
            Row("Member that is built", part.side, f"at the {part.recipe.thread.size} of its limits"),
            Row("Pitch", f"{number_shown(thread.pitch, 6)} mm"),
            Row(
                "Lead",
                f"{number_shown(thread.lead, 6)} mm",
                f"{thread.starts} start{'s' * (thread.starts > 1)}",
            ),
            Row("Hand", thread.hand),
            Row("Flank angles", angles, "from square to the axis"),
        ),
    )


def _limits(part: ThreadedPart, side: Side) -> Section:
    member = part.thread.member(side)
    sizes = {"Major diameter": member.major, "Pitch diameter": member.pitch, "Minor diameter": member.minor}
    rows = tuple(Row(title, _span(size), f"basic {size.basic:.4f} mm") for title, size in sizes.items())
    return Section(f"Limits of the {side} thread, {member.tolerance}".rstrip(", "), rows)


def _span(size: Size) -> str:
    told = [("min.", size.min), ("max.", size.max)]
    return ", ".join(f"{word} {value:.4f} mm" for word, value in told if value is not None) or "no limits"


def _gauging(part: ThreadedPart) -> list[Row]:
    return [
        Row(one.title, f"{one.value:.4f} {one.unit}", one.source)
        for one in gauging(part.thread)
        if one.value is not None
    ]


def _gauges(part: ThreadedPart) -> list[Row]:
    return [
        Row(one.name, f"{one.least:.4f} to {one.most:.4f} mm", f"worn out at {one.worn:.4f} mm")
        for one in limit_gauges(part.thread)
    ]

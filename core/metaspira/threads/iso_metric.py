"""ISO metric threads.

    H = P √3 / 2,  d₂ = d − 3H/4,  d₁ = d − 5H/4,  d₃ = d − 17H/12      (ISO 68-1, 724)

Tolerances of ISO 965-1 in µm, P in mm and d the geometric mean of the step of diameters in mm; where a table
prints a value, that is taken, and what it leaves out of a row that it has is refused; else the formula's,
that of grade 6 made an R40 number, then the grade's share of it again:

    es, EI: g, G 15 + 11P, f 30 + 11P, e 50 + 11P, h, H 0
    T_d(6) = 180 P^⅔ − 3.15 / √P           T_D1(6) = 433P − 190 P^1.22 below 1 mm, else 230 P^0.7
    T_d2(6) = 90 P^0.4 d^0.1               T_D2(6) = 1.32 T_d2(6)
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence

from metaspira.threads.family import NUMBER, Row, ThreadError, plain
from metaspira.threads.tables import preferred, rows
from metaspira.threads.thread import Hand, Member, Side, Size, Thread

_H = math.sqrt(3) / 2
_STEPS = (0.99, 1.4, 2.8, 5.6, 11.2, 22.4, 45.0, 90.0, 180.0, 355.0)
_FACTOR = {3: 0.5, 4: 0.63, 5: 0.8, 6: 1.0, 7: 1.25, 8: 1.6, 9: 2.0}
_INTERNAL_PITCH = {4: 0.85, 5: 1.06, 6: 1.32, 7: 1.7, 8: 2.12, 9: 2.65}
_FIRST_INTERNAL, _FIRST_EXTERNAL = 4, 3
_FINE = 1.4
_BASE = {"e": 50.0, "f": 30.0, "g": 15.0, "G": 15.0}
_PATTERN = re.compile(
    rf"M ?(?P<d>{NUMBER})(?:X(?:PH ?(?P<lead>{NUMBER}) ?)?P? ?(?P<p>{NUMBER}))?"
    r"(?:[ -](?P<class>[3-9][A-Z](?:[3-9][A-Z])?)(?:/(?P<other>[3-9][A-Z](?:[3-9][A-Z])?))?)?(?:[ "
    r"-](?P<group>[SNL]))?",
    re.IGNORECASE,
)
SOURCES = (
    ("form", "ISO 68-1:2023"),
    ("sizes", "ISO 724:2023; series ISO 261:1998"),
    ("limits", "ISO 965-1:2013, tables not checked against the printed standard"),
)


class IsoMetric:
    key = "metric"
    title = "ISO metric"

    def read(self, text: str, hand: Hand) -> Thread | None:
        found = _PATTERN.fullmatch(text)
        if found is None:
            return None
        diameter = float(found["d"])
        pitch = coarse_pitch(diameter) if found["p"] is None else float(found["p"])
        if pitch is None:
            near = min((row[0] for row in rows("iso261") if row[1]), key=lambda d: abs(float(d) - diameter))
            raise ThreadError(
                f"M{plain(diameter)} has no coarse pitch",
                f"write its pitch, as in M{plain(diameter)}x1.5, or use M{plain(near)}",
            )
        lead = float(found["lead"]) if found["lead"] else pitch
        starts = round(lead / pitch)
        if starts < 1 or abs(starts * pitch - lead) > 1e-9:
            raise ThreadError(
                f"a lead of {plain(lead)} is no multiple of the pitch {plain(pitch)}",
                "write Ph as a multiple of P",
            )
        classes = tuple(found[name] for name in ("class", "other") if found[name])
        return metric(diameter, pitch, starts, hand, classes, (found["group"] or "N").upper())

    def rows(self) -> Iterator[Row]:
        for diameter, coarse, fine in rows("iso261"):
            for pitch in ([coarse] if coarse else []) + fine:
                name = f"M{plain(diameter)}" if pitch == coarse else f"M{plain(diameter)}x{plain(pitch)}"
                yield Row(name, self.key, diameter, pitch, False)


def metric(
    diameter: float,
    pitch: float,
    starts: int = 1,
    hand: Hand = "right",
    classes: tuple[str, ...] = (),
    group: str = "N",
) -> Thread:
    """An ISO metric thread of any diameter and pitch (mm). `classes` are none, one or both of a pair, such as
    6g, 4h6h or 6H; the usual ones of the group of engagement (S, N, L) stand for the others. Raises
    ThreadError."""
    if not 0.5 <= diameter <= 1000 or not 0.1 <= pitch < 0.6 * diameter:
        raise ThreadError(
            f"M{plain(diameter)}x{plain(pitch)} is no thread",
            f"use a pitch below {plain(0.6 * diameter)} mm",
        )
    external, internal = _usual(group, diameter, pitch)
    for tolerance in classes:
        if tolerance[1].isupper():
            internal = tolerance
        else:
            external = tolerance
    side: Side | None = None
    if len(classes) == 1:
        side = "internal" if classes[0][1].isupper() else "external"
    name = f"M{plain(diameter)}"
    if starts > 1:
        name += f"xPh{plain(pitch * starts)}P{plain(pitch)}"
    elif pitch != coarse_pitch(diameter):
        name += f"x{plain(pitch)}"
    name += f"-{'/'.join(classes)}" if classes else ""
    name += f"-{group}" if group != "N" else ""
    name += "-LH" if hand == "left" else ""
    d2, d1 = round(diameter - 0.75 * _H * pitch, 3), round(diameter - 1.25 * _H * pitch, 3)
    return Thread(
        name, IsoMetric.key, IsoMetric.title, pitch, starts, hand, math.pi / 6, math.pi / 6,
        _external(diameter, d2, d1, pitch, external),
        _internal(diameter, d2, d1, pitch, internal),
        SOURCES, side,
    )  # fmt: skip


def coarse_pitch(diameter: float) -> float | None:
    """The coarse pitch of a diameter of the series, mm."""
    found: float | None = next((row[1] for row in rows("iso261") if row[0] == diameter), None)
    return found


def _usual(group: str, diameter: float, pitch: float) -> tuple[str, str]:
    """The usual classes by group of engagement length (ISO 965-1, preferred classes, medium quality), of
    threads up to M1.4 6h and 5H (ISO 965-2); of nuts the coarsest up to these that their pitch has."""
    external, internal = {"S": ("5g6g", "5H"), "N": ("6g", "6H"), "L": ("7g6g", "7H")}[group]
    if group == "N" and diameter <= _FINE:
        external, internal = "6h", "5H"
    printed = [_printed_pitch(diameter, pitch, internal=True), _printed_crest(pitch, internal=True)]
    most = min((_FIRST_INTERNAL + len(row) - 1 for row in printed if row), default=9)
    return external, f"{min(int(internal[0]), most)}H"


def _external(d: float, d2: float, d1: float, pitch: float, tolerance: str) -> Member:
    for_pitch, for_major = _grades(tolerance)
    es = -_deviation(pitch, for_pitch[1])
    upper = es if for_major[1] == for_pitch[1] else -_deviation(pitch, for_major[1])
    most, least = d2 + es, d2 + es - _pitch_tolerance(d, pitch, for_pitch[0], internal=False)
    d3 = d - 17 / 12 * _H * pitch
    return Member(
        tolerance,
        Size(d, d + upper, d + upper - _crest_tolerance(pitch, for_major[0], internal=False)),
        Size(d2, most, least),
        Size(d1, d3 + es, least - _H * pitch + 0.25 * pitch),
        d3,
        inner_round=_H * pitch / 6,
    )


def _internal(d: float, d2: float, d1: float, pitch: float, tolerance: str) -> Member:
    for_pitch, for_minor = _grades(tolerance)
    ei = _deviation(pitch, for_pitch[1])
    lower = ei if for_minor[1] == for_pitch[1] else _deviation(pitch, for_minor[1])
    return Member(
        tolerance,
        Size(d, None, d + ei),
        Size(d2, d2 + ei + _pitch_tolerance(d, pitch, for_pitch[0], internal=True), d2 + ei),
        Size(d1, d1 + lower + _crest_tolerance(pitch, for_minor[0], internal=True), d1 + lower),
        d,
    )


def _grades(tolerance: str) -> tuple[tuple[int, str], tuple[int, str]]:
    """Grade and position of the pitch and of the crest diameter. Raises ThreadError."""
    pairs = re.findall(r"(\d)([A-Za-z])", tolerance)
    upper = pairs[0][1].isupper()
    known, grades = ("GH", range(4, 10)) if upper else ("efgh", range(3, 10))
    for grade, position in pairs:
        if position not in known or int(grade) not in grades:
            raise ThreadError(
                f"“{tolerance}” is no tolerance class here",
                (
                    f"use a grade {grades.start} to {grades.stop - 1} with one of {', '.join(known)}, "
                    f"such as {'6H' if upper else '6g'}"
                ),
            )
    crest = pairs[-1]
    held = _crest_grades(upper)
    if int(crest[0]) not in held:
        if len(pairs) > 1:
            raise ThreadError(
                f"“{tolerance}” gives the crest a grade that it has not",
                f"use {', '.join(map(str, held))} for it",
            )
        crest = (str(min(held, key=lambda grade: abs(grade - int(crest[0])))), crest[1])
    first = pairs[0]
    return (int(first[0]), first[1]), (int(crest[0]), crest[1])


def _crest_grades(internal: bool) -> Sequence[int]:
    """The grades that a crest diameter may have."""
    return range(_FIRST_INTERNAL, 9) if internal else (4, 6, 8)


def _deviation(pitch: float, position: str) -> float:
    """Size of the fundamental deviation, mm."""
    if position in "hH":
        return 0.0
    column = {"G": 1, "e": 2, "f": 3, "g": 4}[position]
    printed = next((row[column] for row in rows("iso965_deviations") if row[0] == pitch), None)
    return (printed or preferred(_BASE[position] + 11 * pitch)) / 1000


def pitch_tolerance(d: float, pitch: float, grade: int, internal: bool) -> float:
    """T_d2 or T_D2 by the formula, mm; ISO 965-1 and ISO 2903 share it."""
    step = next((k for k in range(len(_STEPS) - 1) if _STEPS[k] < d <= _STEPS[k + 1]), None)
    mean = d if step is None else math.sqrt(max(_STEPS[step], 1.0) * _STEPS[step + 1])
    factor = (_INTERNAL_PITCH if internal else _FACTOR)[grade]
    return preferred(preferred(90 * pitch**0.4 * mean**0.1) * factor) / 1000


def _printed_pitch(d: float, pitch: float, internal: bool) -> list[float]:
    """T_D2 or T_d2, µm, from the first grade on; none where the table has no such row."""
    for over, its_pitch, printed in rows("iso965_pitch_internal" if internal else "iso965_pitch_external"):
        if its_pitch == pitch and over < d <= _STEPS[_STEPS.index(over) + 1]:
            return list(printed)
    return []


def _printed_crest(pitch: float, internal: bool) -> list[float]:
    """T_D1 or T_d, µm, from the first grade on; none where the table has no such row."""
    name = "iso965_minor" if internal else "iso965_major"
    return next((list(row[1]) for row in rows(name) if row[0] == pitch), [])


def _taken(printed: list[float], grades: Sequence[int], grade: int, pitch: float, internal: bool) -> float:
    """A printed tolerance, mm. Raises ThreadError where the table leaves it out."""
    column = grades.index(grade)
    if column < len(printed):
        return printed[column] / 1000
    raise ThreadError(
        f"ISO 965-1 has no grade {grade} of {'internal' if internal else 'external'} threads at a pitch of "
        f"{plain(pitch)} mm",
        f"use grade {grades[len(printed) - 1]}",
    )


def _pitch_tolerance(d: float, pitch: float, grade: int, internal: bool) -> float:
    if printed := _printed_pitch(d, pitch, internal):
        grades = range(_FIRST_INTERNAL if internal else _FIRST_EXTERNAL, 10)
        return _taken(printed, grades, grade, pitch, internal)
    return pitch_tolerance(d, pitch, grade, internal)


def _crest_tolerance(pitch: float, grade: int, internal: bool) -> float:
    if printed := _printed_crest(pitch, internal):
        return _taken(printed, _crest_grades(internal), grade, pitch, internal)
    if internal:
        whole = 433 * pitch - 190 * pitch**1.22 if pitch < 1 else 230 * pitch**0.7
    else:
        whole = 180 * pitch ** (2 / 3) - 3.15 / math.sqrt(pitch)
    return preferred(whole * _FACTOR[grade]) / 1000

"""The standard threads that a traced one may be, and the recipe of it."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Any

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.parts import ThreadedPart, part_of
from metaspira.problems import Problem, RecipeError
from metaspira.studies.trace.around import value_at
from metaspira.studies.trace.screw import TURNED_OVER, turned_about
from metaspira.studies.trace.thread import TracedThread
from metaspira.studies.trace.traced import Designation, TracedNumber
from metaspira.threads.lookup import Candidate, measured, read_thread, tapered
from metaspira.threads.profile import Profile, profile_of
from metaspira.threads.thread import Thread

_LIKELY, _NAMES = 40, 6
_ALIKE = 0.06
_LIKELY_FLANK = 30.0
_FINE = 6
_BEYOND = 0.5
_NOISE_LEFT, _FORM = 0.4, 0.01


@dataclass(frozen=True, eq=False)
class NamedThread:
    """The recipe of a traced thread, of the `standard` one where one is alike; the standard threads that it
    may be then, the most probable first; and the scan's `places` (n, 3) where its part stands."""

    recipe: dict[str, Any]
    standard: Thread | None
    designations: list[Designation]
    places: Array


@dataclass(frozen=True)
class _Laid:
    """A profile laid on a traced one where it fits best: how far they are apart, mm, by the root of the mean
    square, each about its own mean; how far on along the axis the traced one has to be moved, mm; and whether
    it has to be turned over."""

    off: float
    on: float
    over: bool


def named(thread: TracedThread) -> NamedThread:
    """The thread by its name, or of a form of its own. Raises RecipeError where neither can be written."""
    names = _weighed(thread)
    if names:
        name = _with_starts(names[0].designation, thread)
        standard = read_thread(name)
        laid = _laid(thread, profile_of(standard, thread.side))
        if laid.off <= _ALIKE * thread.depth + 2 * thread.noise:
            low = _height(thread, standard)
            recipe = _recipe(thread, {"designation": name}, _host(thread, low))
            return NamedThread(recipe, standard, names, _places(thread, laid, low))
    recipe = _own(thread)
    part = part_of(recipe)
    assert isinstance(part, ThreadedPart)
    laid = _laid(thread, part.profile)
    return NamedThread(recipe, None, [], _places(thread, laid, _BEYOND * thread.pitch))


def wear_of(thread: TracedThread, standard: Thread) -> TracedNumber | None:
    """By how much the pitch diameter is beyond the limit that wear moves it towards, mm, 0 where it is
    within; None where the standard sets none."""
    size = standard.member(thread.side).pitch
    outside = thread.side == "external"
    limit = size.min if outside else size.max
    if limit is None or standard.taper:
        return None
    beyond = limit - thread.pitch_diameter if outside else thread.pitch_diameter - limit
    sure = next(one.sure for one in thread.figures if one.key == "pitch_diameter")
    return TracedNumber("wear", "Pitch diameter beyond its limit", max(beyond, 0.0), sure, "mm")


def _height(thread: TracedThread, standard: Thread) -> float:
    """How far, mm, from the start of the standard part the traced stretch begins: where a taper is as
    wide."""
    least = _BEYOND * thread.pitch
    if not standard.taper:
        return least
    wide = (thread.pitch_diameter - standard.member(thread.side).pitch.basic) / standard.taper
    middle = -wide if thread.side == "internal" else wide + standard.gauge_plane
    return max(middle - thread.length / 2, least)


def _recipe(thread: TracedThread, form: dict[str, Any], host: dict[str, Any]) -> dict[str, Any]:
    hand = {"hand": "left"} if thread.hand == "left" else {}
    return {"format": "metaspira/1", "unit": "mm", "thread": {**form, **hand}, "host": host}


def _host(thread: TracedThread, low: float) -> dict[str, Any]:
    kind = "rod" if thread.side == "external" else "bore"
    return {"kind": kind, "length": round(low + thread.length + _BEYOND * thread.pitch, 2)}


def _own(thread: TracedThread) -> dict[str, Any]:
    """The recipe with a form of flanks by the measured numbers; its crest is as wide as the flanks leave it.
    Raises RecipeError of a taper inside a bore."""
    seen = [angle for angle in thread.flanks if angle is not None] or [_LIKELY_FLANK]
    # of a flank that was hardly seen, the other one tells
    rising, falling = (seen[0] if angle is None else angle for angle in thread.flanks)
    to_crest = abs(thread.crest - thread.pitch_diameter) / 2
    slopes = math.tan(math.radians(rising)) + math.tan(math.radians(falling))
    form = {
        "kind": "flanks",
        "leading": round(rising, 1),
        "trailing": round(falling, 1),
        "height": round(thread.depth, 3),
        "crest": round(max(thread.pitch / 2 - to_crest * slopes, 0.0), 3),
    }
    several = {"starts": thread.starts} if thread.starts > 1 else {}
    outer = max(thread.crest, thread.root)
    own = {"form": form, "diameter": round(outer, 3), "pitch": round(thread.pitch, 4), **several}
    host = _host(thread, _BEYOND * thread.pitch)
    if not thread.taper:
        return _recipe(thread, own, host)
    if thread.side == "internal":
        raise RecipeError(
            Problem(
                "/file",
                f"its thread is inside, on a taper of {abs(thread.taper):.3g}, and of no standard",
                "give the plug that fits it",
            )
        )
    half = host["length"] / 2 * thread.taper
    cone = {
        "kind": "cone",
        "length": host["length"],
        "diameter": round(thread.root - half, 3),
        "end_diameter": round(thread.root + half, 3),
    }
    return {**_recipe(thread, own, cone), "use": {"as": "ridge"}}


def _with_starts(name: str, thread: TracedThread) -> str:
    """The name of the thread with as many starts, where its family has one for it."""
    if thread.starts == 1:
        return name
    lead = f"{thread.starts * read_thread(name).pitch:g}"
    for written in (
        re.sub(r"x([\d.]+)$", rf"x{lead}P\1", name),
        re.sub(r"x([\d.]+)$", rf"xPh{lead}P\1", name),
    ):
        try:
            if read_thread(written).starts == thread.starts:
                return written
        except RecipeError:
            continue
    return name


def _weighed(thread: TracedThread) -> list[Designation]:
    """The standard threads that it may be, by crest, pitch and the form of the profile."""
    allowed = _NOISE_LEFT * thread.noise + _FORM * thread.pitch
    weighed = []
    for one in _rough(thread):
        apart = _laid(thread, profile_of(read_thread(one.row.designation), thread.side)).off
        weight = one.probable * math.exp(-0.5 * min((apart / allowed) ** 2, 1400.0)) + 1e-300
        weighed.append((weight, apart, one))
    whole = sum(weight for weight, _, _ in weighed)
    weighed.sort(key=lambda one: -one[0])
    return [
        Designation(
            one.row.designation,
            weight / whole,
            math.hypot(apart, one.diameter_off / 2),
            one.pitch_off,
            one.diameter_off,
        )
        for weight, apart, one in weighed[:_NAMES]
    ]


def _rough(thread: TracedThread) -> list[Candidate]:
    slack = max(0.02, 2 * thread.noise * thread.pitch / thread.length)
    if thread.taper:
        half, wide = thread.narrow, thread.pitch_diameter
        return tapered((wide - half, wide + half), thread.pitch, thread.side, _LIKELY, slack)
    error = max(4 * thread.noise, 0.1)
    found = measured(thread.crest, thread.pitch, thread.side, _LIKELY, error, slack)
    return [one for one in found if not read_thread(one.row.designation).taper]


def _laid(thread: TracedThread, profile: Profile) -> _Laid:
    """The profile on the traced one, either way round; a taper has but one."""
    line = profile.line(24)
    z = np.concatenate([line[:, 0] + k * profile.pitch for k in (-1, 0, 1)])
    count = _FINE * len(thread.profile)
    share = (np.arange(count) + 0.5) / count
    theirs = np.interp(share * profile.pitch, np.maximum.accumulate(z), np.tile(line[:, 1], 3))
    ours = value_at(thread.profile, share)
    found = []
    for over in (False,) if thread.taper else (False, True):
        mine = ours[::-1] if over else ours
        # what they have in common at every shift at once
        spectra = np.fft.rfft(mine - mine.mean()), np.conj(np.fft.rfft(theirs - theirs.mean()))
        common = np.fft.irfft(spectra[0] * spectra[1], count) / count
        off = mine.var() + theirs.var() - 2 * common
        shift = int(np.argmin(off))
        found.append(_Laid(math.sqrt(max(float(off[shift]), 0.0)), -shift / count * thread.pitch, over))
    return min(found, key=lambda one: one.off)


def _places(thread: TracedThread, laid: _Laid, low: float) -> Array:
    """The scan's places, away from both ends, where the part stands that begins `low` mm below what was
    seen."""
    within = np.abs(thread.places[:, 2]) < (thread.length - _BEYOND * thread.pitch) / 2
    own = thread.places[within] * (TURNED_OVER if laid.over else 1.0)
    up = low + thread.length / 2
    return np.add(turned_about(own, 2 * math.pi * (up - laid.on) / thread.lead), [0, 0, up])

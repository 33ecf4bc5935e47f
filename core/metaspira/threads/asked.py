"""A thread as a recipe asks for it: named or of one's own form, where it runs on its host, and how it
ends."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Any, Literal

from pydantic import Field

from metaspira.numbers.fields import Angle, Distance, Few, Length, Offset
from metaspira.numbers.kind import Kind, Usual, Words, said, three_digits
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.threads.ends import ThreadEnd
from metaspira.threads.lookup import MOST_CHARACTERS, read_thread
from metaspira.threads.profile import Profile, flanked, free_form, profile_of
from metaspira.threads.thread import Member, Side, Size, Thread

State = Annotated[
    Literal["basic", "middle", "max", "min"],
    Words(
        {
            "basic": "basic size",
            "middle": "middle of its limits",
            "max": "largest diameters",
            "min": "smallest diameters",
        }
    ),
]


class FlankForm(Kind, title="its own, by flanks"):
    """A form with two straight flanks: angles from square to the axis, the width of its crest's flat, its
    height, and radii at crest and root."""

    kind: Literal["flanks"] = "flanks"
    leading: Annotated[Angle, Usual(30)] = Field(default=30.0, title="Leading flank")
    trailing: Annotated[Angle, Usual(30)] = Field(default=30.0, title="Trailing flank")
    height: Annotated[Length, Usual(0.5)]
    crest: Annotated[Distance, Usual(0.2)] = Field(default=0.0, title="Flat of the crest")
    crest_radius: Distance = 0.0
    root_radius: Distance = 0.0


class PointForm(Kind, title="its own, by points"):
    """A form through points [z, r] in the axial plane over one pitch: r from its root, rising once."""

    kind: Literal["points"] = "points"
    points: tuple[tuple[Offset, Offset], ...] = Field(min_length=3, max_length=200)

    @classmethod
    def usual(cls, size: float) -> dict[str, Any]:
        """The same; `size` is the pitch."""
        shares = ((0, 0), (0.25, 0.35), (0.55, 0.4), (0.8, 0))
        return {"kind": "points", "points": [[three_digits(c * size) for c in p] for p in shares]}


Form = Annotated[FlankForm | PointForm, Field(discriminator="kind")]


class Deviations(Kind):
    """How far a diameter may be from its basic value: up to `upper`, down to `lower`, with their signs."""

    upper: Offset = 0.0
    lower: Offset = 0.0

    def size(self, basic: float, place: str) -> Size:
        """The diameter with its limits. Raises RecipeError."""
        if self.lower > self.upper:
            raise RecipeError(
                Problem(
                    f"{place}/lower",
                    f"the lower limit lies {self.lower - self.upper:.6g} mm above the upper one",
                    "exchange them",
                    Fix(place, {"upper": f"{self.lower:.9g} mm", "lower": f"{self.upper:.9g} mm"}),
                )
            )
        return Size(basic, basic + self.upper, basic + self.lower)


class MemberLimits(Kind):
    """One's own limits of a member's diameters; a diameter that is left out keeps its own."""

    major: Deviations | None = None
    pitch: Deviations | None = None
    minor: Deviations | None = None

    def of(self, member: Member, place: str) -> Member:
        sizes = {
            name: asked.size(getattr(member, name).basic, f"{place}/{name}")
            for name in ("major", "pitch", "minor")
            if (asked := getattr(self, name)) is not None
        }
        return replace(member, tolerance="own limits", **sizes) if sizes else member


class Limits(Kind):
    """One's own limits, of a form of one's own or in place of a standard's."""

    external: MemberLimits = MemberLimits()
    internal: MemberLimits = MemberLimits()


class AskedThread(Kind):
    """`designation`, or `form`, `diameter` (major) and `pitch` of one's own; `starts` and `hand` change
    either. `limits` are one's own; `size` is which of them is built, `allowance` opens it square to its
    surface. It runs from `at` over `length`, or to the host's end. `drawn` is how drawings show it: by the
    convention of ISO 6410-1, or with its helix, which that standard calls a detailed representation."""

    designation: str | None = Field(default=None, min_length=1, max_length=MOST_CHARACTERS)
    form: Form | None = None
    diameter: Length | None = None
    pitch: Length | None = None
    starts: Few | None = None
    hand: Literal["right", "left"] | None = None
    side: Side | None = None
    limits: Limits | None = None
    size: State = "basic"
    allowance: Distance = 0.0
    at: Distance = 0.0
    length: Length | None = None
    start: ThreadEnd | None = None
    end: ThreadEnd | None = None
    drawn: Literal["by convention", "helix"] = "by convention"

    def words(self, unit: str) -> str:
        if self.designation:
            return self.designation
        return f"own form, ⌀ {said(self.diameter, unit)}, pitch {said(self.pitch, unit)}"

    def thread(self) -> Thread:
        """The thread's sizes. Raises RecipeError."""
        thread = self._sized()
        if self.limits is None:
            return thread
        external, internal = (
            getattr(self.limits, side).of(thread.member(side), f"/thread/limits/{side}")
            for side in ("external", "internal")
        )
        sources = (*(kept for kept in thread.sources if kept[0] != "limits"), ("limits", "as typed"))
        return replace(thread, external=external, internal=internal, sources=sources)

    def _sized(self) -> Thread:
        if self.designation is not None:
            found = read_thread(self.designation, "/thread/designation")
            starts = found.starts if self.starts is None else int(self.starts)
            if starts == found.starts and self.hand in (None, found.hand):
                return found
            return replace(found, starts=starts, hand=self.hand or found.hand)
        missing = [name for name in ("form", "diameter", "pitch") if getattr(self, name) is None]
        if missing:
            raise RecipeError(
                Problem(
                    f"/thread/{missing[0]}",
                    (
                        f"a thread has a designation, or its own form, diameter and pitch; {missing[0]} "
                        "is missing"
                    ),
                    "add it, or a designation such as “M10”",
                )
            )
        assert self.form is not None and self.diameter is not None and self.pitch is not None
        height = self.form.height if isinstance(self.form, FlankForm) else max(p[1] for p in self.form.points)
        d = self.diameter
        if 2 * height >= d:
            raise RecipeError(
                Problem(
                    "/thread/form",
                    f"a form {height:.6g} mm high does not fit on ⌀ {d:.6g} mm",
                    f"keep it under {d / 2:.6g} mm",
                )
            )
        leading, trailing = (
            (self.form.leading, self.form.trailing) if isinstance(self.form, FlankForm) else (0.0, 0.0)
        )
        member = Member("", Size(d), Size(d - height), Size(d - 2 * height), d - 2 * height)
        other = Member("", Size(d), Size(d - height), Size(d - 2 * height), d)
        return Thread(
            f"own ⌀{d:.6g}x{self.pitch:.6g}",
            "own",
            "Own form",
            self.pitch,
            int(self.starts or 1),
            self.hand or "right",
            leading,
            trailing,
            member,
            other,
            (("form", "own"), ("sizes", "own"), ("limits", "a form of its own, no limits set")),
        )

    def profile(self, thread: Thread, side: Side, state: str, allowance: float) -> Profile:
        """The axial profile of a member. Raises RecipeError, with the nearest allowance or height that
        works."""
        try:
            return self._profile(thread, side, state, allowance)
        except RecipeError as error:
            form, problem = self.form, error.problems[0]
            if allowance > 0 and self._works(thread, side, state, 0.0):
                place, most = "/thread/allowance", allowance
                least = _largest(lambda v: self._works(thread, side, state, v), most)
            elif isinstance(form, FlankForm) and self.designation is None:
                place, most = "/thread/form/height", form.height
                least = _largest(lambda v: self._with_height(v)._works(thread, side, state, 0.0), most)
            else:
                raise
            value = float(f"{0.999 * least:.3g}")
            raise RecipeError(
                Problem(
                    place,
                    problem.reason,
                    f"use {value:g} mm or less, or a larger pitch",
                    Fix(place, value) if value > 0 else None,
                )
            ) from None

    def _works(self, thread: Thread, side: Side, state: str, allowance: float) -> bool:
        try:
            self._profile(thread, side, state, allowance)
        except RecipeError:
            return False
        return True

    def _with_height(self, height: float) -> AskedThread:
        assert isinstance(self.form, FlankForm)
        return self.model_copy(update={"form": self.form.model_copy(update={"height": height})})

    def _profile(self, thread: Thread, side: Side, state: str, allowance: float) -> Profile:
        form = self.form
        if self.designation is not None or form is None:
            return profile_of(thread, side, state, allowance)
        apart = -allowance if side == "external" else allowance
        member = thread.member(side)
        shift = 0.5 * (member.pitch.at(state) - member.pitch.basic)
        basic = thread.external.major.basic / 2
        if isinstance(form, PointForm):
            lift = apart / math.cos(math.pi / 6)
            return free_form(
                form.points,
                thread.pitch,
                thread.external.minor.basic / 2 + lift + shift,
                "/thread/form/points",
            )
        outer, inner = basic + shift, basic - form.height + shift
        if side == "external":
            outer = member.major.at(state) / 2
        else:
            inner = member.minor.at(state) / 2
        stand = 1 / math.cos(form.leading) + 1 / math.cos(form.trailing)
        thinner = (thread.pitch / 2 - form.crest) / stand - apart
        rounds = form.crest_radius, form.root_radius
        return flanked(
            thread.pitch,
            outer + apart,
            basic + shift,
            inner + apart,
            form.leading,
            form.trailing,
            *rounds,
            thinner,
            "/thread/form",
        )


def _largest(works: Callable[[float], bool], most: float) -> float:
    """The largest value below `most` that works, by halving."""
    low, high = 0.0, most
    for _ in range(40):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if works(middle) else (low, middle)
    return low


class Mate(Kind):
    """The other member, built beside: how long it is, and where it stands along the axis."""

    length: Length
    at: Distance = 0.0
    outside: Length | None = None
    across_flats: Length | None = None
    size: State = "basic"

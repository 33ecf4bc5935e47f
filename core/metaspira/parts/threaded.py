"""A threaded part: a thread on its host, and where it is asked for, the other member."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.parts.described import LEAST_ERROR, Described
from metaspira.parts.thread_figures import FIGURES
from metaspira.problems import Fix, Problem, RecipeError
from metaspira.recipe.model import ThreadRecipe
from metaspira.recipe.resolving import resolve
from metaspira.sections.outline import Edge, line
from metaspira.threads.asked import AskedThread, Mate
from metaspira.threads.body import Lateral, ThreadBody, Wall
from metaspira.threads.joint.joint import Joint
from metaspira.threads.lay import Laid, lay
from metaspira.threads.profile import Profile
from metaspira.threads.surface import ThreadSurface
from metaspira.threads.thread import Side, Thread

_MOST_TURNS = 2_000
_ALONG = 129


@dataclass(frozen=True, eq=False)
class ThreadedPart(Described):
    """`typed` is the recipe as typed, `recipe` the same in millimetres and radians. `profile` is the axial
    profile of the member that is built, its radii measured from the host's surface where the thread is a
    ridge or a groove; `full` are the heights between which the thread has its whole form, and `radii` (n,)
    those of its pitch line at even heights between them, mm."""

    typed: ThreadRecipe
    recipe: ThreadRecipe
    thread: Thread
    side: Side
    profile: Profile
    bodies: tuple[ThreadBody, ...]
    full: tuple[float, float]
    radii: Array

    figures = FIGURES

    @property
    def body(self) -> ThreadBody:
        return self.bodies[0]

    @property
    def engaged(self) -> tuple[float, float]:
        """The heights, mm, between which part and mate both have their full thread; those of the part where
        it has no mate."""
        low, high = self.full
        mate = self.recipe.mate
        return (low, high) if mate is None else (max(low, mate.at), min(high, mate.at + mate.length))

    @cached_property
    def joint(self) -> Joint | None:
        """What the recipe asks of the thread and its mate under load."""
        asked = self.recipe.joint
        if asked is None:
            return None
        host, mate = self.recipe.host, self.recipe.mate
        around = mate if self.side == "external" else host
        flats = getattr(around, "across_flats", None) or getattr(around, "outside", None)
        low, high = self.engaged
        return Joint(self.thread, asked, asked.engagement or max(high - low, 0.0), flats)

    @property
    def volume(self) -> float:
        return sum(body.volume for body in self.bodies)

    @property
    def reach(self) -> float:
        return self.body.outer_radius

    @property
    def usual_chord_error(self) -> float:
        """1/60 of the height of its profile, mm."""
        return max((self.profile.outer - self.profile.inner) / 60, LEAST_ERROR)


def make_threaded(typed: ThreadRecipe) -> ThreadedPart:
    """The threaded part that a recipe describes. Raises RecipeError."""
    recipe = resolve(typed)
    asked, host = recipe.thread, recipe.host
    thread = asked.thread()
    side = _side(asked, thread, recipe)
    profile = asked.profile(thread, side, asked.size, asked.allowance)
    use = recipe.use.as_
    if use != "body":
        rests_on = profile.inner if (use == "ridge") == (side == "external") else profile.outer
        profile = profile.moved(-rests_on)
    elif not host.parallel:
        raise RecipeError(
            Problem(
                "/use/as",
                "on a cone or a turned body a thread is a ridge or a groove",
                "choose one of them",
                Fix("/use/as", "groove"),
            )
        )
    outline, plain = _outline(recipe, thread, side, profile)
    laid = lay(
        asked, profile, side, outline, plain, thread.pitch, thread.lead, use == "body", use == "groove"
    )
    if laid.legs[-1].heights[1] - laid.legs[0].heights[0] > _MOST_TURNS * thread.lead:
        raise RecipeError(
            Problem(
                "/host/length",
                f"the thread has more than {_MOST_TURNS} turns",
                f"keep it under {_MOST_TURNS * thread.lead:.6g} mm",
            )
        )
    surface = ThreadSurface(profile, thread.starts, thread.hand, laid.legs, laid.rests, laid.blunt)
    bodies = [
        ThreadBody("thread" if side == "external" else "bore", _loops(surface, recipe, side, thread), surface)
    ]
    _demand_joint(recipe, thread)
    if recipe.mate is not None:
        bodies.append(_mate(recipe, recipe.mate, thread, side, laid, outline))
    middle = 0.5 * (profile.inner + profile.outer) if use != "body" else 0.5 * thread.external.pitch.basic
    radii = _host_radii(outline, laid.full) + middle
    return ThreadedPart(typed, recipe, thread, side, profile, tuple(bodies), laid.full, radii)


def _demand_joint(recipe: ThreadRecipe, thread: Thread) -> None:
    """Raises RecipeError where a joint is asked of what has no stress area, or is told twice."""
    if recipe.joint is None:
        return
    if thread.family == "own" or recipe.use.as_ != "body" or thread.taper:
        raise RecipeError(
            Problem(
                "/joint",
                "a joint is calculated of a parallel standard thread that is the whole body",
                "name a standard thread, or leave the joint out",
            )
        )
    if recipe.joint.torque is not None and recipe.joint.preload is not None:
        raise RecipeError(Problem("/joint/preload", "torque and preload are both told", "give one of them"))


def _host_radii(outline: tuple[Edge, ...], between: tuple[float, float]) -> Array:
    """Of a host's outline (r, z), at even heights, mm (n,)."""
    share = np.linspace(0.0, 1.0, _ALONG)
    r, z = np.concatenate([edge.at(share)[0] for edge in outline]).T
    order = np.argsort(z, kind="stable")
    return np.interp(np.linspace(*between, _ALONG), z[order], r[order])


def _side(asked: AskedThread, thread: Thread, recipe: ThreadRecipe) -> Side:
    natural = recipe.host.side
    if thread.side is not None and asked.side is None and thread.side != natural and recipe.host.parallel:
        other = "bore" if thread.side == "internal" else "rod"
        raise RecipeError(
            Problem(
                "/host/kind",
                f"{thread.designation} names an {thread.side} thread, and the host is a {recipe.host.kind}",
                f"put it in or on a {other}, or name no class",
                Fix("/host/kind", other),
            )
        )
    if asked.side is not None and asked.side != natural:
        raise RecipeError(
            Problem(
                "/thread/side",
                f"a {recipe.host.kind} takes an {natural} thread",
                f"use {natural}",
                Fix("/thread/side", natural),
            )
        )
    return natural


def _outline(
    recipe: ThreadRecipe, thread: Thread, side: Side, profile: Profile
) -> tuple[tuple[Edge, ...], float | None]:
    """The host's outline (r, z), and the radius, less it, where it is not threaded."""
    host, use = recipe.host, recipe.use.as_
    own = host.outline("/host")
    if own is not None:
        return own, 0.0
    if use != "body":
        crest, root = thread.external.major.basic, thread.external.minor.basic
        usual = root if (use == "ridge") == (side == "external") else crest
        radius = (usual if host.plain is None else host.plain) / 2
        return (line((radius, 0.0), (radius, host.height)),), 0.0
    slope = thread.taper / 2
    foot = recipe.thread.at
    if side == "external":
        start = -slope * (foot + thread.gauge_plane)
        ends = start, start + slope * host.height
    else:
        start = slope * foot
        ends = start, start - slope * host.height
    plain = None if host.plain is None else host.plain / 2
    return (line((ends[0], 0.0), (ends[1], host.height)),), plain


def _loops(surface: ThreadSurface, recipe: ThreadRecipe, side: Side, thread: Thread) -> tuple[Lateral, ...]:
    host = recipe.host
    if host.sleeve is not None:
        return _sleeve(surface, *host.sleeve, "/host"), surface
    hole = host.bored
    if hole is None:
        return (surface,)
    if hole / 2 >= surface.inner_radius:
        raise RecipeError(
            Problem(
                "/host/hole",
                f"a hole of ⌀ {hole:.6g} mm leaves no wall under ⌀ {2 * surface.inner_radius:.6g} mm",
                "make it smaller",
            )
        )
    return surface, Wall(surface.pieces, hole / 2)


def _sleeve(surface: ThreadSurface, outside: float | None, across_flats: float | None, place: str) -> Wall:
    usual = 3.2 * surface.outer_radius
    size = across_flats or outside or float(f"{usual:.3g}")
    if size / 2 <= surface.outer_radius:
        name = "across_flats" if across_flats else "outside"
        least = 2 * surface.outer_radius
        raise RecipeError(
            Problem(
                f"{place}/{name}",
                f"{size:.6g} mm leaves no wall around ⌀ {least:.6g} mm",
                f"use more than {least:.6g} mm",
                Fix(f"{place}/{name}", float(f"{1.3 * least:.4g}")),
            )
        )
    return Wall(surface.pieces, size / 2, 6 if across_flats else 0)


def _mate(
    recipe: ThreadRecipe, mate: Mate, thread: Thread, side: Side, laid: Laid, outline: tuple[Edge, ...]
) -> ThreadBody:
    """The other member, chamfered, at a height of its own on the same screw."""
    if recipe.use.as_ != "body":
        raise RecipeError(
            Problem(
                "/mate",
                "a mate is built for a thread that is the whole body",
                "use it as a body, or leave the mate out",
            )
        )
    other: Side = "internal" if side == "external" else "external"
    profile = recipe.thread.profile(thread, other, mate.size, recipe.thread.allowance)
    if mate.length < thread.pitch / 4:
        raise RecipeError(
            Problem("/mate/length", "the mate is shorter than a quarter of the pitch", "make it longer")
        )
    edge = outline[0]
    slope = float((edge.points[-1, 0] - edge.points[0, 0]) / (edge.points[-1, 1] - edge.points[0, 1]))
    low, high = mate.at, mate.at + mate.length
    base = [float(edge.points[0, 0]) + slope * h for h in (low, high)]
    own = lay(
        AskedThread(designation=None),
        profile,
        other,
        (line((base[0], low), (base[1], high)),),
        None,
        thread.pitch,
        thread.lead,
        True,
    )
    surface = ThreadSurface(profile, thread.starts, thread.hand, own.legs)
    loops: tuple[Lateral, ...] = (
        (_sleeve(surface, mate.outside, mate.across_flats, "/mate"), surface)
        if other == "internal"
        else (surface,)
    )
    return ThreadBody("mate", loops, surface)

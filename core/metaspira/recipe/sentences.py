"""A recipe in sentences, one for each step of the work: what it holds now, as it is typed."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from metaspira.numbers.kind import choice_words, counted, said, title_of
from metaspira.recipe.model import Recipe, ThreadRecipe
from metaspira.sweep.stances import usual_stance

_ALONG = {"twist": "°", "tilt": "°"}


def sentences(recipe: Recipe | ThreadRecipe) -> dict[str, str]:
    """A sentence for each step, by the step's name, of a recipe as typed."""
    return _threaded(recipe) if isinstance(recipe, ThreadRecipe) else _wound(recipe)


def _wound(recipe: Recipe) -> dict[str, str]:
    unit = recipe.unit
    return {
        "fit": _fit(recipe),
        "path": recipe.path.sentence(unit),
        "section": recipe.section.sentence(unit),
        "stance": (recipe.stance or usual_stance(recipe.path)).words(unit),
        "along": _along(recipe),
        "wires": _wires(recipe),
        "ends": _ends(recipe),
        "load": recipe.spring.words(unit) if recipe.spring else "not a spring",
    }


def _fit(recipe: Recipe) -> str:
    fit, unit = recipe.fit, recipe.unit
    names = [body.name for body in fit.bodies]
    parts = [
        f"in a {said(fit.bore, unit)} bore" if fit.bore is not None else "",
        f"over a {said(fit.rod, unit)} rod" if fit.rod is not None else "",
        f"beside {' and '.join(names)}" if names else "",
        f"in {said(fit.length, unit)} of length" if fit.length is not None else "",
        f"keeping {said(fit.gap, unit)} of air" if fit.gap is not None else "",
    ]
    return _listed(parts) or f"no space given; in {unit}"


def _along(recipe: Recipe) -> str:
    parts = []
    for name in type(recipe.along).model_fields:
        schedule, unit = getattr(recipe.along, name), _ALONG.get(name, "")
        if schedule is None or not schedule.on or schedule.total == 0:
            continue
        if schedule.total is not None:
            parts.append(f"{name} {said(schedule.total, unit)}")
        elif schedule.points is not None:
            parts.append(f"{name} by {counted(len(schedule.points), 'point')}")
        elif schedule.formula is not None:
            parts.append(f"{name} by formula")
        else:
            parts.append(f"{name} {said(schedule.from_)} to {said(schedule.to, unit)}")
    return _listed(parts) or "no twist, one size"


def _wires(recipe: Recipe) -> str:
    strands = recipe.strands
    if strands is None:
        own = "one wire"
    elif strands.lay is None:
        own = f"{said(strands.count)} starts"
    else:
        own = f"{said(strands.count)} strands{' and one in the middle' if strands.core else ''}"
    return f"{own}, and {len(recipe.wires)} more" if recipe.wires else own


def _ends(recipe: Recipe) -> str:
    bare = "open" if recipe.use.as_ == "skin" else "flat"
    start, end = (each.kind if each else bare for each in (recipe.ends.start, recipe.ends.end))
    span = "a span" if recipe.path.span else "the whole path"
    return f"{span}, {start} ends" if start == end else f"{span}, {start} start, {end} end"


def _threaded(recipe: ThreadRecipe) -> dict[str, str]:
    thread, unit = recipe.thread, recipe.unit
    plain = "chamfer at a face, else a run-out"
    start, end = (title_of(type(e)) if e else plain for e in (thread.start, thread.end))
    begins = f"from {said(thread.at, unit)}" if thread.at else "from the face"
    over = f"over {said(thread.length, unit)}" if thread.length else "to the end"
    size = choice_words(type(thread), "size", thread.size)
    return {
        "thread": thread.words(unit),
        "host": f"{title_of(type(recipe.host))}, {choice_words(type(recipe.use), 'as_', recipe.use.as_)}",
        "ends": f"{begins} {over}; " + (f"{start} at both ends" if start == end else f"{start} and {end}"),
        "mate": f"{size}{', with its mate' if recipe.mate else ''}",
        "joint": recipe.joint.words(unit) if recipe.joint else "no load is told",
    }


def _listed(parts: Iterable[Any]) -> str:
    return ", ".join(part for part in parts if part)

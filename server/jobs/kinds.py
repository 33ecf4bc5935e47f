"""The kinds of jobs: each takes what was asked and a desk, and gives its result as JSON."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from metaspira.checks import report_on
from metaspira.outputs import ending
from metaspira.outputs.building import build_files, demand_clear
from metaspira.parts import part_of
from metaspira.recipe.model import Recipe
from metaspira.recipe.reading import read_recipe
from metaspira.studies.film import glb_of, pictures_of, video_of, zip_of
from metaspira.studies.run import Track, run_through
from metaspira.studies.survey import Over
from metaspira.studies.survey import survey as survey_of
from metaspira.studies.trace import traced_in_child
from metaspira.studies.trace.packing import unpacked

from jobs.board import Desk
from jobs.files import keep, kept


def build(asked: dict[str, Any], desk: Desk) -> dict[str, Any]:
    """Check, build and prove the solid of `recipe` in `formats`, meshes within `chord_error` mm."""
    desk.progress(0.0, "checking")
    part = part_of(asked["recipe"])
    demand_clear(report_on(part, with_remedies=False))
    with TemporaryDirectory(prefix="metaspira-") as folder:
        drafts = [Path(folder) / f"part{suffix}" for suffix in asked["formats"]]
        proofs = build_files(part, drafts, asked["chord_error"], desk.progress, desk.cancelled)
        sizes = {ending(draft): draft.stat().st_size for draft in drafts}
        files = {ending(draft): _kept(desk, draft) for draft in drafts}
    return {"proofs": proofs, "files": files, "sizes": sizes}


def survey(asked: dict[str, Any], desk: Desk) -> dict[str, Any]:
    """Try `recipe` over the ranges `over`, `exact` or not."""
    over = [Over.model_validate(one) for one in asked["over"]]
    return survey_of(
        read_recipe(asked["recipe"]),
        over,
        desk.progress,
        desk.cancelled,
        lambda found: desk.show(found.as_dict),
        asked["exact"],
    ).as_dict()


def run(asked: dict[str, Any], desk: Desk) -> dict[str, Any]:
    """Run `recipe` through `tracks`, and keep the animation, the pictures and the video."""
    tracks = [Track.model_validate(one) for one in asked["tracks"]]
    recipe = read_recipe(asked["recipe"])
    assert isinstance(recipe, Recipe)

    def most(share: float, step: str) -> None:
        desk.progress(0.7 * share, step)

    film = run_through(recipe, tracks, asked["frames"], asked["seconds"], most, desk.cancelled)
    desk.progress(0.75, "drawing")
    images = pictures_of(film)
    made = {
        ".glb": glb_of(film),
        ".zip": zip_of(images),
        ".webp": video_of(images, asked["seconds"]),
    }
    files = {suffix: keep(desk.key, desk.attempt, f"run{suffix}", data) for suffix, data in made.items()}
    return {"run": film.run.as_dict(), "files": files}


def trace(asked: dict[str, Any], desk: Desk) -> dict[str, Any]:
    """Trace the kept `surface` of a body that is called `name`."""
    with kept().open(asked["surface"]) as stream:
        surface = unpacked(stream.read())
    return asdict(traced_in_child(surface, asked["name"], desk.progress, desk.cancelled))


def _kept(desk: Desk, draft: Path) -> str:
    with draft.open("rb") as stream:
        return keep(desk.key, desk.attempt, draft.name, stream)


KINDS: dict[str, Callable[[dict[str, Any], Desk], dict[str, Any]]] = {
    "build": build,
    "survey": survey,
    "run": run,
    "trace": trace,
}

"""What is done with builds: asked for, run, cancelled."""

from __future__ import annotations

import time
import uuid
from collections.abc import Sequence

from designs.services import head
from django.utils import timezone
from metaspira.checks import report_on
from metaspira.formats import FORMATS
from metaspira.part import part_of
from metaspira.problems import Problem, RecipeError
from metaspira.solids.building import (
    LEAST_CHORD_ERROR,
    MOST_CHORD_ERROR,
    BuildCancelled,
    BuildError,
    build_files,
)

from builds.models import USUAL_FORMATS, Build

_State = Build.State


def request_build(
    design_id: uuid.UUID,
    formats: Sequence[str] = USUAL_FORMATS,
    chord_error: float | None = None,
) -> Build:
    """A build of the design's newest revision, queued. Raises RecipeError where it cannot be used, or
    where the formats or the chord error (mm) of the meshes cannot."""
    from builds.tasks import run_build

    _demand(formats, chord_error)

    revision = head(design_id)
    part_of(revision.recipe)
    build = Build.objects.create(
        revision=revision, formats=list(dict.fromkeys(formats)), chord_error=chord_error
    )
    run_build(str(build.id))
    return build


def cancel(build_id: uuid.UUID) -> Build:
    """Stop a build that waits or runs; one that is finished stays as it is."""
    waiting = Build.objects.filter(pk=build_id, state=_State.QUEUED)
    waiting.update(state=_State.CANCELLED, cancel_wanted=True, finished=timezone.now())
    Build.objects.filter(pk=build_id, state=_State.RUNNING).update(cancel_wanted=True)
    return Build.objects.get(pk=build_id)


def run(build_id: uuid.UUID) -> None:
    """Check, build, prove and keep the files of a queued build."""
    started = Build.objects.filter(pk=build_id, state=_State.QUEUED).update(
        state=_State.RUNNING, step="checking"
    )
    if not started:
        return
    build = Build.objects.select_related("revision").get(pk=build_id)
    try:
        proofs = _build(build)
    except BuildCancelled:
        _finish(build, _State.CANCELLED, step="cancelled")
    except (BuildError, RecipeError) as error:
        _finish(build, _State.FAILED, error=str(error))
    except Exception as error:
        _finish(build, _State.FAILED, error=f"an unexpected fault ({type(error).__name__})")
        raise
    else:
        _finish(build, _State.DONE, proofs=proofs, progress=1.0, step="proven")


def fail_interrupted() -> None:
    """Mark the builds that ran when the worker last stopped; they do not run any more."""
    Build.objects.filter(state=_State.RUNNING).update(
        state=_State.FAILED, error="the worker was stopped; build again", finished=timezone.now()
    )


def _demand(formats: Sequence[str], chord_error: float | None) -> None:
    wrong = next((name for name in formats if name not in FORMATS), None)
    if wrong is not None or not formats:
        given = f"“{wrong}” is not a format made here" if wrong else "no format is asked for"
        raise RecipeError(Problem("/formats", given, f"use {', '.join(FORMATS)}"))
    if chord_error is not None and not LEAST_CHORD_ERROR <= chord_error <= MOST_CHORD_ERROR:
        raise RecipeError(
            Problem("/chord_error", f"a chord error of {chord_error:g} mm is out of range", "use 0.01")
        )


def _build(build: Build) -> dict[str, object]:
    part = part_of(build.revision.recipe)
    report = report_on(part, with_remedies=False)
    if report.verdict == "stop":
        stops = ", ".join(check.title for check in report.checks if check.verdict == "stop")
        raise BuildError(f"a check says stop ({stops}); take its remedy, then build")
    files = [build.file(suffix) for suffix in build.formats]
    files[0].parent.mkdir(parents=True, exist_ok=True)
    told = 0.0
    asked = 0.0
    wanted = False

    def progress(share: float, step: str) -> None:
        nonlocal told
        if time.monotonic() - told > 0.25:
            told = time.monotonic()
            Build.objects.filter(pk=build.pk).update(progress=share, step=step)

    def cancelled() -> bool:
        nonlocal asked, wanted
        if time.monotonic() - asked > 0.25:
            asked = time.monotonic()
            wanted = Build.objects.filter(pk=build.pk, cancel_wanted=True).exists()
        return wanted

    return dict(build_files(part, files, build.chord_error, progress, cancelled))


def _finish(build: Build, state: str, **fields: object) -> None:
    Build.objects.filter(pk=build.pk).update(state=state, finished=timezone.now(), **fields)

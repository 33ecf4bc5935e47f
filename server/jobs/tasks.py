"""The one task of the workers."""

from typing import Any

from huey.contrib.djhuey import on_startup, task
from metaspira.formats import limited
from metaspira.outputs import building
from metaspira.processes import warm

from jobs.working import work

NEEDED = (*building.LOADED, *limited.LOADED, "metaspira.studies.survey", "metaspira.studies.trace")
"""The modules that the processes of all jobs need."""


@on_startup()  # type: ignore[untyped-decorator]
def ready() -> None:
    """Load once, for all the processes that work on jobs, what they need: the kernel above all."""
    warm(*NEEDED)


@task()  # type: ignore[untyped-decorator]
def run_job(kind: str, key: str, attempt: int, asked: dict[str, Any]) -> None:
    """Make one attempt at a job."""
    work(kind, key, attempt, asked)

"""The one task of the workers."""

from typing import Any

from huey.contrib.djhuey import task

from jobs.working import work


@task()  # type: ignore[untyped-decorator]
def run_job(kind: str, key: str, attempt: int, asked: dict[str, Any]) -> None:
    """Make one attempt at a job."""
    work(kind, key, attempt, asked)

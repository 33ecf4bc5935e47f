"""The tasks of the worker."""

import uuid

from huey.contrib.djhuey import db_task

from builds import services


@db_task()  # type: ignore[untyped-decorator]
def run_build(build_id: str) -> None:
    """Run one build."""
    services.run(uuid.UUID(build_id))

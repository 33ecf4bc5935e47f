"""What is no longer needed is taken out: designs long off the shelf, ended jobs with their files, sessions
that are over."""

from __future__ import annotations

from datetime import datetime, timedelta

from designs.meshes import sweep
from designs.models import Design
from designs.services import purge
from django.conf import settings
from django.contrib.sessions.models import Session
from jobs.models import Job, kinds_of_job
from jobs.services import forget


def tidy(now: datetime) -> dict[str, int]:
    """Take out what is older than the settings keep it, and say how much of each."""
    long_gone = Design.objects.filter(deleted__lt=now - timedelta(days=settings.KEEP_DELETED))
    found = {"designs": 0, "jobs": 0}
    for design in long_gone:
        purge(design.pk)
        found["designs"] += 1
    for kind in kinds_of_job():
        old = kind._default_manager.exclude(state__in=Job.ACTIVE)
        for job in old.filter(finished__lt=now - timedelta(days=settings.KEEP_JOBS)):
            forget(job)
            found["jobs"] += 1
    found["meshes"] = sweep()
    found["sessions"], _ = Session.objects.filter(expire_date__lt=now).delete()
    return found

"""Whether the server lives, whether it can work, and how much it holds: for supervisors, proxies and
Prometheus."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterator
from pathlib import Path

from designs.models import Design, Revision
from django.conf import settings
from django.db import connection
from django.db.models import Count
from django.http import HttpRequest, HttpResponse, JsonResponse
from huey.contrib.djhuey import HUEY
from jobs.models import kinds_of_job
from prometheus_client import CollectorRegistry, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.exposition import CONTENT_TYPE_LATEST

_LEAST_FREE = 200_000_000
_HERE = ("127.0.0.1", "::1")


def live(request: HttpRequest) -> HttpResponse:
    """The process answers."""
    return JsonResponse({"live": True})


def ready(request: HttpRequest) -> HttpResponse:
    """The database, the queue and the disk can be worked with; 503 where one cannot."""
    found = {"database": _works(_database), "queue": _works(_queue), "disk": _works(_disk)}
    return JsonResponse(found, status=200 if all(found.values()) else 503)


def metrics(request: HttpRequest) -> HttpResponse:
    """Counts and sizes in Prometheus' text format, for this machine alone."""
    if request.META.get("REMOTE_ADDR") not in _HERE:
        return HttpResponse(status=403)
    registry = CollectorRegistry()
    registry.register(_Collector())
    return HttpResponse(generate_latest(registry), content_type=CONTENT_TYPE_LATEST)


class _Collector:
    def collect(self) -> Iterator[GaugeMetricFamily]:
        """What is counted at the moment of asking, so that it is the same whichever process is asked."""
        counts = GaugeMetricFamily("metaspira_kept", "Things kept", labels=["what"])
        counts.add_metric(["designs"], Design.objects.filter(deleted=None).count())
        counts.add_metric(["designs off the shelf"], Design.objects.exclude(deleted=None).count())
        counts.add_metric(["revisions"], Revision.objects.count())
        yield counts
        jobs = GaugeMetricFamily("metaspira_jobs", "Jobs", labels=["kind", "state"])
        for kind in kinds_of_job():
            for row in kind._default_manager.order_by().values("state").annotate(count=Count("pk")):
                jobs.add_metric([kind.kind, row["state"]], row["count"])
        yield jobs
        sizes = GaugeMetricFamily("metaspira_disk_bytes", "Disk in use", labels=["what"])
        for name, size in disk_use().items():
            sizes.add_metric([name], size)
        yield sizes
        yield GaugeMetricFamily(
            "metaspira_disk_free_bytes", "Disk that is free", shutil.disk_usage(settings.DATA).free
        )


def disk_use() -> dict[str, int]:
    """Bytes on the disk of the database, the queue, the files of jobs and what is kept to be quick."""
    data: Path = settings.DATA
    return {
        "database": sum(file.stat().st_size for file in data.glob("metaspira.sqlite3*")),
        "queue": sum(file.stat().st_size for file in data.glob("tasks.sqlite3*")),
        **{name: _size_of(data / name) for name in ("builds", "pictures", "verdicts", "limits")},
    }


def _size_of(folder: Path) -> int:
    return sum(file.stat().st_size for file in folder.rglob("*") if file.is_file())


def _works(ask: Callable[[], bool]) -> bool:
    try:
        return ask()
    except Exception:
        return False


def _database() -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    return True


def _queue() -> bool:
    return HUEY.pending_count() >= 0


def _disk() -> bool:
    return shutil.disk_usage(settings.DATA).free > _LEAST_FREE

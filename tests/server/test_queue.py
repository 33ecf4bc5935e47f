"""Who is served first: everybody in turn, however much one of them asks for."""

import pytest
from builds.models import Build
from builds.services import request_build
from designs import services as designs
from django.core.cache import cache
from huey.contrib.djhuey import HUEY
from jobs import board
from jobs.services import looked_after, place_of
from metaspira.problems import RecipeError
from metaspira.studies.survey import Over
from surveys.services import request_survey

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def queue():
    """The real queue, empty."""
    HUEY.flush()
    cache.clear()
    yield HUEY
    HUEY.flush()


def taken(queue):
    """The jobs in the order in which workers take them."""
    found = []
    while (task := queue.dequeue()) is not None:
        found.append(task.args[1])
    return found


def test_one_job_of_another_is_taken_before_the_many_of_one(spring, queue):
    design = designs.create(spring).design_id
    many = [request_build(design, asked_by="1") for _ in range(40)]
    one = request_build(design, asked_by="2")
    survey = request_survey(spring, [Over(input="/path/pitch", low=5, high=6, count=2)], "3")
    assert [place_of(job) for job in (many[0], one, survey, many[1], many[39])] == [1, 2, 3, 4, 42]
    order = taken(queue)
    assert order == [str(job.pk) for job in (many[0], one, survey, *many[1:])]


def test_a_job_tells_its_place_until_a_worker_takes_it(client, spring, queue):
    design = designs.create(spring).design_id
    first, second = (
        client.post(f"/api/designs/{design}/builds", {}, "application/json").json() for _ in range(2)
    )
    assert (first["place"], first["step"]) == (1, "waiting")
    assert (second["place"], second["step"]) == (2, "waiting, number 2 in the queue")
    board.Desk(first["id"], 1).progress(0.4, "building")
    assert client.get(f"/api/jobs/{first['id']}").json()["place"] is None
    assert client.get(f"/api/jobs/{second['id']}").json()["place"] == 1


def test_what_nobody_watches_gives_its_place_up(spring, queue):
    design = designs.create(spring).design_id
    left, mine = (request_build(design, asked_by=name) for name in ("1", "2"))
    assert place_of(mine) == 2
    board.end(str(left.pk), board.Ended(1, "cancelled", {}, ""))
    cache.clear()
    assert place_of(looked_after(Build, mine.pk)) == 1


def test_a_person_has_so_many_jobs_and_no_more(client, spring, queue, settings):
    settings.MOST_JOBS = 2
    design = designs.create(spring).design_id
    for _ in range(2):
        request_build(design)
    refused = client.post(f"/api/designs/{design}/builds", {}, "application/json")
    assert refused.status_code == 422
    assert "under way" in refused.json()["problems"][0]["reason"]
    with pytest.raises(RecipeError, match="2 jobs of yours are under way"):
        request_build(design)
    assert request_build(design, asked_by="somebody else").turn == 0

"""Reference bodies beside many revisions: kept once, told whole, and out and in with a shelf."""

import copy
import importlib
import json
import tracemalloc

import pytest
import trimesh
from designs import services
from designs.meshes import packed, sweep
from designs.models import Design, Mesh, Revision
from django.apps import apps
from django.db import connection

from tests.server.test_archive import brought, held, kept, zipped

pytestmark = pytest.mark.django_db


def ball(subdivisions):
    """A ball of 20 · 4ⁿ faces that a spring has beside it."""
    shape = trimesh.creation.icosphere(subdivisions, 3)
    mesh = {"vertices": shape.vertices.round(6).tolist(), "faces": shape.faces.tolist()}
    return {"name": "ball", "mesh": mesh, "at": [90, 0, 0]}


@pytest.fixture
def beside(spring):
    return {**spring, "fit": {"bodies": [ball(2)]}}


def many(recipe, count):
    """A design of many revisions that differ in their notes, written at once."""
    design = services.create(recipe).design_id
    stored = packed(recipe)
    rows = [
        Revision(design_id=design, number=n, kept={**stored, "note": str(n)}, verdict="clear")
        for n in range(2, count + 1)
    ]
    Revision.objects.bulk_create(rows, batch_size=500)
    Design.objects.filter(pk=design).update(head=count)
    return design


def size():
    """Bytes of the rows of the designs, as SQLite keeps them."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT (SELECT SUM(LENGTH(kept)) FROM designs_revision), (SELECT SUM(LENGTH(triangles)) "
            "FROM designs_mesh)"
        )
        revisions, meshes = cursor.fetchone()
    return revisions, meshes


def test_a_recipe_comes_back_as_it_was_typed(client, beside):
    made = client.post("/api/designs", {"recipe": beside}, "application/json").json()
    assert client.get(f"/api/designs/{made['id']}").json()["recipe"] == beside
    assert client.get(f"/api/designs/{made['id']}/revisions/1").json()["recipe"] == beside
    assert json.loads(client.get(f"/api/designs/{made['id']}/recipe").content) == beside
    again = {"recipe": beside, "based_on": 1}
    saved = client.put(f"/api/designs/{made['id']}", again, "application/json").json()
    assert saved["revision"] == 1


def test_a_revision_beside_a_large_body_costs_under_a_kilobyte(spring):
    beside = {**spring, "fit": {"bodies": [ball(4)]}}
    assert len(beside["fit"]["bodies"][0]["mesh"]["faces"]) > 5000
    design = services.create(beside).design_id
    first, mesh = size()
    assert mesh > 100_000
    for n in range(3):
        services.save(design, {**beside, "note": f"{n}"}, n + 1)
    after, meshes = size()
    assert (after - first) / 3 < 1000
    assert meshes == mesh


def test_a_mesh_goes_with_the_last_revision_that_has_it(beside):
    design, other = (services.create(beside).design_id for _ in range(2))
    for key in (design, other):
        assert Mesh.objects.count() == 1
        services.delete(key)
        services.purge(key)
        sweep()
    assert not Mesh.objects.exists()


@pytest.mark.parametrize(
    "bodies",
    [
        None,
        "x",
        [1],
        [{"mesh": 1}],
        [{"mesh": {"sha256": "ab"}}],
        [{"mesh": {"vertices": 1, "faces": 2}}],
    ],
)
def test_what_is_no_body_is_kept_as_it_is(client, spring, bodies):
    recipe = {**spring, "fit": {"bodies": bodies}}
    made = client.post("/api/designs", {"recipe": recipe}, "application/json").json()
    assert client.get(f"/api/designs/{made['id']}").json()["recipe"] == recipe


def test_revisions_from_before_are_kept_by_digest(beside):
    """The migration on rows whose recipes still hold their meshes."""
    made = services.create(beside)
    Revision.objects.filter(pk=made.pk).update(kept=beside)
    Mesh.objects.all().delete()
    importlib.import_module("designs.migrations.0002_meshes").name_meshes(apps, None)
    revision = Revision.objects.get(pk=made.pk)
    assert set(revision.kept["fit"]["bodies"][0]["mesh"]) == {"sha256"}
    assert revision.recipe == beside


def test_revisions_are_listed_by_pages_without_their_recipes(client, spring, django_assert_num_queries):
    design = many(spring, 10_000)
    address = f"/api/designs/{design}/revisions"
    with django_assert_num_queries(2) as asked:
        last = client.get(address).json()
    assert not any("kept" in query["sql"] for query in asked.captured_queries)
    assert [row["number"] for row in last] == list(range(9901, 10_001))
    assert [row["number"] for row in client.get(f"{address}?before=9901&limit=2").json()] == [
        9899,
        9900,
    ]
    assert client.get(f"{address}?before=1").json() == []
    assert client.get(f"{address}?limit=0").status_code == 422


@pytest.mark.thorough
def test_a_shelf_of_many_revisions_beside_a_body_goes_out_and_comes_back(client, spring):
    beside = {**spring, "fit": {"bodies": [ball(4)]}}
    design = many(beside, 1500)
    tracemalloc.start()
    data = kept(client)
    Design.objects.all().delete()
    Mesh.objects.all().delete()
    told = brought(client, data)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert told.json()["added"] == ["Test spring"]
    assert peak < 300e6
    assert Revision.objects.filter(design=design).count() == 1500
    assert Revision.objects.get(design=design, number=1500).recipe == {**beside, "note": "1500"}
    assert Mesh.objects.count() == 1


def rewritten(data, change):
    """An archive with its members changed."""
    members = held(data)
    change(members)
    return zipped(members)


def mesh_in(members):
    return next(name for name in members if name.startswith("meshes/"))


def test_an_archive_whose_recipes_hold_their_meshes_is_taken_in(client, beside):
    design = services.create(beside).design_id

    def older(members):
        mesh = members.pop(mesh_in(members))
        members["shelf.json"]["format"] = "metaspira-shelf/1"
        members[f"designs/{design}/1.spira.json"]["fit"]["bodies"][0]["mesh"] = mesh

    data = rewritten(kept(client), older)
    assert brought(client, data).json()["same"] == ["Test spring"]
    Design.objects.all().delete()
    Mesh.objects.all().delete()
    assert brought(client, data).json()["added"] == ["Test spring"]
    assert services.head(design).recipe == beside
    assert "sha256" in services.head(design).kept["fit"]["bodies"][0]["mesh"]


@pytest.mark.parametrize("fault", ["gone", "another", "no mesh"])
def test_an_archive_with_a_wrong_mesh_is_refused_whole(client, beside, fault):
    services.create(beside)

    def wrong(members):
        name = mesh_in(members)
        if fault == "gone":
            del members[name]
        else:
            members[name] = [] if fault == "no mesh" else copy.deepcopy(ball(1)["mesh"])

    data = rewritten(kept(client), wrong)
    Design.objects.all().delete()
    Mesh.objects.all().delete()
    answer = brought(client, data)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["remedy"]
    assert not Design.objects.exists()
    assert not Mesh.objects.exists()

"""A whole shelf, kept as a file and brought in."""

import io
import json
import zipfile

import pytest
from designs import services
from designs.models import Design
from django.core.files.uploadedfile import SimpleUploadedFile
from library.models import ThreadForm
from library.services import keep_form

pytestmark = pytest.mark.django_db


@pytest.fixture
def shelf(spring):
    """Two designs, one with three revisions and an unusable head, one taken off; and a form."""
    design = services.create(spring).design_id
    services.save(design, {**spring, "name": "Ünlike 7 × 8"}, 1)
    services.save(design, {**spring, "path": {"kind": "none"}}, 2)
    services.delete(services.create({**spring, "name": "Gone"}).design_id)
    flanks = {"kind": "flanks", "leading": 20, "trailing": 20, "height": 1.2, "crest": 1.6}
    keep_form("Cord", "mm", {"form": flanks, "diameter": 40, "pitch": 4})
    return design


def kept(client):
    answer = client.get("/api/shelf/archive")
    assert answer["Content-Disposition"] == 'attachment; filename="metaspira-shelf.zip"'
    return answer.content


def brought(client, data):
    return client.post("/api/shelf/archive", {"file": SimpleUploadedFile("shelf.zip", data)})


def held(data):
    with zipfile.ZipFile(io.BytesIO(data)) as file:
        return {name: json.loads(file.read(name)) for name in file.namelist()}


def rewritten(data, change):
    """An archive with its list changed."""
    members = held(data)
    change(members["shelf.json"])
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        for name, value in members.items():
            file.writestr(name, json.dumps(value))
    return out.getvalue()


def test_a_shelf_comes_back_whole(client, shelf):
    data = kept(client)
    Design.objects.all().delete()
    ThreadForm.objects.all().delete()
    told = brought(client, data).json()
    assert sorted(told["added"]) == ["Gone", "Test spring"]
    assert told["forms"] == ["Cord"]
    assert held(kept(client)) == held(data)
    assert [item["verdict"] for item in client.get("/api/designs").json()] == ["unusable"]


def test_what_is_here_goes_on_and_nothing_is_overwritten(client, shelf, spring):
    data = kept(client)
    assert sorted(brought(client, data).json()["same"]) == ["Gone", "Test spring"]
    services.save(shelf, {**spring, "note": "here"}, 3)
    assert len(brought(client, data).json()["same"]) == 2
    assert services.head(shelf).number == 4
    Design.objects.get(pk=shelf).revisions.filter(number__gt=1).delete()
    Design.objects.filter(pk=shelf).update(head=1)
    services.save(shelf, {**spring, "note": "another way"}, 1)
    assert brought(client, data).json()["beside"] == ["Test spring"]
    assert services.head(shelf).recipe["note"] == "another way"
    assert Design.objects.filter(name="Test spring").count() == 2
    Design.objects.get(pk=shelf).revisions.filter(number=2).delete()
    Design.objects.filter(pk=shelf).update(head=1)
    assert "Test spring" in brought(client, data).json()["continued"]
    assert services.head(shelf).number == 3


@pytest.mark.parametrize(
    "change",
    [
        lambda told: told.update(format="metaspira-shelf/9"),
        lambda told: told["designs"][0]["revisions"][0].update(recipe="../../etc/passwd"),
        lambda told: told["designs"][0]["revisions"][0].update(number=7),
        lambda told: told["designs"][0]["revisions"][0].update(wire_length="long"),
        lambda told: told["designs"][0].update(created="yesterday"),
        lambda told: told.update(more=1),
        lambda told: told["designs"].append(3),
    ],
)
def test_an_archive_that_is_not_right_changes_nothing(client, shelf, change):
    data = kept(client)
    Design.objects.all().delete()
    refused = brought(client, rewritten(data, change))
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["remedy"]
    assert not Design.objects.exists()


def bomb():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("shelf.json", b" " * 100_000_000)
    return out.getvalue()


@pytest.mark.parametrize("data", [b"", b"PK", b"\0" * 1000, b"{}", bomb()])
def test_what_is_no_archive_is_refused(client, data):
    assert brought(client, data).status_code == 422


@pytest.mark.parametrize("cut", [10, 200, -30, -1])
def test_a_damaged_archive_is_refused(client, shelf, cut):
    data = kept(client)
    Design.objects.all().delete()
    assert brought(client, data[:cut]).status_code == 422
    assert not Design.objects.exists()

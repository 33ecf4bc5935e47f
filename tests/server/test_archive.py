"""A whole shelf, kept as a file and brought in."""

import io
import json
import tracemalloc
import warnings
import zipfile

import pytest
from designs import archive, archived, services
from designs.models import Design, Revision
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from library.models import ThreadForm
from library.services import keep_form
from people.models import Deed, Share

pytestmark = pytest.mark.django_db


@pytest.fixture
def shelf(spring):
    """Two designs, one with three revisions and an unusable head, one taken off; and a form."""
    made = services.create(spring)
    services.tag(made.design, ["für Öl", "brass"])
    design = made.design_id
    services.save(design, {**spring, "name": "Ünlike 7 × 8"}, 1)
    services.save(design, {**spring, "path": {"kind": "none"}}, 2)
    services.delete(services.create({**spring, "name": "Gone"}).design_id)
    flanks = {"kind": "flanks", "leading": 20, "trailing": 20, "height": 1.2, "crest": 1.6}
    keep_form("Cord", "mm", {"form": flanks, "diameter": 40, "pitch": 4}, "")
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


def zipped(members):
    """An archive of these members."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        for name, value in members.items():
            file.writestr(name, json.dumps(value))
    return out.getvalue()


def rewritten(data, change):
    """An archive with its list changed."""
    members = held(data)
    change(members["shelf.json"])
    return zipped(members)


def without_verdicts(data):
    """What an archive holds but for verdicts and lengths, which are found anew."""
    members = held(data)
    for design in members["shelf.json"]["designs"]:
        for revision in design["revisions"]:
            del revision["verdict"], revision["wire_length"]
    return members


def test_a_shelf_comes_back_whole(client, shelf):
    data = kept(client)
    Design.objects.all().delete()
    ThreadForm.objects.all().delete()
    told = brought(client, data).json()
    assert sorted(told["added"]) == ["Gone", "Test spring"]
    assert told["forms"] == ["Cord"]
    assert without_verdicts(kept(client)) == without_verdicts(data)
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
        lambda told: told["designs"][0]["revisions"].append(
            {**told["designs"][0]["revisions"][0], "number": len(told["designs"][0]["revisions"]) + 1}
        ),
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


def test_what_an_archive_says_of_a_verdict_is_not_believed(client, shelf):
    data = kept(client)
    Design.objects.all().delete()

    def forged(told):
        for design in told["designs"]:
            for revision in design["revisions"]:
                revision.update(verdict="clear", wire_length=1e9)

    assert brought(client, rewritten(data, forged)).status_code == 200
    told = client.get(f"/api/designs/{shelf}/revisions").json()
    assert [revision["verdict"] for revision in told] == ["clear", "clear", "unusable"]
    assert told[0]["wire_length"] == pytest.approx(8 * ((20 * 3.14159265) ** 2 + 6**2) ** 0.5, rel=1e-6)


def test_of_many_designs_the_verdicts_are_found_as_the_shelf_is_shown(client, shelf, monkeypatch):
    """Where there is no time for them while the archive comes in: nothing of a thousand designs waits."""
    data = kept(client)
    Design.objects.all().delete()
    monkeypatch.setattr(archive, "_LOOKING_SECONDS", -1.0)
    monkeypatch.setattr(services, "_AT_ONCE", 0)
    assert brought(client, data).status_code == 200
    assert [item["verdict"] for item in client.get("/api/designs").json()] == ["unknown"]
    monkeypatch.setattr(services, "_AT_ONCE", 20)
    assert [item["verdict"] for item in client.get("/api/designs").json()] == ["unusable"]
    monkeypatch.undo()
    assert [item["verdict"] for item in client.get("/api/designs").json()] == ["unusable"]


def test_a_verdict_that_cannot_be_kept_now_does_not_refuse_the_shelf(client, shelf, monkeypatch):
    Revision.objects.update(verdict="unknown")

    def locked(*args, **kwargs):
        raise OperationalError("database is locked")

    monkeypatch.setattr(Revision, "save", locked)
    answer = client.get("/api/designs")
    assert answer.status_code == 200
    assert [item["verdict"] for item in answer.json()] == ["unusable"]
    monkeypatch.undo()
    assert set(Revision.objects.values_list("verdict", flat=True)) == {"unknown"}


def test_what_was_taken_off_comes_back_with_an_archive(client, shelf):
    data = kept(client)
    services.delete(shelf)
    assert brought(client, data).status_code == 200
    assert str(shelf) in [item["id"] for item in client.get("/api/designs").json()]


@pytest.mark.parametrize("gone", [True, False])
def test_a_design_put_back_by_an_archive_gets_its_deed(client, settings, spring, gone):
    settings.TEAM = True
    ben = get_user_model().objects.create_user("ben")
    client.force_login(ben)
    design = services.create(spring).design_id
    Share.objects.create(design_id=design, person=ben, role="own")
    data = kept(client)
    if gone:
        services.delete(design)
    assert brought(client, data).json()["same"] == ["Test spring"]
    assert list(Deed.objects.exclude(design=None).values_list("design", flat=True)) == [design] * gone


def test_all_of_an_archive_is_read_by_a_limited_child_first(client, shelf, monkeypatch):
    """Nothing is written before that child has said that all is well."""
    data = kept(client)
    Design.objects.all().delete()

    def refuse(seconds, memory, work, *given):
        assert (work, given) == (archived.examine, (data,))
        raise archived.refused("the file takes too much memory", "give another")

    monkeypatch.setattr("designs.archive.limited", refuse)
    assert brought(client, data).status_code == 422
    assert not Design.objects.exists()


@pytest.mark.parametrize("role", ["read", "edit", "own"])
def test_only_who_may_edit_goes_on_with_a_design(client, settings, spring, role):
    settings.TEAM = True
    ben = get_user_model().objects.create_user("ben")
    client.force_login(ben)
    design = services.create(spring).design_id
    Share.objects.create(design_id=design, person=ben, role=role)
    members = held(kept(client))
    (told,) = members["shelf.json"]["designs"]
    told["revisions"].append({**told["revisions"][0], "number": 2, "recipe": "further.json"})
    members["further.json"] = {**spring, "name": "Ben's"}
    answer = brought(client, zipped(members)).json()
    assert answer["continued" if role != "read" else "beside"] == ["Ben's"]
    assert services.head(design).number == (1 if role == "read" else 2)
    (deed, *_) = Deed.objects.exclude(design=None)
    assert (deed.design == design) == (role != "read")


def listed_often():
    """A small archive whose list names one member very often."""
    revision = {"created": "2026-01-01T00:00:00Z", "recipe": "one.json"}
    design = {
        "id": "7b0c1b7e-0000-4000-8000-000000000000",
        **dict.fromkeys(("created", "updated"), revision["created"]),
        "deleted": None,
        "revisions": [{**revision, "number": n + 1} for n in range(20_000)],
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("one.json", json.dumps({"note": " " * 900_000}))
        file.writestr(
            "shelf.json", json.dumps({"format": "metaspira-shelf/1", "designs": [design], "forms": []})
        )
    return out.getvalue()


def twice():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file, warnings.catch_warnings():
        warnings.simplefilter("ignore")
        file.writestr("shelf.json", "{}")
        file.writestr("shelf.json", "{}")
    return out.getvalue()


def many_bombs():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        for n in range(5):
            file.writestr(f"{n}.json", b" " * 100_000_000)
    return out.getvalue()


def bomb():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("shelf.json", b" " * 100_000_000)
    return out.getvalue()


@pytest.mark.parametrize(
    "made",
    [lambda: b"", lambda: b"PK", lambda: bytes(1000), lambda: b"{}", bomb, listed_often, twice, many_bombs],
)
def test_what_is_no_archive_is_refused(client, made):
    data = made()
    tracemalloc.start()
    assert brought(client, data).status_code == 422
    assert tracemalloc.get_traced_memory()[1] < 100_000_000
    tracemalloc.stop()


@pytest.mark.parametrize("cut", [10, 200, -30, -1])
def test_a_damaged_archive_is_refused(client, shelf, cut):
    data = kept(client)
    Design.objects.all().delete()
    assert brought(client, data[:cut]).status_code == 422
    assert not Design.objects.exists()

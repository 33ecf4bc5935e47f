"""The administration: for those who may, in team mode, and nobody else; and what a log tells."""

import json
import subprocess
import sys

import pytest
from builds.models import Build
from builds.services import request_build
from designs import services as designs
from django.contrib.auth import get_user_model
from people.models import Deed

from tests.running import ROOT, environment

PAGES = [
    "/admin/",
    "/admin/auth/user/",
    "/admin/auth/user/add/",
    "/admin/people/deed/",
    "/admin/people/token/",
    "/admin/people/share/",
    "/admin/designs/design/",
    "/admin/builds/build/",
    "/admin/surveys/survey/",
    "/admin/surveys/runthrough/",
]
pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("team")]


@pytest.fixture
def person():
    return get_user_model().objects.create_user("plain", password="oil")


@pytest.fixture
def administrator(client):
    found = get_user_model().objects.create_superuser("head", password="oil")
    client.force_login(found)
    return found


@pytest.mark.parametrize("address", PAGES)
def test_it_is_open_to_administrators_alone(client, person, address):
    assert client.get(address, follow=False).status_code in (302, 404)
    assert client.post(address, {"username": "x"}).status_code in (302, 403, 404)
    client.force_login(person)
    assert client.get(address, follow=True).status_code == 404
    person.is_staff = person.is_superuser = True
    person.save()
    assert client.get(address).status_code == 200


@pytest.mark.parametrize("address", PAGES)
def test_there_is_none_without_a_team(client, administrator, settings, address):
    settings.TEAM = False
    assert client.get(address, follow=True).status_code == 404


def test_it_has_no_sign_in_of_its_own(client, person):
    """Tries are counted at the workbench's."""
    answer = client.post("/admin/login/", {"username": "plain", "password": "oil"})
    assert answer.status_code == 302
    assert answer["Location"] == "/"
    assert "sessionid" not in answer.cookies


def test_a_person_is_deactivated_and_that_is_written_down(client, administrator, person):
    address = f"/admin/auth/user/{person.pk}/change/"
    assert client.post(address, {"username": "plain"}).status_code == 302
    person.refresh_from_db()
    assert not person.is_active
    deed = Deed.objects.get()
    assert (deed.person, deed.path, deed.status) == ("head", address, 302)


def test_deeds_cannot_be_changed(client, administrator):
    deed = Deed.objects.create(person="x", method="PUT", path="/", status=200)
    assert client.get(f"/admin/people/deed/{deed.pk}/delete/").status_code == 403
    assert client.post(f"/admin/people/deed/{deed.pk}/change/", {"person": "y"}).status_code == 403


def test_a_job_is_stopped_and_taken_out(client, administrator, spring, handed):
    build = request_build(designs.create(spring).design_id)
    pressed = {"action": "stop", "_selected_action": str(build.pk)}
    client.post("/admin/builds/build/", pressed)
    build.refresh_from_db()
    assert build.state == Build.State.CANCELLED
    client.post(f"/admin/builds/build/{build.pk}/delete/", {"post": "yes"})
    assert not Build.objects.exists()


def test_the_storage_in_use_is_shown(client, administrator):
    page = client.get("/admin/").content.decode()
    assert "Storage" in page
    assert "database" in page


@pytest.mark.thorough
def test_logs_are_lines_of_json_on_request(tmp_path):
    """A request and a fault in a process of its own, whose settings say so."""
    script = (
        "import django, logging; django.setup();"
        "from django.test import Client; from django.core.management import call_command;"
        "call_command('migrate', verbosity=0);"
        "Client().get('/api/designs', HTTP_HOST='localhost'); logging.getLogger('django').error('failed')"
    )
    env = {
        **environment(tmp_path, METASPIRA_LOGS="json"),
        "DJANGO_SETTINGS_MODULE": "metaspira_server.settings",
        "PYTHONPATH": str(ROOT / "server"),
    }
    told = subprocess.run([sys.executable, "-c", script], env=env, cwd=ROOT, capture_output=True, text=True)
    lines = [json.loads(line) for line in told.stderr.splitlines()]
    answered = next(line for line in lines if line["message"] == "answered")
    assert (answered["method"], answered["path"], answered["status"]) == ("GET", "/api/designs", 200)
    assert answered["milliseconds"] > 0
    assert [line["level"] for line in lines if line["message"] == "failed"] == ["ERROR"]


def test_a_workshop_that_cannot_be_read_is_told_when_the_server_starts(tmp_path):
    wrong = environment(tmp_path, METASPIRA_TITLE_BLOCK='{"maker": "x"}')
    check = [sys.executable, "server/manage.py", "check"]
    told = subprocess.run(check, cwd=ROOT, env=wrong, capture_output=True, text=True, check=False)
    assert told.returncode != 0
    assert "METASPIRA_TITLE_BLOCK/maker: " in told.stderr and "Traceback" not in told.stderr

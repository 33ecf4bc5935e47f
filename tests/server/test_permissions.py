"""Who may call what: every route of the API's description, by everybody there is."""

import http.client
import io
import json
import zipfile

import pytest
from builds.models import Build
from designs import services as designs
from django.contrib.auth import get_user_model
from django.core.files.base import ContentFile
from django.db import transaction
from django.test import Client
from jobs.files import kept
from library.services import keep_fit, keep_form
from metaspira.recipe.reading import read_recipe
from metaspira.studies.survey import Over, survey
from people import access
from people.models import Role, Share
from surveys.models import RunThrough, Survey
from traces.models import Trace

from tests.conftest import SPRING
from tests.running import ROOT, end, environment, free_port, manage, wait_for, web

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("team")]

CALLERS = (
    "anonymous",
    "stranger",
    "reader",
    "editor",
    "owner",
    "owner's read token",
    "owner's edit token",
)
_ANYBODY = (200, 200, 200, 200, 200, 200, 200)
_TEAM = (401, 200, 200, 200, 200, 200, 200)
_MAKES = (401, 200, 200, 200, 200, 403, 200)
_READS = (401, 404, 200, 200, 200, 200, 200)
_COPIES = (401, 404, 200, 200, 200, 403, 200)
_EDITS = (401, 404, 403, 200, 200, 403, 200)
_OWNS = (401, 404, 403, 403, 200, 403, 200)
_IN_PERSON = (401, 200, 200, 200, 200, 403, 403)
_MINE = (401, 404, 404, 404, 200, 200, 200)
_MINE_CHANGED = (401, 404, 404, 404, 200, 403, 200)
_FORM = (401, 403, 403, 403, 200, 403, 200)
_NOWHERE = (401, 404, 404, 404, 404, 404, 404)
_TOKEN = (401, 404, 404, 404, 200, 403, 403)
DESIGN = "/api/designs/{design_id}"
TABLE = {
    "GET /api/session": _ANYBODY,
    "POST /api/session": _ANYBODY,
    "DELETE /api/session": _ANYBODY,
    "GET /api/designs": _TEAM,
    "POST /api/designs": _MAKES,
    "GET /api/designs/gone": _TEAM,
    f"DELETE {DESIGN}/forever": _OWNS,
    f"GET {DESIGN}": _READS,
    f"PUT {DESIGN}": _EDITS,
    f"DELETE {DESIGN}": _OWNS,
    f"PUT {DESIGN}/name": _EDITS,
    f"PUT {DESIGN}/tags": _EDITS,
    f"POST {DESIGN}/copy": _COPIES,
    f"POST {DESIGN}/restore": _OWNS,
    f"GET {DESIGN}/recipe": _READS,
    f"GET {DESIGN}/revisions": _READS,
    f"GET {DESIGN}/revisions/{{number}}": _READS,
    f"GET {DESIGN}/revisions/{{number}}/picture": _READS,
    f"GET {DESIGN}/builds": _READS,
    f"POST {DESIGN}/builds": _EDITS,
    f"GET {DESIGN}/share": _READS,
    f"PUT {DESIGN}/share": _OWNS,
    f"DELETE {DESIGN}/share": _COPIES,
    f"GET {DESIGN}/deeds": _READS,
    "GET /api/tokens": _IN_PERSON,
    "POST /api/tokens": _IN_PERSON,
    "DELETE /api/tokens/{token_id}": _TOKEN,
    "PUT /api/session/password": _IN_PERSON,
    "GET /api/session/others": _IN_PERSON,
    "DELETE /api/session/others": _IN_PERSON,
    "GET /api/shelf/archive": _TEAM,
    "POST /api/shelf/archive": _MAKES,
    "GET /api/library/forms": _TEAM,
    "POST /api/library/forms": _MAKES,
    "DELETE /api/library/forms/{form_id}": _FORM,
    "GET /api/library/fits": _TEAM,
    "POST /api/library/fits": _MAKES,
    "DELETE /api/library/fits/{fit_id}": _FORM,
    "POST /api/jobs": _MAKES,
    "POST /api/jobs/traces": _MAKES,
    **dict.fromkeys(
        (
            "POST /api/parts/preview", "POST /api/parts/check", "POST /api/parts/slice", "POST /api/parts/drawing",
            "POST /api/parts/body", "POST /api/parts/curve", "POST /api/parts/fit-around", "POST /api/parts/weigh",
            "POST /api/parts/files/{key}", "POST /api/parts/inputs",
            "POST /api/parts/rename", "GET /api/parts/schema", "GET /api/parts/usual", "POST /api/parts/words", "POST /api/parts/converted", "GET /api/starts", "GET /api/verification", "GET /api/starts/{name}", "GET /api/starts/{name}/picture", "GET /api/starts/{name}/drawing", "GET /api/starts/scan/sample", "POST /api/compare", "POST /api/compare/body",
            "GET /api/springs/wires", "POST /api/springs/find", "POST /api/springs/beams", "POST /api/springs/exact", "POST /api/springs/scatter", "POST /api/springs/readings", "POST /api/workshop/readings",
            "GET /api/threads", "GET /api/threads/nearest", "GET /api/threads/measured", "POST /api/threads/judged", "POST /api/threads/check",
            "POST /api/workshop/coiling", "POST /api/workshop/wind",
            "POST /api/workshop/load",
        ),
        _TEAM,
    ),
}  # fmt: skip
JOB = "/api/jobs/{job_id}"
OF_JOBS = {
    f"GET {JOB}": {"build": _READS, "run": _MINE, "survey": _MINE, "trace": _MINE},
    f"POST {JOB}/cancel": {
        "build": _EDITS,
        "run": _MINE_CHANGED,
        "survey": _MINE_CHANGED,
        "trace": _MINE_CHANGED,
    },
    f"GET {JOB}/contents": {"build": _READS, "run": _NOWHERE, "survey": _NOWHERE, "trace": _NOWHERE},
    f"GET {JOB}/files/{{suffix}}": {"build": _READS, "run": _MINE, "survey": _MINE, "trace": _NOWHERE},
}
ROWS = [
    *((route, "build", row) for route, row in TABLE.items()),
    *((route, kind, row) for route, kinds in OF_JOBS.items() for kind, row in kinds.items()),
]
ROUTES = sorted(
    f"{method.upper()} {path}"
    for path, calls in json.loads((ROOT / "docs/api/openapi.json").read_text())["paths"].items()
    for method in calls
)


@pytest.fixture
def people():
    return {name: get_user_model().objects.create_user(name, password="oil") for name in CALLERS[1:5]}


@pytest.fixture(scope="module")
def found():
    return survey(read_recipe(SPRING), [Over(input="/path/pitch", low=5, high=6, count=2)]).as_dict()


@pytest.fixture
def things(people, spring, found):
    """One of each thing that an address can speak of, all of the owner."""
    owner = people["owner"]
    revision = designs.create(spring)
    for name in ("reader", "editor", "owner"):
        role = {"reader": Role.READ, "editor": Role.EDIT, "owner": Role.OWN}[name]
        Share.objects.create(design_id=revision.design_id, person=people[name], role=role)
    stored = kept().save("made/part", ContentFile(b"solid"))
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w") as opened:
        opened.writestr("manifest.json", '{"files": [], "left_out": []}')
    everything = kept().save("made/all", ContentFile(archive.getvalue()))
    files = {"files": {".step": stored, ".zip": everything}, "sizes": {".step": 5}, "proofs": {}}
    build = Build.objects.create(revision=revision, state="done", result=files)
    run = RunThrough.objects.create(
        recipe=spring,
        tracks=[],
        frames=2,
        seconds=1,
        asked_by=str(owner.pk),
        state="done",
        result=files,
    )
    asked = Survey.objects.create(recipe=spring, over=[], asked_by=str(owner.pk), state="done", result=found)
    trace = Trace.objects.create(name="drawer", surface="", asked_by=str(owner.pk), state="done")
    flanks = {"kind": "flanks", "leading": 20, "trailing": 20, "height": 1.2, "crest": 1.6}
    form = keep_form("Cord", "mm", {"form": flanks, "diameter": 40, "pitch": 4}, str(owner.pk))
    token, _ = access.new_token(owner, "spare", False, 1)
    return {
        "design_id": revision.design_id, "number": 1, "form_id": form.pk, "fit_id": keep_fit("P1", "brass", 0.1, str(owner.pk)).pk, "token_id": token.pk, "key": "path.csv", "name": "push",
        "jobs": {"build": (build.pk, "step"), "run": (run.pk, "step"), "survey": (asked.pk, "csv"), "trace": (trace.pk, "json")},
    }  # fmt: skip


@pytest.fixture
def callers(people):
    found = {"anonymous": Client()}
    for name, person in people.items():
        found[name] = Client()
        found[name].force_login(person)
    for name, may_edit in (("owner's read token", False), ("owner's edit token", True)):
        _, text = access.new_token(people["owner"], name, may_edit, 1)
        found[name] = Client(headers={"Authorization": f"Bearer {text}"})
    return found


def test_every_route_has_a_row_and_every_row_a_route():
    assert sorted([*TABLE, *OF_JOBS]) == ROUTES


@pytest.mark.parametrize(("route", "kind", "row"), ROWS)
def test_each_caller_gets_what_the_table_says(route, kind, row, callers, things, handed):
    method, path = route.split(" ")
    job, suffix = things["jobs"][kind]
    address = path.format(**things, job_id=job, suffix=suffix)
    told = []
    for name in CALLERS:
        with transaction.atomic():
            answer = callers[name].generic(method, address, "[]", "application/json")
            transaction.set_rollback(True)
        assert answer.status_code < 500
        told.append(answer.status_code if answer.status_code in (401, 403, 404) else 200)
    assert dict(zip(CALLERS, told, strict=True)) == dict(zip(CALLERS, row, strict=True))


def test_a_route_that_declares_nothing_is_closed(callers, rf):
    from ninja import NinjaAPI
    from people.permissions import Refused, closed

    other = NinjaAPI(urls_namespace="forgotten", auth=closed, docs_url=None, openapi_url=None)

    @other.get("/forgotten")
    def forgotten(request):
        return "open"

    @other.exception_handler(Refused)
    def refused(request, error):
        return other.create_response(request, error.reason, status=error.status)

    view = next(one.callback for one in other.urls[0] if str(one.pattern) == "forgotten")
    assert view(rf.get("/forgotten")).status_code == 403


@pytest.mark.parametrize("address", ["/api/openapi.json", "/api/reference"])
def test_the_description_of_the_api_is_for_the_team(callers, address):
    assert callers["anonymous"].get(address).status_code == 401
    assert callers["stranger"].get(address).status_code == 200


def test_a_design_that_is_not_there_is_told_like_one_that_is_not_yours(callers, things):
    unknown = "7b0c1b7e-0000-4000-8000-000000000000"
    told = [callers["stranger"].get(f"/api/designs/{key}") for key in (unknown, things["design_id"])]
    assert [answer.status_code for answer in told] == [404, 404]
    assert told[0].json() == told[1].json()


@pytest.mark.parametrize("header", ["SCRIPT_NAME", "Script-Name", "X-Forwarded-Prefix", "X-Script-Name", "X-Original-Url"])  # fmt: skip
def test_a_header_opens_no_door(callers, things, header):
    for address in (f"/api/designs/{things['design_id']}", f"/x/api/designs/{things['design_id']}"):
        answer = Client(headers={header: "/x"}, SCRIPT_NAME="/x").get(address)
        assert answer.status_code == 401 or b"<html" in b"".join(answer)


def test_what_a_proxy_says_is_believed_of_named_ones_alone(settings, callers):
    told = {"X-Forwarded-For": "10.0.0.9"}
    for n in range(33):
        Client(headers={**told, "X-Forwarded-For": f"10.0.0.{n}"}).post(
            "/api/session", {"name": f"n{n}", "password": "x"}, content_type="application/json"
        )
    refused = {"name": "last", "password": "x"}
    answer = Client(headers=told).post("/api/session", refused, content_type="application/json")
    assert answer.status_code == 429
    settings.PROXIES = frozenset({"127.0.0.1"})
    answer = Client(headers=told).post("/api/session", refused, content_type="application/json")
    assert answer.status_code == 401


def test_a_person_is_not_locked_out_from_elsewhere(settings, people):
    settings.PROXIES = frozenset({"127.0.0.1"})

    def tried(password, address):
        return Client(headers={"X-Forwarded-For": address}).post(
            "/api/session", {"name": "owner", "password": password}, content_type="application/json"
        )

    assert {tried("guess", "10.0.0.1").status_code for _ in range(14)} == {401, 429}
    assert tried("oil", "10.0.0.1").status_code == 429
    assert tried("oil", "10.0.0.2").status_code == 200


def test_a_token_ends(callers, people):
    from django.utils import timezone
    from people.models import Token

    assert callers["owner's edit token"].get("/api/designs").status_code == 200
    Token.objects.update(expires=timezone.now())
    assert callers["owner's edit token"].get("/api/designs").status_code == 401


def test_somebody_who_is_deactivated_is_out_at_once(callers, people):
    people["owner"].is_active = False
    people["owner"].save()
    for name in ("owner", "owner's edit token"):
        assert callers[name].get("/api/designs").status_code == 401


def test_sign_ins_exports_and_tokens_are_written_down(callers, people, things):
    from people.models import Deed

    Client().post("/api/session", {"name": "owner", "password": "no"}, content_type="application/json")
    callers["owner"].get("/api/shelf/archive")
    callers["owner"].post("/api/tokens", {"name": "night"}, content_type="application/json")
    told = [(deed.person, deed.method, deed.path, deed.status) for deed in Deed.objects.all()]
    assert told == [
        ("owner", "POST", "/api/tokens", 201),
        ("owner", "GET", "/api/shelf/archive", 200),
        ("owner", "POST", "/api/session", 401),
    ]


def test_leaving_a_share_and_changing_a_password(callers, people, things):
    address = f"/api/designs/{things['design_id']}"
    assert callers["reader"].delete(f"{address}/share").status_code == 204
    assert callers["reader"].get(address).status_code == 404
    assert callers["owner"].delete(f"{address}/share").status_code == 422
    elsewhere = Client()
    elsewhere.force_login(people["owner"])
    assert callers["owner"].get("/api/session/others").json()["others"] == 1
    assert callers["owner"].delete("/api/session/others").status_code == 204
    assert elsewhere.get(address).status_code == 401
    assert callers["owner"].get(address).status_code == 200
    for old, new, status in (("wrong", "brass and lamp oil", 422), ("oil", "short", 422), ("oil", "brass and lamp oil", 200)):  # fmt: skip
        body = json.dumps({"old": old, "new": new})
        answer = callers["owner"].put("/api/session/password", body, "application/json")
        assert answer.status_code == status
    assert callers["owner"].get(address).status_code == 200
    assert not get_user_model().objects.get(username="owner").check_password("oil")


def test_the_real_server_believes_no_header(tmp_path):
    env = environment(tmp_path, METASPIRA_TEAM="1")
    manage("migrate", env)
    port = free_port()
    process = web(env, port)
    try:
        wait_for(f"http://127.0.0.1:{port}/api/session")
        for name in (
            "SCRIPT_NAME",
            "SCRIPT-NAME",
            "PATH_INFO",
            "X-Forwarded-For",
            "X-Forwarded-Prefix",
        ):
            for value in ("/x", "/x/api/session", "/api/session"):
                for address in (
                    "/x/api/designs",
                    "/api/designs",
                    f"{value}/api/designs",
                    "/x/../api/designs",
                ):
                    status, told = raw(port, address, {name: value})
                    assert status != 200 or b"<html" in told, (name, value, address)
        assert raw(port, "/api/designs", {})[0] == 401
        for file in tmp_path.rglob("*"):
            assert not file.stat().st_mode & 0o077, file
    finally:
        end(process)


def raw(port, address, headers):
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
    connection.putrequest("GET", address, skip_accept_encoding=True)
    for name, value in headers.items():
        connection.putheader(name, value)
    connection.endheaders()
    answer = connection.getresponse()
    return answer.status, answer.read()

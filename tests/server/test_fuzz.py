"""No input makes the server fail: Schemathesis over the published schema, and designs with a value replaced
by a hostile one."""

import copy
import json
from pathlib import Path

import pytest
import schemathesis
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.wsgi import get_wsgi_application
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis.checks import not_a_server_error

ROOT = Path(__file__).resolve().parents[2]
DEMO = ROOT / "demo"
DESIGNS = [
    json.loads(path.read_text())
    for path in sorted(DEMO.glob("*.spira.json"), key=lambda path: int(path.name.split("-")[0]))
]
HOSTILE = (
    None,
    True,
    "",
    "x" * 70_000,
    "\u202e\u0000",
    "=1+1",
    "1e999",
    "-0",
    0,
    -1,
    1e-300,
    1e300,
    -1e18,
    2**63,
    0.1 + 0.2,
    [],
    [[]],
    {},
    {"kind": "coil"},
    {"total": 1e9},
    {"points": [[0, 0], [0, 0]]},
    [0, 0, 0],
    [1e200] * 3,
    "sqrt(-1)",
    "1/0",
    "t**9**9**9",
    "inch",
)

# the coverage phase writes out every branch of the recipe's schema, which takes minutes; what is not a recipe
# at random is a contradiction to the generator now and then, so these routes get recipes here, and broken
# ones below
config = schemathesis.Config.from_dict(
    {
        "phases": {"coverage": {"enabled": False}},
        "operations": [
            {
                "include-path-regex": "^/api/(parts|designs|compare|springs|threads|surveys|runs|workshop)",
                "generation": {"mode": "positive"},
            }
        ],
    }
)
schema = schemathesis.openapi.from_path(ROOT / "docs/api/openapi.json", config=config)
schema.app = get_wsgi_application()
hunt = settings(deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))


@pytest.mark.django_db
@schema.parametrize()
@settings(hunt, max_examples=4)
def test_no_input_breaks_the_server(case, handed):
    case.call_and_validate(checks=[not_a_server_error])


def places(value, at=()):
    """All places of a JSON value, and what is there."""
    yield at, value
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        yield from places(inner, (*at, key))


@st.composite
def broken_designs(draw):
    """A demo design, a value or two of which are hostile, gone, or somewhere else."""
    recipe = copy.deepcopy(draw(st.sampled_from(DESIGNS)))
    for _ in range(draw(st.integers(1, 2))):
        what = draw(st.sampled_from([*["scaled"] * 6, "value", "value", "gone", "moved", "added"]))
        found = {at: value for at, value in places(recipe) if at}
        if what == "scaled":
            found = {at: value for at, value in found.items() if type(value) in (int, float)} or found
        at = draw(st.sampled_from(list(found)))
        holder = recipe
        for key in at[:-1]:
            holder = holder[key]
        if what == "scaled" and type(found[at]) in (int, float):
            holder[at[-1]] = found[at] * draw(st.sampled_from([-1, 0, 1e-3, 0.4, 1.3, 3]))
        elif what == "gone":
            del holder[at[-1]]
        elif what == "added" and isinstance(holder, dict):
            holder[draw(st.text(max_size=4))] = draw(st.sampled_from(HOSTILE))
        elif what == "moved":
            holder[at[-1]] = copy.deepcopy(draw(st.sampled_from(list(recipe.values()))))
        else:
            holder[at[-1]] = draw(st.sampled_from(HOSTILE))
    return recipe


@pytest.mark.thorough(only=["files/drawing.svg", "files/sheet.html"])
@pytest.mark.django_db
@pytest.mark.parametrize(
    "route",
    [
        "check",
        "preview",
        "inputs",
        "weigh",
        *(f"files/{one}.svg" for one in ("path", "section", "drawing")),
        "files/sheet.html",
        "files/coiling.csv",
    ],
)
@settings(hunt, max_examples=20)
@given(recipe=broken_designs())
def test_a_broken_design_is_refused_in_words(client, route, recipe):
    """An answer, or a refusal with a place, a reason and a remedy."""
    answer = client.post(f"/api/parts/{route}", json.dumps(recipe), content_type="application/json")
    assert answer.status_code in (200, 413, 422), answer.content[:500]
    if answer.status_code != 200:
        assert all(problem["reason"].strip() for problem in answer.json()["problems"])


FILED = [
    route
    for route, ways in json.loads((DEMO.parent / "docs/api/openapi.json").read_text())["paths"].items()
    if "multipart/form-data" in ways.get("post", {}).get("requestBody", {}).get("content", {})
]
SUFFIXES = ("stl", "svg", "dxf", "csv", "step", "3mf", "glb", "ply", "zip")
NAMES = ("x", "x.", ".stl", "é\u202e.obj", *(f"x.{suffix}" for suffix in SUFFIXES))
CONTENTS = (
    b"",
    b"\x00" * 64,
    b"\xff",
    b"solid x\nendsolid",
    b"<svg/>",
    b"0\nEOF",
    b"1,2,3\n4,5",
    b"PK\x03\x04",
    b"glTF",
    b"ply\n",
)
UNITS = ("", "mm", "parsec", "\x00", "m" * 5000, "[]")


@pytest.mark.django_db
@pytest.mark.parametrize("route", FILED)
@settings(hunt, max_examples=15)
@given(
    name=st.sampled_from(NAMES),
    data=st.sampled_from(CONTENTS) | st.binary(max_size=200),
    unit=st.sampled_from(UNITS),
    recipe=st.sampled_from(("", "{", "null", "[" * 9_000, json.dumps(DESIGNS[0]))),
)
def test_a_broken_file_is_refused_in_words(client, route, name, data, unit, recipe):
    """The same of every route that takes a file, whatever it is called and whatever stands beside it."""
    form = {"file": SimpleUploadedFile(name, data), "unit": unit, "recipe": recipe}
    answer = client.post(route, form)
    assert answer.status_code in (200, 413, 422), answer.content[:500]
    if answer.status_code != 200:
        assert all(
            problem["reason"].strip() and problem["remedy"].strip() for problem in answer.json()["problems"]
        )

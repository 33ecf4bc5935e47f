"""Every kind describes itself: its title, its words, its usual instance, and the titles of its fields, in the
schema."""

import json
import subprocess
import sys
from pathlib import Path

import pytest
from metaspira.checks import report_on, why_of
from metaspira.numbers.kind import Kind, tag_of, title_of
from metaspira.parts import make_part
from metaspira.paths.base import PathBase
from metaspira.problems import RecipeError
from metaspira.recipe.kinds import kinds, usual, usual_thread
from metaspira.recipe.model import json_schema
from metaspira.recipe.reading import read_recipe
from metaspira.recipe.sentences import sentences
from metaspira.sections.kinds import Blend
from metaspira.sections.kinds.base import HoleBase, SectionBase
from metaspira.sweep.stances import StanceBase
from metaspira.threads.lookup import read_thread

ROOT = Path(__file__).parents[2]
MM = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4}
COIL = {"kind": "coil", "diameter": "20 mm", "turns": 4, "pitch": "8 mm"}


def recipe(unit: str, **parts):
    return {
        "format": "metaspira/1",
        "unit": unit,
        "path": COIL,
        "section": {"kind": "round", "diameter": "2 mm"},
        **parts,
    }


def of(base: type[Kind]) -> list[str]:
    return sorted(name for name, kind in kinds().items() if issubclass(kind, base))


def verdict(data) -> str:
    return report_on(make_part(read_recipe(data)), False).verdict


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("name", of(SectionBase))
def test_a_usual_section_is_clear_in_every_unit(name, unit):
    section = usual(name, 2.0 / MM[unit])
    assert verdict(recipe(unit, section=section)) == "clear"


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("name", of(HoleBase))
def test_a_usual_hole_is_clear_in_every_unit(name, unit):
    section = {**usual("Round", 3.0 / MM[unit]), "holes": [usual(name, 1.0 / MM[unit])]}
    assert verdict(recipe(unit, section=section)) == "clear"


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("name", of(PathBase))
def test_a_usual_path_is_clear_in_every_unit(name, unit):
    path = usual(name, 30.0 / MM[unit])
    thin = {"kind": "round", "diameter": "0.5 mm"}
    assert verdict(recipe(unit, path=path, section=thin)) == "clear"


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("name", of(StanceBase))
def test_a_usual_stance_is_clear_in_every_unit(name, unit):
    stance = usual(name, 20.0 / MM[unit])
    path = usual("Straight", 5.0 / MM[unit]) if name == "Fixed" else COIL
    assert verdict(recipe(unit, stance=stance, path=path)) == "clear"


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("name", sorted(n for n in kinds() if n.endswith(("End", "Leg")) and n != "PlainEnd"))
def test_a_usual_end_or_leg_can_be_read_in_every_unit(name, unit):
    fresh = usual(name, 2.0 / MM[unit])
    if name.endswith("Leg"):
        data = recipe(unit, path={**COIL, "legs": {"end": [fresh]}})
    elif name in ("ChamferEnd", "FadeEnd", "UndercutEnd", "BluntEnd"):
        thread = {"designation": "M10", "start": fresh}
        data = {"format": "metaspira/1", "unit": unit, "thread": thread}
        data["host"] = usual("RodHost", 15.0 / MM[unit])
    else:
        use = {"as": "skin"} if fresh["kind"] == "open" else {"as": "body"}
        data = recipe(unit, ends={"start": fresh}, use=use)
    part = make_part(read_recipe(data))
    assert part.volume > 0 or fresh["kind"] == "open"


@pytest.mark.parametrize("unit", MM)
@pytest.mark.parametrize("name", ["RodHost", "BoreHost", "ConeHost", "TurnedHost"])
def test_a_usual_host_carries_a_thread_in_every_unit(name, unit):
    host = usual(name, 10.0 / MM[unit])
    whole = name in ("RodHost", "BoreHost")
    data = {
        "format": "metaspira/1",
        "unit": unit,
        "thread": {"designation": "M10"} if whole else {**own_thread(unit)},
        "host": host,
        "use": {"as": "body" if whole else "groove"},
    }
    assert make_part(read_recipe(data)).volume > 0


def own_thread(unit: str):
    form = usual("FlankForm", 1.0 / MM[unit])
    return {"form": form, "diameter": 10.0 / MM[unit], "pitch": 1.0 / MM[unit]}


@pytest.mark.parametrize("name", of(SectionBase) + of(HoleBase) + of(PathBase) + of(StanceBase))
def test_its_words_say_its_own_values(name):
    """Each number that makes a usual instance what it is stands in its sentence, with the recipe's unit where
    it is a length."""
    kind = kinds()[name]
    words = kind.model_validate(usual(name, 20.0)).words("in")
    assert words and words != kind.__name__
    if name in ("Round", "Tube", "Polygon", "Star", "Straight", "Coil"):
        assert "20" in words or "80 in" in words
        assert " in" in words


def test_what_is_not_a_kind_is_refused():
    for name, size in (("Rond", 2.0), ("Round", 0.0), ("Round", float("nan")), ("Round", 1e9)):
        with pytest.raises(RecipeError):
            usual(name, size)


def test_every_kind_and_field_has_a_title_in_the_schema():
    definitions = json_schema()["$defs"]
    for name, kind in kinds().items():
        assert definitions[name]["properties"]["kind"].get("const", tag_of(kind)) == tag_of(kind)
        assert definitions[name]["title"] == title_of(kind)
        assert name == "Finish" or title_of(kind) != name, f"{name} has no title"
        assert definitions[name]["description"]
        for key, field in definitions[name]["properties"].items():
            assert field.get("title") or "$ref" in field or "oneOf" in field, f"{name}.{key}"


def test_titles_are_unlike_where_they_are_chosen_between():
    for base in (SectionBase, HoleBase, PathBase, StanceBase):
        titles = [title_of(kinds()[name]) for name in of(base)]
        assert len(set(titles)) == len(titles)


def test_the_bench_has_the_schema():
    """Written anew by `metaspira schema > web/src/generated/recipe.schema.json`."""
    kept = (ROOT / "web/src/generated/recipe.schema.json").read_text()
    assert json.loads(kept) == json.loads(json.dumps(json_schema()))


def test_the_tables_of_kinds_in_the_docs_are_current():
    command = [sys.executable, ROOT / "tools/tables.py", "--check"]
    assert subprocess.run(command, check=False).returncode == 0


def test_the_bench_names_no_field_of_a_kind():
    """Fields of sections stand in the schema alone; what is drawn by hand is named here."""
    drawn = {"loops", "sections", "points", "diameter", "width", "height", "depth", "top", "base"}
    keys = {
        key
        for name in of(SectionBase)
        for key in list(kinds()[name].model_fields)[4:]
        if name != "Blend" and key not in drawn | {"kind", "sides", "wall", "flat", "fillet", "ease"}
    }
    assert {"across_flats", "lobe_diameter", "inner_diameter", "corner_radius"} <= keys
    mate = ROOT / "web/src/bench/thread/MateStep.tsx"  # a mate has flats of its own
    assert mate.exists()
    texts = {file: file.read_text() for file in (ROOT / "web/src/bench").rglob("*.tsx") if file != mate}
    for key in keys - {"corner_radius"}:
        assert not [file for file, text in texts.items() if key in text], key


@pytest.mark.parametrize("file", sorted((ROOT / "demo").rglob("*.spira.json")), ids=lambda f: f.name)
def test_every_demo_is_told_in_sentences(file):
    told = sentences(read_recipe(json.loads(file.read_text())))
    assert all(told.values())


def test_sentences_say_what_is_typed():
    data = recipe(
        "cm",
        path={**COIL, "legs": {"end": [{"kind": "straight", "length": 1}]}, "hand": "left"},
        fit={"bore": 3, "gap": "wire / 4"},
        variables={"wire": 0.2},
        section={"kind": "rectangle", "width": "wire", "height": 0.3},
        along={"twist": {"total": 90}, "size": {"from": 1, "to": 0.5}},
        strands={"count": 2},
    )
    assert sentences(read_recipe(data)) == {
        "fit": "in a 3 cm bore, keeping wire / 4 of air",
        "path": "left-hand coil, ⌀ 20 mm, 4 turns, pitch 8 mm, 1 leg",
        "section": "rectangle wire × 0.3 cm, across the wire",
        "stance": "outward: faces away from the axis",
        "along": "twist 90 °, size 1 to 0.5",
        "wires": "2 starts",
        "ends": "the whole path, flat ends",
        "load": "not a spring",
    }


def test_a_blend_is_no_part_of_a_blend():
    plain = json_schema()["$defs"]["BlendAt"]["properties"]["section"]["discriminator"]["mapping"]
    assert set(plain) == {tag_of(kinds()[n]) for n in of(SectionBase)} - {tag_of(Blend)}


@pytest.mark.parametrize(
    "designation", ["M10", "1/4-20 UNC", "G 1/2", "1/2-14 NPT", "Tr40x7", "R 3/4", "2 BA"]
)
def test_a_thread_gets_usual_parts_that_work(designation):
    thread = read_thread(designation)
    assert thread.sides == (("external",) if designation == "R 3/4" else ("external", "internal"))
    for side in thread.sides:
        recipe = usual_thread(thread, side)
        part = make_part(read_recipe(recipe))
        assert part.side == side
        assert report_on(part, False).verdict != "stop"
        assert recipe["unit"] == ("in" if thread.inch else "mm")


def test_figures_stand_in_the_order_of_what_stands_behind_them():
    for data in (recipe("mm"), usual_thread(read_thread("M10"), "external")):
        report = report_on(make_part(read_recipe(data)), False)
        assert list(report.figures) == list(why_of(report.part))

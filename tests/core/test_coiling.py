"""The coiling table, its springback, and the simulated former and load tester."""

import csv
import io
import json
import math
from pathlib import Path

import numpy as np
import pytest
from metaspira.cli import main
from metaspira.coiling.springback import bending
from metaspira.coiling.table import coiling_table, csv_of
from metaspira.devices.former import designed, wind
from metaspira.devices.tester import load_test
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sections.loops import Loop
from metaspira.sections.outline import ellipse


def test_a_rectangle_springs_back_by_gardiners_formula():
    # Gardiner, The spring back of metals, Trans. ASME 79 (1957), in plane stress:
    # κ'/κ = 1 − 3ξ + 4ξ³, ξ = σ / (E κ h).
    strip = Loop(points=((0, 0), (2, 0), (2, 10), (0, 10))).outline("")
    wire = bending(strip, 200_000, 800)
    for curvature in (1 / 20, 1 / 60, 1 / 200):
        share = 800 / (200_000 * curvature * 2)
        assert wire.released(curvature) / curvature == pytest.approx(1 - 3 * share + 4 * share**3, abs=1e-12)
    assert wire.inertia == pytest.approx(10 * 2**3 / 12)


def test_round_wire_is_elastic_at_first_and_has_its_plastic_moment_at_last():
    wire = bending(ellipse(3.0, 3.0), 206_000, 1500)
    assert wire.inertia == pytest.approx(math.pi * 3**4 / 64, rel=1e-9)
    assert wire.released(1e-3) == pytest.approx(0.0, abs=1e-12)
    assert wire.moment(1e3) == pytest.approx(1500 * 3**3 / 6, rel=1e-4)  # σ d³ / 6
    for curvature in (0.02, -0.1, 0.4):
        assert wire.released(wire.needed(curvature)) == pytest.approx(curvature, rel=1e-10)


@pytest.mark.parametrize(
    "change",
    [
        {},
        {"hand": "left"},
        {"end_diameter": 40, "turns": 5},
        {"closed": {"start": 1.5, "end": 1}},
    ],
    ids=["right", "left", "cone", "closed"],
)
def test_the_former_without_scatter_winds_what_was_designed(spring, change):
    spring["path"] |= change
    part = part_of(spring)
    table = coiling_table(part)
    meant, wound = designed(part).figures, wind(table, 1, 0.0).figures
    for name, value in meant.items():
        assert wound[name] == pytest.approx(value, rel=5e-3), name
    assert np.all(table.diameter < table.free_diameter)
    assert np.sign(table.pitch[0]) == (-1 if change.get("hand") == "left" else 1)


def test_scatter_is_seeded_and_a_softer_wire_springs_back_less(spring):
    table = coiling_table(part_of(spring))
    assert wind(table, 3, 0.05).figures == wind(table, 3, 0.05).figures
    diameters = [wind(table, seed, 0.05).figures["outside_diameter"] for seed in range(12)]
    assert 0.001 < np.std(diameters) / 22.5 < 0.02
    soft = coiling_table(part_of({**spring, "material": "copper"}))
    assert (soft.free_diameter - soft.diameter).max() < (table.free_diameter - table.diameter).max()


def test_what_was_wound_is_a_design_of_its_own(spring):
    part = part_of(spring)
    wound = part_of(wind(coiling_table(part), 1, 0.03).as_recipe(part))
    assert wound.path.length == pytest.approx(part.path.length, rel=0.01)
    assert wound.outline.area == pytest.approx(part.outline.area)


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"material": "oak"}, "/material"),
        ({"path": {"kind": "straight", "length": 20}, "stance": None}, "/path"),
        ({"along": {"size": {"from": 1, "to": 2}}}, "/along"),
        ({"strands": {"count": 3}}, "/wires"),
    ],
)
def test_what_a_former_cannot_wind_is_refused(spring, change, place):
    changed = {key: value for key, value in {**spring, **change}.items() if value is not None}
    with pytest.raises(RecipeError) as refused:
        coiling_table(part_of(changed))
    assert refused.value.problems[0].place.startswith(place)


def test_the_load_tester_reads_the_calculated_forces_but_for_its_faults(spring):
    spring["spring"] = {"kind": "compression", "wire": "EN 10270-1 SH", "points": [{"length": 35}]}
    made = part_of(spring).spring
    exact = load_test(made, 1, 0.0)
    assert exact.rate == pytest.approx(exact.calculated_rate, rel=2e-3)
    assert exact.calculated_rate == pytest.approx(made.rate, rel=1e-6)
    assert exact.readings[-1].length == 35
    rates = [load_test(made, seed, 0.02).rate / made.rate for seed in range(20)]
    assert 0.01 < np.std(rates) < 0.04
    reading = load_test(made, 2, 0.02).readings[5]
    assert reading.going > reading.back


def test_the_command_line_writes_the_table(spring, tmp_path, capsys):
    recipe, out = tmp_path / "spring.json", tmp_path / "table.csv"
    recipe.write_text(json.dumps(spring))
    with pytest.raises(SystemExit) as ended:
        main(["coil", str(recipe), "-o", str(out), "--json"])
    assert ended.value.code == 0
    assert "simulated" in json.loads(capsys.readouterr().out)
    rows = list(csv.reader(out.open(newline="")))
    assert {len(row) for row in rows} == {7}
    assert rows[0][0] == "feed mm"
    assert "springback" in rows[1][-1]
    assert rows[-1][1] == "cut"
    assert float(rows[-1][0]) == pytest.approx(part_of(spring).path.length, rel=1e-6)


def test_the_table_is_of_all_the_wire_that_is_cut():
    """With its hooks: EN 13906-2's developed length is that of the whole wire."""
    demo = Path(__file__).resolve().parents[2] / "demo" / "8-hoist-drag-spring.spira.json"
    part = part_of(json.loads(demo.read_text()))
    rows = list(csv.DictReader(io.StringIO(csv_of(part, coiling_table(part)), newline="")))
    feeds = [float(row["feed mm"]) for row in rows]
    assert feeds == sorted(feeds) and feeds[0] == 0
    assert feeds[-1] == pytest.approx(part.path.length, rel=1e-9)
    legs = [row for row in rows if row["piece"] == "leg"]
    assert len(legs) == 2 and all("full loop over the axis, bend R 3.5" in row["remark"] for row in legs)
    assert all(
        float(row["diameter setting mm"]) < float(row["diameter free mm"])
        for row in rows
        if row["piece"] == "turn"
    )


def test_closed_turns_are_told_apart(spring):
    spring["path"]["closed"] = {"start": 1, "end": 1}
    part = part_of(spring)
    rows = list(csv.DictReader(io.StringIO(csv_of(part, coiling_table(part)), newline="")))
    assert {row["piece"] for row in rows} == {"turn", "closed turn", "cut"}


def test_a_spring_that_works_warm_is_wound_of_cold_wire():
    made = {"kind": "compression", "wire": "EN 10270-1 SH", "points": []}
    path = {"kind": "coil", "diameter": 20, "turns": 8, "height": 50, "closed": {"start": 1, "end": 1}}
    recipe = {"format": "metaspira/1", "path": path, "section": {"kind": "round", "diameter": 2}}
    cold, warm = (
        coiling_table(part_of({**recipe, "spring": {**made, **more}})) for more in ({}, {"strength_left": 80})
    )
    assert warm.diameter == pytest.approx(cold.diameter)

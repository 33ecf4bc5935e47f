"""Springs under load: the sums against published examples, and the shape against the sums."""

import copy
import itertools
import json
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.drawings.marks import Dimension
from metaspira.gaps.extents import extents
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.sections.outline import polygon
from metaspira.sheets import sheet_of
from metaspira.springs.beam import Beams
from metaspira.springs.compared import compared
from metaspira.springs.fatigue import life_of
from metaspira.springs.shape import RoundWire, SectionWire
from metaspira.springs.tolerance import tolerances_of
from metaspira.springs.wire import wires
from metaspira.views.springs import spring_view
from pypdf import PdfReader

INCH, LBF, KPSI = 25.4, 4.4482216152605, 6.894757


SQUARE = {"kind": "rectangle", "width": 2, "height": 2}
SKIN = {"kind": "free", "loops": [{"points": [[0, 0], [2, 0]], "closed": False}]}
BOX = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)])


def spring(path=None, thick=2.0, ends=None, fit=None, **asked):
    return {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 20, "turns": 10, "pitch": 6, **(path or {})},
        "section": {"kind": "round", "diameter": thick},
        "ends": ends or {},
        "fit": fit or {},
        "spring": {"kind": "compression", **asked},
    }


CLOSED = {"closed": {"start": 1, "end": 1}}
GROUND = {"start": {"kind": "ground"}, "end": {"kind": "ground"}}
SHAPES = {
    "cylinder": {},
    "closed": CLOSED,
    "cone": {"diameter": 30, "end_diameter": 16, "turns": 7, "pitch": 7},
    "telescope": {"diameter": 60, "end_diameter": 16, "turns": 6, "pitch": 6},
    "barrel": {
        "diameter": {"shape": "barrel", "from": 16, "middle": 26},
        "turns": 8,
        "pitch": {"points": [[0, 2.05], [0.15, 7], [0.85, 7], [1, 2.05]], "ease": "smooth"},
    },
}


def test_rate_and_stress_are_those_of_the_closed_form():
    """EN 13906-1: R = G d⁴ / (8 D³ n), τ = 8 F D / (π d³), k = (w + 0.5) / (w − 0.75)."""
    found = part_of(spring(points=[{"force": 60}])).spring
    assert found.rate == pytest.approx(81500 * 16 / (8 * 8000 * 10), rel=1e-12)
    point = found.points[0]
    assert point.stress == pytest.approx(8 * 60 * 20 / (math.pi * 8), rel=1e-12)
    assert point.corrected == pytest.approx(point.stress * 10.5 / 9.25, rel=1e-12)
    assert point.deflection == pytest.approx(60 / found.rate, rel=1e-12)


def test_a_cone_starts_as_its_closed_form():
    """A cone of constant pitch, all turns open: R = G d⁴ / (16 n (r₁² + r₂²)(r₁ + r₂)) (Wahl, Mechanical
    Springs, from memory). On flat plates its cut ends bear on their tips, so that it begins softer; then its
    wide turns close first and the rate rises."""
    found = part_of(spring(SHAPES["cone"])).spring
    r1, r2 = 15.0, 8.0
    exact = 81500 * 16 / (16 * 7 * (r1**2 + r2**2) * (r1 + r2))
    assert compared(found).closed_rate == pytest.approx(exact, rel=1e-4)
    deflection, force = found.curve()
    rates = np.diff(force) / np.diff(deflection)
    assert rates[0] < exact
    assert rates[-1] > 2 * rates[0]


def pressed(part, force):
    return part.worked_to(part.spring.at_force(force).length)


@pytest.mark.parametrize("shape", SHAPES)
def test_the_shape_under_load_keeps_its_wire_and_has_the_length_of_the_sums(shape):
    part = part_of(spring(SHAPES[shape]))
    for share in (0.2, 0.7, 1.0):
        force = share * part.spring.block_force
        loaded = pressed(part, force)
        assert loaded.path.length == pytest.approx(part.path.length, rel=1e-6)
        height = extents(loaded.sweep).height
        assert height == pytest.approx(part.spring.free_length - part.spring.deflection_at(force), abs=0.03)
        outside = 2 * extents(loaded.sweep).outside_radius
        grown = part.spring.outside_diameter(part.spring.deflection_at(force))
        assert outside == pytest.approx(grown, abs=0.06)


@settings(max_examples=25, deadline=None)
@given(
    turns=st.floats(3, 20),
    pitch=st.floats(3, 12),
    wire=st.floats(0.8, 2.5),
    diameter=st.floats(12, 40),
    share=st.floats(0.05, 0.95),
)
def test_energy_is_the_area_and_more_turns_are_softer(turns, pitch, wire, diameter, share):
    path = {"diameter": diameter, "turns": turns, "pitch": pitch}
    found = part_of(spring(path, wire)).spring
    point = found.at_force(share * found.block_force)
    s = np.linspace(0, point.deflection, 2001)
    area = np.trapezoid([found.force_at(x) for x in s], s)
    assert point.energy == pytest.approx(area, rel=1e-6)
    assert found.at_length(point.length).force == pytest.approx(point.force, rel=1e-9)
    more = part_of(spring({**path, "turns": turns + 1}, wire)).spring
    assert more.rate < found.rate


def test_growth_is_that_of_the_standard():
    """EN 13906-1: at solid length the outside diameter grows by 0.1 (m² − 0.8 m d − 0.2 d²) / D, m
    the pitch."""
    found = part_of(spring()).spring
    grown = found.outside_diameter(found.deflection_to_block) - 22
    assert grown == pytest.approx(0.1 * (36 - 0.8 * 12 - 0.2 * 4) / 20, abs=0.06)


def test_frequency_and_buckling_are_those_of_the_standard():
    """EN 13906-1: f = 3560 d / (n D²) √(G/ρ) Hz, G in N/mm² and ρ in kg/dm³; a slender spring between hinged
    seats buckles where the formula says, one in short seats does not."""
    found = part_of(spring()).spring
    assert found.frequency == pytest.approx(3560 * 2 / (10 * 400) * math.sqrt(81500 / 7.85), rel=5e-3)
    assert found.buckling is None
    slender = part_of(spring({"turns": 30}, seat="hinged")).spring
    ratio = 81500 / 206000
    root = 1 - (1 - ratio) / (0.5 + ratio) * (math.pi * 20 / slender.free_length) ** 2
    exact = slender.free_length * 0.5 / (1 - ratio) * (1 - math.sqrt(root))
    assert slender.buckling == pytest.approx(exact, rel=1e-12)


def test_strengths_of_wire():
    """EN 10270-1 at 1 mm (lg 1 = 0), EN 10270-1's cap on DH, EN 10270-2 and -3, and ASTM A228's table; none
    checked against the printed standard. Every wire's strength falls with its diameter."""
    kept = wires()
    for name, diameter, least in (
        ("EN 10270-1 SH", 1.0, 2220), ("EN 10270-1 SM", 1.0, 1980), ("EN 10270-1 SL", 1.0, 1720),
        ("EN 10270-1 DH", 0.05, 2800), ("EN 10270-1 DH", 0.15, 2800), ("EN 10270-1 DH", 0.5, 2467),
        ("EN 10270-2 VDSiCr", 2.0, 2010), ("EN 10270-3 1.4310 NS", 1.0, 1900),
        ("EN 10270-3 1.4310 HS", 1.0, 2050), ("EN 10270-3 1.4568", 2.0, 1600),
        ("EN 10270-3 1.4568 aged", 2.0, 1900), ("ASTM A230", 3.0, 235 * KPSI),
        ("ASTM A228", 0.063 * INCH, 293 * KPSI), ("ASTM A228", 0.1 * INCH, 271 * KPSI),
        ("ASTM A228", 0.162 * INCH, 249 * KPSI),
    ):  # fmt: skip
        assert kept[name].strength(diameter) == pytest.approx(least, abs=1.0), name
    for wire in kept.values():
        sizes = np.geomspace(wire.least, wire.most, 40)
        strengths = [wire.strength(d) for d in sizes]
        assert all(a >= b - 15 for a, b in itertools.pairwise(strengths)), wire.name
        assert 500 < min(strengths) <= max(strengths) < 3500


def test_moduli_go_by_the_diameter_where_handbooks_step_them():
    """Shigley, Mechanical Engineering Design, table 10-5 (not checked against the printed book): A228 from
    29.5 and 12.0 Mpsi below 0.033 in to 28.0 and 11.6 above 0.125 in; A229 28.5 and 11.2 Mpsi."""
    music = wires()["ASTM A228"]
    for inches, elastic, shear in (
        (0.02, 29.5, 12.0),
        (0.05, 29.0, 11.85),
        (0.1, 28.5, 11.75),
        (0.2, 28.0, 11.6),
    ):
        found = music.cold_moduli(inches * INCH)
        assert found == pytest.approx((1e3 * KPSI * elastic, 1e3 * KPSI * shear), rel=1e-3)
    assert wires()["ASTM A229"].cold_moduli(2.0) == pytest.approx((28.5e3 * KPSI, 11.2e3 * KPSI), rel=1e-3)
    drawn, aged = (wires()[f"EN 10270-3 1.4568{state}"] for state in ("", " aged"))
    assert (drawn.E, drawn.G, aged.E, aged.G) == (190000, 73000, 200000, 78000)
    thin, thick = (part_of(spring(wire="ASTM A228", thick=d)).spring for d in (0.8, 2.0))
    assert thin.shear_modulus > thick.shear_modulus == music.shear_modulus(2.0, 20)


def test_the_tolerance_of_wire_is_its_standards():
    """EN 10218-2 by EN 10270-1 and ASTM A228, not checked against the printed standards."""
    assert wires()["EN 10270-1 SH"].tolerance(2.0) == 0.025
    assert wires()["ASTM A228"].tolerance(0.1 * INCH) == pytest.approx(0.001 * INCH, abs=1e-4)
    assert (
        part_of(
            spring(wire={"strength": 1700, "shear_modulus": 8e4, "elastic_modulus": 2e5})
        ).spring.wire.tolerance(2)
        == 0
    )


def test_life_is_goodmans_line():
    """From zero to the share of the strength that 10⁷ cycles allow, the line is used up exactly."""
    found = part_of(spring(points=[{"force": 0}, {"force": 60}], cycles=1e7)).spring
    greatest = 0.30 * found.strength
    force = 60 * greatest / found.points[1].corrected
    part = part_of(spring({"pitch": 8}, points=[{"force": 0}, {"force": force}], cycles=1e7))
    assert life_of(part.spring).utilisation == pytest.approx(1.0, rel=1e-9)
    peened = part_of(spring({"pitch": 8}, points=[{"force": 0}, {"force": force}], cycles=1e7, peened=True))
    assert life_of(peened.spring).utilisation < 0.9


def test_a_hook_and_a_leg_have_lives_of_their_own():
    """From zero to the share that the tables allow (Associated Spring's Design Handbook, from memory) the
    line is used up: 0.47 Rm in a hook that is bent 10⁶ times, 0.53 Rm in a torsion spring's wire wound 10⁵
    times."""
    hooked = part_of(extension(points=[{"force": 0}, {"force": 10}])).spring
    bent, _ = hooked.hook_stresses(10)
    force = 10 * 0.47 * hooked.strength / bent
    life = life_of(part_of(extension(points=[{"force": 0}, {"force": force}], cycles=1e6)).spring)
    assert life.where == "the hooks, bent" and life.utilisation == pytest.approx(1.0, rel=1e-9)

    turned = part_of(torsion(points=[{"torque": 0}, {"torque": 500}])).spring
    torque = 500 * 0.53 * turned.strength / turned.points[1].corrected
    asked = {"points": [{"torque": 0}, {"torque": torque}]}
    assert life_of(part_of(torsion(**asked, cycles=1e5)).spring).utilisation == pytest.approx(1.0)
    assert verdicts(torsion(**asked, cycles=1.2e5))["spring-fatigue"].verdict == "stop"
    peened = life_of(part_of(torsion(**asked, cycles=1e5, peened=True)).spring)
    assert peened.utilisation == pytest.approx(0.53 / 0.62)
    unknown = verdicts(torsion(**asked, cycles=1e8))["spring-fatigue"]
    assert unknown.verdict == "watch" and "No endurance is kept" in unknown.why


def test_closed_beyond_its_strength_a_spring_sets_by_what_its_wire_does_not_spring_back():
    """The torque of a bar that yields from its skin inwards, summed over its rings here."""
    assert part_of(spring()).spring.set_at_block == 0
    found = part_of(spring({"pitch": 13})).spring
    assert found.block.stress > found.allowed_solid
    ring = np.linspace(0, 1, 20001)
    twist = found.block.stress / found.allowed_solid
    torque = 4 * np.trapezoid(np.minimum(ring * twist, 1) * ring**2, ring)
    expected = found.deflection_to_block * (1 - torque / twist)
    assert found.set_at_block == pytest.approx(expected, rel=1e-4)
    assert "it sets by about" in verdicts(spring({"pitch": 13}))["spring-block"].why


def test_relaxation_takes_its_share_of_each_force():
    part = part_of(spring(points=[{"force": 50}], relaxation=8))
    assert spring_view(part)["loads"][0]["left"] == pytest.approx(46)
    texts = [row.value for section in sheet_of(part).sections for row in section.rows]
    assert "46 N" in texts


@pytest.mark.parametrize("kind", ["extension", "torsion"])
def test_any_spring_relaxes_and_is_weaker_when_warm_as_its_wires_maker_says(kind):
    make, point = (extension, {"force": 50}) if kind == "extension" else (torsion, {"torque": 500})
    cold = part_of(make(points=[point])).spring
    part = part_of(make(points=[point], relaxation=8, strength_left=85, temperature=100))
    warm = part.spring
    assert warm.strength == pytest.approx(0.85 * cold.strength)
    assert warm.allowed == pytest.approx(0.85 * cold.allowed)
    assert spring_view(part)["loads"][0]["left"] == pytest.approx(0.92 * warm.points[0].effort)
    rows = {row.label: row for section in sheet_of(part).sections for row in section.rows}
    assert rows["After relaxation"].value.startswith(f"{0.92 * warm.points[0].effort:.4g} N")
    assert "85 % of it left at 100 °C" in rows["Least tensile strength"].note
    assert "85 % of its strength is left" in report_on(part)["spring-temperature"].why


def verdicts(recipe):
    report = report_on(part_of(recipe))
    return {check.id: check for check in report.checks}


def test_each_limit_speaks_and_has_a_remedy_that_works():
    worst = {
        "spring-stress": spring({"pitch": 12}, points=[{"force": 170}]),
        "spring-block": spring({"pitch": 16}),
        "spring-travel": spring(points=[{"length": 23}]),
        "spring-fatigue": spring({"pitch": 9}, points=[{"force": 5}, {"force": 110}], cycles=1e7),
        "spring-buckling": spring({"turns": 30}, points=[{"length": 110}], seat="free"),
        "spring-bore": spring(points=[{"length": 30}], fit={"bore": 22.05}),
        "spring-index": spring({"diameter": 45}),
        "spring-wire": spring({"diameter": 2, "pitch": 1}, 0.2),
    }
    for name, recipe in worst.items():
        found = verdicts(recipe)[name]
        assert found.verdict != "clear", name
        assert found.remedies, name


def test_a_load_beyond_block_says_so():
    found = verdicts(spring(points=[{"force": 500}]))["spring-travel"]
    assert found.verdict == "stop"
    assert "beyond" in found.why
    found = verdicts(spring(points=[{"length": 100}]))["spring-travel"]
    assert (found.verdict, "longer than the free spring" in found.why) == ("stop", True)


@pytest.mark.parametrize(
    ("recipe", "place"),
    [
        (spring(wire={"strength": -1, "shear_modulus": 1, "elastic_modulus": 1}), "/spring/wire/strength"),
        (spring(points=[{}]), "/spring/points/0"),
        (spring(points=[{"length": 10, "force": 3}]), "/spring/points/0"),
        (spring({"base": {"kind": "oval", "depth": 12}}), "/spring/kind"),
        ({**spring(), "section": SKIN, "use": {"as": "skin"}}, "/section"),
        ({**spring(), "along": {"size": {"from": 1, "to": 1.2}}}, "/along"),
        ({**spring(), "section": SQUARE, "stance": {"kind": "steady"}}, "/stance"),
        ({**spring(), "section": SQUARE, "along": {"twist": {"from": 0, "to": 90}}}, "/stance"),
        ({**spring(), "section": SQUARE, "path": {"kind": "straight", "length": 30}}, "/spring/kind"),
        (spring({"pitch": 2.0025}), "/path/pitch"),
        (spring(points=[{"force": "3 mm"}]), "/spring/points/0/force"),
    ],
)  # fmt: skip
def test_what_is_no_spring_is_refused_with_its_place(recipe, place):
    with pytest.raises(RecipeError) as caught:
        part_of(recipe)
    assert caught.value.problems[0].place == place


def test_an_unknown_wire_is_refused_with_the_nearest():
    recipe = spring()
    recipe["spring"]["wire"] = "EN 10270-1 SG"
    with pytest.raises(RecipeError) as caught:
        part_of(recipe)
    assert caught.value.problems[0].fix.value.startswith("EN 10270-1 S")


def test_units_do_not_matter():
    """The same spring in inches and pounds."""
    metric = part_of(spring(points=[{"force": 20}, {"length": 50}])).spring
    inch = spring(
        {"diameter": "20 mm", "pitch": "6 mm"},
        "2 mm",
        points=[{"force": f"{20 / LBF} lbf"}, {"length": 50 / INCH}],
    )
    inch["unit"] = "in"
    other = part_of(inch).spring
    for a, b in zip(metric.points, other.points, strict=True):
        assert (a.length, a.force) == pytest.approx((b.length, b.force), rel=1e-9)


def test_the_command_line_tells_the_contract(tmp_path, capsys):
    file = tmp_path / "spring.spira.json"
    file.write_text(json.dumps(spring(CLOSED, ends=GROUND, points=[{"length": 35}])))
    with pytest.raises(SystemExit) as left:
        main(["spring", str(file), "--json"])
    told = json.loads(capsys.readouterr().out)
    assert left.value.code == 0
    assert {
        "rate",
        "index",
        "solid_length",
        "free_length",
        "loads",
        "buckling",
        "frequency",
    } <= told.keys()
    assert {"length", "force", "stress", "corrected_stress", "utilisation"} <= told["loads"][0].keys()
    assert all(figure["source"] and figure["formula"] for figure in told["figures"])
    recipe = spring()
    del recipe["spring"]
    file.write_text(json.dumps(recipe))
    with pytest.raises(SystemExit) as left:
        main(["spring", str(file)])
    assert left.value.code == 2
    assert "/spring" in capsys.readouterr().err


def test_no_figure_without_its_source():
    view = spring_view(part_of(spring(points=[{"length": 40}], cycles=1e6)))
    assert view is not None
    assert all(figure["formula"] and figure["inputs"] and figure["source"] for figure in view["figures"])
    assert view["limits"] == sorted(view["limits"], key=lambda limit: -limit["use"])


def test_tolerances_follow_their_grade():
    """EN 15800's formulas from memory: the grades go as 0.63 : 1 : 1.6; a cone has none."""
    found = {
        grade: tolerances_of(part_of(spring(points=[{"length": 50}, {"length": 30}], grade=grade)).spring)
        for grade in (1, 2, 3)
    }
    for grade, share in ((1, 0.63), (3, 1.6)):
        assert found[grade].free_length == pytest.approx(share * found[2].free_length)
        assert found[grade].forces == pytest.approx([share * force for force in found[2].forces])
    assert tolerances_of(part_of(spring(SHAPES["cone"])).spring) is None


def test_the_tolerance_of_the_coil_grows_with_its_diameter_its_index_and_its_grade():
    """EN 15800's table, from memory: D 20 mm of wire 2.5 mm has ± 0.2, 0.35 and 0.7 mm; it ends at 200 mm and
    at indices 4 and 20."""

    def of(diameter, index, grade):
        wire = diameter / index
        recipe = spring(grade=grade, points=[])
        recipe["path"] |= {"diameter": diameter, "turns": 6, "pitch": 1.5 * wire}
        recipe["section"]["diameter"] = wire
        return tolerances_of(part_of(recipe).spring).diameter

    assert [of(20, 8, grade) for grade in (1, 2, 3)] == [0.2, 0.35, 0.7]
    diameters = (0.8, 1.3, 2, 3, 5, 8, 13, 20, 28, 35, 45, 56, 70, 90, 110, 140, 180)
    found = np.array([[[of(d, w, grade) for w in (6, 10, 16)] for d in diameters] for grade in (1, 2, 3)])
    for axis in range(3):
        assert (np.diff(found, axis=axis) >= 0).all()
    assert (found[2] <= 3 * found[1]).all() and (found[1] <= 2 * found[0]).all()
    # printed in steps of 0.05 mm from 0.1 on, and of 0.1 from 0.5 on
    step = np.where(found > 0.5, 0.1, np.where(found >= 0.1, 0.05, 0.01))
    assert found / step == pytest.approx(np.round(found / step), abs=1e-6)
    assert of(250, 10, 2) is None and of(20, 25, 2) is None


def test_the_sheet_is_drawn_from_the_recipe(tmp_path, capsys):
    recipe = spring(CLOSED, ends=GROUND, points=[{"length": 35}], cycles=1e6)
    recipe["name"] = "Spring & <sheet>"
    file = tmp_path / "spring.spira.json"
    file.write_text(json.dumps(recipe))
    for suffix in (".html", ".pdf"):
        with pytest.raises(SystemExit) as left:
            main(["spring", str(file), "-o", str(tmp_path / f"sheet{suffix}")])
        assert left.value.code == 0
    text = (tmp_path / "sheet.html").read_text()
    assert "Spring &amp; &lt;sheet&gt;" in text
    part = part_of(recipe)
    for value in (
        f"{part.spring.free_length:.5g} mm",
        f"{part.spring.points[0].force:.4g} N",
        "closed, 1 turn, ground",
    ):
        assert value in text
    words = "".join(page.extract_text() for page in PdfReader(tmp_path / "sheet.pdf").pages)
    assert "Compression spring" in words and f"{part.spring.solid_length:.5g} mm" in words
    with pytest.raises(SystemExit) as left:
        main(["spring", str(file), "-o", str(tmp_path / "sheet.doc")])
    assert left.value.code == 2
    drawing = sheet_of(part).drawings[0]
    high = next(p for p in drawing.parts if isinstance(p, Dimension) and p.words.startswith("L0"))
    assert high.words == f"L0 {part.spring.free_length:.5g}"


def test_beams_bend_twist_and_stretch_as_they_should():
    """A straight cantilever: F L³ / 3EI, T L / GJ, F L / EA; and a quarter ring loaded out of its plane, with
    Castigliano's F r³ (π/4 / EI + (3π/4 − 2) / GJ)."""
    d, reach, modulus, shear = 2.0, 100.0, 206000.0, 81500.0
    nodes = np.linspace([0, 0, 0], [reach, 0, 0], 9)
    beams = Beams(nodes, RoundWire(d), modulus, shear)
    clamped = dict.fromkeys(range(6), 0.0)
    bend, twist = modulus * math.pi / 64 * d**4, shear * math.pi / 32 * d**4
    moved, force = beams.solve(clamped, {6 * 8 + 2: 3.0, 6 * 8 + 3: 7.0, 6 * 8: 11.0})
    assert moved[-1, 2] == pytest.approx(3 * reach**3 / 3 / bend, rel=1e-9)
    assert moved[-1, 3] == pytest.approx(7 * reach / twist, rel=1e-9)
    assert moved[-1, 0] == pytest.approx(11 * reach / (modulus * math.pi / 4 * d**2), rel=1e-9)
    assert force[0, :3] == pytest.approx([-11, 0, -3], abs=1e-6)
    angle = np.linspace(0, math.pi / 2, 200)
    r = 30.0
    ring = np.stack([r * np.cos(angle), r * np.sin(angle), 0 * angle], axis=1)
    moved, _ = Beams(ring, RoundWire(d), modulus, shear).solve(clamped, {6 * 199 + 2: 1.0})
    exact = r**3 * (math.pi / 4 / bend + (3 * math.pi / 4 - 2) / twist)
    assert moved[-1, 2] == pytest.approx(exact, rel=1e-4)


def test_a_flat_beam_bends_by_the_side_that_it_is_pushed_on():
    """A cantilever along x, 3 wide and 1 high: w l³ / (3 E I) with I of the side along z, or of the one
    across it."""
    nodes = np.stack([np.linspace(0, 40, 9), np.zeros(9), np.zeros(9)], axis=1)
    beams = Beams(nodes, SectionWire(polygon(BOX * [1.5, 0.5]), 200e3, 80e3), 200e3, 80e3)
    moved, _ = beams.solve(dict.fromkeys(range(6), 0.0), {6 * 8 + 1: 1.0, 6 * 8 + 2: 1.0})
    for axis, inertia in ((1, 1.0 * 3.0**3 / 12), (2, 3.0 * 1.0**3 / 12)):
        assert moved[-1, axis] == pytest.approx(40**3 / (3 * 200e3 * inertia), rel=1e-9)


@pytest.mark.parametrize("shape", ["cylinder", "closed", "cone"])
def test_beams_agree_with_the_closed_sums(shape):
    """The beams bend as well and stand between ends that do not turn, which moves the force off the axis by a
    little: for usual slopes the rate is within three percent and the greatest stress within nine."""
    found = part_of(spring(SHAPES[shape])).spring
    beams = compared(found)
    assert beams.rate == pytest.approx(beams.closed_rate, rel=0.03)
    assert beams.stress == pytest.approx(16 * found.turns.radii.max() / (math.pi * 8), rel=0.09)
    steep = compared(part_of(spring({"pitch": 40, "turns": 3})).spring)
    assert steep.rate != pytest.approx(steep.closed_rate, rel=0.03)


HOOKED = {
    "turns": 12,
    "pitch": 2.01,
    "legs": {end: [{"kind": "hook", "bend_radius": 4}] for end in ("start", "end")},
}


def extension(**asked):
    recipe = spring(copy.deepcopy(HOOKED))
    recipe["spring"] = {"kind": "extension", **asked}
    return recipe


def test_an_extension_spring_opens_beyond_its_initial_tension():
    """EN 13906-2: F = F₀ + R s; hooks after Shigley, section 10-11: at C₁ = 10 the bending factor is
    (400 − 10 − 1) / 360, at C₂ = 4 the torsion factor is 15 / 12."""
    found = part_of(extension(initial_tension=12, points=[{"force": 12}, {"force": 50}])).spring
    rate = 81500 * 16 / (8 * 8000 * 12)
    assert found.rate == pytest.approx(rate, rel=1e-9)
    tight, loaded = found.points
    assert tight.length == pytest.approx(found.free_length)
    assert loaded.length - found.free_length == pytest.approx(38 / rate)
    assert loaded.energy == pytest.approx((12 + 50) / 2 * 38 / rate)
    bent, twisted = found.hook_stresses(50)
    assert bent == pytest.approx(50 * (389 / 360 * 16 * 20 / (math.pi * 8) + 4 / (math.pi * 4)))
    assert twisted == pytest.approx(15 / 12 * 8 * 50 * 20 / (math.pi * 8))
    assert found.force_of_length(loaded.length) == pytest.approx(50)


def test_hooks_and_legs_give_as_they_are_asked_to():
    """Shigley, sections 10-11 and 10-12 (not checked against the printed book): hooks add G / E turns; legs
    turn by 10.8 in place of 64 / 2π."""
    hooks, body = (part_of(extension(gives=one)).spring for one in ("hooks", "body"))
    assert (hooks.active, body.active) == pytest.approx((12 + 81500 / 206000, 12))
    assert 0 < body.least_initial < body.most_initial
    friction, theory = (part_of(torsion(held="ends", by=one)).spring for one in ("10.8", "theory"))
    assert theory.rate / friction.rate == pytest.approx(10.8 / (64 / (2 * math.pi)))


def test_a_pulled_spring_keeps_its_wire_and_its_hooks():
    part = part_of(extension(initial_tension=12))
    for force in (20, 60):
        pulled = pressed(part, force)
        assert pulled.path.length == pytest.approx(part.path.length, rel=1e-9)
        inside = extents(pulled.sweep).height - 2 * 2
        assert inside == pytest.approx(part.spring.at_force(force).length, abs=0.5)
        assert extents(pulled.sweep).outside_radius <= extents(part.sweep).outside_radius + 1e-6


@pytest.mark.thorough
def test_what_an_extension_spring_cannot_do_is_told():
    cases = {
        "spring-travel": extension(points=[{"length": 55}]),
        "spring-stress": extension(points=[{"force": 170}]),
        "spring-hooks": extension(points=[{"force": 120}]),
        "spring-initial": extension(initial_tension=60),
    }
    cases["spring-hooks"]["path"]["legs"]["end"][0]["bend_radius"] = 1.3
    for name, recipe in cases.items():
        found = verdicts(recipe)[name]
        assert (found.verdict, bool(found.remedies)) == ("stop", True), name
    bare = extension()
    del bare["path"]["legs"]
    assert verdicts(bare)["spring-hooks"].verdict == "watch"
    loose = extension(initial_tension=5)
    loose["path"]["pitch"] = 4
    initial = verdicts(loose)["spring-initial"]
    assert initial.verdict == "watch"
    room = float(part_of(loose).spring.turns.room.max())
    assert initial.margin == pytest.approx(0.02 * 2 - room) and initial.margin < 0
    view = spring_view(part_of(extension(initial_tension=5, points=[{"force": 30}])))
    assert view["solid_length"] is None and view["curve"][1] == [view["free_length"], 5]
    assert all(figure["formula"] and figure["inputs"] and figure["source"] for figure in view["figures"])
    sections = {section.title for section in sheet_of(part_of(extension())).sections}
    assert {"Dimensions", "Loads and rate", "Limits"} <= sections


def test_square_wire_is_that_of_the_handbooks():
    """Wahl, Mechanical Springs (from memory): square wire of side b gives δ = 5.58 F D³ n / (G b⁴); torsion
    of a square bar
    0.1406 b⁴ and 0.208 b³; of a thin strip b t³ / 3 (Roark, from memory)."""
    recipe = spring({"pitch": 8})
    recipe["section"] = {"kind": "rectangle", "width": 2, "height": 2}
    found = part_of(recipe).spring
    assert found.rate == pytest.approx(81500 * 16 / (5.58 * 8000 * 10), rel=3e-3)
    square, strip = (SectionWire(polygon(BOX * half), 206e3, 81.5e3) for half in ([1, 1], [0.05, 5]))
    assert square.stiffness == pytest.approx(0.1406 * 16, rel=3e-3)
    assert square.modulus == pytest.approx(0.208 * 8, rel=3e-3)
    assert strip.stiffness == pytest.approx(10 * 0.1**3 / 3, rel=0.01)
    assert found.solid_length == pytest.approx(2 * 11, abs=0.05)
    loaded = pressed(part_of(recipe), found.block_force)
    assert loaded.path.length == pytest.approx(part_of(recipe).path.length, rel=1e-9)
    assert tolerances_of(found) is None
    assert compared(found).rate == pytest.approx(compared(found).closed_rate, rel=0.03)
    texts = [row.value for row in sheet_of(part_of(recipe)).sections[0].rows]
    assert "2 mm by 2 mm" in texts


LEGS = {end: [{"kind": "straight", "length": 25}] for end in ("start", "end")}


def torsion(**asked):
    recipe = spring({"turns": 6.25, "pitch": 2.05, "legs": LEGS}, fit={"rod": 15})
    recipe["spring"] = {"kind": "torsion", **asked}
    return recipe


def test_a_torsion_spring_is_that_of_the_closed_form():
    """EN 13906-3: α = 3667 M D n / (E d⁴) degrees, σ = 32 M / (π d³), q = (w + 0.07) / (w − 0.75), and wound
    by α the diameter D n / (n + α/360)."""
    found = part_of(torsion(points=[{"torque": 900}, {"angle": 30}])).spring
    assert found.rate == pytest.approx(206000 * 16 / (3667 * 20 * 6.25), rel=1e-4)
    first, second = found.points
    assert first.stress == pytest.approx(32 * 900 / (math.pi * 8))
    assert first.corrected == pytest.approx(first.stress * 10.07 / 9.25)
    assert second.torque == pytest.approx(30 * found.rate)
    assert second.energy == pytest.approx(0.5 * second.torque * math.radians(30))
    assert found.inside_diameter(90) == pytest.approx(20 * 6.25 / 6.5 - 2)
    index = verdicts(torsion())["spring-index"]
    assert (index.verdict, index.value) == ("clear", pytest.approx(10))


def test_legs_held_by_their_ends_alone_bend_as_well():
    """Shigley, section 10-12 (from memory): they count as (l₁ + l₂) / (3 π D) more turns, and take that share
    of the angle."""
    found = part_of(torsion(points=[{"angle": 90}], held="ends")).spring
    turns = 6.25 + 50 / (3 * math.pi * 20)
    assert found.legs == pytest.approx((25, 25))
    assert found.rate == pytest.approx(206000 * 16 / (3667 * 20 * turns), rel=1e-4)
    for held in ("ends", "firmly"):
        figures = spring_view(part_of(torsion(held=held)))["figures"]
        rate = next(figure for figure in figures if figure["key"] == "rate")
        assert ("legs" in rate["inputs"]) == (held == "ends")
    coil = 90 * 6.25 / turns
    assert found.inside_diameter(90) == pytest.approx(20 * 6.25 / (6.25 + coil / 360) - 2)


@pytest.mark.parametrize("hand", ["right", "left"])
def test_a_wound_spring_keeps_its_wire_and_its_leg_turns_by_the_angle(hand):
    recipe = torsion()
    recipe["path"]["hand"] = hand
    part = part_of(recipe)
    for angle in (40, 150):
        wound = part.worked_to(angle)
        assert wound.path.length == pytest.approx(part.path.length, rel=1e-9)
        way = [shape.path.at(np.array([shape.path.length])).tangent[0] for shape in (part, wound)]
        turned = math.degrees(np.angle(complex(*way[1][:2]) / complex(*way[0][:2])))
        assert turned % 360 == pytest.approx(angle * (1 if hand == "right" else -1) % 360, abs=1e-6)
        body = wound.path.pieces[wound.path.main]
        inside = 2 * np.hypot(*body.at(np.array([body.length / 2])).position[0, :2]) - 2
        assert inside == pytest.approx(part.spring.inside_diameter(angle), abs=0.01)


def test_torques_and_stresses_are_typed_in_their_own_units():
    turned = part_of(torsion(points=[{"torque": "5 lbf in"}])).spring
    assert turned.points[0].torque == pytest.approx(5 * LBF * INCH)
    own = {"strength": "250 ksi", "shear_modulus": "80 GPa", "elastic_modulus": "29 * 1000 ksi"}
    wire = part_of(spring(wire=own)).spring.wire
    assert (wire.strength(2), wire.G) == pytest.approx((250 * KPSI, 80000), rel=1e-6)
    for wrong, word in (("5 lbf", "a force"), ("5 in", "a length"), ("250 ksi", "a stress")):
        with pytest.raises(RecipeError) as refused:
            part_of(torsion(points=[{"torque": wrong}]))
        problem = refused.value.problems[0]
        assert problem.place == "/spring/points/0/torque" and word in problem.reason
        assert "5 lbf in" in problem.remedy


@pytest.mark.thorough
def test_what_a_torsion_spring_cannot_do_is_told():
    assert verdicts(torsion(points=[{"torque": 1300}]))["spring-stress"].verdict == "stop"
    tight = torsion(points=[{"angle": 150}])
    tight["fit"] = {"rod": 17}
    found = verdicts(tight)["spring-rod"]
    assert found.verdict == "stop" and found.remedies
    inside = part_of(tight).spring.inside_diameter(150)
    assert found.value == pytest.approx((inside - 17) / 2, rel=1e-9)
    closing = {one["id"]: one["use"] for one in spring_view(part_of(tight))["limits"]}["spring-rod"]
    assert closing == pytest.approx((18 - inside) / (18 - 17), rel=1e-9)
    assert verdicts(torsion(points=[{"angle": -20}]))["spring-travel"].verdict == "watch"
    view = spring_view(part_of(torsion(points=[{"angle": 30}])))
    assert (view["units"], view["first"], view["loads"][0]["place"]) == (
        ["°", "N mm"],
        0.0,
        pytest.approx(30),
    )
    assert all(figure["formula"] and figure["inputs"] and figure["source"] for figure in view["figures"])
    sheet = sheet_of(part_of(torsion(points=[{"angle": 30}])))
    assert [drawing.title for drawing in sheet.drawings][1] == "Torque over angle"
    with pytest.raises(RecipeError) as caught:
        part_of(torsion(points=[{"angle": 3, "torque": 4}]))
    assert "angle or torque" in caught.value.problems[0].reason


def test_the_command_line_tells_every_kind_in_words(tmp_path, capsys):
    file = tmp_path / "spring.spira.json"
    for recipe, words in (
        (spring(points=[{"length": 40}]), "at mm"),
        (extension(points=[{"force": 40}]), "at mm"),
        (torsion(points=[{"angle": 40}]), "N mm"),
    ):
        file.write_text(json.dumps(recipe))
        for more in ([], ["--json"]):
            with pytest.raises(SystemExit) as left:
                main(["spring", str(file), *more])
            assert left.value.code == 0
            told = capsys.readouterr().out
            assert words in told or more


@pytest.mark.parametrize("shape", SHAPES)
def test_the_force_at_a_stress_is_the_first_that_has_it(shape):
    found = part_of(spring(SHAPES[shape])).spring
    greatest = found.block.stress
    for share in (0.1, 0.6, 0.95):
        force = found.force_at_stress(share * greatest / found.strength)
        assert found.stresses(force)[0].max() == pytest.approx(share * greatest, rel=1e-9)
        assert found.stresses(0.999 * force)[0].max() < share * greatest
    assert found.force_at_stress(1.001 * greatest) is None


def test_the_shape_is_checked_at_the_hardest_working_point():
    """Pulled, an extension spring grows slimmer: over a rod that it clears when free it jams."""
    recipe = spring({"pitch": 2.01}, fit={"rod": 17.95})
    recipe["spring"] = {"kind": "extension", "points": [{"force": 5}]}
    assert verdicts(recipe)["spring-shape"].verdict == "clear"
    recipe["spring"]["points"] = [{"force": 60}]
    found = verdicts(recipe)
    assert found["clearance"].verdict == "clear"
    assert found["spring-shape"].verdict == "stop" and "to the rod" in found["spring-shape"].why
    assert "/spring/points/0/force" in {remedy.input for remedy in found["spring-shape"].remedies}


POUND, INCH = 0.45359237 * 9.80665, 25.4
PSI = POUND / INCH**2


def test_strokes_that_come_near_the_springs_own_frequency_are_watched():
    """Shigley, section 10-8 (not checked against the printed book): 15 to 20 times that of the strokes."""
    own = part_of(spring(CLOSED, ends=GROUND)).spring.frequency
    for speed, wanted in ((own * 60 / 16, "clear"), (own * 60 / 9.5, "watch")):
        found = verdicts(spring(CLOSED, ends=GROUND, speed=speed))["spring-surge"]
        assert found.verdict == wanted and found.value == pytest.approx(own * 60 / speed)
    assert "10." in found.why or "9." in found.why
    assert verdicts(spring(CLOSED, ends=GROUND))["spring-surge"].verdict == "clear"

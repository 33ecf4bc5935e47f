"""Springs for a duty: found, what they promise held against the springs that are built, and the best of
all."""

import json
import math

import numpy as np
import pytest
from metaspira.checks import report_on
from metaspira.cli import main
from metaspira.parts import part_of
from metaspira.problems import RecipeError
from metaspira.springs.limits import limits_of
from metaspira.springs.wire import wires
from metaspira.studies.find_spring import Wish, find_springs

LOADS = [(40, 30), (28, 90)]


def wish(loads=LOADS, kind="compression", **more):
    place, effort = ("angle", "torque") if kind == "torsion" else ("length", "force")
    pairs = [{place: one, effort: other} for one, other in loads]
    return Wish.model_validate({"kind": kind, "loads": pairs, **more})


DUTIES = {
    "a usual one": {"bore": 24, "rod": 12, "gap": 0.5, "cycles": 1e6},
    "a valve": {"loads": [(40, 250), (31, 600)], "bore": 36, "rod": 20, "cycles": 1e7, "peened": True},
    "a stiff one": {"loads": [(50, 800), (45, 1200)], "bore": 40},
    "long and led": {"loads": [(150, 20), (60, 60)], "bore": 20, "rod": 9, "gap": 0.3},
    "light": {"loads": [(40, 20), (30, 60)], "rank": "mass"},
    "in half turns": {"bore": 24, "turns": "half", "rank": "mass"},
    "one that pulls": {"kind": "extension", "loads": [(70, 25), (95, 60)], "bore": 30},
    "pulled for long": {"kind": "extension", "loads": [(80, 12), (110, 30)], "cycles": 1e6, "rank": "mass"},
    "one that turns": {"kind": "torsion", "loads": [(30, 300), (110, 900)], "rod": 14, "bore": 40},
    "turned often": {
        "kind": "torsion",
        "loads": [(20, 400), (80, 1600)],
        "cycles": 1e5,
        "turns": "quarter",
        "rank": "mass",
        "longest": 40,
    },
    "a pair": {"kind": "nest", "loads": [(48, 300), (38, 760)], "bore": 42, "rod": 16, "gap": 0.4},
    "a pair in half turns": {
        "kind": "nest",
        "loads": [(60, 400), (40, 1600)],
        "bore": 50,
        "gap": 0.5,
        "turns": "half",
        "rank": "mass",
    },
}


@pytest.mark.thorough(but=["a usual one", "a valve"])
@pytest.mark.parametrize("duty", DUTIES)
def test_found_springs_do_their_duty_and_use_what_is_promised(duty):
    answer = find_springs(wish(**DUTIES[duty]))
    assert len(answer.springs) > 8
    order = {"use": "use", "mass": "mass"}[answer.wish.rank]
    values = [getattr(found, order) for found in answer.springs]
    assert values == sorted(values)
    some = answer.springs[:: max(len(answer.springs) // 6, 1)]
    for found in some:
        part = part_of(found.recipe)
        way = abs(part.spring.points[1].way - part.spring.points[0].way)
        assert way == pytest.approx(answer.wish.way, rel=1e-5)
        efforts = [point.effort for point in part.spring.points]
        assert efforts == pytest.approx(answer.wish.efforts, rel=2e-3)
        limits = limits_of(part.spring, part.recipe.fit)
        assert limits[0].use == pytest.approx(found.use, rel=0.01)
        assert limits[0].title.lower() == found.limit
        assert found.mass == pytest.approx(part.volume * part.material.density, rel=0.06)
        assert report_on(part, with_remedies=False).verdict != "stop"


def by_hand(wire, d, mean, loads, asked):
    """Most used limit, mass (cm³) and greatest outside diameter of springs that push; EN 13906-1 written out
    once more."""
    (long, weak), (short, strong) = loads
    rate = (strong - weak) / (long - short)
    free, gap = long + weak / rate, asked.get("gap", 0)
    elastic, shear = wire.cold_moduli(d)
    n = shear * d**4 / (8 * mean**3 * rate)
    solid = (n + 2) * (d + wire.tolerance(d))
    stress = 8 * mean / (math.pi * d**3) / wire.strength(d)
    wanted = n * (0.0015 * mean**2 / d + 0.1 * d) * (1.5 if "cycles" in asked else 1)
    shares = [
        stress * strong / 0.5,
        stress * rate * np.maximum(free - solid, 0) / 0.56,
        wanted / np.maximum(short - solid, 1e-9),
        4 * d / mean,
        mean / d / 20,
        np.where(n < 2, np.inf, 0),
    ]
    pitch = d + (free - (n + 2) * d) / n
    at = np.maximum(pitch - (free - short) / n, d)
    outside = np.sqrt(mean**2 + np.maximum(pitch**2 - at**2, 0) / math.pi**2) + d
    if "bore" in asked:
        left = asked["bore"] - 2 * gap - mean - d
        shares.append(np.where(left > 0, (outside - mean - d) / np.maximum(left, 1e-9), np.inf))
    if "rod" in asked:
        shares.append(np.where(mean - d - 2 * gap < asked["rod"], np.inf, 0))
    if "cycles" in asked:
        peened, power = asked.get("peened", False), math.log10(asked["cycles"])
        table = {
            ("drawn", False): (0.36, 0.33, 0.30),
            ("drawn", True): (0.42, 0.39, 0.36),
            ("tempered", False): (0.42, 0.40, 0.38),
            ("tempered", True): (0.49, 0.47, 0.46),
        }[wire.life, peened]
        share = np.interp(power, (5, 6, 7), table) / 2
        k = (mean / d + 0.5) / (mean / d - 0.75)
        low, high = stress * k * weak, stress * k * strong
        shares.append((high - low) / 2 / (share / (1 - share / 0.67)) + (high + low) / 2 / 0.67)
    moduli = shear / elastic
    root = 1 - (1 - moduli) / (0.5 + moduli) * (math.pi * mean / (0.5 * free)) ** 2
    buckles = free * 0.5 / (1 - moduli) * (1 - np.sqrt(np.maximum(root, 0)))
    led = np.zeros(len(mean), bool)
    if "bore" in asked:
        led |= asked["bore"] - mean - d <= 0.2 * mean
    if "rod" in asked:
        led |= mean - d - asked["rod"] <= 0.2 * mean
    safe = led | (root < 0) | (buckles >= free - solid)
    shares.append(np.where(safe, 0, (free - short) / np.maximum(buckles, 1e-9)))
    return np.max(shares, axis=0), math.pi**2 / 4 * d**2 * mean * (n + 2) / 1e3, outside


@pytest.mark.parametrize("duty", ["a usual one", "a valve", "a stiff one", "long and led", "light"])
def test_the_best_is_that_of_an_exhaustive_search(duty):
    """Every wire, every preferred diameter, 4,000 mean diameters."""
    asked = DUTIES[duty]
    answer = find_springs(wish(**asked))
    best = math.inf
    names = {found.wire for found in answer.springs}
    for wire in (wires()[name] for name in names):
        for d in {found.wire_diameter for found in answer.springs if found.wire == wire.name}:
            mean = np.linspace(4 * d, 20 * d, 4000)
            use, volume, _ = by_hand(wire, d, mean, asked.get("loads", LOADS), asked)
            score = use if asked.get("rank", "use") == "use" else volume
            best = min(best, float(np.min(score, where=use <= 1, initial=math.inf)))
    first = answer.springs[0]
    if asked.get("rank", "use") == "use":
        assert first.use == pytest.approx(best, rel=5e-3)
    else:
        assert first.mass < 1.06 * best * 8.3


PAIRS = {
    "in little room": {"loads": [(60, 400), (40, 1600)], "bore": 50, "gap": 0.5, "rank": "mass"},
    "on a rod": {
        "loads": [(40, 250), (31, 600)],
        "bore": 36,
        "rod": 12,
        "gap": 0.3,
        "cycles": 1e7,
        "peened": True,
    },
}


@pytest.mark.parametrize("duty", PAIRS)
def test_the_best_pair_is_that_of_an_exhaustive_search(duty):
    """One kind of wire in seven diameters; 61 shares, 300 mean diameters of each outer and inner spring."""
    name, stock = "EN 10270-2 VDSiCr", [2.4, 2.8, 3.0, 3.2, 4.0, 4.25, 4.5]
    asked, wire = PAIRS[duty], wires()[name]
    answer = find_springs(wish(kind="nest", wires=[name], stock=stock, **asked))
    best = math.inf
    for share in np.linspace(0.2, 0.8, 61):
        sides = []
        for portion in (share, 1 - share):
            loads = [(length, portion * force) for length, force in asked["loads"]]
            each = [
                (d, mean, *by_hand(wire, d, mean, loads, asked))
                for d in stock
                for mean in (np.linspace(4 * d, min(20 * d, asked["bore"]), 300),)
            ]
            sides.append([np.concatenate([np.broadcast_to(row[k], 300) for row in each]) for k in range(5)])
        (d, mean, use, volume, _), (_, _, inner_use, inner_volume, outside) = sides
        kept, fits = use <= 1, inner_use <= 1
        for inside, one, bulk in zip((mean - d)[kept], use[kept], volume[kept], strict=True):
            within = fits & (outside + 2 * asked["gap"] + 0.02 <= inside)
            if asked.get("rank") == "mass":
                best = min(best, bulk + float(np.min(inner_volume[within], initial=math.inf)))
            else:
                best = min(best, max(one, float(np.min(inner_use[within], initial=math.inf))))
    first = answer.springs[0]
    if asked.get("rank") == "mass":
        assert first.mass < 1.03 * best * 7.85
    else:
        assert first.use < 1.01 * best


@pytest.mark.thorough(only=["in little room"])
@pytest.mark.parametrize("duty", PAIRS)
def test_a_pair_stands_one_in_the_other_by_opposite_hands(duty):
    asked = PAIRS[duty]
    for found in find_springs(wish(kind="nest", **asked)).springs[::8]:
        part = part_of(found.recipe)
        outer, inner = part.spring.alone
        assert (outer.turns.hand, inner.turns.hand) == (1, -1)
        assert outer.free_length == pytest.approx(inner.free_length, rel=1e-6)
        between = (found.mean_diameter - found.wire_diameter) / 2 - (
            found.inner.mean_diameter + found.inner.wire_diameter
        ) / 2
        assert between >= asked["gap"]
        assert part.spring.forces(asked["loads"][1][0])[1] == pytest.approx(
            found.inner.share * asked["loads"][1][1], rel=1e-3
        )


@pytest.mark.thorough
def test_what_is_in_the_way_of_a_pair_is_told():
    none = find_springs(wish(kind="nest", bore=14, loads=[(40, 30), (28, 900)]))
    assert none.springs == () and none.nearest.inner is not None
    assert none.blocking and all(one.use > 1 for one in none.blocking)
    heavy = find_springs(
        wish(kind="nest", limits=[{"figure": "mass", "most": 10}], **PAIRS["in little room"])
    )
    assert "most mass" in {one.limit for one in heavy.blocking}
    light = find_springs(
        wish(kind="nest", limits=[{"figure": "mass", "most": 100}], **PAIRS["in little room"])
    )
    assert light.springs and all(found.mass <= 100 for found in light.springs)


def test_the_front_has_nothing_better_beside_it():
    answer = find_springs(wish(**DUTIES["a usual one"]))
    front = [found for found in answer.springs if found.front]
    assert len(front) > 10
    for one in front:
        better = [o for o in answer.springs if o.use < 0.999 * one.use and o.mass < 0.999 * one.mass]
        assert not better


@pytest.mark.parametrize("room", [{"bore": 40}, {"rod": 1}, {}])
def test_a_light_spring_that_would_buckle_is_passed_over(room):
    """A bore much wider than the spring leads it no more than none does."""
    answer = find_springs(wish(loads=[(40, 20), (30, 60)], rank="mass", **room))
    report = report_on(part_of(answer.springs[0].recipe), with_remedies=False)
    assert report["spring-buckling"].verdict == report.verdict == "clear"


def test_turns_come_in_steps_and_diameters_from_stock():
    for steps, step in (("whole", 1.0), ("half", 0.5), ("quarter", 0.25)):
        answer = find_springs(wish(bore=24, turns=steps))
        assert answer.springs
        assert all(found.turns % step == pytest.approx(0) for found in answer.springs)
    kept = find_springs(wish(bore=24, wires=["EN 10270-1 SM"], stock=[2.3]))
    assert {(found.wire, found.wire_diameter) for found in kept.springs} == {("EN 10270-1 SM", 2.3)}


def test_prices_rank_the_wires_that_have_one():
    prices = {"EN 10270-1 SH": 3.0, "EN 10270-3 1.4310 NS": 14.0}
    answer = find_springs(wish(bore=24, rank="price", prices=prices))
    assert {found.wire for found in answer.springs} <= set(prices)
    costs = [found.price for found in answer.springs]
    assert costs == sorted(costs)
    first = answer.springs[0]
    assert first.price == pytest.approx(prices[first.wire] * first.mass / 1e3)


def test_what_is_in_the_way_is_told_and_frees_it():
    none = find_springs(wish(bore=8, rod=6))
    assert none.springs == ()
    told = {one.limit: one.free for one in none.blocking}
    assert set(told) <= {"bore", "rod"} and told
    size = {name: float(words.split()[3]) for name, words in told.items()}
    again = find_springs(wish(bore=size.get("bore", 8) + 0.1, rod=size.get("rod", 6) - 0.1))
    assert again.springs or all(one.use < none.blocking[0].use for one in again.blocking)
    hard = find_springs(wish(bore=14, loads=[(40, 30), (28, 1900)]))
    assert hard.springs == () and hard.nearest.use > 1
    assert hard.blocking[0].use == pytest.approx(hard.nearest.use)
    assert "stress at work" in {one.limit for one in hard.blocking}


@pytest.mark.parametrize(
    ("wrong", "place"),
    [
        ({"loads": LOADS[::-1]}, "/loads/1/length"),
        ({"loads": [(40, 90), (28, 30)]}, "/loads/1/force"),
        ({"bore": 20, "rod": 25}, "/bore"),
        ({"wires": ["iron"]}, "/wires/0"),
        ({"rank": "price"}, "/prices"),
        ({"prices": {"iron": 2.0}}, "/prices/iron"),
        ({"kind": "extension"}, "/loads/1/length"),
        ({"kind": "torsion", "loads": [(90, 300), (30, 900)]}, "/loads/1/angle"),
    ],
)
def test_a_duty_that_makes_no_sense_is_refused_with_its_place(wrong, place):
    with pytest.raises(RecipeError) as caught:
        find_springs(wish(**wrong))
    assert caught.value.problems[0].place == place


def test_units_do_not_matter():
    inch = find_springs(
        Wish.model_validate(
            {
                "unit": "in",
                "bore": "24 mm",
                "loads": [{"length": "40 mm", "force": 30}, {"length": "28 mm", "force": 90}],
            }
        )
    )
    plain = find_springs(wish(bore=24))
    assert inch.wish.bore == pytest.approx(24)
    assert inch.springs[0].use == pytest.approx(plain.springs[0].use, rel=1e-9)


def run(arguments, capsys):
    with pytest.raises(SystemExit) as left:
        main([str(one) for one in arguments])
    return left.value.code or 0, capsys.readouterr()


def test_the_command_line_finds_and_says_what_is_in_the_way(tmp_path, capsys):
    file, stock = tmp_path / "duty.json", tmp_path / "stock.csv"
    pairs = [{"length": length, "force": force} for length, force in LOADS]
    file.write_text(json.dumps({"kind": "compression", "bore": 24, "loads": pairs}))
    code, said = run(["find", file, "--json"], capsys)
    told = json.loads(said.out)
    assert code == 0 and told["blocking"] == []
    assert {
        "wire",
        "wire_diameter",
        "mean_diameter",
        "turns",
        "free_length",
        "rate",
        "mass",
        "stress",
        "use",
        "limit",
        "recipe",
    } <= set(told["springs"][0])
    stock.write_text("diameter,metres\n2.25,120\n2.5,40\n")
    code, said = run(["find", file, "--stock", stock, "--json"], capsys)
    assert {found["wire_diameter"] for found in json.loads(said.out)["springs"]} <= {2.25, 2.5}
    file.write_text(json.dumps({"bore": 3, "loads": pairs}))
    code, said = run(["find", file], capsys)
    assert code == 1 and "a bore of" in said.out
    for text, word in (("[1]", "JSON object"), ('{"loads": 3}', "/loads"), ("{", "not JSON")):
        file.write_text(text)
        code, said = run(["find", file], capsys)
        assert code == 2 and word in said.err and len(said.err.splitlines()) == 1
    file.write_text(json.dumps({"loads": [{"length": 40, "force": 30, "forc": 2}, pairs[1]]}))
    code, said = run(["find", file], capsys)
    assert code == 2 and "did you mean “force”" in said.err


def built(found):
    return part_of(found.recipe).spring


BOUNDS = {
    "wire_diameter": (1.6, 2.2, lambda found: found.wire_diameter),
    "mean_diameter": (15.5, 17.0, lambda found: found.mean_diameter),
    "turns": (6.0, 8.5, lambda found: found.turns),
    "index": (7.0, 9.0, lambda found: found.mean_diameter / found.wire_diameter),
    "mass": (6.0, 14.0, lambda found: found.mass),
    "stress": (300.0, 500.0, lambda found: found.stress),
    "free_length": (45.0, 47.0, lambda found: found.free_length),
    "outside_diameter": (15.0, 18.0, lambda found: found.mean_diameter + found.wire_diameter),
    "inside_diameter": (12.0, 14.0, lambda found: found.mean_diameter - found.wire_diameter),
    "solid_length": (14.0, 18.0, lambda found: built(found).solid_length),
    "block_force": (130.0, 170.0, lambda found: built(found).block_force),
    "frequency": (350.0, 450.0, lambda found: built(found).frequency),
}


@pytest.mark.thorough(only=["solid_length", "block_force", "frequency"])
@pytest.mark.parametrize("figure", BOUNDS)
def test_any_figure_can_be_bounded(figure):
    """What is found lies between the bounds, and it is what is found without them that lies there."""
    low, high, value = BOUNDS[figure]
    free = find_springs(wish(bore=24), 200).springs
    found = find_springs(wish(bore=24, limits=[{"figure": figure, "least": low, "most": high}]), 200).springs
    near = 0.02 if figure == "frequency" else 0.001
    assert found and all(low * (1 - near) <= value(one) <= high * (1 + near) for one in found)
    there = {(one.wire, one.wire_diameter) for one in free if low <= value(one) <= high}
    assert there <= {(one.wire, one.wire_diameter) for one in found}


def test_a_bound_in_the_way_says_what_would_free_it():
    answer = find_springs(wish(bore=24, limits=[{"figure": "mass", "most": 0.5}]))
    assert not answer.springs
    told = {one.limit: one.free for one in answer.blocking}
    assert "most mass" in told
    enough = float(told["most mass"].split("up to ")[1].removesuffix(" g"))
    eased = [{"figure": "mass", "most": enough * 1.02}]
    again = find_springs(wish(bore=24, limits=eased))
    assert again.springs or again.blocking[0].use < answer.blocking[0].use


@pytest.mark.parametrize(
    ("limits", "kind", "place"),
    [
        ([{"figure": "mass"}], "compression", "/limits/0"),
        ([{"figure": "free_length", "most": 30}], "torsion", "/limits/0/figure"),
    ],
)
def test_a_bound_that_makes_no_sense_is_refused_at_its_place(limits, kind, place):
    loads = [(30, 300), (110, 900)] if kind == "torsion" else LOADS
    with pytest.raises(RecipeError) as caught:
        find_springs(wish(loads, kind, limits=limits))
    assert caught.value.problems[0].place == place


def test_bounds_are_typed_in_any_unit():
    inch = find_springs(wish(bore=24, limits=[{"figure": "stress", "most": "60 ksi"}])).springs
    metric = find_springs(wish(bore=24, limits=[{"figure": "stress", "most": 60 * 6.894757293}])).springs
    assert [one.wire_diameter for one in inch] == [one.wire_diameter for one in metric]

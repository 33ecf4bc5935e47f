"""The registry of figures: each has its words, its unit, its row in the docs, and a part that has it."""

import math
from pathlib import Path

import pytest
from metaspira.checks import report_on
from metaspira.numbers.shown import unit_shown
from metaspira.parts import ThreadedPart, make_part, part_of
from metaspira.parts.weight import weigh
from metaspira.recipe.reading import read_recipe_file
from metaspira.springs.figures import spring_figures
from metaspira.threads.lookup import read_thread
from metaspira.views.figures import FAMILIES

ROOT = Path(__file__).parents[2]
DEMOS = [make_part(read_recipe_file(file)) for file in sorted((ROOT / "demo").glob("*.spira.json"))]
SLENDER = part_of(
    {
        "format": "metaspira/1",
        "path": {"kind": "coil", "diameter": 10, "turns": 40, "pitch": 4},
        "section": {"kind": "round", "diameter": 1},
        "spring": {"kind": "compression", "wire": "EN 10270-1 SH"},
    }
)
SPRINGS = [part.spring for part in DEMOS if not isinstance(part, ThreadedPart) and part.spring is not None]
THREADS = [part for part in DEMOS if isinstance(part, ThreadedPart)]


def of_springs(kind):
    return [one for one in SPRINGS if type(one).__name__.lower() == kind]


SUBJECTS = {
    "wire": lambda: [part.known(1.0, 1.0) for part in DEMOS if not isinstance(part, ThreadedPart)],
    "thread": lambda: [part.known(1.0) for part in THREADS],
    "compression": lambda: [*of_springs("compression"), SLENDER.spring],
    "extension": lambda: of_springs("extension"),
    "torsion": lambda: of_springs("torsion"),
    "spiral": lambda: of_springs("spiral"),
    "nest": lambda: of_springs("nested"),
    "gauging": lambda: [read_thread(name) for name in ("M10-6g", "1/4-20 UNC-2A", "G 1/2", "S 50x8")],
    "joint": lambda: [part.joint for part in THREADS if part.joint is not None],
    "weight": lambda: [weigh(part) for part in (DEMOS[0], THREADS[0])],
}


@pytest.mark.parametrize("family", FAMILIES)
def test_each_figure_has_its_words_its_unit_its_row_and_a_part_that_has_it(family):
    told = (ROOT / "docs/figures.md").read_text()
    title, figures = FAMILIES[family]
    assert f"## {title}" in told
    assert len({figure.key for figure in figures}) == len(figures)
    subjects = SUBJECTS[family]()
    found = {figure.key: [figure.told(one) for one in subjects] for figure in figures}
    for figure in figures:
        assert f"`{figure.key}`" in told
        unit_shown(figure.unit, "in")
        for one in found[figure.key]:
            assert one.title and one.source
            assert one.value is None or math.isfinite(one.value)
    never = [figure.key for figure in figures if all(one.value is None for one in found[figure.key])]
    allowed = {
        "thread": ["wire_length", "min_bend_radius"],
        "joint": ["length_for_load", "drive", "lower", "pressure", "root_bending"],
    }
    assert set(never) <= {"coat", *allowed.get(family, [])}


def test_the_parts_tell_the_figures_of_their_families():
    """A report, a spring of each kind and a nest of them."""
    for part in (DEMOS[0], THREADS[0]):
        assert list(report_on(part, False).figures) == [figure.key for figure in part.figures]
    for spring in SPRINGS:
        kind = {"nested": "nest"}.get(type(spring).__name__.lower(), type(spring).__name__.lower())
        keys = [figure.key for figure in FAMILIES[kind][1]]
        told = spring_figures(spring)
        assert [figure.key for figure in told][: len(keys)] == keys
        assert len({figure.key for figure in told}) == len(told)

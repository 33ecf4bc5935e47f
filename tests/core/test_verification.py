"""The book of proof: every row calculated anew, and told."""

import json
import subprocess
import sys
from pathlib import Path

import pytest
from metaspira.cli import main
from metaspira.cli.commands import verify
from metaspira.parts import Part
from metaspira.verification import STANDINGS, families, rows_of
from metaspira.verification.record import about, recorded
from metaspira.verification.row import Row, printed

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def told(capsys):
    def run(*arguments):
        with pytest.raises(SystemExit) as ended:
            main(["verify", *arguments])
        return ended.value.code, capsys.readouterr()

    return run


@pytest.mark.thorough(only=["files", "solids", "tracing"])
@pytest.mark.parametrize("family", families())
def test_every_row_is_within_what_is_allowed_and_is_the_recorded_one(family):
    rows = list(rows_of(family))
    assert [row.case for row in rows if not row.within] == []
    kept = next(one for one in recorded() if one.name == family)
    assert kept.title == families()[family]
    for row, other in zip(rows, kept.rows, strict=True):
        for name in ("figures", "case", "unit", "source", "standing"):
            assert getattr(row, name) == getattr(other, name)
        assert other.within
        assert other.ours == pytest.approx(row.ours, rel=1e-8, abs=max(row.allowed, 1e-9))
        assert row.source and row.standing in STANDINGS


@pytest.mark.thorough(only=["references"])
@pytest.mark.parametrize("tool", ["references", "verification"])
def test_what_the_book_stands_on_and_its_page_are_as_they_are_made(tool):
    command = [sys.executable, ROOT / f"tools/{tool}.py", "--check"]
    told = subprocess.run(command, capture_output=True, text=True)
    assert told.returncode == 0, told.stderr


def test_the_record_is_as_large_as_is_promised_and_repeats_nothing():
    rows = [row for family in recorded() for row in family.rows]
    assert len(rows) >= 400
    assert len({(row.figures, row.case, row.source) for row in rows}) == len(rows)


def test_the_figures_of_each_wire_and_of_each_working_point_have_rows():
    for figure, least in (("rate_1", 30), ("load_2", 15), ("load_stress", 40), ("min_gap", 30)):
        rows = [row for family in about(figure) for row in family.rows]
        assert len(rows) >= least, figure
    assert about("colour") == ()


def test_every_figure_that_stands_beside_a_part_has_rows():
    assert [figure.title for figure in Part.figures if not about(figure.key)] == []


def test_a_printed_value_allows_half_of_its_last_digit():
    for ours, within in ((9.9684, True), (9.9675, True), (9.9686, False), (9.9674, False)):
        assert printed((), "", "9.968", ours, "mm", "").within is within
    assert not printed((), "", "9.968", float("nan"), "mm", "").within


def test_a_row_that_is_beyond_is_told_and_ends_with_one(told, monkeypatch):
    wrong = Row(("rate",), "a spring", 2.0, 2.1, 0.05, "N/mm", "a table", "printed")
    monkeypatch.setattr(verify, "rows_of", lambda name: [wrong])
    code, said = told("springs")
    assert code == 1
    assert "■ a spring: 2.1 N/mm, there 2; off 0.1, 0.05 allowed" in said.out
    assert "0 within, 1 beyond" in said.out


def test_rows_of_one_figure_as_json(told):
    code, said = told("threads", "gauging", "--figure", "stress_area", "--json")
    rows = json.loads(said.out)
    assert code == 0 and len(rows) == 7
    assert all(row["ok"] and "stress_area" in row["figures"] and row["family"] == "gauging" for row in rows)
    contract = {"id", "source", "case", "reference", "ours", "difference", "allowed", "ok"}
    assert contract <= set(rows[0]) and len({row["id"] for row in rows}) == 7
    assert rows[0]["difference"] == rows[0]["ours"] - rows[0]["reference"]


def test_what_is_no_family_or_no_figure_is_refused(told):
    code, said = told("thread")
    assert code == 2 and "did you mean “threads”" in said.err
    code, said = told("threads", "--figure", "colour")
    assert code == 2 and "no row holds “colour”" in said.err


def test_without_the_kernel_the_rest_is_calculated(told, monkeypatch):
    def rows(name):
        if name == "solids":
            raise ModuleNotFoundError("no kernel", name="OCP")
        return list(rows_of(name))

    monkeypatch.setattr(verify, "rows_of", rows)
    code, said = told("solids", "coiling")
    assert code == 0 and "14 within" in said.out
    assert "solids: not calculated, OCP is missing; pip install 'metaspira[solid]'" in said.err

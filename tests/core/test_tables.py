"""Tables as CSV."""

import csv
import io

import pytest
from metaspira.numbers.tables import csv_text


@pytest.mark.parametrize("text", ["=1+1", "+cmd|' /C calc'!A0", "-2+3", "@SUM(A1)", "\t=1", "\r=1", "=", "-"])
def test_no_text_starts_a_formula(text):
    ((cell, plain),) = csv.reader(io.StringIO(csv_text([[text, "rate"]]), newline=""))
    assert (cell, plain) == (f"'{text}", "rate")


@pytest.mark.parametrize("number", ["-1.5", "+2", "-1e-9", "3.25", "-inf"])
def test_numbers_stay_numbers(number):
    assert csv_text([[number]]) == f"{number}\r\n"

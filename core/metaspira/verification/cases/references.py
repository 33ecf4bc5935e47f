"""Parts as other libraries have them: coils by fluids, lengths by mpmath, distances by FCL."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from importlib.resources import files

from metaspira.checks import report_on
from metaspira.verification.parts import wound
from metaspira.verification.row import Row, near


def rows() -> Iterator[Row]:
    """What `tools/references.py` calculated with these libraries, beside what is calculated here."""
    written = files("metaspira.verification").joinpath("data/references.json").read_text(encoding="utf-8")
    for one in json.loads(written):
        found = report_on(wound(one["recipe"])).figures[one["figure"]]
        ours = math.nan if found is None else found
        yield near(
            (one["figure"],), one["case"], one["value"], ours, one["share"], one["unit"], one["source"]
        )

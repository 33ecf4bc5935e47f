"""The settings of a wire former over the wire that it is fed."""

from __future__ import annotations

from typing import Any

from metaspira.coiling.table import coiling_table, csv_of, misfit
from metaspira.outputs.output import Made
from metaspira.parts import AnyPart, Part

LISTED = 70


def _make(part: AnyPart) -> tuple[bytes, dict[str, Any]]:
    assert isinstance(part, Part)
    table = coiling_table(part)
    return csv_of(part, table).encode(), {"rows": len(table.rows)}


_USE = "setting a coiling machine: feed, diameter and pitch along the wire"

OUTPUTS = (Made("coiling.csv", "Coiling table", "CSV", _USE, "text/csv", misfit, _make),)

"""What a drawing of a part shows."""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.drawings.tables import Notes, Picture, Table
from metaspira.drawings.view import Projected, View


@dataclass(frozen=True)
class Plan:
    """Views, the main one first, then notes, tables and pictures; `fine` is what has to be seen at the least,
    mm of the part."""

    views: tuple[View | Projected, ...]
    blocks: tuple[Notes | Table | Picture, ...]
    fine: float

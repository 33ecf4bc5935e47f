"""A figure as it is told: with what stands behind it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Figure:
    """A figure: its value in `unit`, its formula, inputs and source."""

    key: str
    title: str
    value: float | None
    unit: str
    formula: str
    inputs: str
    source: str

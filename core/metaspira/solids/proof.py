"""Proof: what was measured on the finished thing, against what the mathematics predicts."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any


class ProofError(Exception):
    """The thing that was made is not what it should be; nothing is handed over."""


@dataclass(frozen=True)
class Proof:
    """Measured on the file as read back; volumes in mm³, `allowed` is the most relative error.

    A skin encloses nothing, and is proven by its area in mm² (`area`, `predicted_area`) instead. Of a mesh,
    `off` is how far the shape is off the mesh at the most, and the mesh off the shape, mm, where measured.
    """

    closed: bool
    valid: bool
    volume: float
    predicted_volume: float
    allowed: float
    area: float | None = None
    predicted_area: float | None = None
    off: tuple[float, float] | None = None

    @property
    def relative_error(self) -> float:
        if self.area is not None and self.predicted_area is not None:
            return abs(self.area - self.predicted_area) / abs(self.predicted_area)
        return abs(self.volume - self.predicted_volume) / abs(self.predicted_volume)

    @property
    def holds(self) -> bool:
        whole = self.closed or self.area is not None
        return whole and self.valid and self.relative_error <= self.allowed

    def demand(self, what: str) -> Proof:
        """Itself where it holds. Raises ProofError."""
        if not self.holds:
            raise ProofError(
                f"the {what} did not prove right (closed {self.closed}, valid {self.valid}, "
                f"{'volume' if self.area is None else 'area'} off by {self.relative_error:.2g} of "
                f"{self.allowed:.1g} allowed)"
            )
        return self

    def as_dict(self) -> dict[str, Any]:
        told = asdict(self)
        shape, mesh = told.pop("off") or (None, None)
        return {
            **told,
            "shape_off_mesh": shape,
            "mesh_off_shape": mesh,
            "relative_error": self.relative_error,
        }

"""Proof: what was measured on the finished thing, against what the mathematics predicts."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any


class ProofError(Exception):
    """The thing that was made is not what it should be; nothing is handed over."""


@dataclass(frozen=True)
class Proof:
    """Measured on the file as read back; volumes in mm³, `allowed` is the most relative error."""

    closed: bool
    valid: bool
    volume: float
    predicted_volume: float
    allowed: float

    @property
    def relative_error(self) -> float:
        return abs(self.volume - self.predicted_volume) / abs(self.predicted_volume)

    @property
    def holds(self) -> bool:
        return self.closed and self.valid and self.relative_error <= self.allowed

    def demand(self, what: str) -> Proof:
        """Itself where it holds. Raises ProofError."""
        if not self.holds:
            raise ProofError(
                f"the {what} did not prove right (closed {self.closed}, valid {self.valid}, "
                f"volume off by {self.relative_error:.2g} of {self.allowed:.1g} allowed)"
            )
        return self

    def as_dict(self) -> dict[str, Any]:
        return {**asdict(self), "relative_error": self.relative_error}

"""What a part is expected to weigh and measure, to hold it against."""

from __future__ import annotations

from typing import Annotated

from metaspira.numbers.fields import Quantity
from metaspira.numbers.kind import Kind

Mass = Annotated[float, Quantity("mass", 0.0, 1e12)]
Volume = Annotated[float, Quantity("volume", 0.0, 1e18)]
Size = Annotated[float, Quantity("length", -1e6, 1e6)]


class ExpectedMass(Kind):
    """A mass in grams, and how far off it may be."""

    value: Mass
    tolerance: Mass | None = None


class ExpectedVolume(Kind):
    """A volume, and how far off it may be."""

    value: Volume
    tolerance: Volume | None = None


class ExpectedLength(Kind):
    """A length, and how far off it may be."""

    value: Size
    tolerance: Size | None = None


class Expected(Kind):
    """Expected values by the figures that they are of."""

    mass: ExpectedMass | None = None
    volume: ExpectedVolume | None = None
    wire_length: ExpectedLength | None = None
    path_length: ExpectedLength | None = None
    height: ExpectedLength | None = None
    overall_height: ExpectedLength | None = None
    outside_diameter: ExpectedLength | None = None
    inside_diameter: ExpectedLength | None = None
    min_gap: ExpectedLength | None = None

    def aims(self) -> dict[str, ExpectedMass | ExpectedVolume | ExpectedLength]:
        """Those that are set."""
        named = ((name, getattr(self, name)) for name in type(self).model_fields)
        return {name: aim for name, aim in named if aim is not None}

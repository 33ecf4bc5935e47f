"""The space that a part works in."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.numbers.fields import Distance, Length
from metaspira.numbers.kind import Kind
from metaspira.references.asked import ReferenceBody


class Fit(Kind):
    """The space that the part works in: a bore around it, a rod inside it, the air it must keep.

    `bore` and `rod` are diameters around the z axis; `length` is the space along it; `gap` is the
    least air wanted, between coils, to bore and rod, and to
    reference `bodies`.
    """

    bore: Length | None = Field(default=None, title="Bore around it")
    rod: Length | None = Field(default=None, title="Rod inside it")
    length: Length | None = None
    gap: Distance | None = Field(default=None, title="Air to keep")
    bodies: Annotated[tuple[ReferenceBody, ...], Field(max_length=4)] = ()

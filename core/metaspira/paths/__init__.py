"""Paths: the curve that the wire follows. A new kind is one module here and one word in PathKind."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.paths.coil import Coil
from metaspira.paths.path import Path
from metaspira.paths.straight import Straight

PathKind = Annotated[Coil | Straight, Field(discriminator="kind")]

__all__ = ["Coil", "Path", "PathKind", "Straight"]

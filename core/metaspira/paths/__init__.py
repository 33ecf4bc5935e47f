"""Paths: the curve that the wire follows. A new kind is one module here and one word in PathKind."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.paths.base import PathBase
from metaspira.paths.coil import Coil
from metaspira.paths.formula import FormulaPath
from metaspira.paths.path import CurvePath, JoinedPath, Path, SpanOfPath
from metaspira.paths.points import Points
from metaspira.paths.straight import Straight
from metaspira.paths.winding import Winding
from metaspira.paths.wrap import Wrap

PathKind = Annotated[
    Coil | Straight | Points | FormulaPath | Winding | Wrap, Field(discriminator="kind")
]

Winding.model_rebuild(_types_namespace={"PathKind": PathKind})

__all__ = ["Coil", "CurvePath", "JoinedPath", "Path", "PathBase", "PathKind", "SpanOfPath", "Straight"]

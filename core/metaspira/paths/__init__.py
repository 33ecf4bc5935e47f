"""Paths: the curve that the wire follows. A new kind is one module here."""

from __future__ import annotations

import sys
from typing import TYPE_CHECKING

from metaspira.numbers.kind import kinds_of, modules_of, one_of
from metaspira.paths.base import PathBase
from metaspira.paths.path import CurvePath, JoinedPath, Path, SpanOfPath

modules_of(sys.modules[__name__])

if TYPE_CHECKING:
    PathKind = PathBase
else:
    PathKind = one_of(kinds_of(PathBase))

for _kind in kinds_of(PathBase):
    _kind.model_rebuild(_types_namespace={"PathKind": PathKind})

__all__ = ["CurvePath", "JoinedPath", "Path", "PathBase", "PathKind", "SpanOfPath"]

"""The section kinds, a module each: models of what is typed, each with its outline."""

from __future__ import annotations

import sys
from typing import TYPE_CHECKING

from metaspira.numbers.kind import Kind, kinds_of, modules_of, one_of
from metaspira.sections.kinds.base import HoleBase, SectionBase
from metaspira.sections.kinds.several import Blend, BlendAt

modules_of(sys.modules[__name__])

if TYPE_CHECKING:
    HoleKind = HoleBase
    PlainSection = SectionBase
    SectionKind = SectionBase
else:
    HoleKind = one_of(kinds_of(HoleBase))
    PlainSection = one_of(kind for kind in kinds_of(SectionBase) if kind is not Blend)
    SectionKind = one_of(kinds_of(SectionBase))

_all: list[type[Kind]] = [BlendAt, *kinds_of(SectionBase)]
for _kind in _all:
    _kind.model_rebuild(_types_namespace={"HoleKind": HoleKind, "PlainSection": PlainSection})

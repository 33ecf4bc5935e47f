"""What every file and document says of the part and of itself."""

from __future__ import annotations

import os
from dataclasses import dataclass
from datetime import UTC, datetime
from time import time

from metaspira import __version__
from metaspira.parts import AnyPart, bodies_of
from metaspira.recipe.title_block import TitleBlock, workshop_block

SYSTEM = f"Metaspira {__version__}"


@dataclass(frozen=True)
class Identity:
    """`title` is the design's name; `block` is filled in by the design and the workshop; `time` is UTC."""

    title: str
    block: TitleBlock
    time: datetime

    @property
    def stamp(self) -> str:
        """ISO 8601, to the second."""
        return self.time.strftime("%Y-%m-%dT%H:%M:%SZ")

    @property
    def day(self) -> str:
        return self.time.date().isoformat()


def identity_of(part: AnyPart) -> Identity:
    """As of now."""
    block = (part.recipe.title_block or TitleBlock()).filled_by(workshop_block())
    return Identity(part.recipe.name, block, datetime.fromtimestamp(issued(), UTC))


def issued() -> int:
    """Seconds of now; or SOURCE_DATE_EPOCH (reproducible-builds.org), so that a recipe gives the same file
    each time."""
    epoch = os.environ.get("SOURCE_DATE_EPOCH", "")
    return int(epoch) if epoch.isdecimal() and len(epoch) < 12 else int(time())


def body_names(part: AnyPart) -> list[str]:
    """What each body is called in a file: the design's name, and where there are several its own as well."""
    bodies, title = bodies_of(part), part.recipe.name
    return [title] if len(bodies) == 1 else [f"{title}, {body.name}" for body in bodies]

"""A reference body as a recipe keeps it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator
from typing_extensions import TypedDict

from metaspira.numbers.fields import Angle, Offset
from metaspira.numbers.kind import Kind

MOST_VERTICES, MOST_FACES = 4000, 8000

_Coordinate = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]
_Index = Annotated[int, Field(ge=0, lt=MOST_VERTICES)]


class Triangles(TypedDict):
    """Vertices in mm and faces that turn counter-clockwise seen from outside."""

    vertices: Annotated[
        list[tuple[_Coordinate, _Coordinate, _Coordinate]],
        Field(max_length=MOST_VERTICES),
    ]
    faces: Annotated[list[tuple[_Index, _Index, _Index]], Field(max_length=MOST_FACES)]


class ReferenceBody(Kind):
    """A body that is placed `at` a point after a `turn` about the z axis; its triangles keep to the file's
    within `error` mm."""

    name: str = Field(default="body", max_length=120)
    mesh: Triangles
    error: Annotated[float, Field(ge=0, le=1e6)] = 0.0
    at: tuple[Offset, Offset, Offset] = (0.0, 0.0, 0.0)
    turn: Angle = 0.0

    @model_validator(mode="after")
    def _known(self) -> ReferenceBody:
        count = len(self.mesh["vertices"])
        if not self.mesh["faces"]:
            raise ValueError("the body has no faces")
        if max(max(face) for face in self.mesh["faces"]) >= count:
            raise ValueError(f"a face of the body names a vertex beyond its {count}")
        return self

"""What a drawing is made of: lines, arcs, hatching, dimensions and texts, in mm of the sheet."""

from __future__ import annotations

from dataclasses import dataclass

Point = tuple[float, float]


@dataclass(frozen=True)
class Line:
    points: tuple[Point, ...]
    thin: bool = False
    dashed: bool = False


@dataclass(frozen=True)
class Circle:
    centre: Point
    radius: float
    thin: bool = False


@dataclass(frozen=True)
class Arc:
    """Counter-clockwise from an angle to another, degrees."""

    centre: Point
    radius: float
    start: float
    end: float
    thin: bool = False


@dataclass(frozen=True)
class Hatch:
    """Hatching at 45° between an outline and its holes."""

    rings: tuple[tuple[Point, ...], ...]


@dataclass(frozen=True)
class Text:
    """A text at a place, `anchor` its start, middle or end; turned upwards where it is `upright`; `size` of
    its type in mm."""

    place: Point
    words: str
    anchor: str = "middle"
    upright: bool = False
    size: float = 2.8


@dataclass(frozen=True)
class Dimension:
    """A linear dimension (ISO 129-1) of the way from one place to another, level or `upright`: its line
    stands at a height, or at an x, `at`. `words` says the figure; a mm of the sheet is `factor` mm of the
    part."""

    start: Point
    end: Point
    at: float
    words: str
    upright: bool = False
    factor: float = 1.0


Mark = Line | Circle | Arc | Hatch | Text | Dimension


@dataclass(frozen=True)
class Drawing:
    """A picture in mm of the sheet, y upwards, its corner at 0, 0."""

    title: str
    width: float
    height: float
    parts: tuple[Mark, ...]

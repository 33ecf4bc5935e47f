"""Notes and tables on a sheet."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from metaspira.drawings.letters import width, wrapped
from metaspira.drawings.marks import Drawing, Line, Mark, Text
from metaspira.drawings.strokes import strokes
from metaspira.drawings.view import moved

_SIZE, _LINE = 2.8, 4.4
_ROOM = 92.0


@dataclass(frozen=True)
class Notes:
    """Lines of text in type of a size, wrapped."""

    lines: tuple[str, ...]
    type: float = _SIZE

    @cached_property
    def _wrapped(self) -> list[str]:
        return [row for line in self.lines for row in wrapped(line, self.type, _ROOM)]

    @property
    def _step(self) -> float:
        return self.type * _LINE / _SIZE

    def size(self, main: float) -> tuple[float, float]:
        return _ROOM, self._step * len(self._wrapped) + 1

    def placed(self, main: float, x: float, y: float) -> list[Mark]:
        top = y + self._step * len(self._wrapped) - self.type
        return [
            Text((x, top - self._step * k), line, "start", size=self.type)
            for k, line in enumerate(self._wrapped)
            if line
        ]


@dataclass(frozen=True)
class Table:
    """Rows of cells, the first of them heads."""

    title: str
    rows: tuple[tuple[str, ...], ...]

    @cached_property
    def _columns(self) -> list[float]:
        return [max(width(cell, _SIZE) for cell in column) + 3 for column in zip(*self.rows, strict=True)]

    def size(self, main: float) -> tuple[float, float]:
        return max(sum(self._columns), width(self.title, 3.5)), 1.2 * _LINE * (len(self.rows) + 1) + 1

    def placed(self, main: float, x: float, y: float) -> list[Mark]:
        step = 1.2 * _LINE
        top, right = y + step * len(self.rows), x + sum(self._columns)
        marks: list[Mark] = [Text((x, top + 1.5), self.title, "start", size=3.5)]
        marks += [
            Line(((x, top - step * k), (right, top - step * k)), thin=k > 1)
            for k in range(len(self.rows) + 1)
        ]
        for k, row in enumerate(self.rows):
            at = x
            for cell, wide in zip(row, self._columns, strict=True):
                marks.append(Text((at + 1, top - step * (k + 1) + 1.5), cell, "start", size=_SIZE))
                at += wide
        return marks


@dataclass(frozen=True)
class Picture:
    """A drawing that stands on the sheet as it is, such as a load diagram."""

    drawing: Drawing

    def size(self, main: float) -> tuple[float, float]:
        return self.drawing.width, self.drawing.height + 6

    def placed(self, main: float, x: float, y: float) -> list[Mark]:
        title = Text((x + self.drawing.width / 2, y + 1), self.drawing.title, size=3.5)
        return [title, *(moved(mark, 1.0, (x, y + 6)) for mark in strokes(self.drawing.parts))]

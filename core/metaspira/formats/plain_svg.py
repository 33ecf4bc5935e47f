"""Is an SVG plain enough to be read? What it would expand to is counted before anything is expanded."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from xml.parsers import expat

from metaspira.problems import Problem, RecipeError

MOST_PIECES = 20_000
_MOST_ELEMENTS, _MOST_DEPTH = 20_000, 60
_COMMAND = re.compile(r"([MmLlHhVvCcSsQqTtAaZz])([^MmLlHhVvCcSsQqTtAaZz]*)")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_NUMBERS_OF = {"m": 2, "l": 2, "h": 1, "v": 1, "c": 6, "s": 4, "q": 4, "t": 2, "a": 7, "z": 1}
_HREFS = ("href", "xlink:href", "http://www.w3.org/1999/xlink href")


@dataclass
class _Element:
    pieces: int
    children: list[int] = field(default_factory=list)
    use: str | None = None


class _Reader:
    def __init__(self) -> None:
        self.elements: list[_Element] = []
        self.by_id: dict[str, int] = {}
        self.open: list[int] = []

    def start(self, name: str, attributes: dict[str, str]) -> None:
        if len(self.elements) >= _MOST_ELEMENTS or len(self.open) >= _MOST_DEPTH:
            raise _refused(
                f"the SVG holds more than {_MOST_ELEMENTS} elements, or nests more than {_MOST_DEPTH} deep"
            )
        here = len(self.elements)
        element = _Element(1 + _pieces(attributes))
        if name.rsplit(":", 1)[-1] == "use":
            link = next((attributes[key] for key in _HREFS if key in attributes), "")
            element.use = link[1:] if link.startswith("#") else None
        if "id" in attributes:
            self.by_id[attributes["id"]] = here
        if self.open:
            self.elements[self.open[-1]].children.append(here)
        self.open.append(here)
        self.elements.append(element)

    def end(self, name: str) -> None:
        self.open.pop()

    def expanded(self) -> int:
        """Pieces after each `use` is replaced by what it names; children come after their parents, but what
        is used may stand anywhere, so it is walked with a stack."""
        total: dict[int, int] = {}
        waiting, within = [0], set()
        while waiting:
            here = waiting[-1]
            element = self.elements[here]
            parts = [*element.children]
            if element.use in self.by_id:
                parts.append(self.by_id[element.use])
            left = [part for part in parts if part not in total]
            if here in total or not left:
                waiting.pop()
                within.discard(here)
                total[here] = element.pieces + sum(total[part] for part in parts)
                continue
            within.add(here)
            if within.intersection(left):
                raise _refused("the SVG uses something within itself")
            waiting += left
        return total[0]


def demand_plain(data: bytes) -> None:
    """Raise RecipeError where the bytes are no XML, define entities, or hold or expand to more than is read
    here."""
    reader, parser = _Reader(), expat.ParserCreate()
    parser.StartElementHandler, parser.EndElementHandler = reader.start, reader.end
    parser.EntityDeclHandler = _entity
    try:
        parser.Parse(data, True)
    except (expat.ExpatError, ValueError, LookupError):
        raise RecipeError(
            Problem("/file", "this is not an SVG file that can be read", "save it again as a plain SVG")
        ) from None
    if reader.expanded() > MOST_PIECES:
        raise _refused(f"the drawing holds, or expands to, more than {MOST_PIECES} pieces")


def _entity(*_: object) -> None:
    raise _refused("the SVG defines entities of its own")


def _pieces(attributes: dict[str, str]) -> int:
    """How many pieces the lines of an element have."""
    found = len(attributes.get("points", "").replace(",", " ").split()) // 2
    for match in _COMMAND.finditer(attributes.get("d", "")):
        command, numbers = match.groups()
        found += max(1, len(_NUMBER.findall(numbers)) // _NUMBERS_OF[command.lower()])
        if found > MOST_PIECES:
            break
    return found


def _refused(reason: str) -> RecipeError:
    return RecipeError(Problem("/file", reason, "save only the outline, as a plain SVG"))

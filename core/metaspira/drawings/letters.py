"""The typefaces of documents: DejaVu Sans Condensed, and for Chinese, Japanese and Korean letters those that
stand in for it. A letter that none of them has is written as its number in Unicode."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from functools import cache, lru_cache
from importlib.resources import files
from itertools import accumulate, groupby
from xml.sax.saxutils import escape

from reportlab import rl_config
from reportlab.pdfbase.pdfmetrics import registerFont, stringWidth
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "DejaVuSansCondensed", "DejaVuSansCondensed-Bold"
_BESIDE = ("DroidSansFallback", "NotoSansKR-Hangul")


@cache
def typefaces() -> dict[str, frozenset[int]]:
    """The letters of each typeface, which is read and known to ReportLab from here on; pages begin with the
    first, so that none names one that is not embedded."""
    folder = files("metaspira.drawings") / "typeface"
    known = {}
    for name in (REGULAR, BOLD, *_BESIDE):
        with (folder / f"{name}.ttf").open("rb") as stream:
            face = TTFont(name, stream)
        registerFont(face)
        known[name] = frozenset(face.face.charToGlyph)
    rl_config.canvas_basefontname = REGULAR
    return known


@lru_cache(maxsize=20_000)
def _letter(letter: str, face: str) -> tuple[str, str, float]:
    """What a letter is written as, in which typeface, and how wide that is at size 1."""
    known = typefaces()
    name = next((name for name in (face, *_BESIDE) if ord(letter) in known[name]), None)
    told = letter if name else f"[U+{ord(letter):04X}]"
    return told, name or face, float(stringWidth(told, name or face, 1.0))


def runs(text: str, face: str = REGULAR) -> Iterator[tuple[str, str]]:
    """A text as pieces, each with the typeface that has its letters."""
    letters = [_letter(letter, face) for letter in " ".join(text.split())]
    for name, pieces in groupby(letters, key=lambda piece: piece[1]):
        yield "".join(letter for letter, _, _ in pieces), name


def width(text: str, size: float, face: str = REGULAR) -> float:
    """How wide a text of a size is, in the size's unit."""
    return size * sum(_letter(letter, face)[2] for letter in " ".join(text.split()))


def marked(text: str, face: str = REGULAR) -> str:
    """A text as ReportLab's markup, its typefaces named."""
    return "".join(f'<font name="{name}">{escape(piece)}</font>' for piece, name in runs(text, face))


def wrapped(text: str, size: float, room: float) -> list[str]:
    """A text in lines no wider than the room, broken between words, and within those that are wider; its own
    line breaks kept."""
    lines: list[str] = []
    for paragraph in text.splitlines() or [""]:
        line = ""
        for word in paragraph.split():
            longer = f"{line} {word}" if line else word
            if width(longer, size) <= room:
                line = longer
                continue
            if line:
                lines.append(line)
            while width(word, size) > room:
                reach = list(accumulate(width(letter, size) for letter in word))
                cut = max(bisect_right(reach, room), 1)
                lines.append(word[:cut])
                word = word[cut:]
            line = word
        lines.append(line)
    return lines

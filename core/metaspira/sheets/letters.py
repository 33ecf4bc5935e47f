"""The typeface of PDF files, Roboto: the PDF standard fonts lack the letters of formulas."""

from __future__ import annotations

from functools import cache

import font_roboto
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "Roboto", "Roboto-Bold"
_INSTEAD = str.maketrans({"⌀": "Ø", "→": "to"})


@cache
def known_letters() -> frozenset[int]:
    """The letters that the typeface has, which is read and known to ReportLab from here on."""
    registerFont(TTFont(BOLD, font_roboto.RobotoBold))
    face = TTFont(REGULAR, font_roboto.Roboto)
    registerFont(face)
    return frozenset(face.face.charToGlyph)


def written(text: str) -> str:
    """A text in letters that the typeface has; a question mark for what it has not."""
    known = known_letters()
    return "".join(c if ord(c) in known else "?" for c in text.translate(_INSTEAD))

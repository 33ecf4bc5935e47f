"""The typeface of PDF files, Roboto: the PDF standard fonts lack the letters of formulas."""

from __future__ import annotations

import font_roboto
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "Roboto", "Roboto-Bold"
_FACE = TTFont(REGULAR, font_roboto.Roboto)
_INSTEAD = str.maketrans({"⌀": "Ø", "→": "to"})

registerFont(_FACE)
registerFont(TTFont(BOLD, font_roboto.RobotoBold))


def written(text: str) -> str:
    """A text in letters that the typeface has; a question mark for what it has not."""
    known = _FACE.face.charToGlyph
    return "".join(c if ord(c) in known else "?" for c in text.translate(_INSTEAD))

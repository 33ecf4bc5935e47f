"""The main view of a part by itself, such as a data sheet shows."""

from __future__ import annotations

from metaspira.drawings.marks import Drawing, Text
from metaspira.drawings.plan import Plan
from metaspira.drawings.view import Projected

_ROOM = (88.0, 66.0)
_STEP, _STEPS = 1.06, 200


def picture_of(plan: Plan) -> Drawing:
    """It as large as it fits into a picture, mm, and to no scale of its own."""
    main = plan.views[0]
    view = main.front if isinstance(main, Projected) else main
    scale = 100.0
    for _ in range(_STEPS):
        wide, tall = view.size(scale)
        if wide <= _ROOM[0] and tall <= _ROOM[1]:
            break
        scale /= _STEP
    placed = view.placed(scale, 0.0, 0.0)
    titles = [mark for mark in placed if isinstance(mark, Text) and mark.size > Text.size]
    return Drawing(view.title, wide, tall, tuple(mark for mark in placed if mark not in titles))

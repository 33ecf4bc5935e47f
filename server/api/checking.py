"""A report for whoever asks for it, as long as they wait."""

from __future__ import annotations

import time
from typing import Any

from designs.verdicts import being_checked, remember
from django.http import HttpRequest
from metaspira.checks import Report, report_on
from metaspira.outputs import listing
from metaspira.parts import AnyPart
from metaspira.recipe.sentences import sentences
from metaspira.views.headline import headline
from metaspira.views.wound import field_values, variables_of

_REMEDY_SECONDS = 4.0
"""Of the processor: a server that is busy with others takes longer, and finds no less."""


def said(report: Report) -> dict[str, Any]:
    """What is said of any part."""
    part = report.part
    return {
        **report.as_dict(),
        "figures": report.figures,
        "headline": [vars(figure) for figure in headline(part)],
        "gap_range": report.gap_range,
        "bodies": [body.name for body in part.bodies],
        "values": field_values(part),
        "variables": variables_of(part),
        "words": sentences(part.typed),
        "outputs": listing(part),
    }


def reported(request: HttpRequest, part: AnyPart, remedies: bool) -> Report:
    """Figures and checks of a part. The search for remedies ends where the client has left, and after some
    seconds."""
    typed: dict[str, Any] = request.typed  # type: ignore[attr-defined]
    left = request.META.get("waitress.client_disconnected", lambda: False)
    until = time.thread_time() + _REMEDY_SECONDS
    with being_checked(typed):
        report = report_on(part, remedies, lambda: time.thread_time() > until or left())
        remember(typed, report)
    return report

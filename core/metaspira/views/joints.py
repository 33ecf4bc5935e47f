"""What is told of a threaded joint: its figures, and how turns share its load."""

from __future__ import annotations

from typing import Any

from metaspira.parts import AnyPart
from metaspira.threads.joint.figures import joint_figures


def joint_view(part: AnyPart) -> dict[str, Any] | None:
    """Figures, materials, and the share of the load on each turn; None where no joint is asked for."""
    joint = part.joint
    if joint is None:
        return None
    return {
        "length": joint.length,
        "external": vars(joint.external),
        "internal": vars(joint.internal),
        "strips_first": joint.strips_first,
        "breaks_first": joint.breaks_first,
        "figures": [vars(figure) for figure in joint_figures(joint)],
        "shares": joint.shares.tolist(),
    }

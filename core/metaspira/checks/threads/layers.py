"""Are the layers that it is printed in fine enough for its pitch?"""

from __future__ import annotations

from metaspira.checks.check import Check, Verdict, Window
from metaspira.checks.question import Question
from metaspira.parts import AnyPart
from metaspira.parts.threaded import ThreadedPart

_LEAST = 5.0


def check_layers(part: ThreadedPart, window: Window) -> Check:
    """Layers in a pitch: with fewer than five a flank becomes steps that catch (common practice, no
    source)."""
    ladder = part.recipe.ladder
    assert ladder is not None and ladder.layer is not None
    value = part.thread.pitch / ladder.layer
    verdict: Verdict = "clear" if value >= _LEAST - 1e-9 else "watch"
    why = f"A pitch of {part.thread.pitch:.4g} mm is {value:.3g} layers of {ladder.layer:.4g} mm high"
    return Check("layers", "Layers in a pitch", verdict, value, _LEAST, "", why, value - _LEAST)


def _is_layered(part: AnyPart) -> bool:
    if not isinstance(part, ThreadedPart) or part.recipe.ladder is None:
        return False
    return part.recipe.ladder.layer is not None


QUESTIONS = (
    Question(
        "layers",
        check_layers,
        _is_layered,
        "thread",
        21,
        "printed layers in a pitch",
        "",
        "under five (common practice)",
        cures=("/ladder/layer", "/thread/pitch"),
    ),
)

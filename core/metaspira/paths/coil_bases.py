"""What a coil winds on, where that is not round."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from metaspira.numbers.fields import Length
from metaspira.numbers.jets import Jet, sin_cos
from metaspira.numbers.kind import Kind, Usual
from metaspira.paths.helix import Base
from metaspira.problems import Fix, Problem, RecipeError

_TURN = 2 * math.pi


class Oval(Kind, title="oval"):
    """An oval base: `depth` is its diameter in y, while the coil's diameter is the one in x."""

    kind: Literal["oval"] = "oval"
    depth: Annotated[Length, Usual(1.6)]

    def outline(
        self, diameter: float, turns: float, hand: int, start: float, place: str
    ) -> tuple[Base, tuple[float, ...]]:
        ratio = self.depth / diameter

        def base(angle: Jet) -> tuple[Jet, Jet]:
            sine, cosine = sin_cos(angle)
            return cosine, sine * ratio

        return base, ()


class RoundedRectangle(Kind, title="rounded rectangle"):
    """A rounded rectangle as base: the coil's diameter is its width in x, `depth` its width in y."""

    kind: Literal["rectangle"] = "rectangle"
    depth: Annotated[Length, Usual(1.6)]
    corner_radius: Annotated[Length, Usual(0.25)] = Field(title="Corners")

    def outline(
        self, diameter: float, turns: float, hand: int, start: float, place: str
    ) -> tuple[Base, tuple[float, ...]]:
        """The outline by its own true length, once around in a turn, in units of half the diameter."""
        a, b, r = diameter / 2, self.depth / 2, self.corner_radius
        if r > min(a, b):
            raise RecipeError(
                Problem(
                    f"{place}/corner_radius",
                    f"a corner radius of {r:.6g} mm does not fit sides of {2 * a:.6g} and {2 * b:.6g} mm",
                    f"use {min(a, b):.6g} mm or less",
                    Fix(f"{place}/corner_radius", f"{min(a, b):.9g} mm"),
                )
            )
        quarter = math.pi * r / 2
        sides = [
            b - r,
            quarter,
            2 * (a - r),
            quarter,
            2 * (b - r),
            quarter,
            2 * (a - r),
            quarter,
            b - r,
        ]
        ends = np.concatenate([[0.0], np.cumsum(sides)])
        around = float(ends[-1])
        corners = np.array([[a - r, b - r], [-(a - r), b - r], [-(a - r), -(b - r)], [a - r, -(b - r)]])

        def base(angle: Jet) -> tuple[Jet, Jet]:
            run = angle * (around / _TURN)
            at = np.mod(run.value, around)
            piece = np.clip(np.searchsorted(ends, at, "right") - 1, 0, 8)
            local = Jet([at - ends[piece], *run.c[1:]])
            x, y = local.lifted(0.0), local.lifted(0.0)
            for k in np.unique(piece):
                on = piece == k
                part = Jet([c[on] for c in local.c])
                if k % 2:
                    centre, first = corners[k // 2], (k // 2) * math.pi / 2
                    sine, cosine = sin_cos(part * (1 / r) + first)
                    px, py = cosine * r + centre[0], sine * r + centre[1]
                else:
                    px, py = {
                        0: (part * 0 + a, part),
                        2: (-part + (a - r), part * 0 + b),
                        4: (part * 0 - a, -part + (b - r)),
                        6: (part - (a - r), part * 0 - b),
                        8: (part * 0 + a, part - (b - r)),
                    }[int(k)]
                for whole, given in ((x, px), (y, py)):
                    for c, value in zip(whole.c, given.c, strict=True):
                        c[on] = value
            return x * (1 / a), y * (1 / a)

        joints = ends[1:-1] / around * _TURN
        laps = np.arange(-math.ceil(turns) - 2, math.ceil(turns) + 3)[:, None] * _TURN
        parameters = np.sort((hand * (joints + laps - start)).ravel())
        inside = parameters[(parameters > 1e-9) & (parameters < turns * _TURN - 1e-9)]
        return base, tuple(float(p) for p in inside)

"""Extension springs: initial tension, rate, and the stresses in body and hooks.

Body (EN 13906-2):  R = G d⁴ / (8 D³ n),  F = F₀ + R s,  τ = 8 F D / (π d³), allowed 0.45 Rm.
Hooks (Shigley, Mechanical Engineering Design, section 10-11, from memory; the factors in `shape`):

    bending   σ = F (K_A 16 D / (π d³) + 4 / (π d²));  0.75 Rm
    torsion   τ = K_B 8 F D / (π d³);  0.40 Rm
    the initial tension that is wound easily, as stress:
              τ₀ = 33500 / e^(0.105 w) ± 1000 (4 − (w − 3) / 6.5)  psi
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from metaspira.numbers.jets import Array
from metaspira.numbers.once import cached_property
from metaspira.paths import Path
from metaspira.springs.asked import ExtensionSpring
from metaspira.springs.deformed import edges_of, loaded_path
from metaspira.springs.working import Mark, Spring, Working

BODY, BENT, TWISTED = 0.45, 0.75, 0.40
"""Stresses allowed in the body and in the hooks, bent and twisted, as shares of the tensile strength."""

_PSI = 6.894757e-3
_BEYOND = 1.1


Hooked = Callable[[Array, Array], tuple[Array, Array]]


@dataclass(frozen=True)
class Hook:
    """The radii, mm, of a hook's loop and of the bend before it."""

    loop: float
    bend: float


def most_initial_stress(index: Array) -> Array:
    """The greatest stress, MPa (n,), that turns can be wound to press each other by, by the spring index."""
    return _PSI * (33500 / np.exp(0.105 * index) + 1000 * (4 - (index - 3) / 6.5))


def least_initial_stress(index: Array) -> Array:
    """The least stress, MPa (n,), that turns wound to press each other are easily wound by."""
    return _PSI * np.maximum(33500 / np.exp(0.105 * index) - 1000 * (4 - (index - 3) / 6.5), 0.0)


@dataclass(frozen=True, eq=False)
class Extension(Spring):
    """An extension spring and its hooks; its free length is that inside them."""

    asked: ExtensionSpring
    hooks: tuple[Hook, ...]

    @property
    def marks(self) -> tuple[Mark, ...]:
        return (Mark(self.most_force, "0.45 Rm", "stop"),)

    @property
    def active(self) -> float:
        """Turns that take part: all of the body, and G/E more where its hooks give too."""
        hooks = self.asked.gives == "hooks"
        return self.turns.turns + (self.shear_modulus / self.elastic_modulus if hooks else 0.0)

    @cached_property
    def rate(self) -> float:
        """N/mm"""
        return 1.0 / (float(self.yielding.mean()) * self.active)

    @property
    def initial(self) -> float:
        """Initial tension, N."""
        return self.asked.initial_tension

    @property
    def index(self) -> float:
        """Least w = D / d."""
        return 2 * float(self.turns.radii.min()) / self.diameter

    @property
    def allowed(self) -> float:
        """Plain shear stress allowed in the body, MPa: 0.45 Rm (EN 13906-2)."""
        return BODY * self.strength

    @property
    def most_force(self) -> float:
        """The force, N, at which the body has all the stress that is allowed."""
        return self.allowed / self._unit_stress

    @property
    def span(self) -> tuple[float, float]:
        """The lengths, mm, between which it is drawn: free, and a little beyond what the body bears."""
        most = max(_BEYOND * self.most_force, 1.001 * self.initial)
        return self.free_length, self.free_length + (most - self.initial) / self.rate

    @property
    def _unit_stress(self) -> float:
        return float(self.turns.radii.max()) / self.shape.modulus

    def force_of_length(self, length: float) -> float:
        """N at a length, mm, held to the span; nothing at the free length."""
        way = min(max(length, self.free_length), self.span[1]) - self.free_length
        return self.initial + self.rate * way if way > 0 else 0.0

    def curve(self, count: int = 61) -> tuple[Array, Array]:
        """Way (mm) and force (N), each (count + 1,): up to the initial tension first."""
        way = np.linspace(0.0, self.span[1] - self.free_length, count)
        return np.append(0.0, way), np.append(0.0, self.initial + self.rate * way)

    def stress_along(self, effort: float, share: Array) -> Array:
        """Corrected stress, MPa (n,), under a force at shares of the turns."""
        return self.stress_at(effort, self.turns.radius.value(share))[1]

    def at_force(self, force: float) -> Working:
        return self._working(max(force - self.initial, 0.0) / self.rate, force)

    def at_length(self, length: float) -> Working:
        way = length - self.free_length
        return self._working(way, self.initial + self.rate * way if way > 0 else 0.0)

    def _working(self, way: float, force: float) -> Working:
        stress = self._unit_stress * force
        corrected = float(self.stress_at(force, self.turns.radii)[1].max())
        energy = way * 0.5 * (self.initial + force)
        return Working(self.free_length + way, force, way, stress, corrected, stress / self.allowed, energy)

    def hook_stresses(self, force: float) -> tuple[float, float] | None:
        """The greatest bending and torsion, MPa, in the hooks under a force, or None where it has none."""
        found = self._in_hooks
        return None if found is None else (force * found[0], force * found[1])

    @cached_property
    def _in_hooks(self) -> tuple[float, float] | None:
        return self.in_hooks(self.shape.hooked)

    def in_hooks(self, hooked: Hooked) -> tuple[float, float] | None:
        """The greatest bending and torsion, MPa, in the hooks under 1 N, by factors on those of a straight
        bar; None where it has none."""
        if not self.hooks:
            return None
        shape, lever = self.shape, float(self.turns.radii.max())
        bent, twisted = hooked(*np.array([(hook.loop, hook.bend) for hook in self.hooks]).T)
        bending = float(bent.max()) * lever / shape.bending + 1 / shape.area
        return bending, float(twisted.max()) * lever / shape.modulus

    @property
    def allowed_hook(self) -> tuple[float, float]:
        """Bending and torsion allowed in the hooks, MPa."""
        return BENT * self.strength, TWISTED * self.strength

    @property
    def most_initial(self) -> float:
        """The greatest initial tension that can be wound, N."""
        return float(most_initial_stress(np.array(self.index))) / self._unit_stress

    @property
    def least_initial(self) -> float:
        """The least initial tension that is wound easily, N."""
        return float(least_initial_stress(np.array(self.index))) / self._unit_stress

    def path_to(self, place: float) -> Path:
        """The centre line of its turns at a length, mm, held to the span."""
        turns = self.turns
        more = max(self.force_of_length(place) - self.initial, 0.0)

        def pitch(share: Array) -> Array:
            return turns.pitch.value(share) + more * self.yielding_at(share)

        return loaded_path(turns, pitch, edges_of(turns, np.zeros(turns.count)), [])

"""Every limit of a spring on one scale: the share of it that is used."""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.recipe.model import Fit
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.fatigue import life_of
from metaspira.springs.torsion import Torsion

_MOST = 10.0
_INDEX = (4.0, 20.0)


@dataclass(frozen=True)
class Limit:
    """How much of a limit is used, 1 for all of it; `id` is the check's that speaks of it."""

    id: str
    title: str
    use: float


def limits_of(spring: Compression | Extension | Torsion, fit: Fit) -> list[Limit]:
    """The limits of a spring in its space, the most used first."""
    if isinstance(spring, Torsion):
        found = _turning(spring, fit)
    else:
        found = _pulling(spring) if isinstance(spring, Extension) else _pushing(spring, fit)
    return sorted(found, key=lambda limit: -limit.use)


def _turning(spring: Torsion, fit: Fit) -> list[Limit]:
    angle = max((point.angle for point in spring.points), default=0.0)
    stress = max((point.stress for point in spring.points), default=0.0)
    found = [
        Limit("spring-stress", "Stress at work", stress / spring.allowed),
        Limit("spring-index", "Spring index", max(_INDEX[0] / spring.index, spring.index / _INDEX[1])),
    ]
    if fit.rod is not None:
        free, wound = (spring.inside_diameter(a) for a in (0.0, angle))
        room = free - fit.rod - 2 * (fit.gap or 0.0)
        found.append(
            Limit("spring-rod", "Closing on the rod", min((free - wound) / max(room, 1e-9), _MOST))
        )
    return found


def _pulling(spring: Extension) -> list[Limit]:
    force = max((point.force for point in spring.points), default=0.0)
    stress = max((point.stress for point in spring.points), default=0.0)
    found = [
        Limit("spring-stress", "Stress in the body", stress / spring.allowed),
        Limit("spring-index", "Spring index", max(_INDEX[0] / spring.index, spring.index / _INDEX[1])),
    ]
    if (hooks := spring.hook_stresses(force)) is not None:
        (bent, twisted), (bent_most, twisted_most) = hooks, spring.allowed_hook
        found.append(
            Limit("spring-hooks", "Stress in the hooks", max(bent / bent_most, twisted / twisted_most))
        )
    if spring.initial > 0:
        found.append(
            Limit("spring-initial", "Initial tension", min(spring.initial / spring.most_initial, _MOST))
        )
    return found


def _pushing(spring: Compression, fit: Fit) -> list[Limit]:
    life = life_of(spring)
    block = spring.deflection_to_block
    work = max((point.deflection for point in spring.points), default=0.0)
    stress = max((point.stress for point in spring.points), default=0.0)
    free, loaded = (spring.outside_diameter(s) for s in (0.0, min(max(work, 0.0), block)))
    found = [
        Limit("spring-stress", "Stress at work", stress / spring.allowed),
        Limit("spring-block", "Stress at block", spring.block.stress / spring.allowed_solid),
        Limit(
            "spring-travel",
            "Travel left to block",
            min(spring.least_gaps / max(block - work, 1e-9), _MOST),
        ),
        Limit("spring-index", "Spring index", max(_INDEX[0] / spring.index, spring.index / _INDEX[1])),
    ]
    if life is not None:
        found.append(Limit("spring-fatigue", "Life", life.utilisation))
    if spring.buckling is not None:
        found.append(Limit("spring-buckling", "Buckling", work / spring.buckling))
    if fit.bore is not None:
        room = fit.bore - 2 * (fit.gap or 0.0) - free
        found.append(
            Limit("spring-bore", "Growth in the bore", min((loaded - free) / max(room, 1e-9), _MOST))
        )
    return found

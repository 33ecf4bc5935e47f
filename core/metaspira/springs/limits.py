"""Every limit of a spring on one scale: the share of it that is used."""

from __future__ import annotations

from dataclasses import dataclass

from metaspira.references.fit import Fit
from metaspira.springs.any_spring import AnySpring
from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.fatigue import life_of
from metaspira.springs.nested import Nested
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion
from metaspira.springs.turning import Turning
from metaspira.springs.working import WoundSpring

_MOST = 10.0


@dataclass(frozen=True)
class Limit:
    """How much of a limit is used, 1 for all of it; `id` is the check's that speaks of it."""

    id: str
    title: str
    use: float


def limits_of(spring: AnySpring, fit: Fit) -> list[Limit]:
    """The limits of a spring in its space, the most used first; of a nest each of the spring that uses the
    most of it."""
    springs: tuple[AnySpring, ...] = spring.members if isinstance(spring, Nested) else (spring,)
    each = [limit for one in springs for limit in _own(one, fit)]
    each += [
        Limit("spring-fatigue", "Life", life.utilisation)
        for one in springs
        if (life := life_of(one)) is not None
    ]
    most = {limit.id: limit for limit in sorted(each, key=lambda limit: limit.use)}
    return sorted(most.values(), key=lambda limit: -limit.use)


def _own(spring: AnySpring, fit: Fit) -> list[Limit]:
    if isinstance(spring, Turning):
        return _turning(spring, fit)
    if isinstance(spring, Extension):
        return _pulling(spring)
    return _pushing(spring, fit) if isinstance(spring, Compression) else []


def _index(spring: WoundSpring) -> Limit:
    low, high = spring.indices
    return Limit("spring-index", "Spring index", max(low / spring.index, spring.index / high))


def _turning(spring: Turning, fit: Fit) -> list[Limit]:
    found = [
        Limit("spring-stress", "Stress at work", spring.worst_stress / spring.allowed),
        _index(spring),
    ]
    if isinstance(spring, Spiral):
        solid = max(spring.solid_angle, 1e-9)
        found.append(Limit("spring-travel", "Turns till solid", min(spring.worst_way / solid, _MOST)))
    if isinstance(spring, Torsion) and fit.rod is not None:
        free, wound = (spring.inside_diameter(a) for a in (0.0, spring.worst_way))
        room = free - fit.rod - 2 * (fit.gap or 0.0)
        found.append(Limit("spring-rod", "Closing on the rod", min((free - wound) / max(room, 1e-9), _MOST)))
    return found


def _pulling(spring: Extension) -> list[Limit]:
    found = [
        Limit("spring-stress", "Stress in the body", spring.worst_stress / spring.allowed),
        _index(spring),
    ]
    if (hooks := spring.hook_stresses(spring.worst_effort)) is not None:
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
    block = spring.deflection_to_block
    work = spring.worst_way
    free, loaded = (spring.outside_diameter(s) for s in (0.0, min(max(work, 0.0), block)))
    found = [
        Limit("spring-stress", "Stress at work", spring.worst_stress / spring.allowed),
        Limit("spring-block", "Stress at solid length", spring.block.stress / spring.allowed_solid),
        Limit(
            "spring-travel",
            "Travel left to solid length",
            min(spring.least_gaps / max(block - work, 1e-9), _MOST),
        ),
        _index(spring),
    ]
    if spring.buckling is not None and not spring.guided_by(fit.bore, fit.rod):
        found.append(Limit("spring-buckling", "Buckling", work / spring.buckling))
    if fit.bore is not None:
        room = fit.bore - 2 * (fit.gap or 0.0) - free
        found.append(
            Limit("spring-bore", "Growth in the bore", min((loaded - free) / max(room, 1e-9), _MOST))
        )
    return found

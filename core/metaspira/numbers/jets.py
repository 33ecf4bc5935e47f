"""Jets: numbers that carry their derivatives along (truncated Taylor series, over arrays).

A jet of order m holds c₀ … c_m with f(t + h) = Σ c_k hᵏ. Sums and products are those of series; the
functions follow from their differential equations, e.g. y = exp f has y′ = f′ y, so

    k y_k = Σ_{j=1..k} j f_j y_{k−j}

(Griewank and Walther, Evaluating Derivatives, 2nd ed., SIAM 2008, chapter 13). A curve or a formula that
is evaluated on jets gives every derivative to rounding.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


class Jet:
    """A truncated Taylor series at each of n places: coefficients (order + 1) × (n,)."""

    __array_ufunc__ = None
    __slots__ = ("c",)

    def __init__(self, coefficients: Sequence[Array]):
        self.c = list(coefficients)

    @staticmethod
    def variable(t: Array, order: int) -> Jet:
        """The independent variable at t (n,)."""
        t = np.asarray(t, dtype=float)
        zero = np.zeros_like(t)
        return Jet([t, np.ones_like(t), *([zero] * (order - 1))][: order + 1])

    @staticmethod
    def of_derivatives(derivatives: Sequence[Array]) -> Jet:
        """From values and derivatives f, f′, f″ …, each (n,)."""
        return Jet([value / math.factorial(k) for k, value in enumerate(derivatives)])

    @property
    def order(self) -> int:
        return len(self.c) - 1

    @property
    def value(self) -> Array:
        return self.c[0]

    def derivatives(self) -> tuple[Array, ...]:
        """f, f′, f″ …, each (n,)."""
        return tuple(value * math.factorial(k) for k, value in enumerate(self.c))

    def derivative(self) -> Jet:
        """The series of f′, one order lower."""
        return Jet([(k + 1) * c for k, c in enumerate(self.c[1:])])

    def integral(self, start: Array) -> Jet:
        """The series of ∫f with the value `start`, one order higher."""
        return Jet([start, *(c / (k + 1) for k, c in enumerate(self.c))])

    def lifted(self, value: Any) -> Jet:
        """A plain number as a jet like this one."""
        if isinstance(value, Jet):
            return value
        return Jet([np.zeros_like(c) + (0.0 if k else value) for k, c in enumerate(self.c)])

    def compose(self, outer: Sequence[Array]) -> Jet:
        """g(self), from the Taylor coefficients (order + 1) × (n,) of g at this jet's value."""
        inner = Jet([np.zeros_like(self.c[0]), *self.c[1:]])
        total = self.lifted(outer[self.order])
        for k in range(self.order - 1, -1, -1):
            total = total * inner + outer[k]
        return total

    def __add__(self, other: Any) -> Jet:
        if isinstance(other, Jet):
            return Jet([a + b for a, b in zip(self.c, other.c, strict=False)])
        return Jet([self.c[0] + other, *self.c[1:]])

    __radd__ = __add__

    def __neg__(self) -> Jet:
        return Jet([-a for a in self.c])

    def __sub__(self, other: Any) -> Jet:
        return self + (-other)

    def __rsub__(self, other: Any) -> Jet:
        return (-self) + other

    def __mul__(self, other: Any) -> Jet:
        if not isinstance(other, Jet):
            return Jet([a * other for a in self.c])
        a, b = self.c, other.c
        order = min(self.order, other.order)
        zero = np.zeros_like(a[0])
        return Jet([sum((a[j] * b[k - j] for j in range(k + 1)), zero) for k in range(order + 1)])

    __rmul__ = __mul__

    def __truediv__(self, other: Any) -> Jet:
        if not isinstance(other, Jet):
            return Jet([a / other for a in self.c])
        out: list[Array] = []
        for k in range(min(self.order, other.order) + 1):
            rest = sum((other.c[j] * out[k - j] for j in range(1, k + 1)), np.zeros_like(self.c[0]))
            out.append((self.c[k] - rest) / other.c[0])
        return Jet(out)

    def __rtruediv__(self, other: Any) -> Jet:
        return self.lifted(other) / self

    def __pow__(self, exponent: Any) -> Jet:
        if isinstance(exponent, Jet):
            return exp(log(self) * exponent)
        if float(exponent).is_integer() and 0 <= exponent <= 8:
            power = self.lifted(1.0)
            for _ in range(int(exponent)):
                power = power * self
            return power
        f = self.c
        out = [f[0] ** exponent]
        for k in range(1, self.order + 1):
            total = np.zeros_like(f[0])
            for j in range(1, k + 1):
                total = total + (exponent * j - (k - j)) * f[j] * out[k - j]
            out.append(total / (k * f[0]))
        return Jet(out)

    def __rpow__(self, base: Any) -> Jet:
        return exp(self * math.log(base))


def _recurrent(f: Jet, first: Array, slope: Callable[[list[Array]], Jet]) -> Jet:
    """y with y₀ = first and y′ = slope(y), coefficient by coefficient."""
    out = [first]
    for k in range(1, f.order + 1):
        out.append(slope(out).c[k - 1] / k)
    return Jet(out)


def exp(f: Any) -> Any:
    if not isinstance(f, Jet):
        return math.exp(f)
    rate = f.derivative()
    return _recurrent(f, np.exp(f.value), lambda y: rate * Jet(y))


def log(f: Any) -> Any:
    if not isinstance(f, Jet):
        return math.log(f)
    if f.order == 0:
        return Jet([np.log(f.value)])
    return (f.derivative() / Jet(f.c[:-1])).integral(np.log(f.value))


def sqrt(f: Any) -> Any:
    return f**0.5 if isinstance(f, Jet) else math.sqrt(f)


def sin_cos(f: Jet) -> tuple[Jet, Jet]:
    """Sine and cosine of a jet, together."""
    sin, cos = [np.sin(f.value)], [np.cos(f.value)]
    for k in range(1, f.order + 1):
        steps = range(1, k + 1)
        zero = np.zeros_like(f.value)
        sin.append(sum((j * f.c[j] * cos[k - j] for j in steps), zero) / k)
        cos.append(sum((-j * f.c[j] * sin[k - j] for j in steps), zero) / k)
    return Jet(sin), Jet(cos)


def sin(f: Any) -> Any:
    return sin_cos(f)[0] if isinstance(f, Jet) else math.sin(f)


def cos(f: Any) -> Any:
    return sin_cos(f)[1] if isinstance(f, Jet) else math.cos(f)


def tan(f: Any) -> Any:
    if not isinstance(f, Jet):
        return math.tan(f)
    sine, cosine = sin_cos(f)
    return sine / cosine


def _by_slope(f: Jet, first: Array, slope: Callable[[Jet], Jet]) -> Jet:
    if f.order == 0:
        return Jet([first])
    lower = Jet(f.c[:-1])
    return (f.derivative() * slope(lower)).integral(first)


def asin(f: Any) -> Any:
    if not isinstance(f, Jet):
        return math.asin(f)
    return _by_slope(f, np.arcsin(f.value), lambda g: (1 - g * g) ** -0.5)


def acos(f: Any) -> Any:
    return math.pi / 2 - asin(f) if isinstance(f, Jet) else math.acos(f)


def atan(f: Any) -> Any:
    if not isinstance(f, Jet):
        return math.atan(f)
    return _by_slope(f, np.arctan(f.value), lambda g: 1 / (1 + g * g))


def absolute(f: Any) -> Any:
    return f * np.where(f.value < 0, -1.0, 1.0) if isinstance(f, Jet) else abs(f)


def _chosen(f: Any, g: Any, better: Callable[[Array, Array], Any]) -> Any:
    if not isinstance(f, Jet) and not isinstance(g, Jet):
        return f if better(f, g) else g
    like = f if isinstance(f, Jet) else g
    a, b = like.lifted(f), like.lifted(g)
    first = better(a.value, b.value)
    return Jet([np.where(first, x, y) for x, y in zip(a.c, b.c, strict=True)])


def least(f: Any, g: Any) -> Any:
    return _chosen(f, g, lambda a, b: a <= b)


def greatest(f: Any, g: Any) -> Any:
    return _chosen(f, g, lambda a, b: a >= b)


def stepwise(f: Any, function: Callable[[Any], Any]) -> Any:
    """round, floor or ceil: constant between its steps."""
    return f.lifted(function(f.value)) if isinstance(f, Jet) else float(function(f))


def remainder(f: Any, g: Any) -> Any:
    """f − g · trunc(f / g)."""
    if not isinstance(f, Jet) and not isinstance(g, Jet):
        return math.fmod(f, g)
    ratio = f / g
    return f - g * np.trunc(ratio.value if isinstance(ratio, Jet) else ratio)


def is_finite(f: Any) -> bool:
    if isinstance(f, Jet):
        return all(bool(np.all(np.isfinite(c))) for c in f.c)
    return math.isfinite(f)


__all__ = ["Array", "Jet", "exp", "log", "sin", "sin_cos", "sqrt"]

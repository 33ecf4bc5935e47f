"""Taylor series at many places, held against scipy's polynomials and against jets."""

import numpy as np
import pytest
import scipy
from metaspira.numbers.jets import Jet, cos, sin_cos
from metaspira.numbers.taylor import around_z, of_pieces


@pytest.mark.parametrize("order", [0, 1, 3, 7])
def test_pieces_are_those_of_scipy(order):
    """Inside, at the breaks, and past both ends."""
    rng = np.random.default_rng(order)
    x = np.sort(rng.uniform(0, 1, 6))
    pieces = scipy.interpolate.PPoly(rng.normal(size=(4, 5)), x)
    t = np.concatenate([rng.uniform(-0.3, 1.3, 40), x])
    found = of_pieces(pieces.c, pieces.x, t, order)
    there = [pieces(t, nu=k) / scipy.special.factorial(k) for k in range(order + 1)]
    assert found == pytest.approx(np.array(there), rel=1e-12, abs=1e-12)


def test_a_curve_around_the_axis_is_that_of_jets():
    t = np.linspace(0.1, 2.0, 9)
    theta = Jet.variable(t, 4)
    radius, angle, height = theta * theta * 0.3 + 2.0, theta * 3.0 + cos(theta), theta * theta
    sine, cosine = sin_cos(angle)
    found = around_z(*(np.array(one.c) for one in (radius, angle, height)))
    for axis, there in enumerate((radius * cosine, radius * sine, height)):
        assert found[..., axis] == pytest.approx(np.array(there.derivatives()), rel=1e-12, abs=1e-12)

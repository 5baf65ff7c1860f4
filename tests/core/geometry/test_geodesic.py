"""Geodesics a place at a time. Truth: the surface's own jets at the same places, and closed forms on a tube and a ball."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hollow_keel.core.geometry.geodesic import Geodesics
from hollow_keel.core.geometry.surface import TensorSurface
from hollow_keel.core.geometry.surface_line import straight_on

RADIUS = 800.0


def ball() -> TensorSurface:
    """A quarter of a ball about the middle of its equator: u and v are angles of 1 each."""
    angles = np.linspace(-0.5, 0.5, 61)
    around, up = angles[:, None], angles[None, :]
    return TensorSurface(
        RADIUS * np.stack([np.sin(around) * np.cos(up), np.cos(around) * np.cos(up), np.sin(up) + 0 * around], axis=2)
    )


@pytest.mark.parametrize("straight_ends", [False, True])
def test_paths_bend_as_the_surface_tells_at_many_places_at_once(straight_ends: bool) -> None:
    """On it, past every edge, on its corners and its last line."""
    surface = TensorSurface(ball().grid, straight_ends=straight_ends)
    rng = np.random.default_rng(3)
    edges = [[0, 0], [1, 1], [1, 0.3], [0.2, 1], [1 + 1e-13, 0.5], [1.02, 0.5], [0.5, -0.04]]
    for u, v in [*rng.uniform(-0.05, 1.05, (200, 2)).tolist(), *edges]:
        p, q = (rng.normal(size=2) * 1e-3).tolist()
        jet = surface.jet(np.array([u]), np.array([v]))
        wanted = np.concatenate(straight_on(jet, np.array([p]), np.array([q])))
        assert Geodesics(surface).bent(u, v, p, q) == pytest.approx(wanted, rel=1e-9, abs=1e-15)


def test_lengths_and_what_is_square_are_the_surface_s_own() -> None:
    """Against its jets: E, F, G are inner products, and square to a direction is normal × direction."""
    surface = TensorSurface(ball().grid)
    rng = np.random.default_rng(5)
    for u, v in rng.uniform(-0.05, 1.05, (60, 2)).tolist():
        p, q = rng.normal(size=2).tolist()
        jet = surface.jet(np.array([u]), np.array([v]))
        du, dv = jet.du[0], jet.dv[0]
        own = Geodesics(surface)
        assert own.form(u, v) == pytest.approx((du @ du, du @ dv, dv @ dv), rel=1e-9, abs=1e-6)
        direction = p * du + q * dv
        wanted = np.cross(jet.normal[0], direction / np.linalg.norm(direction))
        across, up = own.square(u, v, p, q)
        assert across * du + up * dv == pytest.approx(wanted, abs=1e-9)


def test_a_place_that_is_no_number_leads_to_none() -> None:
    assert all(math.isnan(x) for x in Geodesics(ball()).bent(math.nan, 0.5, 1e-3, 0.0))


@pytest.mark.parametrize("degrees", [0.0, 25.0, 60.0, 110.0])
def test_on_a_ball_they_are_great_circles(degrees: float) -> None:
    surface, angle, step = ball(), math.radians(degrees), 20.0
    state = (0.5, 0.5, math.cos(angle) / RADIUS, math.sin(angle) / RADIUS)
    ahead = np.array([math.cos(angle), 0.0, math.sin(angle)])
    for k in range(1, 15):
        state = Geodesics(surface).stepped(state, step)
        along = k * step / RADIUS
        wanted = RADIUS * (math.cos(along) * np.array([0.0, 1.0, 0.0]) + math.sin(along) * ahead)
        point = surface.points(np.array(state[0]), np.array(state[1]))
        assert point == pytest.approx(wanted, abs=0.002)

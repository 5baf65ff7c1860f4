from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.interpolate import CubicSpline, RectBivariateSpline

from hollow_keel.core.geometry import polyline
from hollow_keel.core.geometry.batch_spline import sample_splines
from hollow_keel.core.geometry.curves import LoftCurve
from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.geometry.polyline import crossing, first_loop, height_crossing
from hollow_keel.core.geometry.surface import TensorSurface
from tests.shapes import hull_of, sphere_zone


@settings(max_examples=60, deadline=None)
@given(st.integers(2, 14), st.integers(0, 10_000))
def test_many_splines_at_once_are_the_librarys_own(count: int, seed: int) -> None:
    random = np.random.default_rng(seed)
    knots = np.cumsum(random.uniform(0.2, 3, (5, count)), axis=1)
    knots = (knots - knots[:, :1]) / (knots[:, -1:] - knots[:, :1])
    values = random.normal(size=(5, count, 3))
    even = np.linspace(0, 1, 33)
    found = sample_splines(knots, values, even)
    for k, v, f in zip(knots, values, found, strict=True):
        assert f == pytest.approx(CubicSpline(k, v)(even), abs=1e-7)


def test_curve_length_against_quadrature() -> None:
    points = np.array([[0, 0], [30, 5], [55, 40], [60, 90], [50, 140.0]])
    curve = LoftCurve(points)
    spline = CubicSpline(curve.chords, points)
    length, _ = quad(lambda t: float(np.linalg.norm(spline(t, 1))), 0, curve.chords[-1], limit=200)
    assert curve.length == pytest.approx(length, rel=1e-6)
    steps = np.linalg.norm(np.diff(curve.at_fractions(np.linspace(0, 1, 2001)), axis=0), axis=1)
    assert steps == pytest.approx(steps.mean(), rel=1e-3)
    share = curve.fraction_where(1, 40.0)
    assert share is not None
    assert curve.at_fractions(np.array([share]))[0] == pytest.approx([55, 40], abs=1e-6)


def test_surface_derivatives_against_differences() -> None:
    u, v = np.meshgrid(np.linspace(0, 1, 15), np.linspace(0, 1, 11), indexing="ij")
    grid = np.stack([1000 * u + 30 * v, 300 * np.sin(u * 3) * (0.2 + v), 200 * v**2 - 40 * u], axis=-1)
    surface = TensorSurface(grid)
    at_u, at_v = np.array([0.13, 0.5, 0.91]), np.array([0.2, 0.77, 0.45])
    jet, h = surface.jet(at_u, at_v), 1e-5

    def point(du: float, dv: float) -> np.ndarray:
        return surface.points(at_u + du, at_v + dv)

    assert jet.du == pytest.approx((point(h, 0) - point(-h, 0)) / (2 * h), abs=1e-3)
    assert jet.dv == pytest.approx((point(0, h) - point(0, -h)) / (2 * h), abs=1e-3)
    assert jet.duv == pytest.approx((point(h, h) - point(h, -h) - point(-h, h) + point(-h, -h)) / (4 * h * h), abs=0.5)
    assert surface.points(u, v) == pytest.approx(grid, abs=1e-9)


@pytest.mark.parametrize(("along", "up"), [(7, 5), (4, 40), (1, 12)])
def test_every_u_with_every_v_is_the_librarys_own(along: int, up: int) -> None:
    """A bicubic spline through the same grid, not-a-knot at its ends as this one is; at few places and at many, with its edges."""
    random = np.random.default_rng(along)
    grid = 500 * random.normal(size=(14, 9, 3))
    surface = TensorSurface(grid)
    splines = [RectBivariateSpline(np.linspace(0, 1, 14), np.linspace(0, 1, 9), grid[:, :, c]) for c in range(3)]
    u, v = np.linspace(0, 1, along), np.sort(np.append(random.uniform(0, 1, up - 2), [0.0, 1.0]))

    def library(du: int, dv: int) -> np.ndarray:
        return np.stack([spline(u, v, du, dv) for spline in splines], axis=-1)

    found = surface.net(u, v)
    for own, orders in zip(found, ((0, 0), (1, 0), (0, 1)), strict=True):
        assert own == pytest.approx(library(*orders), abs=1e-7)
    assert surface.points(u[:, None], v[None, :]) == pytest.approx(library(0, 0), abs=1e-8)
    assert surface.points(*np.meshgrid(u, v, indexing="ij")) == pytest.approx(library(0, 0), abs=1e-8)
    density = np.linalg.norm(np.cross(library(1, 0), library(0, 1)), axis=2)
    assert surface.densities(u, v) == pytest.approx(density, rel=1e-9, abs=1e-3)


def test_surface_is_carried_on_without_a_step_or_a_corner() -> None:
    surface = hull_of(sphere_zone()).panels[0].surface
    for inside, outside in (((1 - 1e-9, 0.5), (1 + 1e-9, 0.5)), ((0.4, 1e-9), (0.4, -1e-9)), ((1e-9, 0.2), (-1e-9, 0.2))):
        a, b = (surface.jet(np.array([u]), np.array([v])) for u, v in (inside, outside))
        assert a.point == pytest.approx(b.point, abs=1e-4)
        assert a.normal == pytest.approx(b.normal, abs=1e-5)


def test_front_can_be_cancelled() -> None:
    class Enough(Exception):
        pass

    def tick(distance: float) -> None:
        if distance > 100:
            raise Enough

    with pytest.raises(Enough):
        propagate(hull_of(sphere_zone()).panels[0].surface, 1.0, 20.0, tick)


def test_polylines() -> None:
    a = np.array([[0, 0], [10, 0], [20, 10.0]])
    b = np.array([[15, -5], [15, 20.0]])
    hit = crossing(a, b, np.array([15, 5.0]))
    assert hit is not None
    assert hit[0] == 1
    assert hit[2] == pytest.approx([15, 5])
    assert crossing(a, b + 100, np.zeros(2)) is None
    loop = np.array([[0, 0], [10, 0], [10, 10], [5, 10], [5, -5.0]])
    found = first_loop(loop)
    assert found is not None
    assert found[2] == pytest.approx([5, 0])
    assert first_loop(a) is None
    assert height_crossing(a, 5.0) == pytest.approx([15, 5])
    assert height_crossing(a, 50.0) is None


def test_feet_of_many_points_are_those_of_a_general_library() -> None:
    rng = np.random.default_rng(3)
    t = np.sort(rng.uniform(0.0, 9.0, 400))  # uneven: some segments are a hundred times longer than others
    line = np.column_stack([900.0 * t, 400.0 * np.sin(1.7 * t) + 60.0 * np.sin(9.0 * t)])
    points = rng.uniform([0.0, -900.0], [8100.0, 900.0], (300, 2))
    cell, share, foot = polyline.feet(points, line)
    truth = shapely.distance(shapely.points(points), shapely.LineString(line))
    assert np.linalg.norm(points - foot, axis=1) == pytest.approx(truth, abs=1e-6)
    assert line[cell] + share[:, None] * (line[cell + 1] - line[cell]) == pytest.approx(foot)
    past = np.array([line[-1] + 500.0 * (line[-1] - line[-2]) / np.linalg.norm(line[-1] - line[-2])] * 300)
    assert polyline.feet(past, line, beyond=True)[2] == pytest.approx(past, abs=1e-6)

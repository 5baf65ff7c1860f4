"""Hulls whose truth is a closed form (any textbook of geometry); read from exact tables.

Wanted: mold half-breadths within 0.1 mm, girths and strip lengths within 0.1 %, counts exact.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import dblquad
from scipy.optimize import fsolve

from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.hull.measures import measure
from hollow_keel.core.molds.shape import mold_edge
from hollow_keel.core.planking.plank import plank
from hollow_keel.core.settings.mold_choices import Deduction
from tests.shapes import WIGLEY, cone, cylinder, hull_of, sphere_zone, spheroid_zone, wigley, wigley_breadth

MOLD_MM = 0.1
SHARE = 1e-3


def test_cylinder_girth_molds_and_strips() -> None:
    hull = hull_of(cylinder(500, 3000))
    for _, girth in hull.girths:
        assert girth == pytest.approx(math.pi * 250, rel=SHARE)
    edge = mold_edge(hull, 1234.0, 12.0, Deduction.NORMAL, -100.0)
    assert edge is not None
    assert np.hypot(*edge.points.T) == pytest.approx(np.full(len(edge.points), 488.0), abs=MOLD_MM)
    assert np.degrees(edge.bevels).max() < 0.1
    laid = plank(hull, 30.0)
    assert len(laid.strips) == math.ceil(math.pi * 250 / 30)
    for strip in laid.strips:
        assert strip.length == pytest.approx(3000, rel=SHARE)
        assert strip.max_edge_set < 1e-7
        assert strip.starts == strip.ends == "transom"


def test_cylinder_strips_bend_nothing_along_and_do_not_twist() -> None:
    laid = plank(hull_of(cylinder()), 50.0)
    assert max(s.max_bend for s in laid.strips) < 1e-6
    assert max(s.max_twist for s in laid.strips) < 1e-6


def test_cone_molds_are_smaller_by_the_skin_over_the_cosine() -> None:
    angle = math.radians(9)
    hull = hull_of(cone(angle))
    for x in (1100.0, 2900.0, 4400.0):
        edge = mold_edge(hull, x, 10.0, Deduction.NORMAL, -50.0)
        assert edge is not None
        true = x * math.tan(angle) - 10 / math.cos(angle)
        assert np.hypot(*edge.points.T) == pytest.approx(np.full(len(edge.points), true), abs=MOLD_MM)
        assert np.degrees(edge.bevels) == pytest.approx(np.full(len(edge.points), 9.0), abs=0.1)


def test_cone_in_plane_school_differs_by_the_known_amount() -> None:
    angle = math.radians(9)
    edge = mold_edge(hull_of(cone(angle)), 2900.0, 10.0, Deduction.IN_PLANE, -50.0)
    assert edge is not None
    assert np.hypot(*edge.points.T) == pytest.approx(np.full(len(edge.points), 2900 * math.tan(angle) - 10), abs=MOLD_MM)


def test_cone_strips_are_straight_when_unrolled() -> None:
    """In the development the sheer is a straight radial line and edge k runs parallel to it at k·w."""
    angle, width = math.radians(9), 28.0
    laid = plank(hull_of(cone(angle)), width)
    inner, outer = 700 / math.cos(angle), 4800 / math.cos(angle)
    turn = math.pi / 2 * math.sin(angle)
    assert len(laid.strips) == math.ceil(outer * math.sin(turn) / width)
    for strip in laid.strips:
        distance = strip.number * width
        end = math.sqrt(outer**2 - distance**2)
        start = max(math.sqrt(max(inner**2 - distance**2, 0.0)), distance / math.tan(turn))
        if end - start > 100:
            assert strip.far_length == pytest.approx(end - start, rel=SHARE)
            assert strip.max_edge_set < 2e-6


@pytest.mark.parametrize("width", [20.0, 37.0])
def test_sphere_strips_are_circles_of_latitude(width: float) -> None:
    radius, reach = 1000.0, 600.0
    laid = plank(hull_of(sphere_zone(radius, reach)), width)
    assert len(laid.strips) == math.ceil(math.pi / 2 * radius / width)
    first = laid.strips[0]
    ring = radius * math.cos(width / radius)
    assert first.far_length == pytest.approx(2 * ring * math.asin(reach / ring), rel=SHARE)


def test_sphere_fronts_shorten_and_bend_as_circles_of_latitude() -> None:
    """Where rays from the guide itself reach (beyond them a strip follows the guide's continuation)."""
    radius, reach = 1000.0, 600.0
    surface = hull_of(sphere_zone(radius, reach)).panels[0].surface
    for front in propagate(surface, 1.0, 40.0)[:33]:
        latitude = front.distance / radius
        own = (front.g >= 0) & (front.g <= 1)
        length = float(np.trapezoid(front.stretch[own], front.g[own]))
        assert length == pytest.approx(2 * math.asin(reach / radius) * radius * math.cos(latitude), rel=SHARE)
        assert np.abs(front.edge_set[own]) * radius == pytest.approx(math.tan(latitude), rel=0.01, abs=2e-3)
        assert front.bend[own] * radius == pytest.approx(1.0, rel=0.01)
        assert np.abs(front.twist[own]).max() * radius < 0.01
        assert front.point[own][:, 2] == pytest.approx(-radius * math.sin(latitude), abs=0.2)


def test_sphere_molds_lie_on_the_smaller_sphere() -> None:
    radius, reach, skin = 1000.0, 600.0, 14.0
    hull = hull_of(sphere_zone(radius, reach))
    for x in (180.0, 600.0, 933.0):
        edge = mold_edge(hull, x, skin, Deduction.NORMAL, -100.0)
        assert edge is not None
        away = x - reach
        assert np.hypot(*edge.points.T) == pytest.approx(
            np.full(len(edge.points), math.sqrt((radius - skin) ** 2 - away**2)), abs=MOLD_MM
        )
        bevel = math.degrees(math.asin(abs(away) / (radius - skin)))
        assert np.degrees(edge.bevels) == pytest.approx(np.full(len(edge.points), bevel), abs=0.1)


def test_sphere_zone_has_its_area() -> None:
    planked = measure(hull_of(sphere_zone(1000, 600)), 0.0).planked_area
    assert planked == pytest.approx(math.pi * 1.0 * 1.2, rel=SHARE)  # half of 2πR·h


def test_ellipsoid_of_revolution() -> None:
    """Sections are circles; molds by Newton on the closed form; bevel from the gradient."""
    a, b, reach, skin = 2300.0, 520.0, 1700.0, 12.0
    hull = hull_of(spheroid_zone(a, b, reach))
    for x in (500.0, 1700.0, 2500.0):
        edge = mold_edge(hull, x, skin, Deduction.NORMAL, -50.0)
        assert edge is not None

        def miss(u: np.ndarray, x: float = x) -> np.ndarray:
            r = b * np.sqrt(1 - (u / a) ** 2)
            nx, nr = u / a**2, r / b**2
            return u - skin * nx / np.hypot(nx, nr) - (x - reach)

        at = float(fsolve(miss, x - reach)[0])
        r = b * math.sqrt(1 - (at / a) ** 2)
        nx, nr = at / a**2, r / b**2
        inner = r - skin * nr / math.hypot(nx, nr)
        assert np.hypot(*edge.points.T) == pytest.approx(np.full(len(edge.points), inner), abs=MOLD_MM)
        assert np.degrees(edge.bevels) == pytest.approx(np.full(len(edge.points), math.degrees(math.atan2(abs(nx), nr))), abs=0.1)


def test_wigley_volume_and_area() -> None:
    """Volume 4LBT/9 (W. C. S. Wigley, 1934; quoted from memory); area by an independent quadrature."""
    length, beam, draft = WIGLEY
    measures = measure(hull_of(wigley()), 0.0)
    assert measures.volume == pytest.approx(4 * length * beam * draft / 9 * 1e-9, rel=SHARE)

    def element(z: float, x: float) -> float:
        dx = -beam / 2 * 8 * (x - length / 2) / length**2 * (1 - (z / draft) ** 2)
        dz = -beam * z / draft**2 * (1 - (2 * (x - length / 2) / length) ** 2)
        return math.sqrt(1 + dx * dx + dz * dz)

    area, _ = dblquad(element, 0, length, -draft, 0)
    assert measures.wetted_area == pytest.approx(2 * area * 1e-6, rel=SHARE)
    assert measures.length == pytest.approx(length, abs=0.1)
    assert measures.beam == pytest.approx(beam, abs=0.1)


@pytest.mark.parametrize("x", [700.0, 2000.0, 3100.0])
def test_wigley_molds(x: float) -> None:
    length, beam, draft = WIGLEY
    skin = 10.0
    edge = mold_edge(hull_of(wigley()), x, skin, Deduction.NORMAL, 0.0)
    assert edge is not None

    def inner(p: np.ndarray) -> np.ndarray:
        u, w = p
        gx = beam / 2 * 8 * (u - length / 2) / length**2 * (1 - (w / draft) ** 2)
        gz = beam * w / draft**2 * (1 - (2 * (u - length / 2) / length) ** 2)
        n = np.array([gx, 1.0, gz]) / math.sqrt(1 + gx * gx + gz * gz)
        return np.array([u, wigley_breadth(u, w), w]) - skin * n

    for height in (-200.0, -120.0, -30.0):
        at = fsolve(lambda p, h=height: inner(p)[[0, 2]] - [x, h], [x, height])
        true = inner(at)[1]
        found = np.interp(height, edge.points[:, 1], edge.points[:, 0])
        assert found == pytest.approx(true, abs=MOLD_MM)

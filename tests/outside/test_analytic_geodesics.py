"""Strip edges against geodesics integrated on the closed form of the surface itself.

On a surface F = 0 a geodesic's acceleration is -(t' H t / |grad F|^2) grad F (any differential geometry textbook); it is
integrated by `scipy.integrate.solve_ivp`, square off the sheer. Nothing of the hull's own spline or of the fronts is used. The
tables are close enough that the hull built from them is not itself further off: with 11 stations Wigley's skin is 0.7 mm out
near the stems, and strips there 0.2 mm.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.planking.plank import plank
from hollow_keel.core.planking.strips import Planking
from tests.shapes import WIGLEY, hull_of, spheroid_zone, wigley

EDGE_MM, LENGTH_SHARE, WIDTH = 0.2, 1e-3, 25.0


@dataclass(frozen=True)
class Surface:
    """A closed form: the sheer by position, the gradient and the second derivatives of F at a point."""

    table: OffsetsTable
    sheer: Callable[[float], np.ndarray]
    gradient: Callable[[np.ndarray], np.ndarray]
    second: Callable[[np.ndarray], np.ndarray]
    between: tuple[float, float]


def spheroid() -> Surface:
    a, b, reach = 2300.0, 520.0, 1700.0
    scale = np.array([1 / a**2, 1 / b**2, 1 / b**2])
    return Surface(
        spheroid_zone(a, b, reach),
        lambda x: np.array([x, b * np.sqrt(1 - ((x - reach) / a) ** 2), 0.0]),
        lambda p: 2 * scale * (p - np.array([reach, 0.0, 0.0])),
        lambda _: np.diag(2 * scale),
        (0.0, 2 * reach),
    )


def wigley_surface() -> Surface:
    length, beam, draft = WIGLEY

    def parts(p: np.ndarray) -> tuple[float, float, float, float]:
        u, w = 2 * (p[0] - length / 2) / length, p[2] / draft
        return u, w, 1 - u * u, 1 - w * w

    def gradient(p: np.ndarray) -> np.ndarray:
        u, w, along, down = parts(p)
        return np.array([beam / 2 * 4 * u / length * down, 1.0, beam / 2 * along * 2 * w / draft])

    def second(p: np.ndarray) -> np.ndarray:
        u, w, along, down = parts(p)
        xx, zz = beam / 2 * 8 / length**2 * down, beam / 2 * along * 2 / draft**2
        xz = -beam / 2 * (4 * u / length) * (2 * w / draft)
        return np.array([[xx, 0, xz], [0, 0, 0], [xz, 0, zz]])

    return Surface(
        wigley(23),
        lambda x: np.array([x, beam / 2 * (1 - (2 * (x - length / 2) / length) ** 2), 0.0]),
        gradient,
        second,
        (0.0, length),
    )


def geodesic(surface: Surface, x: float, distances: np.ndarray) -> np.ndarray:
    """Points (n, 3) at distances from the sheer, square off it at a position."""
    start = surface.sheer(x)
    along = surface.sheer(x + 0.01) - surface.sheer(x - 0.01)
    square = np.cross(surface.gradient(start), along)
    square *= -np.sign(square[2]) / np.linalg.norm(square)

    def turn(_: float, state: np.ndarray) -> np.ndarray:
        point, way = state[:3], state[3:]
        normal = surface.gradient(point)
        return np.concatenate([way, -(way @ surface.second(point) @ way) / (normal @ normal) * normal])

    found = solve_ivp(turn, (0.0, distances[-1]), np.concatenate([start, square]), "DOP853", distances, rtol=1e-10, atol=1e-8)
    return np.asarray(found.y[:3].T)


def off(edge: np.ndarray, point: np.ndarray) -> float:
    """How far a point lies from a polyline."""
    step = np.diff(edge, axis=0)
    share = np.clip(((point - edge[:-1]) * step).sum(axis=1) / (step * step).sum(axis=1), 0, 1)
    return float(np.linalg.norm(edge[:-1] + share[:, None] * step - point, axis=1).min())


@pytest.fixture(scope="module", params=[spheroid, wigley_surface], ids=["spheroid", "Wigley"])
def planked(request: pytest.FixtureRequest) -> tuple[Surface, Planking]:
    surface = request.param()
    return surface, plank(hull_of(surface.table), WIDTH)


def test_edges_lie_where_geodesics_of_the_closed_form_end(planked: tuple[Surface, Planking]) -> None:
    surface, laid = planked
    first, last = surface.between
    numbers = [k for k in range(1, len(laid.strips)) if laid.strips[k - 1].far]
    distances = WIDTH * np.array(numbers, dtype=float)
    worst, seen = 0.0, 0
    for x in np.linspace(first + 0.1 * (last - first), last - 0.1 * (last - first), 17):
        for number, point in zip(numbers, geodesic(surface, float(x), distances), strict=True):
            pieces = [p.points for p in laid.strips[number - 1].far]
            ends = np.array([[p[0, 0], p[-1, 0]] for p in pieces])
            inside = np.any((ends[:, 0] < point[0]) & (point[0] < ends[:, 1]))
            if inside and point[1] > 1.0:  # past the keel it is the other side's
                worst = max(worst, min(off(p, point) for p in pieces))
                seen += 1
    assert seen > 150
    assert worst < EDGE_MM


def test_edges_are_as_long_as_on_the_closed_form(planked: tuple[Surface, Planking]) -> None:
    surface, laid = planked
    first, last = surface.between
    low, high = first + 0.2 * (last - first), last - 0.2 * (last - first)
    for number in (2, 5, 8):
        starts = np.linspace(first + 0.05 * (last - first), last - 0.05 * (last - first), 241)
        true = np.array([geodesic(surface, float(x), np.array([WIDTH * number]))[0] for x in starts])
        edge = laid.strips[number - 1].far[0].points
        lengths = [cut_length(line, low, high) for line in (true, edge)]
        assert lengths[1] == pytest.approx(lengths[0], rel=LENGTH_SHARE / 10)


def cut_length(line: np.ndarray, low: float, high: float) -> float:
    """Length of a polyline between two positions along the hull."""
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))])
    return float(np.interp(high, line[:, 0], run) - np.interp(low, line[:, 0], run))


def test_the_spheroid_takes_as_many_strips_as_its_midship_girth() -> None:
    laid = plank(hull_of(spheroid_zone()), WIDTH)
    assert len(laid.strips) == int(np.ceil(np.pi * 520 / 2 / WIDTH))

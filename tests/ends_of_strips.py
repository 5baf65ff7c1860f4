"""What a builder sees at a glance on strips that are laid: whether their ends turn, whether edges cross, stand off their neighbours
or lie farther apart than the wood is wide. Told from the points that are drawn alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from scipy.interpolate import CubicSpline

from hollow_keel.core.geometry.surface import TensorSurface
from hollow_keel.core.hull.build import Hull
from hollow_keel.core.planking.edges import EdgePiece
from hollow_keel.core.planking.strips import Planking, Strip

NEAR_MM, FAR_MM, SPAN_MM = 60.0, 250.0, 60.0
"""An end's direction is that of its last so many mm; it is compared with so many of them so far in."""
LONG_ENOUGH_MM = 330.0
STRETCH_MM = 60.0
"""Over so much of the line edge-set and bend are told."""


@dataclass(frozen=True)
class EndTurn:
    """How far an end turns within the surface, degrees; which strip's, and where."""

    turn: float
    strip: int
    place: tuple[float, ...]


def end_turns(hull: Hull, planking: Planking) -> list[EndTurn]:
    """Every end of every far edge, the greatest first."""
    found = []
    for strip in planking.strips:
        surface = hull.panels[strip.panel].surface
        for piece in strip.far:
            if piece.length < LONG_ENOUGH_MM:
                continue
            for points, uv, run in (
                (piece.points, piece.uv, piece.run),
                (piece.points[::-1], piece.uv[::-1], piece.length - piece.run[::-1]),
            ):
                found.append(EndTurn(turned(surface, points, uv, run), strip.number, tuple(points[0])))
    return sorted(found, key=lambda end: -end.turn)


def turned(surface: TensorSurface, points: np.ndarray, uv: np.ndarray, run: np.ndarray) -> float:
    """How far a line on a surface turns within it, degrees, from the mean direction of its first NEAR_MM to that of SPAN_MM
    about FAR_MM along: the sum of what it turns at each of its points (n, 3), about the surface's normal there, as far as it lies
    before one stretch and after the other."""
    step = np.diff(points, axis=0)
    step /= np.linalg.norm(step, axis=1, keepdims=True)
    normal = surface.jet(uv[1:-1, 0], uv[1:-1, 1]).normal
    turn = (np.cross(step[:-1], step[1:]) * normal).sum(axis=1)
    at = run[1:-1]
    counts = np.clip(at / NEAR_MM, 0, 1) * np.clip((FAR_MM + SPAN_MM / 2 - at) / SPAN_MM, 0, 1)
    return float(np.degrees(abs((counts * np.arcsin(np.clip(turn, -1, 1))).sum())))


def hull_turn(surface: TensorSurface, place: tuple[float, ...]) -> float:
    """How far the surface's own lengthwise line turns that ends nearest to a place, degrees."""
    v = np.linspace(0.0, 1.0, 101)
    ends = [surface.points(np.full_like(v, u), v) for u in (0.0, 1.0)]
    away = [np.linalg.norm(line - np.array(place), axis=1) for line in ends]
    stern = bool(away[1].min() < away[0].min())
    height = float(v[np.argmin(away[int(stern)])])
    u = np.linspace(0.0, 0.3, 1201)
    u = 1 - u if stern else u
    points = surface.points(u, np.full_like(u, height))
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    even = np.interp(np.arange(0.0, min(run[-1], 400.0), 20.0), run, u)
    at = surface.points(even, np.full_like(even, height))
    own = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(at, axis=0), axis=1))])
    return turned(surface, at, np.column_stack([even, np.full_like(even, height)]), own)


def off_line(piece: EdgePiece) -> np.ndarray:
    """How far each inner point lies off the cubic through two neighbours on either side, mm (n - 4,)."""
    points, run = piece.points, piece.run
    found = np.zeros(len(run) - 4)
    for i in range(2, len(run) - 2):
        own = [i - 2, i - 1, i + 1, i + 2]
        weights = [np.prod([(run[i] - run[b]) / (run[a] - run[b]) for b in own if b != a]) for a in own]
        found[i - 2] = np.linalg.norm(np.array(weights) @ points[own] - points[i])
    return found


def apart(hull: Hull, planking: Planking) -> Iterator[tuple[int, float]]:
    """For every strip between two edges the least way from a point of the far one to the near one, mm, taken away from the guide:
    negative where they cross."""
    for strip in planking.strips:
        surface = hull.panels[strip.panel].surface
        for far in strip.far:
            for near in strip.near:
                gap = far.points[:, None] - near.points[None]
                k = np.argmin(np.linalg.norm(gap, axis=2), axis=1)
                inner = (k > 0) & (k < len(near.points) - 1)
                if not inner.any() or len(strip.near) > 1:
                    continue
                along = near.points[k + inner] - near.points[k - inner]
                jet = surface.jet(near.uv[k, 0], near.uv[k, 1])
                square = np.cross(jet.normal, along)
                square /= np.maximum(np.linalg.norm(square, axis=1, keepdims=True), 1e-12)
                away = (gap[np.arange(len(k)), k] * square).sum(axis=1)[inner]
                yield strip.number, float((away * np.sign(np.median(away))).min())


def felt_more(hull: Hull, strip: Strip, piece: EdgePiece) -> np.ndarray:
    """By how much edge-set and bend that an edge tells differ by more than a tenth from what a general spline through its points
    has over the same 60 mm of wood, per mm: at every place, ends too, (2 n,)."""
    spline = CubicSpline(piece.run, piece.points).derivative()
    low = np.clip(piece.run - STRETCH_MM / 2, 0.0, None)
    high = np.clip(low + STRETCH_MM, None, piece.run[-1])
    low = np.clip(high - STRETCH_MM, 0.0, None)
    turn = (spline(high) - spline(low)) / (high - low)[:, None]
    normal = hull.panels[strip.panel].surface.jet(*np.clip(piece.uv.T, 0.0, 1.0)).normal
    along = spline(piece.run)
    across = np.cross(normal, along / np.linalg.norm(along, axis=1)[:, None])
    by_hand = np.abs(np.stack([(turn * across).sum(axis=1), (turn * normal).sum(axis=1)]))
    told = np.abs(piece.curvatures[:, :2]).T
    result: np.ndarray = (np.abs(told - by_hand) - 0.1 * np.maximum(told, by_hand)).ravel()
    return result

"""Which strips of other courses lie beside one: across a master line, a seam or a knuckle neighbours are neighbours, whatever
course they belong to."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..geometry.arrays import Array
from ..planking.edges import EdgePiece
from ..planking.strips import Planking

STEP_MM = 50.0
"""Strips are looked over so often along the hull."""

Beside = tuple[int, float, float]
"""A strip that lies beside another, and from which position along the hull to which, mm."""


def beside(planking: Planking, rows: int) -> Mapping[int, tuple[Beside, ...]]:
    """For every strip those of other courses that lie up to `rows` from it at some position along the hull."""
    courses = {(s.panel, s.course) for s in planking.strips}
    if len(courses) < 2 or rows < 1:
        return {}
    points = [p.points[:, 0] for s in planking.strips for p in (*s.near, *s.far)]
    low, high = min(float(x.min()) for x in points), max(float(x.max()) for x in points)
    at = np.linspace(low, high, max(2, int((high - low) / STEP_MM) + 2))
    heights = np.array([s.panel + _heights(s.near, s.far, at) for s in planking.strips])
    found: dict[tuple[int, int], list[float]] = {}
    for k, x in enumerate(at.tolist()):
        here = np.flatnonzero(np.isfinite(heights[:, k]))
        order = here[np.argsort(heights[here, k])].tolist()
        for apart in range(1, rows + 1):
            for i, j in zip(order, order[apart:], strict=False):
                one, other = planking.strips[i], planking.strips[j]
                if (one.panel, one.course) != (other.panel, other.course):
                    found.setdefault((one.number, other.number), []).append(x)
    half = float(at[1] - at[0])
    listed: dict[int, list[Beside]] = {}
    for (one_number, other_number), places in found.items():
        span = min(places) - half, max(places) + half
        listed.setdefault(one_number, []).append((other_number, *span))
        listed.setdefault(other_number, []).append((one_number, *span))
    return {number: tuple(own) for number, own in listed.items()}


def _heights(near: tuple[EdgePiece, ...], far: tuple[EdgePiece, ...], at: Array) -> Array:
    """How far up its panel (0 to 1) a strip lies at positions (n,); NaN where it does not come."""
    edges = [_height(e, at) for e in (near, far)]
    known = np.isfinite(edges)
    total: Array = np.where(known, edges, 0.0).sum(axis=0) / np.maximum(known.sum(axis=0), 1)
    return np.where(known.any(axis=0), total, np.nan)


def _height(pieces: tuple[EdgePiece, ...], at: Array) -> Array:
    height = np.full(len(at), np.nan)
    for piece in pieces:
        order = np.argsort(piece.points[:, 0])
        x = piece.points[order, 0]
        inside = (at >= x[0]) & (at <= x[-1])
        height[inside] = np.interp(at[inside], x, piece.uv[order, 1])
    return height

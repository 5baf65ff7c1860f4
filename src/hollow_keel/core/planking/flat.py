"""Strips laid flat: the shape that is cut from a straight piece, its edge towards the guide straight."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..geometry import polyline
from ..geometry.arrays import Array, IntArray, frozen
from ..geometry.surface import TensorSurface, dot
from .edges import EdgePiece
from .strips import Planking, Strip

ALL, EVERY = 14, 5
"""So many places at each end of an edge tell how wide a strip is, and every so many-th of those between."""
WIDEST_OVER_MM = 30.0
"""A strip is as wide as it is over so much of its length."""
SAME_MM = 0.3
"""A strip whose widths differ by less is of one width."""


def flat_strip(strip: Strip, planking: Planking) -> Array:
    """Along the straight edge (mm from the bow end) and how wide the strip is there, (n, 2): its longest piece. Where its
    far edge has run out the line that its course ends on is the other edge."""
    if not strip.near:
        return frozen(np.zeros((0, 2)))
    near = max(strip.near, key=lambda piece: piece.length)
    far = [p.points for p in sorted(strip.far, key=lambda p: float(p.points[0, 0])) if _lies_beside(p, near)]
    limit = planking.limits[strip.panel, strip.course]
    line = np.concatenate(far) if far else limit
    widths = gaps(near.points, line)
    if far:  # past the ends of the far edge the hull's own limit cuts the strip
        ends = (near.points[:, 0] < line[0, 0]) | (near.points[:, 0] > line[-1, 0])
        widths = np.where(ends, np.minimum(widths, gaps(near.points, limit)), widths)
    return frozen(np.column_stack([near.run, np.minimum(widths, strip.width_max)]))


def _lies_beside(piece: EdgePiece, other: EdgePiece) -> bool:
    """Whether the middle of one has its foot within the other, or the other way round."""
    for a, b in ((piece, other), (other, piece)):
        foot = float(feet(a.points[[len(a.points) // 2]], b.points)[1][0])
        if 0 < foot < len(b.points) - 1:
            return True
    return False


def widths_between(near: Sequence[EdgePiece], piece: EdgePiece, surface: TensorSurface, every: int = 1) -> tuple[Array, Array]:
    """How far a piece of a strip's far edge lies from the near one on the hull, (n,) mm, at every place of it (of its middle every
    so many-th) that stands square to
    a place of the near edge, and how much of the piece each place stands for, mm (n,). Over a round the way on the hull is longer
    than the straight one; the curvature there tells."""
    apart, own = _beside(near, piece, surface, every)
    return apart, np.gradient(piece.run)[own] * np.where((own >= ALL) & (own < len(piece.run) - ALL), every, 1)


def _beside(near: Sequence[EdgePiece], piece: EdgePiece, surface: TensorSurface, every: int = 1) -> tuple[Array, IntArray]:
    last = len(piece.run)
    some = np.unique(np.concatenate([np.arange(ALL), np.arange(ALL, last - ALL, every), np.arange(last - ALL, last)]))
    points, uv = piece.points[some], piece.uv[some]
    normal = surface.jet(uv[:, 0], uv[:, 1]).normal
    told = [feet(points, other.points) for other in near]
    beside = np.argmin([away for away, _ in told], axis=0)
    found, places = [], []
    for k, (other, (_, inner)) in enumerate(zip(near, told, strict=True)):
        # past its very ends it is cut slanting
        own = np.flatnonzero((beside == k) & (inner > 0.0) & (inner < len(other.points) - 1.0))
        found.append(_apart(points[own], normal[own], other.points, inner[own]))
        places.append(some[own])
    return np.concatenate(found), np.concatenate(places)


def _apart(points: Array, normal: Array, line: Array, inner: Array) -> Array:
    """How far points (n, 3) of the hull lie from a line on it, square to it at places counted in its points."""
    foot, along = _on_curve(line, inner)
    off = foot - points
    off -= dot(off, along)[:, None] * along
    away = np.linalg.norm(off, axis=1)
    # chord d and height of its end over the tangent plane b: the arc's half turn is b / d
    turn = np.clip(np.abs(dot(off, normal)) / np.maximum(away, 1e-9), 0.0, 0.5)
    result: Array = away * np.where(turn > 1e-6, np.arcsin(turn) / np.maximum(turn, 1e-9), 1.0)
    return result


def _on_curve(line: Array, at: Array) -> tuple[Array, Array]:
    """Points (n, 3) on the cubic through the points of a line about each place, counted in its points, and the direction of the
    line there: its chords lie beside it where it bends."""
    k = np.clip(at.astype(int), 1, len(line) - 3)
    t = (at - k)[:, None]
    a, b, c, d = (line[k + j] for j in (-1, 0, 1, 2))
    middle = b + (c - b) * t
    bend = ((a - 2 * b + c) * (1 - t) + (b - 2 * c + d) * t) / 2
    along = (c - b) / np.maximum(np.linalg.norm(c - b, axis=1, keepdims=True), 1e-12)
    return middle - bend * t * (1 - t), along


def width_range(near: Sequence[EdgePiece], far: Sequence[EdgePiece], surface: TensorSurface) -> tuple[float, float] | None:
    """How wide a strip is at its narrowest and at its widest, mm; None where its edges nowhere stand square to each other. Widest
    is over some of its length: what lies aside within a corner is no width of it."""
    told = [widths_between(near, piece, surface, EVERY) for piece in far]
    widths, lengths = (np.concatenate(own) for own in zip(*told, strict=True))
    if not len(widths):
        return None
    order = np.argsort(-widths)
    reached = np.cumsum(lengths[order]) >= WIDEST_OVER_MM
    widest = float(widths[order][np.argmax(reached)]) if reached.any() else 0.0
    return float(widths.min()), widest


def widest_place(strip: Strip, surface: TensorSurface) -> float:
    """Where along the hull a strip is widest, mm: half-way along it where its edges nowhere stand square to each other."""
    best, place = 0.0, 0.0
    for piece in strip.far:
        if not strip.near:
            break
        apart, own = _beside(strip.near, piece, surface)
        if len(apart) and float(apart.max()) > best:
            k = int(np.argmax(apart))
            best, place = float(apart[k]), float(piece.points[own[k], 0])
    if best:
        return place
    line = max(strip.near or strip.far, key=lambda p: p.length)
    return float(line.points[len(line.points) // 2, 0])


def varies(flat: Array) -> bool:
    """Whether a flat strip, (n, 2) length and width there, mm, has to be cut to shape, its ends left out."""
    inner = flat[(flat[:, 0] > 0.05 * flat[-1, 0]) & (flat[:, 0] < 0.95 * flat[-1, 0])] if len(flat) else flat
    return bool(len(inner)) and float(np.ptp(inner[:, 1])) > SAME_MM


def gaps(points: Array, line: Array) -> Array:
    """Distance, mm (n,), of each point (n, 3) from a polyline (m, 3) carried on straight past its ends: strips are cut square
    there."""
    return feet(points, line)[0]


def feet(points: Array, line: Array) -> tuple[Array, Array]:
    """Distance, mm, of each point (n, 3) from a polyline (m, 3) carried on straight past its ends, and where its
    foot stands, counted in points of the line."""
    cell, share, foot = polyline.feet(points, line, beyond=True)
    return np.linalg.norm(foot - points, axis=1), cell + share

"""The face of a strip on the hull: what its two edges, and the lines that it is cut to, enclose.

Edges are matched by the feet of one on the other. Where one of them has run out, the other faces the line that the course ends on.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, rows_at
from ..geometry.polyline import runs_along
from ..geometry.surface import cross
from .edges import EdgePiece
from .flat import feet
from .strips import Planking, Strip

ALONG = 41
"""Points along a whole strip: at this spacing the chords lie within a millimetre or two of the hull."""
LEAST_ALONG, AREA_ALONG = 4, 41
SQUARE, ASKEW = 1.6, 10.0
"""Edges whose ends lie no more widths apart run beside each other from end to end: their places of one share of the way face each
other. So far as `ASKEW` that is quick, and good for most hulls: to 0.03 % for the three demo hulls, but to 1 % on a master line."""
STILL_MM, OVERHANG = 1e-6, 2.0
"""The far side of a face has run past its near one where that stands still, and along the hull's end where it does for so many
widths."""
REACH, NEAR_LIMIT_MM = 4.0, 25.0
"""Edges that end so many widths from the line that the course ends on end there, or so near to it: it is told at places of its
own."""


@dataclass(frozen=True)
class Face:
    """Part of a strip's face: points across from each other on its near and its far side, (n, 3) each, bow end first."""

    near: Array
    far: Array

    @property
    def area(self) -> float:
        """Area on the hull, mm²."""
        a, b = self.near[:-1], self.far[:-1]
        c, d = self.near[1:], self.far[1:]
        halves = cross(b - a, c - a), cross(c - d, b - d)
        return float(sum(np.linalg.norm(h, axis=1).sum() for h in halves)) / 2


def faces(strip: Strip, planking: Planking, along: int = ALONG) -> list[Face]:
    """The parts of a strip's face, a whole strip drawn with so many points."""
    limit = planking.limits[strip.panel, strip.course]
    reach = max(REACH * strip.width_max, NEAR_LIMIT_MM)
    found: list[Face] = []
    for near in strip.near:
        own = [p for p in strip.far if nearest_piece(p, strip.near) is near]
        ends = planking.ends.get(strip.panel, ())
        found += [part for face in _beside(near, own, limit, reach, along) for part in _split(face, ends, strip.width_max)]
    if not strip.near:
        for far in strip.far:
            edge = _at(far, _even(far, along))
            found.append(Face(_facing(edge, edge[0], edge[-1], limit, reach), edge))
    return found


def area_of(strip: Strip, planking: Planking, square: float = SQUARE) -> float:
    """Area of a strip's face, mm²; edges whose ends lie no more than `square` widths (a bare number) apart are taken to face each
    other."""
    if len(strip.near) == len(strip.far) == 1:
        near, far = strip.near[0].points, strip.far[0].points
        apart = np.linalg.norm(near[[0, -1]] - far[[0, -1]], axis=1)
        beside = apart.max() < square * strip.width_max  # places of the same share face each other
        if len(near) == len(far) and beside:
            return Face(near[::2], far[::2]).area
    return sum(face.area for face in faces(strip, planking, AREA_ALONG))


def nearest_piece(piece: EdgePiece, others: Sequence[EdgePiece]) -> EdgePiece | None:
    """Which of the pieces of the other edge of a strip lies beside one; None where there is none."""
    if len(others) < 2:
        return others[0] if others else None
    some = piece.points[:: max(1, len(piece.points) // 8)]
    return min(others, key=lambda other: float(np.median(feet(some, other.points)[0])))


def _beside(near: EdgePiece, far: list[EdgePiece], limit: Array, reach: float, along: int) -> list[Face]:
    """The faces between a near piece and the pieces of the far edge beside it, bow end first."""
    last = len(near.points) - 1.0
    found: list[Face] = []
    done, corner = 0.0, near.points[0]
    matched = sorted((_match(near, p, along) for p in far), key=lambda m: float(m[0].mean()))
    for foot, points in matched:
        place = np.maximum(foot, done)
        if place[0] > done:
            edge = _at(near, _steps(near, done, float(place[0]), along))
            found.append(Face(edge, _facing(edge, corner, points[0], limit, reach)))
        found.append(Face(_at(near, place), points))
        done, corner = float(place[-1]), points[-1]
    if done < last:
        edge = _at(near, _steps(near, done, last, along))
        found.append(Face(edge, _facing(edge, corner, edge[-1], limit, reach)))
    return found


def _split(face: Face, ends: Sequence[Array], width: float) -> list[Face]:
    """A face in parts where its far side runs on past an end of the near one for some widths, along the end of the hull: there that
    line is its near side."""
    still = np.linalg.norm(np.diff(face.near, axis=0), axis=1) < STILL_MM
    found = []
    first, stop = 0, len(face.near)
    lead = int(np.argmin(still)) if not still.all() else 0
    tail = int(np.argmin(still[::-1])) if not still.all() else 0
    for corner, far, at_bow in (
        (face.near[0], face.far[: lead + 1], True),
        (face.near[-1], face.far[len(face.far) - tail - 1 :], False),
    ):
        line = ends[0 if at_bow else 1] if ends else None
        outer = far[0 if at_bow else -1]
        if len(far) < 2 or line is None or np.linalg.norm(far[-1] - far[0]) < OVERHANG * width:
            continue
        if min(float(np.linalg.norm(line - p, axis=1).min()) for p in (corner, outer)) > NEAR_LIMIT_MM:
            continue
        i, j = (int(np.argmin(np.linalg.norm(line - p, axis=1))) for p in (outer, corner))
        path = line[min(i, j) : max(i, j) + 1]
        if i > j:
            path = path[::-1]
        path = np.concatenate([outer[None], path, corner[None]])
        path = path if at_bow else path[::-1]
        run, own = runs_along(path), runs_along(far)
        found.append(Face(rows_at(own / max(own[-1], 1e-9) * run[-1], run, path), far))
        first, stop = (lead, stop) if at_bow else (first, len(face.near) - tail)
    middle = Face(face.near[first:stop], face.far[first:stop])
    return [middle, *found] if len(middle.near) > 1 else found or [face]


def _match(near: EdgePiece, far: EdgePiece, along: int) -> tuple[Array, Array]:
    """Points along a far piece and where each has its foot on the near one, counted in its points, never backward."""
    every = _at(far, _even(far, along))
    foot = np.clip(feet(every, near.points)[1], 0.0, len(near.points) - 1.0)
    return np.maximum.accumulate(foot), every


def _steps(piece: EdgePiece, first: float, stop: float, along: int) -> Array:
    """Places at even steps between two of them, counted in a piece's points, so many over the whole of it."""
    numbers = np.arange(float(len(piece.run)))
    a, b = np.interp([first, stop], numbers, piece.run)
    count = int(np.clip(np.ceil(along * (b - a) / piece.length), LEAST_ALONG, along))
    return np.asarray(np.interp(np.linspace(a, b, count), piece.run, numbers))


def _even(piece: EdgePiece, count: int) -> Array:
    """So many places at even steps along a piece, counted in its points."""
    return _steps(piece, 0.0, len(piece.run) - 1.0, count)


def _at(piece: EdgePiece, place: Array) -> Array:
    return np.column_stack([np.interp(place, np.arange(len(piece.points)), column) for column in piece.points.T])


def _facing(edge: Array, start: Array, end: Array, limit: Array, reach: float) -> Array:
    """As many points as an edge has, from one corner to another: by way of the limit between them where both lie
    within `reach` of it."""
    off = [np.linalg.norm(limit - p, axis=1) for p in (start, end)]
    i, j = (int(np.argmin(o)) for o in off)
    near = max(float(off[0][i]), float(off[1][j])) < reach
    path = np.array([start, *limit[i : j + 1], end] if near and i < j else [start, end])
    run = runs_along(path)
    own = runs_along(edge)
    shares = own / own[-1] if own[-1] > 0 else np.linspace(0.0, 1.0, len(edge))
    return rows_at(shares * run[-1], run, path)

"""How seams divide a layer: the parts of its surface that lie between each and the next, in the surface's own parameters."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.ops import split

from ..geometry.arrays import Array
from .seams import Seam

FAR = 4.0
"""Seams are carried on straight so far in parameters: past all of the surface."""


@dataclass(frozen=True)
class Face:
    """A part of the surface between a seam and the next, in parameters: the seam along which its veneer is straight, and the one
    that its other edge is scribed to (None where that is the edge of the hull)."""

    shape: shapely.Polygon
    straight: Seam
    scribed: Seam | None


class _Line:
    """A seam as it divides the surface, carried on straight past all of it: on which side of it a place lies."""

    def __init__(self, seam: Seam) -> None:
        uv = seam.corners
        first, last = uv[0] - uv[1], uv[-1] - uv[-2]
        self.places: Array = np.concatenate(
            [uv[:1] + FAR * first / np.linalg.norm(first), uv, uv[-1:] + FAR * last / np.linalg.norm(last)]
        )
        self._steps = np.diff(self.places, axis=0)
        self._squares = np.maximum(np.vecdot(self._steps, self._steps), 1e-30)

    def side_of(self, place: Array) -> float:
        """Positive to its left, negative to its right, by the piece of it that is nearest."""
        off = place - self.places[:-1]
        share = np.clip(np.vecdot(off, self._steps) / self._squares, 0.0, 1.0)
        away = off - share[:, None] * self._steps
        k = int(np.argmin(np.vecdot(away, away)))
        return float(self._steps[k, 0] * off[k, 1] - self._steps[k, 1] * off[k, 0])


def faces_between(back: list[Seam], ahead: list[Seam]) -> tuple[list[Face], list[Face]]:
    """The faces on either side of the first seam, which begins both lists; together they are the whole surface. The outermost are
    straight along the last seam that there is."""
    whole = shapely.box(0.0, 0.0, 1.0, 1.0)
    line = _Line(back[0])
    left, right = _sides([whole], line)
    if len(back) > 1:  # `back` lies on the side where its second seam does
        if line.side_of(_middle(back[1])) > 0:
            left, right = right, left
    elif len(ahead) > 1 and line.side_of(_middle(ahead[1])) < 0:
        left, right = right, left
    return _divided(left, back), _divided(right, ahead)


def _divided(remaining: list[shapely.Polygon], seams: list[Seam]) -> list[Face]:
    faces: list[Face] = []
    for near, seam in zip(seams[:-1], seams[1:], strict=True):
        line = _Line(seam)
        one, other = _sides(remaining, line)
        own, remaining = (one, other) if line.side_of(_middle(near)) < 0 else (other, one)
        faces += [Face(part, seam, near) for part in own]
    return faces + [Face(part, seams[-1], None) for part in remaining]


def _middle(seam: Seam) -> Array:
    """The place of a seam in the middle of what lies on the hull."""
    on = np.flatnonzero(seam.on)
    place: Array = seam.uv[int(on[len(on) // 2]) if len(on) else len(seam.uv) // 2]
    return place


def _sides(parts: list[shapely.Polygon], line: _Line) -> tuple[list[shapely.Polygon], list[shapely.Polygon]]:
    """Parts cut along a seam: those on its negative side, and those on the other."""
    cut = shapely.LineString(line.places)
    below: list[shapely.Polygon] = []
    above: list[shapely.Polygon] = []
    for part in parts:
        for piece in split(part, cut).geoms:
            inside = np.asarray(piece.representative_point().coords[0])
            (below if line.side_of(inside) < 0 else above).append(piece)
    return below, above

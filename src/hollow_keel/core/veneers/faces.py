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


def faces_between(back: list[Seam], ahead: list[Seam]) -> tuple[list[Face], list[Face]]:
    """The faces on either side of the first seam, which begins both lists; together they are the whole surface. The outermost are
    straight along the last seam that there is."""
    whole = shapely.box(0.0, 0.0, 1.0, 1.0)
    left, right = _sides([whole], back[0])
    if len(back) > 1:  # `back` lies on the side where its second seam does
        if _side_of(back[1].uv[_middle(back[1])], back[0]) > 0:
            left, right = right, left
    elif len(ahead) > 1 and _side_of(ahead[1].uv[_middle(ahead[1])], ahead[0]) < 0:
        left, right = right, left
    return _divided(left, back), _divided(right, ahead)


def _divided(remaining: list[shapely.Polygon], seams: list[Seam]) -> list[Face]:
    faces: list[Face] = []
    for near, seam in zip(seams[:-1], seams[1:], strict=True):
        sign = _side_of(near.uv[_middle(near)], seam)
        one, other = _sides(remaining, seam)
        own, remaining = (one, other) if sign < 0 else (other, one)
        faces += [Face(part, seam, near) for part in own]
    return faces + [Face(part, seams[-1], None) for part in remaining]


def _middle(seam: Seam) -> int:
    on = np.flatnonzero(seam.on)
    return int(on[len(on) // 2]) if len(on) else len(seam.uv) // 2


def _sides(parts: list[shapely.Polygon], seam: Seam) -> tuple[list[shapely.Polygon], list[shapely.Polygon]]:
    """Parts cut along a seam: those on its negative side, and those on the other."""
    line = shapely.LineString(_carried(seam))
    below: list[shapely.Polygon] = []
    above: list[shapely.Polygon] = []
    for part in parts:
        for piece in split(part, line).geoms:
            inside = np.asarray(piece.representative_point().coords[0])
            (below if _side_of(inside, seam) < 0 else above).append(piece)
    return below, above


def _carried(seam: Seam) -> Array:
    uv = seam.uv
    first, last = uv[0] - uv[1], uv[-1] - uv[-2]
    return np.concatenate([
        uv[:1] + FAR * first / np.linalg.norm(first), uv, uv[-1:] + FAR * last / np.linalg.norm(last)
    ])  # fmt: skip


def _side_of(place: Array, seam: Seam) -> float:
    """Positive to the left of a seam, negative to its right, by the piece of it that is nearest."""
    line = _carried(seam)
    steps = np.diff(line, axis=0)
    off = place - line[:-1]
    share = np.clip(np.vecdot(off, steps) / np.maximum(np.vecdot(steps, steps), 1e-30), 0.0, 1.0)
    away = off - share[:, None] * steps
    k = int(np.argmin(np.vecdot(away, away)))
    return float(steps[k, 0] * off[k, 1] - steps[k, 1] * off[k, 0])

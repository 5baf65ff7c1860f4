"""The join of deck and hull at the sheer: the angle between them along it, how both edges are bevelled to meet in a miter, its
length, and the bands of glass inside and out."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.polyline import runs_along
from ..hull.build import Hull
from ..hull.deck import Deck

ALONG = 401
ROUND_ENDS = 2
"""Bands run inside and outside."""


@dataclass(frozen=True)
class JoinAt:
    """The join at a position along the hull, mm: the angle between the outsides of hull and deck, and how far off square each
    edge is planed so that both meet in a miter, radians."""

    at: float
    angle: float
    bevel: float


@dataclass(frozen=True)
class Join:
    """The join of one side, at places given; its length along the sheer, mm (one side)."""

    places: tuple[JoinAt, ...]
    length: float

    @property
    def bands(self) -> float:
        """Length of all bands of glass, both sides, inside and out, mm."""
        return 2 * ROUND_ENDS * self.length


def join_of(hull: Hull, deck: Deck, stations: Sequence[float]) -> Join:
    """The join at stations (mm) and at both its ends. The angle is what is left of a straight one when the normals part: 180° where
    deck and hull go on smoothly, 90° for a level deck on an upright side."""
    even = np.linspace(0.0, 1.0, ALONG)
    side, top = hull.panels[-1].surface, deck.surface.panels[0].surface
    edge = side.points(even, np.ones(ALONG))
    upper = top.points(even, np.zeros(ALONG))
    places = np.unique(
        np.concatenate([[edge[0, 0], edge[-1, 0]], [x for x in stations if edge[0, 0] < x < edge[-1, 0]]])
    )
    normals = []
    for surface, line, v in ((side, edge, 1.0), (top, upper, 0.0)):
        u = np.clip(np.interp(places, line[:, 0], even), 0.002, 0.998)
        normals.append(surface.jet(u, np.full_like(u, v)).normal)
    turn = np.arccos(np.clip(np.vecdot(normals[0], normals[1]), -1.0, 1.0))
    found = tuple(
        JoinAt(float(x), math.pi - float(a), float(a) / 2) for x, a in zip(places, turn, strict=True)
    )
    return Join(found, _length(edge))


def _length(edge: Array) -> float:
    return float(runs_along(edge)[-1])

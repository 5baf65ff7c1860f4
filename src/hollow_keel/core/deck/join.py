"""The join of deck and hull at the sheer: the angle between them along it, how both edges are bevelled to meet in a miter, its
length, and the bands of glass inside and out."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.polyline import runs_along
from ..hull.build import Hull
from ..hull.deck import Deck
from ..job import DeckSettings
from ..settings.deck_choices import JoinKind

ALONG = 401
LEAST_SINE = 0.1
"""Where deck and hull go on nearly smoothly no recess is told deeper than ten times the deck."""
ROUND_ENDS = 2
"""Bands run inside and outside."""


@dataclass(frozen=True)
class JoinAt:
    """The join at a position along the hull, mm: the angle between the outsides of hull and deck, radians; how far off square an
    edge is planed, radians: each of both for a miter, the floor of the hull's recess (negative: it falls inward) where the deck is
    let in; and how deep that recess is, measured down the hull's face, mm (0: none)."""

    at: float
    angle: float
    bevel: float
    deep: float = 0.0


@dataclass(frozen=True)
class Join:
    """The join of one side, at places given; its length along the sheer, mm (one side)."""

    places: tuple[JoinAt, ...]
    length: float
    tape: float = 0.0
    """Width of a band of glass, mm."""

    @property
    def bands(self) -> float:
        """Length of all bands of glass, both sides, inside and out, mm."""
        return 2 * ROUND_ENDS * self.length

    @property
    def cloth(self) -> float:
        """Cloth for all bands, m²."""
        return self.bands * self.tape * 1e-6


def join_of(hull: Hull, deck: Deck, stations: Sequence[float], settings: DeckSettings) -> Join:
    """The join at stations (mm) and at both its ends, as it is decided. The angle is what is left of a straight one when the
    normals part: 180° where deck and hull go on smoothly, 90° for a level deck on an upright side."""
    even = np.linspace(0.0, 1.0, ALONG)
    side, top = hull.panels[-1].surface, deck.surface.panels[0].surface
    edge = side.points(even, np.ones(ALONG))
    upper = top.points(even, np.zeros(ALONG))
    places = np.unique(np.concatenate([[edge[0, 0], edge[-1, 0]], [x for x in stations if edge[0, 0] < x < edge[-1, 0]]]))
    normals = []
    for surface, line, v in ((side, edge, 1.0), (top, upper, 0.0)):
        u = np.clip(np.interp(places, line[:, 0], even), 0.002, 0.998)
        normals.append(surface.jet(u, np.full_like(u, v)).normal)
    turn = np.arccos(np.clip(np.vecdot(normals[0], normals[1]), -1.0, 1.0))
    found = tuple(_at(float(x), math.pi - float(a), settings) for x, a in zip(places, turn, strict=True))
    return Join(found, float(runs_along(edge)[-1]), settings.tape_width)


def _at(x: float, angle: float, settings: DeckSettings) -> JoinAt:
    """The join at one place, by plane geometry: let in, the deck lies on a floor that runs on as its own inner face, so far off
    square to the hull as the angle is from a right one, and t / sin(angle) down the hull's face for a deck of thickness t."""
    if settings.join is JoinKind.RECESS:
        return JoinAt(x, angle, angle - math.pi / 2, settings.thickness / max(math.sin(angle), LEAST_SINE))
    return JoinAt(x, angle, (math.pi - angle) / 2)

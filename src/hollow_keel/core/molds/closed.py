"""The edge of a closed mold: hull below the sheer and deck above it, each less its own skin, in one line.

Both skins are taken off square to their own surface and cut by the plane of the mold's reference face; they meet in the corner
under the sheer, where the part line is marked. With unequal skins that corner lies off the line that halves the angle.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.polyline import crossing
from ..hull.deck import Deck
from ..rules import LEAST_DECK_MOLD_MM
from ..settings.mold_choices import Deduction
from .shape import MoldEdge, mold_edges, sections_outside

CARRIED_MM = 60.0


@dataclass(frozen=True)
class ClosedEdge:
    """One side of a closed mold, half-breadth and height, mm: `hull` (n, 2) from the keel to the corner, `deck` (m, 2) from the
    corner to the centreline, which share the corner; `outside` (k, 2) the outside of the deck in the same plane; how the deck
    narrows along the hull at each place of `deck`, radians, (m,); and whether the two faces meet there (`meets`)."""

    hull: Array
    deck: Array
    outside: Array
    narrowing: Array
    meets: bool

    @property
    def corner(self) -> Array:
        """Where the two faces meet under the sheer, (2,), mm."""
        result: Array = self.deck[0]
        return result

    @property
    def points(self) -> Array:
        """The whole side from keel to the deck's centreline, (n + m - 1, 2), mm."""
        return np.concatenate([self.hull, self.deck[1:]])


def closed_edges(
    deck: Deck, edges: Sequence[MoldEdge], school: Deduction, skin: float, waterline: float
) -> list[ClosedEdge | None]:
    """The closed edges of molds whose edges on the hull are given; `skin` is what the deck takes off, mm, `waterline` a height, mm.
    None where the deck is too narrow, or its skin too thick, for a part of the mold under it."""
    places = [edge.face_at for edge in edges]
    unders = mold_edges(deck.surface, places, skin, school, waterline, on_centre=False)
    outsides = sections_outside(deck.surface, places) if places else []
    return [
        None if under is None else _joined(edge, under, outside)
        for edge, under, outside in zip(edges, unders, outsides, strict=True)
    ]


def _joined(edge: MoldEdge, under: MoldEdge, outside: Array) -> ClosedEdge | None:
    """The hull's and the deck's edge of one mold brought to their corner."""
    inner, lean = _to_centreline(under)
    side = edge.points
    if len(inner) < 2 or float(inner[:, 0].max()) < LEAST_DECK_MOLD_MM:
        return None
    up, out = _carried_on(side), _carried_on(inner[::-1])[::-1]
    hit = crossing(up, out, (side[-1] + inner[0]) / 2)
    lean = np.concatenate([lean[:1], lean])
    if hit is None:
        return ClosedEdge(side, frozen(np.concatenate([side[-1:], inner])), frozen(outside), frozen(lean), False)
    k, j, at = hit
    hull = _apart(np.concatenate([up[: k + 1], at[None]]))
    under_deck = np.concatenate([at[None], out[j + 1 :]])
    return ClosedEdge(frozen(hull), frozen(under_deck), frozen(outside), frozen(lean[-len(under_deck) :]), True)


def _carried_on(line: Array) -> Array:
    """A line (n, 2) carried on straight past its end, far enough to meet the other skin's face."""
    step = line[-1] - line[-2]
    size = float(np.hypot(*step))
    return np.concatenate([line, (line[-1] + CARRIED_MM / max(size, 1e-9) * step)[None]])


def _apart(line: Array) -> Array:
    """Without a last point but one that lies on the last."""
    if len(line) > 2 and float(np.hypot(*(line[-1] - line[-2]))) < 1e-6:
        return np.concatenate([line[:-2], line[-1:]])
    return line


def _to_centreline(under: MoldEdge) -> tuple[Array, Array]:
    """A deck's edge (n, 2) from the sheer ended on the centreline: cut there where it runs past it, as under a ridge; carried
    level to it where it stops short, as at a deck that is open there."""
    points, lean = under.points, under.narrowing
    past = np.flatnonzero(points[:, 0] < 0)
    if len(past):
        k = int(past[0])
        if k == 0:
            return points[:0], lean[:0]
        a, b = points[k - 1], points[k]
        share = a[0] / (a[0] - b[0])
        at = a + share * (b - a)
        at[0] = 0.0
        return np.concatenate([points[:k], at[None]]), np.concatenate([lean[:k], lean[k - 1 : k]])
    if points[-1, 0] > 1e-9:
        end = np.array([[0.0, points[-1, 1]]])
        return np.concatenate([points, end]), np.concatenate([lean, lean[-1:]])
    return points, lean


def ended_at_corner(edge: MoldEdge, closed: ClosedEdge) -> MoldEdge:
    """A mold's edge on the hull that ends in the corner under the sheer."""
    count = len(closed.hull)
    kept = edge.narrowing[:count]
    lean = np.concatenate([kept, np.repeat(kept[-1:], count - len(kept))])
    return replace(edge, points=closed.hull, narrowing=frozen(lean))

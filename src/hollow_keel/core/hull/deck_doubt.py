"""How far a deck may be out between the rows of its table: told from what its own rows would be if each in turn were missing."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry.arrays import Array
from ..offsets.table import Lines

ACROSS = (0.0, 0.5)
"""At the centreline and half-way to the sheer the deck's rise over its sheer is followed along the hull."""
ALONG_SHARE, ACROSS_SHARE, ALWAYS_MM = 0.6, 0.5, 0.2
"""So much of what a missing station, or a missing row of one, would be out by is left where none is missing, and what always is:
calibrated on decks of closed form, round, square and hollow, pointed and open, of five to thirteen stations."""
LEAST = 4
"""Fewer stations, or points of a station, tell nothing of each other."""
OF_TWO, OF_THREE = 0.5, 0.25
"""A station that is told by its sheer and centreline alone may be out by so much of its rise between them, one with a point more by
so much of what that point stands off the straight line: as a square deck does."""


def deck_doubt(lines: Lines) -> float:
    """How far a deck of these lines, drawn from the sheer inward, may be out between its rows, mm, at the worst place of it."""
    sections = [lines.bow.points, *(s.points for s in lines.stations), lines.stern.points]
    by_place = {float(points[0, 0]): points for points in sections}
    places = sorted(by_place)
    ordered = [by_place[x] for x in places]
    along = max((_missed(np.array(places), row) for row in _rises(ordered)), default=0.0)
    across = max((_missed_of(points) for points in ordered), default=0.0)
    return ALWAYS_MM + ALONG_SHARE * along + ACROSS_SHARE * across


def _rises(sections: list[Array]) -> Iterator[Array]:
    """How far the deck stands over its sheer at every section, (n,) each, from the centreline outward."""
    for share in ACROSS:
        yield np.array([np.interp(share * p[0, 1], p[::-1, 1], p[::-1, 2]) - p[0, 2] for p in sections])


def _missed(at: Array, values: Array) -> float:
    """How far values (n,) at places (n,) lie, at most, from a cubic through the others: the nearer of one that is bent at its ends
    as it is beside them and one that is not bent there."""
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    if len(at) < LEAST:
        return 0.0
    found = 0.0
    for k in range(1, len(at) - 1):
        others = np.arange(len(at)) != k
        cubics = (CubicSpline(at[others], values[others], bc_type=ends) for ends in ("not-a-knot", "natural"))
        found = max(found, min(abs(float(own(at[k]) - values[k])) for own in cubics))
    return found


def _missed_of(points: Array) -> float:
    """The same of the points (n, 3) of one section over their half-breadths, none where it is steep; of fewer points as much as the
    deck may bulge between them."""
    y, z = points[::-1, 1], points[::-1, 2]
    if len(y) < LEAST:
        straight = np.interp(y, y[[0, -1]], z[[0, -1]])
        bulge = OF_TWO * abs(float(z[-1] - z[0])) if len(y) == 2 else OF_THREE * float(np.abs(z - straight).max())
        return bulge / ACROSS_SHARE
    if np.any(np.diff(y) < 1.0):
        return 0.0
    return _missed(y, z)

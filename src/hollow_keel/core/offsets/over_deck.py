"""A section that goes on over a deck: where its sheer is, and the rows of what lies beyond it."""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array, rows_at
from ..geometry.polyline import runs_along
from .table import OffsetRow, to_tenth

CORNER = np.radians(20)
"""A section turns inboard by so much where a deck begins."""
AT_EDGE, CLOSED_SHARE, LEAST_POINTS = 0.5, 0.06, 4
"""Such a corner lies farther out than this share of the half-breadth; a line that ends within this share of it ends on the
centreline; and a deck that is told has so many points or more."""
LID_SHARE = 0.01
"""What closes a hull from sheer to sheer and rises by less than this share of its half-breadth is a lid, no deck: models are
closed so that their volume can be told."""
EVEN, BESIDE = 161, 2
"""Even steps of a line, and how many to either side tell how it turns."""
DECK_POINTS = 6


def is_decked(line: Array) -> bool:
    """Whether a section (n, 2), half-breadth and height from the keel up, mm, goes on over a deck to the centreline: it ends there,
    above half its height, and not down inside."""
    above = float(line[:, 1].max() + line[:, 1].min()) / 2
    return bool(line[-1, 0] < CLOSED_SHARE * float(line[:, 0].max()) and line[-1, 1] > above)


def corner_of(line: Array) -> int | None:
    """The point of a decked section (n, 2), mm, nearest to where it turns inboard most, above half its height: by the directions
    of short lengths on either side, since where two parts of a mesh or a drawing meet there may be a gap. None for one that goes
    round smoothly."""
    above = float(line[:, 1].max() + line[:, 1].min()) / 2
    run = runs_along(line)
    even = rows_at(np.linspace(0.0, run[-1], EVEN), run, line)
    before, after = even[BESIDE:-BESIDE] - even[: -2 * BESIDE], even[2 * BESIDE :] - even[BESIDE:-BESIDE]
    turn = np.angle(np.exp(1j * (np.arctan2(after[:, 1], after[:, 0]) - np.arctan2(before[:, 1], before[:, 0]))))
    at = even[BESIDE:-BESIDE]
    fit = (at[:, 1] > above) & (at[:, 0] > AT_EDGE * float(line[:, 0].max()))
    k = int(np.argmax(np.where(fit, turn, -np.inf)))
    if not fit.any() or turn[k] < CORNER:
        return None
    away = np.linalg.norm(line - at[k], axis=1)
    near = np.flatnonzero(away < BESIDE * float(run[-1]) / (EVEN - 1))
    return int(near[np.argmax(line[near, 0] + line[near, 1])]) if len(near) else int(np.argmin(away))


def parted(line: Array) -> tuple[Array, Array | None]:
    """A section (n, 2) from the keel up, mm, as far as its sheer, and its deck from there to the centreline; None where it has
    none."""
    if len(line) < LEAST_POINTS or not is_decked(line):
        return line, None
    k = corner_of(line)
    if k is None or k < 1 or k > len(line) - 2:
        return line, None
    return line[: k + 1], None if is_lid(line[k:]) else line[k:]


def is_lid(over: Array) -> bool:
    """Whether what lies beyond a sheer (n, 2), mm, is but a level lid."""
    return float(np.ptp(over[:, 1])) < LID_SHARE * float(over[:, 0].max())


def deck_rows(x: float, over: Array) -> list[OffsetRow]:
    """Rows of the deck of a station at x mm from a section of it (n, 2), mm, from the sheer inward, at even steps."""
    run = runs_along(over)
    places = rows_at(np.linspace(0.0, run[-1], DECK_POINTS + 1)[1:], run, over)
    found = [
        OffsetRow(station=x, label="deck", half_breadth=to_tenth(max(y, 0.0)), height=to_tenth(z)) for y, z in places[:-1].tolist()
    ]
    return [*found, OffsetRow(station=x, label="deck_centre", half_breadth=0.0, height=to_tenth(float(places[-1, 1])))]

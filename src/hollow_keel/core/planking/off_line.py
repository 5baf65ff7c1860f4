"""Whether an edge stands off the fair line through its own neighbours, and where."""

from __future__ import annotations

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..rules import OFF_FAIR_MM
from .edges import BOW_ENDS, STERN_ENDS
from .mechanics import named_strips
from .strips import Planking

LONG_ENOUGH_MM = 300.0
NEIGHBOURS = (-2, -1, 1, 2)
TIP = 3
"""Places at the end of an edge that fades are left out: the strip comes to nothing there."""


def _tip(whole: bool) -> int:
    return 0 if whole else TIP


def off_line(run: Array, points: Array) -> Array:
    """How far each of the points (n, 3) of a line at lengths `run` (n,) but two at each end lies off the cubic through two
    neighbours on either side, mm (n - 4,)."""
    n = len(run) - 4
    to = np.stack([run[2 + k : 2 + k + n] for k in NEIGHBOURS]) - run[2:-2]  # (4, n): how far each neighbour is
    off: Array = -points[2:-2]
    for a in range(len(NEIGHBOURS)):
        others = np.delete(to, a, axis=0)
        weight = np.prod(-others / (to[a] - others), axis=0)
        off = off + weight[:, None] * points[2 + NEIGHBOURS[a] : 2 + NEIGHBOURS[a] + n]
    return np.asarray(np.linalg.norm(off, axis=1))


def off_line_findings(planking: Planking) -> list[Finding]:
    """Which strips have a far edge that stands farther off than a builder would nail, the worst told."""
    pieces = [
        (strip.number, piece)
        for strip in planking.strips
        for piece in strip.far
        if piece.length > LONG_ENOUGH_MM and len(piece.run) >= 2 * TIP + 5
    ]
    worst: dict[int, tuple[float, float]] = {}
    if not pieces:
        return []
    # all edges one after the other as one line: what stands across two of them is not looked at
    begins = np.cumsum([0, *(piece.length + 1.0 for _, piece in pieces)])
    run = np.concatenate([piece.run + begin for (_, piece), begin in zip(pieces, begins, strict=False)])
    points = np.concatenate([piece.points for _, piece in pieces])
    off = np.concatenate([np.zeros(2), off_line(run, points), np.zeros(2)])
    last = 0
    for number, piece in pieces:
        first, last = last, last + len(piece.run)
        own = slice(first + 2 + _tip(piece.starts in BOW_ENDS), last - 2 - _tip(piece.ends in STERN_ENDS))
        k = int(np.argmax(off[own])) + own.start
        if off[k] > max(OFF_FAIR_MM, worst.get(number, (0.0, 0.0))[0]):
            worst[number] = float(off[k]), float(points[k, 0])
    if not worst:
        return []
    number = max(worst, key=lambda own: worst[own][0])
    off_by, place = worst[number]
    return [
        Finding(
            "edge-off",
            Weight.LOOK,
            "planking",
            named_strips(sorted(worst)),
            f"An edge of theirs does not run fair: strip {number}'s stands {mm(round(off_by, 1))} off the line through its own "
            f"neighbours near position {mm(round(place))}. Let a batten decide there, or choose another width or way of dividing.",
        )
    ]

"""Whether an edge stands off the fair line through its own neighbours, and where."""

from __future__ import annotations

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..rules import OFF_FAIR_MM
from .edges import BOW_ENDS, STERN_ENDS, EdgePiece
from .mechanics import named_strips
from .strips import Planking

LONG_ENOUGH_MM = 300.0
NEIGHBOURS = (-2, -1, 1, 2)
TIP = 3
"""Places at the end of an edge that fades are left out: the strip comes to nothing there."""


def off_line(piece: EdgePiece) -> Array:
    """How far each point of an edge but two at each end lies off the cubic through two neighbours on either side, mm (n - 4,)."""
    inner = np.arange(2, len(piece.run) - 2)
    found: Array = -piece.points[inner]
    for a in NEIGHBOURS:
        weight: Array = np.ones(len(inner))
        for b in NEIGHBOURS:
            if a != b:
                weight = (
                    weight
                    * (piece.run[inner] - piece.run[inner + b])
                    / (piece.run[inner + a] - piece.run[inner + b])
                )
        found = found + weight[:, None] * piece.points[inner + a]
    return np.asarray(np.linalg.norm(found, axis=1))


def off_line_findings(planking: Planking) -> list[Finding]:
    """Which strips have a far edge that stands farther off than a builder would nail, the worst told."""
    worst: dict[int, tuple[float, float]] = {}
    for strip in planking.strips:
        for piece in strip.far:
            if piece.length <= LONG_ENOUGH_MM or len(piece.run) < 2 * TIP + 5:
                continue
            off = off_line(piece)
            off[: 0 if piece.starts in BOW_ENDS else TIP] = 0.0
            off[len(off) - (0 if piece.ends in STERN_ENDS else TIP) :] = 0.0
            k = int(np.argmax(off))
            if off[k] > max(OFF_FAIR_MM, worst.get(strip.number, (0.0, 0.0))[0]):
                worst[strip.number] = float(off[k]), float(piece.points[k + 2, 0])
    if not worst:
        return []
    number = max(worst, key=lambda own: worst[own][0])
    off_by, place = worst[number]
    return [
        Finding(
            "edge-off", Weight.LOOK, "planking", named_strips(sorted(worst)),
            f"An edge of theirs does not run fair: strip {number}'s stands {mm(round(off_by, 1))} off the line through its own "
            f"neighbours near position {mm(round(place))}. Let a batten decide there, or choose another width or way of dividing.",
        )
    ]  # fmt: skip

"""Whether strips turn at their ends as no batten would, and which do."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from .edges import EdgePiece
from .mechanics import named_strips
from .strips import Planking

FOLD_DEGREES = 12.0
"""A strip whose end turns farther than this within the skin is folded rather than sprung: common practice, no source."""
NEAR_MM, FAR_MM = 30.0, 250.0
"""What counts as its end: from the middle of its last 60 mm to so far in; lines much shorter than that have no ends to tell of."""
LONG_ENOUGH_MM = 330.0
PLACES_MM = frozen(np.linspace(NEAR_MM, FAR_MM, 45))


@dataclass(frozen=True)
class EndTurn:
    """How far an end of a strip's far edge turns within the skin, degrees, and where: position along the hull, mm."""

    strip: int
    turn: float
    place: float


def end_turns(planking: Planking) -> Iterator[EndTurn]:
    """Every end of every edge away from the guide."""
    for strip in planking.strips:
        for piece in strip.far:
            if piece.length < LONG_ENOUGH_MM:
                continue
            astern: Array = piece.length - PLACES_MM
            yield EndTurn(strip.number, _turn(piece, PLACES_MM), float(piece.points[0, 0]))
            yield EndTurn(strip.number, _turn(piece, astern), float(piece.points[-1, 0]))


def _turn(piece: EdgePiece, places: Array) -> float:
    """The sum of what a line turns within the surface over places (n,) of its length, mm, degrees."""
    edge_set = np.interp(places, piece.run, piece.curvatures[:, 0])
    return math.degrees(abs(float(np.trapezoid(edge_set, places))))


def folded(planking: Planking) -> tuple[EndTurn, ...]:
    """Those that turn too far, the worst first, one a strip."""
    worst: dict[int, EndTurn] = {}
    for end in end_turns(planking):
        if end.turn > FOLD_DEGREES and end.turn > (worst[end.strip].turn if end.strip in worst else 0.0):
            worst[end.strip] = end
    return tuple(sorted(worst.values(), key=lambda end: -end.turn))


def fold_findings(planking: Planking) -> list[Finding]:
    """Which strips turn too far at an end, and what else to try."""
    found = folded(planking)
    if not found:
        return []
    return [
        Finding(
            "end-turns",
            Weight.LOOK,
            "planking",
            named_strips(sorted(end.strip for end in found)),
            f"An end of theirs turns more than wood is sprung to: strip {found[0].strip} by {round(found[0].turn)}° in its last "
            f"{mm(FAR_MM)}, at position {mm(round(found[0].place))}. Start from another line, or divide otherwise.",
        )
    ]

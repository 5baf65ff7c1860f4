"""Closing the bottom: where both sides meet, one side run past the line and cut to it, or both interleaved.

Both sides are alike, so their edges come to the keel line at the same angle. Cut to it, a strip ends at that angle.
Interleaved, where the bottom is flat, each strip butts on the last one of the other side and ends at twice the angle; the
second side's strips begin where the first side's edge crosses them, width / sin(twice the angle) later. Plane geometry;
common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..molds.stations import Mold
from .choices import Course, Meeting
from .crossings import Crossing
from .end_cuts import EndCut
from .strips import Planking

BLUNT_DEG = 45.0
"""Strips that come in more steeply do not lie along each other: they are cut to the line."""


@dataclass(frozen=True)
class CentreCut:
    """Where the keel line crosses the strips of one mold: in `strip`, `from_upper` mm down from its upper edge, `from_sheer` mm
    down the mold."""

    mold: str
    strip: int
    from_upper: float
    from_sheer: float


def centre_cuts(
    molds: tuple[Mold, ...], at_molds: Mapping[str, tuple[Crossing, ...]], planking: Planking
) -> tuple[CentreCut, ...]:
    """The cut at every mold where a strip runs out at the keel; nothing where the first strips lie along the keel."""
    bottom = [s for s in planking.strips if s.panel == 0]
    lowest = {s.number for s in bottom if s.course is Course.DOWN}
    if not lowest or bottom[0].course is Course.UP:  # the first ones lie along the keel
        return ()
    found = []
    for mold in molds:
        rows = [row for row in at_molds.get(mold.name, ()) if row.number in lowest]
        if rows:
            last = max(rows, key=lambda row: row.from_sheer)
            found.append(CentreCut(mold.name, last.number, last.from_sheer - last.upper, last.from_sheer))
    return tuple(found)


@dataclass(frozen=True)
class Meets:
    """How an end that comes to the keel is cut: `across` degrees between strip and cut; `second` how much shorter (mm) the
    strip of the side that is laid second begins, 0 where both are cut to the line."""

    across: float
    second: float


def meets(cut: EndCut | None, width: float, meeting: Meeting) -> Meets | None:
    """How an end is cut where both sides meet; None for one that does not end on the keel."""
    if cut is None or cut.on != "keel":
        return None
    if meeting is Meeting.CUT or cut.across >= BLUNT_DEG or cut.across < 1e-3:
        return Meets(cut.across, 0.0)
    return Meets(2 * cut.across, width / math.sin(math.radians(2 * cut.across)))


HOW_TO = {
    Meeting.CUT: "Run one side past it, snap a line, cut to it, and fit the other side to the cut.",
    Meeting.INTERLEAVED: "Lay port and starboard in turn, each butted on the last strip of the other side.",
}

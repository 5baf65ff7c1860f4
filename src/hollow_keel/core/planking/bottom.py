"""Closing the bottom: where both sides meet, one side run past the line and cut to it, or both interleaved.

Both sides are alike, so their edges come to the keel line at the same angle. Cut to it, a strip ends at that angle.
Interleaved, where the bottom is flat, each strip butts on the last one of the other side and ends at twice the angle; the
second side's strips begin where the first side's edge crosses them, width / sin(twice the angle) later. Plane geometry;
common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight
from ..molds.stations import Mold
from ..rules import BLUNT_DEG
from ..settings.strip_choices import Course, Meeting, MeetOn
from .crossings import Crossing
from .end_cuts import EndCut
from .strips import Planking, Strip

NO_FLAT_MM = 0.5
LEAST_INWARD = 0.02
"""A strip that runs along the keel more nearly does not come to the centreline."""


@dataclass(frozen=True)
class CentreCut:
    """Where the line that both sides meet on crosses the strips of one mold: `on` which line, `off_centre` mm from the true
    centreline; in `strip`, `from_upper` mm down from its upper edge, `from_sheer` mm down the mold."""

    mold: str
    on: str
    off_centre: float
    strip: int
    from_upper: float
    from_sheer: float


def centre_cuts(
    molds: tuple[Mold, ...], at_molds: Mapping[str, tuple[Crossing, ...]], planking: Planking, meet_on: MeetOn
) -> tuple[CentreCut, ...]:
    """The cut at every mold where a strip runs out at the keel; nothing where the first strips lie along the keel. Beyond the keel
    line strips run straight on to the centreline; where the last of the plan does not cover that, another one follows it."""
    bottom = [s for s in planking.strips if s.panel == 0]
    lowest = {s.number for s in bottom if s.course is Course.DOWN}
    if not lowest or bottom[0].course is Course.UP:  # the first ones lie along the keel
        return ()
    found = []
    for mold in molds:
        rows = [row for row in at_molds.get(mold.name, ()) if row.number in lowest]
        if rows:
            last = max(rows, key=lambda row: row.from_sheer)
            found.append(_cut(mold, last, planking.width, meet_on))
    return tuple(found)


def _cut(mold: Mold, last: Crossing, width: float, meet_on: MeetOn) -> CentreCut:
    off, past = abs(float(last.far[1])), _past_keel_line(mold)
    strip, from_upper, from_sheer = last.number, last.from_sheer - last.upper, last.from_sheer
    if off < NO_FLAT_MM or meet_on is MeetOn.KEEL_LINE:
        on = MeetOn.CENTRELINE if off < NO_FLAT_MM else MeetOn.KEEL_LINE
        return CentreCut(mold.name, on.value, off, strip, from_upper, from_sheer)
    from_upper += past
    while from_upper > width + 1e-6:
        strip, from_upper = strip + 1, from_upper - width
    return CentreCut(mold.name, meet_on.value, 0.0, strip, from_upper, from_sheer + past)


def _past_keel_line(mold: Mold) -> float:
    """How far past the end of a mold's edge, straight on along it, the centreline is."""
    edge = mold.edge.points
    step = edge[1] - edge[0]
    return abs(float(edge[0, 0])) * float(np.linalg.norm(step)) / max(abs(float(step[0])), 1e-9)


def past_keel_line(strip: Strip, meet_on: MeetOn) -> tuple[float, float]:
    """How much longer a strip's forward and after end are (mm) where it runs on from the keel line to the true centreline; 0 where
    it does not end on the keel, or both sides meet on its flat."""
    if meet_on is MeetOn.KEEL_LINE:
        return 0.0, 0.0
    ends = []
    for at, other in ((0, 1), (-1, -2)):
        edge = strip.near or strip.far
        piece = edge[at]
        name = piece.starts if at == 0 else piece.ends
        away = piece.points[at] - piece.points[other]
        inward = abs(float(away[1])) / max(float(np.linalg.norm(away)), 1e-9)
        off = abs(float(piece.points[at, 1]))
        ends.append(off / max(inward, LEAST_INWARD) if name == "keel" else 0.0)
    return ends[0], ends[1]


def flat_findings(cuts: tuple[CentreCut, ...], planking: Planking) -> list[Finding]:
    """Where the flat of the keel takes more strips than the plan has."""
    over = [cut for cut in cuts if cut.strip > len(planking.strips)]
    if not over:
        return []
    most = max(cut.strip for cut in over) - len(planking.strips)
    where = f"mold {over[0].mold}" if len(over) == 1 else f"molds {over[0].mold} to {over[-1].mold}"
    text = (
        f"To the true centreline the flat of the keel takes {most} more strip{'s' if most > 1 else ''} a side here than the plan "
        f"counts. Add {'them' if most > 1 else 'it'} to the wood, or end both sides on the flat."
    )
    return [Finding("flat-of-keel", Weight.LOOK, "planking", where, text)]


@dataclass(frozen=True)
class Meets:
    """How an end that comes to the keel is cut: `across` degrees between strip and cut; `second` how much shorter (mm) the
    strip of the side that is laid second begins, 0 where both are cut to the line."""

    across: float
    second: float


def meets(cut: EndCut | None, width: float, meeting: Meeting) -> Meets | None:
    """How an end of a strip `width` mm wide is cut where both sides meet; None for one that does not end on the keel."""
    if cut is None or cut.on != "keel":
        return None
    if meeting is Meeting.CUT or cut.across >= BLUNT_DEG or cut.across < 1e-3:
        return Meets(cut.across, 0.0)
    return Meets(2 * cut.across, width / math.sin(math.radians(2 * cut.across)))


def in_words(cut: CentreCut, write: Callable[[float], str]) -> str:
    """Where both sides meet at a mold, lengths (mm) written by `write`."""
    line = "Centreline"
    if cut.on == MeetOn.KEEL_LINE.value:
        line = f"Keel line, {write(cut.off_centre)} from the centreline"
    return f"{line}: in strip {cut.strip}, {write(cut.from_upper)} below its upper edge."


HOW_TO = {
    Meeting.CUT: "Run one side past it, snap a line, cut to it, and fit the other side to the cut.",
    Meeting.INTERLEAVED: "Lay port and starboard in turn, each butted on the last strip of the other side.",
}

"""The closing area: the strips that do not run from end to end, and the last gap of each course."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..rules import SLIVER_SHARE
from .flat import flat_strip
from .strips import Planking, Strip


@dataclass(frozen=True)
class Closing:
    """The last gap of a course: the number of the strip that closes it, how long it is and how wide at its widest, at a
    position along the hull (mm); how many strips of the course do not run from end to end; whether the last is a
    sliver."""

    strip: int
    length: float
    widest: float
    at: float
    short: int
    sliver: bool


def closings(planking: Planking) -> tuple[Closing, ...]:
    """The last gap of every course."""
    courses: dict[tuple[int, str], list[Strip]] = {}
    for strip in planking.strips:
        courses.setdefault((strip.panel, strip.course.value), []).append(strip)
    found = []
    for strips in courses.values():
        last = strips[-1]
        flat = flat_strip(last, planking)
        if not len(flat):
            continue
        k = int(np.argmax(flat[:, 1]))
        near = max(last.near, key=lambda piece: piece.length)
        found.append(
            Closing(
                last.number,
                last.length,
                float(flat[k, 1]),
                float(near.points[k, 0]),
                sum(not s.runs_through for s in strips),
                bool(flat[k, 1] < SLIVER_SHARE * planking.width),
            )
        )
    return tuple(found)


def closing_findings(planking: Planking) -> list[Finding]:
    """What to do about the last gaps."""
    found = []
    for gap in closings(planking):
        if gap.short == 0:
            continue
        where = f"strip {gap.strip}"
        size = f"{mm(round(gap.length))} long and {mm(round(gap.widest, 1))} wide at its widest, near position {mm(round(gap.at))}"
        if gap.sliver:
            both = mm(round(gap.widest + planking.width, 1))
            text = (
                f"The last gap is {size}: too little for a strip of its own. Glue it to the one before it and fit both as one "
                f"plank, {both} wide; bevel its bed like a wedge, so that it drops in."
            )
        else:
            text = f"The last gap is {size}: one strip closes it; bevel its bed like a wedge, so that it drops in."
        found.append(Finding("last-gap", Weight.INFORMATION, "planking", where, text))
    return found

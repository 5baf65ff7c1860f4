"""From the table of offsets to the hull."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from ..findings import Finding, Weight, mm
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..offsets.table import Lines
    from .build import Hull
    from .measures import Measures
    from .unsettled import Settled


@dataclass(frozen=True)
class LoadWaterline:
    """The height of the load waterline, mm, given or (with a finding) taken to be there."""

    height: float
    findings: tuple[Finding, ...] = ()


def _lines(given: Given) -> Lines:
    from ..offsets.table import read_lines

    return read_lines(given.job.offsets.figures)


def _hull(given: Given) -> Hull:
    from .build import build_hull

    return build_hull(given[LINES], given.job.outward, given.curves)


def _waterline(given: Given) -> LoadWaterline:
    if given.job.waterline is not None:
        return LoadWaterline(given.job.waterline)
    lines = given[LINES]
    lowest = min(float(points[:, 2].min()) for points in lines.all_points)
    sheer = min(float(s.points[-1, 2]) for s in lines.sections)
    level = round(lowest + (sheer - lowest) / 3)
    text = (
        f"No load waterline is given; it is taken at height {mm(level)}, a third of the way up from the keel. "
        "Any level line will do for setting up, but set the real one for volume and wetted area."
    )
    found = Finding("no-waterline", Weight.LOOK, "offsets", "the load waterline", text)
    return LoadWaterline(float(level), (found,))


def _measures(given: Given) -> Measures:
    from .measures import measure

    return measure(given[HULL], given[WATERLINE].height)


def _settled(given: Given) -> Settled:
    from .unsettled import settled

    return settled(given[LINES], given[HULL])


def _unsettled_findings(told: Settled) -> list[Finding]:
    from .unsettled import unsettled_findings

    return unsettled_findings(told)


LINES = Stage("lines", "offsets", "the lines", ("offsets.figures",), (), _lines)
HULL = Stage("hull", "offsets", "the hull", ("outward",), (LINES,), _hull, lambda hull: hull.findings)
WATERLINE = Stage(
    "waterline", "offsets", "the load waterline", ("waterline",), (LINES,), _waterline, lambda w: w.findings
)
MEASURES = Stage("measures", "offsets", "volume and areas", (), (HULL, WATERLINE), _measures)
SETTLED = Stage(
    "settled", "offsets", "how far the table settles the hull", (), (LINES, HULL), _settled, _unsettled_findings,
    Turn.CHECKS,
)  # fmt: skip

STAGES = (LINES, HULL, WATERLINE, MEASURES, SETTLED)

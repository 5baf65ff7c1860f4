"""The rest planned again from what has really been planked; what was laid is never altered.

The girth that is left is divided again at every mold: all strips that are still to come are tapered alike, so that the
last one lands on the line where it is wanted."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..job import Job
from ..molds.stations import Mold
from .choices import Course, Guide
from .crossings import Crossing
from .divider import KEEL, SHEER, line_on_mold
from .progress import GirthLeft, Planked
from .strips import Planking

DRIFT_MM = 3.0
FEW = 12
"""No more strips than this are a few."""
SAME_MM = 0.05
AS_PLANNED_MM = 0.5
"""Readings that differ from the plan by no more, at every mold, are as planned."""
STEP_SHARE = 0.5
"""Sides may differ by so much, and a strip may be out of step by such a share of its width, before it is said (common practice)."""


@dataclass(frozen=True)
class Rest:
    """What is left at one mold, mm: `planned` by the plan after as many strips, `measured`, the sides' difference
    `port_more`, and the `width` of every strip still to come there."""

    mold: str
    station: float
    planned: float
    measured: float
    port_more: float | None
    width: float


@dataclass(frozen=True)
class BringBack:
    """A few tapered strips that bring the run back to the plan: how many, the number of the strip of the plan that follows them,
    and how wide each of them is by mold, mm."""

    strips: int
    follows: int
    widths: Mapping[str, float]


@dataclass(frozen=True)
class Replan:
    """The rest of one course: how many strips are still to come a side, what they are like at each mold in order along
    the hull, what wants looking at, and the few that would bring the run back instead (None: so few would not)."""

    laid: int
    strips: int
    rows: tuple[Rest, ...]
    findings: tuple[Finding, ...]
    back: BringBack | None = None

    @property
    def narrowest(self) -> float:
        """The least width among them, mm."""
        return min(row.width for row in self.rows)

    @property
    def widest(self) -> float:
        """The greatest width among them, mm."""
        return max(row.width for row in self.rows)


def replan(
    job: Job, molds: tuple[Mold, ...], planking: Planking, at_molds: dict[str, tuple[Crossing, ...]]
) -> Replan | None:
    """Plan the rest anew from the job's last look at the work; None where nothing was measured. `at_molds` are the strips
    as planned where they cross each mold."""
    planked = job.planked
    if planked is None or not any(row.mean is not None for row in planked.left):
        return None
    rows = _measured(job, molds, planked, planking, at_molds)
    if not rows:
        return None
    if max(abs(row.measured - row.planned) for row in rows) <= AS_PLANNED_MM:
        return _as_planned(rows, job, planking)
    cover = job.strips.cover
    most = max(row.measured for row in rows)
    count = max(1, math.ceil(most / cover - 1e-9)) if most > 0 else 0
    rest = tuple(
        Rest(r.mold, r.station, r.planned, r.measured, r.port_more, r.measured / count if count else 0.0)
        for r in rows
    )
    back = _bring_back(rest, job, molds, planking, at_molds)
    return Replan(planked.strips, count, rest, tuple(_findings(rest, back, job, planked)), back)


def _as_planned(rows: list[Rest], job: Job, planking: Planking) -> Replan:
    """The rest of the plan itself: what is left is what it leaves."""
    assert job.planked is not None
    laid, cover = job.planked.strips, job.strips.cover
    course = planking.course(planking.strips[0].panel, planking.strips[0].course) if planking.strips else ()
    rest = tuple(
        Rest(r.mold, r.station, r.planned, r.measured, r.port_more, min(cover, r.measured)) for r in rows
    )
    said = Finding(
        "as-planned", Weight.INFORMATION, "planking", "what is left",
        "As planned, go on: what is left at every mold that was measured is what the plan leaves.",
    )  # fmt: skip
    found = (
        [said]
        if all(abs(r.port_more or 0.0) <= DRIFT_MM for r in rest)
        else _findings(rest, None, job, job.planked)
    )
    return Replan(laid, max(0, len(course) - laid), rest, tuple(found))


def _bring_back(
    rest: tuple[Rest, ...],
    job: Job,
    molds: tuple[Mold, ...],
    planking: Planking,
    at_molds: dict[str, tuple[Crossing, ...]],
) -> BringBack | None:
    """The least number of strips, no wider than the others and no narrower than allowed, that cover what lies between the last
    strip that was laid and an edge of the plan at every mold."""
    assert job.planked is not None
    laid, cover, least = job.planked.strips, job.strips.cover, job.strips.least_width
    if max(abs(row.measured - row.planned) for row in rest) <= DRIFT_MM:
        return None
    by_name = {mold.name: mold for mold in molds}
    for count in range(1, FEW + 1):
        for ahead in (count, count - 1, count + 1):
            after = laid + ahead
            widths: dict[str, float] = {}
            for row in rest:
                left = left_as_planned(by_name[row.mold], at_molds[row.mold], after, planking)
                widths[row.mold] = (row.measured - (left or 0.0)) / count
            # where the plan itself comes to an end within these strips they may run out as well
            within = [
                w <= cover + SAME_MM and (w >= least or _run_out(at_molds[name], after))
                for name, w in widths.items()
            ]
            if all(within) and min(widths.values()) >= 0 and after < len(planking.strips):
                return BringBack(count, after + 1, widths)
    return None


def _run_out(strips: tuple[Crossing, ...], number: int) -> bool:
    return not any(row.number == number and row.full for row in strips)


def left_as_planned(mold: Mold, strips: tuple[Crossing, ...], laid: int, planking: Planking) -> float | None:
    """How much of a mold's edge the plan leaves after `laid` strips of the first course, mm; None where they do not come there."""
    downward = _downward(planking)
    end = line_on_mold(mold, KEEL if downward else SHEER, strips)
    assert end is not None
    done = [row for row in strips if row.number <= laid]
    if not done:
        return line_on_mold(mold, KEEL, strips) if planking.guide in (Guide.SHEER, Guide.KEEL) else None
    reached = max(row.from_sheer for row in done) if downward else min(row.upper for row in done)
    return abs(end - reached)


def _downward(planking: Planking) -> bool:
    return not planking.strips or planking.strips[0].course is Course.DOWN


def _measured(
    job: Job,
    molds: tuple[Mold, ...],
    planked: Planked,
    planking: Planking,
    at_molds: dict[str, tuple[Crossing, ...]],
) -> list[Rest]:
    """What was measured where the plan can be compared; at molds between, a smooth line through the differences from the plan."""
    known: list[tuple[Mold, float, GirthLeft]] = []
    plans: dict[str, float] = {}
    for mold in molds:
        planned = left_as_planned(mold, at_molds.get(mold.name, ()), planked.strips, planking)
        if planned is not None:
            plans[mold.name] = planned
        row = planked.of(mold.name)
        if planned is not None and row.mean is not None:
            known.append((mold, row.mean - planned, row))
    if not known:
        return []
    x: Array = np.array([m.station for m, _, _ in known])
    off: Array = np.array([d for _, d, _ in known])
    rows: list[Rest] = []
    for mold in molds:
        if mold.name not in plans:
            continue
        difference = _smooth(x, off, mold.station)
        row = planked.of(mold.name)
        more = None if row.port is None or row.starboard is None else row.port - row.starboard
        planned = plans[mold.name]
        rows.append(Rest(mold.name, mold.station, planned, max(planned + difference, 0.0), more, 0.0))
    return rows


def _smooth(x: Array, off: Array, at: float) -> float:
    """A value between known ones: a monotone cubic through them, level beyond."""
    from scipy.interpolate import PchipInterpolator  # loads slowly: not before it is needed

    if len(x) == 1:
        return float(off[0])
    return float(PchipInterpolator(x, off)(np.clip(at, x[0], x[-1])))


def _counts_across(rows: tuple[Rest, ...], planked: Planked) -> list[Finding]:
    """Where the two sides of the opening that is left would take different numbers of strips."""
    uneven = [
        r for r in rows if r.port_more is not None and r.width > 0 and abs(r.port_more) > STEP_SHARE * r.width
    ]
    if not uneven:
        return []
    row = max(uneven, key=lambda r: abs(r.port_more or 0.0) / r.width)
    own = planked.of(row.mold)
    fewer = round(min(own.port or 0.0, own.starboard or 0.0) / row.width)
    more = fewer + max(1, round(abs(row.port_more or 0.0) / row.width))
    port, starboard = (more, fewer) if (row.port_more or 0.0) > 0 else (fewer, more)
    text = (
        f"Across the opening that is left port takes {port} strips and starboard {starboard}: their edges will not meet. "
        f"Lay {more - fewer} more to {'port' if port > starboard else 'starboard'} before the other side goes on, or make "
        "the strips still to come of each side as wide as its own rest, by the same number."
    )
    return [Finding("counts-differ", Weight.LOOK, "planking", f"mold {row.mold}", text)]


def _findings(rows: tuple[Rest, ...], back: BringBack | None, job: Job, planked: Planked) -> list[Finding]:
    found: list[Finding] = []
    cover = job.strips.cover

    def look(code: str, where: str, text: str) -> None:
        found.append(Finding(code, Weight.LOOK, "planking", where, text))

    for row in rows:
        if row.measured > row.planned + 3 * cover or row.measured < row.planned - 3 * cover:
            look("left-unlikely", f"mold {row.mold}",
                 f"{mm(round(row.measured, 1))} is left where the plan after {planked.strips} strips leaves "
                 f"{mm(round(row.planned, 1))}: "
                 "is the number of strips right, and the unit?")  # fmt: skip
            return found  # nothing else is worth saying before that is right
    for row in rows:
        if row.port_more is not None and abs(row.port_more) > DRIFT_MM:
            more, less = ("port", "starboard") if row.port_more > 0 else ("starboard", "port")
            look("sides-drift", f"mold {row.mold}",
                 f"There is {mm(round(abs(row.port_more), 1))} more left to {more} than to {less}: lay the next strips "
                 f"there first, a "
                 "little narrower on the other side, before the molds are pulled over.")  # fmt: skip
    found += _counts_across(rows, planked)
    measured = [r for r in rows if planked.of(r.mold).mean is not None]
    if len(measured) > 1:
        first, last = measured[0], measured[-1]
        out = (first.measured - first.planned) - (last.measured - last.planned)
        if abs(out) > STEP_SHARE * cover:
            behind = first if out > 0 else last
            look("out-of-step", f"mold {behind.mold}",
                 f"The run is out of step: {mm(round(abs(out), 1))} more is left here than the plan says, against the "
                 f"other end. " + (
                     f"{back.strips} tapered strips bring it back; strip {back.follows} of the plan follows them."
                     if back is not None else f"No {FEW} tapered strips bring it back: taper all the rest."
                 ))  # fmt: skip
    widths = [r.width for r in rows if r.measured > 0]
    if widths and min(widths) < job.strips.least_width:
        thin = min((r for r in rows if r.measured > 0), key=lambda r: r.width)
        look("rest-narrow", f"mold {thin.mold}",
             f"Divided evenly the rest is only {mm(round(thin.width, 1))} a strip here: let some strips run out as "
             f"stealers, or close "
             "with a plank of two strips glued together.")  # fmt: skip
    return found

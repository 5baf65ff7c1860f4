"""The rest planned again from what has really been planked: what the readings say of the plan, and what became of it.

What is laid stays; the strips to come follow from where the last of them lies, and are the plan for everything that follows.
Readings that are as planned leave the plan as it is, and so do readings that cannot be right.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.polyline import run_of
from ..job import Job
from ..molds.read_at import lost
from ..molds.stations import Mold
from ..rules import DRIFT_MM, FEW_STRIPS, STEP_SHARE
from ..settings.progress import Planked
from ..settings.strip_choices import RestWay, StripLayout
from ..words import counted
from .crossings import edge_at
from .left_by_plan import left_as_planned
from .relaid import Drift
from .strips import Planking, Strip

SAME_MM = 0.05
AS_PLANNED_MM = 0.5
"""Readings that differ from the plan by no more, at every mold, are as planned."""
UNLIKELY = 3
"""No run drifts by so many strips: the number or the unit is wrong."""


@dataclass(frozen=True)
class Rest:
    """What is left at one mold, mm: `planned` by the plan after as many strips, `measured` (at molds that were not, what follows
    from the others), the sides' difference `port_more`, and the `width` of the strips still to come there."""

    mold: str
    station: float
    planned: float
    measured: float
    port_more: float | None
    width: float = 0.0


@dataclass(frozen=True)
class BringBack:
    """A few tapered strips that bring the run back to the plan: how many, the number of the strip of the plan that follows them,
    and how wide each of them is by mold, mm."""

    strips: int
    follows: int
    widths: Mapping[str, float]


@dataclass(frozen=True)
class Looked:
    """What readings say of a plan: what is left at each mold, how the rest could be laid, which way it goes, what wants looking
    at, and the `drift` it is laid on from (None: the plan stays)."""

    laid: int
    rows: tuple[Rest, ...]
    findings: tuple[Finding, ...]
    way: RestWay
    ways: tuple[RestWay, ...] = ()
    back: BringBack | None = None
    drift: Drift | None = None


@dataclass(frozen=True)
class Replan:
    """The rest as it is planned now: how many strips were `laid` when it was measured, how many a side were still to come then,
    what they are like at each mold in order along the hull, what wants looking at, which way it goes out of those there are,
    whether the plan `changed`, and what is `left` by plan at each mold with the strips that are on now."""

    laid: int
    strips: int
    rows: tuple[Rest, ...]
    findings: tuple[Finding, ...]
    way: RestWay = RestWay.ON
    ways: tuple[RestWay, ...] = ()
    back: BringBack | None = None
    changed: bool = False
    left: Mapping[str, float | None] = field(default_factory=dict)

    @property
    def narrowest(self) -> float:
        """The least width among them, mm."""
        return min((row.width for row in self.rows if row.width > 0), default=0.0)

    @property
    def widest(self) -> float:
        """The greatest width among them, mm."""
        return max((row.width for row in self.rows), default=0.0)


def look(job: Job, molds: tuple[Mold, ...], plan: Planking) -> Looked | None:
    """What the job's last look at the work says of a plan; None where nothing was measured that it could be compared with."""
    planked = job.planked
    if planked is None or not planked.is_measured:
        return None
    laid = planked.measured_strips
    rows = _measured(molds, planked, plan)
    if not rows:
        return None
    unlikely = _unlikely(rows, job, laid)
    if unlikely:
        return Looked(laid, rows, unlikely, RestWay.ON)
    sides = (*_sides(rows), *_counts_across(rows, planked, job.strips.cover))
    if max(abs(row.measured - row.planned) for row in rows) <= AS_PLANNED_MM:
        said = Finding(
            "as-planned",
            Weight.INFORMATION,
            "planking",
            "what is left",
            "As planned, go on: what is left at every mold that was measured is what the plan leaves.",
        )
        return Looked(laid, rows, sides or (said,), RestWay.ON)
    back = _bring_back(rows, job, molds, plan, laid)
    ways, way = _ways(job, back)
    found = (*sides, *_alone(rows, planked, job.strips.cover), *_out_of_step(rows, back, job, planked))
    return Looked(laid, rows, found, way, ways, back, _drift(rows, molds, plan, laid, way, back))


def _ways(job: Job, back: BringBack | None) -> tuple[tuple[RestWay, ...], RestWay]:
    """How the rest can be laid, and how it is."""
    assert job.planked is not None
    ways: tuple[RestWay, ...] = (RestWay.TAPER,)
    if job.strips.layout is not StripLayout.TAPERED:
        ways = (RestWay.ON, RestWay.TAPER, *((RestWay.FEW,) if back is not None else ()))
    asked = job.planked.way
    return ways, asked if asked in ways else ways[0]


def _drift(
    rows: tuple[Rest, ...], molds: tuple[Mold, ...], plan: Planking, laid: int, way: RestWay, back: BringBack | None
) -> Drift:
    """What the rest is laid on from: along the molds' edges is measured, over the hull outside them strips are laid."""
    by_name = {mold.name: mold for mold in molds}
    more = []
    for row in rows:
        off = row.measured - row.planned
        more.append(off * _hull_on_mold(by_name[row.mold], plan, laid if off > 0 else laid + 1))
    few = (back.strips, back.follows - laid - 1) if way is RestWay.FEW and back is not None else (0, 0)
    return Drift(laid, tuple(r.station for r in rows), tuple(more), way, *few)


def _hull_on_mold(mold: Mold, plan: Planking, number: int) -> float:
    """How much of the hull lies over a millimetre of a mold's edge, where a strip crosses it."""
    strips = plan.strips[number - 1 : number]
    ends = [edge_at(e, mold.station) for s in strips for e in (s.near, s.far)]
    if len(ends) < 2 or not len(ends[0]) or not len(ends[1]):
        return 1.0
    edge = mold.edge.points[::-1]
    apart = abs(run_of(edge, ends[0][0, 1:]) - run_of(edge, ends[1][0, 1:]))
    return float(np.linalg.norm(ends[0][0] - ends[1][0])) / apart if apart > SAME_MM else 1.0


def replanned(job: Job, molds: tuple[Mold, ...], plan: Planking, now: Planking, looked: Looked | None) -> Replan:
    """What became of the rest: `plan` is what it was measured against, `now` what is worked to."""
    planked = job.planked or Planked()
    by = plan if planked.measured_strips == planked.strips else now
    left = {m.name: left_as_planned(m, planked.strips, by) for m in molds}
    gone = lost([(row.mold, row.at) for row in planked.left], molds, "planking", "What was left")
    if looked is None:
        coming_on = max(0, len(now.strips) - planked.strips)
        return Replan(planked.strips, coming_on, (), tuple(gone), left=left)
    coming = now.strips[looked.laid :]
    by_name = {m.name: m for m in molds}
    few = range(looked.laid + 1, looked.laid + 1 + (looked.drift.few if looked.drift else 0))
    rows = tuple(replace(r, width=_width_there(by_name[r.mold], coming, few, r, job)) for r in looked.rows)
    found = (*looked.findings, *gone, *(_narrow(rows, job) if looked.way is RestWay.TAPER and looked.drift else ()))
    return Replan(looked.laid, len(coming), rows, found, looked.way, looked.ways, looked.back, looked.drift is not None, left)


def _width_there(mold: Mold, coming: tuple[Strip, ...], few: range, row: Rest, job: Job) -> float:
    """How wide the strips to come are at a mold: the few that bring the run back, all that are tapered alike, or as ever."""
    own = [s for s in coming if s.number in few] or list(coming)
    if not any(s.shaped for s in own):
        return min(job.strips.cover, row.measured)
    there = [s for s in own if len(edge_at(s.near, mold.station))]
    if not there:
        return 0.0
    if not few and all(s.shaped for s in own):
        return row.measured / len(there)
    near, far = edge_at(there[0].near, mold.station), edge_at(there[0].far, mold.station)
    return float(((near[0] - far[0]) ** 2).sum() ** 0.5) if len(far) else 0.0


def _bring_back(rows: tuple[Rest, ...], job: Job, molds: tuple[Mold, ...], plan: Planking, laid: int) -> BringBack | None:
    """The least number of strips, no wider than the others and no narrower than allowed, that cover what lies between the last
    strip that was laid and an edge of the plan at every mold."""
    cover, least = job.strips.cover, job.strips.least_width
    if max(abs(row.measured - row.planned) for row in rows) <= DRIFT_MM:
        return None
    if job.strips.layout not in (StripLayout.PARALLEL, StripLayout.MIXED):
        return None
    by_name = {mold.name: mold for mold in molds}
    for count in range(1, FEW_STRIPS + 1):
        for ahead in (count, count - 1, count + 1):
            after = laid + ahead
            if after >= len(plan.strips):
                continue
            widths: dict[str, float] = {}
            for row in rows:
                left = left_as_planned(by_name[row.mold], after, plan)
                widths[row.mold] = (row.measured - (left or 0.0)) / count
            # where the plan itself comes to an end within these strips they may run out as well
            within = [w <= cover + SAME_MM and (w >= least or _run_out(by_name[name], after, plan)) for name, w in widths.items()]
            if all(within) and min(widths.values()) >= 0:
                return BringBack(count, after + 1, widths)
    return None


def _run_out(mold: Mold, number: int, plan: Planking) -> bool:
    strip = plan.strips[number - 1]
    return not len(edge_at(strip.near, mold.station)) or not len(edge_at(strip.far, mold.station))


def _measured(molds: tuple[Mold, ...], planked: Planked, plan: Planking) -> tuple[Rest, ...]:
    """What was measured where the plan can be compared; at molds between, a smooth line through the differences from the plan."""
    known: list[tuple[float, float]] = []
    plans: dict[str, float] = {}
    for mold in molds:
        planned = left_as_planned(mold, planked.measured_strips, plan)
        if planned is not None:
            plans[mold.name] = planned
        row = planked.of(mold.name, mold.station)
        if planned is not None and row.mean is not None:
            known.append((mold.station, row.mean - planned))
    if not known:
        return ()
    off = Drift(0, tuple(x for x, _ in known), tuple(more for _, more in known), RestWay.ON)
    rows: list[Rest] = []
    for mold in molds:
        if mold.name not in plans:
            continue
        difference = float(off.at(np.array([mold.station]))[0])
        row = planked.of(mold.name, mold.station)
        more = None if row.port is None or row.starboard is None else row.port - row.starboard
        planned = plans[mold.name]
        rows.append(Rest(mold.name, mold.station, planned, max(planned + difference, 0.0), more))
    return tuple(rows)


def _look(code: str, where: str, text: str) -> Finding:
    return Finding(code, Weight.LOOK, "planking", where, text)


def _unlikely(rows: tuple[Rest, ...], job: Job, laid: int) -> tuple[Finding, ...]:
    """A reading that cannot be right: nothing else is worth saying before that is."""
    for row in rows:
        if abs(row.measured - row.planned) > UNLIKELY * job.strips.cover:
            text = (
                f"{mm(round(row.measured, 1))} is left where the plan after {counted(laid, 'strip')} "
                f"leaves {mm(round(row.planned, 1))}: "
                "is the number of strips right, and the unit? The plan is left as it is."
            )
            return (_look("left-unlikely", f"mold {row.mold}", text),)
    return ()


def _alone(rows: tuple[Rest, ...], planked: Planked, cover: float) -> list[Finding]:
    """A mold whose reading parts from what its neighbours say by half a strip: no run does that."""
    known = [r for r in rows if planked.of(r.mold, r.station).mean is not None]
    found = []
    for before, row, after in zip(known, known[1:], known[2:], strict=False):
        share = (row.station - before.station) / (after.station - before.station)
        off = [r.measured - r.planned for r in (before, row, after)]
        apart = off[1] - (off[0] + share * (off[2] - off[0]))
        if abs(apart) > max(DRIFT_MM, STEP_SHARE * cover) and abs(off[2] - off[0]) < abs(apart):
            found.append(
                _look(
                    "reading-alone",
                    f"mold {row.mold}",
                    f"What is left here lies {mm(round(abs(apart), 1))} off the line of the molds before and after it: measure "
                    "again before the strips follow it.",
                )
            )
    return found


def _sides(rows: tuple[Rest, ...]) -> list[Finding]:
    """Where there is more left to one side than to the other."""
    found = []
    for row in rows:
        if row.port_more is not None and abs(row.port_more) > DRIFT_MM:
            more, less = ("port", "starboard") if row.port_more > 0 else ("starboard", "port")
            found.append(
                _look(
                    "sides-drift",
                    f"mold {row.mold}",
                    f"There is {mm(round(abs(row.port_more), 1))} more left to {more} than to {less}: lay the next strips "
                    "there first, a little narrower on the other side, before the molds are pulled over.",
                )
            )
    return found


def _counts_across(rows: tuple[Rest, ...], planked: Planked, cover: float) -> list[Finding]:
    """Where the two sides of the opening that is left would take different numbers of strips. What most molds say counts: one
    reading alone may be a slip of the tape."""
    both = [r for r in rows if r.port_more is not None]
    if len(both) < 2:
        return []
    more = statistics.median(r.port_more or 0.0 for r in both)
    if abs(more) <= STEP_SHARE * cover:
        return []
    row = max(both, key=lambda r: r.measured)
    own = planked.of(row.mold, row.station)
    fewer = math.ceil(min(own.port or 0.0, own.starboard or 0.0) / cover - 1e-9)
    many = fewer + max(1, round(abs(more) / cover))
    port, starboard = (many, fewer) if more > 0 else (fewer, many)
    text = (
        f"Across the opening that is left port takes {counted(port, 'strip')} and starboard {starboard}: their edges "
        f"will not meet. "
        f"Lay {many - fewer} more to {'port' if port > starboard else 'starboard'} before the other side goes on, or make "
        "the strips still to come of each side as wide as its own rest, by the same number."
    )
    return [_look("counts-differ", f"mold {row.mold}", text)]


def _out_of_step(rows: tuple[Rest, ...], back: BringBack | None, job: Job, planked: Planked) -> list[Finding]:
    """Where one end of the run has got ahead of the other."""
    measured = [r for r in rows if planked.of(r.mold, r.station).mean is not None]
    if len(measured) < 2:
        return []
    first, last = measured[0], measured[-1]
    out = (first.measured - first.planned) - (last.measured - last.planned)
    if abs(out) <= STEP_SHARE * job.strips.cover:
        return []
    behind = first if out > 0 else last
    mend = (
        f"{back.strips} tapered strips bring it back; strip {back.follows} of the plan follows them."
        if back is not None
        else "Tapering all the rest brings it back."
        if job.strips.layout is StripLayout.TAPERED
        else f"No {FEW_STRIPS} tapered strips bring it back: taper all the rest."
    )
    text = f"The run is out of step: {mm(round(abs(out), 1))} more is left here than the plan says, against the other end. {mend}"
    return [_look("out-of-step", f"mold {behind.mold}", text)]


def _narrow(rows: tuple[Rest, ...], job: Job) -> list[Finding]:
    """Where strips that are all tapered get too thin."""
    open_ = [r for r in rows if r.width > 0]
    if not open_ or min(r.width for r in open_) >= job.strips.least_width:
        return []
    thin = min(open_, key=lambda r: r.width)
    text = (
        f"Divided evenly the rest is only {mm(round(thin.width, 1))} a strip here: let some strips run out as stealers, or "
        "close with a plank of two strips glued together."
    )
    return [_look("rest-narrow", f"mold {thin.mold}", text)]

"""A curve drawn by eye: heights read at some heads at one corner of the boat, the batten through them, and the same at the others.

A corner is an end on one side. The batten is a natural cubic spline through the readings, as a thin batten between nails lies (any
textbook of numerical analysis). Each reading is held against the batten through the others: the nail that spoils the sweep shows.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..job import Job
from ..molds.read_at import at_heads, lost
from ..settings.readings import EyeReading, Side
from .heads import PAGE, SheerMark, SheerPlan

if TYPE_CHECKING:
    from scipy.interpolate import CubicSpline

LEAST = 3
POINTS = 121


@dataclass(frozen=True)
class EyePlace:
    """A head of one end: how far it is from the end of the sheer, how high the batten is there above the set-up line and above the
    planned outside mark, mm; what was read at that head on either side less the batten (None: not read)."""

    head: str
    end: str
    far: float
    height: float
    raised: float
    port: float | None
    starboard: float | None


@dataclass(frozen=True)
class EyeNail:
    """A reading of the corner that was drawn: how far it is off the batten through the others, mm, positive above (None: too
    few)."""

    head: str
    far: float
    height: float
    off: float | None


@dataclass(frozen=True)
class ByEye:
    """The curve of the corner `end` and `side` that most was read at: its nails from the end of the sheer, the batten (n, 2),
    distances from that end and heights above the set-up line, mm, how often it turns from hollow to round, and every head within
    its reach."""

    end: str
    side: Side
    nails: tuple[EyeNail, ...]
    batten: Array
    turns: int
    places: tuple[EyePlace, ...]
    findings: tuple[Finding, ...]


def drawn_by_eye(plan: SheerPlan, ends: tuple[float, float], job: Job) -> ByEye:
    """The curve by eye. `ends` is where the sheer begins and ends, mm along the hull. Reads the job's heights by eye, whether both
    ends are alike, and from which error on the set-up matters."""
    marks = {mark.name: mark for mark in plan.marks}
    readings = [r.model_copy(update={"head": mark.name}) for mark, r in at_heads(job.trim.eye, plan.marks)]
    gone = lost([(r.head, r.at) for r in job.trim.eye], plan.marks, PAGE, "Heights by eye", "head")
    corners = {(e, side): _of_corner(readings, marks, ends, e, side) for e in ("bow", "stern") for side in Side}
    (end, side), drawn = max(corners.items(), key=lambda own: len(own[1]))
    if len(drawn) < LEAST:
        text = f"{len(drawn)} heights are read at one corner: a batten needs {LEAST} at least."
        few = Finding("eye-few", Weight.LOOK, PAGE, "the curve by eye", text)
        nails = tuple(EyeNail(r.head, far, r.height, None) for far, r in drawn)
        return ByEye(end, side, nails, frozen(np.zeros((0, 2))), 0, (), (few, *gone))
    far = np.array([f for f, _ in drawn])
    height = np.array([r.height for _, r in drawn])
    nails = tuple(EyeNail(r.head, f, r.height, _off_others(far, height, k)) for k, (f, r) in enumerate(drawn))
    batten, at = _batten(far, height), np.linspace(far[0], far[-1], POINTS)
    alike = (end,) if not job.trim.eye_both else ("bow", "stern")
    places = tuple(place for e in alike for mark in plan.marks if (place := _place(mark, e, ends, batten, readings)) is not None)
    found = (*_findings(nails, places, side, end, job.setup.fairs_below), *gone)
    return ByEye(end, side, nails, frozen(np.column_stack([at, batten(at)])), _turns(batten), places, found)


def _of_corner(
    readings: Sequence[EyeReading], marks: dict[str, SheerMark], ends: tuple[float, float], end: str, side: Side
) -> list[tuple[float, EyeReading]]:
    """The readings of a corner by how far they are from the end of the sheer. A head belongs to the end that it is nearer to."""
    own = [
        (_far(marks[r.head].station, ends, end), r)
        for r in readings
        if r.side is side and _nearer(marks[r.head].station, ends) == end
    ]
    return sorted(own, key=lambda found: found[0])


def _far(station: float, ends: tuple[float, float], end: str) -> float:
    return station - ends[0] if end == "bow" else ends[1] - station


def _nearer(station: float, ends: tuple[float, float]) -> str:
    return "bow" if station <= (ends[0] + ends[1]) / 2 else "stern"


def _batten(far: Array, height: Array) -> CubicSpline:
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    return CubicSpline(far, height, bc_type="natural")


def _off_others(far: Array, height: Array, k: int) -> float | None:
    """How far a reading is off the batten through the others; None at its ends, and where the others are too few."""
    keep = np.arange(len(far)) != k
    if keep.sum() < LEAST or k in (0, len(far) - 1):
        return None
    return float(height[k] - _batten(far[keep], height[keep])(far[k]))


def _turns(batten: CubicSpline) -> int:
    """How often the batten turns from hollow to round."""
    bend = batten(batten.x[1:-1], 2)
    signs = np.sign(bend[np.abs(bend) > 1e-9 * max(float(np.abs(bend).max(initial=0.0)), 1e-12)])
    return int(np.count_nonzero(np.diff(signs)))


def _place(
    mark: SheerMark, end: str, ends: tuple[float, float], batten: CubicSpline, readings: Sequence[EyeReading]
) -> EyePlace | None:
    far = _far(mark.station, ends, end)
    first, last = float(batten.x[0]), float(batten.x[-1])
    if _nearer(mark.station, ends) != end or not first - 0.5 <= far <= last + 0.5:
        return None
    height = float(batten(min(max(far, first), last)))
    read = {r.side: r.height - height for r in readings if r.head == mark.name}
    return EyePlace(mark.name, end, far, height, height - mark.outside_up, read.get(Side.PORT), read.get(Side.STARBOARD))


def _findings(nails: Sequence[EyeNail], places: Sequence[EyePlace], side: Side, end: str, matters: float) -> list[Finding]:
    found = []
    inner = [nail for nail in nails if nail.off is not None]
    worst = max(inner, key=lambda nail: abs(nail.off or 0.0), default=None)
    if worst is not None and worst.off is not None and abs(worst.off) > 2 * matters and len(nails) > LEAST + 1:
        text = (
            f"It is {mm(round(abs(worst.off), 1))} {'above' if worst.off > 0 else 'below'} the batten through the others: spring "
            f"the batten clear of it and look again."
        )
        found.append(Finding("eye-nail", Weight.LOOK, PAGE, worst.head, text))
    for place in places:
        for own, value in ((Side.PORT, place.port), (Side.STARBOARD, place.starboard)):
            if value is not None and (own is not side or place.end != end) and abs(value) > matters:
                way = "above" if value > 0 else "below"
                text = f"On {own.value} it is read {mm(round(abs(value), 1))} {way} the curve of the first corner."
                found.append(Finding("eye-corners", Weight.LOOK, PAGE, place.head, text))
    return found

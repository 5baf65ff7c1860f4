"""What goes on outside the planking along its ends and its keel: outer stems and the keel strip.

An outer stem is let in: the ends of the planking are planed off flat some way behind the rabbet, where the skins of both sides are
as wide apart as their angle makes them. Its sides go on from there to its narrower forward face.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen, rows_at
from ..geometry.polyline import runs_along
from ..geometry.surface_line import SurfaceLine, felt
from ..hull.build import Hull
from ..job import Job
from ..molds.ends import rabbet_bevels
from ..molds.stem import Lamination, inward, laminated, least_radius, refuse_tight
from ..offsets.table import EndKind
from ..sheer.heads import PAGE

PLACES, PER_PANEL = 13, 61
KEEL_PLACES = 401


@dataclass(frozen=True)
class StemPlace:
    """One height of an outer stem: where it is along its back from the foot, its height, how wide it is let in there, how wide its
    forward face is (mm), the angle between the planking and the centre plane, and that of the stem's own sides (degrees)."""

    along: float
    height: float
    back: float
    face: float
    planking: float
    side: float


@dataclass(frozen=True)
class OuterStem:
    """An outer stem in profile, foot to head: its `back` edge, let in, and its `front` edge, (n, 2) positions along the hull and
    heights; the rabbet (n, 2); how it is laminated; places along it; and how many screws hold it."""

    stern: bool
    rabbet: Array
    back: Array
    front: Array
    lamination: Lamination
    places: tuple[StemPlace, ...]
    screws: int


@dataclass(frozen=True)
class KeelStrip:
    """The keel strip: its length along the keel, the least radius that it bends to (mm; infinite where it is straight), how many
    laminations it is glued from, each how thick, how many screws hold it, and its line (n, 3), mm."""

    length: float
    radius: float
    laminations: int
    each: float
    screws: int
    line: Array


@dataclass(frozen=True)
class OuterStems:
    """Those of all ends that are stems."""

    stems: tuple[OuterStem, ...]
    findings: tuple[Finding, ...]


def outer_stems(hull: Hull, job: Job) -> OuterStems:
    """Outer stems of both ends. Reads the job's outer stems and screws."""
    ends = ((False, hull.lines.bow), (True, hull.lines.stern))
    found, findings = [], []
    for stern, end in ends:
        if end.kind is not EndKind.STEM:
            continue
        where = "stern stem" if stern else "stem"
        try:
            stem = _outer_stem(hull, job, stern)
        except ImpossiblePlan as error:
            findings.append(Finding("outer-stem-tight", Weight.LOOK, PAGE, where, str(error)))
            continue
        found.append(stem)
        findings += _narrow(stem, where)
    if not found and not findings:
        text = "This hull has no stem: leave the outer stems out."
        findings.append(Finding("no-outer-stem", Weight.LOOK, PAGE, "ends", text))
    return OuterStems(tuple(found), tuple(findings))


def _outer_stem(hull: Hull, job: Job, stern: bool) -> OuterStem:
    own = job.outer
    points, bevels = rabbet_bevels(hull, stern=stern, count=PER_PANEL)
    rabbet, siding = points[:, [0, 2]], points[:, 1]
    into = inward(rabbet, stern)
    back = rabbet + own.let_in * into
    front = back - own.molded * into
    refuse_tight("outer stem", front, back, own.molded)
    wide = 2 * (siding + own.let_in * np.tan(bevels))
    along = runs_along(back)
    share = along / along[-1]
    face = own.face_foot + share * (own.face_head - own.face_foot)
    at = np.linspace(0.0, along[-1], PLACES)
    rows = rows_at(at, along, np.column_stack([back[:, 1], wide, face, np.degrees(bevels)]))
    places = tuple(
        StemPlace(x, height, wide_there, face_there, bevel, math.degrees(math.atan2(wide_there - face_there, 2 * own.molded)))
        for x, (height, wide_there, face_there, bevel) in zip(at.tolist(), rows.tolist(), strict=True)
    )
    hollow, round_side = (back, front) if runs_along(front)[-1] >= along[-1] else (front, back)
    return OuterStem(
        stern,
        frozen(rabbet),
        frozen(back),
        frozen(front),
        laminated(hollow, round_side, own.ratio, own.spare),
        places,
        screws_along(float(along[-1]), own.screws),
    )


def screws_along(length: float, every: float) -> int:
    """How many screws hold a piece: one near each end, and between them none farther apart than `every`."""
    return max(math.ceil(length / every - 1e-9), 1) + 1


def _narrow(stem: OuterStem, where: str) -> list[Finding]:
    """Where the forward face would be wider than what is let in."""
    over = [place for place in stem.places if place.face > place.back]
    if not over:
        return []
    text = (
        f"At height {mm(round(over[0].height))} its forward face ({mm(round(over[0].face, 1))}) would be wider than what is let in "
        f"({mm(round(over[0].back, 1))}): a narrower face, or let it in deeper."
    )
    return [Finding("outer-stem-wide", Weight.LOOK, PAGE, where, text)]


def keel_strip(hull: Hull, job: Job) -> KeelStrip:
    """The strip along the keel, its upper face on it. Reads the job's keel strip and screws, and how tightly laminations bend."""
    own = job.outer
    surface = hull.panels[0].surface
    u = np.linspace(0.0, 1.0, KEEL_PLACES)
    line = felt(surface, SurfaceLine.level(u, 0.0), upward=True).jet.point
    profile = line[:, [0, 2]]
    length = float(runs_along(line)[-1])
    radius = least_radius(profile)
    count = max(math.ceil(own.keel_thickness * own.ratio / radius - 1e-9), 1) if math.isfinite(radius) else 1
    return KeelStrip(length, radius, count, own.keel_thickness / count, screws_along(length, own.screws), frozen(line))

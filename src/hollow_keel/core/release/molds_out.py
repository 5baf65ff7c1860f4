"""Before the molds come out: cross spalls that keep the shell's breadth, when each mold may go, and what it takes to lift it.

A mold may go when a spall holds the shell on either side of it; those under a spall go after their neighbours, and the molds past
the outermost spalls last of all, as the stems and the transom hold the ends (common practice).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..hull.build import Hull
from ..job import Job
from ..molds.shape import sections_outside
from ..molds.stations import Mold
from ..rules import given_back
from ..sheer.heads import PAGE

NEAR_MM = 30.0
"""A spall so near a mold is at that mold."""
FIRST, SECOND, LAST = "first", "then", "last"


@dataclass(frozen=True)
class Spall:
    """A cross spall: its place along the hull, how wide the hull is there from outside to outside at the sheer, how long it is
    cut, mm; and how much the shell may spring outward there on either side at most (mm; None: not known beforehand)."""

    name: str
    station: float
    beam: float
    length: float
    spring: float | None


@dataclass(frozen=True)
class Going:
    """When a mold may go: first, then or last, and after which spalls are on."""

    mold: str
    station: float
    when: str
    after: str


@dataclass(frozen=True)
class Release:
    """The spalls from the bow aft, and the molds in the order in which they go."""

    spalls: tuple[Spall, ...]
    molds: tuple[Going, ...]
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class Lift:
    """What the shell weighs, kg, and how many people lift it."""

    weight: float
    hands: int


def release(hull: Hull, molds: Sequence[Mold], job: Job) -> Release:
    """Spalls and the order. Reads the job's release and how many layers it has."""
    stations = [m.station for m in molds]
    places = sorted(job.release.spalls) or stations[1:-1:2] or stations[:1]
    sections = sections_outside(hull, places)
    findings: list[Finding] = []
    spalls: list[Spall] = []
    for at, section in zip(places, sections, strict=True):
        name = f"spall {len(spalls) + 1}"
        if not len(section):
            text = f"There is no hull at position {mm(at)}: put the spall between the ends."
            findings.append(Finding("no-spall", Weight.LOOK, PAGE, "spalls", text))
            continue
        beam = 2 * float(section[-1, 0])
        spalls.append(Spall(name, at, beam, beam + 2 * job.release.past, _spring(section, job)))
    if len(spalls) == 1 and len(molds) > 2:
        text = "One spall does not keep the shell from twisting: put one more across it."
        findings.append(Finding("one-spall", Weight.LOOK, PAGE, "spalls", text))
    going = sorted((_going(mold, spalls) for mold in molds), key=lambda own: ((FIRST, SECOND, LAST).index(own.when), own.station))
    return Release(tuple(spalls), tuple(going), tuple(findings))


def lift(weight: float, job: Job) -> Lift:
    """How many people lift a shell of a weight, kg. Reads what one lifts."""
    return Lift(weight, max(math.ceil(weight / job.release.kilograms - 1e-9), 2))


def _spring(section: Array, job: Job) -> float | None:
    """How much one side may spring outward at the sheer. A shell of n layers bent round the form gives back 1/n² of its bend (beam
    theory, as for any lamination): the sheer moves by the sum of each place's turn times how far the sheer is above it. Of
    strips nothing can be said beforehand: they are not bent across."""
    layers = len(job.veneers.layers) + (1 if job.veneers.over_strips else 0)
    if not job.veneers.layers or layers < 2 or len(section) < 3:
        return None
    steps = np.diff(section, axis=0)
    turns = np.diff(np.unwrap(np.arctan2(steps[:, 1], steps[:, 0])))
    above = section[-1, 1] - section[1:-1, 1]
    return abs(float(turns @ above)) * given_back(layers)


def _going(mold: Mold, spalls: Sequence[Spall]) -> Going:
    at = mold.station
    before = [s for s in spalls if s.station < at - NEAR_MM]
    behind = [s for s in spalls if s.station > at + NEAR_MM]
    here = [s for s in spalls if abs(s.station - at) <= NEAR_MM]
    if here:
        return Going(mold.name, at, SECOND, here[0].name)
    if before and behind:
        return Going(mold.name, at, FIRST, f"{before[-1].name} and {behind[0].name}")
    nearest = min(spalls, key=lambda s: abs(s.station - at), default=None)
    return Going(mold.name, at, LAST, nearest.name if nearest else "")

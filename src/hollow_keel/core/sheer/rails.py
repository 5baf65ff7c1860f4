"""Inwale and outwale: how long each is along the sheer, what bending it there asks of the wood, how it is laminated and scarfed."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..geometry.polyline import runs_along
from ..geometry.surface_line import SurfaceLine, felt
from ..hull.build import Hull
from ..job import Job
from ..molds.stations import Mold
from ..planking.mechanics import Behaviour, Handling, StripSection, section_over, sprung
from ..rules import THINNEST_LAMINATION_MM, WITH_CLAMPS
from ..stock.scarfs import scarfed_from

PAGE = "sheer"
PLACES = 401


@dataclass(frozen=True)
class Rail:
    """A rail of one side: its name, its length along its middle, mm, what springing it in one piece asks, how many laminations of
    what thickness (mm) go on with clamps, from how many lengths it is scarfed (0: no board is known), and its line (n, 3), mm."""

    name: str
    length: float
    behaviour: Behaviour
    laminations: int
    each: float
    pieces: int
    line: Array


@dataclass(frozen=True)
class Rails:
    """Both rails of one side."""

    rails: tuple[Rail, ...]
    findings: tuple[Finding, ...]


def make_rails(hull: Hull, molds: Sequence[Mold], job: Job) -> Rails:
    """Inwale and outwale along the sheer. Reads the job's rail sizes and wood, its skin, joints, boards, and the pushes of hand and
    clamp."""
    trim, skin = job.trim, job.molds.skin
    half = trim.rail_thickness / 2
    stations = [m.station for m in molds]
    section = section_over(trim.rail_width, trim.rail_thickness, trim.rail_wood, stations, job.strips)
    rails = tuple(_rail(hull, name, away, section, job) for name, away in (("outwale", half), ("inwale", -skin - half)))
    return Rails(rails, tuple(finding for rail in rails for finding in _findings(rail)))


def _rail(hull: Hull, name: str, away: float, section: StripSection, job: Job) -> Rail:
    """A rail whose middle lies `away` mm outside the hull's surface, its upper edge along the sheer."""
    surface = hull.panels[-1].surface
    u = np.linspace(0.0, 1.0, PLACES)
    up = np.linalg.norm(surface.jet(u, np.ones(PLACES)).dv, axis=1)
    v = np.clip(1.0 - section.width / 2 / np.maximum(up, 1e-6), 0.0, 1.0)
    own = felt(surface, SurfaceLine.through(u, v, u), upward=True)
    points = own.jet.point + away * own.jet.normal
    length = float(runs_along(points)[-1])
    behaviour = sprung(own, points, section)
    count = max(
        math.ceil(behaviour.share / WITH_CLAMPS - 1e-9), math.ceil(behaviour.push / section.clamp_push - 1e-9), 1
    )  # laminations go on one by one: each takes its part of the push
    return Rail(
        name, length, behaviour, count, section.thickness / count, scarfed_from(length, section.thickness, job), frozen(points)
    )


def _findings(rail: Rail) -> list[Finding]:
    if rail.behaviour.grade not in (Handling.HEAT, Handling.NOT):
        return []
    how = f": laminate it from {rail.laminations} of {mm(round(rail.each, 1))}"
    if rail.each < THINNEST_LAMINATION_MM:
        how = f": {rail.behaviour.mend}" if rail.behaviour.mend else ""
    text = f"In one piece it takes more than clamps, hardest near position {mm(round(rail.behaviour.place))}{how}."
    return [Finding("rail-hard", Weight.LOOK, PAGE, rail.name, text)]

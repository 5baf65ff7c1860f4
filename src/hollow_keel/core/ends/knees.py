"""Knees on the centreline: between the keel and the transom, and between the keel and a stem, laminated over a form."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..hull.build import Hull
from ..job import Job
from ..offsets.table import End, EndKind
from ..rules import given_back
from ..sheer.heads import PAGE

NEAR_END = 0.02
"""The keel's direction is taken over so much of it before its end."""


@dataclass(frozen=True)
class Knee:
    """A knee: the angle between its legs, degrees; how many laminations of what thickness, how long each is, mm; and the angle that
    the form is bent to, so that it springs back to the first, degrees."""

    name: str
    angle: float
    laminations: int
    each: float
    length: float
    form_angle: float


@dataclass(frozen=True)
class Knees:
    """The knees of both ends."""

    knees: tuple[Knee, ...]
    findings: tuple[Finding, ...]


def make_knees(hull: Hull, job: Job) -> Knees:
    """Knees at both ends of the keel. Reads the job's knees, and how tightly laminations bend."""
    own = job.outer
    ends = ((False, hull.lines.bow), (True, hull.lines.stern))
    knees, findings = [], []
    for stern, end in ends:
        name = _name(end.kind, stern)
        angle = _between(hull, end, stern)
        if own.knee_radius <= own.knee_molded / 2:
            text = f"Its bend ({mm(own.knee_radius)}) is tighter than it is deep: a wider bend, or less deep."
            findings.append(Finding("knee-tight", Weight.LOOK, PAGE, name, text))
            continue
        knees.append(_knee(name, angle, job))
    return Knees(tuple(knees), tuple(findings))


def _name(kind: EndKind, stern: bool) -> str:
    """Of the ends that a boat has most often, a stem ahead and a transom aft, plainly."""
    if kind is EndKind.STEM:
        return "stern stem knee" if stern else "stem knee"
    return "transom knee" if stern else "bow transom knee"


def _knee(name: str, angle: float, job: Job) -> Knee:
    """A knee of an angle, degrees. Its radius is that of its hollow side; legs are straight on from the bend."""
    own = job.outer
    count = max(math.ceil(own.knee_molded * own.ratio / own.knee_radius - 1e-9), 2)
    turn = 180.0 - angle
    long = 2 * own.knee_leg + math.radians(turn) * (own.knee_radius + own.knee_molded)
    return Knee(name, angle, count, own.knee_molded / count, long, 180.0 - turn / (1.0 - given_back(count)))


def _between(hull: Hull, end: End, stern: bool) -> float:
    """The angle between the keel, seen from its end into the hull, and the transom or the chord of the stem, degrees."""
    u = 1.0 if stern else 0.0
    inner = u - NEAR_END if stern else u + NEAR_END
    foot, along = hull.panels[0].surface.points(np.array([u, inner]), np.zeros(2))[:, [0, 2]]
    profile = end.points[:, [0, 2]]
    head: Array = profile[np.argmax(profile[:, 1])]
    first, second = along - foot, head - foot
    cosine = float(first @ second) / max(float(np.linalg.norm(first) * np.linalg.norm(second)), 1e-9)
    return math.degrees(math.acos(min(max(cosine, -1.0), 1.0)))

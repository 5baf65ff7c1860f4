"""The inner stem: its profile inside the planking, its bevels, how it is laminated, and the mold that carries it.

The planking's inside lands on the two sides of the inner stem. Where the planking comes in at an angle to the
centre plane, its inside lies nearer the centreline than its outside by the skin's thickness over the cosine of that angle:
the stem's forward face is set back until it is as wide as it shall be.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, frozen, rows_at
from ..geometry.polyline import runs_along
from ..hull.build import Hull
from ..job import StemSettings
from ..rules import LEAST_BEVEL_DEG, given_back
from .ends import rabbet_bevels
from .stations import Mold

PER_PANEL = 41


@dataclass(frozen=True)
class Lamination:
    """How a bent piece is laminated: the least radius of its hollow side (mm; infinite where straight), the number of
    laminations, the thickness and the length of each.

    `springback` is an allowance, not a measurement: so much of its bend a stack of n glued laminations gives back when it
    leaves the form, 1/n² (from beam theory, for glue that does not creep).
    """

    radius: float
    count: int
    thickness: float
    length: float
    springback: float


@dataclass(frozen=True)
class Stem:
    """An inner stem in profile, foot to head: `outer` its forward edge and `inner` its after edge, (n, 2) positions along
    the hull and heights; `rabbet` the same line of the hull (n, 2); `bevels` (n,) radians between planking and centre
    plane."""

    rabbet: Array
    outer: Array
    inner: Array
    bevels: Array
    lamination: Lamination


def inner_stem(hull: Hull, skin: float, settings: StemSettings, *, stern: bool = False) -> Stem:
    """The inner stem at one end under a skin of so many mm. Raises ImpossiblePlan where that end has none, or the stem is bent too
    tightly."""
    points, bevels = rabbet_bevels(hull, stern=stern, count=PER_PANEL)
    rabbet, siding = points[:, [0, 2]], points[:, 1]
    into = inward(rabbet, stern)
    lean = np.maximum(bevels, math.radians(LEAST_BEVEL_DEG))
    back = np.maximum((settings.face / 2 + skin / np.cos(lean) - siding) / np.tan(lean), 0.0)
    outer = rabbet + back[:, None] * into
    inner = outer + settings.molded * into
    refuse_tight("stem", inner, outer, settings.molded)
    return Stem(
        frozen(rabbet), frozen(outer), frozen(inner), frozen(bevels), laminated(inner, outer, settings.ratio, settings.spare)
    )


def refuse_tight(name: str, edge: Array, other: Array, molded: float) -> None:
    """Raise ImpossiblePlan where one edge (n, 2) of a piece runs back on itself beside the other: it turns more tightly than it is
    deep, `molded` mm."""
    if np.any(np.sum(np.diff(edge, axis=0) * np.diff(other, axis=0), axis=1) < 0):
        raise ImpossiblePlan(
            f"The {name} turns more tightly than it is deep ({mm(molded)}): make it less deep, or build it of pieces."
        )


def inward(profile: Array, stern: bool) -> Array:
    """Unit directions square to a stem's profile (n, 2), into the hull."""
    along = np.gradient(profile, axis=0)
    along = along / np.linalg.norm(along, axis=1, keepdims=True)
    result: Array = np.column_stack([along[:, 1], -along[:, 0]])
    return -result if stern else result


def laminated(inner: Array, outer: Array, ratio: float, spare: float) -> Lamination:
    """How a bent piece between two edges (n, 2) is laminated, with so much spare length at each end, mm. The tightest bend, that of
    its hollow side, the inner one, sets how thin the wood must be: radius over `ratio` (common practice; a strain of half that
    share at its face)."""
    radius = least_radius(inner)
    deep = float(np.median(np.linalg.norm(outer - inner, axis=1)))
    thickest = radius / ratio
    count = max(1, math.ceil(deep / thickest - 1e-9)) if math.isfinite(thickest) else 1
    length = max(_length(inner), _length(outer)) + 2 * spare
    springback = given_back(count) if math.isfinite(radius) else 0.0
    return Lamination(radius, count, deep / count, length, springback)


def _length(points: Array) -> float:
    return float(np.linalg.norm(np.diff(points, axis=0), axis=1).sum())


def least_radius(points: Array) -> float:
    """Least radius of a drawn curve (n, 2), mm, over stretches of a tenth of its length so that single points do not decide."""
    along = runs_along(points)
    even = np.linspace(0.0, along[-1], 41)
    line = rows_at(even, along, points)
    a, b, c = line[:-8], line[4:-4], line[8:]
    first, second = b - a, c - a
    twice = np.abs(first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0])
    sides = [np.linalg.norm(p, axis=1) for p in (b - a, c - b, c - a)]
    radii = sides[0] * sides[1] * sides[2] / np.maximum(2 * twice, 1e-9)
    least = float(radii.min())
    return least if least < 100 * float(along[-1]) else math.inf


def stem_mold(stem: Stem, nearest: Mold, level: float, *, stern: bool = False) -> Array:
    """The piece on the centre plane that carries the inner stem until it is planked, (n, 2) positions and heights, mm.

    It fills the room between the stem's after edge, the nearest mold's face and the set-up line at `level`. Raises
    ImpossiblePlan where the stem does not reach past that mold.
    """
    face = nearest.body[1] if stern else nearest.body[0]
    sign = -1.0 if stern else 1.0
    reaches = sign * (face - stem.inner[:, 0]) > 0
    if reaches.sum() < 2:
        raise ImpossiblePlan("The mold next to the stem stands where the stem is: there is no room for a mold under it.")
    first = int(np.argmax(reaches))
    line = stem.inner[first:]
    pair = stem.inner[[first - 1, first]] if first else line[[1, 0]]  # through the mold's face, or straight on to it
    run = pair[1, 0] - pair[0, 0]
    foot = pair[0] + (pair[1] - pair[0]) * (face - pair[0, 0]) / run if abs(run) > 1e-6 else line[0]
    top = max(level, float(line[-1, 1]))
    corners = np.array([[line[-1, 0], top], [face, top]])
    return frozen(np.concatenate([foot[None], line, corners]))

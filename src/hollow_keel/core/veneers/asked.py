"""What lying down on a hull asks of a veneer's wood: how it is bent along and across, and how far it is from lying flat.

Wood does not follow what turns within a few thicknesses of it, and a surface's own second derivatives leap from place to place
before a stem. So all three are told of a stretch of wood, not of a point: by how much it turns there over its length.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, IntArray, gaps, lengths
from ..geometry.polyline import runs_along
from ..geometry.surface import TensorSurface, cross
from ..geometry.surface_line import components, gaussian, second_form
from .faces import Face
from .seams import Seam

STRETCH_MM = 60.0
"""Over so much of its length wood is bent as a whole: some twenty thicknesses of veneer (common practice, no source)."""
FREE_MM, LONG = 30.0, 6.0
"""So much at each end nothing bends, for nothing holds it farther on (common practice, no source); of what is shorter than so many
times that all is looked at."""
EVERY, APART_MM = 2, 1.0
"""Every so many places of a seam tell how the surface is bent there; such that lie nearer together count as one."""
WITHIN = (0.004, 0.996)
"""So far from the ends of the hull, in shares of it, curvatures are looked at: at a stem it may be drawn together to nothing."""


@dataclass(frozen=True)
class Asked:
    """The greatest bend along a veneer and across it, 1/mm, and `curvature`, the greatest curvature of the surface both ways, K,
    1/mm²: flattening leaves a strain of K w²/8 at the edges of a width w (by expansion of the length of a line beside a
    geodesic)."""

    bend: float = 0.0
    across: float = 0.0
    curvature: float = 0.0

    def most(self, other: Asked) -> Asked:
        """The greater of each."""
        return Asked(
            max(self.bend, other.bend), max(self.across, other.across), max(self.curvature, other.curvature)
        )


def asked_of(surface: TensorSurface, faces: Sequence[Face]) -> list[Asked]:
    """What each face asks of the veneer that covers it, along the seams on both its sides."""
    seams = {id(seam): seam for face in faces for seam in (face.straight, face.scribed) if seam is not None}
    found = dict(zip(seams, _along(surface, list(seams.values())), strict=True))
    return [
        found[id(face.straight)].most(Asked() if face.scribed is None else found[id(face.scribed)])
        for face in faces
    ]


def _along(surface: TensorSurface, seams: Sequence[Seam]) -> list[Asked]:
    """What is asked along seams; all together, for short arrays cost as much."""
    whole = [_looked_at(seam) for seam in seams]
    some = [own[:: max(min(EVERY, len(own) // 3), 1)] for own in whole]
    uv = np.concatenate([seam.uv[own] for seam, own in zip(seams, some, strict=True)])
    lines = [seam.points[own] for seam, own in zip(seams, some, strict=True)]
    tangent = np.concatenate([_directions(line) for line in lines])
    jet = surface.jet(np.clip(uv[:, 0], *WITHIN), uv[:, 1])
    square = components(jet, cross(jet.normal, tangent))
    bent = np.column_stack([second_form(jet, jet.normal, square, square), gaussian(jet)])
    parts = np.split(bent, np.cumsum([len(line) for line in lines])[:-1])
    found = []
    for seam, places, line, own in zip(seams, whole, lines, parts, strict=True):
        run = runs_along(line)
        across, curvature = (_most_of(run, np.nan_to_num(values)) for values in own.T)
        found.append(Asked(turned(seam.points[places]), across, curvature))
    return found


def _looked_at(seam: Seam) -> IntArray:
    """Places of a seam: those on the hull (all, where there are none to speak of), no two upon each other, but for its free ends
    where it is long enough."""
    own = np.flatnonzero(seam.on) if seam.on.sum() > 2 else np.arange(len(seam.on))
    apart = gaps(seam.points[own]) > APART_MM
    own = own[np.concatenate([[True], apart])]
    run = runs_along(seam.points[own])
    held: IntArray = own[(run >= FREE_MM) & (run <= run[-1] - FREE_MM)]
    return held if run[-1] >= LONG * FREE_MM and len(held) > 2 else own


def _directions(line: Array) -> Array:
    """Unit directions (n, 3) along a line at its points; nothing where it is one point."""
    if len(line) < 2:
        return np.zeros_like(line)
    ways = np.gradient(line, axis=0)
    unit: Array = ways / np.maximum(lengths(ways)[:, None], 1e-12)
    return unit


def turned(line: Array) -> float:
    """How sharply a line (n, 3) is bent at the most, 1/mm: by how much its direction turns over STRETCH_MM, or all of it where it
    is shorter; 0 where it has no length."""
    steps = np.diff(line, axis=0)
    long = lengths(steps)
    if len(steps) < 2:
        return 0.0
    ways, run = steps / long[:, None], runs_along(line)
    middle = (run[1:] + run[:-1]) / 2
    stretch = min(STRETCH_MM, float(middle[-1] - middle[0]))
    end = middle[middle <= middle[-1] - stretch + 1e-9] + stretch
    k = np.clip(np.searchsorted(middle, end), 1, len(middle) - 1)
    share = np.minimum((end - middle[k - 1]) / (middle[k] - middle[k - 1]), 1.0)[:, None]
    there = ways[k - 1] + share * (ways[k] - ways[k - 1])
    there /= np.maximum(lengths(there)[:, None], 1e-12)
    apart = lengths(there - ways[: len(end)])
    return float((2 * np.arcsin(np.minimum(apart / 2, 1.0))).max() / stretch)


def _most_of(run: Array, values: Array) -> float:
    """The greatest mean of values (n,) over a stretch of the line that they lie along at `run`, mm, its sign left out."""
    if len(run) < 2:
        return float(np.abs(values).max(initial=0.0))
    summed = np.concatenate([[0.0], np.cumsum((values[1:] + values[:-1]) / 2 * np.diff(run))])
    stretch = min(STRETCH_MM, float(run[-1]))
    start = run[run <= run[-1] - stretch + 1e-9]
    over = np.interp(start + stretch, run, summed) - summed[: len(start)]
    return float(np.abs(over).max() / stretch)

"""What lying down on a hull asks of a veneer's wood: how it is bent along and across, and how far it is from lying flat.

Wood does not follow what turns within a few thicknesses of it, and a surface's own second derivatives leap from place to place
before a stem. So all three are told of a stretch of wood, not of a point: by how much it turns there over its length.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, lengths
from ..geometry.surface import TensorSurface, cross
from ..geometry.surface_line import components, gaussian, second_form
from ..rules import STRETCH_MM
from .faces import Face
from .lines import Lines, unit_rows
from .seams import Seam

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
        return Asked(max(self.bend, other.bend), max(self.across, other.across), max(self.curvature, other.curvature))


def asked_of(surface: TensorSurface, faces: Sequence[Face]) -> list[Asked]:
    """What each face asks of the veneer that covers it, along the seams on both its sides."""
    seams = {id(seam): seam for face in faces for seam in (face.straight, face.scribed) if seam is not None}
    found = dict(zip(seams, _along(surface, list(seams.values())), strict=True))
    return [found[id(face.straight)].most(Asked() if face.scribed is None else found[id(face.scribed)]) for face in faces]


def _along(surface: TensorSurface, seams: Sequence[Seam]) -> list[Asked]:
    """What is asked along seams; all together, for short arrays cost as much."""
    whole = _looked_at(seams)
    count = whole.last - whole.first + 1
    every = np.maximum(np.minimum(EVERY, count // 3), 1)[whole.of]
    some = whole.only((np.arange(len(whole.of)) - whole.first[whole.of]) % every == 0)
    jet = surface.jet(np.clip(some.uv[:, 0], *WITHIN), some.uv[:, 1])
    square = components(jet, cross(jet.normal, some.directions()))
    across, curvature = (
        _most_of(some, np.nan_to_num(values)) for values in (second_form(jet, jet.normal, square, square), gaussian(jet))
    )
    return [Asked(*own) for own in np.column_stack([turned(whole), across, curvature]).tolist()]


def _looked_at(seams: Sequence[Seam]) -> Lines:
    """Places of seams: those on the hull (all, where there are none to speak of), no two upon each other, but for its free ends
    where one is long enough."""
    on = [seam.on if seam.on.sum() > 2 else np.ones_like(seam.on) for seam in seams]
    own = Lines.together(*([getattr(seam, name)[k] for seam, k in zip(seams, on, strict=True)] for name in ("points", "uv"))).apart(
        APART_MM
    )
    run = own.along()
    held = (run >= FREE_MM) & (run <= own.long[own.of] - FREE_MM)
    enough = (own.long >= LONG * FREE_MM) & (np.bincount(own.of[held], minlength=len(own.long)) > 2)
    return own.only(held | ~enough[own.of])


def turned(lines: Lines) -> Array:
    """How sharply lines are bent at the most, (lines,) 1/mm: by how much their direction turns over STRETCH_MM, or all of one that
    is shorter; 0 where one has no length."""
    within = lines.of[1:] == lines.of[:-1]
    of = lines.of[1:][within]
    most = np.zeros(len(lines.long))
    if not len(of):
        return most
    ways = unit_rows(np.diff(lines.points, axis=0)[within])
    middle = ((lines.run[1:] + lines.run[:-1]) / 2)[within]
    first, last = (np.searchsorted(of, np.arange(len(most)), side=side) for side in ("left", "right"))
    last = last - 1  # before the first, of a line that is a point
    between = middle[np.maximum(last, 0)] - middle[np.minimum(first, len(of) - 1)]
    stretch = np.minimum(STRETCH_MM, between)
    some = np.flatnonzero((stretch[of] > 0) & (middle <= middle[last[of]] - stretch[of] + 1e-9))
    own = of[some]
    end = middle[some] + stretch[own]
    k = np.clip(np.searchsorted(middle, end), first[own] + 1, last[own])
    share = np.minimum((end - middle[k - 1]) / (middle[k] - middle[k - 1]), 1.0)[:, None]
    there = unit_rows(ways[k - 1] + share * (ways[k] - ways[k - 1]))
    turns = 2 * np.arcsin(np.minimum(lengths(there - ways[some]) / 2, 1.0))
    np.maximum.at(most, own, turns / stretch[own])
    return most


def _most_of(lines: Lines, values: Array) -> Array:
    """The greatest means of values (n,) over a stretch of each line, (lines,), their sign left out."""
    run, of = lines.run, lines.of
    parts = (values[1:] + values[:-1]) / 2 * np.diff(run)
    parts[lines.last[:-1]] = 0.0
    summed = np.concatenate([[0.0], np.cumsum(parts)])
    stretch = np.minimum(STRETCH_MM, lines.long)
    some = run <= (run[lines.last] - stretch)[of] + 1e-9
    start, over = run[some], stretch[of[some]]
    means = np.interp(start + over, run, summed) - summed[some]
    found = np.abs(np.where(over > 0, means / np.maximum(over, 1e-12), values[some]))
    most = np.zeros(len(lines.long))
    np.maximum.at(most, of[some], found)
    return most

"""How the ends of a strip are cut: across its face, and off square through its thickness.

Where a strip ends on a stem, sternpost or keel it is trimmed flush with the face that the outer stem or keel is put on: the plane
along that profile, square to the centre plane. On a transom it is trimmed to the transom's own plane, against another course to the
seam.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..hull.build import Hull
from .edges import EdgePiece
from .strips import Strip


@dataclass(frozen=True)
class EndCut:
    """`across`: degrees between the strip and the line it is cut to, on its face (90: square across). `bevel`: degrees that the cut
    leans from square through the thickness, None against a seam and at the sheer."""

    on: str
    across: float
    bevel: float | None

    def long(self, width: float) -> float:
        """How long the cut is across a strip of a width, mm."""
        return width / max(math.sin(math.radians(self.across)), 1e-6)


def end_cuts(hull: Hull, strip: Strip) -> tuple[EndCut | None, EndCut | None]:
    """The forward and the after end of a strip, at the middle of its width; None where it comes to a point or its edges end on
    different lines."""
    if not strip.near or not strip.far:
        return None, None
    pairs = ((strip.near[0], strip.far[0], 0), (strip.near[-1], strip.far[-1], -1))
    found = [_cut(hull, strip.panel, near, far, at) for near, far, at in pairs]
    return found[0], found[1]


def _cut(hull: Hull, panel: int, near: EdgePiece, far: EdgePiece, at: int) -> EndCut | None:
    names = (near.starts, far.starts) if at == 0 else (near.ends, far.ends)
    if names[0] != names[1]:
        return None
    other = 1 if at == 0 else -2
    along = _unit(sum((_unit(p.points[other] - p.points[at]) for p in (near, far)), np.zeros(3)))
    line = far.points[at] - near.points[at]
    if float(np.linalg.norm(line)) < 1e-3:
        return None
    line = _unit(line)
    across = math.degrees(math.acos(min(abs(float(along @ line)), 1.0)))
    return EndCut(names[0], across, _bevel(hull, panel, names[0], (near.uv[at] + far.uv[at]) / 2, line))


def _bevel(hull: Hull, panel: int, name: str, uv: Array, line: Array) -> float | None:
    """How far the cut leans from square to the skin, degrees."""
    if name in ("seam", "sheer"):  # cut off with the sheer, whichever way the skin leans there
        return None
    u, v = np.clip(uv, 0.0, 1.0)
    skin = hull.panels[panel].surface.jet(np.array([u]), np.array([v])).normal[0]
    profile = _unit(np.array([-line[2], 0.0, line[0]]))  # along the profile, square to the centre plane
    plane = _end_plane(hull, panel, u > 0.5) if name in ("transom", "open") else profile
    off = abs(float(skin @ plane))  # 0: the cut stands square to the skin
    return math.degrees(math.asin(min(off, 1.0)))


def _end_plane(hull: Hull, panel: int, stern: bool) -> Array:
    """The unit normal of a transom's plane: of three points of its edge mirrored, the best fit through all."""
    even = np.linspace(0.0, 1.0, 21)
    edge = hull.panels[panel].surface.points(np.full_like(even, 1.0 if stern else 0.0), even)
    both = np.concatenate([edge, edge * [1.0, -1.0, 1.0]])
    normal: Array = np.linalg.svd(both - both.mean(axis=0))[2][-1]
    return normal


def _unit(vector: Array) -> Array:
    result: Array = vector / max(float(np.linalg.norm(vector)), 1e-12)
    return result

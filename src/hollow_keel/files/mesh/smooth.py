"""Stations and ends of a rough mesh: what its points scatter is taken out over a length of the hull, both sides together.

A cut of a rough mesh is as rough as its points. So many cuts are made about each station, on both sides of a whole hull, that the
scatter's mean is small; each is divided evenly from keel to sheer, and through each of these places a parabola is laid along the
hull. Nothing is smoothed across a sharp corner of the section.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ...core.geometry.arrays import Array, rows_at
from ...core.geometry.polyline import runs_along
from ...core.offsets.from_curves import CORNER, corners_of
from ...core.offsets.table import spans
from .cut import MeshCutter, even_steps

LEFT_MM = 0.8
"""So much scatter is left by choice (standard deviation)."""
PARABOLA = 1.5
"""The middle of a parabola through n points that scatter by 1 scatters by this over the root of n."""
LONGEST = 0.12
"""Smoothed over no more than this share of the hull's length to either side."""
INSIDE = 0.8
"""And over no more than this share of the way to the nearer end, where the lines bend most."""
SHARES = 81
"""Places on each cut."""
FLAT_CUTS = 6
"""Cuts beside a transom, at least."""
FEWEST, LEAST_EDGES = 4, 3.0
"""Lines that make a station, and the least length to smooth over, in edges of triangles: nearer to an end nothing is told."""
BEYOND = 1.02
"""The weight of a line is nothing so much farther aside than the farthest."""
NEIGHBOURS, TWICE = 1.5, 2.0
"""Cuts an edge apart share half of their points: their mean scatters by the root of this more than that of free ones; and twice the
standard deviation holds 19 times of 20."""
LIKE_MM, LOST, ROUNDS = 3.2, 6.0, 6
"""Cuts whose keel or sheer lies farther off the others' than this, than so many times the scatter, and than so many times the
middle one, have lost their way; they are looked for so many times."""
FINE = 2
WITHOUT_JAGS = 19
"""A cut has so many times the places at first, and so many of these make its jags smooth."""
ASIDE = 2.0
"""Near an end a station is smoothed over so many times as far to the other side, no more."""
ALONG = 9
"""Places over which a section is smoothed along itself."""
OUTLINE = 21
"""Levels over which the outline of an end is smoothed."""
SLOPES = 7
"""Slopes of an outline of which the middle one counts."""
SHEER_TURN = np.radians(55)
"""Where a section turns inboard by more than this, it has passed its sheer."""


class RoughCutter(MeshCutter):
    """Cuts an upright mesh whose points scatter by `scatter` mm (standard deviation)."""

    def __init__(self, points: Array, faces: Any, scatter: float, least: float) -> None:
        """`least`: smoothed over no less than so many mm to either side."""
        super().__init__(points, faces)
        low, high = self.reach
        wanted = (PARABOLA * scatter / LEFT_MM) ** 2
        self.scatter = scatter
        most = LONGEST * (high - low)
        own = float(np.clip(wanted * self.edge / (2 * self.sides), least, most))
        self.over = max(own, LEAST_EDGES * self.edge)
        self.doubts: dict[float, float] = {}
        """How far keel and sheer of the stations cut so far may be out, mm, by position."""
        self._cuts: dict[int, list[Array]] = {}

    def station(self, x: float) -> Array | None:
        low, high = self.full
        ahead, behind = (min(self.over, INSIDE * room) for room in (x - low, high - x))
        if min(ahead, behind) < LEAST_EDGES * self.edge:
            return None
        ahead, behind = min(ahead, ASIDE * behind), min(behind, ASIDE * ahead)
        first, last = int(np.ceil((x - ahead) / self.edge)), int(np.floor((x + behind) / self.edge))
        found = self._middle([(k * self.edge - x, line) for k in range(first, last + 1) for line in self._lines(k)])
        if found is None:
            return None
        self.doubts[x] = found[1]
        return found[0]

    @property
    def usual_doubt(self) -> float:
        """The middle one of `doubts`."""
        return float(np.median(list(self.doubts.values()))) if self.doubts else 0.0

    def _flat(self, foot: Array, head: Array, inward: float) -> Array | None:
        places = inward * np.arange(1.0, max(self.over / self.edge, FLAT_CUTS) + 1) * self.edge
        found = self._middle([(at, line) for at in places for line in self._sides(self._rake(foot, head, float(at)))])
        return None if found is None else found[0]

    def _steep(self, slope: Array) -> Any:
        from scipy.ndimage import median_filter

        return super()._steep(median_filter(slope, SLOPES, mode="nearest"))

    def _outline(self, points: Array) -> Array:
        return np.column_stack([_filtered(points[:, :2], OUTLINE), points[:, 2]])

    def _lines(self, k: int) -> list[Array]:
        """The lines of one cut, one for each side, divided evenly."""
        if k not in self._cuts:
            self._cuts[k] = self._sides(self._across(k * self.edge))  # nearer together they meet the same triangles
        return self._cuts[k]

    def _sides(self, cut: Array) -> list[Array]:
        return [line for raw in self._sides_of(cut) if (line := _divided(raw)) is not None]

    def _middle(self, found: list[tuple[float, Array]]) -> tuple[Array, float] | None:
        """Through lines (SHARES, 2) of parallel cuts, so far aside each, the one at nothing aside; and how far its keel and sheer
        may be out, mm, 19 times of 20."""
        found = _sound(found, max(LIKE_MM, LOST * self.scatter))
        if len(found) < FEWEST:
            return None
        fit = _Parabola(np.array([at for at, _ in found]), np.array([line for _, line in found]))
        result = _along(fit.middle)
        result[:, 0] = np.maximum(result[:, 0], 0.0)
        if np.median([line[0, 0] for _, line in found]) < self.scatter / 2:
            result[0, 0] = 0.0  # an edge that scatters about the centreline
        return result, fit.doubt


class _Parabola:
    """A parabola along the hull through each place of lines (n, SHARES, 2) that lie `aside` (n,) of the middle one (a straight line
    through two places). The nearer a line the more it counts."""

    def __init__(self, aside: Array, lines: Array) -> None:
        at = aside / (BEYOND * max(float(np.abs(aside).max()), 1.0))
        powers = at[:, None] ** np.arange(min(3, len(np.unique(at))))
        weights = (1 - np.abs(at) ** 3) ** 3  # tricube
        inverse = np.linalg.pinv(powers.T @ (weights[:, None] * powers))
        solve = inverse @ powers.T * weights
        fit = np.einsum("cn,nsk->csk", solve, lines)
        self.middle: Array = fit[0]
        left = (lines - np.einsum("nc,csk->nsk", powers, fit))[:, [0, -1]]
        self.off: Array = np.linalg.norm(left, axis=2).max(axis=1)
        """How far each line's keel or sheer lies off, mm."""
        scatter = float(np.sqrt(np.mean(np.sum(left**2, axis=2))))
        self.doubt = TWICE * scatter * float(np.sqrt(NEIGHBOURS * np.sum(solve[0] ** 2)))


def _sound(found: list[tuple[float, Array]], alike: float) -> list[tuple[float, Array]]:
    """Without the lines that have lost their way; one within `alike` mm of the others has not."""
    for _ in range(ROUNDS):
        if len(found) < FEWEST:
            return []
        off = _Parabola(np.array([at for at, _ in found]), np.array([line for _, line in found])).off
        sound = off <= max(alike, LOST * float(np.median(off)))
        if sound.all():
            break
        found = [one for one, good in zip(found, sound, strict=True) if good]
    return found


def _divided(raw: Array) -> Array | None:
    """A rough line from keel to sheer at even steps; None where it is too short to tell."""
    if len(raw) < 8:
        return None
    fine = even_steps(raw, FINE * SHARES)
    smooth = _filtered(fine, WITHOUT_JAGS)
    last = _sheer(smooth) + 1
    if last < FINE * SHARES // 3:
        return None
    # even along the smooth line: along the jags themselves every cut would be divided in another way
    run = runs_along(smooth[:last])
    even = np.linspace(0.0, run[-1], SHARES)
    return rows_at(even, run, fine[:last])


def _sheer(line: Array) -> int:
    """The number of the point where a line turns inboard past its sheer, or of its highest point."""
    top, bottom = float(line[:, 1].max()), float(line[:, 1].min())
    for k in corners_of(line, SHEER_TURN):
        if line[k, 1] > (top + bottom) / 2:
            return k
    return int(np.argmax(line[:, 1]))


def _along(line: Array) -> Array:
    """A line at even steps smoothed along itself, between its corners."""
    result = line.copy()
    for part in spans(len(line), corners_of(line, CORNER)):
        result[part] = _filtered(line[part], ALONG)
    return result


def _filtered(line: Array, width: int) -> Array:
    """Points at even steps, (n, k), each on a parabola through so many of its neighbours."""
    from scipy.signal import savgol_filter

    own = min(width, (len(line) - 1) // 2 * 2 + 1)
    return savgol_filter(line, own, 2, axis=0, mode="interp") if own > 3 else line

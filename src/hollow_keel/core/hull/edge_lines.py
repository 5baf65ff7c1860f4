"""The lower and the upper edge of the hull, drawn as lines of their own, and the surface laid to them.

Joined lengthwise with everything else, the keel ends at the stem's foot as if nothing followed, and the sheer of a blunt end as if
it came in straight. A builder draws both otherwise: the profile is one line, from stem head over keel to stem head or transom, and
what swells from the head as a power of the way from it goes on doing so. What these lines stand off the surface's own edges is
spread over the sections between them: all of it at the edge, none at the other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.batch_spline import sample_splines
from ..geometry.curves import LoftCurve, cubics_through
from ..geometry.easing import eased_anywhere

SMOOTH_DEG, CORNER_DEG = 20.0, 40.0
"""An end whose profile turns by less at its foot runs smoothly into the keel; one that turns by more has a corner there."""
TANGENT = 0.02
OF_THE_END = 3
"""Points of a stem above its foot that tell how the keel comes out of it."""
PLAIN, BLUNTEST = 0.97, 0.5
"""A sheer whose half-breadth grows with a lesser power of the way from the head is blunt there; a round end's is a half."""
FADE = (2, 4)
"""A blunt end is told by the first of so many stations and forgotten at the last."""
DENSE = 1201
LEAST_WAY_MM = 20.0
"""A section that goes out, or up, by less in all moves by its girth."""


@dataclass(frozen=True)
class EndLine:
    """One end of a panel: its curve from foot to head, and whether it is a stem; `way` is 1 at the bow and -1 at the stern."""

    curve: LoftCurve
    stem: bool
    way: float


def roundness(end: LoftCurve, keel: Array) -> float:
    """1 where an end (a curve from foot to head) runs smoothly into a keel, even steps of it from the end's foot inwards (n, 3), 0
    where they meet in a corner."""
    up = np.diff(end.at_fractions(np.array([0.0, TANGENT]))[:, [0, 2]], axis=0)[0]
    back = (keel[max(1, round(TANGENT * (len(keel) - 1)))] - keel[0])[[0, 2]]
    cosine = -(up @ back) / max(float(np.linalg.norm(up) * np.linalg.norm(back)), 1e-12)
    turn = float(np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0))))
    return 1 - float(eased_anywhere(np.array((turn - SMOOTH_DEG) / (CORNER_DEG - SMOOTH_DEG))))


def lower_edge(ends: Sequence[EndLine], keel: Array, x: Array) -> Array:
    """Half-breadth and height (n, 2), mm, of the keel at positions x (n,) between the feet of bow and stern: one line with what
    stems run smoothly into it in profile, through the stations' keel points (k, 3)."""
    bow, stern = ends
    own = np.concatenate([bow.curve.points[:1], keel, stern.curve.points[:1]])
    free = cubics_through(own, DENSE)
    shares = [roundness(end.curve, line) if end.stem else 0.0 for end, line in ((bow, free), (stern, free[::-1]))]
    if not any(shares):
        return _at(free, x)
    before, after = (
        end.curve.points[1 : 1 + OF_THE_END] if share > 0 else own[:0] for end, share in zip(ends, shares, strict=True)
    )
    joined = _at(cubics_through(np.concatenate([before[::-1], own, after]), DENSE), x)
    first, last = (share or 1.0 for share in shares)  # where nothing is joined the two are the same
    share = np.interp(x, own[[0, -1], 0], [first, last])
    told = _at(free, x)  # its half-breadth knows nothing of the stem's: a siding may begin at the foot
    told[:, 1] += share * (joined[:, 1] - told[:, 1])
    return told


def _at(line: Array, x: Array) -> Array:
    return np.column_stack([np.interp(x, line[:, 0], line[:, k]) for k in (1, 2)])


def swelling(tops: Array, way: float, x: Array) -> Array | None:
    """Half-breadth and height (n, 2), mm, at positions x (n,) of the upper edge through the tops (k, 3) of an end's head and of the
    stations from there inwards, where it swells from the head as a power of the way; None where it comes in straight."""
    runs = way * (tops[:, 0] - tops[0, 0])
    breadths = tops[:, 1] - tops[0, 1]
    power = _growth(runs, breadths)
    if power >= PLAIN or np.any(np.diff(runs) <= 0):
        return None
    # what grows as a power of the way is told by its root: that runs smoothly into the tip
    root = np.sign(breadths) * np.abs(breadths) ** (1 / power)
    even = np.clip(way * (x - tops[0, 0]) / runs[-1], 0.0, 1.0)
    drawn = sample_splines((runs / runs[-1])[None], np.column_stack([root, tops[:, 2]])[None], even)[0]
    breadth = np.sign(drawn[:, 0]) * np.abs(drawn[:, 0]) ** power
    return np.column_stack([tops[0, 1] + breadth, drawn[:, 1]])


def _growth(runs: Array, breadths: Array) -> float:
    """The power of the way from the head with which the half-breadth grows there, as the first three stations tell it: a half where
    a round is cut, one where two straight sides meet; one where it cannot be told."""
    if len(runs) < 4 or np.any(np.diff(breadths[:4]) <= 0):
        return 1.0
    run, breadth = np.log(runs[1:4]), np.log(breadths[1:4])
    powers = np.diff(breadth) / np.diff(run)
    middle = np.exp((run[:-1] + run[1:]) / 2)
    at_head = powers[0] + (powers[0] - powers[1]) * middle[0] / (middle[1] - middle[0])
    return float(np.clip(at_head, BLUNTEST, 1.0))


def laid_to_edges(grid: Array, ends: Sequence[EndLine], keel: Array | None, tops: Array) -> Array:
    """The grid (nu, nv, 3), mm, of a panel, u from bow to stern, v from the lower edge up, laid to its edges: `tops` (k, 3) are the
    stations' upper points, `keel` those of the lower edge where that is the keel."""
    upper = _off_upper(grid, ends, tops)
    lower = np.zeros((len(grid), 2))
    if keel is not None and len(keel) > 1:
        lower = lower_edge(ends, keel, grid[:, 0, 0]) - grid[:, 0, 1:]
        lower[[0, -1]] = 0.0
    if not lower.any() and not upper.any():
        return grid
    x = grid[..., 0]
    up = _shares_up(x, ends)[..., None]
    off = [
        np.stack([np.interp(x, edge[:, 0], own[:, k]) for k in (0, 1)], axis=-1)
        for edge, own in ((grid[:, 0], lower), (grid[:, -1], upper))
    ]
    moved = grid.copy()
    moved[..., 1:] += (1 - up) * off[0]
    if upper.any():
        moved[..., 1:] += _as_sections_go(grid, up[..., 0]) * off[1]
    return moved


def _as_sections_go(grid: Array, up: Array) -> Array:
    """Shares (nu, nv, 2) of what the top of a section moves out and up that its places move, at shares `up` (nu, nv) of the way to
    it: a section that is drawn wider keeps its shape, so as much as it has gone out, or up, there itself."""
    v = np.linspace(0.0, 1.0, grid.shape[1])
    gone = grid[..., 1:] - grid[:, :1, 1:]
    way = gone[:, -1:]
    share = np.where(np.abs(way) > LEAST_WAY_MM, gone / np.where(np.abs(way) > LEAST_WAY_MM, way, 1.0), v[None, :, None])
    share = np.clip(share, 0.0, 1.0)
    return np.stack(
        [np.stack([np.interp(own, v, line) for own, line in zip(up, share[..., k], strict=True)]) for k in (0, 1)], axis=-1
    )


def _off_upper(grid: Array, ends: Sequence[EndLine], tops: Array) -> Array:
    """By how much the upper edge of a grid (nu, nv, 3) has to move, (nu, 2) mm out and up. Ends that run smoothly into the keel are
    left to `raked_ends`, which draws them anew."""
    edge, off = grid[:, -1], np.zeros((len(grid), 2))
    for end in ends:
        inwards = np.concatenate([end.curve.points[-1:], tops[:: int(end.way)]])
        if not end.stem or len(inwards) <= FADE[1] or roundness(end.curve, grid[:: int(end.way), 0]) == 1.0:
            continue
        told = swelling(inwards, end.way, edge[:, 0])
        if told is not None:
            near, far = inwards[FADE[0], 0], inwards[FADE[1], 0]
            fade = 1 - eased_anywhere((edge[:, 0] - near) / (far - near))
            off += fade[:, None] * (told - edge[:, 1:])
    off[[0, -1]] = 0.0
    return off


def _shares_up(x: Array, ends: Sequence[EndLine]) -> Array:
    """For each node of a grid with positions x (nu, nv) the share of the way from the foot of its section to the top."""
    v = np.linspace(0.0, 1.0, x.shape[1])
    start = np.zeros_like(x)
    shares = np.linspace(0.0, 1.0, 201)
    for end in ends:
        back = end.way * end.curve.at_fractions(shares)[:, 0]
        rising = np.minimum.accumulate(back)  # a stem may run back a little past its head
        start = np.maximum(start, np.interp(-end.way * x, -rising, shares, left=0.0))
    return np.clip((v - start) / np.maximum(1 - start, 1e-9), 0.0, 1.0)

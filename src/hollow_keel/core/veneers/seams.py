"""The seams of a layer: geodesics of the layer's own surface, one after another both ways from a first one.

A veneer that is pressed down without being pushed sideways follows a geodesic (any textbook of differential geometry: of all lines
on a surface these do not bend sideways). It is laid with its outer edge straight, as it was sawn, parallel to the one before where
it is about halfway along; the edge towards that one is scribed to it and cut. So nothing is left open, and where the hull is round
both ways the two seams draw together: what is taken off there is the spiling. How far they draw together follows from Jacobi's
equation J'' + K J = 0 along a seam (the same textbooks); it tells how far off the next seam lies at its middle, so that no veneer
is wider than it may be.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, BoolArray, IntArray, lengths, steps_along
from ..geometry.geodesic import Geodesics, State
from ..geometry.polyline import feet
from ..geometry.surface import TensorSurface, cross
from ..geometry.surface_line import components, gaussian

STEP_MM = 60.0
"""Geodesics are followed in such steps: on the demo hulls that keeps them within 0.5 mm of steps of 20 mm, but in the last 100 mm
before a sharp stem, where a layer's surface draws together: up to 4 mm."""
DENSE, WIDENS = 6, 3
"""Places told of a seam in each step; and of these every so many are enough to tell how neighbours widen."""
CORNERS = 2
"""Every so many of these are corners of veneers, some 20 mm apart, for a geodesic is all but straight in the surface's parameters;
near the ends of the hull, where it is not, all are."""
_SHARE = np.arange(DENSE) / DENSE
CUBIC = np.column_stack(
    [
        2 * _SHARE**3 - 3 * _SHARE**2 + 1,
        STEP_MM * (_SHARE**3 - 2 * _SHARE**2 + _SHARE),
        3 * _SHARE**2 - 2 * _SHARE**3,
        STEP_MM * (_SHARE**3 - _SHARE**2),
    ]
)
"""What those are made of: the values and rates at a step's beginning and end (the cubic that has both)."""
BEYOND = 0.25
"""Seams that run along the hull are followed so far past its lower and upper edge, in shares of the girth: they may come back."""
STEEP = 0.35
"""Seams that rise by a larger share of their way do not come back: they end past the edge."""
WILD = 0.2
"""A step that changes a parameter by more goes through a surface carried on too far: it is not taken."""
UNEVEN = 0.1
"""Points of a seam may lie closer or farther apart by this share before it counts as lost."""
NEAR_CELLS = 3.0
"""So many of the surface's cells before an end seams are followed in fine steps."""
FINE_MM, FINE_STEPS = 15.0, 400
"""Those, and the most of them."""
SLACK = 0.003
"""Seams may lie farther apart than a veneer is wide by this share: less than a saw takes."""
TRIES = 4
EDGE = 1e-6
BACKWARD = np.array([1.0, 1.0, -1.0, -1.0])
"""A state as it is for one who comes the other way."""
PAST_WIDTHS, AND_MORE = 3.0, 0.6
"""Seams go on at most so many widths past the hull: the other edge of a veneer may end later than its own, the more so the more
obliquely they leave it; and so many widths more than that."""
MOST_SHARE, AND_SOME = 1.0, 20
"""As many seams as length and girth together are widths are enough from corner to corner, and some more: real hulls need at most
half of that, at any angle. More lie upon each other, on a hull that is folded."""
LONGEST = 3.0
"""Seams are followed so many times the way along the hull and up it together."""
PLACES = (0.5, 0.42, 0.58, 0.34, 0.66, 0.25, 0.75, 0.16, 0.84, 0.08, 0.92)
"""Where along a seam the next one may be set off, in shares of what lies on the hull, the best first."""


@dataclass(frozen=True)
class Seam:
    """A line that a veneer's edge follows, on past the hull's edges: parameters (n, 2) and points (n, 3), mm, and which of them lie
    on the hull; `corners` (k, 2) are those of the parameters that veneers are cut by."""

    uv: Array
    points: Array
    on: BoolArray
    corners: Array


@dataclass(frozen=True)
class Setting:
    """Where a seam is set off: its place (u, v), and how u and v change per mm along it."""

    place: Array
    along: Array


@dataclass(frozen=True)
class March:
    """The way from a seam to the next: `far` mm along the geodesic from `start`, a place on it and the direction square to it;
    `side` 1 towards normal × direction of the seam, else -1."""

    start: State
    far: float
    side: float


def seams_over(surface: TensorSurface, start: Setting, width: float, tick: Callable[[], None]) -> tuple[list[Seam], list[Seam]]:
    """Seams from the one set off at `start`, none farther than `width` mm from the one before; first those on its one side, then
    those on the other (towards normal × direction). Both lists begin with the first seam (they are empty where that cannot be
    followed). They end where the next one would lie off the hull. `tick` is called after each and may raise. Raises ImpossiblePlan
    where they do not get on over the hull."""
    with np.errstate(all="ignore"):  # where a seam leads into nothing it ends: what is followed is looked at
        return _seams_both_ways(surface, start, width, tick)


def _seams_both_ways(
    surface: TensorSurface, start: Setting, width: float, tick: Callable[[], None]
) -> tuple[list[Seam], list[Seam]]:
    ground = _Ground(surface, Geodesics(surface), *sizes_of(surface), width)
    first = _followed(ground, (*start.place.tolist(), *start.along.tolist()))
    if len(first.uv) < 2:
        return [], []
    return _run(ground, first, -1.0, tick), _run(ground, first, 1.0, tick)


def _run(ground: _Ground, first: Seam, side: float, tick: Callable[[], None]) -> list[Seam]:
    """Seams one after another to one side of a first one, that one first. Raises ImpossiblePlan where they do not get on."""
    run, most = [first], MOST_SHARE * (ground.length + ground.girth) / ground.width + AND_SOME
    while run[-1].on.any():
        if len(run) > most:
            raise _lost(run)
        march = _following(ground, run[-1], side)
        seam = _next(ground, run[-1], march) if march is not None else None
        if seam is None:
            break
        run.append(seam)
        tick()
    return run


def _lost(run: list[Seam]) -> ImpossiblePlan:
    """What is said of seams that do not get on: where, and what to look at."""
    points = run[-1].points[run[-1].on]
    x = points[len(points) // 2, 0]
    return ImpossiblePlan(
        f"{len(run)} seams to one side do not reach the end of the hull: near position {mm(x)} each lies upon the one before. "
        "The hull is folded there: look at the offsets nearby."
    )


def _next(ground: _Ground, last: Seam, march: March) -> Seam | None:
    """The seam at the end of a march from the one before, nearer where they would lie too far apart; None where it cannot be
    followed."""
    share = 1.0
    for _ in range(TRIES):
        seam = _followed(ground, _moved(ground, march, share))
        over = farthest(last, seam) / ground.width
        if over <= 1.0 + SLACK:
            break
        share /= over
    return seam if len(seam.uv) > 1 else None


def farthest(seam: Seam, other: Seam) -> float:
    """How far a seam is from another one where they are farthest apart on the hull, mm; 0 where it does not lie beside it."""
    points = seam.points[seam.on][::DENSE]
    if len(other.points) < 3 or not len(points):
        return 0.0
    _, _, foot = feet(points, other.points, beyond=True)  # at an oblique end one edge goes on past the other
    return float(lengths(points - foot).max())


def set_off(surface: TensorSurface, u: float, v: float, angle: float) -> Setting:
    """A seam at (u, v), at an `angle` (radians) from the hull's own direction, bow to stern, towards its upper edge."""
    place = np.array([u, v])
    jet = surface.jet(place[:1], place[1:])
    ahead = jet.du / lengths(jet.du)[:, None]
    up = cross(jet.normal, ahead)
    up *= np.sign(np.vecdot(up, jet.dv))[:, None]
    du, dv = components(jet, math.cos(angle) * ahead + math.sin(angle) * up)
    return Setting(place, np.array([du[0], dv[0]]))


def widening(surface: TensorSurface, seam: Seam, middle: int) -> Array:
    """How far a neighbour that is parallel to a seam at its point `middle` lies off it all along, (n,), in shares of how far off it
    is there: Jacobi's J, by the trapezoidal rule of leapfrog steps over every WIDENS-th point; 0 where they have met."""
    every = np.arange(middle % WIDENS, len(seam.uv), WIDENS)
    edges = np.flatnonzero(np.diff(seam.on, prepend=False, append=False))  # past them it is straight: they are told exactly
    ends = np.clip(np.concatenate([edges - 1, edges, [0, len(seam.uv) - 1]]), 0, len(seam.uv) - 1)
    which = np.unique(np.concatenate([every, ends]))
    start = int(np.searchsorted(which, middle))
    curvature = gaussian(surface.jet(seam.uv[which, 0], seam.uv[which, 1])).tolist()
    steps = steps_along(seam.points[which]).tolist()
    off = [1.0] * len(which)
    for order in (range(start + 1, len(off)), range(start - 1, -1, -1)):
        value, rate = 1.0, 0.0
        for k in order:
            back = k - 1 if k > start else k + 1
            h = steps[min(k, back)]
            rate -= h / 2 * curvature[back] * value
            value += h * rate
            rate -= h / 2 * curvature[k] * value
            if value <= 0.0:
                value = rate = 0.0
            off[k] = value
    return np.interp(np.arange(len(seam.uv)), which, off)


def _following(ground: _Ground, last: Seam, side: float) -> March | None:
    """Where the next seam is set off: square off the last one as near its middle as there is still hull; None where there is
    none."""
    on = np.flatnonzero(last.on)
    if len(on) < 2:
        return None
    for place in PLACES:
        k = int(on[round(place * (len(on) - 1))])
        u, v, p, q = start = _square_off(ground, last, k, side)
        if all(EDGE < reached < 1.0 - EDGE for reached in (u + ground.width * p, v + ground.width * q)):
            most = float(widening(ground.surface, last, k)[last.on].max())
            return March(start, ground.width / most, side)
    return None


def _square_off(ground: _Ground, seam: Seam, k: int, side: float) -> State:
    """A place of a seam, and from there the direction square to it."""
    (u, v), before, after = (seam.uv[at].tolist() for at in (k, max(k - 1, 0), min(k + 1, len(seam.uv) - 1)))
    p, q = ground.geodesics.square(u, v, after[0] - before[0], after[1] - before[1])
    return u, v, side * p, side * q


def _moved(ground: _Ground, march: March, share: float) -> State:
    """The seam set off at the end of a share of a march, square to it."""
    far, state = march.far * share, march.start
    count = max(math.ceil(far / STEP_MM), 2)
    for _ in range(count):
        state = ground.geodesics.stepped(state, far / count)
    p, q = ground.geodesics.square(*state)
    return state[0], state[1], -march.side * p, -march.side * q


@dataclass(frozen=True)
class _Ground:
    """What seams are followed on: the surface and its geodesics, its length and girth, and how far apart seams are at most, mm."""

    surface: TensorSurface
    geodesics: Geodesics
    length: float
    girth: float
    width: float

    @property
    def past(self) -> float:
        """How far past the hull they go on at most, mm."""
        return PAST_WIDTHS * self.width

    def placed(self, uv: Array) -> Array:
        """Places (n, 2) and with them where they lie, mm: (n, 5)."""
        return np.concatenate([uv, self.surface.points(uv[:, 0], uv[:, 1])], axis=1)

    def midway(self, u: Array) -> BoolArray:
        """Which of some places along the hull, (n,), are not near its ends."""
        found: BoolArray = np.abs(u - 0.5) < 0.5 - NEAR_CELLS / (self.surface.grid.shape[0] - 1)
        return found


def _followed(ground: _Ground, start: State) -> Seam:
    """The seam set off at a place, both ways until it is past the hull."""
    u, v, p, q = start
    back, ahead = _half(ground, (u, v, -p, -q)), _half(ground, start)
    fine = ground.placed(_between(np.concatenate([back[:0:-1] * BACKWARD, ahead])))
    even = _even(fine[:, 2:], STEP_MM / DENSE)
    origin = (len(back) - 1) * DENSE
    placed = _with_crossings(
        ground,
        np.concatenate(
            [
                _ended_finely(ground, back, fine[origin::-1], even[:origin][::-1])[:0:-1],
                _ended_finely(ground, ahead, fine[origin:], even[origin:]),
            ]
        ),
    )
    uv = np.ascontiguousarray(placed[:, :2])
    on = np.all((uv >= -EDGE / 2) & (uv <= 1.0 + EDGE / 2), axis=1)
    corner = (np.arange(len(uv)) % CORNERS == 0) | ~ground.midway(uv[:, 0])
    corner[-1] = True
    return Seam(uv, np.ascontiguousarray(placed[:, 2:]), on, uv[corner])


def _half(ground: _Ground, start: State) -> Array:
    """A geodesic from a state on, by its states (n, 4). It may leave the hull at its lower and upper edge and come back, as long as
    it runs along the hull; what comes back otherwise is lost and ends."""
    states, left, past = [start], 0, ground.past
    for _ in range(int(LONGEST * (ground.length + ground.girth) / STEP_MM)):
        before = states[-1]
        u, v, du, dv = moved = ground.geodesics.stepped(before, STEP_MM)
        inside = 0.0 <= u <= 1.0 and 0.0 <= v <= 1.0
        if not (abs(u - before[0]) < WILD and abs(v - before[1]) < WILD) or (inside and left):
            break
        states.append(moved)
        ahead, rise = abs(du) * ground.length, abs(dv) * ground.girth
        if not inside and not (0.0 <= u <= 1.0 and rise <= STEEP * math.hypot(ahead, rise)):
            left += 1
            if left == 1:
                past = _past(ground, *((rise, ahead) if 0.0 <= u <= 1.0 else (ahead, rise)))
        if left * STEP_MM >= past or abs(v - 0.5) > 0.5 + BEYOND:
            break
    return np.array(states)


def _past(ground: _Ground, across: float, along: float) -> float:
    """How far past the hull a seam goes on, mm, that leaves it with such shares across its edge and along it."""
    return min(ground.width * (AND_MORE + along / max(across, 1e-9)), ground.past)


def sizes_of(surface: TensorSurface) -> tuple[float, float]:
    """Length along the middle of the girth, and girth amidships, mm, of a surface."""
    even, half = np.linspace(0.0, 1.0, 41), np.full(41, 0.5)
    lines = surface.points(even, half), surface.points(half, even)
    along, across = (float(steps_along(line).sum()) for line in lines)
    return along, across


def _ended_finely(ground: _Ground, states: Array, fine: Array, even: BoolArray) -> Array:
    """The places (n, 5) of half a seam, given by its states (steps, 4), its places `fine` (n, 5) between them and which ways from
    one to the next are even. From where it comes near an end of the hull and stays there, or was not followed well before, it is
    followed again in fine steps: there the surface's own lines turn. Where the hull is drawn together to nothing (the foot of a
    stem) it ends."""
    bad = np.flatnonzero(~even)
    middle = np.flatnonzero(ground.midway(states[:, 0]))
    node = int(middle[-1]) if len(middle) else 0
    node = min(node, int(bad[0]) // DENSE) if len(bad) else node
    if node == len(states) - 1:
        return fine
    return np.concatenate([fine[: node * DENSE + 1], _finely(ground, tuple(states[node].tolist()))])


def _even(points: Array, step: float | Array) -> BoolArray:
    """Whether each way between places, (n - 1,), is about a `step` long, mm, one for all or each its own."""
    apart = steps_along(points) / step
    good: BoolArray = np.abs(apart - 1.0) < UNEVEN
    return good


def _finely(ground: _Ground, start: State) -> Array:
    """The places (n, 5) that follow a state, in fine steps on the hull, and on until past it."""
    states, steps, left = [start], list[float](), 0.0
    for _ in range(FINE_STEPS):
        before = states[-1]
        off = abs(before[0] - 0.5) > 0.5 or abs(before[1] - 0.5) > 0.5
        step = STEP_MM / 2 if off else FINE_MM
        u, v, _, _ = moved = ground.geodesics.stepped(before, step)
        if not (abs(u - before[0]) < WILD and abs(v - before[1]) < WILD):
            break
        states.append(moved)
        steps.append(step)
        left += step if off else 0.0
        if left >= ground.past:
            break
    placed = ground.placed(np.array(states)[:, :2])
    bad = np.flatnonzero(~_even(placed[:, 2:], np.array(steps)))
    return placed[1 : (bad[0] if len(bad) else len(placed) - 1) + 1]


def _with_crossings(ground: _Ground, placed: Array) -> Array:
    """Places (n, 5) and between them those where the line through them crosses the edges of the hull."""
    uv = placed[:, :2]
    on = np.all((uv >= 0.0) & (uv <= 1.0), axis=1)
    change = np.flatnonzero(on[1:] != on[:-1])
    if not len(change):
        return placed
    inner, outer = np.where(on[change], change, change + 1), np.where(on[change], change + 1, change)
    begin, step = uv[inner], uv[outer] - uv[inner]
    edge = np.where(step > 0, 1.0, 0.0)
    share = np.where(step != 0, (edge - begin) / step, np.inf)
    axis = share.argmin(axis=1)
    share = np.clip(share.min(axis=1), 0.0, 1.0)
    at = begin + share[:, None] * step
    at += _off_the_chord(placed, change, np.where(on[change], share, 1.0 - share))
    rows = np.arange(len(change))
    at[rows, axis] = edge[rows, axis]
    return np.insert(placed, change + 1, ground.placed(at), axis=0)


def _off_the_chord(placed: Array, cells: IntArray, share: Array) -> Array:
    """How far a line through places (n, 5) leaves the chord from each of some places (m,) to the next, at a share of it, in
    parameters (m, 2): by the parabolas through the place before them and the one after. Left on the chord a seam would have a
    corner there, and what is laid flat from its end would be turned by it."""
    run = np.concatenate([[0.0], np.cumsum(steps_along(placed[:, 2:]))])
    slopes = np.diff(placed[:, :2], axis=0) / np.maximum(np.diff(run), EDGE)[:, None]
    before, after = np.maximum(cells - 1, 0), np.minimum(cells + 1, len(slopes) - 1)
    # of a cell at an end the one beside it tells of both
    second = (slopes[after] - slopes[before]) / ((run[after + 1] + run[after] - run[before + 1] - run[before]) / 2)[:, None]
    h = run[cells + 1] - run[cells]
    off: Array = -(share * (1 - share) * h * h / 2)[:, None] * second
    return off


def _between(half: Array) -> Array:
    """Places at a finer step, by the cubic that has both ends' values and rates; (m, 2)."""
    ends = np.concatenate([half[:-1], half[1:]], axis=1).reshape(-1, 4, 2)
    fine: Array = np.matmul(CUBIC, ends).reshape(-1, 2)
    return np.concatenate([fine, half[-1:, :2]])

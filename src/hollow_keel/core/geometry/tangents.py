"""Slopes of a curve through drawn points, where the points alone do not keep a plain spline from swinging.

A cubic with continuous curvature is the batten through the points, and right where they stand evenly. Where a long
chord stands beside short ones it is drawn on over the long one from what the short ones do, and swings far out; where
points in a line run into a turn it bulges off the line. There the curvature may break, the tangent never: the long part
takes the tangent that the short part ends with, a line keeps its own direction. And where a curve turns one way only,
its tangent at a point lies between the two chords that meet there.
"""

from __future__ import annotations

import numpy as np

from .arrays import Array, BoolArray, lengths, ranges_of, steps_along
from .batch_spline import spline_slopes

LONG = 6.0
"""A chord so many times as long as both of the next two takes the tangent that they end with."""
LINE_MM = 0.75
"""Points in a line stand off it by no more: a table rounded to a millimetre can put them so far out."""
LINE_TURN = 0.1
"""And turn by no more than this share of what a neighbouring point turns by."""
LONGER, ON_ARC = 2.0, 0.2
"""A chord so many times longer than the next is a straight run where the arc through the next points leaves along it: off it by no
more than this share of the turn between the two chords."""
LONE, LEAST_BILGE = 1.5, 0.5
"""A lone short chord between two that are so many times longer is the chord of an arc between straight runs, where it turns by so
many radians in all."""
OUTSIDE = 1e-3
"""Radians by which a tangent may lie outside its two chords before it is brought back."""
ROUNDS = 4


def fair_slopes(points: Array) -> tuple[Array, Array]:
    """Slopes (per mm of chord) at the start and at the end of every cell of the curve through `points` (n, d), both
    (n - 1, d); they differ at a point by their size only, never in direction."""
    steps = steps_along(points)
    rises = np.diff(points, axis=0) / steps[:, None]
    if len(points) < 4:
        return _both(spline_slopes(steps[None], rises[None])[0])
    turn = _turns(rises)
    given = _straight_runs(points, steps, rises, turn)
    _about_lone_chords(steps, rises, turn, given)
    _beside_long_chords(steps, rises, given)
    for _ in range(ROUNDS):
        slopes = _pieces(steps, rises, given) if given else _both(spline_slopes(steps[None], rises[None])[0])
        swung = _worst_swing(rises, slopes[0], given)
        if swung is None:
            break
        given[swung[0]] = swung[1]
        slopes = _pieces(steps, rises, given)
    return slopes


def arc_slopes(points: Array) -> tuple[Array, Array]:
    """Slopes, (n - 1, d) each as in `fair_slopes`, mm per mm of chord, of another fair curve through the same points: at each the
    tangent of the circle through it and its neighbours, but where a straight run ends its own direction. Where the two curves part,
    the points do not settle the shape."""
    steps = steps_along(points)
    rises = np.diff(points, axis=0) / steps[:, None]
    if len(points) < 3:
        return rises, rises
    tangents = np.empty_like(points)
    tangents[1:-1] = _on_circles(steps, rises)
    for point, direction in _straight_runs(points, steps, rises, _turns(rises)).items():
        tangents[point] = direction
    for end, inner, chord in ((0, 1, rises[0]), (-1, -2, rises[-1])):
        tangents[end] = _other_end(chord, tangents[inner])
    return tangents[:-1] * _speeds(rises, tangents[:-1]), tangents[1:] * _speeds(rises, tangents[1:])


def _on_circles(steps: Array, rises: Array) -> Array:
    """At each inner point the unit tangent of the circle through it and its neighbours, (n - 2, d)."""
    tangents = steps[1:, None] * rises[:-1] + steps[:-1, None] * rises[1:]
    result: Array = tangents / np.maximum(lengths(tangents)[:, None], 1e-12)
    return result


def _other_end(chord: Array, tangent: Array) -> Array:
    """The tangent at the other end of an arc over a unit chord."""
    result: Array = 2 * chord * (chord @ tangent) - tangent
    return result


def _both(slopes: Array) -> tuple[Array, Array]:
    return slopes[:-1], slopes[1:]


def _turns(rises: Array) -> Array:
    """Angle between the two chords at each point, radians, (n,); 0 at both ends."""
    turn = np.zeros(len(rises) + 1)
    turn[1:-1] = np.arccos(np.clip((rises[:-1] * rises[1:]).sum(axis=1), -1.0, 1.0))
    return turn


def _ends_of_lines(points: Array, steps: Array, rises: Array, turn: Array) -> dict[int, Array]:
    """The direction of each run of points in a line, at the points where it ends within the curve."""
    off = np.zeros(len(turn))
    off[1:-1] = turn[1:-1] * steps[:-1] * steps[1:] / (steps[:-1] + steps[1:])
    beside = np.maximum(np.append(turn[1:], 0.0), np.append(0.0, turn[:-1]))
    straight: BoolArray = (off < LINE_MM) & ((turn < LINE_TURN * beside) | (turn < OUTSIDE))
    straight[[0, -1]] = False
    given: dict[int, Array] = {}
    for first, stop in ranges_of(straight).tolist():
        start, end = first - 1, stop
        inner = start > 0 and end < len(turn) - 1
        if inner and end - start == 2 and not _same_way(rises, start, end):
            continue  # three points about a place where the curve turns from hollow to round are no line
        chord = points[end] - points[start]
        direction = chord / np.linalg.norm(chord)
        given |= {k: direction for k in (start, end) if 0 < k < len(turn) - 1}
    return given


def _straight_runs(points: Array, steps: Array, rises: Array, turn: Array) -> dict[int, Array]:
    """The direction of every run that the points tell to be straight, at the points where it ends within the curve: of points in a
    line, and of a chord along which an arc begins. There the circle through the next three points leaves along it, and it is
    longer; on any curve that goes on turning the circle leaves at half of what the long chord turns by."""
    given = _ends_of_lines(points, steps, rises, turn)
    long, count, circles = steps.tolist(), len(steps), _on_circles(steps, rises)
    for point in range(1, count):
        for run, near, beyond in ((point - 1, point, point + 1), (point, point - 1, point - 2)):
            if not 0 <= beyond < count or long[run] < LONGER * long[near] or point in given:
                continue
            leaves = _other_end(rises[near], circles[max(near, beyond) - 1])
            if np.arccos(np.clip(leaves @ rises[run], -1.0, 1.0)) < ON_ARC * turn[point]:
                given[point] = rises[run]
    return given


def _about_lone_chords(steps: Array, rises: Array, turn: Array, given: dict[int, Array]) -> None:
    """Add both directions where a lone short chord turns evenly between two longer ones: the chord of an arc between straight
    runs."""
    long = steps.tolist()
    for k in range(1, len(steps) - 1):
        if min(long[k - 1], long[k + 1]) < LONE * long[k] or k in given or k + 1 in given:
            continue
        low, high = sorted(turn[k : k + 2].tolist())
        if high - low < ON_ARC * high and low + high > LEAST_BILGE and _same_way(rises, k, k + 1):
            given[k], given[k + 1] = rises[k - 1], rises[k + 1]


def _same_way(rises: Array, first: int, second: int) -> bool:
    """Whether the curve turns the same way at two points."""
    a, b, c, d = rises[first - 1], rises[first], rises[second - 1], rises[second]
    return bool((a @ c) * (b @ d) - (a @ d) * (b @ c) >= 0)


def _beside_long_chords(steps: Array, rises: Array, given: dict[int, Array]) -> None:
    """Add the tangent where a long chord meets short ones: that which the short ones end with."""
    count = len(steps)
    found: dict[int, int] = {}  # point: 1 where the short ones follow, -1 where they come before, 0 for both
    for k in range(count):
        for way in (1, -1):
            point = k + 1 if way > 0 else k
            beyond = [k + way, k + 2 * way]
            if not (min(beyond) >= 0 and max(beyond) < count) or point in given:
                continue
            if steps[k] > LONG * max(steps[beyond]):
                found[point] = 0 if point in found else way
    cuts = sorted({0, count, *given, *found})
    for point, way in found.items():
        if way > 0:
            stop = next(c for c in cuts if c > point)
            own = _piece(steps[point:stop], rises[point:stop], None, given.get(stop))[0]
        elif way < 0:
            start = next(c for c in reversed(cuts) if c < point)
            own = _piece(steps[start:point], rises[start:point], given.get(start), None)[-1]
        else:
            own = rises[point - 1] + rises[point]
        given[point] = _between(own, rises[point - 1], rises[point])


def _pieces(steps: Array, rises: Array, given: dict[int, Array]) -> tuple[Array, Array]:
    """Slopes of the splines between the points at which a tangent is given."""
    first, last = np.empty_like(rises), np.empty_like(rises)
    cuts = [0, *sorted(given), len(steps)]
    for a, b in zip(cuts[:-1], cuts[1:], strict=True):
        ends = [
            None if k not in given else given[k] * _speeds(rises[cell][None], given[k][None])[0] for k, cell in ((a, a), (b, b - 1))
        ]
        slopes = _piece(steps[a:b], rises[a:b], *ends)
        first[a:b], last[a:b] = slopes[:-1], slopes[1:]
    return first, last


def _speeds(chords: Array, tangents: Array) -> Array:
    """How fast a cubic has to leave along unit `tangents` from cells with unit `chords` (n, d) to run like an arc; (n, 1)."""
    result: Array = 2.0 / (1.0 + np.maximum((chords * tangents).sum(axis=1, keepdims=True), 0.0))
    return result


def _piece(steps: Array, rises: Array, first: Array | None, last: Array | None) -> Array:
    """Slopes at the knots of one spline, (n, d), with end slopes where they are given, otherwise not-a-knot; a lone cell with
    one free end loses its curvature there, as a batten does beyond its last duck."""
    if first is None and last is None:
        free: Array = spline_slopes(steps[None], rises[None])[0]
        return free
    n = len(steps) + 1
    if n == 2:
        a = first if first is not None else (3 * rises[0] - np.asarray(last)) / 2
        b = last if last is not None else (3 * rises[0] - np.asarray(first)) / 2
        return np.array([a, b])
    matrix, right = np.zeros((n, n)), np.zeros((n, rises.shape[1]))
    for i in range(1, n - 1):
        matrix[i, i - 1 : i + 2] = steps[i], 2 * (steps[i - 1] + steps[i]), steps[i - 1]
        right[i] = 3 * (steps[i] * rises[i - 1] + steps[i - 1] * rises[i])
    for given, at, next_, a, b in ((first, 0, 1, 0, 1), (last, n - 1, n - 2, -1, -2)):
        if given is not None:
            matrix[at, at], right[at] = 1.0, given
        elif n == 3:
            matrix[at, at], matrix[at, next_], right[at] = 2.0, 1.0, 3 * rises[a]
        else:
            near, beyond = steps[a], steps[b]
            both = near + beyond
            matrix[at, at], matrix[at, next_] = beyond, both
            right[at] = ((near + 2 * both) * beyond * rises[a] + near**2 * rises[b]) / both
    return np.asarray(np.linalg.solve(matrix, right), dtype=float)


def _cone(direction: Array, a: Array, b: Array) -> tuple[Array, Array]:
    """Shares of unit chords a and b (n, d) in directions (n, d), up to a positive factor; negative outside of them."""
    ab, sa, sb = (a * b).sum(axis=-1), (direction * a).sum(axis=-1), (direction * b).sum(axis=-1)
    return sa - ab * sb, sb - ab * sa


def _between(direction: Array, a: Array, b: Array) -> Array:
    """The unit direction nearest to one given that lies between two unit chords."""
    of_a, of_b = (float(s) for s in _cone(direction, a, b))
    if of_a <= 0 or of_b <= 0:
        if of_a <= 0 < of_b:
            return b
        middle: Array = a if of_b <= 0 < of_a else (a + b) / float(np.linalg.norm(a + b))
        return middle
    flat = of_a * a + of_b * b
    result: Array = flat / np.linalg.norm(flat)
    return result


def _worst_swing(rises: Array, slopes: Array, given: dict[int, Array]) -> tuple[int, Array] | None:
    """The point whose tangent lies farthest outside its chords though the curve turns one way about it, and the tangent
    that it should have; None where there is none."""
    a, b = rises[:-1], rises[1:]
    ab = (a * b).sum(axis=1)
    ends = np.concatenate([[True], ab[:-1] * ab[1:] - (rises[:-2] * rises[2:]).sum(axis=1) >= 0, [True]])
    tangent = slopes[1:] / np.maximum(lengths(slopes[1:])[:, None], 1e-12)
    of_a, of_b = _cone(tangent, a, b)
    sine = np.sqrt(np.maximum(1 - ab * ab, 1e-12))
    out = np.maximum(-of_a, -of_b) / sine
    out[~(ends[:-1] & ends[1:])] = 0.0
    for k in given:
        out[k - 1] = 0.0
    k = int(np.argmax(out))
    if out[k] <= OUTSIDE:
        return None
    return k + 1, _between(tangent[k], a[k], b[k])

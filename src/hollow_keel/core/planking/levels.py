"""The edges of a course: the lines on the hull along which as many strips lie between them and the guide.

Over the part of the hull between the guide and the line that the course ends on, every place has a number: how many strips'
widths it lies from the guide. Edges are the lines where it is whole; they end where that part ends, and whatever lies between
two of them is covered by their strip.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, BoolArray, IntArray, frozen, rising, rows_at
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import SurfaceLine, components
from .distance import DistanceField, Told
from .edges import EDGE_SAMPLES, SHARES, EdgePiece, asked_of, over_stretch
from .limits import Bounds, Limit

if TYPE_CHECKING:
    from .divided import Division

ALONG, ACROSS = 161, 49
SHORTEST_PIECE_MM = 1.0
MOST_PLACES = 81
SCRAP_SHARE = 0.03
BESIDE_MM = 5.0
ROUNDS = 5
MOST_ROUNDS, SETTLED_MM = 10, 1e-4
"""An end of an edge is looked for along the rim of the hull in so many rounds at most, and found to within so much."""
TORN_EACH, TORN = 8, 60
"""Edges in so many pieces for each strip, and so many at all, are torn: on a hull it is one or two."""
MOST_MOVE_MM, STILL_MM = 25.0, 0.1
PAST_END_MM = 60.0
"""What lies past the end of a line lies no farther from it than that."""
STILL_SHARE = 0.1
"""A place nearer to the one before than such a share of what is usual stands still."""
CORNER_TURN, BORNE_OUT = 0.3, 1e-4
"""Edge-sets, 1/mm, that differ by no more are one."""
LEAST_STEP_MM = 1e-6
"""Two places of an edge that were settled onto one are so far apart."""
LEAST_GAP, CLOSED_MM = 1e-9, 0.5
"""Where guide and limit lie no farther apart there is no girth to plank."""
CORNER = 1e-6


@dataclass(frozen=True)
class Patch:
    """The part of a panel that a course covers, from the guide (t = 0) to the line it ends on (t = 1)."""

    surface: TensorSurface
    guide: Limit
    far: Limit
    bounds: Bounds

    @classmethod
    def of(cls, surface: TensorSurface, guide: float | SurfaceLine, bounds: Bounds, upward: bool) -> Patch:
        """The part beyond a guide (a constant v, or a line)."""
        if isinstance(guide, float):
            own = Limit((bounds.low if upward else bounds.high).name, guide)
        else:
            from scipy.interpolate import CubicSpline

            keep = np.concatenate([[True], np.diff(guide.u) > LEAST_GAP])
            own = Limit("", 0.0, CubicSpline(guide.u[keep], guide.v[keep]))
        return cls(surface, own, bounds.far(upward), bounds)

    def places(self, u: Array, t: Array) -> tuple[Array, Array]:
        """Parameters u and v at places of the patch, (n,) each; t runs from 0 at the guide to 1."""
        start = self.guide.at(u)
        return u, start + t * (self._end(u, start) - start)

    def open_at(self, u: Array) -> BoolArray:
        """Whether the line that the course ends on lies ahead of the guide at parameters u (n,)."""
        start = self.guide.at(u)
        return np.asarray(np.abs(self._end(u, start) - start) > LEAST_GAP)

    def followed(self, field: DistanceField, u: Array) -> BoolArray:
        """At which parameters u (n,) strips follow the guide: where a sheer or a keel turns too sharply for them they run out
        on it, past the last ray that starts from it."""
        first, last = field.guided
        return (u >= first) & (u <= last)

    def is_on_guide(self, uv: Array) -> bool:
        """Whether a place (2,) lies on the guide, short of the hull's ends."""
        return bool(CORNER < uv[0] < 1 - CORNER and abs(uv[1] - self.guide.at(uv[:1])[0]) < CORNER)

    def _end(self, u: Array, start: Array) -> Array:
        """v of the line that the course ends on; never behind the guide."""
        stop = self.far.at(u)
        ahead: Array = np.maximum(stop, start) if self.far is self.bounds.high else np.minimum(stop, start)
        return ahead


@dataclass(frozen=True)
class Grid:
    """Over an even grid of u and t of a patch: the distance from the guide, mm, the guide parameter square to it, and how many mm
    of the hull along the front a unit of that is, (ALONG, ACROSS) each."""

    distance: Array
    g: Array
    stretch: Array

    @classmethod
    def of(cls, patch: Patch, field: DistanceField) -> Grid:
        """Asked of a field."""
        u, t = np.meshgrid(np.linspace(0, 1, ALONG), np.linspace(0, 1, ACROSS), indexing="ij")
        distance, g, stretch = field.stretched(patch.surface.points(*patch.places(u.ravel(), t.ravel())))
        distance = distance.reshape(u.shape)
        distance[patch.followed(field, u[:, 0]), 0] = 0.0  # the guide itself
        return cls(distance, g.reshape(u.shape), stretch.reshape(u.shape))

    def numbers(self, division: Division) -> Array:
        """How many strips lie between the guide and each place, (ALONG, ACROSS); none where the guide has come to the line that the
        course ends on."""
        numbers = division.number(self.distance.ravel(), self.g.ravel()).reshape(self.g.shape)
        numbers[self.distance.max(axis=1) < CLOSED_MM] = np.nan
        return numbers


def greatest(patch: Patch, field: DistanceField, division: Division, numbers: Array) -> float:
    """The greatest number of strips from the guide anywhere on the patch (`numbers` (nu, nt) on its grid), between the places of
    the grid too."""
    if np.isnan(numbers).all():
        return 0.0
    i, j = np.unravel_index(int(np.nanargmax(numbers)), numbers.shape)
    u, t = float(i) / (ALONG - 1), float(j) / (ACROSS - 1)
    reach_u, reach_t = 1.0 / (ALONG - 1), 1.0 / (ACROSS - 1)
    best = float(numbers[i, j])
    for _ in range(4):
        us = np.clip(u + reach_u * np.linspace(-1, 1, 9), 0, 1)
        ts = np.clip(t + reach_t * np.linspace(-1, 1, 9), 0, 1)
        a, b = (x.ravel() for x in np.meshgrid(us, ts, indexing="ij"))
        tried = division.number(*field.feet(patch.surface.points(*patch.places(a, b))))
        k = int(np.argmax(tried))
        if tried[k] > best:
            best, u, t = float(tried[k]), float(a[k]), float(b[k])
        reach_u, reach_t = reach_u / 4, reach_t / 4
    return best


def level_pieces(
    patch: Patch, field: DistanceField, division: Division, numbers: Array, edges: Sequence[int], tick: Callable[[], None]
) -> list[list[EdgePiece]]:
    """The pieces of some edges of a division (`numbers` (nu, nt) of strips on the patch's grid), bow end first and from the bow on.
    Raises ImpossiblePlan where torn."""
    from contourpy import contour_generator

    generator = contour_generator(z=np.ma.masked_invalid(numbers.T), name="serial")
    lines: list[tuple[int, Array]] = []
    for k, edge in enumerate(edges):
        for line in generator.lines(float(edge)):
            own = np.asarray(line) / [ALONG - 1, ACROSS - 1]
            lines.append((k, _densified(own[::-1] if own[0, 0] > own[-1, 0] else own)))
    if not lines:
        return [[] for _ in edges]
    _check_torn(patch, lines, len(edges))
    cuts = np.cumsum([len(line) for _, line in lines])[:-1]
    every = np.concatenate([line for _, line in lines])
    wanted = np.concatenate([np.full(len(line), edges[k]) for k, line in lines])
    u, t = _ends_settled(patch, field, division, wanted, every[:, 0], every[:, 1])
    drawn = [
        _Drawn(
            k,
            *patch.places(us, ts),
            (_end_name(patch, us[0], ts[0]), _end_name(patch, us[-1], ts[-1])),
            (_on_rim(us[0], ts[0]), _on_rim(us[-1], ts[-1])),
        )
        for (k, _), us, ts in zip(lines, np.split(u, cuts), np.split(t, cuts), strict=True)
    ]
    made = _made(patch.surface, field, drawn, _Settling(division, edges, tick))
    return [_without_scraps(pieces) for pieces in made]


def _check_torn(patch: Patch, lines: list[tuple[int, Array]], levels: int) -> None:
    """Raises ImpossiblePlan where edges are in so many pieces that no strips come of them: they would be worked on for minutes."""
    if len(lines) <= max(TORN, TORN_EACH * levels):
        return
    shortest = min((line for _, line in lines), key=len)
    at = shortest[len(shortest) // 2]
    u, v = patch.places(at[:1], at[1:])
    place = float(patch.surface.points(u, v)[0, 0])
    raise torn(place, f"{len(lines)} for {levels} strips", "Else choose another guide.")


def torn(place: float, pieces: str, instead: str) -> ImpossiblePlan:
    """That strips cannot follow the lines of a guide: at which `place`, mm along the hull, in how many pieces, and the mend."""
    return ImpossiblePlan(
        f"These strips would not cover the hull: near position {mm(round(place))} lines that follow this guide fall into pieces "
        f"({pieces}). Look at the offsets there. {instead}"
    )


@dataclass(frozen=True)
class _Settling:
    """What edges are settled onto: the division, its edges by level, and what is told of it."""

    division: Division
    edges: Sequence[int]
    tick: Callable[[], None]


@dataclass(frozen=True)
class _Drawn:
    """A line on the hull: which level it belongs to, u and v along it, what it ends on, and whether its ends lie there already."""

    level: int
    u: Array
    v: Array
    ends: tuple[str, str]
    held: tuple[bool, bool] = (True, True)


def _without_scraps(pieces: list[EdgePiece]) -> list[EdgePiece]:
    """Without the short pieces that come off a limit and run back into it beside a long one, or that lie in the corner where it
    ends: there the edge runs along the limit."""
    longest = max(pieces, key=lambda p: p.length, default=None)
    if longest is None:
        return pieces
    ends = longest.points[[0, -1]]

    def is_scrap(piece: EdgePiece) -> bool:
        own = piece.points[[0, -1]]
        short = float(np.linalg.norm(own[1] - own[0])) < SCRAP_SHARE * longest.length
        beside = float(np.linalg.norm(own[:, None] - ends[None], axis=2).min()) < BESIDE_MM
        return short and (piece.starts == piece.ends or beside)

    return [p for p in pieces if p is longest or not is_scrap(p)]


def guide_pieces(patch: Patch, field: DistanceField, first: list[EdgePiece]) -> list[EdgePiece]:
    """The guide itself as an edge, as far as its strip reaches along it: where the `first` edge from it runs out on it, or to the
    hull's ends."""
    low, high = (0.0, patch.bounds.bow), (1.0, patch.bounds.stern)
    if first and patch.is_on_guide(first[0].uv[0]):
        low = float(first[0].uv[0, 0]), first[0].starts
    if first and patch.is_on_guide(first[-1].uv[-1]):
        high = float(first[-1].uv[-1, 0]), first[-1].ends
    u = np.linspace(low[0], high[0], 2 * EDGE_SAMPLES)
    line = _Drawn(0, *patch.places(u, np.zeros_like(u)), (low[1], high[1]))
    return _made(patch.surface, field, [line], None)[0]


def limit_pieces(patch: Patch, field: DistanceField, division: Division) -> list[EdgePiece]:
    """The line that a course ends on as the last edge of its division, over the hull's whole length."""
    u = np.linspace(0.0, 1.0, 2 * EDGE_SAMPLES)
    line = _Drawn(0, *patch.places(u, np.ones_like(u)), (patch.bounds.bow, patch.bounds.stern))
    return _made(patch.surface, field, [line], None, _Settling(division, [division.count], lambda: None))[0]


def _densified(line: Array) -> Array:
    """As many places as an edge is drawn with, its own ends among them; a short line has fewer."""
    count = int(np.clip(2 * len(line), MOST_PLACES // 4, MOST_PLACES))
    at = np.linspace(0, len(line) - 1, count)
    return rows_at(at, np.arange(float(len(line))), line)


def _end_name(patch: Patch, u: float, t: float) -> str:
    if u < CORNER:
        return patch.bounds.bow
    if u > 1 - CORNER:
        return patch.bounds.stern
    return patch.far.name if t > 0.5 else patch.guide.name or "seam"


def _on_rim(u: float, t: float) -> bool:
    return t > 1 - CORNER or t < CORNER or u < CORNER or u > 1 - CORNER


def _ends_settled(
    patch: Patch, field: DistanceField, division: Division, edge: IntArray, u: Array, t: Array
) -> tuple[Array, Array]:
    """Places (n,) of lines, those on the rim of the patch moved along it to where `edge` (n,) comes to it."""
    beside = (t > 1 - CORNER) | (t < CORNER)
    along_u = beside & (u > CORNER) & (u < 1 - CORNER)  # on the line that the course ends on, or on its guide
    rim = np.flatnonzero(along_u | (u < CORNER) | (u > 1 - CORNER))
    if not len(rim):
        return u, t
    along, place = along_u[rim], np.where(along_u[rim], u[rim], t[rim])

    def beyond(some: IntArray, at: Array) -> Array:
        own = rim[some]
        own_u, own_t = np.where(along[some], at, u[own]), np.where(along[some], t[own], at)
        return _beyond(patch, field, division, edge[own], own_u, own_t)

    step = np.where(along, 0.25 / ALONG, 0.25 / ACROSS)
    u, t = u.copy(), t.copy()
    settled = _roots(beyond, place, step)
    u[rim], t[rim] = np.where(along, settled, u[rim]), np.where(along, t[rim], settled)
    return u, t


def _roots(off: Callable[[IntArray, Array], Array], start: Array, step: Array) -> Array:
    """Places from 0 to 1 near `start` (n,) where `off`(which of the n, their places) is nothing: by secants, the first over a
    `step` (n,), in no more than four of them a round, and never past a place on whose other side it was seen; a place from which
    no secant leads anywhere is kept."""
    some = np.arange(len(start))
    before, at = start, start + np.where(start > 0.5, -step, step)
    was, now = off(some, before), off(some, at)
    low, high = np.where(was < 0, before, np.nan), np.where(was > 0, before, np.nan)
    result, least = before.copy(), np.abs(was)
    for _ in range(MOST_ROUNDS):
        low[some], high[some] = np.where(now < 0, at, low[some]), np.where(now > 0, at, high[some])
        better = np.abs(now) < least[some]
        result[some[better]], least[some[better]] = at[better], np.abs(now[better])
        slope = (now - was) / np.where(at == before, 1.0, at - before)
        going = (least[some] > SETTLED_MM) & (at != before) & (np.abs(slope) > 1e-3)
        if not going.any():
            break
        some, at, now, slope = some[going], at[going], now[going], slope[going]
        ahead = np.clip(at + np.clip(-now / slope, -4 * step[some], 4 * step[some]), 0.0, 1.0)
        first, last = np.minimum(low[some], high[some]), np.maximum(low[some], high[some])
        outside = (ahead <= first) | (ahead >= last)  # false where it was seen on one side only
        before, was, at = at, now, np.where(outside, (first + last) / 2, ahead)
        now = off(some, at)
    return result


def _beyond(patch: Patch, field: DistanceField, division: Division, edge: IntArray, u: Array, t: Array) -> Array:
    """How far places (n,) lie beyond edges by their numbers, mm along the ray."""
    distance, g = field.feet(patch.surface.points(*patch.places(u, t)))
    return distance - division.at(edge, g)


def _made(
    surface: TensorSurface, field: DistanceField, drawn: list[_Drawn], settling: _Settling | None, leaning: _Settling | None = None
) -> list[list[EdgePiece]]:
    """Lines as edge pieces, by level, from the bow on; moved onto edges of a division where there are any to settle on, or only
    `leaning` as they do."""
    kept: list[tuple[_Drawn, Array]] = []
    cuts = np.cumsum([len(line.u) for line in drawn])[:-1]
    drawn_points = surface.points(np.concatenate([d.u for d in drawn]), np.concatenate([d.v for d in drawn]))
    for line, points in zip(drawn, np.split(drawn_points, cuts), strict=True):
        far = np.concatenate([[True], np.linalg.norm(np.diff(points, axis=0), axis=1) > 1e-6])
        far &= _between_ends(points)
        run = _arc_lengths(points[far]) if far.sum() > 2 else np.zeros(1)
        if run[-1] >= SHORTEST_PIECE_MM:
            uv = np.column_stack([line.u, line.v])[far]
            kept.append((line, _placed(run, uv, exact=settling is None)))
    found: list[list[EdgePiece]] = [[] for _ in (settling.edges if settling else (0,))]
    if not kept:
        return found
    every = np.concatenate([uv for _, uv in kept])
    if settling is not None:
        edge = np.repeat([settling.edges[line.level] for line, _ in kept], EDGE_SAMPLES)
        held = [line.held for line, _ in kept]
        every, told = _settled(surface, field, settling, edge, every, np.array(held))
        jet = surface.jet(every[:, 0], every[:, 1])
    else:
        jet = surface.jet(every[:, 0], every[:, 1])
        told = field.at(jet.point)
    points = jet.point.reshape(len(kept), EDGE_SAMPLES, 3)
    moved = np.concatenate([_moving_on(uv, own) for uv, own in zip(np.split(every, len(kept)), points, strict=True)])
    if not np.array_equal(moved, every):
        every = moved
        jet = surface.jet(every[:, 0], every[:, 1])
        told = field.at(jet.point)
        points = jet.point.reshape(len(kept), EDGE_SAMPLES, 3)
    runs = np.array([_arc_lengths(own) for own in points]) + np.arange(EDGE_SAMPLES) * LEAST_STEP_MM
    shape = points.shape
    curvatures = asked_of(points, jet.normal.reshape(shape), told.ray.reshape(shape), runs)
    onto = settling or leaning
    if onto is None or onto.division.is_parallel:
        _as_fronts_tell(curvatures, runs, told.edge_set.reshape(shape[:2]))
    for n, (line, _) in enumerate(kept):
        if runs[n, -1] < SHORTEST_PIECE_MM:
            continue
        rows = slice(n * EDGE_SAMPLES, (n + 1) * EDGE_SAMPLES)
        piece = _edge(points[n], every[rows], runs[n], told.g[rows], curvatures[n], line.ends)
        found[line.level].append(piece)
    return [sorted(pieces, key=lambda p: float(p.points[:, 0].min())) for pieces in found]


def _between_ends(points: Array) -> BoolArray:
    """Which places of a line (n, 3) lie between its ends: where an end was moved in along the rim of the hull, those beside it
    may lie past it."""
    result = np.ones(len(points), dtype=bool)
    for own, keep in ((points, result), (points[::-1], result[::-1])):
        away = own - own[0]
        clear = np.flatnonzero((away * away).sum(axis=1) > PAST_END_MM**2)
        many = int(clear[0]) if len(clear) else len(own) // 2
        ahead = away[1 : many + 1] @ away[many]
        keep[1:many] &= rising(np.concatenate([[0.0], ahead]), 0.0)[1:-1] if many > 1 else True
    return result


def _as_fronts_tell(curvatures: Array, runs: Array, edge_set: Array) -> None:
    """Put the edge-set (lines, m) that fronts tell of lines of equal distance in the place of what was measured of them, where it
    is borne out: it is free of the last hundredths of a millimetre of the drawing."""
    for own, run, told in zip(curvatures, runs, edge_set, strict=True):
        mean = over_stretch(run, told[:, None])[:, 0]
        same = np.abs(mean - own[:, 0]) < BORNE_OUT
        own[same, 0] = mean[same]


def _settled(
    surface: TensorSurface, field: DistanceField, settling: _Settling, edge: IntArray, uv: Array, held: BoolArray
) -> tuple[Array, Told]:
    """Places (n, 2) moved along the rays onto their `edge` (n,), but for the ends of lines that are `held` (lines, 2): they were
    settled along the rim before. Those that moved far are told once more."""
    moving = np.ones(len(uv), dtype=bool)
    moving[::EDGE_SAMPLES], moving[EDGE_SAMPLES - 1 :: EDGE_SAMPLES] = ~held.T
    told: Told | None = None
    some = np.arange(len(uv))
    for _ in range(ROUNDS - 1):
        settling.tick()
        jet = surface.jet(uv[some, 0], uv[some, 1])
        now = field.at(jet.point)
        off = settling.division.at(edge[some], now.g) - now.distance
        move = np.clip(np.where(moving[some], off, 0.0), -MOST_MOVE_MM, MOST_MOVE_MM)
        uv = uv.copy()
        uv[some] = np.clip(uv[some] + move[:, None] * np.column_stack(components(jet, now.ray)), 0.0, 1.0)
        told = now if told is None else told.put(some, now)
        some = some[np.abs(move) > STILL_MM]
        if not len(some):
            break
    assert told is not None
    return uv, told


def _edge(points: Array, uv: Array, run: Array, g: Array, curvatures: Array, ends: tuple[str, str]) -> EdgePiece:
    at = g if g[-1] >= g[0] else g[::-1]
    at = np.maximum.accumulate(at) + np.arange(len(at)) * 1e-9
    most = np.abs(curvatures).max(axis=0)
    return EdgePiece(
        points=frozen(points),
        at=frozen(at),
        g=(float(at[0]), float(at[-1])),
        length=float(run[-1]),
        starts=ends[0],
        ends=ends[1],
        edge_set=float(most[0]),
        bend=float(most[1]),
        twist=float(most[2]),
        run=frozen(run),
        curvatures=frozen(curvatures),
        uv=frozen(uv),
    )


def _placed(run: Array, uv: Array, *, exact: bool) -> Array:
    """EDGE_SAMPLES places along a line, closer at its ends, where they are to be `exact` by cubics through its own."""
    wanted = run[-1] * SHARES
    if len(run) < 6 or not exact:
        return rows_at(wanted, run, uv)
    from scipy.interpolate import Akima1DInterpolator

    result: Array = Akima1DInterpolator(run, uv)(wanted)
    return result


def _moving_on(uv: Array, points: Array) -> Array:
    """The places (EDGE_SAMPLES, 2) of a line with `points` (EDGE_SAMPLES, 3) where none stands still beside the one before: settled
    onto the rim of the hull several may have come to one place."""
    step = np.linalg.norm(np.diff(points, axis=0), axis=1)
    usual = step.sum() * np.diff(SHARES)
    if (step > STILL_SHARE * usual).all():
        return uv
    goes = np.concatenate([[True], step > STILL_SHARE * usual])
    goes[-1] = True
    run = np.concatenate([[0.0], np.cumsum(step)])[goes]
    apart = np.concatenate([[True], np.diff(run) > LEAST_STEP_MM])
    if apart.sum() < 2:
        return uv
    return rows_at(run[-1] * SHARES, run[apart], uv[goes][apart])


def _arc_lengths(points: Array) -> Array:
    """Length along a smooth line at each of its points: of the circle's arc through it and its neighbours rather than the chord."""
    step = np.diff(points, axis=0)
    chord = np.linalg.norm(step, axis=1)
    cosine = (step[1:] * step[:-1]).sum(axis=1) / np.maximum(chord[1:] * chord[:-1], 1e-12)
    turn = np.arccos(np.clip(cosine, -1.0, 1.0))
    own = np.concatenate([turn[:1], (turn[1:] + turn[:-1]) / 2, turn[-1:]]) if len(turn) else np.zeros(len(chord))
    own = np.where(own < CORNER_TURN, own, 0.0)  # a corner is no arc
    return np.concatenate([[0.0], np.cumsum(chord * (1 + own**2 / 24))])

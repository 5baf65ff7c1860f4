"""The edges of a course: the lines on the hull along which as many strips lie between them and the guide.

Over the part of the hull between the guide and the line that the course ends on, every place has a number: how many strips'
widths it lies from the guide. Edges are the lines where it is whole; they end where that part ends, and whatever lies between
two of them is covered by their strip.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, frozen, rows_at
from ..geometry.surface import Jet, TensorSurface, cross, dot
from ..geometry.surface_line import SurfaceLine, components
from .distance import DistanceField, Told
from .edges import EDGE_SAMPLES, END_SHARE, EdgePiece
from .limits import Bounds, Limit

ALONG, ACROSS = 161, 65
SHORTEST_PIECE_MM = 1.0
MOST_PLACES = 81
SCRAP_SHARE = 0.03
BESIDE_MM = 5.0
ROUNDS = 3
TORN_EACH, TORN = 8, 60
"""Edges in so many pieces for each strip, and so many at all, are torn: on a hull it is one or two."""
MOST_MOVE_MM, STILL_MM = 10.0, 0.03
CORNER_TURN = 0.3
LEAST_STEP_MM = 1e-6
"""Two places of an edge that were settled onto one are so far apart."""
LEAST_GAP = 1e-9
CORNER = 1e-6

Number = Callable[[Array, Array], Array]
"""How many strips lie between the guide and a place, from its distance (mm) and its guide parameter."""


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
            own = Limit("", guide)
        else:
            from scipy.interpolate import CubicSpline

            keep = np.concatenate([[True], np.diff(guide.u) > LEAST_GAP])
            own = Limit("", 0.0, CubicSpline(guide.u[keep], guide.v[keep]))
        return cls(surface, own, bounds.far(upward), bounds)

    def places(self, u: Array, t: Array) -> tuple[Array, Array]:
        """Parameters u and v at places of the patch, (n,) each; t runs from 0 at the guide to 1."""
        start = self.guide.at(u)
        return u, start + t * (self._end(u, start) - start)

    def _end(self, u: Array, start: Array) -> Array:
        """v of the line that the course ends on; never behind the guide."""
        stop = self.far.at(u)
        ahead: Array = np.maximum(stop, start) if self.far is self.bounds.high else np.minimum(stop, start)
        return ahead


def grid_numbers(patch: Patch, field: DistanceField, number: Number) -> Array:
    """The number of strips from the guide over an even grid of u and t, (ALONG, ACROSS)."""
    u, t = np.meshgrid(np.linspace(0, 1, ALONG), np.linspace(0, 1, ACROSS), indexing="ij")
    points = patch.surface.points(*patch.places(u.ravel(), t.ravel()))
    numbers = number(*field.feet(points)).reshape(u.shape)
    numbers[:, 0] = np.minimum(numbers[:, 0], 0.0)  # the guide itself
    return numbers


def greatest(patch: Patch, field: DistanceField, number: Number, numbers: Array) -> float:
    """The greatest number of strips from the guide anywhere on the patch (`numbers` (nu, nt) on its grid), between the places of
    the grid too."""
    i, j = np.unravel_index(int(np.argmax(numbers)), numbers.shape)
    u, t = float(i) / (ALONG - 1), float(j) / (ACROSS - 1)
    reach_u, reach_t = 1.0 / (ALONG - 1), 1.0 / (ACROSS - 1)
    best = float(numbers[i, j])
    for _ in range(4):
        us = np.clip(u + reach_u * np.linspace(-1, 1, 9), 0, 1)
        ts = np.clip(t + reach_t * np.linspace(-1, 1, 9), 0, 1)
        a, b = (x.ravel() for x in np.meshgrid(us, ts, indexing="ij"))
        tried = number(*field.feet(patch.surface.points(*patch.places(a, b))))
        k = int(np.argmax(tried))
        if tried[k] > best:
            best, u, t = float(tried[k]), float(a[k]), float(b[k])
        reach_u, reach_t = reach_u / 4, reach_t / 4
    return best


def level_pieces(
    patch: Patch, field: DistanceField, number: Number, numbers: Array, levels: list[float], tick: Callable[[], None],
    *, tapering: bool,
) -> list[list[EdgePiece]]:  # fmt: skip
    """The pieces of the edges at `levels` (numbers of strips from the guide; `numbers` (nu, nt) on the patch's grid), bow end first
    and from the bow on; `tapering` where they are not all of equal distance from the guide. Raises ImpossiblePlan where torn."""
    from contourpy import contour_generator

    generator = contour_generator(z=numbers.T, name="serial")
    lines: list[tuple[int, Array]] = []
    for k, level in enumerate(levels):
        for line in generator.lines(level):
            own = np.asarray(line) / [ALONG - 1, ACROSS - 1]
            lines.append((k, _densified(own[::-1] if own[0, 0] > own[-1, 0] else own)))
    if not lines:
        return [[] for _ in levels]
    _check_torn(patch, lines, len(levels))
    cuts = np.cumsum([len(line) for _, line in lines])[:-1]
    every = np.concatenate([line for _, line in lines])
    wanted = np.concatenate([np.full(len(line), levels[k]) for k, line in lines])
    u, t = _ends_settled(patch, field, number, wanted, every[:, 0], every[:, 1])
    drawn = [
        _Drawn(k, *patch.places(us, ts), (_end_name(patch, us[0], ts[0]), _end_name(patch, us[-1], ts[-1])))
        for (k, _), us, ts in zip(lines, np.split(u, cuts), np.split(t, cuts), strict=True)
    ]
    made = _made(patch.surface, field, drawn, _Settling(number, levels, tick), tapering=tapering)
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
    """What edges are settled onto: the number, its values by level, and what is told of it."""

    number: Number
    levels: list[float]
    tick: Callable[[], None]


@dataclass(frozen=True)
class _Drawn:
    """A line on the hull: which level it belongs to, u and v along it, what it ends on."""

    level: int
    u: Array
    v: Array
    ends: tuple[str, str]


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


def guide_pieces(patch: Patch, field: DistanceField) -> list[EdgePiece]:
    """The guide itself as an edge, over the hull's whole length."""
    u = np.linspace(0.0, 1.0, 2 * EDGE_SAMPLES)
    line = _Drawn(0, *patch.places(u, np.zeros_like(u)), (patch.bounds.bow, patch.bounds.stern))
    return _made(patch.surface, field, [line], None, tapering=False)[0]


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
    return patch.far.name if t > 0.5 else "seam"


def _ends_settled(
    patch: Patch, field: DistanceField, number: Number, level: Array, u: Array, t: Array
) -> tuple[Array, Array]:
    """Places (n,) of lines, those on the rim of the patch moved along it to where the number is `level`."""
    along_u = (t > 1 - CORNER) & (u > CORNER) & (u < 1 - CORNER)  # on the line that the course ends on
    rim = np.flatnonzero(along_u | (u < CORNER) | (u > 1 - CORNER))
    if not len(rim):
        return u, t
    own_u, own_t, along = u[rim], t[rim], along_u[rim]
    step = np.where(along, 0.25 / ALONG, 0.25 / ACROSS)
    back = np.where(np.where(along, own_u, own_t) > 0.5, -step, step)
    for n in range(ROUNDS):
        here = _number_at(patch, field, number, own_u, own_t)
        if n == 0:
            tried = own_u + np.where(along, back, 0.0), own_t + np.where(along, 0.0, back)
            slope = (_number_at(patch, field, number, *tried) - here) / back
            steep = np.abs(slope) > 1e-6
        move = np.where(steep, (level[rim] - here) / np.where(steep, slope, 1.0), 0.0)
        move = np.clip(move, -4 * step, 4 * step)
        own_u = np.where(along, np.clip(own_u + move, 0.0, 1.0), own_u)
        own_t = np.where(along, own_t, np.clip(own_t + move, 0.0, 1.0))
    u, t = u.copy(), t.copy()
    u[rim], t[rim] = own_u, own_t
    return u, t


def _number_at(patch: Patch, field: DistanceField, number: Number, u: Array, t: Array) -> Array:
    return number(*field.feet(patch.surface.points(*patch.places(u, t))))


def _made(
    surface: TensorSurface,
    field: DistanceField,
    drawn: list[_Drawn],
    settling: _Settling | None,
    *,
    tapering: bool,
) -> list[list[EdgePiece]]:
    """Lines as edge pieces at even steps of their length, by level, from the bow on; moved onto levels where there are any."""
    kept: list[tuple[_Drawn, Array]] = []
    cuts = np.cumsum([len(line.u) for line in drawn])[:-1]
    drawn_points = surface.points(np.concatenate([d.u for d in drawn]), np.concatenate([d.v for d in drawn]))
    for line, points in zip(drawn, np.split(drawn_points, cuts), strict=True):
        far = np.concatenate([[True], np.linalg.norm(np.diff(points, axis=0), axis=1) > 1e-6])
        run = _arc_lengths(points[far]) if far.sum() > 2 else np.zeros(1)
        if run[-1] >= SHORTEST_PIECE_MM:
            uv = np.column_stack([line.u, line.v])[far]
            kept.append((line, _evened(run, uv, exact=settling is None)))
    found: list[list[EdgePiece]] = [[] for _ in (settling.levels if settling else (0.0,))]
    if not kept:
        return found
    every = np.concatenate([uv for _, uv in kept])
    if settling is not None:
        level = np.repeat([settling.levels[line.level] for line, _ in kept], EDGE_SAMPLES)
        every, told = _settled(surface, field, settling, level, every)
        jet = surface.jet(every[:, 0], every[:, 1])
    else:
        jet = surface.jet(every[:, 0], every[:, 1])
        told = field.at(jet.point)
    points = jet.point.reshape(len(kept), EDGE_SAMPLES, 3)
    runs = np.array([_arc_lengths(own) for own in points]) + np.arange(EDGE_SAMPLES) * LEAST_STEP_MM
    curvatures = _curvatures(jet, runs, told, tapering=tapering).reshape(len(kept), EDGE_SAMPLES, 3)
    for n, (line, _) in enumerate(kept):
        rows = slice(n * EDGE_SAMPLES, (n + 1) * EDGE_SAMPLES)
        piece = _edge(points[n], every[rows], runs[n], told.g[rows], curvatures[n], line.ends)
        found[line.level].append(piece)
    return [sorted(pieces, key=lambda p: float(p.points[:, 0].min())) for pieces in found]


def _settled(
    surface: TensorSurface, field: DistanceField, settling: _Settling, level: Array, uv: Array
) -> tuple[Array, Told]:
    """Places (n, 2) moved along the rays to where the number is `level` (n,); ends were settled along the rim before. Those that
    moved far are told once more."""
    moving = np.ones(len(uv), dtype=bool)
    moving[::EDGE_SAMPLES] = moving[EDGE_SAMPLES - 1 :: EDGE_SAMPLES] = False
    told: Told | None = None
    some = np.arange(len(uv))
    for _ in range(ROUNDS - 1):
        settling.tick()
        jet = surface.jet(uv[some, 0], uv[some, 1])
        now = field.at(jet.point)
        here = settling.number(now.distance, now.g)
        rate = settling.number(now.distance + 1.0, now.g) - here  # a millimetre farther
        sound = np.isfinite(rate) & (rate > 1e-9) & moving[some]
        move = np.where(sound, (level[some] - here) / np.where(sound, rate, 1.0), 0.0)
        move = np.clip(move, -MOST_MOVE_MM, MOST_MOVE_MM)
        uv = uv.copy()
        uv[some] = np.clip(uv[some] + move[:, None] * np.column_stack(components(jet, now.ray)), 0.0, 1.0)
        told = now if told is None else told.put(some, now)
        some = some[np.abs(move) > STILL_MM]
        if not len(some):
            break
    assert told is not None
    return uv, told


def _edge(
    points: Array, uv: Array, run: Array, g: Array, curvatures: Array, ends: tuple[str, str]
) -> EdgePiece:
    at = g if g[-1] >= g[0] else g[::-1]
    at = np.maximum.accumulate(at) + np.arange(len(at)) * 1e-9
    inner = (run >= END_SHARE * run[-1]) & (run <= (1 - END_SHARE) * run[-1])
    most = np.abs(curvatures[inner]).max(axis=0) if inner.any() else np.zeros(3)
    return EdgePiece(
        points=frozen(points), at=frozen(at), g=(float(at[0]), float(at[-1])), length=float(run[-1]),
        starts=ends[0], ends=ends[1], edge_set=float(most[0]), bend=float(most[1]), twist=float(most[2]),
        run=frozen(run), curvatures=frozen(curvatures), uv=frozen(uv),
    )  # fmt: skip


def _evened(run: Array, uv: Array, *, exact: bool) -> Array:
    """EDGE_SAMPLES places at even steps along a line, where they are to be `exact` by cubics through its own."""
    even = np.linspace(0.0, run[-1], EDGE_SAMPLES)
    if len(run) < 6 or not exact:
        return rows_at(even, run, uv)
    from scipy.interpolate import Akima1DInterpolator

    result: Array = Akima1DInterpolator(run, uv)(even)
    return result


def _arc_lengths(points: Array) -> Array:
    """Length along a smooth line at each of its points: of the circle's arc through it and its neighbours rather than the chord."""
    step = np.diff(points, axis=0)
    chord = np.linalg.norm(step, axis=1)
    cosine = (step[1:] * step[:-1]).sum(axis=1) / np.maximum(chord[1:] * chord[:-1], 1e-12)
    turn = np.arccos(np.clip(cosine, -1.0, 1.0))
    own = (
        np.concatenate([turn[:1], (turn[1:] + turn[:-1]) / 2, turn[-1:]])
        if len(turn)
        else np.zeros(len(chord))
    )
    own = np.where(own < CORNER_TURN, own, 0.0)  # a corner is no arc
    return np.concatenate([[0.0], np.cumsum(chord * (1 + own**2 / 24))])


def _curvatures(jet: Jet, run: Array, told: Told, *, tapering: bool) -> Array:
    """Edge-set, bend and twist along lines of as many places each, whose lengths are `run` (lines, m), per mm, (lines · m, 3).
    Edge-set is that of the lines of equal distance where a line runs with them, and what it turns away from them besides.

    Source of the formulas: any textbook of differential geometry (Darboux frame of a curve on a surface)."""
    normal, ray, edge_set = jet.normal, told.ray, told.edge_set
    tangent = _slopes(jet.point.reshape(*run.shape, 3), run).reshape(-1, 3)
    tangent -= dot(tangent, normal)[:, None] * normal
    tangent /= np.maximum(np.linalg.norm(tangent, axis=1, keepdims=True), 1e-12)
    away = cross(normal, tangent)
    away *= np.where(dot(away, ray) < 0, -1.0, 1.0)[:, None]
    if tapering:
        lean = np.arcsin(np.clip(dot(tangent, ray), -1.0, 1.0))
        edge_set = edge_set - _slopes(lean.reshape(*run.shape, 1), run).ravel()
    tu, tv = components(jet, tangent)
    au, av = components(jet, away)
    ll, mm, nn = (dot(d, normal) for d in (jet.duu, jet.duv, jet.dvv))
    bend = -(ll * tu * tu + 2 * mm * tu * tv + nn * tv * tv)
    twist = ll * tu * au + mm * (tu * av + tv * au) + nn * tv * av
    return np.column_stack([edge_set, bend, twist])


def _slopes(values: Array, run: Array) -> Array:
    """Slopes of values (lines, m, d) over `run` (lines, m), to second order within, as numpy.gradient has them of one line."""
    step = np.diff(run, axis=1)[..., None]
    before, after = step[:, :-1], step[:, 1:]
    result = np.empty_like(values)
    result[:, 1:-1] = (
        values[:, :-2] * (-after / (before * (before + after)))
        + values[:, 1:-1] * ((after - before) / (before * after))
        + values[:, 2:] * (before / (after * (before + after)))
    )
    result[:, 0] = (values[:, 1] - values[:, 0]) / step[:, 0]
    result[:, -1] = (values[:, -1] - values[:, -2]) / step[:, -1]
    return result

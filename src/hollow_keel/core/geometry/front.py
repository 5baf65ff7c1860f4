"""Fronts of equal distance from a guide line, followed on the surface itself.

Geodesics are shot square off the guide, all at once, with their Jacobi field λ: the factor by which
the distance between neighbouring rays has grown. A front at distance d is the set of ray points at d;
its length is the integral of λ along the guide, its sideways curvature (edge-set) λ'/λ, its bend and
twist the second fundamental form. Nothing is ever found by differencing points.

Source of the equations: any textbook of differential geometry (geodesic polar coordinates; Jacobi
equation λ'' = -Kλ with λ(0) = 1 and λ'(0) = -κ_g of the guide).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from .arrays import Array, BoolArray, lengths
from .batch_spline import cubic_pieces
from .runge import stepped
from .surface import Jet, TensorSurface, cross, dot
from .surface_line import SurfaceLine, components, felt, second_form, straight_on

if TYPE_CHECKING:
    from scipy.interpolate import PPoly

STARTS = 129
SPACING = 1 / (STARTS - 1)
"""Distance between neighbouring starts in g."""
REGULAR = 1.6 * SPACING
"""Rays that are farther apart are no neighbours: some between them were lost."""
ASTERN_MM = 100.0
"""A ray is given up when it has gone so far off the hull."""
BESIDE = 0.25
"""A front that ends nearer to the hull's end than such a share of the way to the next ray ends there."""
PARTED_MM, PARTED_SHARE = 0.2, 0.01
"""An outermost ray that is farther from its neighbour's front has been where the surface tells no direction."""
MOST_BESIDE, SIDE_STEPS, SIDE_MM = 60, 4, 60.0
"""So many rays are added at the side of a front at most, each in so many steps and at most so far from the one before."""
LONGEST_STEP_MM, LONGEST_SHARE = 15.0, 1 / 360
"""Rays are followed in steps of at most so many mm, or of so great a share of the guide's length where that is more."""
FLAT_SINE = 0.4
"""Where a surface's two directions meet at so small an angle its normal is not to be trusted: no ray starts there."""
FARTHEST, STRAIGHT = 1.5, 0.8
"""A ray so far from the middle of the unit square, or one that starts beside another and points so elsewhere (a cosine), is
lost."""
LEAP = 1.05
"""A ray that has come farther in a step than this many steps has been lost at a corner of the surface."""
ASTRAY, LEAST_SPREAD = 0.04, 0.1
"""λ has gone astray where it differs so much from how the points spread; not asked where they have nearly met."""
GHOST_MM, GHOST_SHARE = 0.5, 0.04
"""A front point is a ghost if other rays reach it sooner by more than this and this share of the straight way
between; the share allows for the way over a round surface being longer than the straight one."""


@dataclass(frozen=True)
class Front:
    """All rays at one distance from the guide; arrays over the rays that live, at guide parameters g.

    `u`, `v` parameters and `du`, `dv` their change along the ray per mm;
    `stretch` = λ·|guide'| so that its integral over g is a length in mm;
    `edge_set`, `bend`, `twist` curvatures per mm (bend positive where the surface is convex outward);
    `point` (n, 3).
    """

    distance: float
    g: Array
    u: Array
    v: Array
    du: Array
    dv: Array
    stretch: Array
    edge_set: Array
    bend: Array
    twist: Array
    point: Array


@dataclass(frozen=True)
class _Rays:
    """Rays that live: where they start on the guide, how fast it runs there, their state, the surface under them."""

    g: Array
    speed: Array
    state: Array  # (6, n): u, v, du, dv, λ, λ'
    jet: Jet
    off: Array  # how far each has gone off the hull, mm

    def part(self, keep: BoolArray) -> _Rays:
        """Some of its n rays: where `keep` (n,) is true."""
        if keep.all():
            return self
        return _Rays(self.g[keep], self.speed[keep], self.state[:, keep], self.jet.part(keep), self.off[keep])


def propagate(
    surface: TensorSurface,
    guide: float | SurfaceLine,
    step: float | Callable[[int], float],
    tick: Callable[[float], None] = lambda _: None,
    *,
    upward: bool | None = None,
    most: int | None = None,
) -> list[Front]:
    """Fronts at 0, step, 2·step, … mm from a guide until none is left on the surface, or until there are `most` steps.

    The guide is the edge v = 0 or 1, or a line at places such as those of `starts()`; from a line fronts run `upward` (to larger v)
    or downward. Where the last ray of a front stands on the surface, short of its end, the front goes on beside it with the
    curvature that it has there, as a strip would: new rays start from it, at guide parameters beyond those of the guide. `step` may
    be a function of the step's number from 0. `tick` is told the distance reached and may raise to cancel.
    """
    if isinstance(guide, float):
        upward = guide < 0.5
        guide = SurfaceLine.level(starts(), guide)
    rays = _start(surface, guide, bool(upward))
    longest = max(LONGEST_STEP_MM, LONGEST_SHARE * float(np.linalg.norm(surface.grid[-1, -1] - surface.grid[0, -1])))
    fronts = [_front(rays, 0.0)]
    distance = 0.0
    while most is None or len(fronts) <= most:
        own = step(len(fronts) - 1) if callable(step) else step
        parts = max(1, int(np.ceil(own / longest)))
        for k in range(parts):
            rays = _advanced(surface, rays, own / parts)
            tick(distance + own * (k + 1) / parts)
        distance += own
        if len(rays.g) < 4:
            break
        rays = _widened(surface, _mended(rays))
        fronts.append(_front(rays, distance))
        u, v = rays.state[0], rays.state[1]
        if not np.any((u >= 0) & (u <= 1) & (v >= 0) & (v <= 1)):
            break
    return _without_ghosts(fronts)


def starts() -> Array:
    """Where rays start along a guide, as the parameter u, (n,): from one end of the hull to the other."""
    return np.linspace(0.0, 1.0, STARTS)


def _start(surface: TensorSurface, guide: SurfaceLine, upward: bool) -> _Rays:
    line = felt(surface, guide, upward)
    du, dv = components(line.jet, line.away)
    state = np.stack([guide.u, guide.v, du, dv, np.ones_like(du), -line.geodesic])
    return _Rays(guide.u, line.speed, state, line.jet, np.zeros_like(du))


def _rates(jet: Jet, state: Array) -> Array:
    """How the state changes per mm, from the surface under each ray."""
    _, _, du, dv, stretch, spread = state
    (e, f, uu_u, uv_u, vv_u), (_, g, uu_v, uv_v, vv_v), (*_, uu_vv), (*_, uv_uv, _), _ = jet.products()
    det = np.maximum(e * g - f * f, 1e-12)
    square, mixed, other = du * du, 2 * du * dv, dv * dv
    a = uu_u * square + uv_u * mixed + vv_u * other
    b = uu_v * square + uv_v * mixed + vv_v * other
    # LN - M² over det from inner products alone (Gauss): the part of duu·dvv - duv·duv that is square to the surface
    tangent = g * (uu_u * vv_u - uv_u * uv_u) + e * (uu_v * vv_v - uv_v * uv_v)
    tangent -= f * (uu_u * vv_v + uu_v * vv_u - 2 * uv_u * uv_v)
    gauss = (uu_vv - uv_uv - tangent / det) / det
    result = np.empty_like(state)
    result[0], result[1], result[4], result[5] = du, dv, spread, -gauss * stretch
    result[2], result[3] = (f * b - g * a) / det, (f * a - e * b) / det
    return result


def _advanced(surface: TensorSurface, rays: _Rays, h: float) -> _Rays:
    """The rays h mm on, by a step of Runge and Kutta; those that have left or met each other
    are dropped."""

    def at(_t: float, state: Array) -> Array:
        return _rates(surface.jet(state[0], state[1]), state)

    state = stepped(at, 0.0, rays.state, h, first=_rates(rays.jet, rays.state))
    alive = _alive(state)
    jet = surface.jet(state[0, alive], state[1, alive])
    # a ray walks a mm a mm: where the curvature jumps a step would lose or win a little, which adds up
    state[2:4, alive] /= lengths(jet.du * state[2, alive, None] + jet.dv * state[3, alive, None])
    walked = lengths(jet.point - rays.jet.point[alive])
    sound = walked <= LEAP * h
    if not sound.all():  # thrown across the surface where its two directions agree
        alive[np.flatnonzero(alive)[~sound]] = False
        jet = jet.part(sound)
    on = (np.abs(state[:2, alive] - 0.5) <= 0.5).all(axis=0)
    off = np.where(on, 0.0, rays.off[alive] + h)
    return _Rays(rays.g[alive], rays.speed[alive], state[:, alive], jet, off).part(off <= ASTERN_MM)


def _widened(surface: TensorSurface, rays: _Rays) -> _Rays:
    """The rays with those that start beside the outermost ones, where these stand on the surface short of its end: on a line with
    the front's own curvature. An outermost ray that has left the front of the others is dropped first."""
    for end in (0, -1):
        while len(rays.g) > 3 and _parted(rays, end):
            rays = rays.part(np.arange(len(rays.g)) != (0 if end == 0 else len(rays.g) - 1))
        for _ in range(MOST_BESIDE):
            if len(rays.g) < 2:
                return rays
            u, v = rays.state[:2, end].tolist()
            room = BESIDE * SPACING
            if not (room < u < 1 - room and 0.0 <= v <= 1.0):
                break
            beside = _beside(surface, rays, end)
            if beside is None:
                break
            rays = _joined(beside, rays) if end == 0 else _joined(rays, beside)
    return rays


def _parted(rays: _Rays, end: int) -> bool:
    """Whether the first (`end` 0) or the last (-1) of some rays stands on the surface, but not on the front that the next one tells
    of."""
    if np.abs(rays.state[:2, end] - 0.5).max() > 0.5:
        return False
    inner = 1 if end == 0 else -2
    jet = rays.jet.part(np.array([inner]))
    ray = jet.du[0] * rays.state[2, inner] + jet.dv[0] * rays.state[3, inner]
    off = rays.jet.point[end] - jet.point[0]
    gap, along = float(off @ off), float(off @ ray)
    own, outer = (float(rays.state[5, k] / rays.state[4, k]) for k in (inner, end))
    # as if the front kept the edge-set of the next one, or came evenly to its own
    away = min(abs(along + spread * (gap - along * along) / 2) for spread in (own, (2 * own + outer) / 3))
    return bool(away > PARTED_MM + PARTED_SHARE * gap**0.5)


def _joined(first: _Rays, second: _Rays) -> _Rays:
    fields = ("point", "du", "dv", "duu", "duv", "dvv")
    jet = Jet(*(np.concatenate([getattr(first.jet, f), getattr(second.jet, f)]) for f in fields))
    return _Rays(
        np.concatenate([first.g, second.g]),
        np.concatenate([first.speed, second.speed]),
        np.concatenate([first.state, second.state], axis=1),
        jet,
        np.concatenate([first.off, second.off]),
    )


def _beside(surface: TensorSurface, rays: _Rays, end: int) -> _Rays | None:
    """One more ray past the first (`end` 0) or the last (-1) of some; None where the surface does not go on."""
    inner = 1 if end == 0 else -2
    state, jet = rays.state[:, [end]], rays.jet.part(np.array([end]))
    ray = jet.du * state[2, :, None] + jet.dv * state[3, :, None]
    path = cross(ray, jet.normal)
    turn = float(np.sign((path[0] * (rays.jet.point[end] - rays.jet.point[inner])).sum()))
    du, dv = components(jet, turn * path)
    spread = float(state[5, 0] / state[4, 0])
    stretch = float(state[4, 0] * rays.speed[end])
    way = min(SPACING * stretch, SIDE_MM)

    def rates(_t: float, y: Array) -> Array:
        here = surface.jet(y[0], y[1])
        along = here.du * y[2][:, None] + here.dv * y[3][:, None]
        ahead = cross(here.normal, turn * along)  # where the ray points
        bent = components(here, -spread * ahead)
        straight = straight_on(here, y[2], y[3])
        return np.stack([y[2], y[3], straight[0] + bent[0], straight[1] + bent[1]])

    y = np.stack([state[0], state[1], du, dv])
    with np.errstate(all="ignore"):
        for _ in range(SIDE_STEPS):
            y = stepped(rates, 0.0, y, way / SIDE_STEPS)
    if not np.isfinite(y).all() or np.abs(y[:2] - 0.5).max() > 1.0:
        return None
    there = surface.jet(y[0], y[1])
    if float(lengths(cross(there.du, there.dv))[0]) < FLAT_SINE * float((lengths(there.du) * lengths(there.dv))[0]):
        return None
    along = there.du * y[2][:, None] + there.dv * y[3][:, None]
    walked = float(np.linalg.norm(there.point - jet.point))
    if not (1 / LEAP < float(np.linalg.norm(along)) < LEAP and way / LEAP < walked < way * LEAP):
        return None
    ahead = cross(there.normal, turn * along / np.linalg.norm(along))
    if float((ahead * ray).sum()) < STRAIGHT:
        return None
    new = np.concatenate([y[:2], components(there, ahead), [[1.0]], [[spread]]])
    g = rays.g[end] + (-1.0 if end == 0 else 1.0) * way / stretch
    on = float(np.abs(y[:2] - 0.5).max()) <= 0.5
    return _Rays(np.array([g]), np.array([stretch]), new, there, np.array([0.0 if on else way]))


def _mended(rays: _Rays) -> _Rays:
    """The rays with λ as their points run, where it has gone astray.

    λ sums the surface's curvature all along a ray. One that has passed a corner where the surface's two directions agree
    has summed noise there, while its path is sound; its neighbours tell what λ must be.
    """
    apart = np.diff(rays.g)
    beside = np.concatenate([[False], (apart[:-1] < REGULAR) & (apart[1:] < REGULAR), [False]])
    run = _speeds(rays.jet.point, apart)
    ends = np.flatnonzero(~beside)
    for k in ends:  # at the rim of a run of rays the nearest cell tells it
        cells = [c for c in (k - 1, k) if 0 <= c < len(apart) and apart[c] < REGULAR]
        if cells:
            step = rays.jet.point[cells[0] + 1] - rays.jet.point[cells[0]]
            run[k] = float(np.linalg.norm(step)) / apart[cells[0]]
        else:
            run[k] = rays.state[4, k] * rays.speed[k]
    ratio = rays.state[4] * rays.speed / np.maximum(run, 1e-9)
    astray = (np.abs(ratio - 1) > np.where(beside, ASTRAY, 3 * ASTRAY)) & (run > LEAST_SPREAD * rays.speed)
    if not astray.any() or astray.all():
        return rays
    state = rays.state.copy()
    spread = np.interp(rays.g[astray], rays.g[~astray], state[5, ~astray] / state[4, ~astray])
    state[4, astray] = run[astray] / rays.speed[astray]
    state[5, astray] = spread * state[4, astray]
    return replace(rays, state=state)


def _speeds(points: Array, apart: Array) -> Array:
    """How fast points (n, 3) at places `apart` (n - 1,) of each other run, by the parabola through neighbours; at the ends by the
    chord."""
    chords = np.diff(points, axis=0) / apart[:, None]
    rates = np.empty_like(points)
    rates[0], rates[-1] = chords[0], chords[-1]
    share = (apart[1:] / (apart[:-1] + apart[1:]))[:, None]
    rates[1:-1] = share * chords[:-1] + (1 - share) * chords[1:]
    return np.sqrt(dot(rates, rates))


def _alive(state: Array) -> BoolArray:
    u, v, *_ = state
    result: BoolArray = (
        np.all(np.isfinite(state), axis=0)
        & (np.abs(u - 0.5) < FARTHEST)
        & (np.abs(v - 0.5) < FARTHEST)
        & (state[4] > 1e-3)
        & (np.abs(state[5]) < 1.0)
    )
    return result


def _front(rays: _Rays, distance: float) -> Front:
    u, v, du, dv, stretch, spread = rays.state
    jet = rays.jet
    ray = jet.du * du[:, None] + jet.dv * dv[:, None]
    normal = jet.normal
    along = cross(ray, normal)
    tu, tv = components(jet, along)
    bend = -second_form(jet, normal, (tu, tv), (tu, tv))
    twist = second_form(jet, normal, (tu, tv), (du, dv))
    return Front(
        distance, rays.g, u.copy(), v.copy(), du.copy(), dv.copy(), stretch * rays.speed, spread / stretch, bend, twist, jet.point
    )


def _without_ghosts(fronts: list[Front]) -> list[Front]:
    """Drop the points that another part of the front has reached sooner.

    Distance from the guide can grow no faster than the way walked: a point at d that lies nearer than
    d - d' to a point at d' is not at distance d at all. Such ghosts arise beyond a caustic, where rays
    have crossed each other.
    """
    points = np.concatenate([f.point for f in fronts])
    on = np.concatenate([on_surface(f) for f in fronts])
    distances = np.concatenate([np.full(len(f.g), f.distance) for f in fronts])
    if not np.any(on):
        return fronts
    from scipy.spatial import cKDTree  # loads slowly: not before it is needed

    tree = cKDTree(points[on])
    known = distances[on]
    gap, near = tree.query(points[on], k=min(9, int(on.sum())))
    sooner = known[:, None] - known[near] - (1 + GHOST_SHARE) * gap
    ghost = np.zeros(len(points), dtype=bool)
    ghost[np.flatnonzero(on)[np.max(sooner, axis=1) > GHOST_MM]] = True
    if not np.any(ghost):
        return fronts
    cuts = np.cumsum([len(f.g) for f in fronts])[:-1]
    return [kept(f, ~bad) for f, bad in zip(fronts, np.split(ghost, cuts), strict=True)]


def on_surface(front: Front) -> BoolArray:
    """Which of a front's n points lie on the surface itself, not on its continuation, (n,)."""
    result: BoolArray = (front.u >= 0) & (front.u <= 1) & (front.v >= 0) & (front.v <= 1)
    return result


def kept(front: Front, keep: BoolArray) -> Front:
    """Some of a front's n points: where `keep` (n,) is true."""
    return Front(
        front.distance,
        front.g[keep],
        front.u[keep],
        front.v[keep],
        front.du[keep],
        front.dv[keep],
        front.stretch[keep],
        front.edge_set[keep],
        front.bend[keep],
        front.twist[keep],
        front.point[keep],
    )


def curves(fronts: Sequence[Front]) -> list[list[PPoly]]:
    """For each front u, v, stretch, edge-set, bend, twist (1/mm), x, y, z (mm; in that order) as cubics (of 9 columns) over g, one
    for each unbroken run of at least four neighbouring rays; gaps are never bridged.

    Runs over the same rays are fitted together: setting a spline up takes longer than solving it."""
    from scipy.interpolate import PPoly

    runs: list[tuple[int, Array, Array]] = []  # (front, g, table)
    for k, front in enumerate(fronts):
        columns = [front.u, front.v, front.stretch, front.edge_set, front.bend, front.twist, front.point]
        table = np.column_stack(columns)
        breaks = np.flatnonzero(np.diff(front.g) > REGULAR) + 1
        cuts = [0, *breaks.tolist(), len(front.g)]
        runs += [(k, front.g[a:b], table[a:b]) for a, b in zip(cuts[:-1], cuts[1:], strict=True) if b - a >= 4]
    alike: dict[bytes, list[int]] = {}
    for n, (_, g, _) in enumerate(runs):
        alike.setdefault(g.tobytes(), []).append(n)
    fitted: dict[int, PPoly] = {}
    for chosen in alike.values():
        g, width = runs[chosen[0]][1], runs[chosen[0]][2].shape[1]
        together = cubic_pieces(g, np.concatenate([runs[n][2] for n in chosen], axis=1))
        for place, n in enumerate(chosen):
            own = together[:, :, place * width : (place + 1) * width]
            fitted[n] = PPoly.construct_fast(np.ascontiguousarray(own), g)
    result: list[list[PPoly]] = [[] for _ in fronts]
    for n, (k, _, _) in enumerate(runs):
        result[k].append(fitted[n])
    return result

"""The hull near an end that its stations cross: from profile to sheer, station by station.

Where a stem is raked, lines at equal shares of the girth run into it between the stations, and near its foot, where it
turns smoothly into the keel, they meet keel and stem in a straight angle: what the stations there say is lost between
them. Here the same part of the hull is drawn the other way round: every station from its own foot, on the stem or on
the keel, to the sheer; between two stations the foot stands on the profile, the top on the sheer, and the shape between
changes steadily from the one station's to the other's. All stations are met, and where a hull closes on a point (a
blunt nose) the sections shrink towards it as they should. The grid of the hull's own surface is laid onto this one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray
from ..geometry.batch_spline import cubic_pieces, sample_splines
from ..geometry.curves import LoftCurve
from ..geometry.easing import eased_anywhere
from ..geometry.surface import TensorSurface, dot
from .edge_lines import roundness, swelling

PLACES = 48
FULL_STATIONS = 4
"""Stations past the foot of the end that still bear witness."""
MERGE = (1, 2)
"""The surfaces merge between these of them, or between the first two where there are no more."""
BACK_MM = 3.0
"""A profile may run back past its head by so much and still count as raked all the way: a rounded table does."""
SHAPE_REACH = 1.5
"""Shares of foot-to-top beyond which a section is told by turning and scaling instead of by its two directions."""
ROUNDS, STILL = 5, 1e-9
"""Rounds of the search for the nearest place of a surface; a place that moves no farther, in parameters, is found: some millionths
of a millimetre."""
SMOOTHINGS, FREE_SMOOTHINGS, SMOOTH_TO = 6, 20, 0.9
"""How often every node of the grid is moved to the middle of its neighbours, where stations stand on the end and where none does;
fading towards this share of the zone and of the girth: near the head, where the patch closes on a point, it stays."""
LONGEST_MOVE = 0.04
BESIDE = 8
"""Columns past those that are moved that tell a surface how to go on."""
DENSE = 601
LEFT_MM, CONTRADICTS_MM = 0.1, 2.0
"""A station's curve that is missed by no more is met; one that is missed by more does not begin where the end is."""


@dataclass(frozen=True)
class CrossedEnd:
    """One end that stations cross: its curve `end` from foot to head, the curves of the stations from the end inwards that
    start on it (`crossing`) and of those past its foot (`full`), each with its position; `stern` which end it is."""

    end: LoftCurve
    crossing: Sequence[tuple[float, LoftCurve]]
    full: Sequence[tuple[float, LoftCurve]]
    stern: bool


def laid_onto(grid: Array, crossed: CrossedEnd) -> Array:
    """The panel's grid (nu, nv, 3), mm, u from bow to stern, laid onto the surface through the crossing stations at one end; the
    same grid where there is none to lay it onto (the profile is not raked all the way up, or too few stations)."""
    way = -1.0 if crossed.stern else 1.0
    if len(crossed.full) < 2:
        return grid
    ordered = grid[::-1] if crossed.stern else grid
    # where end and keel meet in a corner stations before it and behind it are not alike: only what is missed is put right
    rounded = roundness(crossed.end, ordered[:, 0])
    if not (crossed.crossing or rounded > 0):
        return grid
    patch = _patch(ordered, crossed, way)
    if patch is None:
        return grid
    head = float(crossed.end.points[-1, 0])
    merge = MERGE if len(crossed.full) > MERGE[1] else (0, 1)
    near, far = (way * (crossed.full[k][0] - head) for k in merge)
    run = way * (ordered[..., 0] - head)
    columns = int(np.flatnonzero((run < far).any(axis=1)).max()) + 1
    zone, run = ordered[1:columns], run[1:columns]  # the end itself stays
    onto = TensorSurface(patch)
    u, v = _nearest_on(onto, zone, run)
    target = np.zeros_like(zone)
    if rounded > 0:
        foot = np.stack(
            [
                np.sqrt(np.maximum(way * (ordered[:1, :, 0] - head), 0.0) / abs(patch[-1, 0, 0] - head)),
                np.zeros((1, zone.shape[1])),
            ],
            axis=-1,
        )
        places = np.concatenate([foot, np.stack([u, v], axis=-1).reshape(*zone.shape[:2], 2)])
        smooth = _smoothed(places, SMOOTHINGS if crossed.crossing else FREE_SMOOTHINGS)[1:]
        target += rounded * onto.points(smooth[..., 0], smooth[..., 1])
    if rounded < 1:
        missing = _missing(ordered, columns, crossed, way)
        target += (1 - rounded) * (zone + TensorSurface(missing).points(u, v).reshape(zone.shape))
    weight = 1 - eased_anywhere((run - near) / (far - near))
    moved = ordered.copy()
    moved[1:columns] = zone + weight[..., None] * (target - zone)
    if crossed.crossing:
        # lines of the grid stand apart by more than stations may do there: what it misses of them is put right
        missing = _missing(moved, columns, crossed, way)
        if LEFT_MM < np.abs(missing).max() < CONTRADICTS_MM:
            moved[1:columns] += weight[..., None] * TensorSurface(missing).points(u, v).reshape(zone.shape)
    return moved[::-1] if crossed.stern else moved


def _smoothed(places: Array, rounds: int) -> Array:
    """Places (a, b, 2) on the patch moved along it until rows and columns of the grid run smoothly; the rim stays. Lines that
    turn sharply where the stations begin to count would make the surface's curvature a noise that strips have to cross."""
    out = places.copy()
    inward, upward = (1 - eased_anywhere(2 * np.linspace(0.0, 1.0, n) / SMOOTH_TO - 1) for n in places.shape[:2])
    share = (inward[1:-1, None] * upward[None, 1:-1])[..., None]
    for _ in range(rounds):
        mean = (out[:-2, 1:-1] + out[2:, 1:-1] + out[1:-1, :-2] + out[1:-1, 2:]) / 4
        out[1:-1, 1:-1] += share * (mean - out[1:-1, 1:-1])
    return out


def _used(crossed: CrossedEnd) -> list[tuple[float, LoftCurve]]:
    return [*crossed.crossing, *crossed.full[:FULL_STATIONS]]


def _missing(ordered: Array, columns: int, crossed: CrossedEnd, way: float) -> Array:
    """By how much the surface of a grid misses the stations' curves within its first columns, spread over the same places as the
    patch (PLACES + 1, nv, 3)."""
    from scipy.spatial import KDTree  # loads slowly: not before it is needed

    zone = ordered[: columns + BESIDE]
    surface = TensorSurface(zone)
    reach = float(np.min(way * zone[-1, :, 0]))
    used = [(x, curve) for x, curve in _used(crossed) if way * x < reach]
    shares = np.linspace(0.0, 1.0, zone.shape[1])
    sections = np.stack([curve.at_fractions(shares) for _, curve in used])
    flat, nodes = sections.reshape(-1, 3), zone.reshape(-1, 3)
    _, k = KDTree(nodes).query(flat)
    v, u = (k % zone.shape[1]) / (zone.shape[1] - 1), (k // zone.shape[1]) / (len(zone) - 1)
    top = np.tile(shares == 1.0, len(used))
    u, v = _settled(surface, flat, u, np.where(top, 1.0, v), top)
    off = (flat - surface.points(u, v)).reshape(sections.shape)
    off[:, 0] = 0.0  # the foot stands on the profile
    runs = np.array([way * (x - crossed.end.points[-1, 0]) for x, _ in used])
    return _even_spline(np.sqrt(runs / runs[-1]), off, np.linspace(0.0, 1.0, PLACES + 1))


def _patch(ordered: Array, crossed: CrossedEnd, way: float) -> Array | None:
    """Points (PLACES + 1, nv, 3) from the head inwards and from foot to top; None where the profile does not allow it."""
    used = _used(crossed)
    head = crossed.end.points[-1]
    profile = crossed.end.at_fractions(np.linspace(1.0, 0.0, DENSE))
    back = way * (profile[:, 0] - head[0])
    if back.min() < -BACK_MM:
        return None
    shares = np.linspace(0.0, 1.0, ordered.shape[1])
    sections = np.stack([curve.at_fractions(shares)[:, 1:] for _, curve in used])
    runs = np.array([way * (x - head[0]) for x, _ in used])
    if runs[0] <= 0 or np.any(np.diff(runs) <= 0):
        return None
    # even steps of the root: a blunt nose grows as the root of the distance, and a sharp one loses nothing
    even = np.linspace(0.0, 1.0, PLACES + 1)
    along = even**2 * runs[-1]
    nodes, dense = np.linspace(0.0, 1.0, len(ordered)), np.linspace(0.0, 1.0, DENSE)
    keel, sheer = sample_splines(np.stack([nodes, nodes]), ordered[:, [0, -1]].swapaxes(0, 1), dense)
    rising = np.maximum.accumulate(np.maximum(back, 0.0))
    foot = _across(np.concatenate([rising, way * (keel[1:, 0] - head[0])]), np.concatenate([profile, keel[1:]]), along)
    tops = np.array([head, *(curve.points[-1] for _, curve in (*crossed.crossing, *crossed.full))])
    top = swelling(tops, way, head[0] + way * along)
    if top is None:
        top = _across(np.maximum.accumulate(way * (sheer[:, 0] - head[0])), sheer, along)
    shapes, measure = _shapes(sections)
    between = _even_spline(np.sqrt(runs / runs[-1]), shapes, even)
    flat = foot[:, None] + measure(between, top - foot)
    x = np.broadcast_to((head[0] + way * along)[:, None, None], (*flat.shape[:2], 1))
    return np.concatenate([x, flat], axis=-1)


def _across(run: Array, line: Array, along: Array) -> Array:
    """Half-breadth and height of a dense line at distances from the head, (n, 2)."""
    roots = np.sqrt(np.maximum(run, 0.0))
    return np.column_stack([np.interp(np.sqrt(along), roots, line[:, c]) for c in (1, 2)])


def _shapes(sections: Array):  # type: ignore[no-untyped-def]
    """Sections (k, n, 2) as shares of the way from their foot to their top, (k, n, 2), and what makes such shares into
    offsets from the foot, given the ways from foot to top (m, 2)."""
    foot, way = sections[:, :1], sections[:, -1] - sections[:, 0]
    off = sections - foot
    if np.all(np.abs(way) > 1e-6):
        straight = off / way[:, None]
        if np.abs(straight - 0.5).max() < SHAPE_REACH:
            return straight, lambda shares, ways: shares * ways[:, None]
    turned = (off[..., 0] + 1j * off[..., 1]) / (way[:, 0] + 1j * way[:, 1])[:, None]

    def back(shares: Array, ways: Array) -> Array:
        flat = (shares[..., 0] + 1j * shares[..., 1]) * (ways[:, 0] + 1j * ways[:, 1])[:, None]
        return np.stack([flat.real, flat.imag], axis=-1)

    return np.stack([turned.real, turned.imag], axis=-1), back


def _even_spline(knots: Array, values: Array, asked: Array) -> Array:
    """Values (k, …) at two or more rising positive `knots` as even functions, asked for from 0 to the last knot."""
    both = np.concatenate([-knots[::-1], knots])
    table = np.concatenate([values[::-1], values]).reshape(len(both), -1)
    pieces = cubic_pieces(both, table)
    cell = np.clip(np.searchsorted(both, asked, side="right") - 1, 0, len(both) - 2)
    t = (asked - both[cell])[:, None]
    c3, c2, c1, c0 = (pieces[k][cell] for k in range(4))
    drawn = ((c3 * t + c2) * t + c1) * t + c0
    result: Array = drawn.reshape(len(asked), *values.shape[1:])
    return result


def _nearest_on(onto: TensorSurface, zone: Array, run: Array) -> tuple[Array, Array]:
    """Where on the patch, `onto`, as u and v (a · b,), the points nearest to a zone of a grid (a, b, 3) lie; edges stay edges."""
    rows, columns = zone.shape[:2]
    flat, patch = zone.reshape(-1, 3), onto.grid
    u = np.sqrt(np.clip(run.ravel() / abs(float(patch[-1, 0, 0] - patch[0, 0, 0])), 0.0, 1.0))
    out, up = np.moveaxis(patch[..., 1:], -1, 0)
    row = np.round(u * PLACES).astype(int)
    v = np.argmin((out[row] - flat[:, 1:2]) ** 2 + (up[row] - flat[:, 2:]) ** 2, axis=1) / (columns - 1)
    edge = np.tile(np.isin(np.arange(columns), (0, columns - 1)), rows)
    v = np.where(edge, np.tile(np.arange(columns) / (columns - 1), rows), v)
    return _settled(onto, flat, u, v, edge)


def _settled(surface: TensorSurface, points: Array, u: Array, v: Array, fixed: BoolArray) -> tuple[Array, Array]:
    """u and v of the places of a surface nearest to points (n, 3), from guesses; where `fixed`, v stays."""
    u, v, moving = u.copy(), v.copy(), np.arange(len(u))
    for _ in range(ROUNDS):
        jet = surface.jet(u[moving], v[moving])
        off = points[moving] - jet.point
        e, f, g = dot(jet.du, jet.du), dot(jet.du, jet.dv), dot(jet.dv, jet.dv)
        a, b = dot(off, jet.du), dot(off, jet.dv)
        det = np.maximum(e * g - f * f, 1e-9 * e * g + 1e-12)
        du = np.where(fixed[moving], a / np.maximum(e, 1e-12), (g * a - f * b) / det)
        dv = np.where(fixed[moving], 0.0, (e * b - f * a) / det)
        before = u[moving], v[moving]
        for places, step in ((u, du), (v, dv)):
            places[moving] = np.clip(places[moving] + np.clip(step, -LONGEST_MOVE, LONGEST_MOVE), 0.0, 1.0)
        moved = np.maximum(np.abs(u[moving] - before[0]), np.abs(v[moving] - before[1]))
        moving = moving[moved > STILL]
        if not len(moving):
            break
    return u, v

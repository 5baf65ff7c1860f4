"""The surface of a layer, carried on past what the hull is trimmed to: past the sheer, the transom and the stem."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..job import VeneerSettings
from ..offsets.table import EndKind

MORE_ROWS = 3
"""Rows of points that a surface has more where it is carried on."""
MOST = 0.05
"""No end is carried on by a larger share of the hull's length: where it is drawn together there, less."""
TRIM_POINTS = 361
LEAST_MM = 0.01
SHIFT_ROWS, SHIFT_PLACES, CORNER = 33, 801, 0.12
"""Rows and places by which an end is shared out again, less and less towards its corners over such a share of it."""


@dataclass(frozen=True)
class Past:
    """How far a layer goes on past the bow, the stern and the upper edge, mm."""

    bow: float = 0.0
    stern: float = 0.0
    upper: float = 0.0


@dataclass(frozen=True)
class Beyond:
    """A layer's `surface`, carried on; the part `hull` of its parameters that is left when the hull is trimmed, and the `lines`
    (n, 2) in parameters where it is cut then (none where it is not carried on), and `trims` (n, 3), mm, those of the hull's edges
    that are seen on it, the upper one first."""

    surface: TensorSurface
    hull: shapely.Polygon
    lines: tuple[Array, ...]
    trims: tuple[Array, ...]


def past_of(hull: Hull, settings: VeneerSettings, uppermost: bool) -> Past:
    """How far a panel's veneers go on: past each end by what it is, and past the sheer."""

    def end(kind: EndKind) -> float:
        return settings.past_stem if kind is EndKind.STEM else settings.past_transom

    return Past(
        end(hull.lines.bow.kind), end(hull.lines.stern.kind), settings.past_sheer if uppermost else 0.0
    )


def carried_on(surface: TensorSurface, depth: float, past: Past) -> Beyond:
    """A panel's surface `depth` mm inside it, carried on straight past its ends and its upper edge, as wood goes on by itself."""
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    nu, nv = surface.grid.shape[:2]
    u = np.linspace(0.0, 1.0, nu + (MORE_ROWS if past.bow > 0 or past.stern > 0 else 0))
    v = np.linspace(0.0, 1.0, nv + (MORE_ROWS if past.upper > 0 else 0))
    across = np.linspace(0.0, 1.0, nv)
    bow, stern = (_shares(surface, at, across, far) for at, far in ((0.0, past.bow), (1.0, past.stern)))
    along = np.linspace(0.0, 1.0, nu)
    upper = np.maximum(past.upper, 0.0) / np.maximum(
        np.linalg.norm(surface.jet(along, np.ones(nu)).dv, axis=1), LEAST_MM
    )

    before_of, after_of, over_of = (
        CubicSpline(at, far) for at, far in ((across, bow), (across, stern), (along, upper))
    )

    def tops(own_u: Array) -> Array:
        found: Array = 1.0 + over_of(np.clip(own_u, 0.0, 1.0))
        return found

    first, last = before_of(v)[None, :], after_of(v)[None, :]
    own_u = -first + u[:, None] * (1.0 + first + last)
    own_v = v[None, :] * tops(own_u)
    moved = _moved(surface, own_u, own_v, depth)
    carried = TensorSurface(moved, straight_ends=True)

    def place(at_u: Array, at_v: Array) -> Array:
        """Where a place of the hull lies in the parameters of the surface that is carried on."""
        new_v = at_v / tops(at_u)
        before, after = before_of(new_v), after_of(new_v)
        return np.column_stack([(at_u + before) / (1.0 + before + after), new_v])

    even, zero, one = np.linspace(0.0, 1.0, TRIM_POINTS), np.zeros(TRIM_POINTS), np.ones(TRIM_POINTS)
    edges = [place(even, zero), place(one, even), place(even, one), place(zero, even)]
    ring = np.concatenate([edges[0], edges[1][1:], edges[2][-2::-1], edges[3][-2:0:-1]])
    ends = ((past.stern > 0, edges[1]), (past.bow > 0, edges[3]))
    upper_edge = frozen(edges[2])
    lines = (*((upper_edge,) if past.upper > 0 else ()), *(frozen(edge) for has, edge in ends if has))
    seen = lines if past.upper > 0 else (upper_edge, *lines)  # the sheer is always to be seen
    trims = tuple(frozen(carried.points(line[:, 0], line[:, 1])) for line in seen)
    return Beyond(carried, shapely.make_valid(shapely.Polygon(np.clip(ring, 0.0, 1.0))), lines, trims)


def _moved(surface: TensorSurface, u: Array, v: Array, depth: float) -> Array:
    """Places of a surface `depth` mm inside it, (n, m, 3), for u, v (n, m); before 0 and after 1 on straight from its first and
    last row of cells.

    Where the surface's lines along the hull turn sharply before an end (they share it out otherwise than the stations next to it
    do) places there are moved along it to where those lines come straight on: the shape stays, and what lies past it goes on as
    it comes.
    """
    within = np.clip(u, 0.0, 1.0)
    h = 1.0 / (surface.grid.shape[0] - 1)
    nearness = [np.maximum(1.0 - np.abs(within - end) / h, 0.0) for end in (0.0, 1.0)]
    shifts = [_shift(surface, end, h if end == 0.0 else -h, v) for end in (0.0, 1.0)]
    own_v = v + shifts[0] * nearness[0] + shifts[1] * nearness[1]
    jet = surface.jet(within.ravel(), own_v.ravel())
    on = jet.point.reshape(*u.shape, 3)
    for end, step, past in ((0.0, h, u < 0.0), (1.0, 1.0 - h, u > 1.0)):
        inner = surface.points(np.full(u.shape, step), v)
        on = on + np.where(past, (u - end) / (step - end), 0.0)[..., None] * (inner - on)
    return on - depth * jet.normal.reshape(*u.shape, 3)


def _shift(surface: TensorSurface, end: float, h: float, v: Array) -> Array:
    """How far along an end, in v, the surface's lines along the hull would come if they came straight on, for each v; nothing at
    its lower and upper corner."""
    from scipy.interpolate import PchipInterpolator  # loads slowly: not before it is needed

    even, dense = np.linspace(0.0, 1.0, SHIFT_ROWS), np.linspace(0.0, 1.0, SHIFT_PLACES)
    near, next_to = (surface.points(np.full(SHIFT_ROWS, end + k * h), even) for k in (1, 2))
    edge = surface.points(np.full(SHIFT_PLACES, end), dense)
    away = np.linalg.norm((2 * near - next_to)[:, None] - edge[None], axis=2)
    taper = np.clip(np.minimum(even, 1.0 - even) / CORNER, 0.0, 1.0)
    come = np.maximum.accumulate(even + (dense[np.argmin(away, axis=1)] - even) * taper)
    inside = np.clip(v, 0.0, 1.0)
    shift: Array = PchipInterpolator(even, come)(inside) - inside
    return shift


def _shares(surface: TensorSurface, end: float, across: Array, far: float) -> Array:
    """How far, in shares of u, an end has to be carried on at each v to reach `far` mm on, (n,)."""
    if far <= 0:
        return np.zeros(len(across))
    speed = np.linalg.norm(surface.jet(np.full(len(across), end), across).du, axis=1)
    shares: Array = np.minimum(far / np.maximum(speed, LEAST_MM), MOST)
    return shares

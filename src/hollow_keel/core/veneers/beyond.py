"""The surface of a layer, carried on past what the hull is trimmed to: past the sheer, the transom and the stem."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from ..errors import ImpossiblePlan
from ..findings import mm
from ..geometry.arrays import Array, BoolArray, frozen, lengths
from ..geometry.easing import smooth
from ..geometry.inverse import inverted
from ..geometry.surface import TensorSurface
from ..hull.build import Hull
from ..job import VeneerSettings
from ..offsets.table import EndKind
from .spread import Spread

FARTHEST_MM = 1000.0
MORE_ROWS = 3
"""Rows of points that a surface has more where it is carried on."""
MOST = 0.05
"""No end is carried on by a larger share of the hull's length: where it is drawn together there, less."""
TRIM_POINTS = 361
STRAIGHT = 1e-6
"""What of the hull is left when it is trimmed has corners only where its edge would else be off by more, in parameters: a
hundredth of a millimetre."""
LEAST_MM = 0.01
SHIFT_PLACES, CORNER = 801, 0.3
"""Places by which a stem is shared out again, less and less towards its ends over such a share of it."""
OFF_MOST_MM, EASED = 1.5, 0.25
"""Where the surface would move by more, at a corner, nothing of it is done, and less than all of it so far from there."""
LED_ROWS, SMOOTH_BY = 3, 9
"""Rows of points that are led on to it, and the first one that no longer says how."""


@dataclass(frozen=True)
class Past:
    """How far a layer goes on past the bow, the stern and the upper edge, mm; whether bow and stern are stems."""

    bow: float = 0.0
    stern: float = 0.0
    upper: float = 0.0
    bow_stem: bool = False
    stern_stem: bool = False


@dataclass(frozen=True)
class Beyond:
    """A layer's `surface`, carried on; the part `hull` of its parameters that is left when the hull is trimmed, and the `lines`
    (n, 2) in parameters where it is cut then (none where it is not carried on), and `trims` (n, 3), mm, those of the hull's edges
    that are seen on it, the upper one first."""

    surface: TensorSurface
    hull: shapely.Polygon
    lines: tuple[Array, ...]
    trims: tuple[Array, ...]

    @cached_property
    def spread(self) -> Spread:
        """The areas of parts of it."""
        return Spread(self.surface)


def past_of(hull: Hull, settings: VeneerSettings, uppermost: bool) -> Past:
    """How far a panel's veneers go on: past each end by what it is, and past the sheer. Raises ImpossiblePlan for so far that none
    can."""

    def end(kind: EndKind) -> float:
        return settings.past_stem if kind is EndKind.STEM else settings.past_transom

    bow, stern = hull.lines.bow.kind, hull.lines.stern.kind
    most = max(settings.past_sheer if uppermost else 0.0, end(bow), end(stern))
    if most > FARTHEST_MM:
        raise ImpossiblePlan(
            f"Form and veneers cannot run {mm(most)} past the hull: give {mm(FARTHEST_MM)} or less, 50 to 75 mm are usual."
        )
    return Past(end(bow), end(stern), settings.past_sheer if uppermost else 0.0, bow is EndKind.STEM, stern is EndKind.STEM)


def carried_on(surface: TensorSurface, depth: float, past: Past) -> Beyond:
    """A panel's surface `depth` mm inside it, carried on straight past its ends and its upper edge, as wood goes on by itself."""
    return straight_carried_on(straightened(surface, past.bow_stem, past.stern_stem), depth, past)


def straight_carried_on(surface: TensorSurface, depth: float, past: Past) -> Beyond:
    """The same of one that is `straightened` already, for each of several layers."""
    from scipy.interpolate import CubicSpline  # loads slowly: not before it is needed

    nu, nv = surface.grid.shape[:2]
    u = np.linspace(0.0, 1.0, nu + (MORE_ROWS if past.bow > 0 or past.stern > 0 else 0))
    v = np.linspace(0.0, 1.0, nv + (MORE_ROWS if past.upper > 0 else 0))
    across = np.linspace(0.0, 1.0, nv)
    bow, stern = (_shares(surface, at, across, far) for at, far in ((0.0, past.bow), (1.0, past.stern)))
    along = np.linspace(0.0, 1.0, nu)
    upper = np.maximum(past.upper, 0.0) / np.maximum(lengths(surface.jet(along, np.ones(nu)).dv), LEAST_MM)

    before_of, after_of, over_of = (CubicSpline(at, far) for at, far in ((across, bow), (across, stern), (along, upper)))

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
    hull = shapely.make_valid(shapely.Polygon(np.clip(ring, 0.0, 1.0)))
    return Beyond(carried, shapely.simplify(hull, STRAIGHT), lines, trims)


def _moved(surface: TensorSurface, u: Array, v: Array, depth: float) -> Array:
    """Places of a surface `depth` mm inside it, (n, m, 3), for u, v (n, m); before 0 and after 1 on straight from its first and
    last row of cells."""
    within = np.clip(u, 0.0, 1.0)
    h = 1.0 / (surface.grid.shape[0] - 1)
    jet = surface.jet(within.ravel(), v.ravel())
    on = jet.point.reshape(*u.shape, 3)
    for end, step, past in ((0.0, h, u < 0.0), (1.0, 1.0 - h, u > 1.0)):
        inner = surface.points(np.full(np.count_nonzero(past), step), v[past])
        on[past] += ((u[past] - end) / (step - end))[:, None] * (inner - on[past])
    moved: Array = on - depth * jet.normal.reshape(*u.shape, 3)
    return moved


def straightened(surface: TensorSurface, bow: bool, stern: bool) -> TensorSurface:
    """A surface whose lines along the hull come straight on to its stems.

    A stem is shared out otherwise than the stations next to it are: lines along the hull turn sharply before it, and the surface
    between them is a little uneven there. Here each is led to where it comes to the stem by itself, and the rows in between lie
    on curves through that place and the rows farther in: the edge stays, what lies in the last cells moves by a few tenths of
    a millimetre.
    """
    grid = surface.grid
    if bow:
        grid = _led_on(surface, grid, 0.0)
    if stern:
        grid = _led_on(surface, grid[::-1], 1.0)[::-1]
    return TensorSurface(grid) if bow or stern else surface


def _led_on(surface: TensorSurface, grid: Array, end: float) -> Array:
    """A grid (n, m, 3) whose first rows are led straight on to the edge of the surface at u = `end`, which is its first row."""
    from scipy.interpolate import CubicSpline, PchipInterpolator  # load slowly: not before they are needed

    rows, columns = grid.shape[:2]
    if rows < SMOOTH_BY + 2:
        return grid
    even, dense = np.linspace(0.0, 1.0, columns), np.linspace(0.0, 1.0, SHIFT_PLACES)
    edge = surface.points(np.full(SHIFT_PLACES, end), dense)
    target = grid[LED_ROWS] + LED_ROWS * (grid[LED_ROWS] - grid[LED_ROWS + 1])
    near = dense[np.argmin(np.linalg.norm(target[:, None] - edge[None], axis=2), axis=1)]
    taper = smooth(np.clip(np.minimum(even, 1.0 - even) / CORNER, 0.0, 1.0))
    come = PchipInterpolator(even, np.maximum.accumulate(even + (near - even) * taper))(even)
    knots = np.array([0, *range(LED_ROWS, SMOOTH_BY)])
    between = np.arange(1, LED_ROWS)

    def led_to(places: Array) -> Array:
        led = grid.copy()
        led[0] = surface.points(np.full(columns, end), places)
        led[between] = CubicSpline(knots, led[knots], axis=0)(between)
        return led

    _, off = inverted(surface, led_to(come)[between].reshape(-1, 3))
    share = _beyond_corners(even, off.reshape(-1, columns).max(axis=0) > OFF_MOST_MM)
    led = led_to(even + share * (come - even))
    led[between] = grid[between] + share[:, None] * (led[between] - grid[between])
    return led


def _beyond_corners(even: Array, bad: BoolArray) -> Array:
    """1 along an end, going down smoothly to 0 at the lower and upper places that are bad, (n,) each."""
    low = float(even[bad & (even < 0.5)].max(initial=-EASED))
    high = float(even[bad & (even >= 0.5)].min(initial=1.0 + EASED))
    return smooth(np.clip(np.minimum(even - low, high - even) / EASED, 0.0, 1.0))


def _shares(surface: TensorSurface, end: float, across: Array, far: float) -> Array:
    """How far, in shares of u, an end has to be carried on at each v to reach `far` mm on, (n,)."""
    if far <= 0:
        return np.zeros(len(across))
    speed = lengths(surface.jet(np.full(len(across), end), across).du)
    shares: Array = np.minimum(far / np.maximum(speed, LEAST_MM), MOST)
    return shares

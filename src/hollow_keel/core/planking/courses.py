"""One course of strips: from a guide to a limit of a panel, of given widths or dividing the girth."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from dataclasses import field as dataclass_field

import numpy as np

from ..errors import ImpossiblePlan
from ..geometry.arrays import Array
from ..geometry.front import Front, curves, kept, propagate, starts
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import SurfaceLine
from ..settings.strip_choices import Course
from ..stage import Tick
from .distance import DistanceField
from .divided import CrossLines, Division, division_front, few_tapered, mixed, tapered
from .edges import BOW_ENDS, STERN_ENDS, EdgePiece, edge_pieces
from .faces import nearest_piece
from .flat import feet, width_range
from .levels import Number, Patch, greatest, grid_numbers, guide_pieces, level_pieces
from .limits import Bounds
from .relaid import LaidSoFar, whole_line
from .strips import Strip

Fields = dict[tuple[int, bool, float | bytes], DistanceField]
"""Distances from guides, by panel, way and guide; all of one hull."""
Widths = Callable[[int], float]
"""Width of hull that a strip covers by its place in the course, from 0."""
RAY_STEP_MM, MOST_STEPS = 15.0, 160
"""Rays leave their way behind at steps of so many mm, or so many over the girth of a large hull."""
GONE_MM = 0.5
"""A strip that fades out ends where it is narrower."""


@dataclass(frozen=True)
class Task:
    """Where a course is laid: from `guide` (the v of an edge, or a line) to the far limit of `bounds`, upward or downward."""

    surface: TensorSurface
    guide: float | SurfaceLine
    upward: bool
    bounds: Bounds
    panel: int
    fields: Fields = dataclass_field(default_factory=dict, compare=False)
    """Distances that were worked out before on this hull, and are."""

    @property
    def own_edge(self) -> float | None:
        """The v of the panel's edge that the guide is, if it is one."""
        return self.guide if isinstance(self.guide, float) else None

    @property
    def line(self) -> SurfaceLine:
        """The guide over the hull's own length."""
        return (
            SurfaceLine.level(np.linspace(0, 1, 3), self.guide)
            if isinstance(self.guide, float)
            else self.guide
        )

    @property
    def course(self) -> Course:
        """Its direction by name."""
        return Course.UP if self.upward else Course.DOWN


@dataclass(frozen=True)
class Laid:
    """The strips of a course, numbered from 1, and the numbers that fade out."""

    strips: tuple[Strip, ...]
    faded: tuple[int, ...] = ()


def lay_fronts(
    task: Task, widths: Widths, tick: Tick, most: int | None = None, so_far: LaidSoFar | None = None
) -> Laid:
    """Strips whose edges are lines of equal distance from the guide; `most` of them, or until the limit is reached. With some of
    them laid `so_far` those to come follow from the last edge as it is."""
    patch, field = _measured(task, task.guide, tick)
    number: Number = _as_it_is
    if so_far is not None:
        number = so_far.renumbered(number, field, lambda k: float(sum(widths(i) for i in range(k))))
    numbers = grid_numbers(patch, field, number)
    reach = greatest(patch, field, number, numbers)
    least = so_far.count if so_far is not None else 0
    ends = [0.0]
    while len(ends) <= least or (
        ends[-1] < reach - 1e-9 * max(reach, 1.0) and (most is None or len(ends) <= most)
    ):
        ends.append(ends[-1] + widths(len(ends) - 1))
    reach = reach if most is None else min(reach, ends[-1])
    edges = _edges(patch, field, number, numbers, ends[1:], tick, tapering=so_far is not None)
    covers: list[float | None] = [widths(k) for k in range(len(ends) - 1)]
    widest = [min(w or 0.0, reach - e) for w, e in zip(covers, ends[:-1], strict=True)]
    if so_far is not None:
        few = range(least, least + so_far.drift.few)
        covers = [None if k in few else w for k, w in enumerate(covers)]
        return Laid(so_far.as_laid(_strips(task, edges, widest, covers)))
    return Laid(_strips(task, edges, widest, covers))


def lay_few(task: Task, width: float, least: float, tick: Tick, so_far: LaidSoFar | None = None) -> Laid:
    """Strips of one `width`, mm, but for a few no narrower than `least`, half-way, that taper and bring the run back. Those before
    are parallels of the guide, those after parallels of the last tapered edge; with some laid `so_far` they follow from the last
    edge as it is. Raises ImpossiblePlan."""
    far = task.bounds.far(task.upward)
    own = few_tapered(CrossLines.between(task.surface, task.line, far, task.upward), width, least)
    if own is None:
        return lay_fronts(task, lambda _: width, tick, so_far=so_far)
    patch, field = _measured(task, task.guide, tick)

    def number(distance: Array, g: Array) -> Array:
        """Whole widths up to the tapered strips, then theirs."""
        past = (distance - own.first * width) / np.interp(g, own.u, own.share)
        return np.where(distance <= own.first * width, distance, own.first * width + past) / width

    last = own.first + own.count
    early = so_far is not None and so_far.count <= last
    lay: Number = so_far.renumbered(number, field, float) if so_far is not None and early else number
    numbers = grid_numbers(patch, field, lay)
    if float(numbers.max()) <= last:
        return lay_fronts(task, lambda _: width, tick, so_far=so_far)
    edges = _edges(patch, field, lay, numbers, [float(k) for k in range(1, last + 1)], tick, tapering=True)
    line = _line(edges[-1])
    rest, rest_field = _measured(task, line, tick)
    after: Number = _in_widths(width)
    if so_far is not None and not early:
        after = replace(so_far, strips=so_far.strips[last:]).renumbered(after, rest_field, float)
    left = grid_numbers(rest, rest_field, after)
    reach = greatest(rest, rest_field, after, left)
    more = max(math.ceil(reach - 1e-9), so_far.count - last if so_far is not None else 0)
    tail = _edges(
        rest, rest_field, after, left, [float(k) for k in range(1, more + 1)], tick, tapering=not early
    )
    shaped = range(own.first, last)
    before = _strips(task, edges, [width] * last, [None if k in shaped else width for k in range(last)])
    beyond = _strips(task, tail, [min(width, width * (reach - k)) for k in range(more)], [width] * more)
    numbered = tuple(replace(s, number=k + 1) for k, s in enumerate((*before, *beyond)))
    return Laid(so_far.as_laid(numbered) if so_far is not None else numbered)


def lay_mixed(
    task: Task,
    width: float,
    places: tuple[float | None, float | None],
    tick: Tick,
    so_far: LaidSoFar | None = None,
) -> Laid:
    """Strips of full `width`, mm, between two places (the parameter u), narrower beyond them as the girth is; with some laid
    `so_far` they follow from the last edge as it is. Raises ImpossiblePlan."""
    lines = CrossLines.between(task.surface, task.line, task.bounds.far(task.upward), task.upward)
    share = mixed(lines, *places)
    patch, field = _measured(task, task.guide, tick)

    def number(distance: Array, g: Array) -> Array:
        return distance / (width * np.interp(g, lines.u, share))

    own: Number = number if so_far is None else so_far.renumbered(number, field, float)
    numbers = grid_numbers(patch, field, own)
    reach = greatest(patch, field, own, numbers)
    count = max(1, math.ceil(reach - 1e-9), so_far.count if so_far is not None else 0)
    edges = _edges(patch, field, own, numbers, [float(k) for k in range(1, count + 1)], tick, tapering=True)
    left = [min(width, width * (reach - k)) for k in range(count)]
    strips = _strips(task, edges, left, [None] * count)
    return Laid(so_far.as_laid(strips) if so_far is not None else strips)


def _in_widths(width: float) -> Number:
    return lambda distance, _: distance / width


def _as_it_is(distance: Array, _: Array) -> Array:
    return distance


def _measured(task: Task, guide: float | SurfaceLine, tick: Tick) -> tuple[Patch, DistanceField]:
    """The part of the hull that a course covers, and distances from its guide."""
    patch = Patch.of(task.surface, guide, task.bounds, task.upward)
    line = guide if isinstance(guide, float) else guide.v.tobytes()
    key = (task.panel, task.upward, line)
    if key not in task.fields:
        task.fields[key] = _field(task, guide, tick)
    return patch, task.fields[key]


def _field(task: Task, guide: float | SurfaceLine, tick: Tick) -> DistanceField:
    girth = rough_girth(task.surface)
    step = max(RAY_STEP_MM, girth / MOST_STEPS)
    fronts = propagate(task.surface, guide, step, lambda d: tick(min(1.0, d / girth)), upward=task.upward)
    return DistanceField(task.surface, fronts)


def lay_tapered(task: Task, width: float, least: float, tick: Tick, so_far: LaidSoFar | None = None) -> Laid:
    """Strips between `least` and `width`, mm, that divide the girth between the guide, or the last strip laid `so_far`, and the
    limit, as many everywhere. Raises ImpossiblePlan."""
    far = task.bounds.far(task.upward)
    on: tuple[Strip, ...] = ()
    line = task.line
    if so_far is not None:
        on = so_far.moved(task.surface, upward=task.upward)
        u, v = whole_line(on[-1].far, far.at)
        line = SurfaceLine(u, v, np.zeros_like(u), np.zeros_like(u))
    lines = CrossLines.between(task.surface, line, far, task.upward)
    if so_far is not None and lines.girth.max() < GONE_MM:
        return Laid(on)
    division = tapered(lines, width, least)
    tick(1.0)
    fronts = [division_front(task.surface, lines, e, task.upward) for e in division.edges]
    count = len(fronts) - 1
    margin = _margin(task)
    open_ = lines.girth > GONE_MM  # elsewhere the line that is divided from has run out
    pieces = [
        edge_pieces(c, task.bounds, far if k == count else task.own_edge)
        for k, c in enumerate(curves([kept(f, open_) for f in fronts], margin))
    ]
    if on:
        pieces[0] = list(on[-1].far)
    strips = list(on)
    for k in range(count):
        edges = pieces[k], pieces[k + 1]
        if k + 1 in division.dropped:
            edges = _faded(task, division, k, fronts)
        strip = _strip(task, len(strips) + 1, *edges, None, float(division.widest[k]))
        if strip.width_min:  # at its very ends the girth itself is what was divided
            narrow = float((division.edges[k + 1] - division.edges[k]).min())
            strip = replace(strip, width_min=min(strip.width_min, narrow) if narrow > GONE_MM else 0.0)
        strips.append(strip)
    return Laid(tuple(strips), tuple(len(on) + k for k in division.dropped))


def _line(edge: list[EdgePiece]) -> SurfaceLine:
    """An edge as a guide: its longest piece, v over u. Raises ImpossiblePlan where nothing is left of it."""
    if not edge:
        raise ImpossiblePlan(
            "The tapered strips do not reach over the hull from here: choose another guide, or taper all strips."
        )
    u, v = seam_heights(tuple(edge))
    return SurfaceLine.through(u, v, starts())


def _margin(task: Task) -> Callable[[Front], Array] | None:
    return task.bounds.low.margin if task.bounds.low.seam is not None else None


def _edges(
    patch: Patch, field: DistanceField, number: Number, numbers: Array, levels: list[float], tick: Tick,
    *, tapering: bool = False,
) -> list[list[EdgePiece]]:  # fmt: skip
    """The guide and the edges at levels, each in its pieces."""
    edges = level_pieces(patch, field, number, numbers, levels, lambda: tick(1.0), tapering=tapering)
    return [guide_pieces(patch, field), *edges]


def _strips(
    task: Task, edges: list[list[EdgePiece]], widest: Sequence[float], constant: Sequence[float | None]
) -> tuple[Strip, ...]:
    """The strips between edges: each so wide at its widest, and of one width, or (None) cut to shape."""
    strips = [
        _strip(task, k + 1, edges[k], edges[k + 1], constant[k], widest[k])
        for k in range(len(widest))
        if edges[k]
    ]
    while len(strips) > 1 and not strips[-1].length:  # no line of it was found on the hull
        strips.pop()
    return tuple(strips)


def _faded(
    task: Task, division: Division, k: int, fronts: list[Front]
) -> tuple[list[EdgePiece], list[EdgePiece]]:
    """The edges of a strip that comes to nothing before an end."""
    wide = division.edges[k + 1] - division.edges[k] > GONE_MM
    parts = curves([kept(fronts[k], wide), kept(fronts[k + 1], wide)], _margin(task))
    near, far = (edge_pieces(c, task.bounds, task.own_edge) for c in parts)
    return near, far


def rough_girth(surface: TensorSurface) -> float:
    """Greatest girth of a panel, about, mm."""
    points = surface.points(np.linspace(0, 1, 9)[:, None], np.linspace(0, 1, 33)[None, :])
    return float(np.linalg.norm(np.diff(points, axis=1), axis=-1).sum(axis=1).max())


def _strip(
    task: Task,
    number: int,
    near: list[EdgePiece],
    far: list[EdgePiece],
    constant: float | None,
    widest: float,
) -> Strip:
    """A strip between two edges: of one width, or (None) as wide as its edges lie apart on the hull, `widest` where only one of
    them is left."""
    least = constant if constant is not None and _full_width(near, far) else 0.0
    if constant is None and near and far:
        apart = width_range(near, far, task.surface)
        if apart is not None:
            widest = max(apart[1], widest)
            least = apart[0] if _full_width(near, far) and apart[0] > GONE_MM else 0.0
    worst = far or near
    return Strip(
        number=number,
        length=_extent(near, far),
        near=tuple(near), far=tuple(far),
        pieces=_pieces(near, far),
        starts=_end((near, far), 0),
        ends=_end((near, far), 1),
        width_min=least,
        width_max=widest,
        max_edge_set=max((p.edge_set for p in worst), default=0.0),
        max_bend=max((p.bend for p in worst), default=0.0),
        max_twist=max((p.twist for p in worst), default=0.0),
        panel=task.panel,
        course=task.course,
        shaped=constant is None,
    )  # fmt: skip


def _end(edges: tuple[list[EdgePiece], list[EdgePiece]], stern: int) -> str:
    """What a strip ends on: as the edge does that reaches farther there and has not lost its way."""
    ends = [edge[-stern] for edge in edges if edge]
    if not ends:
        return "seam"
    if stern:
        return max(ends, key=lambda p: float(p.points[-1, 0])).ends
    return min(ends, key=lambda p: float(p.points[0, 0])).starts


def _full_width(near: list[EdgePiece], far: list[EdgePiece]) -> bool:
    """A strip keeps its width to its ends if both edges end on the same limits, in one piece."""
    return (
        len(near) == len(far) == 1
        and near[0].starts == far[0].starts and near[0].ends == far[0].ends
        and far[0].starts in BOW_ENDS and far[0].ends in STERN_ENDS
    )  # fmt: skip


def _pieces(near: list[EdgePiece], far: list[EdgePiece]) -> int:
    """How many pieces a strip is in: pieces of one edge that lie beside one piece of the other belong together."""
    groups = [{id(p)} for p in near]
    for piece in far:
        beside = {id(n) for n in near if n is nearest_piece(piece, near) or piece is nearest_piece(n, far)}
        joined = [g for g in groups if g & beside]
        groups = [g for g in groups if not g & beside] + [set().union({id(piece)}, *joined)]
    return max(1, len(groups))


def _extent(near: list[EdgePiece], far: list[EdgePiece]) -> float:
    """Longest extent of a strip, all pieces together, mm: its near edge, and what of the far one reaches past its ends."""
    beyond = 0.0
    for piece in far:
        other = nearest_piece(piece, near)
        if other is not None:
            foot = feet(piece.points[[0, -1]], other.points)[1]
            first, last = other.run[1], other.run[-1] - other.run[-2]
            beyond += (
                max(0.0, -float(foot.min())) * first + max(0.0, float(foot.max()) - len(other.run) + 1) * last
            )
    near_length, far_length = (sum(p.length for p in edge) for edge in (near, far))
    return float(max(near_length + min(beyond, far_length), far_length))


def seam_heights(edge: tuple[EdgePiece, ...]) -> tuple[Array, Array]:
    """The last edge of a course as v (n,) over rising u (n,)."""
    uv = max(edge, key=lambda piece: piece.length).uv
    rising = np.concatenate([[True], np.diff(np.maximum.accumulate(uv[:, 0])) > 1e-6])
    return uv[rising, 0], uv[rising, 1]

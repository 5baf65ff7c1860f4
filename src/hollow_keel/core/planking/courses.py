"""One course of strips: from a guide to a limit of a panel, of given widths or dividing the girth."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from dataclasses import field as dataclass_field
from functools import cached_property, partial

import numpy as np

from ..errors import ImpossiblePlan
from ..geometry.arrays import Array, BoolArray, rising
from ..geometry.front import propagate
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import SurfaceLine
from ..job import MasterLine
from ..newest import Newest
from ..settings.strip_choices import Course
from ..stage import Tick
from .distance import DistanceField
from .divided import Division, few_tapered, mixed, of_widths, tapered
from .edges import BOW_ENDS, STERN_ENDS, EdgePiece, where
from .faces import nearest_piece
from .flat import feet, width_range
from .guides import DENSE, followed_part, refined, smooth_line
from .levels import Grid, Patch, greatest, guide_pieces, level_pieces, limit_pieces
from .limits import Bounds
from .relaid import GONE_MM, LaidSoFar
from .strips import Strip
from .ways import Ways

FieldKey = tuple[int, bool, float | bytes]
"""A panel, whether the course goes up, and the guide."""
Widths = Callable[[int], float]
"""Width of hull that a strip covers by its place in the course, from 0."""
RAY_STEP_MM, MOST_STEPS = 30.0, 80
"""Rays leave their way behind at steps of so many mm, or so many over the girth of a large hull."""
SAME_MM = 0.05
"""A strip that is drawn with its own width to within so much has it."""
MOST_FIELDS = 8
"""So many guides' distances are kept of a hull: some megabytes each."""
SPARE = 6
"""A division has so many strips more than reach the limit, for what the work may have drifted."""


class Fields:
    """What was worked out on one hull: master lines and the panel that they lie on, distances from guides, and the ground of
    courses that end on a panel's own edge. It depends on the hull and the guide alone, and serves every width and layout."""

    def __init__(self, most: int = MOST_FIELDS) -> None:
        self.masters: Newest[MasterLine, tuple[int, SurfaceLine]] = Newest(most)
        self.distances: Newest[FieldKey, DistanceField] = Newest(most)
        self.grounds: Newest[FieldKey, Ground] = Newest(most)


@dataclass(frozen=True)
class Task:
    """Where a course is laid: from `guide` (the v of an edge, or a line) to the far limit of `bounds`, upward or downward."""

    surface: TensorSurface
    guide: float | SurfaceLine
    upward: bool
    bounds: Bounds
    panel: int
    fields: Fields = dataclass_field(default_factory=Fields, compare=False)
    """Distances that were worked out before on this hull, and are."""

    @property
    def line(self) -> SurfaceLine:
        """The guide over the hull's own length."""
        return SurfaceLine.level(np.linspace(0, 1, 3), self.guide) if isinstance(self.guide, float) else self.guide

    @property
    def key(self) -> FieldKey:
        """What distances from its guide are kept by."""
        line = self.guide if isinstance(self.guide, float) else self.guide.v.tobytes()
        return self.panel, self.upward, line

    @property
    def course(self) -> Course:
        """Its direction by name."""
        return Course.UP if self.upward else Course.DOWN


@dataclass(frozen=True)
class Laid:
    """The strips of a course, numbered from 1, and the numbers that fade out."""

    strips: tuple[Strip, ...]
    faded: tuple[int, ...] = ()


@dataclass(frozen=True)
class Ground:
    """What a course is divided on: its patch, and the distances and guide parameters over it; `given` ways to its limit, where they
    are not to be measured."""

    patch: Patch
    field: DistanceField
    grid: Grid
    given: Ways | None = None

    @classmethod
    def of(cls, task: Task, tick: Tick) -> Ground:
        """Measured on the hull, or kept."""

        def measured() -> Ground:
            patch = Patch.of(task.surface, task.guide, task.bounds, task.upward)
            field = task.fields.distances.value(task.key, lambda: _field(task, tick))
            return cls(patch, field, Grid.of(patch, field))

        if task.bounds.far(task.upward).seam is not None:  # where it ends depends on strips that come before
            return measured()
        return task.fields.grounds.value(task.key, measured)

    @cached_property
    def ways(self) -> Ways:
        """The ways to the line that the course ends on."""
        return self.given or Ways.of(self.patch, self.field, self.grid)

    def square_to(self, place: float) -> float:
        """The guide parameter square to which the middle of the girth lies at a place u, 0 to 1, along the hull."""
        u = np.array([place])
        middle = self.patch.surface.points(*self.patch.places(u, np.full_like(u, 0.5)))
        return float(self.field.feet(middle)[1][0])

    @property
    def reach(self) -> float:
        """The greatest distance of any place from the guide, mm, about."""
        return float(self.grid.distance.max())


Rule = Callable[[Ground], Division]
"""How a course is divided: into enough strips, and some to spare."""


def parallel(widths: Widths) -> Rule:
    """Strips of given widths."""

    def rule(ground: Ground) -> Division:
        every: list[float] = []
        while sum(every) <= ground.reach + SPARE * widths(len(every)):
            every.append(widths(len(every)))
        return of_widths(every)

    return rule


def evenly(width: float, least: float) -> Rule:
    """Strips between `least` and `width`, mm, that divide the girth, as many everywhere."""
    return lambda ground: tapered(ground.ways, width, least)


def full_between(width: float, least: float, places: tuple[float | None, float | None]) -> Rule:
    """Strips of full `width`, mm, between two places (the parameter u), narrower beyond them as the girth is, down to `least`."""

    def rule(ground: Ground) -> Division:
        first, last = (None if place is None else ground.square_to(place) for place in places)
        one = mixed(ground.ways, width, least, first, last, 1)
        at = ground.grid.g.ravel()
        many = float((ground.grid.distance.ravel() / one.at(np.ones(len(at), dtype=int), at)).max())
        return mixed(ground.ways, width, least, first, last, math.ceil(many) + SPARE)

    return rule


def few(width: float, least: float) -> Rule:
    """Strips of one `width`, mm, but for a few no narrower than `least`, half-way, that taper and bring the run back."""

    def rule(ground: Ground) -> Division:
        many = math.ceil(ground.reach / width)
        return few_tapered(ground.ways, width, least, many + math.ceil(many * (1 - least / width) / 3) + SPARE)

    return rule


def lay(
    task: Task, rule: Rule, tick: Tick, most: int | None = None, so_far: LaidSoFar | None = None, taper: Rule | None = None
) -> Laid:
    """Strips as a rule divides the ways from the guide: `most` of them, or until the limit is reached. With some of them laid
    `so_far` those to come follow from the last edge as it is; `taper` is the rule for what is left where all of it tapers.
    Raises ImpossiblePlan."""
    ground = Ground.of(task, tick)
    division = rule(ground)
    if so_far is not None:
        division = so_far.going_on(
            _enough(division, so_far.count + so_far.drift.ahead),
            ground.field,
            ground.ways,
            ground.grid,
            lambda ways: (taper or rule)(replace(ground, given=ways)),
        )
    numbers = ground.grid.numbers(division)
    reach = greatest(ground.patch, ground.field, division, numbers)
    if not division.closed:
        count = max(1, math.ceil(reach - 1e-9), so_far.count if so_far is not None else 0)
        division = division.first(count if most is None else min(count, most))
        reach = min(reach, float(division.count))
    edges = _edges(ground, division, numbers, tick)
    strips = _strips(task, edges, division, reach)
    return Laid(so_far.as_laid(strips) if so_far is not None else strips, division.dropped)


def share_line(task: Task, share: float, tick: Tick) -> SurfaceLine:
    """The line at a share of the way from the guide to the limit, as an edge of strips that divide the girth evenly, all along the
    hull. Raises ImpossiblePlan where it ends before the hull does."""
    ground = Ground.of(task, tick)
    whole = ground.ways.whole
    division = Division.through(ground.ways.g, np.stack([np.zeros_like(whole), share * whole]), [None])
    (pieces,) = level_pieces(ground.patch, ground.field, division, ground.grid.numbers(division), [1], lambda: tick(1.0))
    line = max(pieces, key=lambda p: p.length, default=None)
    if line is None or line.starts not in BOW_ENDS or line.ends not in STERN_ENDS:
        raise ImpossiblePlan("A line at this share of the girth does not reach both ends of the hull: choose another share.")

    def off(points: Array) -> Array:
        distance, g = ground.field.feet(points)
        return distance - division.at(np.ones(len(g), dtype=int), g)

    u, v = seam_heights((line,))
    return smooth_line(refined(task.surface, np.interp(DENSE, u, v), off))


def _enough(division: Division, count: int) -> Division:
    """A division into at least so many strips: past its last one go more like it."""
    more = count - division.count
    if more <= 0:
        return division
    own = division.widths()[-1]
    edges = np.concatenate([division.edges, division.edges[-1] + own * np.arange(1, more + 1)[:, None]])
    return Division.through(division.g, edges, (*division.covers, *division.covers[-1:] * more), division.dropped)


def _edges(ground: Ground, division: Division, numbers: Array, tick: Tick) -> list[list[EdgePiece]]:
    """The guide and the edges of a division, each in its pieces."""
    patch, field = ground.patch, ground.field
    inner = range(1, division.count + (0 if division.closed else 1))
    edges = level_pieces(patch, field, division, numbers, inner, lambda: tick(1.0))
    last = [limit_pieces(patch, field, division)] if division.closed else []
    return [guide_pieces(patch, field, edges[0] if edges else []), *edges, *last]


def _field(task: Task, tick: Tick) -> DistanceField:
    girth = rough_girth(task.surface)
    step = max(RAY_STEP_MM, girth / MOST_STEPS)
    line = followed_part(task.surface, task.guide, upward=task.upward, reach=girth)
    fronts = propagate(task.surface, line, step, lambda d: tick(min(1.0, d / girth)), upward=task.upward)
    return DistanceField(task.surface, fronts)


def _strips(task: Task, edges: list[list[EdgePiece]], division: Division, reach: float) -> tuple[Strip, ...]:
    """The strips between the edges of a division, that reaches over so many strips' widths at the most."""
    strips: list[Strip] = []
    for k, cover in enumerate(division.covers):
        near, far = edges[k], edges[k + 1]
        if k + 1 in division.dropped:
            wide = partial(_width_at, division, k)
            near, far = [p for e in near for p in where(e, wide)], [p for e in far for p in where(e, wide)]
        if near:
            strips.append(_strip(task, k + 1, near, far, cover, _widest(division, k, near, reach)))
    while len(strips) > 1 and not strips[-1].length:  # no line of it was found on the hull
        strips.pop()
    return tuple(strips)


def _width_at(division: Division, k: int, g: Array) -> BoolArray:
    """Where strip k (from 0) has any width, (n,)."""
    edge = np.full(len(g), k)
    return np.asarray(division.at(edge + 1, g) - division.at(edge, g) > GONE_MM)


def _widest(division: Division, k: int, near: list[EdgePiece], reach: float) -> float:
    """How wide strip k (from 0) is at most where it lies, mm, by its division."""
    cover = division.covers[k]
    if cover is None:
        g = np.concatenate([p.at for p in near])
        edge = np.full(len(g), k)
        cover = float((division.at(edge + 1, g) - division.at(edge, g)).max())
    return cover * min(1.0, max(reach - k, 0.0))


def rough_girth(surface: TensorSurface) -> float:
    """Greatest girth of a panel, about, mm."""
    points = surface.points(np.linspace(0, 1, 9)[:, None], np.linspace(0, 1, 33)[None, :])
    return float(np.linalg.norm(np.diff(points, axis=1), axis=-1).sum(axis=1).max())


def _strip(task: Task, number: int, near: list[EdgePiece], far: list[EdgePiece], constant: float | None, widest: float) -> Strip:
    """A strip between two edges: milled to cover so much (`constant`; None: cut to shape), `widest` where only one of its edges is
    left; elsewhere as wide as they lie apart on the hull."""
    least = constant if constant is not None and _full_width(near, far) else 0.0
    if near and far:
        apart = width_range(near, far, task.surface)
        if apart is not None:
            through = _full_width(near, far)
            if constant is None:
                widest, least = apart[1], apart[0] if through and apart[0] > GONE_MM else 0.0
            elif apart[1] > widest + SAME_MM:
                widest = apart[1]
            if constant is not None and through and apart[0] < constant - SAME_MM:
                least = apart[0]
    worst = far or near
    return Strip(
        number=number,
        length=_extent(near, far),
        near=tuple(near),
        far=tuple(far),
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
    )


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
        and near[0].starts == far[0].starts
        and near[0].ends == far[0].ends
        and far[0].starts in BOW_ENDS
        and far[0].ends in STERN_ENDS
    )


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
            beyond += max(0.0, -float(foot.min())) * first + max(0.0, float(foot.max()) - len(other.run) + 1) * last
    near_length, far_length = (sum(p.length for p in edge) for edge in (near, far))
    return float(max(near_length + min(beyond, far_length), far_length))


def seam_heights(edge: tuple[EdgePiece, ...]) -> tuple[Array, Array]:
    """The last edge of a course as v (n,) over rising u (n,)."""
    uv = max(edge, key=lambda piece: piece.length).uv
    uv = uv[rising(uv[:, 0], 1e-6)]
    return uv[:, 0], uv[:, 1]

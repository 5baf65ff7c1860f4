"""Ribbands over the molds, or stringers let into frames: where each lies, how long it is, and what bending it asks of the wood.

Ribbands divide the girth of the form evenly everywhere by their upper edges: from the keel to the one whose upper edge is exactly
the sheer, so that it can be felt for under the skin. Where they would come too close together, towards the ends, every second one
stops at a mold. One more lies along the edge of what is past the sheer, to staple the waste to. Stringers lie where frames are
notched for them, and run through those places as a batten would.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, BoolArray, frozen, rising
from ..geometry.inverse import inverted
from ..geometry.polyline import feet, runs_along
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import SurfaceLine, felt
from ..hull.build import Hull
from ..job import Job
from ..molds.shape import mold_edges
from ..molds.stations import Mold
from ..molds.stringers import StringerLine, on_molds
from ..planking.mechanics import GRADES, Behaviour, Handling, StripSection, section_over, sprung
from ..sensible import count_of
from ..settings.mold_choices import Deduction
from ..settings.veneer_choices import FormKind
from .beyond import carried_on, past_of
from .sticks import butts_of, sticks_of

PAGE = "veneers"
ROOM_MM = 10.0
"""Ribbands lie at least so far apart (common practice): where they would come nearer every second one stops."""
PLACES, ROWS = 161, 129
EVEN, ACROSS = frozen(np.linspace(0.0, 1.0, PLACES)), frozen(np.linspace(0.0, 1.0, ROWS))
DENSE_PLACES = 801
EDGE, CORNER_REACH = 1e-6, 0.18
"""A corner of the molds lies no farther past its panel's own edge, in parameters."""
STRINGER_STEP = 8
"""Of the places of a stringer every so-many-eth is carried over to the form."""


@dataclass(frozen=True)
class Crossing:
    """Where the upper edge of a ribband, or the middle of a stringer, comes on a mold: how far round the mold's edge it is from the
    keel and from the sheer, mm (negative past it)."""

    mold: str
    from_keel: float
    from_sheer: float


@dataclass(frozen=True)
class Ribband:
    """A ribband of one side, numbered from the keel: its upper edge (n, 3) on the molds (a stringer's middle), bow end first, and
    the same edge of its face under the skin, `outer` (n, 3); its length along its middle, mm; whether its upper edge is the
    sheer, or it lies past it; where it crosses the molds; what putting it on takes; how many sticks it is butted from."""

    number: int
    panel: int
    line: Array
    outer: Array
    length: float
    at_sheer: bool
    at_knuckle: bool
    past_sheer: bool
    crossings: tuple[Crossing, ...]
    behaviour: Behaviour
    pieces: int

    @property
    def lies(self) -> str:
        """Where it lies, in words."""
        if self.at_sheer or self.at_knuckle:
            return "along the sheer" if self.at_sheer else "along the knuckle"
        return "past the sheer" if self.past_sheer else "under the skin"


@dataclass(frozen=True)
class EndMold:
    """The mold at the very end of a form that goes on past the transom: one side of it (n, 2), half-breadths and heights up its own
    plane from its lowest place, mm, keel first; how far aft its lowest and its highest place are, mm; and by how much its edge
    leaves that plane, mm."""

    edge: Array
    low: float
    high: float
    off_plane: float


@dataclass(frozen=True)
class Form:
    """The ribbands or stringers of one side; how wide and how thick they are, mm; `sticks` to buy for both; the molds that it wants
    past each transom, by the end."""

    kind: FormKind
    section: tuple[float, float]
    ribbands: tuple[Ribband, ...]
    sticks: int
    ends: tuple[tuple[str, EndMold], ...]
    findings: tuple[Finding, ...]

    @property
    def total(self) -> float:
        """Length of them all, both sides, mm."""
        return 2 * sum(r.length for r in self.ribbands)


@dataclass(frozen=True)
class _Course:
    """A line that a ribband's upper edge, or a stringer's middle, follows: v (n,) over u (n,) of a surface of its panel, and over
    which of them it lies; past the sheer also the surface that the other face of the ribband is on."""

    panel: int
    surface: TensorSurface
    u: Array
    v: Array
    on: BoolArray
    at_sheer: bool = False
    at_knuckle: bool = False
    past_sheer: bool = False
    face: TensorSurface | None = None


def make_form(hull: Hull, molds: Sequence[Mold], stringers: Sequence[StringerLine], job: Job) -> Form:
    """The form of a job with layers; `stringers` as they lie in the molds. Reads its form, the molds' skin, the stringers' section,
    how far veneers go on past the hull, and the pushes of hand and clamp."""
    courses: list[_Course] = []
    edges: dict[str, list[Array]] = {"bow": [], "stern": []}
    depths, closed = on_molds(hull, job), any(mold.deck is not None for mold in molds)
    corners = _corners(hull, molds, job)
    for k, panel in enumerate(hull.panels):
        past = past_of(hull, job.veneers, k == len(hull.panels) - 1)
        as_it_is = replace(past, bow_stem=False, stern_stem=False)  # on the very line of the molds, up to the stem
        depth = depths[k]
        within = carried_on(panel.surface, depth, replace(as_it_is, upper=0.0)).surface
        within = _ended(within, corners.get(k), corners.get(k + 1))
        whole = carried_on(panel.surface, depth, as_it_is).surface
        for name, far, at in (("bow", past.bow, 0.0), ("stern", past.stern, 1.0)):
            if far > 0 and not (past.bow_stem if name == "bow" else past.stern_stem):
                edges[name].append(whole.points(np.full(ROWS, at), ACROSS))
        if job.form.kind is FormKind.STRINGERS:
            courses += _stringer_courses(within, k, [line for line in stringers if line.panel == k])
            continue
        courses += _ribband_courses(within, k, molds, job, top=k == len(hull.panels) - 1)
        if past.upper > job.form.width + ROOM_MM / 2 and not closed:
            face = carried_on(panel.surface, depth - job.form.thickness, as_it_is).surface
            courses.append(_Course(k, whole, EVEN, np.ones(PLACES), EVEN >= 0, past_sheer=True, face=face))
    stations = [mold.station for mold in molds]
    own, inside = job.form, job.inside
    if own.kind is FormKind.STRINGERS:
        size = inside.stringer_width, inside.stringer_thickness, inside.stringer_wood
        middle = (0.0, -inside.stringer_thickness / 2)
    else:
        size = own.width, own.thickness, own.wood
        middle = (-own.width / 2, own.thickness / 2)
    section = section_over(*size, stations, job.strips)
    ribbands = tuple(_ribband(k + 1, course, molds, section, middle, own.stick) for k, course in enumerate(courses))
    sticks = sticks_of([r.length for r in ribbands for _ in (0, 1)], own.stick)
    ends = tuple((name, _end_mold(np.concatenate(lines))) for name, lines in edges.items() if lines)
    form = Form(own.kind, size[:2], ribbands, sticks, ends, ())
    return replace(form, findings=tuple(_findings(form, job)))


def _corners(hull: Hull, molds: Sequence[Mold], job: Job) -> dict[int, Array]:
    """Where the edges of molds have their corners, (n, 3) mm from the bow aft, by the number of the panel above each: under a
    knuckle, and at the top of the uppermost panel where molds are closed under a deck."""
    own = job.molds
    low, high = hull.panels[-1].surface.points(np.array([0.0, 1.0]), np.zeros(2))[:, 0].tolist()
    places = np.linspace(low, high, PLACES)[1:-1].tolist() if len(hull.panels) > 1 else []
    edges = mold_edges(hull, places, own.deducted, Deduction.NORMAL, 0.0, own.false_bottom)
    found: dict[int, list[list[float]]] = {}
    for x, edge in zip(places, edges, strict=True):
        for number, at in (edge.corners if edge is not None else {}).items():
            found.setdefault(number, []).append([x, *at.tolist()])
    for mold in molds:
        if mold.deck is not None:
            found.setdefault(len(hull.panels), []).append([mold.station, *mold.deck.corner.tolist()])
    return {number: np.array(line) for number, line in found.items() if len(line) > 1}


def _ended(surface: TensorSurface, low: Array | None, high: Array | None) -> TensorSurface:
    """The face of a form's panel ended on the lines (n, 3) in which the molds have their corners, below and above; None: where it
    ends by itself. Between the molds' places the lines run smoothly, past them as far off its own edge as at the last."""
    if low is None and high is None:
        return surface
    nu, nv = surface.grid.shape[:2]
    along = np.linspace(0.0, 1.0, nu)
    begins, stops = (np.full(nu, own) if line is None else _v_of(surface, line, along) for line, own in ((low, 0.0), (high, 1.0)))
    across = np.linspace(0.0, 1.0, nv)
    v = begins[:, None] + across[None, :] * (stops - begins)[:, None]
    u = np.broadcast_to(along[:, None], v.shape)
    points = surface.jet(u.ravel(), v.ravel()).point.reshape(nu, nv, 3)
    return TensorSurface(points, straight_ends=True)


def _v_of(surface: TensorSurface, line: Array, along: Array) -> Array:
    """How far up a surface a line (n, 3) beside its edge lies, in v, at each u (m,)."""
    from scipy.interpolate import PchipInterpolator  # loads slowly: not before it is needed

    uv, _ = inverted(surface, line, over=CORNER_REACH)
    uv = uv[np.argsort(uv[:, 0])]
    uv = uv[rising(uv[:, 0], EDGE)]
    if len(uv) < 2:
        return np.full(len(along), float(uv[0, 1]))
    result: Array = PchipInterpolator(uv[:, 0], uv[:, 1])(np.clip(along, uv[0, 0], uv[-1, 0]))
    return result


def _end_mold(line: Array) -> EndMold:
    """The mold under the end of a form, by the line (n, 3) that its edge is: in the plane square to the centre plane that is
    nearest to it."""
    profile = line[:, [0, 2]]
    middle = profile.mean(axis=0)
    up = np.linalg.svd(profile - middle)[2][0]
    up = up if up[1] >= 0 else -up
    along = (profile - middle) @ up
    off = (profile - middle) @ np.array([-up[1], up[0]])
    low, high = (middle + at * up for at in (along.min(), along.max()))
    edge = np.column_stack([line[:, 1], along - along.min()])
    return EndMold(frozen(edge), float(low[0]), float(high[0]), float(np.abs(off).max()))


def _ribband_courses(surface: TensorSurface, panel: int, molds: Sequence[Mold], job: Job, *, top: bool) -> list[_Course]:
    """Ribbands of one panel from below up: the girth divided evenly to the one along its upper edge."""
    girths = _girths(surface)
    whole = girths[:, -1]
    count = count_of(float(whole.max()), job.form.spacing, "ribbands")
    apart = whole / count
    stride = 2.0 ** np.ceil(np.log2(np.maximum((job.form.width + ROOM_MM) / np.maximum(apart, 1e-6), 1.0)))
    courses = []
    for k in range(1, count + 1):
        steps = count - k
        stays = (steps == 0) | (np.mod(steps, stride) == 0)
        on = stays if stays.all() else _on_molds(surface, stays, molds)
        if on.sum() > 2:
            v = [np.interp(whole[i] * k / count, girths[i], ACROSS) for i in range(PLACES)]
            last = steps == 0
            courses.append(_Course(panel, surface, EVEN, np.array(v), on, at_sheer=last and top, at_knuckle=last and not top))
    return courses


def _girths(surface: TensorSurface) -> Array:
    """How far round from its lower edge a surface's places are, (PLACES, ROWS) mm."""
    steps = np.linalg.norm(np.diff(surface.points(EVEN[:, None], ACROSS[None, :]), axis=1), axis=2)
    return np.concatenate([np.zeros((PLACES, 1)), np.cumsum(steps, axis=1)], axis=1)


def _on_molds(surface: TensorSurface, stays: BoolArray, molds: Sequence[Mold]) -> BoolArray:
    """The part of a ribband that stops where it comes too near its neighbours: from mold to mold about the middle."""
    x = surface.points(EVEN, np.full(PLACES, 0.5))[:, 0]
    standing = [m.station for m in molds if bool(stays[int(np.argmin(np.abs(x - m.station)))])]
    if len(standing) < 2:
        return np.zeros(PLACES, dtype=bool)
    low, high = np.searchsorted(x, [min(standing), max(standing)])
    on = np.zeros(PLACES, dtype=bool)
    on[max(low - 1, 0) : high + 1] = True
    return on


def _stringer_courses(surface: TensorSurface, panel: int, stringers: Sequence[StringerLine]) -> list[_Course]:
    """Stringers of one panel as they lie in the frames, the lowest first; past the hull's ends they run on."""
    courses = []
    for stringer in stringers:
        uv, _ = inverted(surface, stringer.points[::STRINGER_STEP])
        uv = uv[rising(uv[:, 0])]
        line = SurfaceLine.through(uv[:, 0], uv[:, 1], EVEN)
        on = (line.v >= 0.0) & (line.v <= 1.0)
        courses.append(_Course(panel, surface, EVEN, line.v, on))
    return courses


def _ribband(
    number: int, course: _Course, molds: Sequence[Mold], section: StripSection, middle: tuple[float, float], stick: float
) -> Ribband:
    run_of_it = np.flatnonzero(course.on)
    low, high = course.u[run_of_it[[0, -1]]]
    line = SurfaceLine.through(course.u, course.v, np.linspace(low, high, DENSE_PLACES))
    own = felt(course.surface, line, upward=True)
    points = own.jet.point
    length = float(runs_along(points + middle[0] * own.away + middle[1] * own.jet.normal)[-1])
    return Ribband(
        number,
        course.panel,
        frozen(points),
        frozen((course.face or course.surface).points(line.u, line.v)),
        length,
        course.at_sheer,
        course.at_knuckle,
        course.past_sheer,
        tuple(_crossings(points, molds)),
        sprung(own, points, section),
        butts_of(length, stick) + 1,
    )


def _crossings(points: Array, molds: Sequence[Mold]) -> list[Crossing]:
    """Where a line of points (n, 3), bow end first, comes on the molds that it crosses."""
    found = []
    for mold in molds:
        if not points[0, 0] <= mold.station <= points[-1, 0]:
            continue
        at = np.array([[np.interp(mold.station, points[:, 0], points[:, k]) for k in (1, 2)]])
        edge = mold.edge.points
        cell, share, _ = feet(at, edge, beyond=True)
        steps = np.diff(runs_along(edge))
        from_keel = float(steps[: cell[0]].sum() + share[0] * steps[cell[0]])
        found.append(Crossing(mold.name, from_keel, float(steps.sum()) - from_keel))
    return found


def _findings(form: Form, job: Job) -> list[Finding]:
    found = []
    if not form.ribbands:
        text = (
            "No stringers are given: say at what shares of the girth amidships they lie (Molds, Notches)."
            if form.kind is FormKind.STRINGERS
            else "No ribband lies on this form: give molds first."
        )
        found.append(Finding("no-ribbands", Weight.STOP, PAGE, "the form", text))
    hard = [r for r in form.ribbands if r.behaviour.grade in (Handling.HEAT, Handling.NOT)]
    if hard:
        worst = max(hard, key=lambda r: (GRADES.index(r.behaviour.grade), r.behaviour.share))
        word = "ribband" if form.kind is FormKind.RIBBANDS else "stringer"
        mend = f": {worst.behaviour.mend}" if worst.behaviour.mend else ""
        text = (
            f"{len(hard)} of {len(form.ribbands)} take more than clamps, hardest {word} {worst.number} near position "
            f"{mm(round(worst.behaviour.place))}{mend}."
        )
        found.append(Finding("ribband-hard", Weight.LOOK, PAGE, "the form", text))
    past = job.veneers.past_sheer
    if form.kind is FormKind.RIBBANDS and job.closed_under is None and 0 < past <= job.form.width + ROOM_MM / 2:
        text = (
            f"The form goes {mm(past)} past the sheer: too little for a ribband of its own there. "
            f"{mm(job.form.width + ROOM_MM)} is enough."
        )
        found.append(Finding("no-waste-ribband", Weight.INFORMATION, PAGE, "the form", text))
    return found

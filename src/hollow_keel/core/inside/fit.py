"""What goes inside the skin: a sole at a height, bulkheads, stringers, and sheets joined with glass let in on both faces.

The inside of the skin lies its thickness inside the hull's surface, square to it; sheets keep a gap to it for a fillet.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import contourpy
import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen, rows_at
from ..geometry.polyline import met, runs_along
from ..geometry.surface import TensorSurface
from ..geometry.surface_line import SurfaceLine, felt
from ..hull.build import Hull
from ..hull.reach import off_boat
from ..job import Job
from ..molds.shape import MoldEdge, mold_edges
from ..molds.stations import Mold
from ..molds.stringers import StringerLine, wide_along
from ..planking.mechanics import Behaviour, Handling, section_over, sprung
from ..rules import GLASS_BY_HAND, GLASS_KG_PER_L
from ..settings.mold_choices import Deduction
from ..sheer.heads import PAGE, SheerMark
from ..stock.scarfs import scarfed_from

GRID, FINER = (61, 41), 4
CONVERGED_MM = 1e-6
POLISHED = 5
LEAST_MM = 1.0
"""A sole narrower than this on a side has ended."""
DEFAULT_ENDS, DEFAULT_UP = (0.25, 0.75), 0.25


@dataclass(frozen=True)
class SolePlace:
    """How wide a sole is at a place along the hull: its half-breadth at the upper face, mm, and the bevel of its edge from square,
    degrees, positive where its lower face is narrower."""

    name: str
    station: float
    half: float
    bevel: float


@dataclass(frozen=True)
class Sole:
    """A sole at a `height`: the edge of one side (n, 2), positions along the hull and half-breadths of its upper face, mm; bevels
    (n,), degrees; what it measures at molds and frames; its area, both sides, mm²."""

    height: float
    edge: Array
    bevels: Array
    places: tuple[SolePlace, ...]
    area: float


@dataclass(frozen=True)
class Bulkhead:
    """A bulkhead of one side: its name, where it stands, its edge (n, 2) from keel to sheer, half-breadths and heights, mm, and the
    greatest bevel of its edge, degrees."""

    name: str
    station: float
    edge: MoldEdge
    bevel: float


@dataclass(frozen=True)
class Notch:
    """Where a stringer's middle comes to a head's section: how far round the inside of the skin from the keel and from the
    sheer, and how wide the notch is along the skin, mm."""

    name: str
    from_keel: float
    from_sheer: float
    wide: float


@dataclass(frozen=True)
class Stringer:
    """A stringer of one side at a share of the girth: its length along its middle, mm, what springing it in asks, from how many
    lengths it is scarfed (0: no board is known), its notches and its line (n, 3), mm."""

    name: str
    share: float
    length: float
    behaviour: Behaviour
    pieces: int
    notches: tuple[Notch, ...]
    line: Array


@dataclass(frozen=True)
class GlassJoint:
    """A joint of two sheets with glass let in on both faces: how deep and how wide the recess is, the width of each ply from the
    sheet outward, mm; cloth of both faces (m²) and mixed resin (g) for a metre of it."""

    deep: float
    wide: float
    plies: tuple[float, ...]
    cloth: float
    resin: float


@dataclass(frozen=True)
class Inside:
    """All of it; what is not wanted is None or empty."""

    sole: Sole | None
    bulkheads: tuple[Bulkhead, ...]
    stringers: tuple[Stringer, ...]
    joint: GlassJoint
    findings: tuple[Finding, ...]


def fit_inside(
    hull: Hull, molds: Sequence[Mold], stringers: Sequence[StringerLine], marks: Sequence[SheerMark], job: Job, waterline: float
) -> Inside:
    """What goes inside; `stringers` as they lie. Reads the job's inside, skin, boards and joints, resin, and the pushes of hand
    and clamp."""
    findings: list[Finding] = []
    sole = _sole(hull, marks, job, findings) if job.inside.sole else None
    return Inside(
        sole,
        _bulkheads(hull, job, waterline, findings),
        _stringers(hull, molds, stringers, marks, job, findings),
        glass_joint(job),
        tuple(findings),
    )


def glass_joint(job: Job) -> GlassJoint:
    """The recess of a glassed joint. Each ply is as thick as its glass at the share of glass that cloth laid by hand has."""
    own, resin = job.inside, job.stock.used_up.resin_ratio
    ply = own.cloth / 1000.0 / GLASS_KG_PER_L / GLASS_BY_HAND  # g/m² over kg/l is micrometres
    plies = tuple(w for k in range(own.plies) if (w := own.tape - 2 * k * own.step) > 0)
    cloth = 2 * sum(plies) / 1000.0
    return GlassJoint(len(plies) * ply, own.tape, plies, cloth, cloth * own.cloth * resin)


def _depths(hull: Hull, job: Job, more: float) -> list[float]:
    """How far inside the outside each panel's sheets end, mm."""
    bottom = job.molds.false_bottom
    last = len(hull.panels) - 1
    return [job.molds.skin + more + (bottom if k == 0 < last else 0.0) for k in range(last + 1)]


def inside_at(surface: TensorSurface, u: Array, v: Array, depth: float) -> tuple[Array, Array]:
    """Points `depth` mm inside a surface, and its normals there, (n, 3) each."""
    jet = surface.jet(u, v)
    normal = jet.normal
    return jet.point - depth * normal, normal


def _sole(hull: Hull, marks: Sequence[SheerMark], job: Job, findings: list[Finding]) -> Sole | None:
    own = job.inside
    keel = hull.panels[0].surface.points(np.array([0.0, 0.5, 1.0]), np.zeros(3))
    sheer = hull.panels[-1].surface.points(np.array([0.5]), np.ones(1))[0]
    height = own.height
    if height is None:
        height = float(keel[1, 2] + DEFAULT_UP * (sheer[2] - keel[1, 2]))
    for given in (own.begins, own.ends):
        if off := off_boat(hull, given):
            findings.append(Finding("sole-off", Weight.LOOK, PAGE, "sole", f"{off}. The sole ends where her skin does."))
    ends = sorted(
        given if given is not None else float(keel[0, 0] + share * (keel[2, 0] - keel[0, 0]))
        for given, share in zip((own.begins, own.ends), DEFAULT_ENDS, strict=True)
    )
    lines = [
        level_line(panel.surface, depth, height) for panel, depth in zip(hull.panels, _depths(hull, job, own.gap), strict=True)
    ]
    rows = np.concatenate([line for line in lines if line is not None] or [np.zeros((0, 3))])
    rows = rows[rows[:, 1] > LEAST_MM]
    rows = rows[np.argsort(rows[:, 0], kind="stable")]
    if len(rows) < 3 or rows[-1, 0] <= ends[0] or rows[0, 0] >= ends[1]:
        text = f"No inside of the skin lies at height {mm(round(height))} between its ends: another height, or other ends."
        findings.append(Finding("no-sole", Weight.LOOK, PAGE, "sole", text))
        return None
    ends = [max(ends[0], float(rows[0, 0])), min(ends[1], float(rows[-1, 0]))]
    within = (rows[:, 0] > ends[0]) & (rows[:, 0] < ends[1])
    at = np.unique(np.concatenate([ends[:1], rows[within, 0], ends[1:]]))
    table = rows_at(at, rows[:, 0], rows[:, 1:])
    places = tuple(
        SolePlace(mark.name, mark.station, *rows_at(np.array([mark.station]), at, table)[0].tolist())
        for mark in marks
        if ends[0] <= mark.station <= ends[1]
    )
    area = 2 * float(np.trapezoid(table[:, 0], at))
    edge = np.column_stack([at, table[:, 0]])
    return Sole(height, frozen(edge), frozen(table[:, 1]), places, area)


def level_line(surface: TensorSurface, depth: float, height: float) -> Array | None:
    """Where the inside of a panel, `depth` mm inside it, is at a height: position along the hull, half-breadth (mm) and bevel
    (degrees, positive where the hull is narrower below), (n, 3) from the bow aft; None where it is nowhere. The longest line there
    is."""
    even = [np.linspace(0.0, 1.0, count) for count in GRID]
    u, v = np.meshgrid(*even, indexing="ij")
    points, _ = inside_at(surface, u.ravel(), v.ravel(), depth)
    tall = points[:, 2].reshape(GRID)
    found = contourpy.contour_generator(even[1], even[0], tall).lines(height)
    lines = [np.asarray(line) for line in found if len(line) > 2]
    if not lines:
        return None
    rough = max(lines, key=len)
    at_row = np.arange((len(rough) - 1) * FINER + 1) / FINER
    own_v, own_u = (np.interp(at_row, np.arange(len(rough)), column) for column in rough.T)
    for _ in range(POLISHED):
        jet = surface.jet(own_u, own_v)
        at = jet.point - depth * jet.normal
        if np.abs(at[:, 2] - height).max() < CONVERGED_MM:
            break
        rise = np.where(np.abs(jet.dv[:, 2]) > 1e-6, jet.dv[:, 2], 1e-6)
        step = np.clip((height - at[:, 2]) / rise, -0.01, 0.01)
        own_v = np.clip(own_v + step, 0.0, 1.0)
    at, normal = inside_at(surface, own_u, own_v, depth)
    level = np.hypot(normal[:, 0], normal[:, 1])
    bevel = np.degrees(np.arctan2(-normal[:, 2], level))
    rows = np.column_stack([at[:, 0], at[:, 1], bevel])
    return rows if rows[0, 0] <= rows[-1, 0] else rows[::-1]


def _bulkheads(hull: Hull, job: Job, waterline: float, findings: list[Finding]) -> tuple[Bulkhead, ...]:
    own, places = job.inside, sorted(job.inside.bulkheads)
    if not places:
        return ()
    edges = mold_edges(hull, places, job.molds.skin + own.gap, Deduction.NORMAL, waterline, job.molds.false_bottom)
    found = []
    for k, (at, edge) in enumerate(zip(places, edges, strict=True)):
        name = f"bulkhead {k + 1}"
        if edge is None:
            text = f"There is no hull at position {mm(at)}: put it between the ends."
            findings.append(Finding("no-bulkhead", Weight.LOOK, PAGE, name, text))
            continue
        found.append(Bulkhead(name, at, edge, math.degrees(float(edge.bevels.max()))))
    return tuple(found)


def _stringers(
    hull: Hull, molds: Sequence[Mold], lines: Sequence[StringerLine], marks: Sequence[SheerMark], job: Job, findings: list[Finding]
) -> tuple[Stringer, ...]:
    own = job.inside
    if not lines:
        return ()
    stations = [m.station for m in molds]
    section = section_over(own.stringer_width, own.stringer_thickness, own.stringer_wood, stations, job.strips)
    inner = mold_edges(hull, [m.station for m in marks], job.molds.skin, Deduction.NORMAL, 0.0, job.molds.false_bottom)
    found = []
    for line in lines:
        name = f"stringer {line.number}"
        depth = _depths(hull, job, 0.0)[line.panel]
        along = SurfaceLine.through(line.uv[:, 0], line.uv[:, 1], line.uv[:, 0])
        lies = felt(hull.panels[line.panel].surface, along, upward=True)
        middle = lies.jet.point - (depth + own.stringer_thickness / 2) * lies.jet.normal
        on_skin = replace(line, points=frozen(lies.jet.point - depth * lies.jet.normal))
        behaviour = sprung(lies, middle, section)
        length = float(runs_along(middle)[-1])
        found.append(
            Stringer(
                name,
                line.share,
                length,
                behaviour,
                scarfed_from(length, own.stringer_thickness, job),
                tuple(_notches(on_skin, marks, inner, own.stringer_width)),
                on_skin.points,
            )
        )
        if behaviour.grade in (Handling.HEAT, Handling.NOT):
            mend = f": {behaviour.mend}" if behaviour.mend else ""
            text = f"It takes more than clamps, hardest near position {mm(round(behaviour.place))}{mend}."
            findings.append(Finding("stringer-hard", Weight.LOOK, PAGE, name, text))
    return tuple(found)


def _notches(line: StringerLine, marks: Sequence[SheerMark], inner: Sequence[MoldEdge | None], width: float) -> Iterator[Notch]:
    """Where a stringer on the inside of the skin comes to the heads. A notch is wider than the stringer where that crosses the
    section's plane obliquely along the skin."""
    for mark, edge in zip(marks, inner, strict=True):
        crossed = line.at(mark.station)
        if crossed is None or edge is None:
            continue
        from_keel, _, round_it = met(edge.points, crossed[0])
        yield Notch(mark.name, from_keel, edge.girth - from_keel, wide_along(crossed[1], round_it, width))

"""Strip edges against an exact polyhedral geodesic library (pygeodesic, general-purpose, tests only).

The library's distances are exact on the mesh; the mesh's own error falls with its size and is well under the
tolerance here. Sources are the mesh's vertices along the sheer, so the first strips, nearer than a few
vertex spacings, are left out.
"""

from __future__ import annotations

import numpy as np
import pytest
from pygeodesic import geodesic
from scipy.interpolate import CloughTocher2DInterpolator, CubicSpline, RegularGridInterpolator

from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.job import Guide, Job, MasterLine
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.settings.strip_choices import Course, MasterKind, StripLayout
from hollow_keel.demo.jobs import linnet, pipit, sedge
from tests.outside.meshed import meshed, meshed_about

TOLERANCE_MM = 0.5


@pytest.mark.parametrize(
    ("job", "along", "up"), [(pipit(), 301, 61), (linnet(), 401, 61), (sedge(), 501, 71)], ids=lambda j: getattr(j, "name", str(j))
)
def test_fronts_lie_where_the_library_puts_them(job: Job, along: int, up: int) -> None:
    surface = Pipeline().shape(job).hull.panels[0].surface
    points, faces, index, u, v = meshed(surface, along, up)
    solver = geodesic.PyGeodesicAlgorithmExact(points, faces)
    distance, _ = solver.geodesicDistances(index[:, -1].astype(np.int32), None)

    fronts = propagate(surface, 1.0, job.strips.cover)
    known = np.concatenate([np.column_stack([f.u, f.v, np.full(len(f.u), f.distance)]) for f in fronts])
    ours = CloughTocher2DInterpolator(known[:, :2], known[:, 2])(u.ravel(), v.ravel())
    sides = (u.ravel() > 0.15) & (u.ravel() < 0.85) & (distance > 60) & (distance < fronts[-2].distance - 40)
    assert sides.sum() > 5000
    assert np.abs(ours - distance)[sides].max() < TOLERANCE_MM


@pytest.mark.parametrize(
    ("job", "guide"),
    [*((job, guide) for job in (pipit(), linnet()) for guide in Guide), *((sedge(), guide) for guide in (Guide.SHEER, Guide.KEEL))],
    ids=lambda own: getattr(own, "name", str(own)),
)
def test_edges_lie_where_the_library_puts_them_whatever_the_guide(job: Job, guide: Guide) -> None:
    """Every edge of every course, as it is drawn, away from the hull's ends: as many widths from its guide as the library says."""
    hull = Pipeline().shape(job).hull
    surface, width = hull.panels[0].surface, job.strips.cover
    share = 0.8 if job.name == "Pipit" else 0.5  # elsewhere strips off such a line do not cover her, and are refused
    master = MasterLine(kind=MasterKind.GIRTH, share=share)
    laid = plank(hull, Laying(width, guide, master=master))
    along, up = (401, 61) if job.name == "Sedge" else (301, 51)  # a row of the mesh lies on the master line
    line = laid.course(0, Course.DOWN)[0].near[0].uv if guide is Guide.MASTER else None
    points, faces, index, u, t, place = meshed_about(surface, along, up, line, share)
    solver = geodesic.PyGeodesicAlgorithmExact(points, faces)
    starts = {
        Guide.SHEER: {Course.DOWN: up - 1},
        Guide.KEEL: {Course.UP: 0},
        Guide.MASTER: {Course.DOWN: round(share * (up - 1)), Course.UP: round(share * (up - 1))},
        Guide.BOTH: {Course.UP: 0, Course.DOWN: up - 1},
    }[guide]
    seen = 0
    for course, row in starts.items():
        distance, _ = solver.geodesicDistances(index[:, row].astype(np.int32), None)
        told = RegularGridInterpolator((u[:, 0], t[0]), distance.reshape(along, up))
        for number, strip in enumerate(laid.course(0, course), start=1):
            if number * width < 60:  # nearer than a few of the library's sources
                continue
            for piece in strip.far:
                inner = piece.uv[(piece.uv[:, 0] > 0.2) & (piece.uv[:, 0] < 0.8)]
                if len(inner):
                    off = np.abs(told(np.column_stack([inner[:, 0], place(*inner.T)])) - number * width)
                    assert off.max() < 2 * TOLERANCE_MM, (course, number)
                    assert np.median(off) < 0.6 * TOLERANCE_MM
                    seen += 1
    assert seen > 20


@pytest.mark.parametrize("job", [linnet(), sedge()], ids=lambda j: j.name)
def test_divided_edges_lie_where_the_library_puts_them(job: Job) -> None:
    """Tapered, mixed and few from the sheer, away from the ends: the library tells how far a place lies from the sheer and which
    place of the sheer it is nearest to; how far it is from there to the keel follows from its distances along the keel."""
    hull = Pipeline().shape(job).hull
    surface, width, least = hull.panels[0].surface, job.strips.cover, job.strips.least_width
    along, up = (501, 71) if job.name == "Sedge" else (401, 61)
    points, faces, index, u, v = meshed(surface, along, up)
    distance, source = geodesic.PyGeodesicAlgorithmExact(points, faces).geodesicDistances(index[:, -1].astype(np.int32), None)
    told, nearest = (
        RegularGridInterpolator((u[:, 0], v[0]), field.reshape(along, up)) for field in (distance, source / (along - 1.0))
    )
    keel = np.linspace(0.15, 0.85, 141)
    landing = np.column_stack([keel, np.zeros_like(keel)])
    foot, ways = nearest(landing), told(landing)  # the source goes in steps of one point of the mesh
    whole = CubicSpline(*np.unique(np.column_stack([foot, ways])[np.diff(foot, prepend=-1) > 0], axis=0).T)
    most = float(ways.max())

    for layout in (StripLayout.TAPERED, StripLayout.MIXED, StripLayout.FEW):
        laid = plank(hull, Laying(width, layout=layout, least=least)).strips
        shaped = [k for k, strip in enumerate(laid) if strip.shaped]
        seen = 0
        for number, strip in enumerate(laid, start=1):
            if number * width < 60 or (layout is StripLayout.FEW and number > shaped[-1] + 1):
                continue
            for piece in strip.far:
                inner = piece.uv[(piece.uv[:, 0] > 0.35) & (piece.uv[:, 0] < 0.65)]
                if not len(inner) or (layout is StripLayout.TAPERED and number == len(laid)):
                    continue
                lies, way = told(inner), whole(nearest(inner))
                if layout is StripLayout.TAPERED:
                    wanted = way * number / len(laid)
                elif layout is StripLayout.MIXED:
                    full = way > 0.91 * most
                    lies, wanted = lies[full], np.full(int(full.sum()), number * width)
                else:
                    before = shaped[0]
                    own = np.maximum(width - (most - way) / len(shaped), least)
                    clear = own > least + 0.4 * (width - least)  # below that the way to the least width is eased
                    lies, own = lies[clear], own[clear]
                    wanted = min(number, before) * width + max(number - before, 0) * own
                if len(lies):
                    assert np.abs(lies - wanted).max() < 3 * TOLERANCE_MM, (layout, number)
                    assert np.median(np.abs(lies - wanted)) < TOLERANCE_MM, (layout, number)
                    seen += 1
        assert seen > 20, layout

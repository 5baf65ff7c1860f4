"""Strip edges against an exact polyhedral geodesic library (pygeodesic, general-purpose, tests only).

The library's distances are exact on the mesh; the mesh's own error falls with its size and is well under the
tolerance here. Sources are the mesh's vertices along the sheer, so the first strips, nearer than a few
vertex spacings, are left out.
"""

from __future__ import annotations

import numpy as np
import pytest
from pygeodesic import geodesic
from scipy.interpolate import CloughTocher2DInterpolator

from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import linnet, pipit, sedge

TOLERANCE_MM = 0.5


@pytest.mark.parametrize(
    ("job", "along", "up"), [(pipit(), 301, 61), (linnet(), 601, 81), (sedge(), 501, 71)], ids=lambda j: getattr(j, "name", str(j))
)  # fmt: skip
def test_fronts_lie_where_the_library_puts_them(job: Job, along: int, up: int) -> None:
    surface = Pipeline().shape(job).hull.panels[0].surface
    u, v = np.meshgrid(np.linspace(0, 1, along), np.linspace(0, 1, up), indexing="ij")
    points = surface.points(u, v).reshape(-1, 3)
    index = np.arange(along * up).reshape(along, up)
    a, b, c, d = (x.ravel() for x in (index[:-1, :-1], index[1:, :-1], index[1:, 1:], index[:-1, 1:]))
    faces = np.concatenate([np.column_stack([a, b, c]), np.column_stack([a, c, d])])
    solver = geodesic.PyGeodesicAlgorithmExact(points, faces)
    distance, _ = solver.geodesicDistances(index[:, -1].astype(np.int32), None)

    fronts = propagate(surface, 1.0, job.strips.cover)
    known = np.concatenate([np.column_stack([f.u, f.v, np.full(len(f.u), f.distance)]) for f in fronts])
    ours = CloughTocher2DInterpolator(known[:, :2], known[:, 2])(u.ravel(), v.ravel())
    sides = (u.ravel() > 0.15) & (u.ravel() < 0.85) & (distance > 60) & (distance < fronts[-2].distance - 40)
    assert sides.sum() > 5000
    assert np.abs(ours - distance)[sides].max() < TOLERANCE_MM

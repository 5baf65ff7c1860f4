"""Seams of veneers against an exact polyhedral geodesic library (pygeodesic, general-purpose, tests only).

A seam is as long as the shortest way between its ends on the hull, and lies on it: the library finds both on a fine mesh.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from pygeodesic import geodesic

from hollow_keel.core.geometry.polyline import feet, runs_along
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.veneers.beyond import Past, carried_on
from hollow_keel.core.veneers.seams import seams_over, set_off
from hollow_keel.demo.jobs import sedge
from tests.outside.meshed import meshed

TOLERANCE_MM = 1.0
ALONG, UP = 241, 61


@pytest.mark.parametrize("degrees", [45.0, -45.0])
def test_seams_of_the_launch_lie_where_the_library_puts_them(degrees: float) -> None:
    hull = Pipeline().results(sedge(), [HULL])[HULL]
    surface = carried_on(hull.panels[0].surface, 5.0, Past(upper=60.0)).surface
    points, faces, _, _, _ = meshed(surface, ALONG, UP)
    solver = geodesic.PyGeodesicAlgorithmExact(points, faces)
    start = set_off(surface, 0.5, 0.5, math.radians(degrees))
    back, ahead = seams_over(surface, start, 100.0, lambda: None)
    for seam in (back[len(back) // 2], ahead[-4]):
        own = seam.points[seam.on]
        ends = [int(np.argmin(np.linalg.norm(points - own[k], axis=1))) for k in (len(own) // 10, -len(own) // 10)]
        found, path = solver.geodesicDistance(*ends)
        (_, _, first), (_, _, last) = (feet(points[[k]], own) for k in ends)
        run = runs_along(own)
        places = [run[np.argmin(np.linalg.norm(own - foot, axis=1))] for foot in (first[0], last[0])]
        assert found == pytest.approx(abs(places[1] - places[0]), abs=12.0)  # ends are nearest points of both
        # the library's way starts at vertices beside the seam: between them it keeps as far off as a straight line would
        _, _, foot = feet(path, own)
        off = np.linalg.norm(path - foot, axis=1)
        share = np.linspace(0, 1, len(off))
        at = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(path, axis=0), axis=1))])
        share = at / at[-1]
        side = np.sign(np.vecdot(path - foot, np.cross(np.gradient(own, axis=0)[len(own) // 2], [0.0, 0.0, 1.0])))
        signed = off * side
        straight = signed[0] + share * (signed[-1] - signed[0])
        assert np.abs(signed - straight).max() < TOLERANCE_MM

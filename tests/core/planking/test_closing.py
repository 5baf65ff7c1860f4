"""How strips end and how the last gap is closed."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hollow_keel.core.findings import Weight
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.closing import closings
from hollow_keel.core.planking.end_cuts import end_cuts
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.results import Results
from hollow_keel.core.settings.strip_choices import Guide, StripLayout
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.planking.schedules import STRIP_ROWS
from hollow_keel.files.schedule import schedule_csv
from tests.shapes import cone, cylinder, hull_of, sphere_zone, wigley

HALF_ANGLE = math.radians(9)


@pytest.fixture(scope="module")
def results() -> Results:
    return Pipeline().results(linnet())


def test_strips_of_a_tube_are_cut_square_at_its_transoms() -> None:
    hull = hull_of(cylinder(500))
    for strip in plank(hull, 30.0).strips[:-1:5]:
        for cut in end_cuts(hull, strip):
            assert cut is not None
            assert (cut.on, cut.across) == ("transom", pytest.approx(90, abs=0.01))
            assert cut.bevel == pytest.approx(0, abs=0.01)


def test_on_a_cone_the_cut_leans_by_the_half_angle() -> None:
    """Tapered strips run along generators, square to the circles at its ends."""
    hull = hull_of(cone(HALF_ANGLE))
    laid = plank(hull, Laying(30.0, layout=StripLayout.TAPERED, least=2.0))
    for strip in laid.strips[2:-2:5]:
        for cut in end_cuts(hull, strip):
            assert cut is not None
            assert cut.across == pytest.approx(90, abs=0.3)
            assert cut.bevel == pytest.approx(9, abs=0.05)


def test_on_a_sphere_the_plane_of_the_end_meets_the_skin_as_its_radius_says() -> None:
    """A transom plane 600 from the middle of a sphere of 1000: its normal leans asin(0.6) from the skin."""
    hull = hull_of(sphere_zone(1000, 600))
    for strip in plank(hull, 40.0).strips[3:12:3]:
        forward, aft = end_cuts(hull, strip)
        assert forward is not None
        assert aft is not None
        assert forward.bevel == pytest.approx(math.degrees(math.asin(0.6)), abs=0.5)
        assert forward.across == pytest.approx(aft.across, abs=0.2)


def test_on_an_upright_stem_the_cut_follows_the_entrance() -> None:
    """Upright stem: the trimmed face looks forward, so the cut leans from square by the angle of the skin to the centre plane:
    there its normal is nearly across, and its share forward is the sine of that angle."""
    hull = hull_of(wigley())
    strip = plank(hull, 25.0).strips[2]
    forward, _ = end_cuts(hull, strip)
    assert forward is not None
    jet = hull.panels[0].surface.jet(np.array([0.0]), np.array([0.93]))
    entrance = math.degrees(math.asin(abs(float(jet.normal[0, 0]))))
    assert forward.on == "stem_bow"
    assert forward.bevel == pytest.approx(entrance, abs=1.0)
    assert 80 < forward.across <= 90


def test_the_last_gap_of_linnet_is_a_sliver_to_be_glued_on(results: Results) -> None:
    (gap,) = closings(results.planking)
    assert gap.strip == 65
    assert gap.sliver == (gap.widest < 0.4 * 14)
    assert gap.short == sum(not s.runs_through for s in results.planking.strips)
    (said,) = [f for f in results.planking.findings if f.code == "last-gap"]
    assert said.weight is Weight.INFORMATION
    assert ("Glue it to the one before it" in said.text) == gap.sliver
    assert gap.widest == pytest.approx(results.planking.strips[-1].width_max, abs=0.6)
    last = results.planking.strips[-1]
    (near,) = last.near
    keel = results.planking.limits[last.panel, last.course]
    here = np.array([np.interp(gap.at, near.points[:, 0], near.points[:, c]) for c in range(3)])
    assert near.points[0, 0] <= gap.at <= near.points[-1, 0]
    assert np.linalg.norm(keel - here, axis=1).min() == pytest.approx(gap.widest, abs=2.0)  # told every 12 mm


def test_every_course_has_a_last_gap_and_divided_girths_have_none(results: Results) -> None:
    hull = results.shape.hull
    both_ways = plank(hull, Laying(14.0, Guide.MASTER))
    assert len(closings(both_ways)) == 2
    tapered = plank(hull, Laying(14.0, layout=StripLayout.TAPERED))
    assert not [f for f in tapered.findings if f.code == "last-gap"]


def test_ends_are_in_the_schedule(results: Results) -> None:
    lines = schedule_csv(results, STRIP_ROWS).splitlines()
    at = lines[0].split(",").index("forward cut deg")
    first = lines[1].split(",")
    assert 30 < float(first[at]) < 90
    assert 0 <= float(first[at + 1]) < 90

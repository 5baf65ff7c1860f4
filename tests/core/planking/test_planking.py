"""Strips: their numbers, lengths, ends and what is said about them."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_keel.app.open_any import open_job
from hollow_keel.app.overrides import apply_override
from hollow_keel.core.geometry.front import SPACING, curves, propagate
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.edges import BOW_ENDS, STERN_ENDS
from hollow_keel.core.planking.limits import Limit
from hollow_keel.core.planking.plank import CLOSE_CALL_MM, plank
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.planking.strips import Planking
from hollow_keel.demo.jobs import linnet, pipit
from tests.conftest import DATA
from tests.shapes import cone, cylinder, hull_of, sphere_zone, wigley

KEEL = Limit("keel", 0.0)


@pytest.fixture(scope="module")
def laid() -> Planking:
    return Pipeline().value(linnet(), PLANKING)


def test_numbers_run_from_the_guide(laid: Planking) -> None:
    assert [s.number for s in laid.strips] == list(range(1, 66))
    assert laid.strips[0].near[0].points[:, 2].min() > laid.strips[40].near[0].points[:, 2].max() - 400


def test_neighbours_share_an_edge(laid: Planking) -> None:
    for a, b in zip(laid.strips[:-1], laid.strips[1:], strict=True):
        assert [p.points.tobytes() for p in a.far] == [p.points.tobytes() for p in b.near]


def test_edges_are_a_strip_apart_on_the_hull(laid: Planking) -> None:
    """Straight between two edges is a little less than along the round of the bilge, never more than a strip."""
    for strip in laid.strips[5:40:6]:
        near, far = strip.near[0].points, strip.far[0].points
        gaps = np.array([np.linalg.norm(near - p, axis=1).min() for p in far[15:-15]])
        segment = np.linalg.norm(np.diff(near, axis=0), axis=1).max() / 2
        assert np.all(gaps <= math.hypot(14.0, segment) + 0.01)
        assert np.all(gaps >= 14.0 * 0.99)


def test_length_lies_between_and_beyond_the_edges(laid: Planking) -> None:
    for strip in laid.strips:
        assert strip.length >= max(strip.near_length, strip.far_length) - 1.0
        assert strip.length <= max(strip.near_length, strip.far_length) + 120


def test_edge_lengths_agree_with_their_points(laid: Planking) -> None:
    for strip in laid.strips[::7]:
        for piece in strip.near:
            drawn = np.linalg.norm(np.diff(piece.points, axis=0), axis=1).sum()
            assert piece.length == pytest.approx(drawn, rel=2e-3)


def test_ends_are_on_the_edges_of_the_hull(laid: Planking) -> None:
    surface = Pipeline().shape(linnet()).hull.panels[0].surface
    even = np.linspace(0, 1, 4001)
    edges = {
        "stem_bow": surface.points(np.zeros_like(even), even),
        "transom": surface.points(np.ones_like(even), even),
        "keel": surface.points(even, np.zeros_like(even)),
    }
    for strip in laid.strips[::4]:
        for piece in strip.near:
            for end, point in ((piece.starts, piece.points[0]), (piece.ends, piece.points[-1])):
                assert np.linalg.norm(edges[end] - point, axis=1).min() < 1.0


def test_full_length_strips_come_first(laid: Planking) -> None:
    through = [s.runs_through for s in laid.strips]
    assert through == sorted(through, reverse=True)
    assert all(s.starts in BOW_ENDS and s.ends in STERN_ENDS for s in laid.strips[:30])
    assert all(s.width_min == 14 for s in laid.strips[:30])


def test_total_is_both_sides(laid: Planking) -> None:
    assert laid.total_length == pytest.approx(2 * sum(s.length for s in laid.strips))


def test_last_strip_is_as_wide_as_what_is_left(laid: Planking) -> None:
    reach = 64 * 14 + laid.strips[-1].width_max
    girth = max(g for _, g in Pipeline().shape(linnet()).hull.girths)
    assert len(laid.strips) == 65
    assert reach == pytest.approx(girth, rel=0.01)


@pytest.mark.parametrize("width", [60.0, 40.0, 25.0, 17.0, 9.0])
def test_reach_does_not_depend_on_the_width(width: float) -> None:
    strips = plank(hull_of(cylinder(500)), width).strips
    assert (len(strips) - 1) * width + strips[-1].width_max == pytest.approx(math.pi * 250, abs=0.05)


@settings(max_examples=12, deadline=None)
@given(st.floats(12.0, 90.0))
def test_counts_are_exact_at_any_width(width: float) -> None:
    """Cylinder: the closed form πR/2 ÷ w, but where a hundredth of a millimetre would decide."""
    exact = math.pi * 250 / width
    if abs(exact - round(exact)) * width > 0.1:
        assert len(plank(hull_of(cylinder(500)), width).strips) == math.ceil(exact)


def test_a_close_call_is_said() -> None:
    hull = hull_of(cylinder(500))
    reach = math.pi * 250
    for left, word in ((1.0, "only"), (-1.0, "full to within"), (12.0, "")):
        width = (reach - left) / 20
        said = [f.text for f in plank(hull, width).findings if f.code == "close-call"]
        assert bool(said) == (abs(left) < CLOSE_CALL_MM)
        assert not said or word in said[0]


def test_both_guides_cover_a_symmetric_hull_alike() -> None:
    """A half cylinder is the same from its keel as from its sheer."""
    hull = hull_of(cylinder(500))
    down, up = plank(hull, 30.0, "sheer"), plank(hull, 30.0, "keel")
    assert [s.length for s in down.strips] == pytest.approx([s.length for s in up.strips], abs=0.01)
    assert up.strips[0].starts == "transom"


def test_wigley_strips_reach_both_stems() -> None:
    laid = plank(hull_of(wigley()), 25.0)
    assert (laid.strips[0].starts, laid.strips[0].ends) == ("stem_bow", "stem_stern")
    assert laid.strips[0].near_length > 4000
    assert laid.strips[-1].near_length <= laid.strips[0].near_length


def test_knuckle_is_a_guide_and_its_strips_are_numbered_on() -> None:
    results = Pipeline().results(apply_override(open_job(DATA / "single_chine.csv"), "strip.width", "22mm"))
    strips = results.planking.strips
    assert [s.number for s in strips] == list(range(1, len(strips) + 1))
    assert {s.panel for s in strips} == {0, 1}
    upper = [s for s in strips if s.panel == 1]
    lower = [s for s in strips if s.panel == 0]
    assert strips == (*upper, *lower)
    ends = {e for s in upper for p in s.far for e in (p.starts, p.ends)}
    assert "seam" in ends
    assert lower[0].near_length == pytest.approx(_chine_length(results), rel=1e-3)


def _chine_length(results) -> float:
    surface = results.shape.hull.panels[0].surface
    line = surface.points(np.linspace(0, 1, 2001), np.ones(2001))
    return float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum())


def test_gaps_in_a_front_are_never_bridged() -> None:
    front = propagate(hull_of(sphere_zone()).panels[0].surface, 1.0, 50.0)[4]
    whole = curves([front])[0]
    assert len(whole) == 1
    keep = np.abs(front.g - 0.5) > 3 * SPACING
    from hollow_keel.core.geometry.front import kept

    parts = curves([kept(front, keep)])[0]
    assert len(parts) == 2
    assert parts[0].x[-1] < 0.5 < parts[1].x[0]


def test_progress_runs_from_nothing_to_all() -> None:
    told: list[float] = []
    plank(hull_of(cone()), 30.0, "sheer", told.append)
    assert told == sorted(told)
    assert 0 < told[0] < 0.2
    assert told[-1] > 0.9


def test_strips_of_the_lesson_boat_bend_gently_enough_to_be_laid() -> None:
    """Common practice: ¼ in strips of ¾ in go on by hand; their strains stay well under one per cent."""
    laid = Pipeline().value(pipit(), PLANKING)
    for strip in laid.strips:
        assert 25.4 / 4 / 2 * strip.max_bend < 0.01
        assert 25.4 * 3 / 4 / 2 * strip.max_edge_set < 0.01

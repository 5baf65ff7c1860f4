"""Bevelled edges, legs and feet, lightening, notches, gussets, marks: against closed forms and by their own rules."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
import shapely

from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.geometry.polyline import at_share
from hollow_keel.core.hull.foot import foot_slopes
from hollow_keel.core.job import Job
from hollow_keel.core.molds.fittings import BUTT_MM, SCREW_MM, SET_BACK_MM, cross_spall, gussets
from hollow_keel.core.molds.marks import buttocks, plank_edges, waterlines
from hollow_keel.core.molds.notches import notches
from hollow_keel.core.molds.pieces import Piece, make_piece
from hollow_keel.core.molds.printed import changed_since, printed_now
from hollow_keel.core.molds.schools import in_plane_excess
from hollow_keel.core.molds.stand import stand_of
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import Shape
from hollow_keel.core.settings.mold_choices import Deduction, MoldEdgeKind, MoldForm, StringerNotches
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.demo.jobs import linnet, pipit
from hollow_keel.drawing.model import Layer
from hollow_keel.drawing.molds.mold import mold_drawing, with_neighbours
from tests import shapes
from tests.shapes import cone, hull_of, sphere_zone


@pytest.fixture(scope="module")
def pipeline() -> Pipeline:
    return Pipeline()


def shaped(pipeline: Pipeline, setup: dict[str, object] | None = None, **molds: object) -> Shape:
    job = change(linnet(), "molds", **molds)
    return pipeline.shape(change(job, "setup", **setup) if setup else job)


def pieces(shape: Shape) -> list[Piece]:
    job = shape.job
    level, notched = shape.setup.beam_level, shape.stringers.notches
    return [make_piece(m, job.molds, job.setup, level, notched.get(m.name, ())) for m in shape.molds.molds]


def wood(piece: Piece) -> shapely.Polygon:
    return shapely.Polygon(piece.outline, piece.holes)


# -- bevels ---------------------------------------------------------------------------------------------


def test_a_bevelled_mold_of_a_cone_has_both_circles() -> None:
    """A cone of half-angle 9° opening aft: circles of radius x tan 9° less the skin over cos 9°, on either face."""
    job = change(Job(offsets=cone(), waterline=-100.0), "molds", edge=MoldEdgeKind.BEVELLED, skin=10.0, thickness=18.0)
    tan, skin = math.tan(math.radians(9)), 10 / math.cos(math.radians(9))
    for mold in Pipeline().shape(job).molds.molds:
        assert mold.far is not None
        for edge in (mold.edge, mold.far):
            radius = np.hypot(*edge.points.T)
            assert radius == pytest.approx(edge.face_at * tan - skin, abs=0.05)
        assert abs(mold.far.face_at - mold.station) == pytest.approx(18.0)
        grows = mold.far.face_at > mold.station
        assert np.degrees(mold.standing) == pytest.approx(9.0 if grows else -9.0, abs=0.1)


def test_a_bevelled_piece_is_as_large_as_its_larger_face(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, edge=MoldEdgeKind.BEVELLED)
    for mold, piece in zip(shape.molds.molds, pieces(shape), strict=True):
        outline = shapely.Polygon(piece.outline)
        assert mold.far is not None
        for edge in (mold.edge, mold.far):
            inside = edge.points[(edge.points[:, 0] > 1) & (edge.points[:, 1] < edge.sheer[1] - 1)]
            assert np.all(shapely.distance(shapely.points(inside), outline) < 0.02)
    assert not any(f.code == "proud" for f in shapes.checked(shape.job))
    square = shaped(pipeline)
    assert all(m.far is None for m in square.molds.molds)


def test_the_schools_differ_on_a_cone_as_the_formula_says() -> None:
    """In-plane takes t off where t / cos 9° is wanted: the mold is t (1 / cos 9° - 1) too large."""
    job = change(Job(offsets=cone(), waterline=-100.0), "molds", skin=30.0)
    shape = Pipeline().shape(job)
    true = 30 * (1 / math.cos(math.radians(9)) - 1)
    for school in Deduction:
        own = Pipeline().shape(change(job, "molds", deduction=school))
        for mold in own.molds.molds[2:6]:
            excess = in_plane_excess(own.hull, mold, own.job.molds, own.waterline)
            assert excess[5:-5] == pytest.approx(true, abs=0.02)
    assert shape.molds.molds


# -- what it stands on ----------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", [Strongback.TABLE, Strongback.RAILS])
def test_legs_reach_the_set_up_line_and_nothing_touches_the_strongback(pipeline: Pipeline, kind: Strongback) -> None:
    shape = shaped(pipeline, {"strongback": kind})
    level = shape.setup.beam_level
    heads = max(float(p.surface.points(np.linspace(0, 1, 30), np.ones(30))[:, 2].max()) for p in shape.hull.panels)
    assert level >= heads + 100
    for mold, piece in zip(shape.molds.molds, pieces(shape), strict=True):
        stand = stand_of(mold, shape.job.setup, level)
        assert stand is not None
        assert piece.outline[:, 1].max() == pytest.approx(level)
        assert not piece.findings
        feet = piece.outline[np.isclose(piece.outline[:, 1], level)]
        assert np.ptp(feet[:, 0]) == pytest.approx(stand.spread)
        if kind is Strongback.RAILS:
            assert stand.spread == pytest.approx(600 + 2 * 60)
        assert stand.outside <= mold.edge.sheer[0]
        assert not any(np.allclose(h.max(axis=0) - h.min(axis=0), 75.0) for h in piece.holes)
    assert not any(f.code in ("thin-web", "beam-breaks-out") for f in shape.findings)


def test_a_strongback_inside_the_hull_is_refused(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, {"strongback": Strongback.TABLE, "waterline_above": 100.0})
    found = [f for p in pieces(shape) for f in p.findings]
    assert {f.code for f in found} == {"no-room-for-legs"}
    low = shaped(pipeline, {"strongback": Strongback.RAILS, "foot_height": 400.0, "leg_width": 300.0})
    assert {"foot-in-hull", "legs-together"} <= {f.code for p in pieces(low) for f in p.findings}


def test_the_beam_s_room_is_cut_too(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, {"beam_clearance": 1.5})
    hole = pieces(shape)[5].holes[0]
    assert np.ptp(hole, axis=0) == pytest.approx([78.0, 78.0])


# -- openings -------------------------------------------------------------------------------------------


def test_lightening_holes_keep_their_wood(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, form=MoldForm.HOLES, ring_width=50.0)
    for piece in pieces(shape):
        edge = shapely.Polygon(piece.outline).exterior
        holes = [shapely.Polygon(h) for h in piece.holes]
        for k, hole in enumerate(holes):
            if len(hole.exterior.coords) > 20:  # round, not the beam's
                assert edge.distance(hole) >= 49.5
            assert all(hole.distance(other) >= 39.0 for other in holes[k + 1 :])
        assert wood(piece).symmetric_difference(shapely.transform(wood(piece), lambda p: p * [-1, 1])).area < 5.0
    assert len(pieces(shape)[5].holes) >= 5


def stringered(pipeline: Pipeline, notched: StringerNotches, *stringers: float, **molds: Any) -> Shape:
    """Linnet with stringers of 30 by 18 mm."""
    job = change(linnet(), "inside", stringers=stringers, stringer_width=30.0, stringer_thickness=18.0)
    return pipeline.shape(change(job, "molds", stringer_notches=notched, clearance=1.0, **molds))


def test_stringers_stand_square_to_the_edge_at_their_share_of_the_girth(pipeline: Pipeline) -> None:
    shape = stringered(pipeline, StringerNotches.SHARE, 0.4)
    mold = shape.molds.molds[4]
    cut = notches(mold, shape.job.molds, shape.stringers.notches[mold.name])
    assert len(cut) == 2
    at, along = at_share(mold.edge.points, 0.4)
    inner = shapely.LineString([np.array(cut[0].floor) - 16 * along, np.array(cut[0].floor) + 16 * along])
    assert math.dist(cut[0].floor, at.tolist()) == pytest.approx(19.0, abs=0.1), "the hull hardly leans here"
    assert all(cut[0].room.exterior.distance(shapely.Point(p)) < 1e-6 for p in inner.coords)
    piece = pieces(shape)[4]
    middle = at + 9.0 * np.array([-along[1], along[0]])
    for side in (1, -1):
        assert not wood(piece).contains(shapely.Point(side * middle[0], middle[1]))
    lost = wood(pieces(shaped(pipeline))[4]).area - wood(piece).area
    assert lost == pytest.approx(2 * 32.0 * 19.0, rel=0.05)


def test_molds_over_the_stem_get_the_stem_s_notch(pipeline: Pipeline) -> None:
    settings = {"notch_width": 60.0, "notch_depth": 20.0, "stem_width": 30.0, "stem_depth": 45.0}
    shape = shaped(pipeline, stations=(250.0, 2500.0), **settings)
    over_stem, over_keel = shape.molds.molds
    assert (over_stem.on_stem, over_keel.on_stem) == (True, False)
    first, second = (notches(m, shape.job.molds)[0] for m in shape.molds.molds)
    assert (first.what, second.what) == ("stem", "keel")
    assert first.room.bounds[2] == pytest.approx(16.0)
    assert second.room.bounds[2] == pytest.approx(31.0)
    assert first.slope < -0.3  # the stem falls steeply towards the stern


@pytest.mark.parametrize(("wide", "deep"), [(0.0, 20.0), (40.0, 0.0)])
def test_a_notch_that_has_no_width_or_no_depth_is_none(pipeline: Pipeline, wide: float, deep: float) -> None:
    sizes = {"notch_width": wide, "notch_depth": deep, "stem_width": wide, "stem_depth": deep}
    shape = shaped(pipeline, stations=(250.0, 2500.0), **sizes)
    assert [notches(m, shape.job.molds) for m in shape.molds.molds] == [[], []]


def test_the_foot_of_a_sphere_climbs_as_its_circle_does() -> None:
    """Below the middle of a sphere of radius 1000 the keel is a circle: slope dz/dx = x / sqrt(R² - x²)."""
    hull = hull_of(sphere_zone())
    for place in (300.0, 600.0, 1000.0):
        away = place - 600.0
        climb, on_stem = foot_slopes(hull, [place])[0]
        assert math.tan(climb) == pytest.approx(away / math.sqrt(1000**2 - away**2), abs=2e-3)
        assert not on_stem


def test_what_leaves_too_little_wood_is_said(pipeline: Pipeline) -> None:
    thin = stringered(pipeline, StringerNotches.AS_WOOD, 0.5, form=MoldForm.RING, ring_width=35.0)
    assert any(f.code == "thin-at-notch" for p in pieces(thin) for f in p.findings)
    wide = shaped(pipeline, notch_width=900.0, notch_depth=10.0)
    assert any(f.code == "notch-outside" for f in pieces(wide)[0].findings)
    with pytest.raises(InputError):
        change(linnet(), "inside", stringers=(1.2,))


# -- fittings and marks ---------------------------------------------------------------------------------


def test_gussets_lie_on_wood_and_their_screws_clear_of_its_edges(pipeline: Pipeline) -> None:
    settings = {"halves": True, "gussets": True, "notch_width": 40.0, "notch_depth": 25.0}
    for form in MoldForm:
        shape = shaped(pipeline, form=form, ring_width=70.0, **settings)
        job = shape.job
        whole = pieces(shaped(pipeline, form=form, ring_width=70.0, **(settings | {"halves": False})))
        plates = 0
        for mold, piece in zip(shape.molds.molds, whole, strict=True):
            for plate in gussets(mold, job.molds, job.setup, shape.setup.beam_level):
                plates += 1
                area = wood(piece)
                assert area.buffer(-SET_BACK_MM + 0.2).covers(shapely.Polygon(plate.outline))
                for screw in plate.screws:
                    assert area.exterior.distance(shapely.Point(screw)) >= SET_BACK_MM + SCREW_MM - 0.3
                    assert abs(screw[0]) >= BUTT_MM - 1e-6
        assert plates >= 12
    assert gussets(shape.molds.molds[3], linnet().molds, job.setup, shape.setup.beam_level) == ()


def test_the_head_gusset_ends_its_set_back_under_the_mold_s_own_head(pipeline: Pipeline) -> None:
    """By hand: sheer height plus what stands beyond it, less the set-back; a plate no higher than it may be."""
    shape = shaped(pipeline, form=MoldForm.SOLID, halves=True, gussets=True, beyond_sheer=40.0)
    seen = 0
    for mold in shape.molds.molds:
        head = next((g for g in shape.marks[mold.name].gussets if g.name == "head"), None)
        if head is not None:
            seen += 1
            top = float(mold.edge.sheer[1]) + 40.0 - SET_BACK_MM
            assert head.outline[:, 1].max() == pytest.approx(top, abs=0.5)
            assert head.outline[:, 1].min() >= top - 160.0 - 0.5
    assert seen >= 6


def test_a_beam_that_misses_a_mold_tells_by_how_much(pipeline: Pipeline) -> None:
    """By hand: the lowest point of the mold over the hole's upper edge, less the clearance round the beam."""
    setup = {"strongback": "beam", "waterline_above": -700.0, "beam_clearance": 2.0}
    shape = shaped(pipeline, setup)
    seen = 0
    for mold in shape.molds.molds:
        high = float(mold.edge.points[:, 1].max()) + shape.job.molds.beyond_sheer
        low, level = float(mold.edge.points[:, 1].min()), shape.setup.beam_level
        past = max(low - (level + shape.job.setup.beam_height), level - high)
        told = [f for f in shape.pieces[mold.name].findings if f.code == "beam-misses"]
        if past > 5:
            seen += 1
            assert f"by \u27e8{round(past):.6g}\u27e9" in told[0].text
    assert seen >= 6


def test_levels_and_buttocks_run_over_wood_only(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, form=MoldForm.RING, ring_width=70.0)
    piece = pieces(shape)[5]
    levels, uprights = waterlines(piece, 25.0, 175.0), buttocks(piece, 100.0)
    assert {at for at, _ in levels}.isdisjoint({175.0})
    assert {at % 25 for at, _ in levels} == {0.0}
    assert {-300.0, 300.0} <= {at for at, _ in uprights}
    for at, bit in levels:
        assert bit[:, 1] == pytest.approx(at)
        assert wood(piece).buffer(1e-6).covers(shapely.LineString(bit))
    assert waterlines(piece, 0.0, 175.0) == []


def test_planks_are_ticked_where_they_come(pipeline: Pipeline) -> None:
    shape = shaped(pipeline)
    planking = pipeline.value(shape.job, PLANKING)
    mold = shape.molds.molds[6]
    ticks = plank_edges(mold, planking)
    heights = [float(at[1]) for _, at, _ in ticks]
    assert heights == sorted(heights, reverse=True)  # from the sheer down
    assert [n for n, _, _ in ticks] == list(range(1, len(ticks) + 1))
    spaces = np.linalg.norm(np.diff([at for _, at, _ in ticks], axis=0), axis=1)
    assert np.all(np.abs(spaces[:40] - 14.0 * (1 - 8 / 300)) < 0.6)  # a little closer on the inside of the curve


def test_the_cross_spall_s_line_is_at_one_height_on_all_molds(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, spall_above=120.0)
    found = [cross_spall(m, shape.job.molds, shape.waterline) for m in shape.molds.molds]
    assert {z for z, _ in (f for f in found if f)} == {295.0}
    assert cross_spall(shape.molds.molds[0], linnet().molds, shape.waterline) is None


def test_what_changed_since_it_was_printed_is_named(pipeline: Pipeline) -> None:
    shape = shaped(pipeline)
    printed = printed_now(shape.molds.molds, pieces(shape))
    assert changed_since(printed, shape.molds.molds, pieces(shape)) == ()
    job = shape.job
    rows = list(job.offsets.rows)
    k = next(i for i, r in enumerate(rows) if r.station > 2500 and r.label == "wl")
    rows[k] = rows[k].model_copy(update={"half_breadth": rows[k].half_breadth + 6})
    moved = pipeline.shape(change(job, "", offsets=job.offsets.model_copy(update={"rows": tuple(rows)})))
    (finding,) = changed_since(printed, moved.molds.molds, pieces(moved))
    assert "changed since printed" in finding.text
    assert "12" not in finding.where
    assert finding.where.startswith("molds ") == ("," in finding.where)
    fewer = shaped(pipeline, stations=tuple(m.station for m in shape.molds.molds[:-1]))
    texts = [f.text for f in changed_since(printed, fewer.molds.molds, pieces(fewer))]
    assert any("no longer there" in t for t in texts)
    texts = [f.text for f in changed_since(printed[:-1], shape.molds.molds, pieces(shape))]
    assert any("print them too" in t for t in texts)
    kept = shapes.checked(change(moved.job, "", printed=printed))
    assert any(f.code == "printed-changed" for f in kept)


def test_every_mark_is_drawn_and_no_two_texts_print_over_each_other(pipeline: Pipeline) -> None:
    from hollow_keel.drawing.tidy import _box, _over

    shape = shaped(
        pipeline,
        {"strongback": Strongback.TABLE},
        edge=MoldEdgeKind.BEVELLED,
        halves=True,
        gussets=True,
        spall_above=120.0,
        rounding=2.0,
        mark_waterlines=100.0,
        mark_buttocks=100.0,
        mark_planks=True,
        notch_width=40.0,
        notch_depth=20.0,
    )
    planking = pipeline.value(shape.job, PLANKING)
    over = 0
    for mold in shape.molds.molds:
        drawing = mold_drawing(shape, mold, shape.job.units.style, planking)
        layers = {s.layer for s in drawing.strokes}
        assert {Layer.THIS_FACE, Layer.OTHER_FACE, Layer.TICK, Layer.SETUP_LINE, Layer.SPALL, Layer.GRID} <= layers
        words = " | ".join(label.text for label in drawing.labels)
        for word in ("LOAD WATERLINE", "SET-UP LINE", "CROSS SPALL", "°", "cut two", "ease the edge 2.0"):
            assert word in words
        boxes = [_box(label) for label in drawing.labels]
        over += sum(_over(a, b) for k, a in enumerate(boxes) for b in boxes[k + 1 :])
    assert over <= 2


def test_port_and_starboard_are_where_they_are_seen(pipeline: Pipeline) -> None:
    shape = shaped(pipeline)
    for mold in (shape.molds.molds[1], shape.molds.molds[10]):
        drawing = mold_drawing(shape, mold, shape.job.units.style)
        port = next(label for label in drawing.labels if label.text == "PORT")
        to_bow = any("BOW" in label.text for label in drawing.labels)
        assert (port.at[0] > 0) == to_bow  # who looks aft has port on the right hand
    ghosts = with_neighbours(drawing, shape, shape.molds.molds[10])
    assert {s.key for s in ghosts.strokes if s.layer is Layer.NEIGHBOUR} == {"mold:10", "mold:12"}


def test_feet_and_inches_go_through(pipeline: Pipeline) -> None:
    job = change(pipit(), "molds", edge=MoldEdgeKind.BEVELLED, mark_waterlines=50.8, spall_above=76.2)
    shape = pipeline.shape(change(job, "setup", strongback=Strongback.RAILS))
    for mold in shape.molds.molds:
        text = " ".join(label.text for label in mold_drawing(shape, mold, job.units.style).labels)
        assert "0-3-0 above the waterline" in text


@pytest.mark.parametrize("job", [linnet(), pipit()], ids=["linnet", "pipit"])
@pytest.mark.parametrize("strongback", [Strongback.TABLE, Strongback.RAILS])
def test_no_wood_of_the_legs_stands_proud_of_the_planking_line(job: Job, strongback: Strongback) -> None:
    """Below the sheer a mold on legs is its own edge and no more: what a legless one is."""
    shape = Pipeline().shape(change(job, "setup", strongback=strongback, leg_spread=1200.0))
    for mold in shape.molds.molds:
        piece = make_piece(mold, shape.job.molds, shape.job.setup, shape.setup.beam_level)
        edge = shapely.Polygon(np.concatenate([mold.edge.points[::-1] * [-1.0, 1.0], mold.edge.points]))
        low, high = edge.bounds[1] - 1, float(mold.edge.sheer[1]) - 0.01
        below = shapely.intersection(wood(piece), shapely.box(-5000, low, 5000, high))
        assert shapely.difference(below, edge).area < 1.0


def test_a_beam_that_misses_molds_is_said(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, {"strongback": Strongback.BEAM, "waterline_above": 900.0})
    found = [f for p in pieces(shape) for f in p.findings if f.code == "beam-misses"]
    assert found
    assert all("cannot be threaded on" in f.text for f in found)
    fitted = shaped(pipeline, {"strongback": Strongback.BEAM})
    assert not [f for p in pieces(fitted) for f in p.findings if f.code == "beam-misses"]


# -- what cannot be cut as asked --------------------------------------------------------------------------


def checked(**molds: object) -> dict[str, str]:
    pipeline = Pipeline()
    shape = pipeline.shape(change(linnet(), "molds", **molds))
    found = (*shape.molds.findings, *shapes.checked(shape.job))
    return {f.code: f"{f.said().where}: {f.said().text}" for f in reversed(found)}


def test_a_skin_deeper_than_the_section_is_called_what_it_is() -> None:
    deep = checked(skin=120.0)
    assert "falls-apart" not in deep
    assert deep["skin-deep"].startswith("mold 1: The skin, 120 mm, is deeper than")
    assert "ring" not in deep["skin-deep"]


def test_spalls_that_miss_a_mold_and_stringers_over_the_sheer_are_said() -> None:
    high = checked(spall_above=430.0)  # her sheer is lowest amidships
    assert "does not come to them" in high["spall-misses"]
    assert "all molds" in checked(spall_above=4000.0)["spall-misses"]
    assert "spall-misses" not in checked(spall_above=100.0)


def test_a_stringer_s_notch_that_runs_past_the_end_of_a_mold_is_said(pipeline: Pipeline) -> None:
    def said(*stringers: float) -> list[str]:
        shape = stringered(pipeline, StringerNotches.SHARE, *stringers)
        return [f.said().text for piece in pieces(shape) for f in piece.findings if f.code == "notch-over"]

    over = said(0.99)
    girth = pipeline.shape(linnet()).molds.molds[5].edge.girth
    assert any(f"runs {round(0.99 * girth + 16.0 - girth, 1):g} mm past the sheer" in own for own in over)
    assert all("past the keel" in own for own in said(0.01))
    assert said(0.5, 0.85) == []

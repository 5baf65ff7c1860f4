"""What a drawing shows, measured on it: places from the boat's own points, sizes from the settings, never from its code."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest
import shapely

from hollow_keel.app.overrides import apply_override
from hollow_keel.core.deck.strip_stages import DECK_OPENINGS, DECK_PLAN
from hollow_keel.core.hull.hydro import hydro
from hollow_keel.core.molds.end_stages import STEMS
from hollow_keel.core.molds.nesting import as_rectangles
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import SHAPE, Results
from hollow_keel.core.settings.layout import Sheets
from hollow_keel.core.units import LengthStyle
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.deck.mesh import decked_mesh
from hollow_keel.drawing.lines.areas import curve_of_areas
from hollow_keel.drawing.lines.points import points_plan
from hollow_keel.drawing.model import Layer
from hollow_keel.drawing.molds.sheets import sheets_drawing
from hollow_keel.drawing.molds.stem import stem_drawings
from hollow_keel.drawing.setup.end_view import end_view
from hollow_keel.drawing.setup.strongback import setup_drawing

MM = LengthStyle()


@cache
def worked(name: str) -> Results:
    stages = (DECK_PLAN, DECK_OPENINGS) if name == "teasel" else (STEMS,)
    return Pipeline().results(demo_job(name), (*SHAPE, PLANKING, *stages))


def test_wedges_are_driven_in_against_the_next_mold() -> None:
    """Gaps between bodies are got from the molds' own faces; the wedges fill the after end of one of them."""
    results = worked("linnet")
    drawing = setup_drawing(results.shape, MM)
    wedges = np.concatenate([s.points for s in drawing.strokes if s.key == "wedges"])
    bodies = sorted(mold.body for mold in results.shape.molds.molds)
    gaps = [(a[1], b[0]) for a, b in zip(bodies, bodies[1:], strict=False)]
    inside = [gap for gap in gaps if gap[0] <= wedges[:, 0].min() and wedges[:, 0].max() <= gap[1] + 1e-6]
    assert len(inside) == 1, "in one gap, and through no mold"
    assert wedges[:, 0].max() == pytest.approx(inside[0][1])
    assert np.ptp(wedges[:, 0]) == pytest.approx(results.job.setup.wedges)


@pytest.mark.parametrize("wall", [0.0, 4.0])
def test_the_beam_is_drawn_as_wide_and_as_high_as_it_is(wall: float) -> None:
    job = demo_job("linnet")
    for key, value in (("setup.beam_width", "80"), ("setup.beam_height", "50"), ("setup.beam_wall", f"{wall}")):
        job = apply_override(job, key, value)
    shape = Pipeline().shape(job)
    boxes = [s.points for s in end_view(shape, shape.molds.molds[5], MM).strokes if s.layer is Layer.BEAM]
    sizes = [tuple(np.ptp(points, axis=0).tolist()) for points in boxes]
    assert sizes == [(80.0, 50.0)] + ([(80.0 - 2 * wall, 50.0 - 2 * wall)] if wall else [])
    assert all(points.mean(axis=0) == pytest.approx([0.0, -25.0]) for points in boxes), "upside down: below its upper face"


def test_bevels_of_a_stem_are_called_out_every_so_often_to_its_very_end() -> None:
    for piece in worked("linnet").get(STEMS) or ():
        stem = piece.stem
        edge = shapely.LineString(stem.outer)
        drawing = stem_drawings(worked("linnet").shape, piece)[0]
        told = [label for label in drawing.labels if label.layer is Layer.BEVEL]
        at = sorted(edge.project(shapely.Point(label.at)) for label in told)
        assert at[0] == pytest.approx(0.0, abs=0.01)
        assert at[-1] == pytest.approx(edge.length, abs=0.01)
        steps = np.diff(at)
        assert steps[:-1] == pytest.approx(100.0, abs=0.1)
        assert 25.0 <= steps[-1] <= 125.0
        run = np.concatenate([[0.0], np.linalg.norm(np.diff(stem.outer, axis=0), axis=1).cumsum()])
        for label in told:
            place = edge.project(shapely.Point(label.at))
            true = np.degrees(np.interp(place, run, stem.bevels))
            assert float(label.text.rstrip("°")) == pytest.approx(true, abs=0.26), "to the half degree"


def test_parts_lie_on_their_sheets_with_their_names_on_them() -> None:
    shape = worked("linnet").shape
    layout = as_rectangles(shape.parts.parts, Sheets(length=3050.0, width=1525.0))
    drawing = sheets_drawing(shape, layout)
    sheets = shapely.union_all([shapely.Polygon(s.points) for s in drawing.strokes if s.layer is Layer.BEAM])
    assert len([s for s in drawing.strokes if s.layer is Layer.BEAM]) == layout.pieces
    cut = [shapely.Polygon(s.points) for s in drawing.strokes if s.layer is Layer.MOLD]
    assert cut
    assert all(sheets.buffer(0.01).covers(part) for part in cut)
    names = [label for label in drawing.labels if label.layer is not Layer.NOTE]
    boxes = [part.envelope for part in cut]
    assert names
    assert all(any(box.buffer(1.0).contains(shapely.Point(label.at)) for box in boxes) for label in names)


def test_the_points_of_a_table_are_drawn_where_they_are() -> None:
    """Forward of the middle to the right, aft of it to the left."""
    table = demo_job("linnet").offsets
    places = sorted({row.station for row in table.rows if row.label == "keel"})
    middle = (places[0] + places[-1]) / 2
    drawn = {s.key: s.points for s in points_plan(table, MM).strokes if s.layer is Layer.STATION}
    for x in places:
        own = [row for row in table.rows if row.station == x and row.label in ("keel", "wl", "chine", "sheer")]
        side = 1 if x <= middle else -1
        assert drawn[f"station:{x}"] == pytest.approx(np.array([(side * row.half_breadth, row.height) for row in own]))


def test_the_curve_of_areas_is_as_high_as_the_areas_are() -> None:
    shape = worked("linnet").shape
    below = hydro(shape.hull, shape.waterline)
    (curve,) = (s.points for s in curve_of_areas(below).strokes if s.layer is Layer.HULL)
    assert curve[:, 0] == pytest.approx(below.sections[:, 0])
    assert curve[:, 1] / curve[:, 1].max() == pytest.approx(below.sections[:, 1] / below.sections[:, 1].max())
    assert curve[:, 1].max() < np.ptp(curve[:, 0]), "lower than the boat is long"


def test_openings_are_open_in_the_picture_of_hull_and_deck() -> None:
    results = worked("teasel")
    openings = results[DECK_OPENINGS].openings
    mesh = decked_mesh(results[PLANKING], results[DECK_PLAN].planking, openings)
    deck = mesh.strip > 1000
    middles = mesh.points[mesh.quads[deck]].mean(axis=1)
    for made in openings:
        hole = shapely.Polygon(made.smallest)
        assert not shapely.contains_xy(hole.buffer(-20.0), middles[:, 0], middles[:, 1]).any()
        rim = hole.buffer(60.0) - hole.buffer(5.0)
        assert shapely.contains_xy(rim, middles[:, 0], middles[:, 1]).any(), "there is a deck round it"

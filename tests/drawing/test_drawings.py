"""Drawings say what the results say: keys, places and words."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.app.open_any import open_job
from hollow_keel.app.overrides import apply_override
from hollow_keel.core.hull.stages import DECK
from hollow_keel.core.job import Job
from hollow_keel.core.molds.end_stages import TRANSOM
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import SHAPE, Results
from hollow_keel.core.settings.units import UnitSettings
from hollow_keel.core.units import LengthStyle, LengthUnit, parse_length
from hollow_keel.demo.jobs import demo_job, linnet, pipit
from hollow_keel.drawing.lines.plan import body_plan, profile, section_key
from hollow_keel.drawing.model import Drawing, Label, Layer, Stroke
from hollow_keel.drawing.molds.mold import mold_drawing
from hollow_keel.drawing.molds.transom import transom_mold_drawing
from hollow_keel.drawing.planking.girth_map import girth_map
from hollow_keel.drawing.planking.mesh import HullMesh, planked_mesh
from hollow_keel.drawing.planking.section import section_drawing
from hollow_keel.drawing.setup.strongback import setup_drawing
from hollow_keel.files.planking.schedules import STRIP_ROWS
from hollow_keel.files.schedule import told_csv
from tests.conftest import DATA

MM = LengthStyle()


@pytest.fixture(scope="module")
def results() -> Results:
    return Pipeline().results(linnet())


@pytest.fixture(scope="module")
def chine() -> Results:
    return Pipeline().results(apply_override(open_job(DATA / "single_chine.csv"), "strip.width", "22mm"))


def strokes(drawing: Drawing, layer: Layer) -> list[Stroke]:
    return [s for s in drawing.strokes if s.layer is layer]


def labels(drawing: Drawing, layer: Layer) -> list[Label]:
    return [x for x in drawing.labels if x.layer is layer]


def test_body_plan_goes_through_every_offset(results: Results) -> None:
    drawing = body_plan(results.shape)
    marks = np.concatenate([np.abs(s.points) for s in strokes(drawing, Layer.OFFSET)])
    given = np.array([[r.half_breadth, r.height] for r in linnet().offsets.rows if r.label in ("keel", "wl", "sheer")])
    assert len(marks) == len(given)
    assert np.abs(np.sort(marks[:, 0]) - np.sort(given[:, 0])).max() < 1e-9
    curves = {s.key: s.points for s in strokes(drawing, Layer.STATION)}
    for section in results.shape.lines.stations:
        curve = np.abs(curves[section_key(section.x)])
        assert curve[0] == pytest.approx(section.points[0, 1:])
        assert curve[-1] == pytest.approx(section.points[-1, 1:])


def test_after_stations_are_drawn_to_the_left(results: Results) -> None:
    drawing = body_plan(results.shape)
    curves = {s.key: s.points for s in strokes(drawing, Layer.STATION)}
    assert curves[section_key(500.0)][:, 0].min() > 0
    assert curves[section_key(4900.0)][:, 0].max() < 0


def test_profile_numbers_every_station(results: Results) -> None:
    drawing = profile(results.shape)
    assert [x.text for x in drawing.labels] == [str(k) for k in range(1, 15)]
    left, bottom, right, top = drawing.bounds()
    assert right - left == pytest.approx(5353 + 100, abs=2)
    assert top == pytest.approx(730, abs=1)
    assert bottom <= 0


def test_profile_shows_the_chine(chine: Results) -> None:
    assert len(strokes(profile(chine.shape), Layer.HULL)) == 7
    assert len(strokes(body_plan(chine.shape), Layer.STATION)) == 11


def test_mold_is_symmetric_with_one_waterline(results: Results) -> None:
    for mold in results.shape.molds.molds:
        drawing = mold_drawing(results.shape, mold, MM)
        outline = strokes(drawing, Layer.MOLD)[0]
        assert outline.closed
        assert outline.points[:, 0].sum() == pytest.approx(0, abs=1e-6)
        water = strokes(drawing, Layer.WATERLINE)
        assert len(water) == 1
        assert water[0].points[:, 1] == pytest.approx([175, 175])
        assert len(strokes(drawing, Layer.SHEER_MARK)) == 4
        assert any(x.text == f"MOLD {mold.name}" for x in drawing.labels)


def test_sheer_marks_run_inward_from_the_edge(results: Results) -> None:
    mold = results.shape.molds.molds[4]
    for tick in strokes(mold_drawing(results.shape, mold, MM), Layer.SHEER_MARK):
        outer, inner = np.abs(tick.points[:, 0])
        assert inner < outer
        assert np.linalg.norm(np.diff(tick.points, axis=0)) == pytest.approx(30)


def test_set_up_shows_every_mark_where_it_is(results: Results) -> None:
    drawing = setup_drawing(results.shape, MM)
    texts = [x.text.replace("\u202f", "") for x in labels(drawing, Layer.DIMENSION)]
    assert texts == [f"{m.from_zero:.1f}" for m in results.shape.setup.marks]
    for mark in results.shape.setup.marks:
        box = next(s for s in strokes(drawing, Layer.MOLD) if s.key == f"mold:{mark.mold}").points
        edge = box[:, 0].min() if mark.face.value == "forward" else box[:, 0].max()
        assert edge == pytest.approx(mark.from_zero)
        assert np.ptp(box[:, 0]) == pytest.approx(12)


def test_set_up_from_the_stern_is_turned_round() -> None:
    job = apply_override(linnet(), "setup.zero-end", "stern")
    shape = Pipeline().shape(job)
    drawing = setup_drawing(shape, MM)
    first = next(s for s in strokes(drawing, Layer.MOLD) if s.key == "mold:12").points
    last = next(s for s in strokes(drawing, Layer.MOLD) if s.key == "mold:1").points
    assert 0 < first[:, 0].min() < last[:, 0].min()


def test_girth_map_bands_stack_without_gaps(results: Results) -> None:
    drawing = girth_map(results.shape, results.planking, MM)
    bands = [s for s in drawing.strokes if s.key.startswith("strip:")]
    assert len({s.key for s in bands}) == 65
    for number in range(1, 65):
        band = next(s for s in bands if s.key == f"strip:{number}").points
        assert band[:, 1].max() == pytest.approx(-(number - 1) * 14)
        assert band[:, 1].min() == pytest.approx(-number * 14)
    tenths = [s for s in bands if s.layer is Layer.STRIP_ALT]
    assert {s.key for s in tenths} == {f"strip:{n}" for n in (10, 20, 30, 40, 50, 60)}


def test_girth_map_counts_in_inches_for_inch_jobs() -> None:
    results = Pipeline().results(pipit())
    texts = [x.text for x in girth_map(results.shape, results.planking, pipit().units.style).labels]
    assert "0-6-0" in texts
    assert "1-0-0" in texts


def square_metres(mesh: HullMesh) -> float:
    corner = mesh.points[mesh.quads]
    doubled = np.cross(corner[:, 2] - corner[:, 0], corner[:, 3] - corner[:, 1])
    return float(np.linalg.norm(doubled, axis=1).sum() / 2 * 1e-6)


def test_mesh_covers_the_hull_on_both_sides(results: Results) -> None:
    mesh = planked_mesh(results.planking)
    assert square_metres(mesh) == pytest.approx(results.shape.measures.planked_area, rel=0.01)
    assert set(mesh.strip.tolist()) == set(range(1, 66))
    assert mesh.points[:, 1].min() == pytest.approx(-mesh.points[:, 1].max())


def test_mesh_of_a_chine_hull_closes_each_panel(chine: Results) -> None:
    mesh = planked_mesh(chine.planking)
    assert square_metres(mesh) == pytest.approx(chine.shape.measures.planked_area, rel=0.02)


def test_strips_csv_in_inches(results: Results) -> None:
    inches = UnitSettings(unit=LengthUnit.INCH_FRACTION, step=1 / 16)
    text = told_csv(STRIP_ROWS, STRIP_ROWS.value_in(results, results.job), inches)
    first = text.splitlines()[1].split(",")
    assert text.startswith("strip,length in,")
    length = parse_length(first[1], LengthUnit.INCH_FRACTION)
    assert length == pytest.approx(results.planking.strips[0].length, abs=25.4 / 32)
    assert first[1].startswith("215 ")
    assert "\u202f" not in text


def test_empty_drawing_has_no_size() -> None:
    assert Drawing("", ()).bounds() == (0, 0, 0, 0)
    assert Job().offsets.rows == ()


def mirrored(points: np.ndarray) -> np.ndarray:
    """A line seen from the other side, run the other way."""
    return points[::-1] * [-1.0, 1.0]


def test_both_sides_of_a_section_and_of_a_transom_s_mold_are_alike(results: Results) -> None:
    mold = results.shape.molds.molds[6]
    drawing = section_drawing(results.shape, mold, results.ticks[mold.name], 1, results.job.units.style)
    (edge,) = (s.points for s in drawing.strokes if s.layer is Layer.MOLD and len(s.points) > 60)
    assert edge == pytest.approx(mirrored(edge))
    assert edge[len(edge) // 2 :] == pytest.approx(mold.edge.points), "to the right as it is, keel to sheer"
    for piece in Pipeline().results(demo_job("linnet"), (TRANSOM,))[TRANSOM]:
        own = transom_mold_drawing(piece, "Linnet", results.job.units.style)
        (ghost,) = (s.points for s in own.strokes if s.layer is Layer.GHOST)
        assert ghost == pytest.approx(mirrored(ghost))
        (board,) = (s.points for s in own.strokes if s.layer is Layer.MOLD)
        (centre,) = (s.points for s in own.strokes if s.layer is Layer.CENTRELINE)
        assert centre[:, 1] == pytest.approx([board[:, 1].min(), board[:, 1].max()])


def test_the_deck_in_the_body_plan_is_as_wide_as_the_hull() -> None:
    """Its sections begin at the sheer and end on the centreline, each on the side of its station."""
    shape = Pipeline().results(demo_job("teasel"), (*SHAPE, DECK)).shape
    assert shape.deck is not None
    drawn = body_plan(shape)
    for section in shape.deck.surface.lines.stations:
        own = [s.points for s in drawn.strokes if s.key == section_key(section.x) and s.layer is Layer.STATION]
        hull, deck = own
        assert deck[0] == pytest.approx(hull[-1], abs=0.05), "where the hull ends"
        assert deck[-1, 0] == pytest.approx(0.0, abs=0.05)
        assert np.abs(deck[:, 0]).max() == pytest.approx(abs(hull[-1, 0]), abs=0.05)

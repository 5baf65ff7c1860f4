"""Pieces of molds: forms, openings, notches, halves, the proof of square edges; their tables."""

from __future__ import annotations

import csv
import io
import math

import numpy as np
import pytest
import shapely

from hollow_keel.app.exports import EXPORTS, export_named
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.hull.build import build_hull
from hollow_keel.core.job import Job, MoldSettings
from hollow_keel.core.molds.bevels import bevel_calls
from hollow_keel.core.molds.pieces import make_piece
from hollow_keel.core.molds.shape import mold_edges
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import SHAPE, Shape
from hollow_keel.core.rules import LEAST_RING_MM
from hollow_keel.core.settings.mold_choices import Deduction, FaceChoice, MoldForm
from hollow_keel.demo.jobs import linnet
from hollow_keel.drawing.molds.mold import mold_drawing
from hollow_keel.files.molds.paper import fewest_pages, tiles
from hollow_keel.files.molds.schedules import prick_points
from hollow_keel.files.paper.sheet import PAPERS
from hollow_keel.files.paper.svg import drawings_svg
from tests.shapes import checked, cone, hull_of


@pytest.fixture(scope="module")
def pipeline() -> Pipeline:
    return Pipeline()


def shaped(pipeline: Pipeline, **molds: object) -> Shape:
    return pipeline.shape(change(linnet(), "molds", **molds))


def test_a_solid_mold_is_its_edge_less_the_beams_hole(pipeline: Pipeline) -> None:
    shape = shaped(pipeline)
    for mold in shape.molds.molds:
        piece = make_piece(mold, shape.job.molds, shape.job.setup, shape.setup.beam_level)
        half = mold.edge.points
        area = 2 * float(np.trapezoid(half[:, 0], half[:, 1]))
        setup = shape.job.setup
        assert piece.area == pytest.approx(area - setup.beam_width * setup.beam_height, rel=1e-3)
        assert piece.findings == ()
        assert len(piece.holes) == 1


def test_a_ring_keeps_its_width_and_carries_the_beam(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, form=MoldForm.RING, ring_width=80.0)
    mold = shape.molds.molds[5]
    piece = make_piece(mold, shape.job.molds, shape.job.setup, shape.setup.beam_level)
    outline = shapely.Polygon(piece.outline)
    setup, level = shape.job.setup, shape.setup.beam_level
    beam = shapely.box(-setup.beam_width / 2, level, setup.beam_width / 2, level + setup.beam_height)
    openings = [shapely.Polygon(h) for h in piece.holes]
    assert len(openings) == 3
    for opening in openings:
        if not opening.equals_exact(beam, 1e-6) and opening.area > 9000:
            assert outline.exterior.distance(opening) >= 79.9
            assert opening.distance(beam) >= 39.9
    solid = make_piece(mold, MoldSettings(), shape.job.setup, shape.setup.beam_level)
    assert piece.area < 0.75 * solid.area


def test_halves_meet_on_the_centreline_and_make_the_whole(pipeline: Pipeline) -> None:
    settings = {"notch_width": 28.0, "notch_depth": 20.0, "beyond_sheer": 60.0}
    whole, half = shaped(pipeline, **settings), shaped(pipeline, halves=True, **settings)
    for a, b in zip(whole.molds.molds, half.molds.molds, strict=True):
        one = make_piece(a, whole.job.molds, whole.job.setup, whole.setup.beam_level)
        two = make_piece(b, half.job.molds, half.job.setup, half.setup.beam_level)
        assert 2 * two.area == pytest.approx(one.area, rel=1e-6)
        assert two.half
        assert two.outline[:, 0].min() == pytest.approx(0.0, abs=1e-9)


def test_a_notch_is_as_wide_and_deep_as_asked_with_its_clearance(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, notch_width=28.0, notch_depth=20.0, clearance=1.5)
    mold = shape.molds.molds[5]
    piece = make_piece(mold, shape.job.molds, shape.job.setup, shape.setup.beam_level)
    foot = float(mold.edge.keel[1])
    corner = piece.outline[np.isclose(piece.outline[:, 1], foot + 21.5)]
    assert sorted(corner[:, 0].tolist()) == pytest.approx([-15.5, 15.5])


def test_the_edge_goes_on_straight_past_the_sheer(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, beyond_sheer=60.0)
    mold = shape.molds.molds[3]
    piece = make_piece(mold, shape.job.molds, shape.job.setup, shape.setup.beam_level)
    top = piece.outline[np.argmax(piece.outline[:, 1])]
    assert math.dist((abs(top[0]), top[1]), mold.edge.sheer.tolist()) == pytest.approx(60.0)


@pytest.mark.parametrize(
    ("settings", "code"),
    [
        ({"form": MoldForm.RING, "ring_width": LEAST_RING_MM - 5}, "thin-ring"),
        ({"notch_width": 30.0, "notch_depth": 250.0}, "notch-beam"),
        ({"notch_width": 2000.0, "notch_depth": 250.0}, "falls-apart"),
        ({"notch_width": 3000.0, "notch_depth": 3000.0}, "nothing-left"),
    ],
)
def test_what_cannot_be_cut_is_said(pipeline: Pipeline, settings: dict[str, object], code: str) -> None:
    shape = shaped(pipeline, **settings)
    codes = {f.code for f in checked(shape.job)}
    if code == "falls-apart":
        assert codes & {"falls-apart", "nothing-left", "notch-beam"}
    else:
        assert code in codes
    if code == "nothing-left":
        with pytest.raises(ImpossiblePlan, match="Nothing is left"):
            export_named("molds-dxf").write(pipeline.results(shape.job, (*SHAPE, PLANKING)))


def test_square_edges_are_proved_and_the_wrong_face_is_found(pipeline: Pipeline) -> None:
    assert [f for f in checked(shaped(pipeline).job) if f.stage == "molds"] == []
    wrong = checked(shaped(pipeline, faces=FaceChoice.FORWARD).job)
    wrong = tuple(f for f in wrong if f.stage == "molds")
    assert {f.code for f in wrong} == {"proud"}
    assert any("mold 12" in f.where for f in wrong)
    assert not any(f"mold {k}," in f.where for k in range(1, 7) for f in wrong)


def test_strapping_is_deducted_like_planking_and_a_false_bottom_below_the_chine_only() -> None:
    from tests.files.test_drawings_in import hull_of_chine

    hull = hull_of_chine()
    plain, bottom = (mold_edges(hull, [2000.0], 6.0, Deduction.NORMAL, 200.0, extra)[0] for extra in (0.0, 10.0))
    assert plain is not None
    assert bottom is not None
    low = shapely.LineString(plain.points)
    away = np.array([low.distance(shapely.Point(p)) for p in bottom.points])
    height = bottom.points[:, 1]
    chine = float(np.interp(0.0, [0, 1], [height.min(), height.max()])) + 0.35 * float(np.ptp(height))
    assert np.median(away[height < chine - 60]) == pytest.approx(10.0, abs=0.3)
    assert np.all(away[height > chine + 60] < 0.05)
    job = linnet()
    layered = Pipeline().shape(change(job, "molds", skin=5.0, strapping=3.0)).molds.molds[4].edge
    whole = Pipeline().shape(change(job, "molds", skin=8.0)).molds.molds[4].edge
    assert np.allclose(layered.points, whole.points)
    said = Pipeline().shape(change(job, "molds", false_bottom=10.0)).findings
    assert any(f.code == "no-bottom" for f in said)


def test_tumblehome_traps_a_mold() -> None:
    table = linnet().offsets
    rows = [
        r.model_copy(update={"half_breadth": r.half_breadth - 25}) if r.label == "sheer" and r.station == 2900 else r
        for r in table.rows
    ]
    shape = Pipeline().shape(Job(offsets=table.model_copy(update={"rows": tuple(rows)}), waterline=175.0))
    assert any(f.code == "trapped" and "2900" in f.where for f in shape.findings)
    assert not any(f.code == "trapped" for f in Pipeline().shape(linnet()).findings)


def test_prick_points_stand_closer_where_the_curve_is_tight_and_stray_as_little_as_said() -> None:
    angle = np.linspace(0, np.pi / 2, 200)
    arc = np.column_stack([100 * np.sin(angle), 100 - 100 * np.cos(angle)])
    edge = np.concatenate([arc, arc[-1] + np.linspace(5, 500, 100)[:, None] * [0.0, 1.0]])
    chosen = prick_points(edge, 0.3)
    assert chosen[0] == 0
    assert chosen[-1] == len(edge) - 1
    assert chosen[-2] <= 201
    ring = shapely.LineString(edge[chosen])
    assert max(ring.distance(shapely.Point(p)) for p in edge) <= 0.31
    assert len(chosen) < 40


def test_bevels_of_a_cone_are_called_as_its_half_angle() -> None:
    shape = Pipeline().shape(Job(offsets=cone(), waterline=-100.0))
    for call in bevel_calls(shape.molds.molds[3]):
        assert call.along >= 0
        assert call.degrees == pytest.approx(9.0, abs=0.1)  # its body lies where the cone is larger: a standing bevel
        assert call.across(12.0) == pytest.approx(12 * math.tan(math.radians(9)), abs=0.05)
    rows = list(csv.reader(io.StringIO(export_named("bevels-csv").write(Pipeline().results(shape.job, SHAPE)).decode())))  # type: ignore[arg-type]
    assert {row[2] for row in rows[1:]} == {"9"}
    assert {float(row[4]) for row in rows[1:]} == {2.0}
    hull_of(cone())
    build_hull(read_lines(cone()))


def test_halves_and_the_better_way_of_the_paper_save_pages(pipeline: Pipeline) -> None:
    counts = {}
    for halves in (False, True):
        shape = shaped(pipeline, halves=halves)
        drawings = [mold_drawing(shape, m, shape.job.units.style) for m in shape.molds.molds]
        for name, paper in PAPERS.items():
            upright = sum(len(tiles(d, *paper)) for d in drawings)
            counts[halves, name] = sum(len(fewest_pages(d, paper)[1]) for d in drawings)
            assert counts[halves, name] <= upright
    assert counts[True, "a4"] < 0.7 * counts[False, "a4"]
    assert counts[True, "a3"] < counts[True, "a4"]


def test_svg_is_full_size_and_well_formed(pipeline: Pipeline) -> None:
    from xml.etree import ElementTree

    shape = shaped(pipeline)
    mold = shape.molds.molds[4]
    root = ElementTree.fromstring(drawings_svg([mold_drawing(shape, mold, shape.job.units.style)]).split("\n", 1)[1])
    assert root.attrib["width"].endswith("mm")
    box = [float(v) for v in root.attrib["viewBox"].split()]
    assert box[2] == pytest.approx(float(root.attrib["width"][:-2]))
    space = "{http://www.w3.org/2000/svg}"
    cut = next(e for e in root.iter(f"{space}polygon") if e.attrib["class"] == "mold")
    points = np.array([[float(v) for v in p.split(",")] for p in cut.attrib["points"].split()])
    assert np.ptp(points[:, 0]) == pytest.approx(2 * mold.edge.points[:, 0].max(), abs=0.01)


def test_a_printer_that_prints_small_is_put_right(pipeline: Pipeline) -> None:
    import pypdf

    job = change(linnet(), "printing", proof_bar=98.0)
    assert job.printing.correction == pytest.approx(100 / 98)
    shape = pipeline.shape(job)
    page = pypdf.PdfReader(io.BytesIO(export_named("molds-pdf").write(Pipeline().results(shape.job, SHAPE)))).pages[0]  # type: ignore[arg-type]
    assert f"{100 / 98:.3f}"[:5].encode() in page.get_contents().get_data()[:400]
    assert float(page.mediabox.width) / 72 * 25.4 in (pytest.approx(210.0), pytest.approx(297.0))


def test_every_mold_export_writes_something(pipeline: Pipeline) -> None:
    shape = shaped(pipeline, form=MoldForm.RING, halves=True)
    for export in EXPORTS:
        if export.kind.startswith(("molds-", "prick", "bevels")):
            assert len(export.write(Pipeline().results(shape.job, SHAPE))) > 300

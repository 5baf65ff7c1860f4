from __future__ import annotations

import math

import numpy as np
import pytest
from shapely.geometry import LineString

from hollow_keel.app.overrides import apply_override
from hollow_keel.core.change import change
from hollow_keel.core.findings import Weight
from hollow_keel.core.job import HullEnd, Job, MoldSettings, SetupSettings
from hollow_keel.core.molds.cut_stages import PIECES
from hollow_keel.core.molds.shape import Face, mold_edge, section_outside
from hollow_keel.core.molds.stages import MOLDS
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Shape
from hollow_keel.core.settings.mold_choices import Deduction
from hollow_keel.core.setup.stages import SETUP
from hollow_keel.core.units import format_length, parse_length
from hollow_keel.demo.jobs import demo_job, linnet
from hollow_keel.drawing.model import Layer
from hollow_keel.drawing.setup.strongback import setup_drawing
from tests.shapes import cylinder, hull_of, sphere_zone, wigley

INCH = 25.4


def shape_of(job: Job) -> Shape:
    return Pipeline().shape(job)


def test_reference_faces_turn_over_at_the_fullest_mold() -> None:
    molds = shape_of(linnet()).molds.molds
    faces = [m.face for m in molds]
    assert faces == [Face.FORWARD] * 6 + [Face.AFT] * 6
    assert molds[0].body == (500.0, 512.0)
    assert molds[-1].body == (4888.0, 4900.0)


def test_square_molds_never_stand_proud() -> None:
    """The whole thickness of each mold lies within the inner skin: sections a thickness away are no smaller."""
    shape = shape_of(linnet())
    for mold in shape.molds.molds:
        far = sum(mold.body) - mold.station
        other = mold_edge(shape.hull, far, 8.0, Deduction.NORMAL, 175.0)
        assert other is not None
        height = np.linspace(mold.edge.points[0, 1] + 5, mold.edge.points[-1, 1] - 5, 40)
        own = np.interp(height, mold.edge.points[:, 1], mold.edge.points[:, 0])
        there = np.interp(height, other.points[:, 1], other.points[:, 0])
        assert np.all(there >= own - 0.25)


def test_in_plane_school_is_smaller_where_the_hull_narrows() -> None:
    """Common practice: at 12 mm of skin the two schools differ by t(1/cos β - 1)."""
    shape = shape_of(linnet())
    true = mold_edge(shape.hull, 900.0, 12.0, Deduction.NORMAL, 175.0)
    quick = mold_edge(shape.hull, 900.0, 12.0, Deduction.IN_PLANE, 175.0)
    assert true is not None
    assert quick is not None
    far = LineString(quick.points)
    gaps = np.array([far.distance(p) for p in map(_point, true.points[20:-20])])
    bevels = true.bevels[20:-20]
    assert gaps == pytest.approx(12 * (1 / np.cos(bevels) - 1), abs=0.06)


def _point(pair: np.ndarray):
    from shapely.geometry import Point

    return Point(*pair)


def test_marks_on_a_mold() -> None:
    mold = shape_of(linnet()).molds.molds[5]
    assert mold.edge.waterline is not None
    assert mold.edge.waterline[1] == pytest.approx(175.0)
    assert mold.edge.sheer == pytest.approx(mold.edge.points[-1])
    assert mold.edge.points[0, 1] == mold.edge.points[:, 1].min()


def test_skin_thicker_than_the_hull() -> None:
    edge = mold_edge(hull_of(sphere_zone()), 600.0, 1200.0, Deduction.NORMAL, 0.0)
    assert edge is None


def test_no_mold_beyond_the_hull_is_said() -> None:
    shape = shape_of(apply_override(linnet(), "mold.stations", "500,900,9000"))
    assert [m.station for m in shape.molds.molds] == [500.0, 900.0]
    assert any(f.code == "no-mold" and "9000" in f.where for f in shape.findings)


def test_tight_section_is_cut_clean_and_said() -> None:
    """A skin thicker than the turn of the bilge makes a loop, which is cut off."""
    from hollow_keel.core.offsets.table import OffsetsTable
    from tests.shapes import end_rows, station_rows

    y = np.array([0, 100, 200, 250, 258, 260, 260, 260.0])
    z = np.array([0, 0, 0, 1.5, 10, 60, 130, 200.0])
    rows = []
    for x in (0.0, 500.0, 1000.0, 1500.0, 2000.0):
        if x in (0.0, 2000.0):
            rows += end_rows("transom", np.column_stack([np.full(8, x), y, z]))
        else:
            rows += station_rows(x, y, z)
    edge = mold_edge(hull_of(OffsetsTable(rows=tuple(rows))), 1000.0, 40.0, Deduction.NORMAL, 100.0)
    assert edge is not None
    assert LineString(edge.points).is_simple
    assert any(f.code == "tight-section" for f in edge.findings)


def test_chine_molds_have_one_corner_and_no_gap(data) -> None:
    from hollow_keel.app.open_any import open_job

    shape = shape_of(apply_override(open_job(data / "single_chine.csv"), "skin", "9mm"))
    for mold in shape.molds.molds:
        assert LineString(mold.edge.points).is_simple
        steps = np.linalg.norm(np.diff(mold.edge.points, axis=0), axis=1)
        assert steps.max() < 25
        outside = section_outside(shape.hull, mold.station)
        near = LineString(outside)
        depth = np.array([near.distance(_point(p)) for p in mold.edge.points[3:-3]])
        assert depth.max() < 14
        assert depth.min() > 8.5


def test_offsets_to_the_inside_give_the_same_mold_as_no_skin() -> None:
    table = cylinder(500).model_copy(update={"to_inside": True})
    job = Job(offsets=table, waterline=-100, molds=MoldSettings(skin=20, stations=(1500.0,)))
    mold = shape_of(job).molds.molds[0]
    assert np.hypot(*mold.edge.points.T) == pytest.approx(np.full(len(mold.edge.points), 500.0), abs=0.05)
    assert shape_of(job).measures.beam == pytest.approx(1040, abs=0.1)


# Setting up. Facts of the trade: common practice, no source.


def marks(stations: tuple[float, ...], thickness: float, **setup: object) -> Shape:
    return shape_of(
        Job(
            offsets=wigley(),
            waterline=0,
            molds=MoldSettings(skin=6, thickness=thickness, stations=stations),
            setup=SetupSettings.model_validate(setup),
        )
    )


def test_twelve_inch_spacing_with_half_inch_molds() -> None:
    """11½ in spacers, and 11 in in the middle where the faces turn over."""
    shape = marks(tuple(12 * INCH * k for k in range(3, 11)), INCH / 2)
    gaps = [m.gap_to_next for m in shape.setup.marks if m.gap_to_next is not None]
    middle = [g for g in gaps if g == pytest.approx(11 * INCH)]
    assert len(middle) == 1
    assert sum(g == pytest.approx(11.5 * INCH) for g in gaps) == len(gaps) - 1


def test_ten_inch_spacing() -> None:
    shape = marks(tuple(10 * INCH * k for k in (4, 5, 6)), INCH / 2)
    assert shape.setup.marks[0].gap_to_next == pytest.approx(9.5 * INCH)


def test_far_faces_and_an_offset_zero() -> None:
    """Bow mold at 28 in, stern mold at 140 in here: 112 between the faces; a zero 9⅜ in away shifts every mark."""
    shape = marks((28 * INCH, 84 * INCH, 140 * INCH), INCH / 2, zero_at=-(9 + 3 / 8) * INCH)
    first, _, last = shape.setup.marks
    assert last.from_zero - first.from_zero == pytest.approx(112 * INCH)
    assert last.from_zero == pytest.approx(149.375 * INCH)


def test_waterline_sum_of_the_trade() -> None:
    """Waterline ¾ in above the strongback and a stringer 42½ in from it: 43¼ in."""
    assert parse_length("42 1/2in + 3/4in") == pytest.approx(43.25 * INCH)
    shape = marks((1000.0, 2000.0, 3000.0), 12, waterline_above=0.75 * INCH)
    assert all(m.waterline_above == pytest.approx(0.75 * INCH) for m in shape.setup.marks)
    assert shape.setup.marks[1].keel_above == pytest.approx(0.75 * INCH - float(shape.molds.molds[1].edge.keel[1]))


def test_measured_from_the_stern() -> None:
    shape = marks((1000.0, 2000.0, 3000.0), 12, zero_end=HullEnd.STERN)
    assert [m.mold for m in shape.setup.marks] == ["3", "2", "1"]
    assert [m.from_zero for m in shape.setup.marks] == pytest.approx([1000, 2000, 3000], abs=0.01)
    assert shape.setup.marks[0].gap_to_next == pytest.approx(1000 - 12 - (12 if shape.molds.molds[1].face is Face.FORWARD else 0))


def test_rounding_does_not_add_up() -> None:
    """Each mark is rounded once from the exact one: never off by more than half a step."""
    shape = marks(tuple(400 + 333.3333 * k for k in range(9)), 12)
    style = linnet().units.style
    for mark in shape.setup.marks:
        written = parse_length(format_length(mark.from_zero, style))
        assert abs(written - mark.from_zero) <= style.step / 2 + 1e-9


def test_overlapping_molds_are_said() -> None:
    shape = marks((1000.0, 1008.0, 3000.0), 12)
    overlap = [f for f in shape.findings if f.code == "overlap"]
    assert overlap
    assert overlap[0].weight is Weight.STOP


def test_beam_too_large_breaks_out() -> None:
    shape = marks((400.0, 2000.0, 3600.0), 12, beam_width=500.0)
    assert any(f.code == "beam-breaks-out" for f in shape.findings)


def test_fitted_beam_leaves_wood_in_every_mold() -> None:
    shape = shape_of(linnet())
    assert not [f for f in shape.findings if f.code in ("thin-web", "beam-breaks-out")]
    assert all(m.keel_above >= 40 for m in shape.setup.marks)


def test_bevel_is_the_angle_of_the_surface() -> None:
    shape = shape_of(linnet())
    mold = shape.molds.molds[0]
    assert math.degrees(mold.edge.bevels.max()) > 10
    assert math.degrees(shape.molds.molds[6].edge.bevels.max()) < 1


@pytest.mark.parametrize("given", [None, 6200.0])
def test_the_strongback_is_drawn_as_long_as_it_is_cut(given: float | None) -> None:
    """One length: what is typed, or what the molds need; on the drawing, under its ring and in the cut list."""
    job = change(linnet(), "setup", length=given)
    shape = Pipeline().shape(job)
    cut = next(t.length for t in shape.schedule.timber if t.what == "beam")
    drawn = setup_drawing(shape, job.units.style)
    ring = next(r for r in drawn.rings if r.decides == "setup.length")
    body = next(s for s in drawn.strokes if s.layer is Layer.BEAM)
    assert ring.value == cut == body.points[:, 0].max() - body.points[:, 0].min()
    assert given is None or cut == given


def test_an_end_mold_near_a_tip_does_not_tell_how_high_the_others_stand() -> None:
    """Teasel with a mold every foot: no beam goes through the last one, at the tip; through the others it does."""
    given = demo_job("teasel")
    job = Job(offsets=given.offsets, waterline=given.waterline, molds=MoldSettings(every=304.8))
    job = change(job, "setup", beam_width=50.0, beam_height=50.0)
    results = Pipeline().run(job)
    names = [m.name for m in results[MOLDS].molds]
    assert [name for name, piece in results[PIECES].items() if piece.why_not is not None] == names[-1:]
    level = results[SETUP].beam_level
    for mold in results[MOLDS].molds[:-1]:
        assert mold.edge.keel[1] < level < level + 50.0 <= mold.top + 1e-6, mold.name

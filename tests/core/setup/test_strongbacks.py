"""Strongbacks of every kind, either way up: marks, what stands under each mold, what is cut, what does not fit."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.findings import Weight
from hollow_keel.core.job import HullEnd, Job, MoldSettings, SetupSettings
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Shape
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.core.setup.schedule import Timber, cut_list, middle_gap, spall_lengths, standings, working_height
from hollow_keel.core.units import MM_PER_INCH, parse_length
from hollow_keel.demo.jobs import linnet
from hollow_keel.drawing.model import Layer
from hollow_keel.drawing.setup.end_view import end_view
from hollow_keel.drawing.setup.strongback import setup_drawing
from hollow_keel.files.plan_json import plan_document
from hollow_keel.files.schedule import told_csv
from hollow_keel.files.setup.paper import setting_up_pdf
from hollow_keel.files.setup.schedules import MARKS, marks_told
from tests.shapes import cylinder

INCH = MM_PER_INCH


def set_up(**settings: object) -> Shape:
    return Pipeline().shape(change(linnet(), "setup", **settings))


def timber(shape: Shape) -> dict[str, Timber]:
    return {t.what: t for t in cut_list(shape.setup, shape.job.setup)}


def codes(shape: Shape) -> set[str]:
    return {f.code for f in shape.findings}


def test_the_far_end_s_face_is_set_already() -> None:
    """Common practice, no source: faces at 28 and 168 in are 140 in apart; with the far one 9 3/8 in in from the beam's end,
    the near one is marked at 149 3/8 in."""
    job = Job(
        offsets=cylinder(500, 5000),
        waterline=-100,
        molds=MoldSettings(stations=(28 * INCH, 98 * INCH, 168 * INCH)),
        setup=SetupSettings(zero_end=HullEnd.STERN, first_face=9.375 * INCH),
    )
    first, _, last = Pipeline().shape(job).setup.marks
    assert first.mold == "3"
    assert first.from_zero == pytest.approx(9.375 * INCH)
    assert last.from_zero == pytest.approx(149.375 * INCH)


def test_a_stringer_s_height_above_the_strongback() -> None:
    """Common practice, no source: waterline 3/4 in above the strongback, stringer 42 1/2 in from it: 43 1/4 in."""
    setup = set_up(strongback="table", waterline_above=0.75 * INCH).setup
    stringer = setup.beam_level - 43.25 * INCH  # upside down its height in the hull's own heights
    assert setup.above(stringer) - setup.above(setup.beam_level - 0.75 * INCH) == pytest.approx(42.5 * INCH)


@pytest.mark.parametrize("kind", list(Strongback))
@pytest.mark.parametrize("upright", [False, True])
def test_every_piece_of_timber_has_its_section_length_and_count(kind: Strongback, upright: bool) -> None:
    shape = set_up(strongback=kind, upright=upright, timber_width=38.0, timber_height=89.0)
    spalls = spall_lengths(shape.molds.molds, change(linnet(), "molds", spall_above=100.0).molds, shape.waterline)
    assert [name for name, _ in spalls] == [m.name for m in shape.molds.molds]
    for (_, long), mold in zip(spalls, shape.molds.molds, strict=True):
        y, z = mold.edge.points.T
        assert long == pytest.approx(2 * float(np.interp(shape.waterline + 100.0, z, y)), abs=0.01)
    cut = cut_list(shape.setup, shape.job.setup, spalls)
    for line in cut:
        if "wedges between" in line.what or "castor" in line.what:
            continue
        assert line.count > 0
        assert line.length > 0, line.what
        assert line.section, line.what
    sawn = [t for t in cut if "⟨38⟩ by ⟨89⟩" in t.section]
    assert sum(t.count for t in sawn if t.what.startswith("cross spall")) == 12
    if kind is not Strongback.BEAM:
        assert len(sawn) == len(cut)
        assert sum(t.what.startswith("post") for t in sawn) == (12 if upright else 0)


def test_legs_reach_from_each_sheer_to_the_table() -> None:
    shape = set_up(strongback="table", upright=False)
    job = shape.job
    stands = standings(shape.setup, shape.molds, job.setup, job.molds, shape.waterline)
    for stand, mark in zip(stands, shape.setup.marks, strict=True):
        assert stand.leg == pytest.approx(mark.sheer_above)
        assert stand.leg is not None
        assert stand.leg >= 150
        assert stand.post is None
        assert stand.highest == pytest.approx(600 + mark.keel_above)
    assert timber(shape)["bracket, one to each leg, its face on the mark"].length == 90


def test_how_far_each_mold_reaches_past_the_rails() -> None:
    shape = set_up(strongback="rails", rail_spread=1000.0)
    job = change(shape.job, "molds", spall_above=120.0)
    stands = standings(shape.setup, shape.molds, job.setup, job.molds, shape.waterline)
    widest = max(float(m.edge.sheer[0]) for m in shape.molds.molds)
    assert max(s.reach for s in stands if s.reach is not None) == pytest.approx(widest - 500)
    assert min(s.reach for s in stands if s.reach is not None) < 0  # the first molds are narrower: a foot carries them
    assert {s.spall_above for s in stands} == {shape.setup.waterline_above - 120}


def test_upright_on_a_table_the_keel_stands_on_posts() -> None:
    shape = set_up(strongback="table", upright=True)
    setup = shape.setup
    assert setup.above(shape.waterline) == pytest.approx(setup.waterline_above)
    for mark, mold in zip(setup.marks, shape.molds.molds, strict=True):
        assert mark.sheer_above > mark.keel_above >= 150
        assert mark.keel_above == pytest.approx(float(mold.edge.keel[1]) - setup.beam_level)
    cut = timber(shape)
    assert cut["post under the keel at mold 3"].length == pytest.approx(setup.marks[2].keel_above)
    assert not any("bracket" in what for what in cut)
    assert "no-clearance" not in codes(shape)
    assert "no-clearance" in codes(set_up(strongback="table", upright=True, waterline_above=100.0))
    assert "upright" in setup_drawing(shape, shape.job.units.style).title
    assert "post under keel" in told_csv(MARKS, marks_told(shape.job, shape.setup, shape.schedule), shape.job.units).splitlines()[0]
    assert setting_up_pdf(shape).startswith(b"%PDF")


def test_upright_on_a_beam_the_beam_lies_in_the_same_wood() -> None:
    """The room for the beam in the mold is the same; only its other face is the upper one."""
    over, up = set_up(), set_up(upright=True)
    assert over.setup.beam_level == pytest.approx(up.setup.beam_level - 75, abs=5)
    assert not codes(up) & {"thin-web", "beam-breaks-out"}
    from hollow_keel.core.molds.pieces import make_piece

    for shape in (over, up):
        level = shape.setup.beam_level
        hole = make_piece(shape.molds.molds[5], shape.job.molds, shape.job.setup, level).holes[0]
        low = level - 75 if shape.setup.upright else level
        assert (hole[:, 1].min(), hole[:, 1].max()) == pytest.approx((low, low + 75))


def test_wedges_go_into_the_middle_gap_and_are_taken_off_its_spacer() -> None:
    shape = set_up(beam_wall=5.0)
    at = middle_gap(shape.setup)
    assert at is not None
    gap = shape.setup.marks[at].gap_to_next
    assert gap == pytest.approx(376.0)
    cut = timber(shape)
    assert cut["spacer"].count == 10
    assert cut["spacer beside the wedges"].length == pytest.approx(376 - 20)
    assert "wall" in cut["beam"].section
    wedges = [s for s in setup_drawing(shape, shape.job.units.style).strokes if s.key == "wedges"]
    before, after = shape.setup.marks[at], shape.setup.marks[at + 1]
    assert len(wedges) == 2
    for wedge in wedges:
        assert before.from_zero < wedge.points[:, 0].min()
        assert wedge.points[:, 0].max() <= after.from_zero + 1e-9
    assert "spacer beside the wedges" not in timber(set_up(wedges=0.0))


@pytest.mark.parametrize(
    ("settings", "code"),
    [
        ({"length": 4000.0}, "too-short"),
        ({"strongback": "table", "width": 300.0}, "too-narrow"),
        ({"strongback": "table", "bracket": 400.0}, "bracket-high"),
        ({"beam_wall": 40.0}, "wall"),
        ({"wedges": 400.0}, "wedges"),
        ({"top": 1500.0}, "high"),
    ],
)
def test_what_does_not_fit_is_said(settings: dict[str, object], code: str) -> None:
    assert code not in codes(set_up())
    shape = set_up(**settings)
    (found,) = [f for f in shape.findings if f.code == code]
    assert found.text.endswith(".")
    assert found.weight is not Weight.INFORMATION or code == "high"


def test_the_working_height_is_from_the_floor_to_the_highest_of_stem_and_keel() -> None:
    shape = set_up(castors=120.0)
    lowest = min(float(s.points[0, 2]) for s in shape.hull.lines.sections)
    lowest = min(lowest, float(shape.hull.lines.bow.points[:, 2].min()))
    expected = 600 + 120 + shape.setup.beam_level - lowest
    assert working_height(shape.hull, shape.setup, shape.job.setup) == pytest.approx(expected, abs=1e-6)
    assert any("castor" in what for what in timber(shape))


@pytest.mark.parametrize("kind", ["beam", "table", "rails"])
@pytest.mark.parametrize("upright", [False, True])
def test_the_end_view_is_dimensioned(kind: str, upright: bool) -> None:
    shape = set_up(strongback=kind, upright=upright, beam_wall=5.0)
    mold = shape.molds.molds[5]
    view = end_view(shape, mold, shape.job.units.style)
    words = " ".join(label.text for label in view.labels)
    assert "waterline" in words
    assert "from the floor" in words
    assert ("leg" in words) == (kind != "beam" and not upright)
    outline = next(s for s in view.strokes if s.layer is Layer.MOLD)
    keel = shape.setup.above(float(mold.edge.keel[1]))
    tip = outline.points[:, 1].min() if upright else outline.points[:, 1].max()
    assert tip == pytest.approx(keel, abs=2.0)


@pytest.mark.parametrize("above", [-413.0, 120.0])
def test_a_waterline_below_the_strongback_has_its_sign_wherever_it_is_typed(above: float) -> None:
    shape = set_up(strongback="table", waterline_above=above)
    style = shape.job.units.style
    for drawn in (end_view(shape, shape.molds.molds[5], style), setup_drawing(shape, style)):
        (number,) = (label.value for label in drawn.labels if label.decides == "setup.waterline_above")
        assert parse_length(number) == above
    keel = shape.setup.above(float(shape.molds.molds[5].edge.keel[1]))
    (told,) = (label.text for label in end_view(shape, shape.molds.molds[5], style).labels if label.text.startswith("keel"))
    assert told.endswith(" below") == (keel < 0)


def test_the_plan_file_tells_what_each_mold_stands_on() -> None:
    pipeline = Pipeline()
    plan = plan_document(pipeline.results(change(linnet(), "setup", strongback="table")))
    first = plan["setup"]["marks"][0]["stands"]
    assert first["leg"] >= 150
    assert "post" not in first

"""A whole job counted from the other end, raised, scaled: the same hull, molds, readings and strips as before, otherwise told."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.fairing.moves import moved_since
from hollow_keel.core.job import HullEnd, Job, MasterLine
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import Shape
from hollow_keel.core.settings.progress import GirthLeft, Planked
from hollow_keel.core.settings.strip_choices import MasterKind, StripLayout
from hollow_keel.core.settings.survey import Reading, Survey
from hollow_keel.core.settings.timber import MadePiece, MadeStrip
from hollow_keel.core.setup.judgement import Direction, judge_survey, standing_on
from hollow_keel.core.whole_job import job_raised, job_scaled, job_turned
from hollow_keel.demo.jobs import linnet, sedge

PIPELINE = Pipeline()


def worked(layout: StripLayout = StripLayout.MIXED) -> Job:
    """Linnet with everything that is told by a place: a fairing move, mixed strips from a master line by heights, readings."""
    job = linnet()
    rows = list(job.offsets.rows)
    k = next(k for k, r in enumerate(rows) if r.label == "wl" and r.station > 2000)
    rows[k] = rows[k].model_copy(update={"half_breadth": rows[k].half_breadth + 2.0})
    faired = job.offsets.model_copy(update={"rows": tuple(rows)})
    job = change(job, "", offsets=faired, unfaired=job.offsets)
    master = MasterLine(kind=MasterKind.HEIGHTS, heights=((500.0, 420.0), (2600.0, 330.0), (5000.0, 390.0)))
    return change(job, "strips", guide="master", master=master, layout=layout, mixed_from=1400.0, mixed_to=3600.0, zones=())


def turned(job: Job) -> Job:
    shape = PIPELINE.shape(job)
    return job_turned(job, [(m.name, m.station) for m in shape.molds.molds], shape.setup.zero_at)


def moves(shape: Shape) -> list[tuple[str, Direction, float]]:
    judged = judge_survey(shape.job.surveys[-1], shape.setup, shape.molds.molds, shape.job)
    return [(m.mold, m.direction, round(m.error, 2)) for m in judged.moves]


def test_counted_from_the_other_end_everything_is_where_it_was() -> None:
    job = worked(StripLayout.PARALLEL)
    other = turned(job)
    a, b = PIPELINE.shape(job), Pipeline().shape(other)
    last = max(r.station for r in job.offsets.rows)
    count = len(a.molds.molds)
    assert len(b.molds.molds) == count
    for before, after in zip(a.molds.molds, reversed(b.molds.molds), strict=True):
        assert after.station == pytest.approx(last - before.station)
        assert int(after.name) == count + 1 - int(before.name)
        for own, same in ((before.edge.points[0], after.edge.points[0]), (before.edge.points[-1], after.edge.points[-1])):
            assert own == pytest.approx(same, abs=0.02)
        assert after.edge.girth == pytest.approx(before.edge.girth, abs=0.02)
    same_face = [m.name for m, n in zip(a.molds.molds, reversed(b.molds.molds), strict=True) if m.face is n.face]
    assert same_face == ["7"], "they stand on the same face, which looks the other way; where the hull is widest it may be either"
    assert b.waterline == a.waterline
    assert [(m.from_zero, m.waterline_above) for m in b.setup.marks] == pytest.approx(
        np.array([(m.from_zero, m.waterline_above) for m in a.setup.marks]), abs=1e-6
    )
    # what is out is still out: other names, and port is starboard
    flipped = {Direction.ACROSS: -1.0, Direction.ROLL: -1.0, Direction.YAW: -1.0, Direction.PITCH: -1.0}
    assert moves(b) == [
        (str(count + 1 - int(name)), way, pytest.approx(flipped.get(way, 1.0) * error, abs=0.01)) for name, way, error in moves(a)
    ]
    assert other.unfaired is not None
    assert job.unfaired is not None
    (was,), (now,) = moved_since(job.unfaired, job.offsets), moved_since(other.unfaired, other.offsets)
    assert now.after.half_breadth - now.before.half_breadth == pytest.approx(2.0)
    assert now.before.station == pytest.approx(last - was.before.station)
    one, two = PIPELINE.value(a.job, PLANKING), Pipeline().value(b.job, PLANKING)
    assert len(one.strips) == len(two.strips)
    for s, t in zip(one.strips, two.strips, strict=True):
        assert t.length == pytest.approx(s.length, rel=2e-3, abs=3)
    assert other.planked is not None
    (mold,) = [m for m in b.molds.molds if m.name == "6"]
    assert other.planked.of("6") == GirthLeft(mold="6", at=mold.station, port=614.0, starboard=620.0), (
        "mold 7 is mold 6, port is starboard"
    )
    assert turned(other) == turned(turned(turned(other)))
    again = turned(other)
    assert again.offsets == job.offsets
    assert again.surveys == job.surveys
    assert again.planked == job.planked
    assert again.strips == job.strips


def test_molds_at_even_steps_stand_where_they_stood_and_what_is_cut_is_cut() -> None:
    pieces = (MadePiece(stick="A1.1", length=3000.0), MadePiece(stick="A1.2", length=2500.0))
    cut = MadeStrip(strip=1, side="port", pieces=pieces, joints=(2936.0,))  # a joint takes 128
    job = sedge()
    job = change(change(job, "molds", stations=(), every=450.0, faces="forward"), "stock", cut=(cut,))
    shape = PIPELINE.shape(job)
    other = turned(job)
    last = max(r.station for r in job.offsets.rows)
    assert other.molds.stations == pytest.approx(sorted(last - m.station for m in shape.molds.molds))
    assert other.molds.every is None
    assert other.molds.faces == "aft"
    assert other.setup.zero_end is HullEnd.STERN
    (now,) = other.stock.cut
    assert now.side == "starboard"
    assert now.pieces == pieces[::-1]
    whole = 3000.0 + 2500.0 - 128.0
    assert now.joints == (pytest.approx(whole - 2936.0),)


def test_a_lower_baseline_raises_everything_that_is_a_height() -> None:
    job = worked(StripLayout.PARALLEL)
    shape = PIPELINE.shape(job)
    survey = job.surveys[-1].model_copy(update={"on": standing_on(shape.setup, job.setup)})
    job = change(job, "", surveys=(survey,))
    other = job_raised(job, 137.0)
    a, b = PIPELINE.shape(job), Pipeline().shape(other)
    assert b.waterline == a.waterline + 137.0
    assert moves(b) == moves(a)
    assert [m.waterline_above for m in b.setup.marks] == pytest.approx([m.waterline_above for m in a.setup.marks])
    for before, after in zip(a.molds.molds, b.molds.molds, strict=True):
        assert after.edge.points[-1] == pytest.approx(before.edge.points[-1] + [0.0, 137.0], abs=1e-6)
    one, two = PIPELINE.value(a.job, PLANKING), Pipeline().value(b.job, PLANKING)
    assert [s.length for s in two.strips] == pytest.approx([s.length for s in one.strips], abs=0.01)
    assert other.unfaired is not None
    assert len(moved_since(other.unfaired, other.offsets)) == 1
    assert job_raised(other, -137.0).strips == job.strips


def test_a_scaled_design_takes_its_settings_along_and_leaves_what_was_measured_unjudged() -> None:
    job = worked(StripLayout.PARALLEL)
    other = job_scaled(job, 1.1, 1.0, 1.2)
    assert other.strips.master.heights == pytest.approx(np.array([(550.0, 504.0), (2860.0, 396.0), (5500.0, 468.0)]))
    assert (other.strips.mixed_from, other.strips.mixed_to) == pytest.approx((1540.0, 3960.0))
    assert other.molds.stations == pytest.approx([1.1 * x for x in job.molds.stations])
    assert other.waterline == pytest.approx(1.2 * (job.waterline or 0.0))
    assert other.unfaired is not None
    (move,) = moved_since(other.unfaired, other.offsets)
    assert move.after.half_breadth - move.before.half_breadth == pytest.approx(2.0)
    shape = Pipeline().shape(other)
    judged = judge_survey(other.surveys[-1], shape.setup, shape.molds.molds, other)
    assert [f.code for f in judged.findings] == ["other-set-up"]
    assert "scaled since" in judged.findings[0].text
    assert other.surveys[-1].readings == job.surveys[-1].readings, "nothing typed is lost"
    assert other.planked is not None
    assert job.planked is not None
    assert other.planked.left == ()
    assert other.planked.earlier[-1].left == job.planked.left
    assert job_scaled(job, 1.0, 1.0, 1.0) == job


def test_a_table_that_cannot_be_drawn_is_turned_all_the_same() -> None:
    job = change(linnet(), "", offsets=linnet().offsets.model_copy(update={"rows": linnet().offsets.rows[:9]}))
    assert job_turned(job, (), None).offsets.rows
    assert Planked().put_by() == Planked()
    assert Survey(readings=(Reading(mold="1"),)).on is None

"""The rest planned again from what was measured: on a half-round tube lines are told by arithmetic, on demo hulls by readings."""

from __future__ import annotations

import csv
import io
import math
from datetime import date

import numpy as np
import pytest

from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.job import Guide, Job, MoldSettings, StripSettings
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.as_planked import Replan
from hollow_keel.core.planking.covering import surface_area
from hollow_keel.core.planking.crossings import crossings
from hollow_keel.core.planking.faces import area_of
from hollow_keel.core.planking.left_by_plan import left_as_planned
from hollow_keel.core.planking.stages import PLANKING, REPLAN
from hollow_keel.core.planking.strips import Planking
from hollow_keel.core.settings.progress import GirthLeft, Planked
from hollow_keel.core.settings.strip_choices import RestWay, StripLayout
from hollow_keel.demo.jobs import linnet, pipit, sedge
from hollow_keel.files.plan_json import plan_document
from tests.shapes import cylinder, strip_planked

PIPELINE = Pipeline()
RADIUS, SKIN, WIDTH = 500.0, 10.0, 30.0


def blank(job: Job) -> Job:
    return change(job, "", planked=None)


def tube() -> Job:
    """A half-round tube, radius 500, strips 30 by 10 over molds 300 apart."""
    return Job(
        offsets=cylinder(RADIUS, 3000),
        waterline=-100,
        molds=MoldSettings(skin=SKIN, stations=tuple(300.0 * k for k in range(1, 10))),
        strips=StripSettings(width=WIDTH, thickness=SKIN),
    )


def worked(job: Job, planked: Planked) -> tuple[Planking, Replan]:
    shape = PIPELINE.shape(change(job, "", planked=planked))
    return PIPELINE.value(shape.job, PLANKING), PIPELINE.value(shape.job, REPLAN)


def again(planked: Planked) -> Replan:
    return worked(linnet(), planked)[1]


def planned_left(job: Job, laid: int) -> dict[str, float]:
    shape = PIPELINE.shape(blank(job))
    plan = PIPELINE.value(shape.job, PLANKING)
    found = {m.name: left_as_planned(m, laid, plan) for m in shape.molds.molds}
    return {name: left for name, left in found.items() if left is not None}


# -- what a plan leaves --------------------------------------------------------------------------------


def test_what_a_plan_leaves_on_a_tube_is_told_by_arithmetic() -> None:
    inside = (RADIUS - SKIN) / RADIUS  # measured along the molds, planked outside them
    for laid in (0, 1, 12, 26):
        for left in planned_left(tube(), laid).values():
            assert left == pytest.approx((math.pi / 2 * RADIUS - laid * WIDTH) * inside, abs=0.05)
    assert set(planned_left(tube(), 27).values()) == {0.0}
    upward = change(tube(), "strips", guide=Guide.KEEL)
    for left in planned_left(upward, 4).values():
        assert left == pytest.approx((math.pi / 2 * RADIUS - 4 * WIDTH) * inside, abs=0.05)


def test_from_both_edges_what_is_left_is_the_seam_between_them() -> None:
    job = change(tube(), "strips", guide=Guide.BOTH, bottom=8)
    inside = (RADIUS - SKIN) / RADIUS
    for left in planned_left(job, 8).values():  # the bottom is on: all the way to the sheer
        assert left == pytest.approx((math.pi / 2 * RADIUS - 8 * WIDTH) * inside, abs=0.05)
    for left in planned_left(job, 20).values():  # the mold's own polyline is 0.03 short over its round, and 0.02 over the rest
        assert left == pytest.approx((math.pi / 2 * RADIUS - 20 * WIDTH) * inside, abs=0.06)


# -- the plan goes on from where the work is -----------------------------------------------------------


def drifted(job: Job, laid: int, more: object, way: RestWay | None = None) -> Planked:
    left = planned_left(job, laid)
    rows = tuple(GirthLeft(mold=m, port=v + more(m)) for m, v in left.items())  # type: ignore[operator]
    return Planked(strips=laid, left=rows, way=way)


@pytest.mark.parametrize("guide", [Guide.SHEER, Guide.KEEL])
def test_on_a_tube_the_strips_to_come_follow_from_the_readings(guide: Guide) -> None:
    job = change(tube(), "strips", guide=guide)
    inside = (RADIUS - SKIN) / RADIUS
    plan, _ = worked(job, Planked())
    now, replan = worked(job, drifted(job, 10, lambda m: 8.0 * inside))
    assert replan.changed
    assert replan.way is RestWay.ON
    assert len(now.strips) == math.ceil((math.pi / 2 * RADIUS + 8.0) / WIDTH)
    for k, strip in enumerate(now.strips):
        # what is laid lies 8 mm short after ten strips, evenly shared; from there on a strip is as wide as it is
        reach = (k + 1) * (10 * WIDTH - 8.0) / 10 if k < 10 else (k + 1) * WIDTH - 8.0
        for edge in strip.far:
            girth = RADIUS * np.arctan2(edge.points[:, 1], -edge.points[:, 2])
            way = girth if guide is Guide.KEEL else math.pi / 2 * RADIUS - girth
            assert np.abs(way - reach).max() < 0.02
    for a, b in zip(now.strips[:10], plan.strips, strict=False):
        assert (a.length, a.width_min, a.width_max, a.starts, a.ends) == (b.length, b.width_min, b.width_max, b.starts, b.ends)
    assert sum(area_of(s, now) for s in now.strips) == pytest.approx(math.pi / 2 * RADIUS * 3000, rel=5e-4)


def test_all_the_rest_tapered_alike_lands_on_the_line() -> None:
    def more(mold: str) -> float:
        return 2.0 * float(mold) - 10.0

    job = tube()
    now, replan = worked(job, drifted(job, 10, more, RestWay.TAPER))
    assert replan.way is RestWay.TAPER
    coming = now.strips[10:]
    assert all(s.shaped for s in coming)
    shape = PIPELINE.shape(job)
    inside = (RADIUS - SKIN) / RADIUS
    for mold in shape.molds.molds:
        rows = [c for c in crossings(shape.hull, mold, now, job.strips) if c.number > 10]
        left = (math.pi / 2 * RADIUS - 10 * WIDTH) + more(mold.name) / inside
        assert len(rows) == len(coming) == math.ceil(((math.pi / 2 * RADIUS - 10 * WIDTH) + 8 / inside) / WIDTH)
        for row in rows:  # chords of arcs
            assert row.width == pytest.approx(2 * RADIUS * math.sin(left / len(rows) / 2 / RADIUS), abs=0.02)
        told = next(r for r in replan.rows if r.mold == mold.name)
        assert told.width * len(coming) == pytest.approx(told.measured)


def test_a_few_bring_the_run_back_to_the_edges_of_the_plan() -> None:
    def more(mold: str) -> float:
        return -2.0 * float(mold)

    job = tube()
    plan, _ = worked(job, Planked())
    now, replan = worked(job, drifted(job, 10, more, RestWay.FEW))
    back = replan.back
    assert back is not None
    assert replan.way is RestWay.FEW
    after = {s.number: s for s in plan.strips}
    for strip in now.strips[9 + back.strips :]:
        same = after[strip.number - (10 + back.strips) + back.follows - 1]
        for a, b in zip(strip.far, same.far, strict=True):
            assert np.abs(a.points[::16, 1:] - b.points[::16, 1:]).max() < 0.02
    few = now.strips[10 : 10 + back.strips]
    assert all(s.shaped for s in few)
    assert max(s.width_max for s in few) <= WIDTH + 0.05
    assert min(back.widths.values()) >= job.strips.least_width


@pytest.mark.parametrize("job", [linnet(), pipit(), strip_planked(sedge())], ids=lambda j: j.name)
@pytest.mark.parametrize("layout", list(StripLayout))
def test_the_last_strip_laid_lies_where_it_was_measured(job: Job, layout: StripLayout) -> None:
    job = change(job, "strips", layout=layout)
    readings = drifted(job, 15, lambda m: 4.0 * math.cos(float(m) / 4))
    now, replan = worked(job, readings)
    assert replan.changed
    shape = PIPELINE.shape(blank(job))
    for mold in shape.molds.molds:
        left = left_as_planned(mold, 15, now)
        row = readings.of(mold.name)
        assert left is not None
        assert row.port is not None
        assert left == pytest.approx(row.port, abs=0.4)
        # and every mold is covered from its sheer to its keel, each place once
        rows = crossings(shape.hull, mold, now, job.strips)
        for a, b in zip(rows, rows[1:], strict=False):
            assert b.upper == pytest.approx(a.from_sheer, abs=0.3)
        assert rows[-1].from_sheer == pytest.approx(mold.edge.girth, abs=0.05)
    whole = sum(surface_area(p.surface) for p in shape.hull.panels)
    assert sum(area_of(s, now) for s in now.strips) == pytest.approx(whole, rel=5e-3)


def test_everything_that_follows_is_of_the_plan_as_it_is_now() -> None:
    job = tube()
    more = change(job, "", planked=drifted(job, 10, lambda m: 25.0))
    before, after = (PIPELINE.results(j) for j in (job, more))
    assert len(before.planking.strips) == 27
    assert len(after.planking.strips) == 28
    assert plan_document(after)["strips"]["per_side"] == 28
    assert after.stock is not None
    assert before.stock is not None
    longer, shorter = (sum(n.length for n in r.stock.needs) for r in (after, before) if r.stock is not None)
    assert longer > shorter
    rows = list(csv.reader(io.StringIO(export_named("strips-csv").write(after).decode("utf-8-sig"))))
    assert any(row[:1] == ["28"] for row in rows)


# -- what readings say ---------------------------------------------------------------------------------


@pytest.mark.fresh  # one and the same object
def test_work_that_went_as_planned_goes_on_as_planned() -> None:
    left = planned_left(linnet(), 20)
    same = Planked(strips=20, left=tuple(GirthLeft(mold=m, port=v, starboard=v) for m, v in left.items()))
    plan, _ = worked(linnet(), Planked())
    now, replan = worked(linnet(), same)
    (said,) = replan.findings
    assert said.code == "as-planned"
    assert said.text.startswith("As planned, go on")
    assert now is plan, "the plan itself"
    assert replan.strips == 65 - 20
    for row in replan.rows:
        assert row.measured == pytest.approx(row.planned)
        assert row.width == 14
    # six millimetres more everywhere are not as planned
    other = again(Planked(strips=20, left=tuple(GirthLeft(mold=m, port=v + 6.0) for m, v in left.items())))
    assert other.changed
    assert "as-planned" not in {f.code for f in other.findings}
    assert other.strips in {45, 46}


@pytest.mark.fresh  # one and the same object
def test_readings_in_another_unit_are_asked_about_before_anything_else() -> None:
    left = planned_left(linnet(), 20)
    inches = Planked(strips=20, left=tuple(GirthLeft(mold=m, port=v / 25.4) for m, v in left.items()))
    plan, _ = worked(linnet(), Planked())
    now, replan = worked(linnet(), inches)
    assert [f.code for f in replan.findings] == ["left-unlikely"]
    assert now is plan, "readings that cannot be right change nothing"


def test_sides_that_drift_and_a_run_out_of_step_are_said() -> None:
    left = planned_left(linnet(), 20)
    rows = (
        GirthLeft(mold="2", port=left["2"] + 12, starboard=left["2"] + 12),
        GirthLeft(mold="7", port=left["7"] + 5, starboard=left["7"]),
        GirthLeft(mold="11", starboard=left["11"] - 3),
    )
    replan = again(Planked(strips=20, left=rows))
    assert {f.code for f in replan.findings} >= {"sides-drift", "out-of-step"}
    drift = next(f for f in replan.findings if f.code == "sides-drift")
    assert drift.where == "mold 7"
    assert "more left to port" in drift.text
    between = next(r for r in replan.rows if r.mold == "5")  # between 2 and 7: a smooth share of both
    assert 2.4 < between.measured - between.planned < 12.0


def test_different_counts_across_the_opening_are_judged_over_several_molds() -> None:
    left = planned_left(linnet(), 20)

    def read(port: float, starboard: float, molds: str) -> set[str]:
        rows = tuple(
            GirthLeft(mold=m, port=left[m] + port, starboard=left[m] + starboard)
            if m in molds.split()
            else GirthLeft(mold=m, port=left[m], starboard=left[m])
            for m in ("4", "6", "7", "9")
        )
        return {f.text for f in again(Planked(strips=20, left=rows)).findings if f.code == "counts-differ"}

    (said,) = read(14, 0, "4 6 7 9")
    most = math.ceil(left["7"] / 14)
    assert f"port takes {most + 1} strips and starboard {most}" in said
    (turned,) = read(0, 28, "4 6 7 9")
    assert "Lay 2 more to starboard" in turned
    assert not read(4, 0, "4 6 7 9")
    assert not read(14, 0, "7"), "one mold alone is a slip of the tape, or a hump"


def test_a_reading_that_stands_alone_is_to_be_taken_again() -> None:
    left = planned_left(linnet(), 20)
    rows = tuple(GirthLeft(mold=m, port=left[m] + (12.0 if m == "6" else 0.0)) for m in ("4", "5", "6", "7", "8"))
    (alone,) = [f for f in again(Planked(strips=20, left=rows)).findings if f.code == "reading-alone"]
    assert alone.where == "mold 6"
    assert "12 mm off" in alone.said().text
    even = tuple(GirthLeft(mold=m, port=left[m] + 2.0 * k) for k, m in enumerate(("4", "5", "6", "7", "8")))
    assert "reading-alone" not in {f.code for f in again(Planked(strips=20, left=even)).findings}


def test_a_run_that_is_out_of_step_is_brought_back() -> None:
    left = planned_left(linnet(), 20)
    bow = {"1": 9.0, "2": 8.0, "3": 6.5, "4": 5.0, "5": 3.0}
    rows = tuple(GirthLeft(mold=m, port=v - bow.get(m, 0.0), starboard=v - bow.get(m, 0.0)) for m, v in left.items())
    replan = again(Planked(strips=20, left=rows, way=RestWay.FEW))
    back = replan.back
    assert back is not None
    assert back.follows == 20 + back.strips + 1
    after = planned_left(linnet(), 20 + back.strips)
    for row in rows:  # what they cover brings every mold to the plan's edge
        assert row.mean is not None
        assert row.mean - back.strips * back.widths[row.mold] == pytest.approx(after[row.mold], abs=1e-6)
    assert max(back.widths.values()) <= 14.05
    assert min(w for w in back.widths.values() if w) >= 8.0
    (said,) = [f for f in replan.findings if f.code == "out-of-step"]
    assert f"{back.strips} tapered strips bring it back" in said.text


def test_the_demo_says_what_its_readings_say() -> None:
    results = PIPELINE.results(linnet())
    told = plan_document(results)["as_planked"]
    assert told["laid"] + told["strips_to_come"] == plan_document(results)["strips"]["per_side"]
    assert told["changed"]
    (drift,) = [w for w in told["warnings"] if w["where"] == "mold 7"]
    assert "6 mm more left to port" in drift["text"]
    left = planned_left(linnet(), 20)
    one = change(linnet(), "", planked=Planked(strips=20, left=(GirthLeft(mold="6", port=left["6"]),)))
    measured = plan_document(PIPELINE.results(one))["as_planked"]["molds"]
    assert len(measured) == 12
    assert measured[5]["measured"] == pytest.approx(left["6"], abs=1e-3)


# -- looks at the work ---------------------------------------------------------------------------------


def test_readings_stay_with_the_strips_that_were_on_when_they_were_taken() -> None:
    day = date(2031, 5, 4)
    first = Planked().with_strips(20, day).with_row(GirthLeft(mold="3", port=400.0))
    assert first.measured_strips == 20
    more = first.with_strips(25, day)
    assert (more.strips, more.measured_strips) == (25, 20)
    assert more.now("3").mean is None
    assert more.of("3").mean == 400.0
    assert more.taken_now().measured_strips == 25, "the number was typed after the readings"
    second = more.with_row(GirthLeft(mold="4", port=333.0))
    assert second.measured_strips == 25
    assert second.of("3").mean is None
    (kept,) = second.earlier
    assert (kept.strips, kept.left[0].port) == (20, 400.0)
    assert more.with_strips(20, day).measured_at is None
    unsaid = Planked().with_row(GirthLeft(mold="3", port=400.0)).with_strips(20, day)
    assert unsaid.measured_strips == 20, "readings typed before the number belong to it"


def test_with_more_strips_on_the_plan_goes_on_from_the_last_readings() -> None:
    planked = drifted(linnet(), 20, lambda m: 6.0).with_strips(25, date(2031, 5, 4))
    plan_then, _ = worked(linnet(), drifted(linnet(), 20, lambda m: 6.0))
    plan_now, replan = worked(linnet(), planked)
    assert plan_now is plan_then, "strips laid to the plan change nothing"
    assert replan.laid == 20
    shape = PIPELINE.shape(blank(linnet()))
    for mold in shape.molds.molds:
        assert replan.left[mold.name] == left_as_planned(mold, 25, plan_now)


def test_nothing_measured_plans_nothing() -> None:
    replan = again(Planked(strips=4))
    assert not replan.rows
    assert not replan.changed
    assert replan.strips == 61
    assert Planked().with_row(GirthLeft(mold="3", port=9.0)).of("3").mean == 9.0
    assert Planked().with_row(GirthLeft(mold="3", port=9.0)).with_row(GirthLeft(mold="3")).left == ()

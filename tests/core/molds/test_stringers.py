"""One stringer: where it lies as wood, where molds are notched for it, where it is told inside and under veneers. Truth: a cone,
on which wood lies along a generator, and the pages held against each other."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
import shapely

from hollow_keel.core.change import change
from hollow_keel.core.inside.stages import INSIDE
from hollow_keel.core.job import Job, Layer
from hollow_keel.core.molds.cut_stages import PIECES
from hollow_keel.core.molds.stages import MOLDS, STRINGERS
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.mold_choices import StringerNotches
from hollow_keel.core.settings.veneer_choices import FormKind
from hollow_keel.core.veneers.stages import FORM
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.store.job_file import job_text, parse_job
from tests.shapes import cone

SHARE = 0.4


@pytest.fixture(scope="module")
def pipeline() -> Pipeline:
    return Pipeline()


def fitted(job: Job, *shares: float, notched: StringerNotches = StringerNotches.AS_WOOD) -> Job:
    job = change(job, "inside", stringers=shares, stringer_width=30.0, stringer_thickness=18.0)
    return change(change(job, "molds", stringer_notches=notched), "trim", wanted=True)


def test_a_cone_is_notched_along_a_generator(pipeline: Pipeline) -> None:
    """A cone of half-angle 9 degrees: the stringer stays at one angle round it; square to its skin 18 mm are 18 / cos 9 degrees
    in the mold's plane."""
    job = change(fitted(Job(offsets=cone(), waterline=-100.0), SHARE), "molds", skin=10.0, clearance=0.0)
    results = pipeline.run(job)
    for mold in results[MOLDS].molds:
        (notch,) = results[STRINGERS].notches[mold.name]
        angle = math.atan2(notch.at[0], -notch.at[1])
        assert angle == pytest.approx(SHARE * math.pi / 2, abs=0.002)
        assert notch.deep == pytest.approx(18.0 / math.cos(math.radians(9)), abs=0.02)
        assert notch.wide == pytest.approx(30.0, abs=0.02)
        piece = results[PIECES][mold.name]
        wood = shapely.Polygon(piece.outline, piece.holes)
        inward = -notch.at / np.linalg.norm(notch.at)
        for side in (1.0, -1.0):
            at = [shapely.Point((notch.at + deep * inward) * [side, 1.0]) for deep in (17.5, 19.0)]
            assert [wood.contains(own) for own in at] == [False, True], "through to its floor, and not further"


@pytest.mark.parametrize("name", ["linnet", "sedge", "pipit", "teasel"])
@pytest.mark.parametrize("notched", [StringerNotches.AS_WOOD, StringerNotches.SHARE])
def test_molds_inside_and_a_form_tell_of_one_stringer(pipeline: Pipeline, name: str, notched: StringerNotches) -> None:
    """Its notch in a mold is where *Inside* has it, in place and in width, and where a form of stringers crosses that mold."""
    job = fitted(change(demo_job(name), "veneers", layers=()).in_step(), 0.35, 0.7, notched=notched)
    job = change(job, "molds", strapping=0.0)
    results = pipeline.run(job)
    inside = {(s.name, n.name): n for s in results[INSIDE].stringers for n in s.notches}
    seen = 0
    for mold in results[MOLDS].molds:
        for notch in results[STRINGERS].notches[mold.name]:
            told = inside[f"stringer {notch.number}", f"mold {mold.name}"]
            edge = mold.edge.points
            run = shapely.LineString(edge).project(shapely.Point(notch.at))
            assert run == pytest.approx(told.from_keel, abs=0.3), (name, mold.name)
            assert notch.wide == pytest.approx(told.wide, rel=0.01)
            seen += 1
    assert seen > 8
    layered = change(job, "veneers", layers=(Layer(thickness=3.0), Layer(thickness=3.0, angle=-45.0)))
    formed = change(layered, "form", kind=FormKind.STRINGERS).in_step()
    results = pipeline.run(formed)
    form = results[FORM]
    assert form.section == (30.0, 18.0)
    crossed = {(round(c.from_keel, 0), c.mold) for r in form.ribbands for c in r.crossings}
    for mold in results[MOLDS].molds:
        for notch in results[STRINGERS].notches[mold.name]:
            run = shapely.LineString(mold.edge.points).project(shapely.Point(notch.at))
            own = [abs(run - far) for far, at in crossed if at == mold.name]
            assert min(own) < 1.0, (name, mold.name)


def test_a_place_forced_by_hand_is_said(pipeline: Pipeline) -> None:
    """How far off is told again by plane geometry: round the mold's edge from where the other stringer's notch is."""
    wood, forced = (
        pipeline.run(fitted(demo_job("linnet"), 0.4, notched=own)) for own in (StringerNotches.AS_WOOD, StringerNotches.SHARE)
    )
    assert wood[STRINGERS].findings == ()
    (found,) = forced[STRINGERS].findings
    off = {}
    for mold in wood[MOLDS].molds:
        edge = shapely.LineString(mold.edge.points)
        runs = [[edge.project(shapely.Point(n.at)) for n in results[STRINGERS].notches[mold.name]] for results in (wood, forced)]
        if all(runs):
            off[mold.name] = abs(runs[0][0] - runs[1][0])
    worst = max(off, key=off.__getitem__)
    assert off[worst] > 5.0
    assert f"mold {worst}" in found.text
    assert f"{off[worst]:.0f}" in found.said().text


def test_none_are_cut_where_they_go_in_without_the_molds(pipeline: Pipeline) -> None:
    results = pipeline.run(fitted(demo_job("linnet"), 0.4, notched=StringerNotches.NONE))
    assert results[STRINGERS].notches == {}
    assert results[INSIDE].stringers


def test_jobs_of_before_stringers_were_one_cut_what_they_cut() -> None:
    """Version 9 set them twice."""
    document = json.loads(job_text(demo_job("linnet")))
    document["version"] = 9
    molds, inside = document["job"]["molds"], document["job"]["inside"]
    del molds["stringer_notches"]
    molds |= {"stringers": [0.35, 0.7], "stringer_width": 40.0, "stringer_depth": 20.0}

    def read() -> Job:
        return parse_job(json.dumps(document).encode())

    job = read()
    assert job.inside.stringers == (0.35, 0.7)
    assert (job.inside.stringer_width, job.inside.stringer_thickness) == (40.0, 20.0)
    assert job.molds.stringer_notches is StringerNotches.SHARE
    inside["stringers"] = [0.5]
    job = read()
    assert (job.inside.stringers, job.inside.stringer_width) == ((0.5,), 30.0)
    assert job.molds.stringer_notches is StringerNotches.AS_WOOD
    molds["stringers"] = []
    assert read().molds.stringer_notches is StringerNotches.NONE
    inside["stringers"], molds["stringers"], molds["stringer_depth"] = [], [0.4], 0.0
    assert read().molds.stringer_notches is StringerNotches.NONE, "a notch of no depth was none"

"""Joints of neighbouring strips, measured as the hull itself has them: places in space, whatever course their strips belong to."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from hollow_keel.app.open_any import open_job
from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.strips import Strip
from hollow_keel.core.settings.timber import Board, Grain, StockSettings
from hollow_keel.demo.jobs import linnet
from tests.shapes import unworked

DATA = Path(__file__).parents[1] / "data"
STAGGER = 600.0


def short_wood(thickness: float) -> StockSettings:
    board = Board(mark="A", thickness=thickness, width=150, length=3100, count=120, grain=Grain.FLAT)
    return StockSettings(boards=(board,))


def with_master(job: Job) -> Job:
    return change(job, "strips", guide="master", zones=())


def from_both_edges(job: Job) -> Job:
    return change(job, "strips", guide="both", zones=())


def on_the_hull(strip: Strip, x: float) -> list[np.ndarray]:
    """Where both edges of a strip cross a station."""
    found = []
    for piece in (*strip.near, *strip.far):
        order = np.argsort(piece.points[:, 0])
        points = piece.points[order]
        if points[0, 0] <= x <= points[-1, 0]:
            found.append(np.array([np.interp(x, points[:, 0], points[:, k]) for k in (1, 2)]))
    return found


@pytest.mark.parametrize(
    "job",
    [
        with_master(unworked(linnet())),
        from_both_edges(unworked(linnet())),
        change(open_job(DATA / "single_chine.csv"), "strips", width=25.0, thickness=8.0),
    ],
    ids=["master line", "both edges", "knuckle"],
)
def test_joints_that_lie_beside_each_other_on_the_hull_stand_apart(job: Job) -> None:
    """Every two joints of one side nearer to each other across the hull than a strip and a half belong to neighbours: along the
    hull they stand as far apart as was asked, or the plan says for which strips it gave."""
    joints = job.stock.joints.model_copy(update={"stagger": STAGGER, "rows": 1, "clear_molds": 0.0, "clear_bends": 0.0})
    stock = short_wood(33.0).model_copy(update={"joints": joints})
    results = Pipeline().results(change(job, "", stock=stock))
    assert results.stock is not None
    plan = results.stock.plan
    assert plan is not None
    assert plan.joints > 40
    strips = {s.number: s for s in results.planking.strips}
    places: list[tuple[float, Strip, list[np.ndarray], float]] = []
    for made in plan.made:
        if made.need.side == "port":
            for x in made.need.positions(made.joints):
                places.append((x, strips[made.need.strip], on_the_hull(strips[made.need.strip], x), made.apart))
    assert all(edges for _, _, edges, _ in places)
    for i, (x, one, edges, kept) in enumerate(places):
        for at, other, _, also in places[i + 1 :]:
            if other is one or abs(at - x) >= STAGGER - 60:
                continue
            here = on_the_hull(other, x)
            if not here:
                continue
            across = min(float(np.linalg.norm(a - b)) for a in edges for b in here)
            if across < 1.0:  # they share an edge
                assert min(kept, also) < 1.0, (x, at, one.number, other.number)
    courses = {(s.panel, s.course) for s in strips.values()}
    assert len(courses) > 1, "the hull is planked in more than one course"

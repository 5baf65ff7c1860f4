"""How far the table settles molds and strips, where it is shown."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.hull.unsettled import strip_unsettled, unsettled_at
from hollow_keel.core.job import Job, MoldSettings, StripSettings
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.results import Results
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.plan_json import plan_document
from hollow_keel.ui.sentences import may_be_out
from hollow_keel.ui.state import State
from tests.shapes import station_rows


@pytest.fixture(scope="module")
def coarse() -> Results:
    """Straight topsides over a bilge of 220 mm radius that a floor line and one point in its middle tell of."""
    turn = np.radians([0.0, 48.0, 90.0])
    y = np.concatenate([[20.0, 300.0], 300 + 220 * np.sin(turn), [520.0, 520.0, 520.0, 520.0]])
    z = np.concatenate([[0.0, 0.0], 220 - 220 * np.cos(turn), [300.0, 400.0, 500.0, 600.0]])
    keep = np.array([0, 1, 3, 4, 5, 6, 7, 8])
    rows = [row for x in np.arange(0.0, 4001.0, 500.0) for row in station_rows(x, y[keep], z[keep])]
    job = Job(
        offsets=OffsetsTable(rows=tuple(rows)), waterline=150.0,
        molds=MoldSettings(skin=8, stations=(750.0, 2000.0, 3250.0)), strips=StripSettings(width=20, thickness=8),
    )  # fmt: skip
    return Pipeline().results(job)


def test_strips_over_the_open_bilge_are_uncertain_and_those_on_the_topsides_are_not(coarse: Results) -> None:
    told = plan_document(coarse)
    by_mold = {m["name"]: m["uncertain_by"] for m in told["molds"]}
    assert all(by > 1.0 for by in by_mold.values())
    strips = told["strips"]["strips"]
    assert strips[2]["uncertain_by"] < 0.5, "straight up and down between points close together"
    bilge = [s["uncertain_by"] for s in strips]
    assert max(bilge) > 1.0
    assert max(bilge) <= max(by_mold.values()) + 1e-3, "no strip lies farther out than its sections"
    worst = strips[int(np.argmax(bilge))]["n"]
    edge = coarse.planking.strips[worst - 1].near[0].points
    assert -20 < np.median(edge[:, 2]) < 240, "it lies in the turn of the bilge, or runs out of it"
    assert strip_unsettled(coarse.shape.unsettled, []) == 0.0


def test_it_is_shown_past_a_millimetre_and_not_before(coarse: Results) -> None:
    state = State(coarse.shape.job, shape=coarse.shape)
    (row,) = may_be_out(unsettled_at(coarse.shape.unsettled, 2000.0), state)
    assert row[0] == "may be out by"
    assert row[1].startswith("±")
    assert may_be_out(0.9, state) == ()
    sure = Pipeline().shape(linnet())
    assert all(may_be_out(unsettled_at(sure.unsettled, m.station), state) == () for m in sure.molds.molds)

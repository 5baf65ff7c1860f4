"""Tables made wrong as hands make them wrong: what cannot be worked out is said in words, and nothing of ours goes wrong.

The tables are those at which `./run attack hulls` found something; what is wrong in each is named.
"""

from __future__ import annotations

from collections.abc import Callable
from types import SimpleNamespace

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.errors import Cancelled, ImpossiblePlan
from hollow_keel.core.geometry.front import propagate
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.table import OffsetRow
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.levels import ACROSS, ALONG, level_pieces
from hollow_keel.core.stages import BY_ID
from hollow_keel.demo.jobs import demo_job


def with_rows(job: Job, changed: Callable[[OffsetRow], dict[str, float]]) -> Job:
    rows = tuple(row.model_copy(update=changed(row)) for row in job.offsets.rows)
    return change(job, "", offsets=type(job.offsets)(rows=rows))


def pipit_with_stringers() -> Job:
    job = change(demo_job("pipit"), "trim", wanted=True)
    return change(job, "inside", stringers=(0.5,))


@pytest.mark.parametrize(
    "changed",
    [
        lambda row: {"height": 1e6} if (row.station, row.label) == (101.6, "keel") else {},
        lambda row: {"height": -1e6} if row.height == 287.3375 else {},
        lambda row: {"half_breadth": 100.0},
    ],
    ids=["a kilometre high", "a kilometre deep", "half-breadths all alike"],
)
def test_stringers_where_wood_does_not_lie_along_the_hull(changed: Callable[[OffsetRow], dict[str, float]]) -> None:
    """The line in which wood lies by itself turns back on such a hull."""
    bad = with_rows(pipit_with_stringers(), changed)
    assert bad.offsets != pipit_with_stringers().offsets
    inside = Pipeline().value(bad, BY_ID["inside"])
    assert all(stringer.length > 0 for stringer in inside.stringers)
    lost = [f for f in inside.findings if f.code == "stringer-lost"]
    assert len(inside.stringers) + len(lost) == 1, "it is there, or it is said that it cannot be"


def test_edges_that_are_torn_are_refused_before_they_are_worked_on() -> None:
    """Stations in inches taken for millimetres and more: 11,218 pieces of edges for 480 strips took minutes. Here every place of
    the grid is given any number at all."""
    surface = Pipeline().shape(demo_job("pipit")).hull.panels[0].surface
    patch = SimpleNamespace(surface=surface, places=lambda u, t: (u, t))
    numbers = np.random.default_rng(3).uniform(0.0, 10.0, (ALONG, ACROSS))
    with pytest.raises(ImpossiblePlan, match=r"near position .* fall into pieces \(\d{3,} for 9 strips\)"):
        level_pieces(patch, None, None, numbers, range(1, 10), lambda: None)  # type: ignore[arg-type]


def test_strips_on_a_hull_of_kilometres_are_refused_and_the_way_over_one_can_be_broken_off() -> None:
    bad = with_rows(demo_job("pipit"), lambda row: {"height": row.height * 1e3})
    with pytest.raises(ImpossiblePlan, match="round a side"):
        Pipeline().value(change(bad, "strips", width=5e3), BY_ID["plan"])
    told: list[float] = []

    def tick(distance: float) -> None:
        told.append(distance)
        if len(told) == 3:
            raise Cancelled

    with pytest.raises(Cancelled):
        propagate(Pipeline().shape(bad).hull.panels[0].surface, 0.0, 1e5, tick)


def test_more_veneers_than_anybody_lays_are_refused() -> None:
    far = max(row.station for row in demo_job("sedge").offsets.rows if row.label == "sheer") / 2
    bad = with_rows(demo_job("sedge"), lambda row: {"height": -1e6} if row.label == "sheer" and row.station < far else {})
    with pytest.raises(ImpossiblePlan, match=r"Veneers .* wide would need some"):
        Pipeline().value(bad, BY_ID["layer-seams"])

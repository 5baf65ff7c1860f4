"""Whole tables scaled, raised, turned round and cut at new stations."""

from __future__ import annotations

import pytest

from hollow_keel.core.errors import InputError
from hollow_keel.core.hull.restation import restationed
from hollow_keel.core.offsets.table import read_lines
from hollow_keel.core.offsets.transform import raised, scaled, turned
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.offsets.points_csv import read_offsets_csv
from tests.conftest import DATA
from tests.shapes import WIGLEY, hull_of, wigley, wigley_breadth


def test_scaling_scales_the_volume() -> None:
    job = demo_job("linnet")
    before = Pipeline().shape(job).measures
    table = scaled(job.offsets, 1.1, 0.95, 1.2)
    after = Pipeline().shape(job.model_copy(update={"offsets": table, "waterline": job.waterline * 1.2})).measures
    assert after.volume == pytest.approx(before.volume * 1.1 * 0.95 * 1.2, rel=2e-3)
    assert after.beam == pytest.approx(before.beam * 0.95, rel=1e-3)
    for bad in (0.0, -1.0, float("nan"), 1e9):
        with pytest.raises(InputError, match="out of reason"):
            scaled(job.offsets, bad, 1, 1)


def test_the_baseline_moves_every_height() -> None:
    table = demo_job("linnet").offsets
    assert [r.height + 250 for r in table.rows] == [r.height for r in raised(table, 250).rows]
    assert raised(raised(table, 250), -250) == table


@pytest.mark.parametrize("name", ["linnet", "pipit"])
def test_counting_from_the_other_end_twice_is_nothing(name: str) -> None:
    table = demo_job(name).offsets
    once = turned(table)
    assert len(read_lines(once).sections) == len(read_lines(table).sections)
    twice = turned(once)
    for a, b in zip(table.rows, twice.rows, strict=True):
        assert a.label == b.label
        assert a.station == pytest.approx(b.station - min(r.station for r in twice.rows) + min(r.station for r in table.rows))
    girths = [sorted(round(g, 3) for _, g in hull_of(t).girths) for t in (table, once)]
    assert girths[0] == pytest.approx(girths[1], abs=0.01)


def test_new_stations_lie_on_the_hull() -> None:
    table = wigley()
    again = restationed(table, hull_of(table), 300.0)
    stations = read_lines(again).sections
    assert [s.x for s in stations] == [300.0 * k for k in range(1, 14)]
    for section in stations:
        # beyond the last drawn station only the stem says where the skin goes
        close = 0.25 if table.rows[13].station <= section.x <= table.rows[-14].station else 0.8
        for x, y, z in section.points:
            assert y == pytest.approx(float(wigley_breadth(x, z)), abs=close)
    assert WIGLEY[0] > stations[-1].x


@pytest.mark.parametrize("name", ["double_ender", "single_chine"])
def test_new_stations_keep_stems_knuckles_and_volume(name: str) -> None:
    given = read_offsets_csv(DATA / f"{name}.csv")
    job = demo_job("linnet").model_copy(update={"offsets": given.table, "waterline": given.waterline})
    shape = Pipeline().shape(job)
    again = restationed(given.table, shape.hull, 350.0)
    after = Pipeline().shape(job.model_copy(update={"offsets": again}))
    assert after.measures.volume == pytest.approx(shape.measures.volume, rel=3e-3)
    assert after.measures.planked_area == pytest.approx(shape.measures.planked_area, rel=3e-3)
    chines = [sum(r.label == "chine" for r in t.rows) for t in (given.table, again)]
    assert bool(chines[0]) == bool(chines[1])


def test_a_spacing_out_of_reason_is_refused() -> None:
    table = wigley()
    for spacing in (0.0, 5.0, 3000.0, -300.0):
        with pytest.raises(InputError, match="does not suit"):
            restationed(table, hull_of(table), spacing)

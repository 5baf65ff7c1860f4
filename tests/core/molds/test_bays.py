"""Strips sprung over molds against hand sums with the three-moment equation, and what one mold more does."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.app.mends import mend_of, what_changed
from hollow_keel.core.job import Job, MoldSettings, SetupSettings
from hollow_keel.core.molds.bays import Bays, bay_findings, bays
from hollow_keel.core.molds.stages import BAYS, MOLDS
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job

from ...shapes import end_rows, hull_of, station_rows

LENGTH, BULGE = 2000.0, 40.0


def wall_sided(ends: bool = False) -> OffsetsTable:
    """Vertical sides whose half-breadth is a flat parabola along the hull; open at both ends, or with transoms."""
    rows = []
    z = np.linspace(0.0, 300.0, 5)
    for k, x in enumerate(np.linspace(0, LENGTH, 21).tolist()):
        y = np.full(5, 500.0 - BULGE * (2 * x / LENGTH - 1) ** 2)
        if ends and k in (0, 20):
            rows += end_rows("transom", np.column_stack([np.full(5, x), y, z]))
        else:
            rows += station_rows(x, y, z)
    return OffsetsTable(rows=tuple(rows))


def test_two_bays_of_a_parabola_are_those_of_the_three_moment_equation() -> None:
    """y = -k x² over supports at -h, 0, h: the middle moment is 3/2 of the parabola's, and the strip stands 2kh²/27 inside it at a
    third of each bay from its outer end (by hand). Molds at 200, 1000, 1800; the hull is open, nothing else holds the strip."""
    k, h = BULGE / (LENGTH / 2) ** 2, 800.0
    found = bays(hull_of(wall_sided()), [("1", 200.0), ("2", 1000.0), ("3", 1800.0)])
    assert [(bay.before, bay.after) for bay in found] == [("1", "2"), ("2", "3")]
    assert [bay.off for bay in found] == pytest.approx([-2 * k * h * h / 27] * 2, rel=0.01)
    assert found[0].at[0] == pytest.approx(200 + h / 3, abs=h / 15)
    assert found[1].at[0] == pytest.approx(1800 - h / 3, abs=h / 15)


def test_a_transom_holds_the_strip_and_an_open_end_does_not() -> None:
    """Held at both ends and at one mold in the middle: the same sum with h = 1000."""
    k, h = BULGE / (LENGTH / 2) ** 2, 1000.0
    found = bays(hull_of(wall_sided(ends=True)), [("1", 1000.0)])
    assert [(bay.before, bay.after) for bay in found] == [("the bow", "1"), ("1", "the stern")]
    assert found[0].off == pytest.approx(-2 * k * h * h / 27, rel=0.01)
    assert bays(hull_of(wall_sided()), [("1", 1000.0)]) == ()


def test_a_strip_lands_on_both_stems_alike() -> None:
    """A hull that is the same fore and aft, with a plumb stem at both ends: its bays are each other's pictures in a mirror."""
    z, rows = np.linspace(0.0, 300.0, 5), []
    for x in np.linspace(0, LENGTH, 21).tolist():
        y = np.full(5, 500.0 * (1 - (2 * x / LENGTH - 1) ** 2))
        line = np.column_stack([np.full(5, x), 0 * y, z])
        rows += station_rows(x, y, z) if 0 < x < LENGTH else end_rows("stem_bow" if x == 0 else "stem_stern", line)
    found = bays(hull_of(OffsetsTable(rows=tuple(rows))), [("1", 400.0), ("2", 1000.0), ("3", 1600.0)])
    assert [(bay.before, bay.after) for bay in found][::3] == [("the bow", "1"), ("3", "the stern")]
    off = [bay.off for bay in found]
    assert abs(off[0]) > 0.5
    assert off == pytest.approx(off[::-1], abs=0.01)


def test_it_is_said_over_the_limit_alone() -> None:
    found = bays(hull_of(wall_sided()), [("1", 200.0), ("2", 1000.0), ("3", 1800.0)])
    off = abs(found[0].off)
    assert bay_findings(Bays(found, off + 0.1)) == []
    (said,) = bay_findings(Bays(found, off - 0.1))
    assert said.code == "wide-bay"
    assert said.where.startswith("molds ")
    assert "inside the lines" in said.text


def test_one_mold_more_brings_the_strips_back() -> None:
    results = Pipeline().results(demo_job("sedge"), [BAYS, MOLDS])
    (said,) = bay_findings(results[BAYS])
    assert said.where == "molds 1 and 2"
    mend = mend_of(said, results)
    assert mend is not None
    assert mend.text == "One mold more at 850.0 mm"
    assert mend.job.molds.stations == (600, 850, *range(1100, 7000, 500))
    after = Pipeline().results(mend.job, [BAYS, MOLDS])
    there = [bay for bay in after[BAYS].bays if bay.start >= 600 and bay.stop <= 1100]
    assert len(there) == 2
    assert max(abs(bay.off) for bay in there) < 0.5 * 7.9
    assert "off the lines at most, not 7.9 mm" in what_changed(results, after)


def test_the_builders_own_limit_counts() -> None:
    job = Job(
        offsets=wall_sided(), waterline=150.0, molds=MoldSettings(stations=(200, 1000, 1800)), setup=SetupSettings(mend_above=1.0)
    )
    found = Pipeline().results(job, [BAYS])[BAYS]
    assert found.limit == 1.0
    assert len(bay_findings(found)) == 1

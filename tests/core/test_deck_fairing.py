"""Offsets of the deck are looked at as the hull's are: a planted slip is found, a fair deck raises nothing."""

from __future__ import annotations

import pytest

from hollow_keel.core.fairing.fair_lines import fair_lines
from hollow_keel.core.fairing.stages import FAIRNESS
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job

JOB = demo_job("teasel")


def doubts(table: OffsetsTable) -> list[tuple[int, str]]:
    job = JOB.model_copy(update={"offsets": table})
    return [(d.row, d.which) for d in Pipeline().results(job, [FAIRNESS])[FAIRNESS].doubts]


def test_a_fair_deck_raises_nothing() -> None:
    assert doubts(JOB.offsets) == []


@pytest.mark.parametrize(
    ("station", "place", "by"), [(2000.0, 1, 12.0), (1200.0, 3, -14.0), (3000.0, 4, 15.0)]
)
def test_a_slip_in_the_deck_is_the_first_to_be_named(station: float, place: int, by: float) -> None:
    own = [k for k, r in enumerate(JOB.offsets.rows) if r.station == station and r.label.startswith("deck")]
    k = own[place]
    row = JOB.offsets.rows[k]
    table = JOB.offsets.with_row(k, row.model_copy(update={"height": row.height + by}))
    found = doubts(table)
    assert found[0] == (k, "height")


def test_a_batten_lies_along_the_decks_centreline() -> None:
    (line,) = [own for own in fair_lines(JOB.offsets) if own.name.startswith("deck, centreline")]
    assert len(line.rows) == sum(r.label == "deck_centre" for r in JOB.offsets.rows)
    assert line.which == "height"

"""Offsets of the deck are looked at as the hull's are: a planted slip is found, a fair deck raises nothing."""

from __future__ import annotations

import pytest

from hollow_keel.core.fairing.ease import eased
from hollow_keel.core.fairing.fair_lines import fair_lines
from hollow_keel.core.fairing.stages import FAIRNESS
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.offsets.table import OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.demo.jobs import demo_job

JOB = demo_job("teasel")


def doubts(table: OffsetsTable) -> list[tuple[int, str]]:
    job = JOB.model_copy(update={"offsets": table})
    return [(d.row, d.which) for d in Pipeline().results(job, [FAIRNESS])[FAIRNESS].doubts]


def test_a_fair_deck_raises_nothing() -> None:
    assert doubts(JOB.offsets) == []


@pytest.mark.parametrize(("station", "place", "by"), [(2000.0, 1, 12.0), (1200.0, 3, -14.0), (3000.0, 4, 15.0)])
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


def test_lines_of_the_deck_take_a_batten_along_and_across() -> None:
    lines = {line.key: line for line in fair_lines(JOB.offsets)}
    along = [key for key in lines if key.startswith("deck line")]
    assert len(along) == 8, "four points between sheer and centreline, each in profile and in plan"
    section = lines["deck-section:2000.0"]
    assert section.at[0] == 0.0
    assert section.values[0] == max(section.values)


def test_easing_brings_a_planted_bump_in_the_deck_down() -> None:
    """6 mm planted in the deck: easing moves that row back by two thirds of it or more, and no row of the hull by more than the
    tape shows."""
    rows = JOB.offsets.rows
    k = next(n for n, r in enumerate(rows) if r.station == 2000.0 and r.label == "deck" and r.half_breadth < 150)
    table = JOB.offsets.with_row(k, rows[k].model_copy(update={"height": rows[k].height + 6.0}))
    hull = Pipeline().results(JOB, [HULL])[HULL]
    moves = {move.row: move for move in eased(table, hull, 10.0, 0.1).moves}
    assert moves[k].after.height == pytest.approx(rows[k].height, abs=2.0)
    assert moves[k].after.label == "deck"
    bare = OffsetsTable(rows=tuple(r for r in table.rows if not r.label.startswith("deck")))
    alone = {(m.before.station, m.before.label, m.before.height): m.by for m in eased(bare, hull, 10.0, 0.1).moves}
    of_hull = [m for m in moves.values() if not m.before.label.startswith("deck")]
    assert {(m.before.station, m.before.label, m.before.height): m.by for m in of_hull} == pytest.approx(alone)

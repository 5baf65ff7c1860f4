"""Wood for a deck: every strip of it is made besides the hull's, shorter where an opening takes its part."""

from __future__ import annotations

from typing import Any

import pytest

from hollow_keel.core.change import change
from hollow_keel.core.deck.openings import saved_by_strip
from hollow_keel.core.deck.strip_stages import DECK_OPENINGS, DECK_PLAN
from hollow_keel.core.hull.stages import DECK, MEASURES
from hollow_keel.core.job import Job, Opening
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import Results
from hollow_keel.core.settings.timber import Board
from hollow_keel.core.stock.needs import DECK_FROM, Need, length_name
from hollow_keel.core.stock.stages import PIECES, STOCK
from hollow_keel.demo.jobs import demo_job


@pytest.fixture(scope="module")
def job() -> Job:
    board = Board(mark="A", wood="western redcedar", thickness=25, width=150, length=3600, count=30)
    return change(demo_job("teasel"), "stock", boards=(board,))


@pytest.fixture(scope="module")
def results(job: Job) -> Results:
    return Pipeline().results(job, [STOCK, PIECES, PLANKING, DECK_PLAN, DECK_OPENINGS, DECK, MEASURES])


def of_deck(results: Results) -> list[Need]:
    return [need for need in results[PIECES].needs if need.strip > DECK_FROM]


def test_every_strip_of_the_deck_is_made_on_both_sides(results: Results) -> None:
    numbers = {s.number for s in results[DECK_PLAN].planking.strips}
    made = {(need.strip - DECK_FROM, need.side) for need in of_deck(results)}
    assert made == {(number, side) for number in numbers for side in ("port", "starboard")}
    assert {length_name(need.key)[0] for need in of_deck(results)} == {"D"}
    hull = [need for need in results[PIECES].needs if need.strip <= DECK_FROM]
    assert {need.strip for need in hull} == {s.number for s in results[PLANKING].strips}


def test_openings_shorten_what_is_made(results: Results, job: Job) -> None:
    """Each strip's parts together are its length and two allowances, less what the openings save, but for the allowance that every
    cut end has again."""
    saved = saved_by_strip(results[DECK_OPENINGS].openings)
    allowance = job.strips.allowance
    strips = {s.number: s for s in results[DECK_PLAN].planking.strips}
    for key, out in saved.items():
        number = key[0]
        parts = [n for n in of_deck(results) if (n.strip - DECK_FROM, n.side) == key]
        cuts = [c for o in results[DECK_OPENINGS].openings for c in o.cut_short if (c.strip, c.side) == key]
        wanted = strips[number].length + 2 * allowance - out + 2 * allowance * len(cuts)
        assert sum(n.length for n in parts) == pytest.approx(wanted, rel=0.01, abs=2 * 20.0 + 2 * allowance)
        assert len(parts) <= len(cuts) + 1
    assert sum(saved.values()) > 10_000


def test_without_openings_every_strip_is_whole(job: Job) -> None:
    results = Pipeline().results(change(job, "deck", openings=()), [PIECES, DECK_PLAN])
    lengths = {n.strip - DECK_FROM: n.length for n in of_deck(results) if n.side == "port"}
    for strip in results[DECK_PLAN].planking.strips:
        assert lengths[strip.number] == pytest.approx(strip.length + 2 * job.strips.allowance)


def test_cloth_and_resin_cover_the_deck_too(results: Results, job: Job) -> None:
    def cloth(own: Any) -> float:
        return next(item.amount for item in own[STOCK].items if "loth" in item.what and item.unit == "m²")

    bare = change(job, "deck", openings=())
    without = bare.model_copy(
        update={
            "offsets": bare.offsets.model_copy(
                update={"rows": tuple(r for r in bare.offsets.rows if not r.label.startswith("deck"))}
            )
        }
    )
    hull_alone = Pipeline().results(without, [STOCK])
    share = cloth(results) / cloth(hull_alone)
    area = results[MEASURES].planked_area
    assert share == pytest.approx((area + results[DECK].area) / area, rel=0.02)


def test_an_opening_more_saves_wood(job: Job) -> None:
    more = (*job.deck.openings, Opening(name="hatch 2", at=1000.0, length=300.0, width=160.0))
    first, second = (
        sum(n.length for n in of_deck(Pipeline().results(own, [PIECES]))) for own in (job, change(job, "deck", openings=more))
    )
    assert second < first

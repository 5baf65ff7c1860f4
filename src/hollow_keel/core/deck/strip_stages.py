"""The deck's strips, where they come on the molds, how their ends are cut, the openings, the join to the hull."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from ..hull.stages import DECK, HULL
from ..molds.cut_stages import PIECES
from ..molds.stages import MOLDS
from ..settings.deck import decked
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..findings import Finding
    from ..planking.end_cuts import EndCut
    from ..planking.mechanics import Behaviour
    from .join import Join
    from .openings import Openings
    from .strips import DeckPlan
    from .ticks import DeckTick
    from .way_out import MoldOut

LAYING = (
    "deck.width",
    "deck.guide",
    "deck.layout",
    "deck.least_width",
    "deck.king_width",
    "deck.king_at_ends",
    "deck.zones",
    "deck.sheer_strips",
)
"""What the lines of the deck's strips depend on."""
STRIP = (
    "deck.width",
    "deck.thickness",
    "deck.wood",
    "deck.layout",
    "deck.guide",
    "deck.least_width",
    "deck.zones",
    "deck.sheer_strips",
)
"""The deck's strips as they are milled."""


def _plan(given: Given) -> DeckPlan:
    from .strips import plan_deck

    return plan_deck(given[DECK], given.job.deck, given.tick)


def _behaviours(given: Given) -> Mapping[int, Behaviour]:
    from ..planking.mechanics import behaviours

    stations = [m.station for m in given[MOLDS].molds]
    return behaviours(given.job.deck.strips, given[DECK_PLAN].planking, stations)


def _ticks(given: Given) -> Mapping[str, tuple[DeckTick, ...]]:
    from .ticks import deck_ticks

    return deck_ticks(given[DECK_PLAN], given[MOLDS].molds, given.job.deck.strips)


def _openings(given: Given) -> Openings:
    from .openings import plan_openings

    return plan_openings(given[DECK], given[DECK_PLAN], given.job.deck)


def _join(given: Given) -> Join:
    from .join import join_of

    return join_of(given[HULL], given[DECK], [m.station for m in given[MOLDS].molds], given.job.deck)


def _ends(given: Given) -> Mapping[int, tuple[EndCut | None, EndCut | None]]:
    from ..planking.end_cuts import end_cuts

    plan = given[DECK_PLAN]
    return {strip.number: end_cuts(plan.surface, strip) for strip in plan.planking.strips}


def _ways_out(given: Given) -> tuple[MoldOut, ...]:
    from .way_out import ways_out

    return ways_out(given[MOLDS].molds, given[PIECES], given[DECK_OPENINGS].openings)


def _way_out_findings(found: tuple[MoldOut, ...] | None) -> list[Finding]:
    from .way_out import way_out_findings

    return way_out_findings(found or ())


DECK_PLAN = Stage(
    "deck-plan",
    "deck",
    "the strips of the deck",
    LAYING,
    (DECK,),
    _plan,
    lambda plan: plan.planking.findings,
    Turn.STRIPS,
    when=decked,
)
DECK_BEHAVIOURS = Stage(
    "deck-behaviours", "deck", "how the deck's strips behave", STRIP, (DECK_PLAN, MOLDS), _behaviours, turn=Turn.STRIPS, when=decked
)
DECK_TICKS = Stage(
    "deck-ticks",
    "deck",
    "where the deck's strips come on the molds",
    STRIP,
    (DECK_PLAN, MOLDS),
    _ticks,
    turn=Turn.CHECKS,
    when=decked,
)
DECK_OPENINGS = Stage(
    "deck-openings",
    "deck",
    "the openings",
    ("deck.openings", "deck.past_opening", "deck.width", "deck.least_width", "deck.guide", "deck.layout"),
    (DECK, DECK_PLAN),
    _openings,
    lambda found: found.findings,
    Turn.STRIPS,
    when=decked,
)
DECK_JOIN = Stage(
    "deck-join",
    "deck",
    "the join of deck and hull",
    ("deck.join", "deck.tape_width", "deck.thickness"),
    (HULL, DECK, MOLDS),
    _join,
    turn=Turn.CHECKS,
    when=decked,
)
DECK_STRIP_ENDS = Stage(
    "deck-strip-ends", "deck", "how the ends of the deck's strips are cut", (), (DECK_PLAN,), _ends, turn=Turn.CHECKS, when=decked
)
WAYS_OUT = Stage(
    "ways-out",
    "deck",
    "how molds come out",
    (),
    (MOLDS, PIECES, DECK_OPENINGS),
    _ways_out,
    _way_out_findings,
    Turn.CHECKS,
    when=decked,
)

STAGES = (DECK_PLAN, DECK_BEHAVIOURS, DECK_OPENINGS, DECK_TICKS, DECK_STRIP_ENDS, DECK_JOIN, WAYS_OUT)

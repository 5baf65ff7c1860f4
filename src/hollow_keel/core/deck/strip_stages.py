"""The deck's strips, where they come on the molds, how their ends are cut, the openings, the join to the hull."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from ..hull.stages import DECK
from ..molds.stages import MOLDS
from ..settings.deck import decked
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..planking.mechanics import Behaviour
    from .strips import DeckPlan
    from .ticks import DeckTick

LAYING = (
    "deck.width",
    "deck.guide",
    "deck.layout",
    "deck.least_width",
    "deck.king_width",
    "deck.king_at_ends",
)
"""What the lines of the deck's strips depend on."""
WOOD = ("deck.width", "deck.thickness", "deck.wood", "deck.layout", "deck.guide", "deck.least_width")
"""What the behaviour of the deck's strips depends on."""


def _plan(given: Given) -> DeckPlan:
    from .strips import plan_deck

    return plan_deck(given[DECK], given.job.deck, given.tick)


def _behaviours(given: Given) -> Mapping[int, Behaviour]:
    from ..planking.mechanics import behaviours
    from .strips import strip_settings

    stations = [m.station for m in given[MOLDS].molds]
    return behaviours(strip_settings(given.job.deck), given[DECK_PLAN].planking, stations)


def _ticks(given: Given) -> Mapping[str, tuple[DeckTick, ...]]:
    from .ticks import deck_ticks

    return deck_ticks(given[DECK_PLAN], given[MOLDS].molds)


DECK_PLAN = Stage(
    "deck-plan", "deck", "the strips of the deck", LAYING, (DECK,), _plan,
    lambda plan: plan.planking.findings if plan is not None else (), Turn.STRIPS, when=decked,
)  # fmt: skip
DECK_BEHAVIOURS = Stage(
    "deck-behaviours", "deck", "how the deck's strips behave", WOOD, (DECK_PLAN, MOLDS), _behaviours, turn=Turn.STRIPS,
    when=decked,
)  # fmt: skip
DECK_TICKS = Stage(
    "deck-ticks", "deck", "where the deck's strips come on the molds", (), (DECK_PLAN, MOLDS), _ticks, turn=Turn.CHECKS, when=decked
)  # fmt: skip

STAGES = (DECK_PLAN, DECK_BEHAVIOURS, DECK_TICKS)

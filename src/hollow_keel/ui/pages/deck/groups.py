"""What is decided about the deck, in groups."""

from __future__ import annotations

from ....core.settings.deck import decked
from ...decide.groups import Doing, Group
from ...window.state import State


def _openings(state: State) -> str:
    names = [opening.name for opening in state.job.deck.openings]
    return ", ".join(names) if names else "none"


def _bands(state: State) -> str:
    runs = [f"{z.first}" if z.first == z.last else f"{z.first}–{z.last}" for z in state.job.deck.zones]
    return ", ".join(runs) if runs else "pick strips"


DECK_GROUPS = (
    Group(
        "Its shape",
        (
            "deck.source",
            "deck.crown",
            "deck.crown_on",
            "deck.rule",
            "deck.ridge",
            "deck.ridge_height",
            "deck.peak_bow",
            "deck.peak_stern",
        ),
    ),
    Group(
        "The strips",
        (
            "deck.guide",
            "deck.layout",
            "deck.width",
            "deck.thickness",
            "deck.wood",
            "deck.least_width",
            "deck.sheer_strips",
            Doing("Some differ", _bands, "deck-strips-differ", decked),
            "deck.king_width",
            "deck.king_at_ends",
        ),
    ),
    Group("Openings", (Doing("Openings", _openings, "openings", decked), "deck.past_opening")),
    Group("The join", ("deck.join", "deck.tape_width")),
    Group("Molds under it", ("deck.skin", "deck.molds", "deck.break_into", "deck.break_leave")),
)

"""The deck and its openings."""

from __future__ import annotations

from ..pages.deck.dialogs import DeckDialogs
from ..window.command import Command

MENU = "Deck"

COMMANDS = (
    Command("deck-camber", MENU, "Give the hull a deck by a camber…", lambda s: DeckDialogs(s).camber()),
    Command("no-deck", MENU, "No deck", lambda s: DeckDialogs(s).no_deck()),
    Command("openings", MENU, "Openings…", lambda s: DeckDialogs(s).openings()),
    Command("add-opening", MENU, "Add an opening…", lambda s: DeckDialogs(s).add()),
    Command("draw-opening", MENU, "Draw an opening on the deck", lambda s: DeckDialogs(s).draw()),
    Command("opening-curve", MENU, "An opening by its own curve…", lambda s: DeckDialogs(s).curve()),
    Command("opening-dxf", MENU, "An opening from a drawing (DXF)…", lambda s: DeckDialogs(s).from_dxf()),
    Command("deck-strips-differ", MENU, "Deck strips that differ from the others", lambda s: DeckDialogs(s).differ()),
    Command("bench-deck", MENU, "Bench: where the deck's strips come on this mold…", lambda s: DeckDialogs(s).ticks()),
)

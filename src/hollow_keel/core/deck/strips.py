"""Strips over a deck: laid by the very same planner as the hull's. The deck's lower edge is the sheer, its upper one the centreline
or the edge of a king plank.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import Finding, mm
from ..geometry.arrays import Array
from ..hull.build import Hull
from ..hull.deck import Deck
from ..job import DeckSettings
from ..planking.plank import laying_of, plank
from ..planking.strips import Planking
from ..settings.deck_choices import DeckGuide
from ..stage import Tick
from .king import beside_king

NAMES = {DeckGuide.SHEER: "sheer", DeckGuide.CENTRE: "centreline", DeckGuide.BOTH: "both-deck"}
MOST_STRIPS, EDGE_PLACES = 1500, 121


@dataclass(frozen=True)
class DeckPlan:
    """The strips of one half of the deck, and the surface that they cover."""

    surface: Hull
    planking: Planking


def plan_deck(deck: Deck, settings: DeckSettings, tick: Tick) -> DeckPlan:
    """Strips over half the deck. Raises ImpossiblePlan, in the deck's own words."""
    surface = beside_king(deck.surface, settings.king_width, settings.king_at_ends)
    _check_width(surface, settings.width)
    _check_king(deck.surface, settings)
    try:
        planking = plank(surface, laying_of(settings.laid), tick=tick)
    except ImpossiblePlan as error:
        raise ImpossiblePlan(_in_deck_words(str(error))) from error
    findings = tuple(_of_deck(f) for f in planking.findings)
    return DeckPlan(surface, replace(planking, guide=NAMES[settings.guide], findings=findings))


def _check_width(surface: Hull, width: float) -> None:
    girth = max(g for _, g in surface.girths)
    if width > girth:
        raise ImpossiblePlan(
            f"One deck strip ({mm(width)}) is wider than half the deck ({mm(round(girth))}): choose a narrower strip."
        )
    if girth / width > MOST_STRIPS:
        raise ImpossiblePlan(f"Deck strips {mm(width)} wide would need {girth / width:.0f} a side: choose a wider strip.")


def _check_king(deck: Hull, settings: DeckSettings) -> None:
    """Raises ImpossiblePlan for a king plank that leaves no deck beside it."""
    half = float(deck.panels[0].surface.points(np.linspace(0, 1, EDGE_PLACES), np.zeros(EDGE_PLACES))[:, 1].max())
    if settings.king_width / 2 >= half:
        raise ImpossiblePlan(
            f"The king plank ({mm(settings.king_width)}) is wider than the deck ({mm(round(2 * half))} where it is widest): a "
            "narrower one."
        )


_WORDS = (
    ("cover the hull", "cover the deck"),
    ("leave the hull bare", "leave the deck bare"),
    ("Start from the sheer", "Start from the edge"),
    ("The keel turns away", "The edge turns away"),
    ("of the skin", "of the deck"),
    (" from the keel", " from the other edge"),
)
"""What the planner says of a hull, said of a deck."""


def _in_deck_words(text: str) -> str:
    for hull, deck in _WORDS:
        text = text.replace(hull, deck)
    return text


def _of_deck(finding: Finding) -> Finding:
    return replace(finding, stage="deck", text=_in_deck_words(finding.text))


def half_girth(deck: Deck, x: float) -> float:
    """The girth of half the deck at a position, from the sheer to the centreline, mm; 0 where it does not come there."""
    from ..molds.shape import section_outside

    line: Array = section_outside(deck.surface, x)
    return float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum()) if len(line) > 1 else 0.0

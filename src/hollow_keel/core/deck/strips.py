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
from ..job import DeckSettings, StripSettings
from ..planking.plank import Laying, plank
from ..planking.strips import Planking
from ..settings.deck_choices import DeckGuide
from ..settings.strip_choices import Guide, StripLayout
from ..stage import Tick
from .king import beside_king

GUIDES = {DeckGuide.SHEER: Guide.KEEL, DeckGuide.CENTRE: Guide.SHEER, DeckGuide.BOTH: Guide.BOTH}
"""The edge of the surface that the first strips follow: of a hull the lower edge is its keel, of a deck its sheer."""
NAMES = {DeckGuide.SHEER: "sheer", DeckGuide.CENTRE: "centreline", DeckGuide.BOTH: "both-deck"}
MOST_STRIPS = 1500


@dataclass(frozen=True)
class DeckPlan:
    """The strips of one half of the deck, and the surface that they cover."""

    surface: Hull
    planking: Planking


def strip_settings(deck: DeckSettings) -> StripSettings:
    """The deck's strips as any strips are decided: square edges, their own width, thickness and wood."""
    return StripSettings(
        width=deck.width, thickness=deck.thickness, wood=deck.wood, guide=GUIDES[deck.guide], layout=StripLayout(deck.layout.value),
        least_width=deck.least_width,
    )  # fmt: skip


def plan_deck(deck: Deck, settings: DeckSettings, tick: Tick) -> DeckPlan:
    """Strips over half the deck. Raises ImpossiblePlan, in the deck's own words."""
    surface = beside_king(deck.surface, settings.king_width, settings.king_at_ends)
    _check_width(surface, settings.width)
    laying = Laying(
        settings.width, GUIDES[settings.guide], StripLayout(settings.layout.value), least=settings.least_width
    )
    try:
        planking = plank(surface, laying, tick=tick)
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
        raise ImpossiblePlan(
            f"Deck strips {mm(width)} wide would need {girth / width:.0f} a side: choose a wider strip."
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

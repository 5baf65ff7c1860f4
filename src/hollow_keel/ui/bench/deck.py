"""The deck at the bench: where its strips come on a closed mold."""

from __future__ import annotations

from functools import partial

from ...core.deck.ticks import DeckTick
from ...core.molds.stations import Mold
from ...core.results import Shape
from ...core.units import LengthStyle, format_length
from ...drawing.bench import deck_tick_picture
from .mode import Step
from .planking import wide_and_bevel


def deck_tick_steps(shape: Shape, mold: Mold, rows: tuple[DeckTick, ...], style: LengthStyle) -> list[Step]:
    """Every strip's inner edge on one mold, inward from the part line."""
    found = []
    for row in rows:
        below = f"inward from the part line, along the mold · {wide_and_bevel(row, style)}"
        picture = partial(deck_tick_picture, shape, mold, row)
        heading = f"Mold {mold.name}, deck strip {row.number}"
        found.append(Step(heading, format_length(row.inner, style), below, picture=picture))
    return found

"""Sentences with lengths in them, in the builder's units."""

from __future__ import annotations

from ...core.findings import in_words
from ...core.hull.unsettled import SHOWN_MM
from ...core.units import LengthStyle, spoken_length
from ..window.state import State


def sentence(text: str, style: LengthStyle) -> str:
    """A text with its marked lengths (core.findings.mm) written in a style, each with its unit."""
    return in_words(text, lambda length: spoken_length(length, style))


def may_be_out(by: float, state: State, words: str = "may be out by") -> tuple[tuple[str, str], ...]:
    """The row of a card that tells how far the table leaves a thing open, where a builder would see it; else none."""
    return ((words, f"±{state.write_fine(by)}"),) if by > SHOWN_MM else ()

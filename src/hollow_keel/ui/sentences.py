"""Sentences with lengths in them, in the builder's units."""

from __future__ import annotations

from ..core.findings import in_words
from ..core.units import LengthStyle, spoken_length


def sentence(text: str, style: LengthStyle) -> str:
    """A text with its marked lengths (core.findings.mm) written in a style, each with its unit."""
    return in_words(text, lambda length: spoken_length(length, style))

"""What can be chosen about trimming the hull to its sheer."""

from __future__ import annotations

from enum import StrEnum


class Carried(StrEnum):
    """How the sheer is carried from the inside of the skin to its outside."""

    SQUARE = "square"
    DECK = "deck"


class Sawn(StrEnum):
    """How a curved piece is made."""

    SAWN = "sawn"
    LAMINATED = "laminated"


class SeenFrom(StrEnum):
    """From where a curve is given."""

    SIDE = "side"
    ABOVE = "above"

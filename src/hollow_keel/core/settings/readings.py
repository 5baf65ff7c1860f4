"""What was read on the hull about its edge: arcs at both sides, and heights of a curve drawn by eye."""

from __future__ import annotations

from enum import StrEnum

from .record import Finite, Part


class Side(StrEnum):
    """A side of the boat."""

    PORT = "port"
    STARBOARD = "starboard"


class ArcReading(Part):
    """How far a head's mark on one side is from the places that arcs are swung from, mm, in their order; None: not read."""

    head: str
    side: Side
    radii: tuple[Finite | None, Finite | None, Finite | None] = (None, None, None)


class EyeReading(Part):
    """How high above the set-up line a curve drawn by eye is at a head on one side, mm."""

    head: str
    side: Side
    height: Finite

"""What was read on the hull about its edge: arcs at both sides, and heights of a curve drawn by eye."""

from __future__ import annotations

from enum import StrEnum

from .axis import AsRead, MoldName, Position
from .record import Part


class Side(StrEnum):
    """A side of the boat."""

    PORT = "port"
    STARBOARD = "starboard"


class HeadReading(Part):
    """Something read at a head on one side. It belongs to the place `at` which the head stood, mm along the hull, whatever heads
    are called later (None: not known, as in files of earlier versions; then it goes by the name)."""

    head: MoldName
    side: Side
    at: Position | None = None


class ArcReading(HeadReading):
    """How far a head's mark on one side is from the places that arcs are swung from, mm, in their order; None: not read."""

    radii: tuple[AsRead | None, AsRead | None, AsRead | None] = (None, None, None)


class EyeReading(HeadReading):
    """How high above the set-up line a curve drawn by eye is at a head on one side, mm."""

    height: AsRead

"""What was read on the hull about its edge: arcs at both sides, and heights of a curve drawn by eye."""

from __future__ import annotations

from enum import StrEnum

from .axis import AsRead, MoldName, Position
from .record import Part

THERE_MM = 1.0
"""A mold or a head so near is the one that was read: no mark is struck closer."""


def is_of(name: str, at: float | None, other: str, station: float | None) -> bool:
    """Whether what belongs to a name at a place `at`, mm along the hull, belongs to the one that stands at `station` now: by the
    place where both are known, for molds and frames that are spaced anew keep their names and stand elsewhere."""
    return name == other if at is None or station is None else abs(at - station) <= THERE_MM


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

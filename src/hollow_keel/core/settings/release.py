"""What is decided about taking the molds out and lifting the hull."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .axis import Positions, SizeOr0
from .record import COMMON, Kind, Part, Positive, setting

if TYPE_CHECKING:
    from ..job import Job


def released(job: Job) -> bool:
    """Whether spalls and the order in which molds come out are worked out."""
    return job.trim.wanted and job.release.wanted


class ReleaseSettings(Part):
    """Cross spalls, and hands to lift with. Lengths mm."""

    wanted: bool = setting(
        False, "Before the molds come out", "whether spalls, and when each mold may go, are worked out", Kind.FLAG
    )
    spalls: Positions = setting(
        (), "Cross spalls at", "positions along the hull", Kind.LENGTHS, none="every second mold", when=released
    )
    past: SizeOr0 = setting(50.0, "Spalls longer by", "past the outside of the skin at either end", source=COMMON, when=released)
    kilograms: Positive = setting(
        25.0, "A pair of hands lifts", "when the hull is turned and carried", Kind.NUMBER, unit="kg", source=COMMON, when=released
    )

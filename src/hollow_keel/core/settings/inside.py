"""What is decided about what goes inside the hull: a sole, bulkheads, stringers, and sheets joined with glass."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import Height, Position, Positions, Size, SizeOr0
from .record import COMMON, Kind, Part, Share, setting
from .sheer import trimmed
from .woods import WOODS

if TYPE_CHECKING:
    from ..job import Job


def soled(job: Job) -> bool:
    """Whether a job has a sole."""
    return job.trim.wanted and job.inside.sole


def bulkheaded(job: Job) -> bool:
    """Whether a job has bulkheads."""
    return job.trim.wanted and bool(job.inside.bulkheads)


def stringered(job: Job) -> bool:
    """Whether a job has stringers inside its skin."""
    return bool(job.inside.stringers)


def sheeted(job: Job) -> bool:
    """Whether a job has anything cut from sheets inside."""
    return soled(job) or bulkheaded(job)


def insided(job: Job) -> bool:
    """Whether a job has anything inside its hull that is worked out."""
    return sheeted(job) or (job.trim.wanted and stringered(job))


class InsideSettings(Part):
    """A sole, bulkheads, stringers and glassed joints of sheets. Lengths mm."""

    sole: bool = setting(False, "Sole", "whether a sole or a floor is worked out", Kind.FLAG, when=trimmed)
    height: Height | None = setting(
        None,
        "Sole at height",
        "of its upper face, by the heights of the offsets",
        none="a quarter up from keel to sheer amidships",
        when=soled,
    )
    begins: Position | None = setting(
        None, "Sole begins at", "position along the hull", none="a quarter of the length", when=soled, twin="ends"
    )
    ends: Position | None = setting(
        None, "Sole ends at", "position along the hull", none="three quarters of the length", when=soled, twin="begins"
    )
    gap: SizeOr0 = setting(
        3.0, "Gap to the skin", "round a sole and bulkheads, for a fillet", Kind.FINE, source=COMMON, when=sheeted
    )
    bulkheads: Positions = setting((), "Bulkheads at", "positions along the hull", Kind.LENGTHS, none="none", when=trimmed)
    stringers: tuple[Share, ...] = setting(
        (), "Stringers at", "shares of the girth amidships, from the keel", Kind.SHARES, none="none", older="molds.stringers"
    )
    stringer_width: Size = setting(
        30.0, "Stringers wide", "along the skin", source=COMMON, when=stringered, older="molds.stringer-width"
    )
    stringer_thickness: Size = setting(
        18.0, "Stringers thick", "square to the skin", source=COMMON, when=stringered, older="molds.stringer-depth"
    )
    stringer_wood: str = setting(
        "Douglas-fir", "Stringers of", "their wood", Kind.CHOICE, choices={name: name for name in WOODS}, when=stringered
    )
    sheet: Size = setting(9.0, "Sheets thick", "of soles and bulkheads", source=COMMON, when=sheeted)
    cloth: Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)] = setting(
        300.0,
        "Cloth in joints",
        "let in on both faces where two sheets are joined",
        Kind.NUMBER,
        unit="g/m²",
        source=COMMON,
        when=sheeted,
    )
    plies: Annotated[int, Field(ge=1, le=20)] = setting(
        2, "Plies on a face", "of that cloth", Kind.WHOLE, source=COMMON, when=sheeted
    )
    tape: Size = setting(75.0, "Widest ply", "across the joint; every further one is narrower", source=COMMON, when=sheeted)
    step: SizeOr0 = setting(12.0, "Each further ply narrower by", "on either side", source=COMMON, when=sheeted)

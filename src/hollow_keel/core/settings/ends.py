"""What is decided about what goes on outside the planking: outer stems, the keel strip, and a transom of several planks."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import Size, SizeOr0
from .record import COMMON, Kind, Part, setting
from .sheer import trimmed

if TYPE_CHECKING:
    from ..job import Job


def outer_stemmed(job: Job) -> bool:
    """Whether the outer stems of a job are worked out."""
    return job.trim.wanted and job.outer.stems


def stripped_keel(job: Job) -> bool:
    """Whether the keel strip of a job is worked out."""
    return job.trim.wanted and job.outer.keel


def plank_transom(job: Job) -> bool:
    """Whether the planks of a job's transom are worked out."""
    return job.trim.wanted and job.outer.planks


def kneed(job: Job) -> bool:
    """Whether the knees of a job are worked out."""
    return job.trim.wanted and job.outer.knees


def _either(job: Job) -> bool:
    return outer_stemmed(job) or stripped_keel(job) or kneed(job)


class OuterSettings(Part):
    """Outer stems, the keel strip and the transom's planks. Lengths mm."""

    stems: bool = setting(
        False, "Outer stems", "whether outer stems are worked out, let in where the planking ends", Kind.FLAG, when=trimmed
    )
    let_in: SizeOr0 = setting(
        6.0,
        "Let in by",
        "the planking's ends are planed back so far from the rabbet, square to the stem",
        source=COMMON,
        when=outer_stemmed,
    )
    molded: Size = setting(40.0, "Outer stem deep", "in profile", source=COMMON, when=outer_stemmed)
    face_head: Size = setting(20.0, "Its face wide at the head", "its forward face", source=COMMON, when=outer_stemmed)
    face_foot: Size = setting(14.0, "Its face wide at the foot", "its forward face", source=COMMON, when=outer_stemmed)
    ratio: Annotated[float, Field(ge=20, le=1000, allow_inf_nan=False)] = setting(
        100.0,
        "Laminations bend to",
        "the radius that a lamination bends to, in times its thickness",
        Kind.NUMBER,
        unit="times their thickness",
        source=COMMON,
        when=_either,
    )
    spare: SizeOr0 = setting(
        100.0, "Spare length at each end", "added to every lamination at both ends", source=COMMON, when=outer_stemmed
    )
    keel: bool = setting(False, "Keel strip", "whether a strip along the keel is worked out", Kind.FLAG, when=trimmed)
    keel_width: Size = setting(25.0, "Keel strip wide", "across the keel", source=COMMON, when=stripped_keel)
    keel_thickness: Size = setting(10.0, "Keel strip thick", "below the keel", source=COMMON, when=stripped_keel)
    screws: Size = setting(
        150.0, "Screws every", "along outer stems and the keel strip, each under a plug", source=COMMON, when=_either
    )
    planks: bool = setting(
        False, "Transom of planks", "whether the transom is divided into several planks", Kind.FLAG, when=trimmed
    )
    plank: Size | None = setting(
        None, "Its planks wide at most", "as they are jointed", none="the widest board on hand", when=plank_transom
    )
    clear: SizeOr0 = setting(
        20.0,
        "Joints clear of the corners by",
        "no joint comes nearer to where the transom's edge turns",
        source=COMMON,
        when=plank_transom,
    )
    head_waste: SizeOr0 = setting(
        0.0,
        "Left over at the head",
        "the top plank stands so far above the crown, to be cut to it in place",
        none="0: cut to it",
        when=plank_transom,
    )
    knees: bool = setting(False, "Knees", "whether knees at both ends of the keel are worked out", Kind.FLAG, when=trimmed)
    knee_radius: Size = setting(150.0, "Knees bent to", "radius of their hollow side", source=COMMON, when=kneed)
    knee_molded: Size = setting(35.0, "Knees deep", "in profile, where they bend", source=COMMON, when=kneed)
    knee_leg: Size = setting(250.0, "Their legs long", "straight on from the bend", source=COMMON, when=kneed)
    spline: SizeOr0 = setting(6.0, "Splines thick", "in the joints of the transom; 0: none", source=COMMON, when=plank_transom)

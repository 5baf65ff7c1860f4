"""What is decided about the line that the hull is trimmed to."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .axis import Across, AlongOr0, Height, Position, Size, SizeOr0, UpOr0
from .deck_choices import CamberRule
from .readings import ArcReading, EyeReading
from .record import COMMON, Kind, Part, setting
from .sheer_choices import Carried, SeenFrom
from .woods import WOODS

if TYPE_CHECKING:
    from ..job import Job


def trimmed(job: Job) -> bool:
    """Whether the sheer is to be carried to the outside."""
    return job.trim.wanted


def _sloped(job: Job) -> bool:
    return job.trim.wanted and job.trim.carried is Carried.DECK


def _cambered(job: Job) -> bool:
    return _sloped(job) and job.trim.crown > 0


def railed(job: Job) -> bool:
    """Whether a job has rails."""
    return job.trim.wanted and job.trim.rails


def curved(job: Job) -> bool:
    """Whether a job has a trimming curve."""
    return job.trim.wanted and bool(job.trim.curve_at or job.trim.curve_to)


class TrimSettings(Part):
    """The sheer on the outside, and the heads of molds and frames. Lengths mm."""

    wanted: bool = setting(False, "Carry the sheer out", "whether the sheer is worked out on the outside of the skin", Kind.FLAG)
    carried: Carried = setting(
        Carried.SQUARE,
        "Carried out",
        "how the mark goes through the skin",
        Kind.CHOICE,
        when=trimmed,
        choices={Carried.SQUARE: "square to the skin", Carried.DECK: "at the deck's slope"},
    )
    crown: UpOr0 = setting(
        50.0, "Crown of the beams", "how much higher beams are at the centreline than at the sheer", none="0: flat", when=_sloped
    )
    crown_on: Across | None = setting(
        None, "On a beam of", "the beam that the crown is given for", none="the widest", when=_cambered
    )
    rule: CamberRule = setting(
        CamberRule.ONE_PATTERN,
        "Narrower beams",
        "take the middle of one pattern, or a crown in proportion",
        Kind.CHOICE,
        when=_cambered,
        choices={CamberRule.ONE_PATTERN: "take the middle of one pattern", CamberRule.PROPORTION: "have a crown in proportion"},
    )
    frames: AlongOr0 = setting(
        0.0, "Frames every", "frames between the molds, counted from the first mold", none="0: at molds alone", when=trimmed
    )
    quarters: bool = setting(
        False, "Quarters of the end bays", "marks between the last molds and the ends of the sheer", Kind.FLAG, when=trimmed
    )
    bases: tuple[Position, ...] = setting(
        (),
        "Arcs are swung from",
        "three places on the centreline of the keel; the third checks the first two",
        Kind.LENGTHS,
        none="a tenth, nine tenths, and the head of the bow",
        when=trimmed,
    )
    arcs: tuple[ArcReading, ...] = setting(
        (), "Arcs read", "how far marks on either side are from where arcs are swung from", Kind.RECORDS, none="none", when=trimmed
    )
    eye: tuple[EyeReading, ...] = setting(
        (), "Heights by eye", "of a curve drawn by eye, above the set-up line", Kind.RECORDS, none="none", when=trimmed
    )
    eye_both: bool = setting(
        False, "Both ends alike", "whether a curve by eye is carried over to the other end", Kind.FLAG, when=trimmed
    )
    curve_at: tuple[Position, ...] = setting(
        (), "Trimming curve at", "positions of its points along the hull, in their order", Kind.LENGTHS, none="none", when=trimmed
    )
    curve_to: tuple[Height, ...] = setting(
        (), "Its points at", "their heights by the offsets, or half-breadths", Kind.LENGTHS, none="none", when=curved
    )
    curve_seen: SeenFrom = setting(
        SeenFrom.SIDE,
        "It is given",
        "as heights or as half-breadths",
        Kind.CHOICE,
        when=curved,
        choices={SeenFrom.SIDE: "from the side: heights", SeenFrom.ABOVE: "from above: half-breadths"},
    )
    rails: bool = setting(False, "Rails", "whether inwale and outwale are worked out", Kind.FLAG, when=trimmed)
    rail_width: Size = setting(35.0, "Rails deep", "along the skin", source=COMMON, when=railed)
    rail_thickness: Size = setting(18.0, "Rails thick", "square to the skin", source=COMMON, when=railed)
    rail_wood: str = setting(
        "Douglas-fir", "Rails of", "their wood", Kind.CHOICE, choices={name: name for name in WOODS}, when=railed
    )
    above: SizeOr0 = setting(1.6, "Heads cut above the line by", "and planed down to it", Kind.FINE, source=COMMON, when=trimmed)

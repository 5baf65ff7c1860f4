"""What is decided about the strongback and how the molds stand on it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .axis import AsRead, Position, Rise, Size, SizeOr0
from .record import COMMON, Kind, Part, setting
from .setup_choices import HullEnd, Strongback

if TYPE_CHECKING:
    from ..job import Job


def _beam(job: Job) -> bool:
    return job.setup.strongback is Strongback.BEAM


def _legs(job: Job) -> bool:
    return not _beam(job) and not job.setup.upright


def _rails(job: Job) -> bool:
    return job.setup.strongback is Strongback.RAILS


def _table(job: Job) -> bool:
    return job.setup.strongback is Strongback.TABLE


class SetupSettings(Part):
    """The strongback: a straight beam through a hole in every mold, a table under their legs, or two rails under their
    feet. The hull stands upside down on it, or upright on its own keel. Lengths mm.

    Distances are measured from a zero at `zero_at` along the hull (None: position 0 from the bow, or the hull's after end from the
    stern), or from one that lies `first_face` before the reference face of the nearest mold, where that one is set already.
    """

    strongback: Strongback = setting(
        Strongback.BEAM,
        "Strongback",
        "what the molds stand on",
        Kind.CHOICE,
        key="setup.strongback",
        choices={Strongback.BEAM: "a beam", Strongback.TABLE: "a table", Strongback.RAILS: "two rails"},
    )
    upright: bool = setting(
        False,
        "The hull stands",
        "which way up the hull is built",
        Kind.CHOICE,
        key="setup.upright",
        choices={False: "upside down", True: "upright"},
    )
    length: Size | None = setting(None, "The strongback is long", "its length", none="as needed")
    width: Size | None = setting(None, "The table is wide", "its width", none="as needed", when=_table)
    top: SizeOr0 = setting(600.0, "Strongback above the floor", "height of its upper face", source=COMMON)
    castors: SizeOr0 = setting(0.0, "Castors high", "what castors add to that height", none="0: it stands fixed")
    zero_end: HullEnd = setting(
        HullEnd.BOW,
        "Measure from the",
        "the end of the hull that distances are measured from",
        Kind.CHOICE,
        key="setup.zero-end",
        choices={HullEnd.BOW: "bow end", HullEnd.STERN: "stern end"},
    )
    zero_at: Position | None = setting(
        None, "Zero at", "where the strongback's zero lies along the hull", none="hull's end", key="setup.zero"
    )
    first_face: AsRead | None = setting(
        None,
        "First face is set already, from zero",
        "how far from zero the nearest mold's face stands already",
        none="no",
        key="setup.first-face",
    )
    waterline_above: Rise | None = setting(
        None,
        "Waterline above it",
        "height of the load waterline above the strongback's upper face",
        none="fitted",
        key="setup.waterline-above",
    )
    beam_width: Size = setting(90.0, "Beam wide", "width of the beam", when=_beam)
    beam_height: Size = setting(90.0, "Beam high", "height of the beam", when=_beam)
    beam_clearance: SizeOr0 = setting(0.0, "Room round the beam", "room in the molds' holes", when=_beam)
    beam_wall: SizeOr0 = setting(0.0, "Wall of the beam", "thickness of a box beam's wall", none="0: solid", when=_beam)
    wedges: SizeOr0 = setting(
        20.0,
        "Wedge pair in the middle gap",
        "thickness of the wedges that drive all spacers tight",
        none="0: none",
        when=_beam,
        source=COMMON,
    )
    leg_width: Size = setting(90.0, "Legs wide", "width of the molds' legs", when=_legs)
    leg_spread: Size = setting(500.0, "Legs, outside to outside", "spread of the molds' legs", when=_legs)
    bracket: Size = setting(90.0, "Brackets reach up", "how far brackets reach up the legs", when=_legs, source=COMMON)
    rail_spread: Size = setting(600.0, "Rails, outside to outside", "spread of the rails", when=_rails)
    foot_height: Size = setting(90.0, "Feet high", "height of the molds' feet on rails", when=_rails)
    overhang: SizeOr0 = setting(60.0, "Feet reach past the rails", "on each side", when=_rails, source=COMMON)
    timber_width: Size = setting(45.0, "Timber of sides, rails, posts, spalls: wide", "section of the strongback's timber")
    timber_height: Size = setting(95.0, "Timber of sides, rails, posts, spalls: high", "section of the strongback's timber")
    fairs_below: Size = setting(
        1.6,
        "Errors that will not show, up to",
        "an error of a mold that planking fairs over",
        source=f"{COMMON}: a sixteenth of an inch",
    )
    mend_above: Size = setting(
        3.2, "Errors to be put right, over", "an error of a mold that is to be put right", source=f"{COMMON}: an eighth of an inch"
    )

"""What is decided about strips: as milled, how they are laid, their wood."""

from __future__ import annotations

from enum import StrEnum
from itertools import pairwise
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from ..rules import cove_of
from .axis import Axis, Height, Position, Size, SizeOr0
from .record import COMMON, Kind, Part, Positive, Share, setting
from .strip_choices import Guide, MasterKind, Meeting, MeetOn, StripLayout
from .woods import WOODS

if TYPE_CHECKING:
    from ..job import Job


class StripEdge(StrEnum):
    """How neighbouring strips meet."""

    SQUARE = "square"
    BEAD_COVE = "bead-cove"


def _master(*kinds: MasterKind):  # type: ignore[no-untyped-def]
    """Whether a job's first strip follows a master line of one of some kinds."""
    return lambda job: job.strips.guide is Guide.MASTER and (not kinds or job.strips.master.kind in kinds)


def _beaded(job: Job) -> bool:
    return job.strips.edge is StripEdge.BEAD_COVE


class MasterLine(Part):
    """A master line on the hull: `height` amidships (None: three quarters of the girth up), carried along with the sheer's sweep,
    as a natural line, or as a diagonal that falls `angle` degrees from there outward; `heights` at positions; or a `share`
    of the girth from the keel."""

    kind: MasterKind = setting(
        MasterKind.HEIGHT,
        "Master line",
        "how the master line is given",
        Kind.CHOICE,
        when=_master(),
        choices={
            MasterKind.HEIGHT: "with the sheer's sweep",
            MasterKind.NATURAL: "the natural line of a strip",
            MasterKind.GIRTH: "a share of the girth",
            MasterKind.DIAGONAL: "a diagonal",
            MasterKind.HEIGHTS: "heights at stations",
        },
    )
    height: Height | None = setting(
        None,
        "Its height amidships",
        "height of the master line amidships",
        none="three quarters up the girth",
        when=_master(MasterKind.HEIGHT, MasterKind.NATURAL, MasterKind.DIAGONAL),
    )
    share: Share = setting(
        0.6, "Its share of the girth", "share of the girth from the keel", Kind.PER_CENT, when=_master(MasterKind.GIRTH)
    )
    angle: Annotated[float, Field(gt=-80, lt=80, allow_inf_nan=False), Axis.NONE] = setting(
        30.0,
        "It falls outward by",
        "angle of a diagonal from level",
        Kind.DEGREES,
        unit="degrees",
        when=_master(MasterKind.DIAGONAL),
    )
    heights: tuple[tuple[Position, Height], ...] = setting(
        (),
        "Position: height, …",
        "heights of the master line at positions along the hull",
        Kind.RECORDS,
        when=_master(MasterKind.HEIGHTS),
    )


class Zone(Part):
    """Strips `first` to `last`, by their number from the guide, that differ from the others: their `width` as milled (None:
    the same), their `thickness` (None: the same) and their `wood` (empty: the same)."""

    first: Annotated[int, Field(ge=1, le=2000)] = 1
    last: Annotated[int, Field(ge=1, le=2000)] = 1
    width: Size | None = None
    thickness: Size | None = None
    wood: str = ""


class StripSettings(Part):
    """The strip as milled and how it is laid. Lengths mm."""

    width: Size = setting(19.0, "Strips wide", "width as milled", key="strip.width")
    thickness: Size = setting(6.0, "Strips thick", "thickness as milled", key="strip.thickness")
    edge: StripEdge = setting(
        StripEdge.SQUARE,
        "Edges",
        "how neighbouring strips meet",
        Kind.CHOICE,
        key="strip.edge",
        choices={StripEdge.SQUARE: "square, bevelled", StripEdge.BEAD_COVE: "bead and cove"},
    )
    cove_depth: SizeOr0 = setting(
        3.0,
        "Cove deep",
        "depth of the cove, which a strip does not cover",
        key="strip.cove-depth",
        when=lambda job: _beaded(job) and job.strips.cutter <= 0,
    )
    cutter: SizeOr0 = setting(
        0.0,
        "Cutter radius of bead and cove",
        "radius r of the cutter: on thickness t the cove is r - sqrt(r² - t²/4) deep",
        Kind.FINE,
        none="0: the cove's depth is given",
        key="strip.cutter",
        when=_beaded,
    )
    glue_gap: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False), Axis.SIZE] = setting(
        0.0, "Gap left for glue", "left at every edge", Kind.FINE, key="strip.glue-gap"
    )
    guide: Guide = setting(
        Guide.SHEER,
        "Start from",
        "the line that the first strip follows",
        Kind.CHOICE,
        choices={Guide.SHEER: "the sheer", Guide.KEEL: "the keel", Guide.MASTER: "a master line", Guide.BOTH: "both edges"},
    )
    layout: StripLayout = setting(
        StripLayout.PARALLEL,
        "Strips",
        "one width, the girth divided, or full amidships",
        Kind.CHOICE,
        key="strip.layout",
        choices={
            StripLayout.PARALLEL: "all one width",
            StripLayout.TAPERED: "tapered, girth divided",
            StripLayout.MIXED: "full, tapered beyond",
            StripLayout.FEW: "a few tapered",
        },
    )
    master: MasterLine = MasterLine()
    least_width: Size = setting(
        8.0,
        "No narrower than",
        "the narrowest a strip that tapers may be at its ends",
        key="strip.least-width",
        when=lambda job: job.strips.layout is not StripLayout.PARALLEL,
        source=COMMON,
    )
    bottom: Annotated[int, Field(ge=0, le=1000)] = setting(
        0,
        "Strips from the keel",
        "how many come from the keel where both edges are guides",
        Kind.WHOLE,
        none="0: up to the turn of the bilge",
        key="strip.bottom",
        when=lambda job: job.strips.guide is Guide.BOTH,
    )
    meeting: Meeting = setting(
        Meeting.CUT,
        "Both sides meet on the bottom",
        "how both sides close on the bottom",
        Kind.CHOICE,
        key="strip.meeting",
        choices={Meeting.CUT: "one side run past and cut", Meeting.INTERLEAVED: "both interleaved"},
    )
    meet_on: MeetOn = setting(
        MeetOn.KEEL_LINE,
        "They meet",
        "the line that both sides meet on",
        Kind.CHOICE,
        key="strip.meet-on",
        choices={MeetOn.KEEL_LINE: "on the flat of the keel, at the keel line", MeetOn.CENTRELINE: "at the true centreline"},
    )
    mixed_from: Position | None = setting(
        None,
        "Full width from",
        "where strips begin to keep their full width",
        none="by girth",
        when=lambda job: job.strips.layout is StripLayout.MIXED,
        twin="mixed_to",
    )
    mixed_to: Position | None = setting(
        None,
        "Full width to",
        "where they cease to keep it",
        none="by girth",
        when=lambda job: job.strips.layout is StripLayout.MIXED,
        twin="mixed_from",
    )
    zones: tuple[Zone, ...] = setting(
        (), "Strips that differ", "strips by number that have another width, thickness or wood", Kind.RECORDS, none="none"
    )
    wood: str = setting(
        "western redcedar",
        "Wood",
        "the species, for stiffness, strength and weight",
        Kind.CHOICE,
        key="strip.wood",
        choices={name: name for name in WOODS},
    )
    modulus: Positive | None = setting(
        None, "Stiffness", "modulus in bending, in place of the wood's own", Kind.NUMBER, unit="GPa", none="the wood's own"
    )
    strength: Positive | None = setting(
        None, "Bending strength", "in place of the wood's own", Kind.NUMBER, unit="MPa", none="the wood's own"
    )
    minutes: Positive = setting(
        30.0, "Minutes to lay a strip", "work on one strip, for glue and its pot life", Kind.NUMBER, unit="minutes", source=COMMON
    )
    allowance: SizeOr0 = setting(30.0, "Longer at each end by", "added to the cut length at each end", source=COMMON)
    hand_push: Positive = setting(
        60.0, "Pushed sideways by hand, up to", "a strip that needs no more goes on by hand", Kind.NUMBER, unit="N", source=COMMON
    )
    clamp_push: Positive = setting(
        300.0,
        "Pulled in with clamps, up to",
        "a strip that needs no more goes on with clamps",
        Kind.NUMBER,
        unit="N",
        source=COMMON,
    )

    @property
    def cove(self) -> float:
        """How deep the cove is, mm: as given, or as the cutter makes it."""
        if self.edge is not StripEdge.BEAD_COVE:
            return 0.0
        if self.cutter <= 0:
            return self.cove_depth
        return cove_of(self.cutter, self.thickness)

    @property
    def cover(self) -> float:
        """Width of hull that one strip covers, mm."""
        return self.width - self.cove + self.glue_gap

    def at_place(self, place: int) -> StripSettings:
        """These settings as they are for strip `place` of a course (from 1 at the guide); of zones that overlap the later one
        counts. Tapered strips have no width of their own."""
        given: dict[str, object] = {}
        for zone in self.zones:
            if zone.first <= place <= zone.last:
                if zone.width is not None and self.layout is StripLayout.PARALLEL:
                    given["width"] = zone.width
                if zone.thickness is not None:
                    given["thickness"] = zone.thickness
                if zone.wood:
                    given["wood"] = zone.wood
        if given.get("wood", self.wood) != self.wood:
            given |= {"modulus": None, "strength": None}
        return self.model_copy(update=given) if given else self

    def thickness_at(self, place: int) -> float:
        """How thick strip `place` of a course is; of zones that overlap the later one counts."""
        own = [z.thickness for z in self.zones if z.first <= place <= z.last and z.thickness is not None]
        return own[-1] if own else self.thickness

    @property
    def other_covers(self) -> tuple[tuple[int, int, float], ...]:
        """First, last (numbers from 1) and cover, mm, of the runs of places whose strips cover something else than the others."""
        return tuple((first, last, cover) for first, last in self.zone_runs if (cover := self.at_place(first).cover) != self.cover)

    @property
    def zone_runs(self) -> tuple[tuple[int, int], ...]:
        """Runs of places (first, last) that the same zones apply to, one after the other; those with none are left out."""
        edges = sorted({z.first for z in self.zones} | {z.last + 1 for z in self.zones})
        return tuple((a, b - 1) for a, b in pairwise(edges) if any(z.first <= a <= z.last for z in self.zones))

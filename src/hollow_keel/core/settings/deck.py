"""What is decided about the deck: its shape, the molds under it, its strips, the openings in it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .axis import Across, Along, AlongOr0, Axis, Height, Off, Position, Size, SizeOr0, UpOr0
from .deck_choices import BreakInto, CamberRule, DeckFrom, DeckGuide, DeckLayout, DeckMolds, JoinKind, OpeningShape, Ridge
from .record import COMMON, OWN, Kind, Part, setting
from .strip_choices import Guide, StripLayout
from .strips import StripSettings, Zone
from .woods import WOODS

if TYPE_CHECKING:
    from ..job import Job

MOST_OPENINGS = 12
GUIDES = {DeckGuide.SHEER: Guide.KEEL, DeckGuide.CENTRE: Guide.SHEER, DeckGuide.BOTH: Guide.BOTH}
"""The edge of the surface that the first strips follow: of a hull the lower edge is its keel, of a deck its sheer."""


def decked(job: Job) -> bool:
    """Whether a job has a deck."""
    return job.deck.source is DeckFrom.CAMBER or job.offsets.has_deck


def _cambered(job: Job) -> bool:
    return job.deck.source is DeckFrom.CAMBER


def _closed(job: Job) -> bool:
    return decked(job) and job.deck.molds is DeckMolds.CLOSED


class Opening(Part):
    """A hole in the deck: its shape, where its middle is along the hull (`at`) and off the centreline (`off`, positive to
    starboard), how long and how wide it is; for a rectangle the radius of its corners; for an egg how much farther forward than
    half its length its widest place lies, as a share of that half; for a drawn one its closed curve of (position, off the
    centreline). `largest` is how much larger all round the largest template is than this smallest one. Lengths mm."""

    name: str = setting("cockpit", "Its name", "what the opening is called", Kind.WORD)
    shape: OpeningShape = setting(
        OpeningShape.ELLIPSE,
        "Its shape",
        "the shape of the opening",
        Kind.CHOICE,
        choices={
            OpeningShape.ELLIPSE: "an ellipse",
            OpeningShape.EGG: "an egg",
            OpeningShape.RECTANGLE: "a rounded rectangle",
            OpeningShape.DRAWN: "a drawn curve",
        },
    )
    at: Position = setting(0.0, "Its middle at", "position of the opening's middle along the hull")
    off: Off = setting(0.0, "Off the centreline", "how far its middle lies to starboard")
    length: Along = setting(800.0, "Opening long", "its length along the hull")
    width: Across = setting(400.0, "Opening wide", "its width across")
    corner: SizeOr0 = setting(60.0, "Its corners, radius", "radius of a rectangle's corners")
    forward: Annotated[float, Field(gt=-0.9, lt=0.9, allow_inf_nan=False), Axis.NONE] = setting(
        0.3, "Widest ahead of the middle", "how far ahead of its middle an egg is widest, of half its length", Kind.PER_CENT
    )
    largest: SizeOr0 = setting(20.0, "Largest template larger by", "how much larger the largest template is, all round")
    drawn: tuple[tuple[Position, Off], ...] = setting(
        (), "Its curve", "position and distance off the centreline, round it", Kind.RECORDS
    )


def next_name(openings: tuple[Opening, ...]) -> str:
    """What one more opening is called: the first a cockpit, the others hatches."""
    taken = {opening.name for opening in openings}
    names = ("cockpit", "hatch", *(f"hatch {k}" for k in range(2, MOST_OPENINGS + 2)))
    return next(name for name in names if name not in taken)


class DeckSettings(Part):
    """The deck. Lengths mm."""

    source: DeckFrom = setting(
        DeckFrom.TABLE,
        "The deck",
        "whether the table of offsets goes on past the sheer, or a camber gives the deck",
        Kind.CHOICE,
        key="deck",
        choices={DeckFrom.TABLE: "as the offsets say", DeckFrom.CAMBER: "by a camber"},
    )
    crown: UpOr0 = setting(
        40.0,
        "Crown",
        "how much higher the camber is at the centreline than at the edge",
        key="deck.crown",
        when=_cambered,
        source=OWN,
    )
    crown_on: Across | None = setting(
        None,
        "Crown on a beam of",
        "the beam that the crown is given for",
        none="the greatest beam of the deck",
        key="deck.crown-on",
        when=_cambered,
    )
    rule: CamberRule = setting(
        CamberRule.ONE_PATTERN,
        "Narrower beams",
        "take the middle of one pattern, or a crown in proportion",
        Kind.CHOICE,
        key="deck.rule",
        when=_cambered,
        choices={CamberRule.ONE_PATTERN: "take the middle of one pattern", CamberRule.PROPORTION: "have a crown in proportion"},
    )
    ridge: Ridge = setting(
        Ridge.CROWN,
        "Along the centreline",
        "as the camber comes, straight, or through a height amidships",
        Kind.CHOICE,
        key="deck.ridge",
        when=_cambered,
        choices={
            Ridge.CROWN: "as the crown comes",
            Ridge.STRAIGHT: "straight from end to end",
            Ridge.SWEPT: "swept through a height",
        },
    )
    ridge_height: Height | None = setting(
        None,
        "Its height amidships",
        "height of the deck's centreline half-way between its ends",
        none="straight",
        key="deck.ridge-height",
        when=lambda job: _cambered(job) and job.deck.ridge is Ridge.SWEPT,
    )
    peak_bow: AlongOr0 = setting(
        0.0,
        "Peaked over, at the bow",
        "over this length the camber sharpens to a ridge at the bow",
        none="0: no peak",
        key="deck.peak-bow",
        when=_cambered,
        twin="peak_stern",
    )
    peak_stern: AlongOr0 = setting(
        0.0,
        "Peaked over, at the stern",
        "over this length the camber sharpens to a ridge at the stern",
        none="0: no peak",
        key="deck.peak-stern",
        when=_cambered,
        twin="peak_bow",
    )
    skin: SizeOr0 = setting(
        6.0, "Deck taken off", "the deck's planking, deducted from the molds under it", key="deck.skin", when=decked
    )
    molds: DeckMolds = setting(
        DeckMolds.CLOSED,
        "The molds",
        "one piece with the deck's part, or apart",
        Kind.CHOICE,
        key="deck.molds",
        when=decked,
        choices={
            DeckMolds.CLOSED: "closed, hull and deck in one",
            DeckMolds.APART: "the deck's part by itself",
            DeckMolds.HULL_ONLY: "the hull's alone",
        },
    )
    break_into: BreakInto = setting(
        BreakInto.WHOLE,
        "Sawn part-way to break in",
        "cuts through the body that leave a little wood at the edge",
        Kind.CHOICE,
        key="deck.break-into",
        when=_closed,
        choices={BreakInto.WHOLE: "not sawn", BreakInto.TWO: "two", BreakInto.FOUR: "four"},
    )
    break_leave: Size = setting(
        25.0,
        "Left to be broken",
        "wood left at the edge where a cut ends",
        source=COMMON,
        key="deck.break-leave",
        when=lambda job: _closed(job) and job.deck.break_into is not BreakInto.WHOLE,
    )
    width: Size = setting(19.0, "Deck strips wide", "width as milled", key="deck.strip-width", when=decked)
    thickness: Size = setting(6.0, "Deck strips thick", "thickness as milled", key="deck.strip-thickness", when=decked)
    wood: str = setting(
        "western redcedar",
        "Deck of",
        "the wood of the deck's strips",
        Kind.CHOICE,
        key="deck.wood",
        when=decked,
        choices={name: name for name in WOODS},
    )
    guide: DeckGuide = setting(
        DeckGuide.SHEER,
        "Deck strips begin",
        "along the sheer, along the centreline, or along both",
        Kind.CHOICE,
        key="deck.guide",
        when=decked,
        choices={
            DeckGuide.SHEER: "along the sheer, inward",
            DeckGuide.CENTRE: "along the centreline, outward",
            DeckGuide.BOTH: "along both, with a closing seam",
        },
    )
    layout: DeckLayout = setting(
        DeckLayout.PARALLEL,
        "Deck strips are",
        "all one width, or tapered",
        Kind.CHOICE,
        key="deck.layout",
        when=decked,
        choices={DeckLayout.PARALLEL: "all one width", DeckLayout.TAPERED: "tapered, girth divided"},
    )
    least_width: Size = setting(
        8.0,
        "Deck strips at least",
        "a tapered strip is nowhere narrower",
        source=COMMON,
        when=lambda job: decked(job) and job.deck.layout is DeckLayout.TAPERED,
    )
    sheer_strips: Annotated[int, Field(ge=0, le=1000)] = setting(
        0,
        "Strips from the sheer",
        "how many come from the sheer where strips begin along both; the rest from the centreline",
        Kind.WHOLE,
        none="0: half of the girth",
        key="deck.sheer-strips",
        when=lambda job: decked(job) and job.deck.guide is DeckGuide.BOTH,
    )
    zones: tuple[Zone, ...] = setting(
        (),
        "Deck strips that differ",
        "strips of the deck by number that have another width, thickness or wood",
        Kind.RECORDS,
        none="none",
        when=decked,
    )
    king_width: SizeOr0 = setting(
        0.0,
        "King plank wide",
        "the plank on the centreline that strips end on",
        none="0: none, strips meet in miters",
        key="deck.king",
        when=decked,
    )
    king_at_ends: SizeOr0 | None = setting(
        None,
        "King plank wide at the ends",
        "where the king plank tapers to its ends",
        none="as wide as in the middle",
        key="deck.king-ends",
        when=lambda job: decked(job) and job.deck.king_width > 0,
    )
    join: JoinKind = setting(
        JoinKind.MITER,
        "Deck and hull meet",
        "both edges bevelled alike, or the hull's edge cut to let the deck in",
        Kind.CHOICE,
        key="deck.join",
        when=decked,
        choices={JoinKind.MITER: "in a miter", JoinKind.RECESS: "the deck let into the hull"},
    )
    tape_width: SizeOr0 = setting(
        75.0,
        "Bands of glass wide",
        "over the join, inside and out, on both sides",
        source=COMMON,
        none="0: none",
        key="deck.tape",
        when=decked,
    )
    past_opening: SizeOr0 = setting(
        10.0,
        "Past an opening",
        "strips are stopped so far inside the smallest template",
        source=COMMON,
        key="deck.past-opening",
        when=lambda job: decked(job) and bool(job.deck.openings),
    )
    openings: Annotated[tuple[Opening, ...], Field(max_length=MOST_OPENINGS)] = setting(
        (), "Openings", "cockpit and hatches", Kind.RECORDS, key="deck.openings", when=decked, none="none"
    )

    @property
    def laid(self) -> StripSettings:
        """How the deck's strips are laid, whatever they are of."""
        return StripSettings(
            width=self.width,
            guide=GUIDES[self.guide],
            layout=StripLayout(self.layout.value),
            least_width=self.least_width,
            bottom=self.sheer_strips,
            zones=self.zones,
        )

    @property
    def strips(self) -> StripSettings:
        """The deck's strips as any strips are decided: square edges, their own width, thickness and wood."""
        return self.laid.model_copy(update={"thickness": self.thickness, "wood": self.wood})

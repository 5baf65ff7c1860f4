"""The schedules of the deck: its strips with what openings take of them, where they come on a closed mold, the join, ways out."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ...core.deck.openings import Openings, saved_by_strip
from ...core.deck.strip_stages import DECK_BEHAVIOURS, DECK_OPENINGS, DECK_PLAN, DECK_STRIP_ENDS, DECK_TICKS
from ...core.deck.strips import DeckPlan
from ...core.deck.ticks import DeckTick
from ...core.job import Job
from ...core.planking.end_cuts import EndCut
from ...core.planking.mechanics import Behaviour
from ...core.planking.strips import Strip
from ...core.settings.units import UnitSettings
from ...core.units import format_length
from ..planking.schedules import bevel_fields, laid_fields, wide_here
from ..schedule import Field, Kind, Schedule


@dataclass(frozen=True)
class DeckStripRow:
    """A strip of the deck; what openings take of it on port and starboard, mm; its ends and how it goes on, where that is known."""

    strip: Strip
    own: Behaviour | None
    cuts: tuple[EndCut | None, EndCut | None]
    out: tuple[float | None, float | None]

    @property
    def number(self) -> int:
        """The strip's."""
        return self.strip.number

    def across(self, end: int) -> float | None:
        """The cut of an end (0: forward) across its face, degrees."""
        cut = self.cuts[end]
        return None if cut is None else cut.across

    def long(self, end: int) -> float | None:
        """How long that cut is, mm."""
        cut = self.cuts[end]
        return None if cut is None else cut.long(self.strip.width_max)

    @property
    def out_both(self) -> float | None:
        """What openings take of it on both sides, mm."""
        return sum(one or 0.0 for one in self.out) or None


def _strips_told(
    _job: Job,
    plan: DeckPlan,
    behaviours: Mapping[int, Behaviour] | None,
    openings: Openings | None,
    ends: Mapping[int, tuple[EndCut | None, EndCut | None]] | None,
) -> tuple[DeckStripRow, ...]:
    found, cuts = behaviours or {}, ends or {}
    saved = saved_by_strip(openings.openings) if openings is not None else {}

    def out(strip: Strip) -> tuple[float | None, float | None]:
        return saved.get((strip.number, "port")), saved.get((strip.number, "starboard"))

    return tuple(DeckStripRow(s, found.get(s.number), cuts.get(s.number, (None, None)), out(s)) for s in plan.planking.strips)


def _out(row: DeckStripRow, units: UnitSettings) -> str:
    return "–" if row.out_both is None else format_length(row.out_both, units.style)


DECK_STRIPS = Schedule(
    "deck_strips",
    "All strips of one side of the deck",
    DECK_PLAN,
    lambda told: told,
    (
        *laid_fields("Outer or guide edge"),
        Field("forward_cut", "Forward cut", lambda r: r.across(0), Kind.DEGREES, "forward cut", 1),
        Field("forward_long", "Forward cut long", lambda r: r.long(0), Kind.TAPE, "forward cut long"),
        Field("after_cut", "After cut", lambda r: r.across(1), Kind.DEGREES, "after cut", 1),
        Field("after_long", "After cut long", lambda r: r.long(1), Kind.TAPE, "after cut long"),
        Field("port_out", "Left out, port", lambda r: r.out[0], Kind.TAPE, "left out for openings, port"),
        Field("starboard_out", "Left out, starboard", lambda r: r.out[1], Kind.TAPE, "left out for openings, starboard"),
        Field("out", "Left out, both sides", lambda r: r.out_both, Kind.TAPE, said=_out, order=lambda r: r.out_both or 0.0),
        Field("wood", "Wood", lambda r: r.own.wood if r.own else None, Kind.WORD, "wood"),
        Field("goes_on", "Goes on", lambda r: r.own.grade.value if r.own else None, Kind.WORD, "goes on"),
    ),
    lambda r: f"deck-strip:{r.number}",
    source=_strips_told,
    beside=(DECK_BEHAVIOURS, DECK_OPENINGS, DECK_STRIP_ENDS),
    page=("n", "length", "both_ends", "goes_on", "width_max", "out"),
    file=(
        *("n", "length", "guide_edge", "far_edge", "starts", "ends", "width_min", "width_max"),
        *("forward_cut", "forward_long", "after_cut", "after_long", "port_out", "starboard_out", "wood", "goes_on"),
    ),
    missing="–",
)


@dataclass(frozen=True)
class DeckTickRow:
    """A strip of the deck at one mold."""

    row: DeckTick

    @property
    def number(self) -> int:
        """The strip's."""
        return self.row.number

    @property
    def width(self) -> float:
        """What it covers there, mm."""
        return self.row.width

    @property
    def bevel(self) -> float | None:
        """The turn to the next strip, degrees."""
        return None if self.row.bevel is None else math.degrees(self.row.bevel)

    @property
    def planed(self) -> float | None:
        """What that takes off, mm."""
        return self.row.planed

    @property
    def is_cut(self) -> bool:
        """Whether the sheer or the centreline cuts it there."""
        return not self.row.full


def deck_ticks_of(rows: Iterable[DeckTick]) -> tuple[DeckTickRow, ...]:
    """The deck's strips at one mold."""
    return tuple(map(DeckTickRow, rows))


DECK_AT_MOLD = Schedule(
    "deck_ticks",
    "Deck strips at this mold",
    DECK_TICKS,
    lambda told: told,
    (
        Field("n", "Strip", lambda r: r.number, Kind.NUMBER),
        Field("outer", "Outer edge, from the part line", lambda r: r.row.outer, Kind.TAPE),
        Field("inner", "Inner edge", lambda r: r.row.inner, Kind.TAPE),
        Field("width", "Wide here", lambda r: r.width, said=wide_here),
        *bevel_fields(),
    ),
    lambda r: f"deck-strip:{r.number}",
)

"""The schedules of strips: each strip with its ends and how it goes on, and where each comes on every mold."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ...core.job import Job
from ...core.planking.bottom import CentreCut, meets
from ...core.planking.crossings import Crossing
from ...core.planking.cut_lengths import cut_lengths
from ...core.planking.mechanics import Behaviour
from ...core.planking.stages import BEHAVIOURS, CENTRE_CUTS, PLANKING, STRIP_ENDS, TICKS, StripEnds
from ...core.planking.strips import Planking, Strip
from ...core.settings.strip_choices import StripLayout
from ...core.settings.units import UnitSettings
from ...core.units import format_angle, format_degrees, format_length
from ..schedule import Field, Kind, Schedule

_STEM_NAMES = {"stem_bow": "stem", "stem_stern": "sternpost"}
NO_ENDS = StripEnds((None, None), (0.0, 0.0), 0.0)


def end_name(end: str) -> str:
    """An end in the builder's words."""
    return _STEM_NAMES.get(end, end)


@dataclass(frozen=True)
class StripRow:
    """A strip, how it goes on, its ends, and how wide it is at molds, by their names."""

    job: Job
    strip: Strip
    own: Behaviour
    ends: StripEnds
    widths: Mapping[str, float]

    @property
    def number(self) -> int:
        """The strip's."""
        return self.strip.number

    @property
    def cut_to(self) -> float:
        """How long it is cut, all its parts together, mm: as the stock has it."""
        return sum(length for length, _ in cut_lengths(self.strip, self.job.strips))

    @property
    def twist(self) -> float:
        """Most twist, degrees a metre."""
        return math.degrees(self.strip.max_twist) * 1000

    def across(self, end: int) -> float | None:
        """The cut of an end (0: forward) across its face, degrees."""
        cut = self.ends.cuts[end]
        met = meets(cut, self.strip.width_max, self.job.strips.meeting) or cut
        return None if met is None else met.across

    def bevel(self, end: int) -> float | None:
        """The cut of an end off square through the thickness, degrees."""
        cut = self.ends.cuts[end]
        return None if cut is None else cut.bevel

    @property
    def second(self) -> float | None:
        """How much shorter the strip of the side that is laid second is, both ends together; None where both are alike."""
        found = [
            met.second for cut in self.ends.cuts if (met := meets(cut, self.strip.width_max, self.job.strips.meeting)) is not None
        ]
        return sum(found) if any(found) else None


@dataclass(frozen=True)
class StripsTold:
    """All strips, and the molds that their widths are told at."""

    rows: tuple[StripRow, ...]
    molds: tuple[str, ...]


def strips_told(
    job: Job,
    planking: Planking,
    behaviours: Mapping[int, Behaviour] | None,
    ends: Mapping[int, StripEnds] | None,
    ticks: Mapping[str, tuple[Crossing, ...]] | None,
) -> StripsTold | None:
    """The strips of one side; their ends and widths as far as they are known."""
    if behaviours is None:
        return None
    wide = ticks or {} if job.strips.layout is not StripLayout.PARALLEL else {}
    widths = {name: {row.number: row.width for row in rows} for name, rows in wide.items()}

    def at(strip: Strip) -> dict[str, float]:
        return {name: own[strip.number] for name, own in widths.items() if strip.number in own}

    known = ends or {}
    rows = tuple(StripRow(job, s, behaviours[s.number], known.get(s.number, NO_ENDS), at(s)) for s in planking.strips)
    return StripsTold(rows, tuple(widths))


def both_ends(strip: Strip) -> str:
    """What a strip runs from and to."""
    return f"{end_name(strip.starts)} – {end_name(strip.ends)}"


def _twist(row: StripRow, _units: UnitSettings) -> str:
    return f"{format_degrees(row.twist, 1)}/m"


def _push(row: StripRow, _units: UnitSettings) -> str:
    return f"{row.own.push:.0f} N"


def laid_fields(guide: str) -> tuple[Field, ...]:
    """What is told of every strip of a hull and of a deck: its number, edges (the first is called `guide`), ends and widths."""
    return (
        Field("n", "Strip", lambda r: r.number, Kind.NUMBER, "strip"),
        Field("length", "Length", lambda r: r.strip.length, Kind.TAPE, "length"),
        Field("guide_edge", guide, lambda r: r.strip.near_length, Kind.TAPE, guide.lower()),
        Field("far_edge", "Far edge", lambda r: r.strip.far_length, Kind.TAPE, "far edge"),
        Field("both_ends", "Ends", lambda r: both_ends(r.strip), Kind.WORD),
        Field("starts", "Forward end", lambda r: end_name(r.strip.starts), Kind.WORD, "forward end"),
        Field("ends", "After end", lambda r: end_name(r.strip.ends), Kind.WORD, "after end"),
        Field("width_min", "Narrowest", lambda r: r.strip.width_min, long="narrowest"),
        Field("width_max", "Widest", lambda r: r.strip.width_max, long="widest"),
    )


def _strip_fields(told: StripsTold) -> tuple[Field, ...]:
    def width(name: str) -> Field:
        return Field(f"at_mold_{name}", f"At mold {name}", lambda r: r.widths.get(name), long=f"width at mold {name}")

    return (
        *laid_fields("Guide edge"),
        Field("pieces", "Pieces", lambda r: r.strip.pieces, Kind.NUMBER, "pieces"),
        Field("edge_set", "Edge-set R", lambda r: r.strip.max_edge_set, Kind.RADIUS, "tightest edge-set radius"),
        Field("bend", "Bend R", lambda r: r.strip.max_bend, Kind.RADIUS, "tightest bend radius"),
        Field("twist", "Twist", lambda r: r.twist, Kind.NUMBER, "most twist", 1, "deg/m", said=_twist),
        Field("course", "Course", lambda r: r.strip.course.value, Kind.WORD, "course"),
        Field("side", "Side", lambda _: "both", Kind.WORD, "side"),
        Field("cut_to", "Cut to", lambda r: r.cut_to, Kind.TAPE, "cut to"),
        Field("wood", "Wood", lambda r: r.own.wood, Kind.WORD, "wood"),
        Field("goes_on", "Goes on", lambda r: r.own.grade.value, Kind.WORD, "goes on", order=lambda r: r.own.share),
        Field("push", "Push", lambda r: r.own.push, Kind.NUMBER, "push", 0, "N", said=_push),
        Field("forward_cut", "Forward cut", lambda r: r.across(0), Kind.DEGREES, "forward cut", 1),
        Field("forward_bevel", "Forward bevel", lambda r: r.bevel(0), Kind.DEGREES, "forward bevel", 1),
        Field("after_cut", "After cut", lambda r: r.across(1), Kind.DEGREES, "after cut", 1),
        Field("after_bevel", "After bevel", lambda r: r.bevel(1), Kind.DEGREES, "after bevel", 1),
        Field("second", "Second side shorter", lambda r: r.second, Kind.TAPE, "second side shorter"),
        *(width(name) for name in told.molds),
    )


STRIP_ROWS = Schedule(
    "strips",
    "All strips of one side",
    PLANKING,
    lambda told: told.rows,
    _strip_fields,
    lambda r: f"strip:{r.number}",
    source=strips_told,
    beside=(BEHAVIOURS, STRIP_ENDS, TICKS),
    page=("n", "length", "both_ends", "goes_on", "push", "edge_set", "twist"),
    file=(
        *("n", "length", "guide_edge", "far_edge", "pieces", "starts", "ends", "width_min", "width_max"),
        *("edge_set", "bend", "twist"),
        *("course", "side", "cut_to", "wood", "goes_on", "push"),
        *("forward_cut", "forward_bevel", "after_cut", "after_bevel", "second", "at_mold_*"),
    ),
)


@dataclass(frozen=True)
class TickRow:
    """One strip at one mold, or (`cut`) the line that both sides meet on there."""

    mold: str
    row: Crossing | None
    cut: CentreCut | None = None

    @property
    def number(self) -> int | str:
        """The strip's, or the line and the strip that it crosses."""
        return self.row.number if self.row is not None else f"{self.cut.on}, in {self.cut.strip}" if self.cut else ""

    @property
    def from_sheer(self) -> float:
        """How far down from the sheer its lower edge comes, or the line, mm."""
        own = self.row or self.cut
        assert own is not None
        return own.from_sheer

    @property
    def width(self) -> float:
        """How wide it is there; of a line how far from the strip's upper edge it crosses, mm."""
        return self.row.width if self.row is not None else self.cut.from_upper if self.cut is not None else 0.0

    @property
    def bevel(self) -> float | None:
        """The turn to the next strip, degrees."""
        return math.degrees(self.row.bevel) if self.row is not None and self.row.bevel is not None else None

    @property
    def planed(self) -> float | None:
        """What that takes off, mm."""
        return self.row.planed if self.row is not None else None

    @property
    def is_cut(self) -> bool:
        """Whether the hull's edge cuts it there."""
        return self.row is not None and not self.row.full


def ticks_of(mold: str, rows: Iterable[Crossing]) -> tuple[TickRow, ...]:
    """The strips at one mold."""
    return tuple(TickRow(mold, row) for row in rows)


def _ticks_told(
    _job: Job, ticks: Mapping[str, tuple[Crossing, ...]], cuts: tuple[CentreCut, ...] | None
) -> tuple[TickRow, ...] | None:
    if cuts is None:
        return None
    found = [row for name, rows in ticks.items() for row in ticks_of(name, rows)]
    return (*found, *(TickRow(cut.mold, None, cut) for cut in cuts))


def wide_here(row: TickRow, units: UnitSettings) -> str:
    """How wide a strip is at a mold, and whether it is cut there."""
    return format_length(row.width, units.style) + (" cut" if row.is_cut else "")


def bevel_fields() -> tuple[Field, ...]:
    """The turn to the next strip (degrees), and what it takes off, of rows where strips cross a mold."""
    return (
        Field(
            "bevel",
            "Bevel to the next",
            lambda r: r.bevel,
            Kind.DEGREES,
            "bevel to next",
            said=lambda r, _: "–" if r.bevel is None else format_angle(math.radians(r.bevel), 0.1),
        ),
        Field(
            "planed",
            "Planed off",
            lambda r: r.planed,
            long="planed off",
            said=lambda r, units: "–" if r.planed is None else format_length(r.planed, units.style.fine, unit=True),
        ),
    )


TICK_ROWS = Schedule(
    "ticks",
    "Where strips come on every mold",
    TICKS,
    lambda told: told,
    (
        Field("mold", "Mold", lambda r: r.mold, Kind.WORD, "mold"),
        Field("n", "Strip", lambda r: r.number, Kind.NUMBER, "strip"),
        Field("down", "Down to its lower edge", lambda r: r.from_sheer, Kind.TAPE, "lower edge down from sheer"),
        Field("width", "Wide here", lambda r: r.width, long="width here", said=wide_here),
        *bevel_fields(),
        Field("cut", "Cut", lambda r: "cut" if r.is_cut else "", Kind.WORD, "cut"),
    ),
    lambda r: f"strip:{r.number}",
    source=_ticks_told,
    beside=(CENTRE_CUTS,),
    page=("n", "down", "width", "bevel", "planed"),
    paper=("n", "down"),
)

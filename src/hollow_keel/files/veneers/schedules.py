"""The schedules of veneers: each veneer, its spiling, what a layer takes, the form under them and where it crosses the molds."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from ...core.amounts import far_length, in_amounts, quantity
from ...core.findings import in_words
from ...core.job import Job
from ...core.settings.units import UnitSettings
from ...core.units import format_length, spoken_length
from ...core.veneers.flatten import WORST_MM
from ...core.veneers.layer_plan import LayerPlan
from ...core.veneers.laying import LayerTakes, Laying
from ...core.veneers.ribbands import Crossing, Ribband
from ...core.veneers.stages import FORM, LAYERS, LAYING
from ...core.veneers.veneer import Veneer
from ..planking.schedules import end_name
from ..schedule import Field, Kind, Schedule


@dataclass(frozen=True)
class VeneerRow:
    """A veneer and the layer that it is of."""

    plan: LayerPlan
    veneer: Veneer


def veneers_of(plans: Iterable[LayerPlan]) -> tuple[VeneerRow, ...]:
    """The veneers of layers, from the bow aft."""
    return tuple(VeneerRow(plan, veneer) for plan in plans for veneer in plan.veneers)


def within(veneer: Veneer, units: UnitSettings) -> str:
    """How far a flat shape may be out, in words."""
    if veneer.off >= WORST_MM:
        return "take it off the form"
    return f"± {format_length(max(veneer.off, 0.1), units.style.fine, unit=True)}"


def _within(row: VeneerRow, units: UnitSettings) -> str:
    return within(row.veneer, units)


VENEERS = Schedule(
    "veneers",
    "Veneers of this layer, one side",
    LAYERS,
    veneers_of,
    (
        Field("layer", "Layer", lambda r: r.plan.number, Kind.NUMBER, "layer"),
        Field("n", "Veneer", lambda r: r.veneer.number, Kind.NUMBER, "veneer"),
        Field("first", "Laid first", lambda r: "yes" if r.veneer.number == r.plan.first else "", Kind.WORD, "laid first"),
        Field("length", "Length", lambda r: r.veneer.length, Kind.TAPE, "length"),
        Field("width", "Piece wide", lambda r: r.veneer.width, long="piece wide"),
        Field("least", "Narrowest", lambda r: r.veneer.least, long="narrowest"),
        Field("both_ends", "Ends", lambda r: f"{end_name(r.veneer.starts)} – {end_name(r.veneer.ends)}", Kind.WORD),
        Field("starts", "Starts on", lambda r: end_name(r.veneer.starts), Kind.WORD, "starts on"),
        Field("ends", "Ends on", lambda r: end_name(r.veneer.ends), Kind.WORD, "ends on"),
        Field("strain", "Strain when flat", lambda r: r.veneer.strain, Kind.SHARE, said=lambda r, _: f"{r.veneer.strain:.2%}"),
        Field("off", "Flat shape within", lambda r: r.veneer.off, long="flat shape within", said=_within),
        Field("wood", "Wood", lambda r: r.plan.layer.wood, Kind.WORD, "wood"),
        Field("thick", "Thick", lambda r: r.plan.layer.thickness, long="thick"),
    ),
    lambda r: f"veneer:{r.plan.number}:{r.veneer.number}",
    page=("n", "length", "width", "least", "both_ends", "strain", "off"),
    file=("layer", "n", "first", "length", "width", "least", "starts", "ends", "off", "wood", "thick"),
)


@dataclass(frozen=True)
class SpilingRow:
    """How wide a veneer is at a place along its straight edge, mm."""

    layer: int
    veneer: int
    along: float
    wide: float


def spiling_of(rows: Iterable[VeneerRow]) -> tuple[SpilingRow, ...]:
    """The spiling of veneers, each from its start."""
    return tuple(SpilingRow(r.plan.number, r.veneer.number, x, y) for r in rows for x, y in r.veneer.spiling.tolist())


SPILING = Schedule(
    "spiling",
    "Spiling of the chosen veneer",
    LAYERS,
    spiling_of,
    (
        Field("layer", "Layer", lambda r: r.layer, Kind.NUMBER, "layer"),
        Field("n", "Veneer", lambda r: r.veneer, Kind.NUMBER, "veneer"),
        Field("along", "Along the straight edge", lambda r: r.along, long="along the straight edge"),
        Field("wide", "Wide", lambda r: r.wide, long="wide"),
    ),
    lambda r: f"spiling:{r.along}",
    source=lambda _job, plans: veneers_of(plans),
    page=("along", "wide"),
)


@dataclass(frozen=True)
class TakesRow:
    """What a layer takes, and how many veneers it has on both sides."""

    takes: LayerTakes
    veneers: int


def _takes_told(_job: Job, laying: Laying, plans: tuple[LayerPlan, ...] | None) -> tuple[TakesRow, ...] | None:
    if plans is None:
        return None
    return tuple(TakesRow(own, 2 * len(plan.veneers)) for plan, own in zip(plans, laying.layers, strict=True))


def _in(unit: str, of: Callable[[LayerTakes], float]) -> Callable[[TakesRow, UnitSettings], str]:
    return lambda row, units: in_amounts(quantity(of(row.takes), unit, ".1f"), units.told_in)


def _used(row: TakesRow, _units: UnitSettings) -> str:
    return f"{row.takes.used:.0%}" if row.takes.used else "–"


def _scrap(row: TakesRow, units: UnitSettings) -> str:
    return far_length(row.takes.scrap, units.style)


def _hours(row: TakesRow, _units: UnitSettings) -> str:
    return f"{row.takes.hours:.0f}"


TAKES = Schedule(
    "laying",
    "What each layer takes",
    LAYING,
    lambda told: told,
    (
        Field("layer", "Layer", lambda r: r.takes.number, Kind.NUMBER, "layer"),
        Field("veneers", "Veneers", lambda r: r.veneers, Kind.NUMBER, "veneers"),
        Field(
            "glue",
            "Glue under it",
            lambda r: r.takes.glue,
            Kind.AMOUNT,
            "glue",
            0,
            "g",
            said=_in("kg", lambda own: own.glue / 1000),
        ),
        Field("staples", "Staples", lambda r: r.takes.staples, Kind.NUMBER, "staples"),
        Field("pulled", "Out again", lambda r: r.takes.pulled, Kind.NUMBER, "staples out again"),
        Field("scrap", "Scrap under them", lambda r: r.takes.scrap, Kind.TAPE, "scrap strips", said=_scrap),
        Field("bag", "Bag", lambda r: r.takes.bag, Kind.AMOUNT, "bag", 2, "m²", said=_in("m²", lambda own: own.bag)),
        Field("hours", "Hours of two", lambda r: r.takes.hours, Kind.NUMBER, "hours of two", 1, said=_hours),
        Field("sheets", "Sheets", lambda r: r.takes.sheets, Kind.NUMBER, "sheets"),
        Field("used", "On the hull", lambda r: r.takes.used, Kind.NUMBER, "used of the sheets", 3, said=_used),
        Field("joints", "Joints", lambda r: r.takes.joints, Kind.NUMBER, "joints"),
        Field("weight", "Weight", lambda r: r.takes.weight, Kind.AMOUNT, "weight", 2, "kg", said=_in("kg", lambda own: own.weight)),
    ),
    lambda r: f"layer:{r.takes.number}",
    source=_takes_told,
    beside=(LAYERS,),
    page=("layer", "glue", "staples", "pulled", "scrap", "bag", "hours", "sheets", "used", "joints", "weight"),
    file=("layer", "veneers", "glue", "staples", "pulled", "scrap", "bag", "hours", "sheets", "joints", "used", "weight"),
)


@dataclass(frozen=True)
class CrossingRow:
    """Where a ribband comes on a mold."""

    ribband: Ribband
    at: Crossing


def crossings_of(ribbands: Iterable[Ribband]) -> tuple[CrossingRow, ...]:
    """Where ribbands come on all molds that they cross."""
    return tuple(CrossingRow(ribband, crossing) for ribband in ribbands for crossing in ribband.crossings)


def _at_sheer(ribband: Ribband) -> str:
    return "on it" if ribband.at_sheer else "past it" if ribband.past_sheer else ""


def _mend(ribband: Ribband, units: UnitSettings) -> str:
    return in_words(ribband.behaviour.mend, lambda mm: spoken_length(mm, units.style))


RIBBANDS = Schedule(
    "ribbands",
    "Ribbands",
    FORM,
    lambda form: form.ribbands,
    (
        Field("n", "No.", lambda r: r.number, Kind.NUMBER),
        Field("lies", "Lies", lambda r: r.lies, Kind.WORD),
        Field("length", "Length", lambda r: r.length, Kind.TAPE),
        Field("pieces", "Of sticks", lambda r: r.pieces, Kind.NUMBER),
        Field("goes_on", "Goes on", lambda r: r.behaviour.grade.value, Kind.WORD, order=lambda r: r.behaviour.share),
        Field("place", "Hardest at", lambda r: r.behaviour.place, Kind.TAPE),
        Field("mend", "Mend", lambda r: r.behaviour.mend, Kind.WORD, said=_mend),
    ),
    lambda r: f"ribband:{r.number}",
)
CROSSINGS = Schedule(
    "ribband_crossings",
    "Where ribbands come on every mold",
    FORM,
    crossings_of,
    (
        Field("n", "Ribband", lambda r: r.ribband.number, Kind.NUMBER, "ribband"),
        Field("length", "Length", lambda r: r.ribband.length, Kind.TAPE, "length"),
        Field("pieces", "Of sticks", lambda r: r.ribband.pieces, Kind.NUMBER, "of sticks"),
        Field("goes_on", "Goes on", lambda r: r.ribband.behaviour.grade.value, Kind.WORD, "goes on"),
        Field("sheer", "Sheer", lambda r: _at_sheer(r.ribband), Kind.WORD, "sheer"),
        Field("mold", "Mold", lambda r: r.at.mold, Kind.WORD, "mold"),
        Field("from_keel", "From the keel", lambda r: r.at.from_keel, long="from keel"),
        Field("from_sheer", "From the sheer", lambda r: r.at.from_sheer, long="from sheer"),
        Field("lies", "Lies", lambda r: r.ribband.lies, Kind.WORD, "lies"),
    ),
    lambda r: f"mold:{r.at.mold}",
    source=lambda _job, form: form.ribbands,
    page=("mold", "from_keel", "from_sheer"),
)

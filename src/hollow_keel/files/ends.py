"""The schedules of outer stems, the keel strip, planks of a transom and knees."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..core.ends.outer import OuterStem, OuterStems, StemPlace
from ..core.ends.stages import KEEL, KNEES, OUTER, PLANKS
from .schedule import Field, Kind, Schedule


@dataclass(frozen=True)
class _StemRow:
    stem: OuterStem
    place: StemPlace


def _stem_rows(outer: OuterStems) -> Iterator[_StemRow]:
    for stem in outer.stems:
        for place in stem.places:
            yield _StemRow(stem, place)


def stem_name(stem: OuterStem) -> str:
    """What an outer stem is called."""
    return "stern stem" if stem.stern else "stem"


STEM_PLACES = Schedule(
    "outer_stem",
    "The outer stem, height by height",
    OUTER,
    _stem_rows,
    (
        Field("stem", "Stem", lambda r: stem_name(r.stem), Kind.WORD),
        Field("height", "Height", lambda r: r.place.height),
        Field("along", "Along its back", lambda r: r.place.along),
        Field("back", "Let in wide", lambda r: r.place.back, Kind.FINE),
        Field("face", "Face wide", lambda r: r.place.face, Kind.FINE),
        Field("planking", "Planking's angle", lambda r: r.place.planking, Kind.DEGREES),
        Field("side", "Its side's bevel", lambda r: r.place.side, Kind.DEGREES),
    ),
)
STEM_MADE = Schedule(
    "outer_stem_made",
    "How outer stems are made",
    OUTER,
    lambda outer: outer.stems,
    (
        Field("stem", "Stem", stem_name, Kind.WORD),
        Field("laminations", "Laminations", lambda s: s.lamination.count, Kind.NUMBER),
        Field("each", "Each thick", lambda s: s.lamination.thickness, Kind.FINE),
        Field("length", "Each long", lambda s: s.lamination.length),
        Field("radius", "Tightest bend", lambda s: s.lamination.radius if s.lamination.radius < 1e6 else None),
        Field("springback", "Springs back", lambda s: s.lamination.springback, Kind.SHARE),
        Field("screws", "Screws and plugs", lambda s: s.screws, Kind.NUMBER),
    ),
)
KEEL_ROW = Schedule(
    "keel_strip",
    "The keel strip",
    KEEL,
    lambda keel: (keel,),
    (
        Field("length", "Long", lambda k: k.length),
        Field("radius", "Tightest bend", lambda k: k.radius if k.radius < 1e6 else None),
        Field("laminations", "Laminations", lambda k: k.laminations, Kind.NUMBER),
        Field("each", "Each thick", lambda k: k.each, Kind.FINE),
        Field("screws", "Screws and plugs", lambda k: k.screws, Kind.NUMBER),
    ),
)
PLANK_ROWS = Schedule(
    "transom_planks",
    "Planks of the transoms, from the foot",
    PLANKS,
    lambda planks: planks.planks,
    (
        Field("transom", "Of", lambda p: p.transom, Kind.WORD),
        Field("number", "Plank", lambda p: p.number, Kind.NUMBER),
        Field("low", "From", lambda p: p.low),
        Field("high", "To", lambda p: p.high),
        Field("width", "Wide", lambda p: p.width),
        Field("length", "Long", lambda p: p.length),
        Field("joint", "Joint over it long", lambda p: p.joint or None),
        Field("heart", "Heart side", lambda p: "aft" if p.heart_aft else "forward", Kind.WORD),
    ),
    lambda p: f"plank:{p.number}",
)
KNEE_ROWS = Schedule(
    "knees",
    "Knees",
    KNEES,
    lambda knees: knees.knees,
    (
        Field("name", "Knee", lambda k: k.name, Kind.WORD),
        Field("angle", "Between its legs", lambda k: k.angle, Kind.DEGREES),
        Field("form_angle", "Form's angle", lambda k: k.form_angle, Kind.DEGREES),
        Field("laminations", "Laminations", lambda k: k.laminations, Kind.NUMBER),
        Field("each", "Each thick", lambda k: k.each, Kind.FINE),
        Field("length", "Each long", lambda k: k.length),
    ),
)
SCHEDULES = (STEM_PLACES, STEM_MADE, KEEL_ROW, PLANK_ROWS, KNEE_ROWS)

"""The schedules of the sheer and the ends."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from ..core.settings.readings import Side
from ..core.trim.both_sides import Compared, SideMark
from ..core.trim.inside import Inside, Notch, Stringer
from ..core.trim.outer import OuterStem, OuterStems, StemPlace
from ..core.trim.sheer import SheerPlan
from ..core.trim.stages import (
    BEAMS,
    BOTH_SIDES,
    BY_EYE,
    CURVE,
    INSIDE,
    KEEL,
    KNEES,
    LIFT,
    OUTER,
    PLANKS,
    RAILS,
    RELEASE,
    SHEER_STRIPS,
)
from .schedule import Field, Kind, Schedule


def _heads(plan: SheerPlan) -> tuple[Field, ...]:
    def arc(k: int, name: str) -> Field:
        return Field(f"arc_{k + 1}", f"Arc {k + 1}", lambda m: m.radii[k], long=f"arc from {name}")

    return (
        Field("name", "Head", lambda m: m.name, Kind.WORD, "head"),
        Field("station", "Stands at", lambda m: m.station, long="position"),
        Field("inside_up", "Inside, up", lambda m: m.inside_up, long="inside up"),
        Field("inside_out", "Inside, out", lambda m: float(m.inside[0]), long="inside out"),
        Field("outside_up", "Outside, up", lambda m: m.outside_up, long="outside up"),
        Field("outside_out", "Outside, out", lambda m: float(m.outside[0]), long="outside out"),
        Field("cut_up", "Cut first at", lambda m: m.cut_up, long="cut first at"),
        Field("girth", "Round from keel", lambda m: m.girth, long="round from the keel"),
        Field("slope", "Falls outboard", lambda m: m.slope, Kind.DEGREES, "falls outboard"),
        Field("along", "Rises aft", lambda m: m.along, Kind.DEGREES, "rises aft"),
        Field("strip", "In strip", lambda m: m.strip, Kind.NUMBER, "strip"),
        Field("below", "Its edge below", lambda m: m.below, long="strip's lower edge below"),
        Field("gauge", "Over the ribband", lambda m: m.gauge, long="hooked over the ribband"),
        *(arc(k, name) for k, name in enumerate(plan.base_names)),
    )


HEADS = Schedule("heads", "The sheer, head by head", SHEER_STRIPS, lambda plan: plan.marks, _heads, lambda m: f"head:{m.name}")
RAIL_ROWS = Schedule(
    "rails",
    "Rails of one side",
    RAILS,
    lambda rails: rails.rails,
    (
        Field("name", "Rail", lambda r: r.name, Kind.WORD),
        Field("length", "Long", lambda r: r.length),
        Field("grade", "Sprung in one piece", lambda r: r.behaviour.grade.value, Kind.WORD),
        Field("place", "Hardest at", lambda r: r.behaviour.place),
        Field("laminations", "Laminations", lambda r: r.laminations, Kind.NUMBER),
        Field("each", "Each thick", lambda r: r.each, Kind.FINE),
        Field("pieces", "Scarfed from lengths", lambda r: r.pieces or None, Kind.NUMBER),
    ),
)
BEAM_ROWS = Schedule(
    "beams",
    "Beams",
    BEAMS,
    lambda plan: plan.beams,
    (
        Field("name", "At", lambda b: b.name, Kind.WORD),
        Field("station", "Stands at", lambda b: b.station),
        Field("breadth", "Inside breadth", lambda b: b.breadth),
        Field("crown", "Crown", lambda b: b.crown, Kind.FINE, "crown, or block at the middle"),
        Field("along", "Along its upper edge", lambda b: b.along),
        Field("board", "Sawn from a board", lambda b: b.board),
        Field("slope", "Block's angle at the head", lambda b: b.slope, Kind.DEGREES),
        Field("laminations", "Laminations", lambda b: b.laminations or None, Kind.NUMBER),
        Field("each", "Each thick", lambda b: b.each or None, Kind.FINE),
        Field("springback", "Springs back", lambda b: b.springback or None, Kind.SHARE),
        Field("form_crown", "Crown of the form", lambda b: b.form_crown or None, Kind.FINE),
    ),
    lambda b: f"head:{b.name}",
)
BLOCKS = Schedule(
    "form_blocks",
    "Blocks of the form for the widest beam",
    BEAMS,
    lambda plan: plan.blocks,
    (Field("off", "From the middle", lambda b: b.off), Field("high", "Above its base", lambda b: b.high, Kind.FINE)),
)


def _error(side: Side, k: int) -> Any:
    def told(own: Compared) -> float | None:
        mark: SideMark | None = own.port if side is Side.PORT else own.starboard
        return mark.errors[k] if mark is not None and k < len(mark.errors) else None

    return told


ARCS = Schedule(
    "sides",
    "Both sides, by their arcs",
    BOTH_SIDES,
    lambda sides: sides.heads,
    (
        Field("name", "Head", lambda h: h.head, Kind.WORD),
        Field("station", "Stands at", lambda h: h.station),
        *(
            Field(f"{side.value}_{k + 1}", f"{side.value.capitalize()}, arc {k + 1} longer by", _error(side, k), Kind.FINE)
            for side in Side
            for k in range(3)
        ),
        Field("differs", "Starboard fuller by", lambda h: h.differs, Kind.FINE),
        Field("sure", "± (one deviation)", lambda h: h.sure if h.sure < 1e5 else None, Kind.FINE),
        Field("verdict", "So", lambda h: h.verdict, Kind.WORD),
    ),
    lambda h: f"head:{h.head}",
)
NAILS = Schedule(
    "eye_nails",
    "Heights by eye, nail by nail",
    BY_EYE,
    lambda eye: eye.nails,
    (
        Field("name", "Head", lambda n: n.head, Kind.WORD),
        Field("far", "From the end", lambda n: n.far),
        Field("height", "Above the set-up line", lambda n: n.height, Kind.FINE),
        Field("off", "Off the batten through the others", lambda n: n.off, Kind.FINE),
    ),
    lambda n: f"head:{n.head}",
)
CORNERS = Schedule(
    "eye_corners",
    "The curve by eye at all corners",
    BY_EYE,
    lambda eye: eye.places,
    (
        Field("name", "Head", lambda p: p.head, Kind.WORD),
        Field("end", "End", lambda p: p.end, Kind.WORD),
        Field("far", "From the end", lambda p: p.far),
        Field("height", "Above the set-up line", lambda p: p.height, Kind.FINE),
        Field("raised", "Above the planned sheer", lambda p: p.raised, Kind.FINE),
        Field("port", "Port reads above it", lambda p: p.port, Kind.FINE),
        Field("starboard", "Starboard reads above it", lambda p: p.starboard, Kind.FINE),
    ),
    lambda p: f"head:{p.head}",
)
CURVE_ROWS = Schedule(
    "curve",
    "The trimming curve on the skin",
    CURVE,
    lambda curve: curve.places,
    (
        Field("name", "Point", lambda p: p.name, Kind.WORD),
        Field("station", "Stands at", lambda p: p.station),
        Field("half", "Half-breadth", lambda p: p.half),
        Field("up", "Above the set-up line", lambda p: p.up),
        Field("height", "Height", lambda p: p.height),
        Field("girth", "Round from the keel", lambda p: p.girth),
        Field("along", "Along the curve", lambda p: p.along),
    ),
)


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
SPALLS = Schedule(
    "spalls",
    "Cross spalls",
    RELEASE,
    lambda own: own.spalls,
    (
        Field("name", "Spall", lambda s: s.name, Kind.WORD),
        Field("station", "Stands at", lambda s: s.station),
        Field("beam", "Hull wide at the sheer", lambda s: s.beam),
        Field("length", "Cut", lambda s: s.length),
        Field("spring", "May spring a side, at most", lambda s: s.spring),
    ),
    lambda s: f"spall:{s.name}",
    ticked=True,
)
ORDER = Schedule(
    "molds_out",
    "When each mold may go",
    RELEASE,
    lambda own: own.molds,
    (
        Field("mold", "Mold", lambda g: g.mold, Kind.WORD),
        Field("when", "Goes", lambda g: g.when, Kind.WORD),
        Field("after", "When this is on", lambda g: g.after, Kind.WORD),
        Field("station", "Stands at", lambda g: g.station),
    ),
    lambda g: f"mold:{g.mold}",
    ticked=True,
)
LIFTED = Schedule(
    "lift",
    "Lifting and turning",
    LIFT,
    lambda own: (own,),
    (
        Field("weight", "The shell weighs, kg", lambda own: round(own.weight, 1), Kind.NUMBER),
        Field("hands", "People to lift it", lambda own: own.hands, Kind.NUMBER),
    ),
)
SOLE = Schedule(
    "sole",
    "The sole",
    INSIDE,
    lambda own: own.sole.places if own.sole else (),
    (
        Field("name", "At", lambda p: p.name, Kind.WORD),
        Field("station", "Stands at", lambda p: p.station),
        Field("half", "Half-breadth of its upper face", lambda p: p.half),
        Field("bevel", "Its edge from square", lambda p: p.bevel, Kind.DEGREES),
    ),
)
BULKHEADS = Schedule(
    "bulkheads",
    "Bulkheads",
    INSIDE,
    lambda own: own.bulkheads,
    (
        Field("name", "Bulkhead", lambda b: b.name, Kind.WORD),
        Field("station", "Stands at", lambda b: b.station),
        Field("half", "Half-breadth at the sheer", lambda b: float(b.edge.sheer[0])),
        Field("deep", "Deep", lambda b: float(b.edge.points[-1, 1] - b.edge.points[:, 1].min())),
        Field("bevel", "Greatest bevel", lambda b: b.bevel, Kind.DEGREES),
    ),
    lambda b: f"bulkhead:{b.name}",
)
STRINGERS = Schedule(
    "stringers",
    "Stringers of one side",
    INSIDE,
    lambda own: own.stringers,
    (
        Field("name", "Stringer", lambda s: s.name, Kind.WORD),
        Field("share", "Of the girth amidships", lambda s: s.share, Kind.SHARE),
        Field("length", "Long", lambda s: s.length),
        Field("grade", "Sprung in", lambda s: s.behaviour.grade.value, Kind.WORD),
        Field("place", "Hardest at", lambda s: s.behaviour.place),
        Field("pieces", "Scarfed from lengths", lambda s: s.pieces or None, Kind.NUMBER),
    ),
)


@dataclass(frozen=True)
class _NotchRow:
    stringer: Stringer
    notch: Notch


def _notches(own: Inside) -> Iterator[_NotchRow]:
    for stringer in own.stringers:
        for notch in stringer.notches:
            yield _NotchRow(stringer, notch)


NOTCHES = Schedule(
    "notches",
    "Notches for stringers, at their middle",
    INSIDE,
    _notches,
    (
        Field("stringer", "Stringer", lambda r: r.stringer.name, Kind.WORD),
        Field("head", "At", lambda r: r.notch.name, Kind.WORD),
        Field("from_keel", "Round from the keel", lambda r: r.notch.from_keel),
        Field("from_sheer", "Round from the sheer", lambda r: r.notch.from_sheer),
        Field("wide", "Notch wide", lambda r: r.notch.wide, Kind.FINE),
    ),
)
GLASS = Schedule(
    "glass_joint",
    "Sheets joined with glass let in on both faces",
    INSIDE,
    lambda own: (own.joint,) if own.sole or own.bulkheads else (),
    (
        Field("deep", "Recess deep", lambda j: j.deep, Kind.FINE),
        Field("wide", "Recess wide", lambda j: j.wide),
        Field("plies", "Plies on a face", lambda j: len(j.plies), Kind.NUMBER),
        Field("narrowest", "Narrowest ply", lambda j: j.plies[-1]),
        Field("cloth", "Cloth a metre, m²", lambda j: round(j.cloth, 3), Kind.NUMBER),
        Field("resin", "Resin a metre, g", lambda j: round(j.resin), Kind.NUMBER),
    ),
)
SCHEDULES = (
    HEADS,
    BEAM_ROWS,
    BLOCKS,
    ARCS,
    NAILS,
    CORNERS,
    CURVE_ROWS,
    RAIL_ROWS,
    STEM_PLACES,
    STEM_MADE,
    KEEL_ROW,
    PLANK_ROWS,
    KNEE_ROWS,
    SPALLS,
    ORDER,
    LIFTED,
    SOLE,
    BULKHEADS,
    STRINGERS,
    NOTCHES,
    GLASS,
)
"""All of them, in their order on paper."""

"""The schedules of the sheer and the ends."""

from __future__ import annotations

from typing import Any

from ...core.settings.readings import Side
from ...core.sheer.both_sides import Compared, SideMark
from ...core.sheer.heads import SheerPlan
from ...core.sheer.stages import BEAMS, BOTH_SIDES, BY_EYE, CURVE, RAILS, SHEER_STRIPS
from .. import ends, inside, release
from ..schedule import Field, Kind, Schedule


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


SCHEDULES = (
    HEADS,
    BEAM_ROWS,
    BLOCKS,
    ARCS,
    NAILS,
    CORNERS,
    CURVE_ROWS,
    RAIL_ROWS,
    *ends.SCHEDULES,
    *release.SCHEDULES,
    *inside.SCHEDULES,
)
"""Those of the whole page of the sheer, in their order on paper."""

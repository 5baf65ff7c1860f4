"""The schedules of what goes inside the hull."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..core.inside.fit import Inside, Notch, Stringer
from ..core.inside.stages import INSIDE
from .schedule import Field, Kind, Schedule

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
SCHEDULES = (SOLE, BULKHEADS, STRINGERS, NOTCHES, GLASS)

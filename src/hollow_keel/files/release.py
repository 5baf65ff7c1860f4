"""The schedules of how molds come out: spalls, their order, what the shell weighs."""

from __future__ import annotations

from ..core.release.stages import LIFT, RELEASE
from .schedule import Field, Kind, Schedule

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
SCHEDULES = (SPALLS, ORDER, LIFTED)

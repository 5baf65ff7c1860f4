"""The demo jobs of the Tarrow Quay Boat Shed: invented hulls, so that every page has something to show."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date
from functools import cache
from importlib import resources

from ..core.errors import InputError
from ..core.job import (
    BeamSettings,
    DeckSettings,
    FormSettings,
    Job,
    Layer,
    LayingSettings,
    MoldSettings,
    Opening,
    SetupSettings,
    StripEdge,
    StripSettings,
    TrimSettings,
    UnitSettings,
    VeneerSettings,
    Zone,
)
from ..core.log.quick import read_line
from ..core.settings.deck_choices import OpeningShape
from ..core.settings.log import Held, LogSettings
from ..core.settings.mold_choices import MoldForm
from ..core.settings.progress import GirthLeft, Planked
from ..core.settings.setup_choices import HullEnd, Strongback
from ..core.settings.sheer_choices import Carried
from ..core.settings.survey import MeasuredOn, Reading, Survey
from ..core.settings.timber import Board, BuyingSettings, Grain, StockSettings
from ..core.settings.veneer_choices import Direction, FormKind
from ..core.setup.instruments import Instrument
from ..core.units import MM_PER_INCH, LengthUnit
from ..files.offsets.points_csv import OffsetsFile, parse_offsets_csv


def _table(name: str) -> OffsetsFile:
    text = resources.files(__package__).joinpath(f"{name}.csv").read_text(encoding="utf-8")
    return parse_offsets_csv(text)


LINNET_WATERLINE = 75.0
"""Height of Linnet's load waterline above the beam, mm, as her set-up works out by itself."""


@cache
def linnet() -> Job:
    """A 5.4 m strip-planked harbour pulling boat with a small transom, in reclaimed yellow pine with a contrasting band; twelve
    molds; a camber for her beams, and rails; millimetres."""
    given = _table("linnet")
    job = Job(
        name="Linnet",
        offsets=given.table,
        waterline=given.waterline,
        molds=MoldSettings(skin=8, thickness=12, stations=tuple(float(x) for x in range(500, 5300, 400))),
        setup=SetupSettings(beam_width=75, beam_height=75),
        strips=StripSettings(width=14, thickness=8, wood="loblolly pine", zones=(Zone(first=5, last=7, wood="western redcedar"),)),
        stock=_linnet_stock(),
        trim=TrimSettings(wanted=True, carried=Carried.DECK, crown=40.0, rails=True, rail_width=22.0, rail_thickness=16.0),
        beams=BeamSettings(wanted=True, molded=30.0, ratio=150.0),
        log=_linnet_log(),
    )
    return job.model_copy(update={"surveys": (_linnet_as_built(job),), "planked": _linnet_as_planked(job)})


def _linnet_stock() -> StockSettings:
    """The shed's reclaimed pine, some of it with knots, a board of cedar for the band, and what the yard on the quay sells."""
    return StockSettings(
        boards=(
            Board(mark="A", thickness=33, width=150, length=3600, count=4, grain=Grain.FLAT),
            Board(mark="B", thickness=33, width=140, length=2900, count=3, faults=200, grain=Grain.FLAT),
            Board(mark="C", wood="western redcedar", thickness=33, width=120, length=3000, count=1, grain=Grain.VERTICAL),
        ),
        buying=BuyingSettings(
            for_sale=(
                Board(mark="D", thickness=33, width=150, length=4200, count=0, grain=Grain.FLAT, price=31.0),
                Board(mark="E", thickness=33, width=150, length=3000, count=0, grain=Grain.FLAT, price=20.5),
                Board(mark="F", thickness=27, width=175, length=3900, count=0, grain=Grain.FLAT, price=27.5),
            )
        ),
    )


LINNET_LOG = (
    ("2026-09-05", "9:00-14:00 molds 1-12 cut and trued, done, two of us"),
    ("2026-09-08", "19:00-22:00 setting up molds 1-12 done, two of us"),
    ("2026-09-10", "2h strips 1-2, 90 g at 17 C mixed 19:10 used up 19:35, two of us"),
    ("2026-09-12", "9:00-14:00 strips 3-7, 240 g at 18 C, 120 m of cedar, two of us"),
    ("2026-09-15", "2h strips 8-9, 95 g at 15 C, two of us"),
    ("2026-09-17", "2h strips 10-11, 100 g at 9 C mixed 19:20 used up 20:50, two of us"),
    ("2026-09-17", "mistake: the glue of strip 11 did not set overnight, mend: shed warmed, taken off and glued again"),
    ("2026-09-19", "9:00-14:00 strips 12-16, 250 g at 16 C, 116 m of cedar, three of us"),
    ("2026-09-19", "setting: staples through an offcut leave no dents"),
    ("2026-09-22", "2h strips 17-18, 90 g at 17 C, two of us"),
    ("2026-09-24", "2h strips 19-20, 95 g at 17 C, two of us"),
    ("2026-09-24", "mistake: strip 18 crept at mold 7 to port, mend: its screws drawn, wedged down and glued again"),
    ("2026-09-26", "decision: no strip in the last hour of an evening because most mistakes were made then"),
)
"""Three invented weeks of evenings: the day, and the line as it was typed."""


def _linnet_log() -> LogSettings:
    lines = [(date.fromisoformat(day), line) for day, line in LINNET_LOG]
    entries = [read_line(line, day).entry for day, line in lines]
    return LogSettings(wanted=True, people=2, held=Held.SCREWS, entries=tuple(entry for entry in entries if entry is not None))


def _linnet_as_planked(job: Job) -> Planked:
    """After twenty strips a side: everywhere a little less is left than planned, and at mold 7 port is 6 mm behind."""
    left = (("2", 378.0, 378.5), ("4", 520.5, 519.5), ("7", 620.0, 614.0), ("9", 579.5, 579.0), ("11", 484.0, 485.0))
    stand = job.molds.stations
    rows = (GirthLeft(mold=name, at=stand[int(name) - 1], port=port, starboard=starboard) for name, port, starboard in left)
    return Planked(strips=20, left=tuple(rows))


def _linnet_as_built(job: Job) -> Survey:
    """What the volunteers measured: mold 4 stands 6 mm high, mold 9 stands 5 mm to port, and the beam sags by 4 mm."""
    tape, level = Instrument(seed=11, noise=0.4), Instrument(seed=12, noise=0.3)
    last = len(job.molds.stations) - 1
    readings = []
    for k, station in enumerate(job.molds.stations):
        name = str(k + 1)
        height = LINNET_WATERLINE - 4.0 * math.sin(math.pi * k / last) + (6.0 if name == "4" else 0.0)
        across = -5.0 if name == "9" else 0.0
        readings.append(
            Reading(
                mold=name,
                at=station,
                along_port=tape.read(station),
                along_starboard=tape.read(station),
                height_port=level.read(height),
                height_starboard=level.read(height),
                centre_low=level.read(across),
                centre_high=level.read(across),
            )
        )
    on = MeasuredOn(
        strongback=Strongback.BEAM,
        upright=False,
        zero_end=HullEnd.BOW,
        zero_at=0.0,
        level=(job.waterline or 0.0) + LINNET_WATERLINE,
    )
    return Survey(name="before planking", readings=tuple(readings), on=on)


@cache
def pipit() -> Job:
    """A 3.2 m double-ended strip tender for lessons, in feet-inches-eighths."""
    given = _table("pipit")
    inch = MM_PER_INCH
    return Job(
        name="Pipit",
        offsets=given.table,
        waterline=given.waterline,
        molds=MoldSettings(skin=inch / 4, thickness=inch / 2, stations=tuple((18 + 11.25 * k) * inch for k in range(9))),
        setup=SetupSettings(beam_width=2.5 * inch, beam_height=2.5 * inch),
        strips=StripSettings(width=inch * 3 / 4, thickness=inch / 4),
        units=UnitSettings(unit=LengthUnit.FEET_INCH_EIGHTHS, step=1 / 16),
    )


@cache
def sedge() -> Job:
    """A 7.1 m electric lake launch with tumblehome aft and a plumb stem, cold-molded: two opposed diagonals and a layer fore and
    aft, stapled over ribbands; a table, legs."""
    given = _table("sedge")
    return Job(
        name="Sedge",
        offsets=given.table,
        waterline=given.waterline,
        molds=MoldSettings(
            thickness=18,
            stations=tuple(float(x) for x in range(600, 7000, 500)),
            form=MoldForm.RING,
            ring_width=120,
            spall_above=300,
        ),
        setup=SetupSettings(strongback=Strongback.TABLE, leg_spread=900, width=1200),
        strips=StripSettings(width=25, thickness=8, wood="Sitka spruce", edge=StripEdge.BEAD_COVE, cove_depth=3),
        veneers=VeneerSettings(
            layers=(
                Layer(thickness=3, angle=45, width=125),
                Layer(thickness=3, angle=-45, width=125),
                Layer(thickness=3, direction=Direction.ALONG, width=60),
            )
        ),
        form=FormSettings(kind=FormKind.RIBBANDS, width=20),
        laying=LayingSettings(sheet_width=400),
        trim=TrimSettings(wanted=True, quarters=True),
    ).in_step()


@cache
def teasel() -> Job:
    """A 4.6 m decked paddling boat for one: closed molds on a beam, a strip deck with a cockpit and a hatch."""
    given = _table("teasel")
    return Job(
        name="Teasel",
        offsets=given.table,
        waterline=given.waterline,
        molds=MoldSettings(skin=5, thickness=12, stations=tuple(float(x) for x in range(300, 4500, 300))),
        setup=SetupSettings(beam_width=30, beam_height=40),
        strips=StripSettings(width=18, thickness=5),
        deck=DeckSettings(
            skin=5,
            width=18,
            thickness=5,
            openings=(
                Opening(name="cockpit", shape=OpeningShape.EGG, at=2300, length=820, width=400, forward=-0.15, largest=22),
                Opening(name="hatch", shape=OpeningShape.ELLIPSE, at=3560, length=420, width=250, largest=18),
            ),
        ),
    )


DEMOS: dict[str, Callable[[], Job]] = {"linnet": linnet, "pipit": pipit, "sedge": sedge, "teasel": teasel}


def demo_job(name: str) -> Job:
    """A demo job by its name in any case. Raises InputError."""
    try:
        return DEMOS[name.lower()]()
    except KeyError:
        raise InputError("no such demo job", value=name, mend=f"Use one of: {', '.join(DEMOS)}.") from None

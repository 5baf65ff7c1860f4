"""The schedules of the set-up: where every mold is marked and how it stands, and what is cut for the strongback."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.job import Job
from ...core.setup.beam import Mark, SetUp
from ...core.setup.schedule import Schedule as Standings
from ...core.setup.schedule import Standing
from ...core.setup.stages import SCHEDULE, SETUP
from ..schedule import Field, Kind, Schedule


@dataclass(frozen=True)
class MarkRow:
    """A mold's mark on the strongback, and how the mold stands there."""

    mark: Mark
    stand: Standing


def marks_told(_job: Job, setup: SetUp, schedule: Standings | None) -> tuple[MarkRow, ...] | None:
    """All molds in order from zero."""
    if schedule is None:
        return None
    stands = {stand.mold: stand for stand in schedule.standings}
    return tuple(MarkRow(mark, stands[mark.mold]) for mark in setup.marks)


MARKS = Schedule(
    "marks",
    "Marks from zero",
    SETUP,
    lambda told: told,
    (
        Field("mold", "Mold", lambda r: r.mark.mold, Kind.WORD, "mold", order=lambda r: int(r.mark.mold)),
        Field("from_zero", "From zero", lambda r: r.mark.from_zero, Kind.TAPE, "from zero"),
        Field("face", "Face on the mark", lambda r: r.mark.face.value, Kind.WORD, "face on the mark"),
        Field("towards", "Mold lies towards", lambda r: r.mark.body_towards, Kind.WORD, "lies towards"),
        Field("spacing", "Spacing", lambda r: r.mark.spacing_to_next, Kind.TAPE, "spacing"),
        Field("gap", "Gap to next mold", lambda r: r.mark.gap_to_next, Kind.TAPE, "gap to next"),
        Field("waterline", "Waterline above it", lambda r: r.mark.waterline_above, Kind.TAPE, "waterline above"),
        Field("keel", "Keel above it", lambda r: r.mark.keel_above, Kind.TAPE, "keel above"),
        Field("sheer", "Sheer above it", lambda r: r.mark.sheer_above, Kind.TAPE, "sheer above"),
        Field("leg", "Leg", lambda r: r.stand.leg, Kind.TAPE, "leg"),
        Field("reach", "Past each rail", lambda r: r.stand.reach, Kind.TAPE, "past each rail"),
        Field("spall", "Spall above it", lambda r: r.stand.spall_above, Kind.TAPE, "cross spall above"),
        Field("post", "Post under keel", lambda r: r.stand.post, Kind.TAPE, "post under keel"),
        Field("highest", "Highest above floor", lambda r: r.stand.highest, Kind.TAPE, "highest above floor"),
    ),
    lambda r: f"mold:{r.mark.mold}",
    ticked=True,
    source=marks_told,
    beside=(SCHEDULE,),
    page=("mold", "from_zero", "face", "towards", "spacing", "gap", "waterline", "keel", "leg", "reach", "spall", "post"),
    paper=("mold", "from_zero", "face", "towards", "spacing", "gap", "keel", "leg", "reach", "spall", "post"),
    bracketed=True,
    missing="–",
)
TIMBER = Schedule(
    "timber",
    "To cut",
    SCHEDULE,
    lambda schedule: schedule.timber,
    (
        Field("what", "To cut", lambda t: t.what, Kind.WORD, "to cut"),
        Field("count", "Count", lambda t: t.count, Kind.NUMBER, "count"),
        Field("length", "Length", lambda t: t.length or None, Kind.TAPE, "length"),
        Field("section", "Section", lambda t: t.section, Kind.WORD, "section"),
    ),
    ticked=True,
    bracketed=True,
)

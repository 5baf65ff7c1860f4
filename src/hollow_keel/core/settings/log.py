"""The log, and what the forecast goes by: who works when, and what a piece of work takes."""

from __future__ import annotations

from datetime import date
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from .axis import Axis
from .log_entry import Entry
from .record import COMMON, Kind, NotNegative, Part, Positive, setting

if TYPE_CHECKING:
    from ..job import Job

Hours = Annotated[float, Field(ge=0, le=24, allow_inf_nan=False), Axis.NONE]


class Held(StrEnum):
    """How strips are held while the glue sets."""

    CLAMPS = "clamps"
    SCREWS = "screws"
    STAPLES = "staples"


def logged(job: Job) -> bool:
    """Whether a job keeps a log."""
    return job.log.wanted


def _entry(fields: dict[str, Any]) -> Entry:
    """An entry from its plain fields, which were checked when it was made."""
    entry = Entry.__new__(Entry)
    state = {"__dict__": fields, "__pydantic_fields_set__": set(fields), "__pydantic_extra__": None, "__pydantic_private__": None}
    entry.__setstate__(state)
    return entry


class LogSettings(Part):
    """The day book, the crew's week, and hours by piece of work."""

    wanted: bool = setting(False, "Keep a log", "whether the page of the log is there", Kind.FLAG)
    entries: tuple[Entry, ...] = setting((), "Log", "what was done, day by day", Kind.RECORDS, none="nothing yet")
    starts: date | None = setting(
        None, "Work goes on from", "the day from which the forecast counts", Kind.DAY, none="the day after the last entry"
    )
    people: Annotated[int, Field(ge=1, le=99)] = setting(1, "People", "how many work together", Kind.WHOLE)
    week: tuple[Hours, Hours, Hours, Hours, Hours, Hours, Hours] = setting(
        (0.0, 2.0, 0.0, 2.0, 0.0, 5.0, 0.0), "Hours of the week", "that are worked from Monday to Sunday", Kind.RECORDS
    )
    kept: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = setting(
        80.0, "Of these are kept", "evenings that work is really done on", Kind.NUMBER, unit="per cent", source=COMMON
    )
    holidays: tuple[date, ...] = setting(
        (), "No work on", "holidays, or while the workshop is closed: 24 Dec to 6 Jan, 14 July", Kind.DAYS, none="none"
    )
    held: Held = setting(
        Held.CLAMPS,
        "Strips held by",
        "while the glue sets",
        Kind.CHOICE,
        choices={Held.CLAMPS: "clamps", Held.SCREWS: "screws through the edge", Held.STAPLES: "staples into molds"},
    )
    a_day: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)] | None = setting(
        None,
        "Strips a side a day at most",
        "that can be held until the glue sets",
        Kind.NUMBER,
        none="one with clamps, eight with screws or staples",
    )
    cure: Positive = setting(
        12.0,
        "Glue sets at 20 °C in",
        "before the next that leans on it; half as long for every ten degrees warmer",
        Kind.NUMBER,
        unit="hours",
        source=COMMON,
    )
    wider: bool = setting(
        False, "Wider strips tried", "a quarter wider, planked anew to tell when it would be done then", Kind.FLAG
    )
    ahead: Annotated[float, Field(ge=0, lt=100, allow_inf_nan=False)] = setting(
        15.0, "Joints made the day before save", "of the hours of planking", Kind.NUMBER, unit="per cent", source=COMMON
    )
    mold: NotNegative = setting(0.75, "A mold takes", "to be cut and trued", Kind.NUMBER, unit="hours", source=COMMON)
    set_up: NotNegative = setting(0.5, "Setting up a mold takes", "and proving it", Kind.NUMBER, unit="hours", source=COMMON)
    fair: NotNegative = setting(
        1.5, "Fairing takes, a square metre", "planing and sanding the outside", Kind.NUMBER, unit="hours", source=COMMON
    )
    glass: NotNegative = setting(
        0.8, "Glassing takes, a square metre", "cloth and coats on one face", Kind.NUMBER, unit="hours", source=COMMON
    )
    turn: NotNegative = setting(3.0, "Turning over takes", "with its cradles", Kind.NUMBER, unit="hours", source=COMMON)
    head: NotNegative = setting(0.25, "A head takes", "to be marked, cut and planed", Kind.NUMBER, unit="hours", source=COMMON)
    rail: NotNegative = setting(
        0.6, "Rails take, a metre", "scarfed, sprung in and glued", Kind.NUMBER, unit="hours", source=COMMON
    )
    hourly: NotNegative = setting(0.0, "An hour costs", "of each person", Kind.NUMBER, unit="in the currency of Stock")

    def __getstate__(self) -> dict[Any, Any]:
        """As it is sent to the computing process: entries by their plain fields, which thousands of models one by one take three
        times as long for."""
        state = super().__getstate__()
        return {**state, "__dict__": {**state["__dict__"], "entries": [entry.__dict__ for entry in self.entries]}}

    def __setstate__(self, state: dict[Any, Any]) -> None:
        super().__setstate__(state)
        self.__dict__["entries"] = tuple(map(_entry, self.__dict__["entries"]))

    @property
    def most_a_day(self) -> float:
        """How many strips a side can be held in a day."""
        if self.a_day is not None:
            return self.a_day
        return 1.0 if self.held is Held.CLAMPS else 8.0

"""An entry of the log, as the builder keeps it."""

from __future__ import annotations

from datetime import date
from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, model_validator

from .axis import Axis, Marker, Position
from .readings import Side
from .record import Part

Minute = Annotated[int, Field(ge=0, lt=24 * 60)]
Grams = Annotated[float, Field(ge=0, lt=1e6, allow_inf_nan=False), Axis.NONE]
Number = Annotated[int, Field(ge=1, le=5000)]
Text = Annotated[str, Field(max_length=4000)]


class Task(StrEnum):
    """What work is done on, in working order."""

    MOLDS = "molds"
    SETTING_UP = "setting up"
    PLANKING = "planking"
    VENEERS = "veneers"
    FAIRING = "fairing"
    GLASSING = "glassing"
    TURNING = "turning over"
    SHEER = "sheer and rails"
    DECK = "deck"
    OTHER = "other"


class Told(StrEnum):
    """What an entry tells of."""

    WORK = "work"
    MISTAKE = "mistake"
    SETTING = "setting"
    DECISION = "decision"


class Batch(Part):
    """A batch of glue: resin and hardener in grams (all of it as resin where they were not weighed apart), the shed's
    temperature in °C, when it was mixed and when it was used up, minutes of the day."""

    resin: Grams
    hardener: Grams = 0.0
    temperature: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False), Axis.NONE] | None = None
    mixed: Minute | None = None
    used_up: Minute | None = None

    @property
    def grams(self) -> float:
        """All of it."""
        return self.resin + self.hardener

    @property
    def minutes(self) -> float | None:
        """How long it was in use, past midnight too; None: not told."""
        if self.mixed is None or self.used_up is None:
            return None
        return float((self.used_up - self.mixed) % (24 * 60))


class Laid(Part):
    """More strips that came on, from the first number to the last, on one `side` or (None) on both."""

    first: Number
    last: Number
    side: Side | None = None


class Entry(Part):
    """What was done on one day: by how many, how many hours each, what it advanced. `strips` and `veneers` are first and last
    number, on one `side` or (None) on both, `also` what strips came on besides; `own_hours` are the hours of each of the `names`
    (empty: all had the same), `temperature` is the day's, °C, where no glue was told of with it; `wood` and `wood_metres` are
    what stock was used up, and how much of it; `stood` is where each of the `molds` stood, mm along the hull (empty: not told);
    `finished` says that the task is done. `line` is what was typed."""

    day: date
    told: Told = Told.WORK
    task: Task = Task.OTHER
    what: Text = ""
    people: Annotated[int, Field(ge=1, le=99)] = 1
    names: tuple[Text, ...] = ()
    hours: Annotated[float, Field(ge=0, le=24, allow_inf_nan=False), Axis.NONE] = 0.0
    begin: Minute | None = None
    end: Minute | None = None
    strips: tuple[Number, Number] | None = None
    veneers: tuple[Number, Number] | None = None
    side: Side | None = None
    also: tuple[Laid, ...] = ()
    own_hours: tuple[Annotated[float, Field(ge=0, le=24, allow_inf_nan=False), Axis.NONE], ...] = ()
    temperature: Annotated[float, Field(ge=-60, le=60, allow_inf_nan=False), Axis.NONE] | None = None
    molds: tuple[Annotated[Text, Marker.MOLD], ...] = ()
    stood: tuple[Position, ...] = ()
    sheets: Annotated[float, Field(ge=0, le=10000, allow_inf_nan=False), Axis.NONE] = 0.0
    metres: Annotated[float, Field(ge=0, le=100000, allow_inf_nan=False), Axis.NONE] = 0.0
    batches: tuple[Batch, ...] = ()
    wood: Text = ""
    wood_metres: Annotated[float, Field(ge=0, le=100000, allow_inf_nan=False), Axis.NONE] = 0.0
    mend: Text = ""
    photos: tuple[Text, ...] = ()
    finished: bool = False
    line: Text = ""

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        for pair in (self.strips, self.veneers):
            if pair is not None and pair[0] > pair[1]:
                raise ValueError("the first number stands before the last")
        return self

    @property
    def ticked(self) -> tuple[tuple[str, float | None], ...]:
        """Its molds, each with the place at which it stood (None: not told)."""
        told = self.stood if len(self.stood) == len(self.molds) else (None,) * len(self.molds)
        return tuple(zip(self.molds, told, strict=True))

    @property
    def person_hours(self) -> float:
        """Hours of all who worked together."""
        return sum(self.hours_by_name.values()) + self.hours * (self.people - len(self.names))

    @property
    def hours_words(self) -> str:
        """How many each worked, in the order of the names and those without one last, where they were not the same."""
        if not self.own_hours:
            return f"{self.hours:g}"
        each = [*self.hours_by_name.values(), *[self.hours] * (self.people - len(self.names))]
        return ", ".join(f"{hours:g}" for hours in each)

    @property
    def hours_by_name(self) -> dict[str, float]:
        """Of those whose names are told."""
        own = self.own_hours if len(self.own_hours) == len(self.names) else (self.hours,) * len(self.names)
        return dict(zip(self.names, own, strict=True))

    @property
    def laid(self) -> tuple[Laid, ...]:
        """All strips that it tells of, run by run."""
        if self.strips is None:
            return ()
        return (Laid(first=self.strips[0], last=self.strips[1], side=self.side), *self.also)

    @property
    def sides(self) -> tuple[Side, ...]:
        """The sides that it was done on."""
        return tuple(Side) if self.side is None else (self.side,)

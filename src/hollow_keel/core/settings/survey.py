"""What was measured on the molds as they really stand."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..errors import InputError
from .axis import AsRead, Axis, Height, Lean, MoldName, Off, Position
from .readings import is_of
from .setup_choices import HullEnd, Strongback

SAME_MM = 0.1
"""Set-ups whose zero and height differ by no more are one: no tape tells them apart."""
WORDS = {Strongback.BEAM: "on a beam", Strongback.TABLE: "on a table", Strongback.RAILS: "on rails"}


class Reading(BaseModel):
    """Readings on one mold, mm; None where nothing was measured. They belong to the place `at` which it stood, whatever molds are
    called later (None: not known, as in files of earlier versions; then they go by its name).

    `along_port`, `along_starboard`: position of the reference face from zero, on each side (one of them does).
    `height_port`, `height_starboard`: the load waterline's mark above the strongback's upper face, on each side.
    `centre_low`, `centre_high`: how far the mold's centreline stands to starboard of the true one, near the keel and near
    the sheer. `lean`: how far the keel end of the mold leans towards the stern over the mold's height.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    mold: MoldName
    at: Position | None = None
    along_port: AsRead | None = None
    along_starboard: AsRead | None = None
    height_port: AsRead | None = None
    height_starboard: AsRead | None = None
    centre_low: Off | None = None
    centre_high: Off | None = None
    lean: Lean | None = None


class MeasuredOn(BaseModel):
    """The set-up that readings were taken on: what molds stand on and which way up, the zero and the end it lies at, and the
    height of the strongback's upper face in the hull's own heights, mm; whether the hull has become another one since."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strongback: Strongback
    upright: bool
    zero_end: HullEnd
    zero_at: Position
    level: Height

    other_hull: bool = False

    def of_another_hull(self) -> MeasuredOn:
        """The same, of a hull that has become another one since."""
        return self.model_copy(update={"other_hull": True})

    def differs(self, other: MeasuredOn) -> str:
        """In which way another set-up differs, in words; empty where readings mean the same on both."""
        ways = (
            (self.other_hull, "of a hull that was scaled since"),
            (self.strongback is not other.strongback, f"{WORDS[other.strongback]}, not {WORDS[self.strongback]}"),
            (self.upright is not other.upright, "upright, not upside down" if other.upright else "upside down, not upright"),
            (self.zero_end is not other.zero_end or abs(self.zero_at - other.zero_at) > SAME_MM, "measured from another zero"),
            (abs(self.level - other.level) > SAME_MM, "the strongback at another height"),
        )
        return next((words for different, words in ways if different), "")


class Survey(BaseModel):
    """One round of measuring: when, the readings, how well one is read (standard deviation, mm), the first height read
    once more at the end (None: not done), what was moved afterwards, in words, and the set-up it was measured `on` (None: not
    known, as in files of earlier versions)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    name: str = "before planking"
    readings: tuple[Reading, ...] = ()
    noise: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False), Axis.SIZE] = 0.5
    closing: AsRead | None = None
    moved: str = ""
    on: MeasuredOn | None = None

    def of(self, mold: str, at: float | None = None) -> Reading:
        """What was measured on a mold that stands `at` a place."""
        blank = Reading(mold=mold, at=at)
        return next((r for r in self.readings if is_of(r.mold, r.at, mold, at)), blank)

    def with_value(self, mold: str, field: str, value: float | None, at: float | None = None) -> Survey:
        """The survey with one value of a mold's reading, mm, written (None: not measured). Raises InputError for a length that
        no hull has."""
        own = self.of(mold, at).model_copy(update={"mold": mold, **({} if at is None else {"at": at})})
        try:
            reading = Reading.model_validate({**own.model_dump(), field: value})
        except ValidationError:
            raise InputError("this is no length on a hull", f"mold {mold}", f"{value:g} mm", "Read it again.") from None
        return self.with_reading(reading)

    def measured_on(self, on: MeasuredOn) -> Survey:
        """The survey with the set-up it was measured on, where that is not known yet and there is anything measured."""
        return self.model_copy(update={"on": on}) if self.on is None and self.readings else self

    def with_reading(self, reading: Reading) -> Survey:
        """The survey with the readings of one mold put in place."""
        others = [r for r in self.readings if not is_of(r.mold, r.at, reading.mold, reading.at)]
        return self.model_copy(update={"readings": (*others, reading)})

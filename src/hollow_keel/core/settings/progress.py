"""How far the planking has come, as the builder measures it."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from .axis import Axis, MoldName, Position
from .readings import is_of
from .strip_choices import RestWay

Left = Annotated[float, Field(ge=0, lt=1e5, allow_inf_nan=False), Axis.GIRTH]
Laid = Annotated[int, Field(ge=0, le=2000)]


class GirthLeft(BaseModel):
    """What is left to plank at one mold, measured along its edge from the last strip to the line where the planking is to
    end, mm. It belongs to the place `at` which the mold stood (None: not known; then it goes by the name)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    mold: MoldName
    at: Position | None = None
    port: Left | None = None
    starboard: Left | None = None

    @property
    def mean(self) -> float | None:
        """Both sides' mean, mm, or the one that was measured."""
        known = [v for v in (self.port, self.starboard) if v is not None]
        return sum(known) / len(known) if known else None


class LaidOn(BaseModel):
    """How many strips a side were on at the end of one day."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    day: date
    strips: Laid


class Look(BaseModel):
    """What was left when so many strips a side were on."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strips: Laid
    left: tuple[GirthLeft, ...]


class Planked(BaseModel):
    """How far the work has come: how many strips a side are on, what was left at some molds when it was last measured (with
    `measured_at` strips on; None: with as many as are on now), how the rest is to be laid (None: as its layout suggests), how many
    strips were on day by day, and what was measured before."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strips: Laid = 0
    left: tuple[GirthLeft, ...] = ()
    measured_at: Laid | None = None
    way: RestWay | None = None
    days: tuple[LaidOn, ...] = ()
    earlier: tuple[Look, ...] = ()

    @property
    def measured_strips(self) -> int:
        """How many strips a side were on when the last readings were taken."""
        return self.strips if self.measured_at is None else self.measured_at

    @property
    def is_measured(self) -> bool:
        """Whether anything was measured."""
        return any(row.mean is not None for row in self.left)

    def with_strips(self, strips: int, day: date) -> Planked:
        """With so many strips on at the end of a day; days that say more are corrected, for strips are not taken off. Readings
        stay with the number of strips that was on when they were taken."""
        earlier = [d for d in self.days if d.day < day and d.strips < strips]
        kept = (*earlier, LaidOn(day=day, strips=strips)) if strips else ()
        at = self.measured_strips if self.is_measured and self.strips else None
        return self.model_copy(update={"strips": strips, "days": kept, "measured_at": None if at == strips else at})

    def day_of(self, strip: int) -> date | None:
        """The day a strip went on; None if that is not known or it is still to come."""
        return next((d.day for d in self.days if strip <= d.strips), None)

    def of(self, mold: str, at: float | None = None) -> GirthLeft:
        """What was last measured at a mold that stands `at` a place."""
        blank = GirthLeft(mold=mold, at=at)
        return next((row for row in self.left if is_of(row.mold, row.at, mold, at)), blank)

    def now(self, mold: str, at: float | None = None) -> GirthLeft:
        """What was measured at a mold with as many strips on as there are now."""
        return self.of(mold, at) if self.measured_strips == self.strips else GirthLeft(mold=mold, at=at)

    def with_row(self, row: GirthLeft) -> Planked:
        """With one mold's readings put in place, taken with the strips that are on now; a row without readings is taken out. The
        first reading after more strips went on begins a new look, and the one before is kept."""
        if self.measured_strips != self.strips:
            return self.put_by().with_row(row)
        others = [r for r in self.left if not is_of(r.mold, r.at, row.mold, row.at)]
        kept = others if row.mean is None else [*others, row]
        return self.model_copy(update={"left": tuple(kept)})

    def put_by(self) -> Planked:
        """Without what was measured: it is kept as an earlier look."""
        if not self.is_measured:
            return self
        look = Look(strips=self.measured_strips, left=self.left)
        return self.model_copy(update={"left": (), "measured_at": None, "earlier": (*self.earlier, look)})

    def taken_now(self) -> Planked:
        """The readings were taken with the strips that are on now."""
        return self.model_copy(update={"measured_at": None})

"""How far the planking has come, as the builder measures it."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Left = Annotated[float, Field(ge=0, lt=1e5, allow_inf_nan=False)]


class GirthLeft(BaseModel):
    """What is left to plank at one mold, measured along its edge from the last strip to the line where the planking is to
    end, mm."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    mold: str
    port: Left | None = None
    starboard: Left | None = None

    @property
    def mean(self) -> float | None:
        """Both sides together, or the one that was measured."""
        known = [v for v in (self.port, self.starboard) if v is not None]
        return sum(known) / len(known) if known else None


class LaidOn(BaseModel):
    """How many strips a side were on at the end of one day."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    day: date
    strips: Annotated[int, Field(ge=0, le=2000)]


class Planked(BaseModel):
    """One look at the work: how many strips a side are on, what is left at some molds, and how many were on day by day."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strips: Annotated[int, Field(ge=0, le=2000)] = 0
    left: tuple[GirthLeft, ...] = ()
    days: tuple[LaidOn, ...] = ()

    def with_strips(self, strips: int, day: date) -> Planked:
        """With so many strips on at the end of a day; days that say more are corrected, for strips are not taken off."""
        earlier = [d for d in self.days if d.day < day and d.strips < strips]
        kept = (*earlier, LaidOn(day=day, strips=strips)) if strips else ()
        return self.model_copy(update={"strips": strips, "days": kept})

    def day_of(self, strip: int) -> date | None:
        """The day a strip went on; None if that is not known or it is still to come."""
        return next((d.day for d in self.days if strip <= d.strips), None)

    def of(self, mold: str) -> GirthLeft:
        """What was measured at a mold."""
        return next((row for row in self.left if row.mold == mold), GirthLeft(mold=mold))

    def with_row(self, row: GirthLeft) -> Planked:
        """With one mold's readings put in place; a row without readings is taken out."""
        others = [r for r in self.left if r.mold != row.mold]
        kept = others if row.mean is None else [*others, row]
        return self.model_copy(update={"left": tuple(kept)})

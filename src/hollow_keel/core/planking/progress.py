"""How far the planking has come, as the builder measures it."""

from __future__ import annotations

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


class Planked(BaseModel):
    """One look at the work: how many strips a side are on, and what is left at some molds."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strips: Annotated[int, Field(ge=0, le=2000)] = 0
    left: tuple[GirthLeft, ...] = ()

    def of(self, mold: str) -> GirthLeft:
        """What was measured at a mold."""
        return next((row for row in self.left if row.mold == mold), GirthLeft(mold=mold))

    def with_row(self, row: GirthLeft) -> Planked:
        """With one mold's readings put in place; a row without readings is taken out."""
        others = [r for r in self.left if r.mold != row.mold]
        kept = others if row.mean is None else [*others, row]
        return self.model_copy(update={"left": tuple(kept)})

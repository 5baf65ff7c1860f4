"""What was measured on the molds as they really stand."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Length = Annotated[float, Field(gt=-1e6, lt=1e6, allow_inf_nan=False)]


class Reading(BaseModel):
    """Readings on one mold, mm; None where nothing was measured.

    `along_port`, `along_starboard`: position of the reference face from zero, on each side (one of them does).
    `height_port`, `height_starboard`: the load waterline's mark above the strongback's upper face, on each side.
    `centre_low`, `centre_high`: how far the mold's centreline stands to starboard of the true one, near the keel and near
    the sheer. `lean`: how far the keel end of the mold leans towards the stern over the mold's height.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    mold: str
    along_port: Length | None = None
    along_starboard: Length | None = None
    height_port: Length | None = None
    height_starboard: Length | None = None
    centre_low: Length | None = None
    centre_high: Length | None = None
    lean: Length | None = None


class Survey(BaseModel):
    """One round of measuring: when, the readings, how well one is read (standard deviation, mm), the first height read
    once more at the end (None: not done), and what was moved afterwards, in words."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    name: str = "before planking"
    readings: tuple[Reading, ...] = ()
    noise: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)] = 0.5
    closing: Length | None = None
    moved: str = ""

    def of(self, mold: str) -> Reading:
        """What was measured on a mold."""
        return next((r for r in self.readings if r.mold == mold), Reading(mold=mold))

    def with_value(self, mold: str, field: str, value: float | None) -> Survey:
        """The survey with one value of a mold's reading written (None: not measured)."""
        return self.with_reading(Reading.model_validate({**self.of(mold).model_dump(), field: value}))

    def with_reading(self, reading: Reading) -> Survey:
        """The survey with the readings of one mold put in place."""
        others = [r for r in self.readings if r.mold != reading.mold]
        return self.model_copy(update={"readings": (*others, reading)})

"""How lengths and amounts are shown, and how true the builder's printer is."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..amounts import Amounts
from ..units import INCHES, LengthStyle, LengthUnit
from .record import Kind, Part, Positive, setting


class PrintSettings(Part):
    """What the 100 mm proof bar measures on the builder's own print, mm."""

    proof_bar: Annotated[float, Field(ge=90, le=110, allow_inf_nan=False)] = setting(
        100.0, "The 100 mm bar measures", "what the proof bar measures on the builder's own print", Kind.NUMBER, unit="mm"
    )

    @property
    def correction(self) -> float:
        """The number a print must be drawn larger by to come out at full size."""
        return 100.0 / self.proof_bar


class UnitSettings(Part):
    """How lengths are shown and how a bare number is read; what areas, volumes and weights are told in."""

    unit: LengthUnit = setting(
        LengthUnit.MM,
        "Unit",
        "what lengths are shown in, and how a bare number is read",
        Kind.CHOICE,
        choices={u: u.value for u in LengthUnit},
    )
    step: Positive = setting(0.5, "Rounded to", "the tape's finest mark: mm, or inches where lengths are in inches", Kind.NUMBER)
    amounts: Amounts | None = setting(
        None,
        "Areas, volumes and weights",
        "what they are told in",
        Kind.CHOICE,
        none="as the lengths are",
        choices={
            None: "as the lengths are",
            Amounts.METRIC: "kilograms, litres, square metres",
            Amounts.US: "pounds, gallons, square yards",
        },
    )

    @property
    def told_in(self) -> Amounts:
        """What areas, volumes and weights are told in."""
        return self.amounts or (Amounts.US if self.unit in INCHES else Amounts.METRIC)

    @property
    def style(self) -> LengthStyle:
        """As a display style."""
        return LengthStyle(self.unit, self.step)

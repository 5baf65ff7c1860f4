"""Waste as it really was, against the plan's."""

from __future__ import annotations

from dataclasses import dataclass

from ..findings import Finding, Weight
from ..planking.strips import Planking
from ..settings.log import LogSettings
from ..settings.log_entry import Task
from .sums import PAGE, laid_by


@dataclass(frozen=True)
class Waste:
    """Metres of strip stock that the log has used up, metres of strips that it has laid, the share of what was used that is in no
    strip (None: nothing was noted, or less than was laid), and the same by the plan (None: no plan)."""

    used: float
    laid: float
    share: float | None
    planned: float | None

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What wants looking at."""
        if not self.used or self.used >= self.laid:
            return ()
        text = (
            f"Strips of {self.laid:.0f} m are laid, and {self.used:.0f} m of wood were noted as used: some was not noted, so "
            "nothing is told of waste."
        )
        return (Finding("wood-not-noted", Weight.INFORMATION, PAGE, "waste", text),)


def waste_of(log: LogSettings, planking: Planking, planned: float | None) -> Waste:
    """The waste of strips so far. `planned` is the plan's share of it."""
    work = [entry for entry in log.entries if entry.task is Task.PLANKING]
    used = sum(entry.wood_metres for entry in work)
    lengths = {strip.number: strip.length / 1000.0 for strip in planking.strips}
    on = {place for entry in work for place in laid_by(entry)}
    laid = sum(lengths.get(number, 0.0) for _, number in on)
    share = 1.0 - laid / used if used > 0 and laid > 0 and used >= laid else None
    return Waste(used, laid, share, planned)

"""Simulated instruments: what a tape, a laser distance meter or a level would type for a true length.

They stand in for outside devices: noise of their own, readings that fail, a zero that drifts, a unit of their own.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from ..units import MM_PER_INCH

if TYPE_CHECKING:
    pass


@dataclass
class Instrument:
    """An instrument that types: `noise` mm (standard deviation), `step` mm it rounds to, `fails` share of readings that
    do not come, `drift` mm its zero moves with each reading, `inches` whether it types decimal inches."""

    noise: float = 0.4
    step: float = 0.5
    fails: float = 0.0
    drift: float = 0.0
    inches: bool = False
    seed: int = 1
    taken: int = 0
    _random: random.Random = field(init=False, repr=False)

    def __post_init__(self) -> None:
        self._random = random.Random(self.seed)

    def read(self, true: float) -> float | None:
        """A reading of a true length, mm; None where it failed."""
        self.taken += 1
        noise = self._random.gauss(0.0, self.noise)
        if self._random.random() < self.fails:
            return None
        seen = true + noise + self.drift * (self.taken - 1)
        return round(seen / self.step) * self.step

    def typed(self, true: float) -> str:
        """What it sends of a `true` length, mm, as a keyboard would, its line ended; an empty line where it failed."""
        value = self.read(true)
        if value is None:
            return "\n"
        return f"{value / MM_PER_INCH:.3f} in\n" if self.inches else f"{value:.1f} mm\n"


def tape(seed: int = 1) -> Instrument:
    """A steel tape read by eye."""
    return Instrument(noise=0.5, step=0.5, seed=seed)


def laser(seed: int = 1) -> Instrument:
    """A laser distance meter."""
    return Instrument(noise=0.3, step=0.1, seed=seed)


def level(seed: int = 1) -> Instrument:
    """A levelling laser with a rule."""
    return Instrument(noise=0.3, step=0.5, seed=seed)


def caliper(seed: int = 1) -> Instrument:
    """A digital caliper, for thicknesses and gaps."""
    return Instrument(noise=0.02, step=0.01, seed=seed)


SIMULATED: dict[str, Callable[[], Instrument]] = {
    "tape": tape,
    "laser": laser,
    "level": level,
    "caliper": caliper,
    "laser set to inches": lambda: Instrument(noise=0.3, step=0.1, inches=True),
    "level whose zero drifts": lambda: Instrument(noise=0.3, step=0.5, drift=0.2),
    "laser that often fails": lambda: Instrument(noise=0.3, step=0.1, fails=0.4),
}
"""Stand-ins for instruments, to learn and to test with: one of each kind, and some with a fault."""

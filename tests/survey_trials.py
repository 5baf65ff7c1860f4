"""Set-ups with molds out of place at random, as readings of one row: for the tests and the bench."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from hollow_keel.core.settings.survey import Reading, Survey
from hollow_keel.core.setup.beam import SetUp
from hollow_keel.core.setup.instruments import level, tape
from hollow_keel.core.setup.outliers import judge_row


@dataclass(frozen=True)
class Fault:
    """How one mold stands out of its place, mm: up, to starboard, away from zero, and its starboard side higher."""

    up: float = 0.0
    across: float = 0.0
    along: float = 0.0
    starboard_up: float = 0.0


def simulated_survey(setup: SetUp, faults: dict[str, Fault], sag: float = 0.0, *, seed: int = 1, name: str = "simulated") -> Survey:
    """All molds measured with a tape and a level: those in `faults` out of place, the strongback sagging by `sag` mm in
    the middle."""
    along, up, string = tape(seed), level(seed + 1), level(seed + 2)
    count = max(len(setup.marks) - 1, 1)
    readings = []
    for k, mark in enumerate(setup.marks):
        fault = faults.get(mark.mold, Fault())
        height = mark.waterline_above - sag * math.sin(math.pi * k / count) + fault.up
        readings.append(
            Reading(
                mold=mark.mold,
                along_port=along.read(mark.from_zero + fault.along),
                along_starboard=along.read(mark.from_zero + fault.along),
                height_port=up.read(height),
                height_starboard=up.read(height + fault.starboard_up),
                centre_low=string.read(fault.across),
                centre_high=string.read(fault.across),
            )
        )
    return Survey(name=name, readings=tuple(readings))


@dataclass
class Score:
    faulty: int = 0
    missed: int = 0
    named: int = 0
    innocent: int = 0

    @property
    def missed_share(self) -> float:
        return self.missed / max(self.faulty, 1)

    @property
    def innocent_share(self) -> float:
        return self.innocent / max(self.named, 1)


def sweep(t: np.ndarray, size: float, random: np.random.Generator) -> np.ndarray:
    """A smooth sag: half a wave, a parabola, or a wave with its middle anywhere."""
    kind = random.integers(3)
    amount = random.uniform(-size, size)
    if kind == 0:
        return amount * np.sin(np.pi * t)
    if kind == 1:
        return amount * 4 * t * (1 - t)
    return amount * np.sin(np.pi * t + random.uniform(0, 1.5))


def trials(count: int, faults: tuple[int, int], sizes: tuple[float, float], noise: float, sag: float, seed: int = 0) -> Score:
    random = np.random.default_rng(seed)
    score = Score()
    for _ in range(count):
        molds = int(random.integers(10, 31))
        places = np.arange(molds) * 400.0
        t = places / places[-1]
        values = random.uniform(-5, 5) + random.uniform(-4, 4) * t + sweep(t, sag, random)
        values += random.normal(0, noise, molds)
        bad = random.choice(molds, int(random.integers(faults[0], faults[1] + 1)), replace=False)
        values[bad] += random.choice([-1, 1], len(bad)) * random.uniform(*sizes, len(bad))
        named, true = set(judge_row(places, values, noise).out), set(bad.tolist())
        score.faulty += len(true)
        score.missed += len(true - named)
        score.named += len(named)
        score.innocent += len(named - true)
    return score

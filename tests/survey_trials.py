"""Set-ups with molds out of place at random, as readings of one row: for the tests and the bench."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hollow_keel.core.setup.outliers import judge_row


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

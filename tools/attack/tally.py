"""What came of many inputs."""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from hollow_keel.core.errors import ImpossiblePlan, InputError

from .outcome import End, Outcome, tried

REFUSAL = (InputError, ImpossiblePlan)
"""The errors that are messages to the builder."""
FAULTS = (End.TRACEBACK, End.HANG, End.MEMORY, End.CRASH)


@dataclass
class Tally:
    """What came of inputs."""

    count: int = 0
    ends: Counter[End] = field(default_factory=Counter)
    slowest: float = 0.0
    faults: Counter[str] = field(default_factory=Counter)

    def add(self, outcome: Outcome) -> bool:
        """One more; whether it is a fault."""
        self.count += 1
        self.ends[outcome.end] += 1
        self.slowest = max(self.slowest, outcome.seconds)
        bad = outcome.end in FAULTS
        if bad:
            self.faults[f"{outcome.end}: {outcome.what}"] += 1
        return bad

    def __add__(self, other: Tally) -> Tally:
        """Both together."""
        slowest = max(self.slowest, other.slowest)
        return Tally(self.count + other.count, self.ends + other.ends, slowest, self.faults + other.faults)


def tallied(cases: Iterable[tuple[str, Callable[[], object]]], until: float, most: float) -> tuple[Tally, list[str]]:
    """What came of cases, each of a name and what it does in `most` seconds of the processor's, as many as there is time for
    (`until`, by the monotonic clock); and the worst in words."""
    tally, worst = Tally(), []
    for name, does in cases:
        if time.monotonic() > until:
            break
        outcome = tried(does, REFUSAL, most)
        if tally.add(outcome):
            worst.append(f"{name}: {outcome.end} {outcome.what}")
    return tally, worst

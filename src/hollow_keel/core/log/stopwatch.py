"""A stop-watch that is only a note of when it was started: nothing has to run, so nothing is lost in a crash.

Two clocks are noted, the day's and the machine's since it was switched on. Where both are of one run of the machine and disagree,
the day's clock was set meanwhile.
"""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass

AGREE_S = 90.0
LONGEST_S = 24 * 3600.0


@dataclass(frozen=True)
class Started:
    """When it was started: seconds of the day's clock since 1970, of the machine's since it was switched on, and which run of the
    machine that was."""

    wall: float
    machine: float
    run: str


@dataclass(frozen=True)
class Elapsed:
    """How long it has run, hours, and what is doubtful about that, in words (empty: nothing)."""

    hours: float
    doubt: str


def elapsed(started: Started, now: Started) -> Elapsed:
    """How long it has run by now."""
    wall = now.wall - started.wall
    if started.run == now.run:
        machine = now.machine - started.machine
        if abs(wall - machine) > AGREE_S:
            return Elapsed(max(machine, 0.0) / 3600.0, "the clock was set meanwhile: this is by the machine's own")
        return Elapsed(max(machine, 0.0) / 3600.0, "" if machine <= LONGEST_S else "it ran for more than a day: was it forgotten?")
    if wall < 0:
        return Elapsed(0.0, "the clock stands before it was started, and the machine was switched off: tell the hours yourself")
    doubt = "it ran for more than a day: was it forgotten?" if wall > LONGEST_S else ""
    return Elapsed(wall / 3600.0, doubt)


def as_text(started: Started) -> str:
    """A note of it, to be kept."""
    return json.dumps(asdict(started))


def from_text(text: str) -> Started | None:
    """A note read back; None where it is none."""
    try:
        own = json.loads(text)
        return Started(float(own["wall"]), float(own["machine"]), str(own["run"]))
    except (ValueError, KeyError, TypeError, OverflowError, RecursionError):
        return None

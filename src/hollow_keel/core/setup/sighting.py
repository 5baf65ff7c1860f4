"""What the eye sees along the molds, as planned and as they stand; and hidden errors to practise on.

The eye looks along the strongback. A mark at a distance d, across y and above the eye h, is seen at y / d and h / d (a
picture at arm's length, one unit away). With the eye level with the waterline all true marks fall on one level line.
"""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..molds.stations import Mold
from ..rules import ARM_MM, LEAST_AWAY_MM
from .beam import SetUp

WAYS = ("high", "low", "to starboard", "to port")


@dataclass(frozen=True)
class Displaced:
    """How a mold stands out of its place, mm: up on the strongback, to starboard, its starboard side higher."""

    up: float = 0.0
    across: float = 0.0
    roll: float = 0.0


@dataclass(frozen=True)
class Sighted:
    """One mold as it is seen, mm on a pane at arm's length, (x to starboard, y up): its outline (n, 2) from port sheer
    round the keel to starboard sheer, the ends of its waterline mark (2, 2), its centreline's ends (2, 2)."""

    name: str
    outline: Array
    mark: Array
    centre: Array


def sight(
    setup: SetUp,
    molds: tuple[Mold, ...],
    displaced: Mapping[str, Displaced],
    *,
    eye_back: float = 1500.0,
    eye_up: float = 0.0,
    larger: float = 1.0,
) -> tuple[Sighted, ...]:
    """The molds from an eye `eye_back` mm before the first mark and `eye_up` mm above the waterline's planned height, the
    nearest first. Errors are drawn `larger` times. As they stand: upside down, keels are up."""
    by_name = {m.name: m for m in molds}
    first = min((m.from_zero for m in setup.marks), default=0.0)
    seen = []
    for mark in sorted(setup.marks, key=lambda m: m.from_zero):
        mold = by_name[mark.mold]
        away = max(mark.from_zero - first + eye_back, LEAST_AWAY_MM)
        off = displaced.get(mark.mold, Displaced())
        out = float(mold.edge.waterline[0]) if mold.edge.waterline is not None else float(mold.edge.sheer[0])

        def pane(points: Array, away: float = away, off: Displaced = off, out: float = out) -> Array:
            """Points across and above the planned waterline, as they are seen."""
            tilt = off.roll * points[:, 0] / max(out, 1.0)
            moved = points + larger * np.column_stack([np.full(len(points), off.across), off.up + tilt])
            return frozen((moved - [0.0, eye_up]) * ARM_MM / away)

        half = np.column_stack([mold.edge.points[:, 0], setup.above(mold.edge.points[:, 1]) - mark.waterline_above])
        both = np.concatenate([half[::-1] * [-1.0, 1.0], half])
        line = np.array([[-out, 0.0], [out, 0.0]])
        upright = np.array([[0.0, float(half[-1, 1])], [0.0, float(half[0, 1])]])
        seen.append(Sighted(mark.mold, pane(both), pane(line), pane(upright)))
    return tuple(seen)


@dataclass(frozen=True)
class Puzzle:
    """One hidden error: which mold, which way, by how much."""

    mold: str
    way: str
    amount: float

    @property
    def displaced(self) -> dict[str, Displaced]:
        """As the sighting wants it."""
        size = self.amount if self.way in ("high", "to starboard") else -self.amount
        return {self.mold: Displaced(up=size) if self.way in ("high", "low") else Displaced(across=size)}

    def answer(self, mold: str, way: str) -> tuple[int, str]:
        """Points for an answer, 0 to 2, and what was true, in words with the length marked."""
        right_mold, right_way = mold == self.mold, mold == self.mold and way == self.way
        truth = f"mold {self.mold} stands {self.amount:.0f} mm {self.way}"
        where = "its mark off the line of the others" if self.way in ("high", "low") else "its centreline beside the others"
        if right_way:
            return 2, f"Right: {truth}; you see {where}."
        if right_mold:
            return 1, f"The right mold, but the other way: {truth}."
        return 0, f"Not that one: {truth}. Look for {where}; put your eye level with the marks first."


def new_puzzle(setup: SetUp, seed: int | None = None) -> Puzzle:
    """A hidden error on one mold, neither the first nor the last, of 4 to 15 mm."""
    chance = random.Random(seed)
    names = [m.mold for m in sorted(setup.marks, key=lambda m: m.from_zero)]
    inner = names[1:-1] or names
    return Puzzle(chance.choice(inner), chance.choice(WAYS), float(chance.randint(4, 15)))

"""What the strips of both sides need: sections, lengths, and where along each a joint may not be."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..job import StripSettings
from ..planking.cut_lengths import cut_lengths
from ..planking.mechanics import Behaviour, section_of
from ..planking.strips import Planking
from ..settings.timber import JointSettings
from .beside import Beside, beside

SIDES = ("port", "starboard")
DECK_FROM = 1000
"""A strip of the deck has so much added to its number where it stands beside those of the hull."""


@dataclass(frozen=True)
class Scantling:
    """Strips that are ripped alike: their wood, width and thickness, mm."""

    wood: str
    width: float
    thickness: float


@dataclass(frozen=True)
class Need:
    """One length of strip to be made: `strip` and `side`, `part` where a strip comes in several, `row` its place in its course
    (neighbours follow each other), `length` mm with what is cut off at the ends. `shut` are ranges (from, to) along it, mm,
    where no joint may be; `at` (n, 2) tells distances along it and positions along the hull, by which neighbours are compared;
    `beside` are strips of other courses that lie beside it."""

    strip: int
    side: str
    part: int
    row: tuple[int, str, int]
    length: float
    section: Scantling
    shut: tuple[tuple[float, float], ...]
    at: Array
    beside: tuple[Beside, ...] = ()

    @property
    def key(self) -> tuple[int, str, int]:
        """What it is known by: its strip, side and part."""
        return self.strip, self.side, self.part

    @property
    def name(self) -> str:
        """For people: 12 port, 40b starboard."""
        return length_name(self.key)

    def asks(self, other: Need, rows: int) -> tuple[float, float] | None:
        """The positions along the hull, mm, between which joints of another strip of this side have to stand apart from this one's:
        all of them for those up to `rows` before it in its course; None where they may stand anywhere."""
        if other.side != self.side:
            return None
        if other.row[:2] == self.row[:2]:
            return (-np.inf, np.inf) if 0 < self.row[2] - other.row[2] <= rows else None
        return next(((low, high) for strip, low, high in self.beside if strip == other.strip), None)

    def positions(self, runs: Sequence[float]) -> tuple[float, ...]:
        """Positions along the hull of places along the strip, mm."""
        return tuple(np.interp(runs, self.at[:, 0], self.at[:, 1]).tolist()) if len(runs) else ()

    def runs(self, positions: Sequence[float]) -> tuple[float, ...]:
        """Places along the strip at positions along the hull, mm."""
        return tuple(np.interp(positions, self.at[:, 1], self.at[:, 0]).tolist()) if len(positions) else ()


def strip_name(strip: int) -> str:
    """A strip for people: 12, or D12 of the deck."""
    return f"D{strip - DECK_FROM}" if strip > DECK_FROM else f"{strip}"


def length_name(key: tuple[int, str, int]) -> str:
    """A strip, side and part for people: 12 port, 40b starboard."""
    strip, side, part = key
    return f"{strip_name(strip)}{'' if part == 0 else 'abcdefgh'[min(part, 7)]} {side}"


def needs_of(
    strips: StripSettings, planking: Planking, found: Mapping[int, Behaviour], stations: Sequence[float], joints: JointSettings
) -> tuple[Need, ...]:
    """Every length to be made, mm, port and starboard in turn, in the order they are laid."""
    result = []
    across = beside(planking, joints.rows) if joints.stagger > 0 else {}
    for strip in planking.strips:
        place = planking.places[strip.number]
        row = (strip.panel, strip.course.value, place)
        own = section_of(strips, place, 1.0)
        section = Scantling(own.wood.name, own.width, own.thickness)
        hardest = found[strip.number].place if strip.number in found else None
        for part, (length, at) in enumerate(cut_lengths(strip, strips)):
            shut = _shut(at, stations, joints.clear_molds)
            if hardest is not None:
                shut += _shut(at, [hardest], joints.clear_bends)
            for side in SIDES:
                own_beside = across.get(strip.number, ())
                result.append(Need(strip.number, side, part, row, length, section, shut, at, own_beside))
    return tuple(sorted(result, key=lambda n: (n.row[0], n.row[1], n.row[2], n.part, SIDES.index(n.side))))


def _shut(at: Array, positions: Sequence[float], clear: float) -> tuple[tuple[float, float], ...]:
    """Ranges along a strip that are nearer than `clear` to positions along the hull."""
    if clear <= 0:
        return ()
    low, high = at[0, 1], at[-1, 1]
    runs = np.interp([p for p in positions if low - clear < p < high + clear], at[:, 1], at[:, 0])
    return tuple((float(r) - clear, float(r) + clear) for r in runs)

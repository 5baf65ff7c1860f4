"""What fairing did to a table: each offset before and after."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..offsets.table import OffsetRow, OffsetsTable

STILL_MM = 1e-6


@dataclass(frozen=True)
class Moved:
    """One point before and after; `row` is its number in the table."""

    row: int
    before: OffsetRow
    after: OffsetRow

    @property
    def by(self) -> float:
        """How far the point went, mm."""
        return math.hypot(self.after.half_breadth - self.before.half_breadth, self.after.height - self.before.height)


def moved_since(before: OffsetsTable, after: OffsetsTable) -> tuple[Moved, ...] | None:
    """The points that moved, as far as they moved first; None where the tables do not have the same points."""
    if [(r.station, r.label) for r in before.rows] != [(r.station, r.label) for r in after.rows]:
        return None
    pairs = enumerate(zip(before.rows, after.rows, strict=True))
    found = [Moved(k, old, new) for k, (old, new) in pairs if old is not new]
    return tuple(sorted((m for m in found if m.by > STILL_MM), key=lambda m: -m.by))

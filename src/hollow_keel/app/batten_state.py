"""A batten being sprung along one line: its ducks, what they were, and what the offsets would become.

Knows nothing of windows: a view shows it and tells it what the hand did.
"""

from __future__ import annotations

import numpy as np

from ..core.errors import InputError
from ..core.fairing.batten import Sprung, spring
from ..core.fairing.fair_lines import FairLine
from ..core.fairing.plane_lines import carried
from ..core.geometry.arrays import Array
from ..core.offsets.table import OffsetsTable, TableLine


class BattenState:
    """Ducks at the offsets of a line. Each is held or loosed and may be dragged; `give` lets the batten lift
    off the held ones by so much (mm, root mean square)."""

    def __init__(self, line: FairLine) -> None:
        self.line = line
        self.values = line.values.copy()
        self.held = np.ones(len(line.at), dtype=bool)
        self.give = 0.0
        self._sprung: Sprung | None = None

    @property
    def before(self) -> Sprung:
        """The batten through the offsets as they are."""
        return spring(self.line.at, self.line.values, np.ones(len(self.line.at), dtype=bool))

    @property
    def sprung(self) -> Sprung:
        """The batten as it lies now."""
        if self._sprung is None:
            self._sprung = spring(self.line.at, self.values, self.held, self.give)
        return self._sprung

    @property
    def changed(self) -> bool:
        """Whether anything was done to the ducks."""
        return bool(self.give > 0 or not self.held.all() or np.any(self.values != self.line.values))

    def drag(self, duck: int, value: float) -> None:
        """Put a duck somewhere else; it then holds the batten there."""
        self.values[duck] = value if self.line.which == "height" else max(value, 0.0)
        self.held[duck] = True
        self._sprung = None

    def toggle(self, duck: int) -> None:
        """Loose a held duck or hold a loose one where its offset is; two always stay held."""
        if self.held[duck] and int(self.held.sum()) <= 2:
            return
        self.held[duck] = not self.held[duck]
        self.values[duck] = self.line.values[duck]
        self._sprung = None

    def set_give(self, give: float) -> None:
        """How far the batten may lift off its ducks."""
        self.give = max(give, 0.0)
        self._sprung = None

    def reset(self) -> None:
        """All ducks held at their offsets."""
        self.values = self.line.values.copy()
        self.held[:] = True
        self.give = 0.0
        self._sprung = None

    def moves(self, step: float) -> Array:
        """What each offset would move by, (k,) mm, rounded to `step` mm; 0 for those the batten still touches."""
        raw = self.sprung.on_ducks - self.line.values
        result: Array = np.where(np.abs(raw) < 0.5 * step, 0.0, np.round(raw / step) * step)
        return result

    def accepted(self, table: OffsetsTable, step: float) -> OffsetsTable:
        """The table with the line's offsets moved to the batten, rounded. Raises InputError for a half-breadth
        that would lie beyond the centreline."""
        if self.line.plane is not None:
            return self._carried(table, self.line.plane, step)
        rows = list(table.rows)
        for row, by in zip(self.line.rows, self.moves(step).tolist(), strict=True):
            if by:
                value = getattr(rows[row], self.line.which) + by
                if self.line.which == "half_breadth" and value < 0:
                    raise InputError(
                        "the batten lies beyond the centreline",
                        f"station {rows[row].station:g}",
                        f"{value:.1f}",
                        "Hold the duck there at a half-breadth of nothing or more.",
                    )
                rows[row] = rows[row].model_copy(update={self.line.which: value})
        return table.model_copy(update={"rows": tuple(rows)})

    def _carried(self, table: OffsetsTable, plane: TableLine, step: float) -> OffsetsTable:
        """The table with every station that was moved carried to its new place on the plane."""
        for x, value, by in zip(self.line.at.tolist(), self.line.values.tolist(), self.moves(step).tolist(), strict=True):
            if by:
                table = carried(table, plane, x, value + by, step)
        return table

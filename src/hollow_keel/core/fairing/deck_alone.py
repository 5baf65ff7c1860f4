"""The deck of a table as a table of its own, from the sheer to the centreline: looked at and faired as a hull is."""

from __future__ import annotations

from dataclasses import dataclass

from ..offsets.deck_rows import decks_of_stations
from ..offsets.table import OffsetRow, OffsetsTable

AS_HULL = {"sheer": "keel", "deck": "wl", "deck_chine": "chine", "deck_centre": "sheer"}
"""What the rows of a deck are called where it is looked at as a hull is."""
LEAST_STATIONS = 5


@dataclass(frozen=True)
class DeckAlone:
    """The rows of a deck under a hull's names, and their numbers in the whole `table`."""

    table: OffsetsTable
    rows: OffsetsTable
    numbers: tuple[int, ...]

    def is_sheer(self, row: int) -> bool:
        """Whether a row is of the sheer, which is the hull's to judge."""
        return self.rows.rows[row].label == "keel"

    def named(self, row: int, found: OffsetRow) -> OffsetRow:
        """A row of the deck's own table under its name in the whole."""
        return found.model_copy(update={"label": self.table.rows[self.numbers[row]].label})


def deck_alone(table: OffsetsTable) -> DeckAlone | None:
    """The deck by itself; None where too few stations have one to their centreline."""
    sheers = {row.station: k for k, row in enumerate(table.rows) if row.label == "sheer"}
    decks = decks_of_stations(table.rows)
    whole = [[sheer, *decks[x]] for x, sheer in sheers.items() if x in decks and table.rows[decks[x][-1]].label == "deck_centre"]
    if len(whole) < LEAST_STATIONS:
        return None
    numbers = tuple(k for own in whole for k in own)
    rows = tuple(table.rows[k].model_copy(update={"label": AS_HULL[table.rows[k].label]}) for k in numbers)
    return DeckAlone(table, OffsetsTable(rows=rows), numbers)

"""Offsets past the sheer that stand out: the deck is judged as a skin of its own, from the sheer to the centreline."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..errors import HollowKeelError
from ..hull.build import Hull
from ..offsets.table import DECK_LABELS, STATION_LABELS, OffsetRow, OffsetsTable
from ..stage import Tick
from .doubts import Doubt, find_doubts

AS_HULL = {"sheer": "keel", "deck": "wl", "deck_chine": "chine", "deck_centre": "sheer"}
"""What the rows of a deck are called where it is looked at as a hull is."""
LEAST_STATIONS = 5


def deck_doubts(table: OffsetsTable, build: Callable[[OffsetsTable], Hull], tick: Tick) -> tuple[Doubt, ...]:
    """The offsets of the deck that stand out, worst first, by their numbers in the table; none where the deck is given at too few
    stations, or cannot be drawn. `tick` may raise to cancel."""
    numbers = _rows(table)
    alone = OffsetsTable(
        rows=tuple(table.rows[k].model_copy(update={"label": AS_HULL[table.rows[k].label]}) for k in numbers)
    )
    if len({row.station for row in alone.rows}) < LEAST_STATIONS:
        return ()
    try:
        found = find_doubts(alone, build(alone), build, tick=lambda: tick(0.0))
    except HollowKeelError:
        return ()
    return tuple(
        _of_table(doubt, numbers[doubt.row], table)
        for doubt in found
        if alone.rows[doubt.row].label != "keel"
    )


def _rows(table: OffsetsTable) -> list[int]:
    """Numbers of the sheer and the deck's rows of every station that has a deck to its centreline, sheer first."""
    stations: dict[float, list[int]] = {}
    of_end = False
    for k, row in enumerate(table.rows):
        if row.label in DECK_LABELS:
            if not of_end and row.station in stations:
                stations[row.station].append(k)
        else:
            of_end = row.label not in STATION_LABELS
            if row.label == "sheer":
                stations[row.station] = [k]
    return [k for own in stations.values() if table.rows[own[-1]].label == "deck_centre" for k in own]


def _of_table(doubt: Doubt, row: int, table: OffsetsTable) -> Doubt:
    """A doubt in the table's own words."""

    def own(found: OffsetRow) -> OffsetRow:
        return found.model_copy(update={"label": table.rows[row].label})

    return replace(doubt, row=row, written=own(doubt.written), fair=own(doubt.fair))

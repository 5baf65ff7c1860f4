"""Which rows past the sheer belong to an end and which to a station: they follow its own rows."""

from __future__ import annotations

from collections.abc import Sequence

from .table import DECK_LABELS, END_LABELS, OffsetRow


def decks_of_ends(rows: Sequence[OffsetRow]) -> frozenset[int]:
    """Numbers of the rows past the sheer that follow a stem or a transom."""
    found: set[int] = set()
    of_end = False
    for k, row in enumerate(rows):
        if row.label not in DECK_LABELS:
            of_end = row.label in END_LABELS
        elif of_end:
            found.add(k)
    return frozenset(found)


def decks_of_stations(rows: Sequence[OffsetRow]) -> dict[float, list[int]]:
    """Numbers of the rows past the sheer of every station that has any, by its position (mm), from the sheer inward."""
    of_ends = decks_of_ends(rows)
    found: dict[float, list[int]] = {}
    for k, row in enumerate(rows):
        if row.label in DECK_LABELS and k not in of_ends:
            found.setdefault(row.station, []).append(k)
    return found

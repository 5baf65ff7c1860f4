"""The lines of a table that a batten can be sprung along: every one goes through offsets."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, frozen
from ..offsets.deck_rows import decks_of_stations
from ..offsets.table import STATION_LABELS, OffsetsTable, TableLine


@dataclass(frozen=True)
class FairLine:
    """A line in one view: `at` (k,) rising places, `values` (k,) mm of the one offset it fairs, `rows` in the table.

    `which` is the offset, "half_breadth" or "height" ("along" a diagonal); `key` is stable, `name` for people; `across` tells a
    section (places are heights or half-breadths) from a line along the hull (places are stations).
    """

    key: str
    name: str
    which: str
    rows: tuple[int, ...]
    at: Array
    values: Array
    across: bool = False
    plane: TableLine | None = None
    """The plane of a line along the hull that need not go through offsets (see plane_lines); it has no rows."""


def fair_lines(table: OffsetsTable) -> tuple[FairLine, ...]:
    """All lines of a table, along the hull first (each in profile and in plan), then the sections; none whose places do not rise,
    as those of a table that is still being typed."""
    stations: dict[float, list[int]] = {}
    for k, row in enumerate(table.rows):
        if row.label in STATION_LABELS:
            stations.setdefault(row.station, []).append(k)
    found: list[FairLine] = []
    for name, rows in _lengthwise(table, stations):
        if len(rows) >= 3:
            found += [
                _along(table, name, rows, which)
                for which in ("height", "half_breadth")
                if not (name in ("keel", "deck, centreline") and which == "half_breadth")
            ]
    for x, rows in stations.items():
        line = _section(table, x, rows)
        if line is not None:
            found.append(line)
    found += [line for x, rows in _decks(table, stations).items() if (line := _deck_section(table, x, rows)) is not None]
    return tuple(line for line in found if np.all(np.diff(line.at) > 0))


def _lengthwise(table: OffsetsTable, stations: dict[float, list[int]]) -> list[tuple[str, list[int]]]:
    def labelled(label: str) -> list[int]:
        return [k for rows in stations.values() for k in rows if table.rows[k].label == label]

    found = [("sheer", labelled("sheer")), ("keel", [k for k in keel_rows(table) if table.rows[k].label == "keel"])]
    most = max((sum(table.rows[k].label == "chine" for k in rows) for rows in stations.values()), default=0)
    for n in range(most):
        chine = []
        for rows in stations.values():
            own = [k for k in rows if table.rows[k].label == "chine"]
            if len(own) == most:
                chine.append(own[n])
        found.append(("chine" if most == 1 else f"chine {n + 1}", chine))
    found += _along_deck(table, stations)
    count = _usual(len(rows) for rows in stations.values())
    for n in range(1, count - 1):
        rows = [own[n] for own in stations.values() if len(own) == count]
        if any(table.rows[k].label != "chine" for k in rows):
            found.append((f"line {n} from the keel", rows))
    return found


def _along_deck(table: OffsetsTable, stations: dict[float, list[int]]) -> list[tuple[str, list[int]]]:
    """The deck's centreline, and the lines through its points from the sheer inward where most stations have as many."""
    decks = _decks(table, stations)
    centre = [own[-1] for own in decks.values() if table.rows[own[-1]].label == "deck_centre"]
    count = _usual(len(own) for own in decks.values())
    lines = [
        (f"deck line {n + 1} from the sheer", [own[n] for own in decks.values() if len(own) == count]) for n in range(count - 1)
    ]
    return [("deck, centreline", centre), *lines]


def _decks(table: OffsetsTable, stations: dict[float, list[int]]) -> dict[float, list[int]]:
    """Numbers of the rows past the sheer of every station that has any, from the sheer inward."""
    return {x: own for x, own in decks_of_stations(table.rows).items() if x in stations}


def keel_rows(table: OffsetsTable) -> list[int]:
    """Numbers of the rows along the keel: the feet of stems and keel rows between them, bow first."""
    feet = {label: next((k for k, r in enumerate(table.rows) if r.label == label), None) for label in ("stem_bow", "stem_stern")}
    low, high = (
        table.rows[k].station if k is not None else default
        for k, default in ((feet["stem_bow"], -np.inf), (feet["stem_stern"], np.inf))
    )
    # a station that crosses a raked stem starts on it, above the keel
    keel = [k for k, r in enumerate(table.rows) if r.label == "keel" and low < r.station < high]
    return [*(k for k in (feet["stem_bow"],) if k is not None), *keel, *(k for k in (feet["stem_stern"],) if k is not None)]


def _usual(counts: object) -> int:
    every = list(counts)  # type: ignore[call-overload]
    return int(max(set(every), key=every.count)) if every else 0


def _along(table: OffsetsTable, name: str, rows: list[int], which: str) -> FairLine:
    view = "in profile" if which == "height" else "in plan"
    return FairLine(
        f"{name}:{which}",
        f"{name}, {view}",
        which,
        tuple(rows),
        frozen([table.rows[k].station for k in rows]),
        frozen([getattr(table.rows[k], which) for k in rows]),
    )


def _deck_section(table: OffsetsTable, x: float, rows: list[int]) -> FairLine | None:
    """Heights of a deck over half-breadths, from the centreline outward; None for too few points."""
    outward = rows[::-1]
    breadths = np.array([table.rows[k].half_breadth for k in outward])
    if len(outward) < 4 or np.any(np.diff(breadths) <= 0):
        return None
    return FairLine(
        f"deck-section:{x!r}",
        f"deck at {x:g}",
        "height",
        tuple(outward),
        frozen(breadths),
        frozen([table.rows[k].height for k in outward]),
        across=True,
    )


def _section(table: OffsetsTable, x: float, rows: list[int]) -> FairLine | None:
    """Half-breadths over heights, as far as the heights rise; None for a section too flat for that."""
    heights = np.array([table.rows[k].height for k in rows])
    if len(rows) < 4 or np.any(np.diff(heights) <= 0):
        return None
    return FairLine(
        f"section:{x!r}",
        f"section at {x:g}",
        "half_breadth",
        tuple(rows),
        frozen(heights),
        frozen([table.rows[k].half_breadth for k in rows]),
        across=True,
    )

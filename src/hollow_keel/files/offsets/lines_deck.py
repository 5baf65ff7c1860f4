"""The deck in the traditional layout: rows `deck centre` (heights on the centreline), `deck buttock HALF-BREADTH` (heights on that
buttock), `deck chine height` and `deck chine half-breadth`."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from ...core.errors import InputError
from ...core.offsets.table import DECK_LABELS, OffsetRow, OffsetsTable

DECK = "deck"
SAME_MM = 0.05
STEPS, STEP_MM = 5, 10.0
"""Where the table's own points lie on no common buttocks, so many are taken over the half-breadth, at multiples of so many mm."""


@dataclass
class DeckOffsets:
    """What rows say of the deck of one station: heights by half-breadth, those of its chine, with their texts as written."""

    points: list[tuple[float, float, str]] = field(default_factory=list)
    chine: dict[str, tuple[float, str]] = field(default_factory=dict)

    def rows(self, x: float) -> list[OffsetRow]:
        """Rows from the sheer inward to the centreline; only one of the chine's two offsets is none."""
        found = []
        for y, z, text in self.points:
            label, texts = "deck" if y > 0 else "deck_centre", {"height": text} if text else {}
            found.append(OffsetRow(station=x, label=label, half_breadth=y, height=z, written=texts))
        if {"height", "half-breadth"} <= self.chine.keys():
            (z, z_text), (y, y_text) = self.chine["height"], self.chine["half-breadth"]
            texts = {name: text for name, text in (("height", z_text), ("half_breadth", y_text)) if text}
            found.append(OffsetRow(station=x, label="deck_chine", half_breadth=y, height=z, written=texts))
        return sorted(found, key=lambda row: -row.half_breadth)


def is_deck_row(name: str) -> bool:
    """Whether a row of the traditional layout is of the deck."""
    return name.split(" ", maxsplit=1)[0] == DECK


def reader_of(name: str, read: Callable[[str], float], where: str) -> Callable[[DeckOffsets, float, str], None]:
    """What puts a value (mm, with its text) of the row of this name where it belongs; `read` reads a length. Raises InputError for
    a name that says nothing."""
    what = name.removeprefix(DECK).strip()
    if what in ("centre", "center", "centreline", "centerline", "at centre", "at centreline"):
        return lambda deck, value, text: deck.points.append((0.0, value, text))
    kind, _, at = what.partition(" ")
    if kind in ("buttock", "butt") and at:
        try:
            breadth = read(at.strip())
        except InputError as error:
            raise error.at(where) from None
        return lambda deck, value, text: deck.points.append((breadth, value, text))
    if what in ("chine height", "chine half-breadth"):
        return lambda deck, value, text: deck.chine.__setitem__(what.removeprefix("chine "), (value, text))
    raise InputError(
        "no such line of the deck", where, name, "Use deck centre, deck buttock 150, deck chine height or deck chine half-breadth."
    )


def deck_values(table: OffsetsTable) -> dict[float, dict[str, float]]:
    """The value of every deck row of the layout, mm, by station and name."""
    stations: dict[float, list[OffsetRow]] = {}
    sheer = {row.station: row for row in table.rows if row.label == "sheer"}
    for row in table.rows:
        if row.label in DECK_LABELS and row.station in sheer:
            stations.setdefault(row.station, [sheer[row.station]]).append(row)
    levels = _levels([rows[1:] for rows in stations.values()])
    return {x: _values(rows, levels) for x, rows in stations.items()}


def _levels(decks: Sequence[Sequence[OffsetRow]]) -> list[float]:
    """The buttocks that the deck is told on: those that its own points share, or even ones."""
    counts: dict[float, int] = {}
    for rows in decks:
        for row in rows:
            if row.label == "deck":
                counts[round(row.half_breadth, 1)] = counts.get(round(row.half_breadth, 1), 0) + 1
    points = sum(counts.values())
    shared = sorted(y for y, count in counts.items() if count > 1)
    if points and sum(counts[y] for y in shared) > 0.6 * points:
        return sorted(counts)
    most = max((row.half_breadth for rows in decks for row in rows), default=0.0)
    step = max(round(most / STEPS / STEP_MM) * STEP_MM, STEP_MM)
    return [float(y) for y in np.arange(step, most, step)]


def _values(rows: Sequence[OffsetRow], levels: Sequence[float]) -> dict[str, float]:
    from scipy.interpolate import PchipInterpolator  # loads slowly: not before it is needed

    inward = np.array([(row.half_breadth, row.height) for row in rows])[::-1]
    keep = np.concatenate([[True], np.diff(inward[:, 0]) > 1e-6])
    y, z = inward[keep].T
    found: dict[str, float] = {}
    if len(y) > 1:
        curve = PchipInterpolator(y, z)
        found = {f"deck buttock {level:.10g}": float(curve(level)) for level in levels if y[0] < level < y[-1] - SAME_MM}
    for row in rows:
        if row.label == "deck_chine":
            found["deck chine height"], found["deck chine half-breadth"] = row.height, row.half_breadth
    if rows[-1].half_breadth <= SAME_MM:
        found["deck centre"] = rows[-1].height
    return found

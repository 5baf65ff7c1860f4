"""Ease the lines that bound the skin: the sheer in profile, the keel, and the profiles of stems, each as a line of its own.

A point of the sheer that lies too high slides down the skin without leaving it, so that the skin's own easing never sees it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray
from ..geometry.polyline import runs_along
from ..offsets.table import END_LABELS, STATION_LABELS, OffsetsTable
from .fair_lines import keel_rows
from .field import best_scales, smoothed

FEWEST = 6
"""A line through fewer points tells nothing of their noise."""
ROUNDS = 4


@dataclass(frozen=True)
class Wish:
    """Where an offset of a line ought to lie: its row, what it moves by (station, height; mm) and by how much the line wants it."""

    row: int
    station: float
    height: float
    wanted: float


def line_wishes(table: OffsetsTable, most: float) -> tuple[Wish, ...]:
    """The moves of sheer, keel and stem profiles, none by more than `most` mm."""
    found: list[Wish] = []
    for rows, witness in _flat_lines(table):
        x = np.array([table.rows[k].station for k in rows])
        z = np.array([table.rows[k].height for k in rows])
        found += _wishes(rows, x, np.column_stack([np.zeros_like(z), z]), np.tile([0.0, 1.0], (len(x), 1)), witness, most)
    for rows in _stems(table):
        points = np.array([(table.rows[k].station, table.rows[k].height) for k in rows])
        run = runs_along(points)
        if run[-1] <= 0 or np.any(np.diff(run) <= 0):
            continue
        along = np.gradient(points, run, axis=0)
        square = np.column_stack([along[:, 1], -along[:, 0]])
        square /= np.maximum(np.linalg.norm(square, axis=1, keepdims=True), 1e-9)
        witness = np.zeros(len(rows), dtype=bool)
        witness[[0, -1]] = True  # the feet and heads belong to other lines as well
        found += _wishes(rows, run, points, square, witness, most)
    return tuple(found)


def _flat_lines(table: OffsetsTable) -> Iterator[tuple[list[int], BoolArray]]:
    """The rows of the sheer and of the keel, bow first, and which of them only bear witness: those of the ends."""
    ends = [k for k, row in enumerate(table.rows) if row.label in END_LABELS and not row.label.endswith("_chine")]
    sheer = [k for k, row in enumerate(table.rows) if row.label == "sheer"]
    heads = [max(own, key=lambda k: table.rows[k].height) for own in _by_end(table, ends)]
    for rows, label in (([*sheer, *heads], "sheer"), (keel_rows(table), "keel")):
        ordered = sorted(rows, key=lambda k: table.rows[k].station)
        x = [table.rows[k].station for k in ordered]
        if len(ordered) >= FEWEST and all(b > a for a, b in zip(x, x[1:], strict=False)):
            yield ordered, np.array([table.rows[k].label != label for k in ordered])


def _by_end(table: OffsetsTable, rows: list[int]) -> list[list[int]]:
    found: dict[tuple[str, bool], list[int]] = {}
    stations = [row.station for row in table.rows if row.label in STATION_LABELS]
    middle = (min(stations) + max(stations)) / 2 if stations else 0.0
    for k in rows:
        found.setdefault((table.rows[k].label, table.rows[k].station > middle), []).append(k)
    return list(found.values())


def _stems(table: OffsetsTable) -> Iterator[list[int]]:
    for label in ("stem_bow", "stem_stern"):
        rows = [k for k, row in enumerate(table.rows) if row.label == label]
        if len(rows) >= FEWEST:
            yield rows


def _wishes(rows: list[int], places: Array, points: Array, square: Array, witness: BoolArray, most: float) -> list[Wish]:
    """Moves of points (n, 2) square to a line; `witness` (n,) stay."""
    t = (places - places[0]) / (places[-1] - places[0])
    at = np.column_stack([t, np.zeros_like(t)])
    used = points[:, np.ptp(points, axis=0) > 0]
    if used.shape[1] == 0:
        return []
    scales = best_scales(at, used)
    values, stays = points.copy(), witness.copy()
    skin, wanted = np.zeros(len(points)), np.zeros(len(points))
    columns = np.ptp(points, axis=0) > 0
    for _ in range(ROUNDS):
        fair = values.copy()
        fair[:, columns] = smoothed(at, values[:, columns], scales, stays)
        wish = ((fair - points) * square).sum(axis=1)
        free = ~stays
        wanted = np.where(free, wish, wanted)
        skin = np.where(free, np.clip(wish, -most, most), skin)
        beyond = free & (np.abs(wish) > most)
        if not beyond.any():
            break
        values[beyond] = points[beyond] + skin[beyond, None] * square[beyond]
        stays = stays | beyond
    return [
        Wish(rows[k], float(skin[k] * square[k, 0]), float(skin[k] * square[k, 1]), float(wanted[k]))
        for k in np.flatnonzero(~witness).tolist()
    ]

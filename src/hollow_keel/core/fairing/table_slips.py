"""Slips of a whole station or edge: half-breadths shifted by one line, heights and half-breadths exchanged, a station at the wrong
place (a row shifted by one column is seen where it is read: files.tables). One wrong value is a doubt (see doubts); here everything
on one station is wrong together.

The table is laid out as lines against stations. How far each value lies from the cubic through its four neighbours along its line
tells how rough the table is; a slip is named where putting it right makes its station as fair as the rest.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..findings import mm
from ..geometry.arrays import Array
from ..offsets.by_lines import ByLines
from ..offsets.table import STATION_LABELS, OffsetRow, OffsetsTable

if TYPE_CHECKING:
    from ..findings import Finding

LEAST_STATIONS = 6
ROUGH_MM, USUAL_TIMES = 8.0, 4.0
"""A line or station is looked at when it is rougher than this, and so many times as rough as the table usually is."""
CURED = 0.35
"""A slip is named when putting it right leaves no more of the roughness."""
MOST = 3


@dataclass(frozen=True)
class TableSlip:
    """What may have gone wrong, in words, what is done about it, and the table put right; `cured` is the share of the roughness
    that goes with it."""

    what: str
    mend: str
    table: OffsetsTable
    cured: float


Candidate = tuple[float | None, str, str, OffsetsTable]
"""The station that is wrong (None: no one station), what may have gone wrong, the mend in words, the table put right."""


@dataclass(frozen=True)
class _Layout:
    """The table as lines against stations at `x`: `values` (lines, stations), nan where there is none."""

    table: OffsetsTable
    x: Array
    values: Array


def table_slips(table: OffsetsTable) -> tuple[TableSlip, ...]:
    """What would put the table right, the likeliest first; nothing where it is fair as it is."""
    laid = _laid_out(table)
    if laid is None:
        return ()
    far = _far_away(laid)
    if far is not None:
        return (far,)
    before = _roughness(laid.x, laid.values)
    usual = max(float(np.nanmedian(before)) if np.isfinite(before).any() else 0.0, 0.3)
    limit = max(ROUGH_MM, USUAL_TIMES * usual)
    if not np.nanmax(np.where(np.isfinite(before), before, 0.0), initial=0.0) > limit:
        return ()
    found: dict[str, TableSlip] = {}
    for at, what, mend, mended in _candidates(laid, before, limit):
        after = _laid_out(mended)
        if after is None:
            continue
        beside = _beside(laid.x, at), _beside(after.x, at)
        whole = _cost(before[:, beside[0]], limit)
        left = _cost(_roughness(after.x, after.values)[:, beside[1]], limit) / whole
        if left <= CURED and what not in found:
            found[what] = TableSlip(what, mend, mended, 1 - left)
    return tuple(sorted(found.values(), key=lambda slip: -slip.cured)[:MOST])


def _beside(x: Array, at: float | None) -> slice:
    """The stations that a wrong one makes rough: two on either side of it; all where it is no one station."""
    if at is None:
        return slice(None)
    k = int(np.argmin(np.abs(x - at)))
    return slice(max(k - 2, 0), k + 3)


def slip_findings(slips: tuple[TableSlip, ...]) -> list[Finding]:
    """The likeliest slip, to be looked at."""
    from ..findings import Finding, Weight

    return [Finding("table-slip", Weight.LOOK, "offsets", "the table", f"{slip.what} {slip.mend}?") for slip in slips[:1]]


def _laid_out(table: OffsetsTable) -> _Layout | None:
    read = ByLines(table)
    stations = sorted(read.stations)
    if len(stations) < LEAST_STATIONS:
        return None
    lines = tuple(line for line in read.lines if line.field != "along")
    values = np.array([[read.value(line, x) for x in stations] for line in lines], dtype=float)
    keep = np.isfinite(values).sum(axis=1) >= LEAST_STATIONS - 1
    return _Layout(table, np.array(stations), values[keep])


def _roughness(x: Array, values: Array) -> Array:
    """How far each value lies from the cubic through the four nearest others of its line, mm; nan where there are too few."""
    result = np.full(values.shape, np.nan)
    places = x.tolist()
    for k, line in enumerate(values.tolist()):
        given = [i for i, value in enumerate(line) if math.isfinite(value)]
        for n in range(1, len(given) - 1):
            around = [*given[max(n - 2, 0) : n], *given[n + 1 : n + 3]]
            if len(around) >= 3:
                j = given[n]
                at = _through([places[i] for i in around], [line[i] for i in around], places[j])
                result[k, j] = abs(line[j] - at)
    return result


def _through(x: list[float], y: list[float], at: float) -> float:
    """The polynomial through a few points, at a place (Lagrange); plain numbers: arrays of four are slower."""
    total = 0.0
    for i, own in enumerate(x):
        total += y[i] * math.prod((at - other) / (own - other) for other in (*x[:i], *x[i + 1 :]))
    return total


def _cost(rough: Array, limit: float) -> float:
    """One number for a whole table: what lies within the usual counts for nothing."""
    over = np.where(np.isfinite(rough), np.maximum(rough - limit / 2, 0.0), 0.0)
    return float(over.sum()) + 1e-9


def _candidates(laid: _Layout, rough: Array, limit: float) -> Iterator[Candidate]:
    filled = np.where(np.isfinite(rough), rough, 0.0)
    worst_stations = [j for j in np.argsort(-filled.mean(axis=0))[:4].tolist() if filled[:, j].max() > limit]
    yield from _lines_exchanged(laid)
    for j in worst_stations:
        yield from _station_exchanged(laid, float(laid.x[j]))
        yield from _station_shifted(laid, float(laid.x[j]))
        yield from _station_elsewhere(laid, float(laid.x[j]))


def _lines_exchanged(laid: _Layout) -> Iterator[Candidate]:
    """Heights and half-breadths of one edge written into each other's rows."""
    for edge in ("sheer", "chine", "keel"):
        rows = tuple(_turned(row) if row.label == edge else row for row in laid.table.rows)
        yield (
            None,
            f"Heights and half-breadths of the {edge} look exchanged.",
            "Exchange them",
            laid.table.model_copy(update={"rows": rows}),
        )


def _turned(row: OffsetRow) -> OffsetRow:
    written = {"half_breadth": row.written.get("height", ""), "height": row.written.get("half_breadth", "")}
    kept = {k: t for k, t in {**row.written, **written}.items() if t}
    return row.model_copy(update={"half_breadth": abs(row.height), "height": row.half_breadth, "written": kept})


def _of(row: OffsetRow, x: float) -> bool:
    return row.label in STATION_LABELS and row.station == x


def _station_exchanged(laid: _Layout, x: float) -> Iterator[Candidate]:
    rows = tuple(_turned(row) if _of(row, x) else row for row in laid.table.rows)
    yield (
        x,
        f"Heights and half-breadths of station {mm(x)} look exchanged.",
        "Exchange them",
        laid.table.model_copy(update={"rows": rows}),
    )
    for n, row in enumerate(laid.table.rows):
        if _of(row, x):
            one = (*laid.table.rows[:n], _turned(row), *laid.table.rows[n + 1 :])
            yield (
                x,
                f"Height and half-breadth of the {row.label} of station {mm(x)} look exchanged.",
                "Exchange them",
                laid.table.model_copy(update={"rows": one}),
            )


def _station_shifted(laid: _Layout, x: float) -> Iterator[Candidate]:
    """Half-breadths of a station written one waterline too high or too low."""
    numbers = [n for n, row in enumerate(laid.table.rows) if _of(row, x) and row.label == "wl"]
    if len(numbers) < 3:
        return
    values = [laid.table.rows[n].half_breadth for n in numbers]
    for step, way in ((1, "up"), (-1, "down")):
        rows = list(laid.table.rows)
        for k, n in enumerate(numbers):
            if 0 <= k - step < len(values):
                rows[n] = rows[n].model_copy(update={"half_breadth": values[k - step], "written": {}})
        out = numbers[0] if step == 1 else numbers[-1]
        del rows[out]
        yield (
            x,
            f"The half-breadths of station {mm(x)} look shifted by one line.",
            f"Put them one line {way}",
            laid.table.model_copy(update={"rows": tuple(rows)}),
        )


def _far_away(laid: _Layout) -> TableSlip | None:
    """A station so far from all others that a nought must be too many."""
    x, others = float(laid.x[-1]), laid.x[:-1]
    place = x / 10
    span = float(others[-1] - others[0])
    if x < others[-1] + 1.5 * span or not others[0] < place < others[-1] or np.abs(others - place).min() < 1:
        return None
    return TableSlip(
        f"The place of station {mm(x)} looks ten times too large.", f"Put it at {mm(place)}", _moved(laid.table, x, place), 1.0
    )


def _moved(table: OffsetsTable, x: float, place: float) -> OffsetsTable:
    moved = [row.model_copy(update={"station": place, "written": {}}) for row in table.rows if _of(row, x)]
    rest = [row for row in table.rows if not _of(row, x)]
    at = next((n for n, row in enumerate(rest) if row.label in STATION_LABELS and row.station > place), len(rest))
    return table.model_copy(update={"rows": (*rest[:at], *moved, *rest[at:])})


def _station_elsewhere(laid: _Layout, x: float) -> Iterator[Candidate]:
    """A station whose place was counted from the other end."""
    low, high = float(laid.x.min()), float(laid.x.max())
    others = [own for own in laid.x.tolist() if own != x]
    for place in dict.fromkeys((low + high - x, max(others) + min(others) - x)):
        if min(others) < place < max(others) and min(abs(place - own) for own in others) >= 1:
            yield (
                None,
                f"The place of station {mm(x)} looks counted from the other end.",
                f"Put it at {mm(place)}",
                _moved(laid.table, x, place),
            )

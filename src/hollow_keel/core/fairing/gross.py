"""Gross slips: points that break their own station's curve, found before any neighbour is asked.

A slip of many centimetres spoils the very surface on which the finer judgement stands (a wrong sheer height shifts
every point of its station along the skin), so it must be put aside first. Each station is judged by itself: the
distance of a point from the curve through the station's other points is a few millimetres in a sound table, whatever
the hull; the point is sought without which the rest lies fair again.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array
from ..geometry.batch_spline import sample_splines
from ..offsets.table import STATION_LABELS, OffsetRow, OffsetsTable, spans
from .fair_lines import keel_rows

GROSS_MM = 14.0
"""A point this far from the curve of its station's others is a gross slip: sound tables of nine hulls, each station
with seven to thirteen points, stayed below 6 mm."""
ABOVE_USUAL = 3.0
"""Where all stations are rough (few points, tight bilges), so many times the table's median instead."""
CURED = 0.45
"""The right point was put aside if what is left is so many times better, or better."""
MOST_A_STATION = 3
EDGE_MM = 30.0
"""A sheer or keel row is a gross slip too if it lies so far off its own line along the hull, or"""
EDGE_USUAL = 8.0
"""so many times the usual distance."""
MOST_AN_EDGE = 3
LEAST_EDGE = 7
DENSE = 161


@dataclass(frozen=True)
class Gross:
    """A gross slip: the number of its row, and the row with one value put where its station's others want it, for
    each of the two values that can be the wrong one (None where that cannot be)."""

    row: int
    other_breadth: OffsetRow | None
    other_height: OffsetRow | None


def gross_slips(table: OffsetsTable) -> tuple[Gross, ...]:
    """All gross slips of a table."""
    stations = [own for own in _stations(table) if len(own) >= 5]
    worst = [_roughness(_points(table, own)) for own in stations]
    if not worst:
        return ()
    limit = max(GROSS_MM, ABOVE_USUAL * float(np.median(worst)))
    found = [g for own, rough in zip(stations, worst, strict=True) if rough > limit for g in _of_station(table, own, limit)]
    for gross in found:
        table = table.with_row(gross.row, gross.other_breadth or gross.other_height or table.rows[gross.row])
    return (*found, *_along_edges(table, {g.row for g in found}))


def _along_edges(table: OffsetsTable, known: set[int]) -> Iterator[Gross]:
    """Keel and sheer rows far off their own line along the hull, though their station does not show it: a wrong sheer
    height on an upright side slides along the skin. The worst first, since it draws its neighbours after it."""
    sheer = [k for k, row in enumerate(table.rows) if row.label == "sheer"]
    keel = [k for k in keel_rows(table) if table.rows[k].label == "keel"]
    for rows in (sheer, keel):
        inner = rows[2:-2]  # with two of its line on each side
        for _ in range(MOST_AN_EDGE if len(rows) >= LEAST_EDGE else 0):
            off = {k: _off_line(table, k, rows) for k in inner}
            limit = max(EDGE_MM, EDGE_USUAL * float(np.median(list(off.values()))))
            worst = max(off, key=lambda k: off[k])
            if off[worst] <= limit:
                break
            gross = _on_edge(table, worst, rows)
            table = table.with_row(worst, gross.other_breadth or gross.other_height or table.rows[worst])
            if worst not in known:
                yield gross


def _off_line(table: OffsetsTable, k: int, rows: list[int]) -> float:
    there = _along(table, k, rows)
    return 0.0 if there is None else max(abs(there[0] - table.rows[k].half_breadth), abs(there[1] - table.rows[k].height))


def _stations(table: OffsetsTable) -> Iterator[list[int]]:
    """Row numbers of each part of a station between its ends and its knuckles."""
    found: dict[float, list[int]] = {}
    for k, row in enumerate(table.rows):
        if row.label in STATION_LABELS:
            found.setdefault(row.station, []).append(k)
    for numbers in found.values():
        knuckles = (i for i, k in enumerate(numbers) if table.rows[k].label == "chine")
        for part in spans(len(numbers), knuckles):
            yield numbers[part]


def _points(table: OffsetsTable, numbers: list[int]) -> Array:
    return np.array([(table.rows[k].half_breadth, table.rows[k].height) for k in numbers])


def _curves(sets: Array) -> Array | None:
    """Cubics through sets of points (b, n, 2) over their chords, densely, (b, DENSE, 2); None where points coincide."""
    steps = np.linalg.norm(np.diff(sets, axis=1), axis=2)
    if np.any(steps < 1e-9):
        return None
    chords = np.concatenate([np.zeros((len(sets), 1)), np.cumsum(steps, axis=1)], axis=1)
    return sample_splines(chords / chords[:, -1:], sets, np.linspace(0, 1, DENSE))


def _roughness(points: Array) -> float:
    """The greatest distance of an inner point from the curve through the others, mm."""
    inner = range(1, len(points) - 1)
    curves = _curves(np.stack([np.delete(points, k, axis=0) for k in inner]))
    if curves is None:
        return 0.0
    return float(np.linalg.norm(curves - points[1:-1, None], axis=2).min(axis=1).max())


def _of_station(table: OffsetsTable, numbers: list[int], limit: float) -> Iterator[Gross]:
    left = list(numbers)
    out: list[int] = []
    while len(out) < MOST_A_STATION and len(left) >= 5:
        before = _roughness(_points(table, left))
        if before <= limit:
            break
        after = {
            k: _roughness(_points(table, [n for n in left if n != k])) for k in left if _may_be_wrong(table, numbers, k, limit)
        }
        best = min(after, key=lambda k: after[k], default=None)
        if best is None or after[best] > max(CURED * before, 0.6 * limit):
            break
        left.remove(best)
        out.append(best)
    curves = _curves(_points(table, left)[None])
    for k in out:
        if curves is not None:
            yield _gross(table, numbers, k, curves[0])


def _may_be_wrong(table: OffsetsTable, numbers: list[int], k: int, limit: float) -> bool:
    """An end of a station can always be cut off: it is wrong only if it breaks its own line along the hull too."""
    if k not in (numbers[0], numbers[-1]):
        return True
    there = _along(table, k, _like(table, k))
    row = table.rows[k]
    return there is not None and max(abs(there[0] - row.half_breadth), abs(there[1] - row.height)) > 0.5 * limit


def _like(table: OffsetsTable, k: int) -> list[int]:
    return [n for n, row in enumerate(table.rows) if row.label == table.rows[k].label]


def _along(table: OffsetsTable, k: int, rows: list[int]) -> tuple[float, float] | None:
    """Half-breadth and height of a keel, chine or sheer from the two stations on each side, robustly: of the lines
    and parabolas through them, the middle one."""
    row = table.rows[k]
    beside = [table.rows[n] for n in rows if table.rows[n].station != row.station]
    before = sorted((r for r in beside if r.station < row.station), key=lambda r: -r.station)[:2]
    after = sorted((r for r in beside if r.station > row.station), key=lambda r: r.station)[:2]
    near = [*before, *after]
    if len(near) < 3:
        return None
    x = np.array([r.station - row.station for r in near])
    x = x / np.abs(x).max()
    found = []
    for values in (np.array([r.half_breadth for r in near]), np.array([r.height for r in near])):
        guesses = [_lagrange(x, values)]
        guesses += [_lagrange(np.delete(x, i), np.delete(values, i)) for i in range(len(near))]
        found.append(float(np.median(guesses)))
    return found[0], found[1]


def _lagrange(x: Array, values: Array) -> float:
    """At nothing, the polynomial through points."""
    weights = [np.prod(np.delete(-x, i) / (x[i] - np.delete(x, i))) for i in range(len(x))]
    return float(np.dot(weights, values))


def _gross(table: OffsetsTable, numbers: list[int], k: int, curve: Array) -> Gross:
    row = table.rows[k]
    if k in (numbers[0], numbers[-1]):
        return _on_edge(table, k, _like(table, k))
    at = numbers.index(k) / (len(numbers) - 1)
    y, z = _crossing(curve, 1, row.height, at), _crossing(curve, 0, row.half_breadth, at)
    return Gross(
        k,
        None if y is None else row.model_copy(update={"half_breadth": max(y, 0.0)}),
        None if z is None else row.model_copy(update={"height": z}),
    )


def _on_edge(table: OffsetsTable, k: int, rows: list[int]) -> Gross:
    """A row of keel, chine or sheer put where its line along the hull wants it."""
    row, there = table.rows[k], _along(table, k, rows)
    assert there is not None  # else it would not have been put aside
    out, up = abs(there[0] - row.half_breadth), abs(there[1] - row.height)
    breadth = row.model_copy(update={"half_breadth": max(there[0], 0.0)}) if out > 0.4 * up else None
    height = row.model_copy(update={"height": there[1]}) if up > 0.4 * out else None
    return Gross(k, breadth, height)


def _crossing(curve: Array, axis: int, value: float, near: float) -> float | None:
    """The other coordinate where the curve takes a value; of several crossings, the one nearest to share `near` of it."""
    side = curve[:, axis] - value
    hits = np.flatnonzero(side[:-1] * side[1:] <= 0)
    if not len(hits):
        return None
    k = int(hits[np.argmin(np.abs(hits / len(curve) - near))])
    share = side[k] / (side[k] - side[k + 1]) if side[k] != side[k + 1] else 0.0
    return float(curve[k, 1 - axis] + share * (curve[k + 1, 1 - axis] - curve[k, 1 - axis]))

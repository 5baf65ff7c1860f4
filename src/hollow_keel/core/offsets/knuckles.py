"""Chines where a table does not mark them: on stem and transom, and where a chine fades or runs into the sheer.

A builder marks a chine where it can be seen: on the stations. Where it meets the ends follows from how it runs.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ..errors import InputError
from ..findings import mm
from ..geometry.arrays import Array
from ..geometry.curves import LoftCurve
from .table import END_LABELS, STATION_LABELS, OffsetRow, OffsetsTable, is_at_bow, read_lines

CORNER = math.radians(12)
"""A transom that turns more sharply than this at a point has its knuckle there."""
NEAR_SHARE = 0.06
"""A drawn point so near to the place (in shares of the girth) is taken for it."""
NEAR_MM = 1.0


def with_all_knuckles(table: OffsetsTable) -> tuple[OffsetsTable, tuple[str, ...]]:
    """The table with its chines marked on every station and both ends, and what was taken for granted, in words. A table that
    has none, or in which one is missing between stations that have it, is given back as it is."""
    stations = _stations(table)
    counts = [sum(row.label == "chine" for row in own) for own in stations]
    most = max(counts, default=0)
    with_all = [k for k, count in enumerate(counts) if count == most]
    if most == 0 or with_all != list(range(with_all[0], with_all[-1] + 1)):
        return table, ()
    notes: list[str] = []
    done = _faded(stations, counts, most, with_all, table, notes)
    middle = _middle(stations)
    of_ends = [row for row in table.rows if row.label in END_LABELS]
    ends = {bow: [row for row in of_ends if is_at_bow(row, middle) == bow] for bow in (True, False)}
    for at_bow, rows in ends.items():
        ends[at_bow] = _on_end(rows, done, most, at_bow=at_bow, notes=notes)
    found = (*ends[True], *(row for own in done for row in own), *ends[False])
    return table.model_copy(update={"rows": found}), tuple(notes)


def read_marked(table: OffsetsTable) -> tuple[OffsetsTable, tuple[str, ...]]:
    """A table that makes lines: as it is, or with the chines marked that it leaves unmarked, and what was taken for granted. Raises
    InputError where neither does."""
    try:
        read_lines(table)
    except InputError:
        marked, notes = with_all_knuckles(table)
        if not notes:
            raise
        read_lines(marked)
        return marked, notes
    return table, ()


def _stations(table: OffsetsTable) -> list[list[OffsetRow]]:
    found: dict[float, list[OffsetRow]] = {}
    for row in table.rows:
        if row.label in STATION_LABELS:
            found.setdefault(row.station, []).append(row)
    return list(found.values())


def _middle(stations: Sequence[Sequence[OffsetRow]]) -> float:
    return (stations[0][0].station + stations[-1][0].station) / 2


def _section(rows: Sequence[OffsetRow]) -> Array:
    return np.array([(row.half_breadth, row.height) for row in rows])


def _shares(rows: Sequence[OffsetRow]) -> list[float]:
    """How far along its girth, from the keel, each chine of a station lies."""
    runs = LoftCurve(_section(rows)).fractions
    return [float(runs[k]) for k, row in enumerate(rows) if row.label == "chine"]


def _faded(
    stations: list[list[OffsetRow]], counts: list[int], most: int, with_all: list[int], table: OffsetsTable, notes: list[str]
) -> list[list[OffsetRow]]:
    """The stations past the ends of a chine divided where it would have run on: there the section is round."""
    done = list(stations)
    for k, own in enumerate(stations):
        if counts[k] == most or _leaves_by_a_raked_end(own, table, stations):
            continue
        nearest = with_all[0] if k < with_all[0] else with_all[-1]
        if counts[k] or len(own) < 2:
            return stations
        for share in _shares(stations[nearest]):
            done[k] = _marked(done[k], share, "chine")
        notes.append(
            f"Station {mm(own[0].station)} has no chine: it is divided where the chine would have run on, and stays round there."
        )
    return done


def _leaves_by_a_raked_end(own: Sequence[OffsetRow], table: OffsetsTable, stations: Sequence[Sequence[OffsetRow]]) -> bool:
    """Whether a station begins above the place where a marked chine meets a raked end."""
    x, middle = own[0].station, _middle(stations)
    marks = [row for row in table.rows if row.label.endswith("_chine")]
    return any((row.station > x) if x < middle else (row.station < x) for row in marks if (row.station < middle) == (x < middle))


def _marked(rows: Sequence[OffsetRow], share: float, label: str) -> list[OffsetRow]:
    """Rows of one curve with its place at a share of the girth marked: a point that is drawn near it, or a new one."""
    curve = LoftCurve(np.array([(r.station, r.half_breadth, r.height) for r in rows]))
    off = np.abs(curve.fractions - share)
    near = [k for k in range(1, len(rows) - 1) if not rows[k].label.endswith("chine")]
    best = min(near, key=lambda k: off[k], default=None)
    found = list(rows)
    if best is not None and off[best] <= NEAR_SHARE:
        found[best] = rows[best].model_copy(update={"label": label})
        return found
    x, y, z = np.round(curve.at_fractions(np.array([share]))[0], 2).tolist()
    at = rows[0].station if label == "chine" else x
    new = OffsetRow(station=at, label=label, half_breadth=max(y, 0.0), height=z)
    found.insert(int(np.searchsorted(curve.fractions, share)), new)
    return found


def _on_end(
    rows: list[OffsetRow], stations: Sequence[Sequence[OffsetRow]], most: int, *, at_bow: bool, notes: list[str]
) -> list[OffsetRow]:
    if any(row.label.endswith("_chine") for row in rows) or len(rows) < 2:
        return rows
    nearest = stations[0 if at_bow else -1]
    if rows[0].label == "transom":
        found = _on_transom(rows, _shares(nearest), most)
        where = "transom"
    else:
        beyond = stations[1 if at_bow else -2]
        found = _on_stem(rows, nearest, beyond)
        where = "stem"
    marks = [row for row in found if row.label.endswith("_chine")]
    if len(marks) == most:
        places = ", ".join(mm(round(row.height, 1)) for row in marks)
        notes.append(
            f"Where the chine meets the {where} is not marked: it is taken to be at height {places}, "
            + (
                "where the transom turns."
                if where == "transom"
                else "where it comes to when it runs on as it does between the last stations."
            )
        )
    return found


def _on_transom(rows: list[OffsetRow], shares: list[float], most: int) -> list[OffsetRow]:
    """At its sharpest corners; a round one where the nearest station has its chine."""
    found = list(rows)
    steps = np.diff(_section(rows), axis=0)
    turn = np.abs(np.diff(np.unwrap(np.arctan2(steps[:, 1], steps[:, 0]))))
    sharp = sorted(np.argsort(-turn)[:most].tolist()) if len(turn) >= most else []
    if len(sharp) == most and all(turn[k] > CORNER for k in sharp):
        for k in sharp:
            found[k + 1] = rows[k + 1].model_copy(update={"label": "transom_chine"})
        return found
    for share in shares:
        found = _marked(found, share, "transom_chine")
    return found


def _on_stem(rows: list[OffsetRow], nearest: Sequence[OffsetRow], beyond: Sequence[OffsetRow]) -> list[OffsetRow]:
    """Where each chine, carried straight on in profile, comes to the stem; at its foot where it comes out below."""
    label = rows[0].label + "_chine"
    found = list(rows)
    for first, second in zip((r for r in nearest if r.label == "chine"), (r for r in beyond if r.label == "chine"), strict=False):
        found = _met(found, first, second, label)
    return found


def _met(rows: list[OffsetRow], first: OffsetRow, second: OffsetRow, label: str) -> list[OffsetRow]:
    slope = (first.height - second.height) / (first.station - second.station)
    above = [row.height - (first.height + slope * (row.station - first.station)) for row in rows]
    crossed = next((k for k in range(len(rows) - 1) if above[k] <= 0 < above[k + 1]), None)
    found = list(rows)
    if crossed is None:
        at = 0 if above[0] > 0 else len(rows) - 1
        found[at] = rows[at].model_copy(update={"label": label})
        return found
    a, b = rows[crossed], rows[crossed + 1]
    share = -above[crossed] / (above[crossed + 1] - above[crossed])
    gap = math.hypot(b.station - a.station, b.height - a.height)
    for at, away in ((crossed, share * gap), (crossed + 1, (1 - share) * gap)):
        if away < NEAR_MM and not rows[at].label.endswith("_chine"):
            found[at] = rows[at].model_copy(update={"label": label})
            return found

    def between(p: float, q: float) -> float:
        return round(p + share * (q - p), 2)

    new = OffsetRow(
        station=between(a.station, b.station),
        label=label,
        half_breadth=between(a.half_breadth, b.half_breadth),
        height=between(a.height, b.height),
    )
    found.insert(crossed + 1, new)
    return found

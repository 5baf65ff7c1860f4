"""A table of offsets from drawn or measured curves: stations as polylines, ends as polylines.

What could not be used is said, never guessed.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import InputError
from ..findings import mm
from ..geometry.arrays import Array, rows_at
from ..geometry.polyline import runs_along
from .compared import Compared
from .over_deck import CLOSED_SHARE, deck_rows, parted
from .table import END_LABELS, ROUND_MM, OffsetRow, OffsetsTable, spans, to_tenth

POINTS = 9
"""Points on each station, corners included."""
END_POINTS = 8
AS_DRAWN = 14
"""A polyline with at most so many points is taken as it was drawn."""
CORNER = np.radians(25)
"""A turn sharper than this within REACH of the girth on each side is a knuckle."""
SLIGHT = np.radians(9)
"""The same where neighbouring stations have a knuckle."""
REACH = 0.04
LEAST_DECKED, DECKED = 3, 0.5
"""There is a deck where so many stations show one, and so great a share of them."""
CENTRE_MM = 1.0
"""A point this near to the centreline is on it."""


@dataclass(frozen=True)
class StationCurve:
    """One station: its position, and a polyline of (half-breadth, height), (n, 2) mm, in either direction; its deck from the sheer
    inward where that is known apart (one that goes on over a deck is parted at its corner)."""

    x: float
    points: Array
    deck: Array | None = None


@dataclass(frozen=True)
class EndCurve:
    """A stem or transom: its label in the table and its points (position, half-breadth, height), (n, 3), foot to head."""

    label: str
    points: Array


@dataclass(frozen=True)
class Taken:
    """The table that came of it, and what the builder should know."""

    table: OffsetsTable
    remarks: tuple[str, ...]
    compared: Compared | None = None
    """How far the hull that the table draws lies from what it was taken from, where that is known."""


def table_from_curves(stations: list[StationCurve], ends: list[EndCurve]) -> Taken:
    """The table. Raises InputError where fewer than three stations can be used."""
    remarks: list[str] = []
    usable = _usable(stations, remarks)
    if len(usable) < 3:
        raise InputError("a hull needs at least three stations", value=f"{len(usable)} can be used", mend=" ".join(remarks))
    usable = _with_slight_corners(usable)
    counts = [len(station.corners) for station in usable]
    chined = min(counts) == max(counts) > 0
    if max(counts) > 0 and not chined:
        remarks.append(
            "Some stations have a sharp corner and others have not, so none is taken as a chine. "
            "Where it is one, label its points chine."
        )
    if chined and ends:
        remarks.append("Label the point where the chine meets each end (stem_bow_chine, transom_chine).")
    usable = _decked(usable, remarks)
    rows = [row for station in usable for row in station.rows(chined)]
    return Taken(table_from_rows(rows, ends), tuple(remarks))


def table_from_rows(rows: list[OffsetRow], ends: list[EndCurve]) -> OffsetsTable:
    """The table of stations' rows, bow first, and ends. Raises InputError for fewer than three stations."""
    places = sorted({row.station for row in rows})
    if len(places) < 3:
        raise InputError("a hull needs at least three stations", value=f"{len(places)} can be used")
    middle = (places[0] + places[-1]) / 2
    bow = [row for end in ends if end.points[:, 0].mean() < middle for row in _end_rows(end)]
    stern = [row for end in ends if end.points[:, 0].mean() >= middle for row in _end_rows(end)]
    return OffsetsTable(rows=(*bow, *rows, *stern))


@dataclass(frozen=True)
class _Reduced:
    """A station with few points; `whole` is its polyline from the keel."""

    x: float
    points: Array
    corners: tuple[int, ...]
    whole: Array
    deck: Array | None = None

    def rows(self, chined: bool) -> list[OffsetRow]:
        labels = ["keel", *["wl"] * (len(self.points) - 2), "sheer"]
        for k in self.corners if chined else ():
            labels[k] = "chine"
        rows = [_row(self.x, label, y, z) for label, (y, z) in zip(labels, self.points.tolist(), strict=True)]
        return rows if self.deck is None else [*rows, *deck_rows(self.x, self.deck)]


def _decked(stations: list[_Reduced], remarks: list[str]) -> list[_Reduced]:
    """The stations with their decks, where so many show one that there is a deck; else without."""
    decked = sum(station.deck is not None for station in stations)
    if decked < max(LEAST_DECKED, DECKED * len(stations)):
        return [replace(station, deck=None) for station in stations]
    bare = len(stations) - decked
    said = f", at all stations but {bare}" if bare else ""
    remarks.append(f"The sections go on over a deck: it is taken as well{said}.")
    return stations


def _usable(stations: list[StationCurve], remarks: list[str]) -> list[_Reduced]:
    usable: list[_Reduced] = []
    for station in sorted(stations, key=lambda s: s.x):
        points, deck = parted(_from_keel(station.points)) if station.deck is None else (_from_keel(station.points), station.deck)
        if len(points) < 2 or _girth(points)[-1] < 10 * CENTRE_MM:
            remarks.append(f"Station {mm(station.x)} was left out: its curve is too short.")
        elif usable and abs(usable[-1].x - station.x) < CENTRE_MM:
            remarks.append(f"A second curve at station {mm(station.x)} was left out.")
        else:
            usable.append(_Reduced(station.x, *reduced(points), points, deck))
    return usable


def _with_slight_corners(stations: list[_Reduced]) -> list[_Reduced]:
    """Where most stations have a corner, the others' slighter one counts too: a chine fades towards the ends."""
    with_one = sum(len(s.corners) == 1 for s in stations)
    if not len(stations) / 2 < with_one < len(stations):
        return stations
    found: list[_Reduced] = []
    for station in stations:
        points, corners = station.points, station.corners
        if not corners:
            points, corners = reduced(station.whole, SLIGHT)
        if len(corners) != 1:
            return stations
        found.append(_Reduced(station.x, points, corners, station.whole, station.deck))
    return found


def _end_rows(end: EndCurve) -> list[OffsetRow]:
    if end.label not in END_LABELS:
        raise InputError("no such end", value=end.label, mend="Use stem_bow, stem_stern or transom.")
    return [_row(x, end.label, y, z) for x, y, z in _thinned(end.points, END_POINTS).tolist()]


def _row(x: float, label: str, y: float, z: float) -> OffsetRow:
    return OffsetRow(station=to_tenth(x), label=label, half_breadth=max(to_tenth(y), 0.0), height=to_tenth(z))


def _girth(points: Array) -> Array:
    return runs_along(points)


def _from_keel(points: Array) -> Array:
    """The polyline from its keel end: the one nearer to the centreline, or the lower where both are near it."""
    keep = np.concatenate([[True], np.linalg.norm(np.diff(points, axis=0), axis=1) > ROUND_MM / 2])
    points = points[keep]
    if len(points) < 2:
        return points
    (y0, z0), (y1, z1) = points[0], points[-1]
    both = max(abs(y0), abs(y1)) < CLOSED_SHARE * float(np.abs(points[:, 0]).max())  # keel, and the centreline of a deck
    turned = z1 < z0 if both or abs(y0 - y1) < CENTRE_MM else y1 < y0
    return points[::-1] if turned else points


def reduced(points: Array, corner: float = CORNER) -> tuple[Array, tuple[int, ...]]:
    """A station's polyline with few points, corners kept; (n, 2), and the numbers of the corners among them."""
    corners = corners_of(points, corner)
    if len(points) <= AS_DRAWN:
        return points, corners
    girth = _girth(points)
    parts: list[Array] = []
    kept: list[int] = []
    total = 1
    for part in spans(len(points), corners):
        share = float(girth[part.stop - 1] - girth[part.start]) / float(girth[-1])
        count = max(2, round((POINTS - 1) * share))
        parts.append(_thinned(points[part], count + 1)[:-1])
        total += count
        kept.append(total - 1)
    return np.concatenate([*parts, points[-1:]]), tuple(kept[:-1])


def _thinned(points: Array, count: int) -> Array:
    """Points at even steps of a polyline's length, its ends kept; a polyline with fewer points stays as it is."""
    if len(points) <= count:
        return points
    girth = _girth(points)
    even = np.linspace(0, girth[-1], count)
    return rows_at(even, girth, points)


def corners_of(points: Array, sharp: float) -> tuple[int, ...]:
    """Numbers of the points at which a polyline (n, 2), mm, turns by more than `sharp` radians between one REACH before and one
    after, the sharpest of each group."""
    girth = _girth(points)
    reach = REACH * girth[-1]

    before = points - rows_at(girth - reach, girth, points)
    after = rows_at(girth + reach, girth, points) - points
    turn = np.abs(np.angle(np.exp(1j * (np.arctan2(after[:, 1], after[:, 0]) - np.arctan2(before[:, 1], before[:, 0])))))
    inside = (girth > reach) & (girth < girth[-1] - reach)
    turn[~inside] = 0.0
    found: list[int] = []
    while turn.max() > sharp:
        k = int(np.argmax(turn))
        found.append(k)
        turn[np.abs(girth - girth[k]) < 2 * reach] = 0.0
    return tuple(sorted(found))

"""Picking points off a picture: two marks or more, then stations and ends point by point. Knows nothing of windows."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from ..core.errors import InputError
from ..core.geometry.arrays import Array
from ..core.geometry.curves import cubics_through
from ..core.offsets.calibration import AGREE_PIXELS, Calibration, KnownPoint, calibrate
from ..core.offsets.deck_rows import decks_of_ends
from ..core.offsets.over_deck import parted
from ..core.offsets.table import (
    DECK_LABELS,
    END_LABELS,
    ROUND_MM,
    STATION_LABELS,
    OffsetRow,
    OffsetsTable,
    is_at_bow,
    spans,
    to_tenth,
)

STATION, BOW, STERN, TRANSOM = "station", "stem_bow", "stem_stern", "transom"


@dataclass(frozen=True)
class Target:
    """What is being picked: a station or an upright transom at a position (mm), or the profile of a stem."""

    kind: str
    position: float = 0.0


@dataclass
class Picked:
    """A point in mm, and whether a chine passes through it; `pixel` is where it was picked."""

    across: float
    up: float
    pixel: tuple[float, float]
    chine: bool = False


@dataclass
class Picking:
    """All picks so far. `half_siding` mm is that of stems."""

    half_siding: float = 0.0
    marks: list[KnownPoint | None] = field(default_factory=lambda: [None, None])
    target: Target = Target(STATION)
    points: dict[Target, list[Picked]] = field(default_factory=dict)

    @property
    def calibration(self) -> Calibration | None:
        """From pixels to mm, once two marks stand. Raises InputError where they fit nothing."""
        known = [mark for mark in self.marks if mark is not None]
        return calibrate(*known) if len(known) >= 2 else None

    @property
    def doubt(self) -> tuple[int, float] | None:
        """The mark that lies farthest off where the others put it, and how far, mm; None where all agree."""
        calibration = self.calibration
        if calibration is None or calibration.off_pixels <= AGREE_PIXELS:
            return None
        worst = int(np.argmax(calibration.misses))
        return [k for k, mark in enumerate(self.marks) if mark is not None][worst], calibration.misses[worst]

    def set_mark(self, number: int, pixel: tuple[float, float], mm: tuple[float, float]) -> None:
        """Put a mark; it may be moved at any time: points already picked stay."""
        self.marks += [None] * (number + 1 - len(self.marks))
        self.marks[number] = KnownPoint(pixel, mm)

    def lines(self) -> dict[Target, list[Array]]:
        """The battens through what was picked, in pixels, (n, 2), each from chine to chine; of targets with two points or more."""
        found = {}
        for target, every in self.points.items():
            own = [p for k, p in enumerate(every) if k == 0 or p.pixel != every[k - 1].pixel]
            if len(own) >= 2:
                at = np.array([point.pixel for point in own])
                chines = [k for k in range(1, len(own) - 1) if own[k].chine]
                found[target] = [cubics_through(at[part]) for part in spans(len(own), chines)]
        return found

    def pick(self, x: float, y: float) -> Picked:
        """A point of the present target. Raises InputError before two marks stand."""
        calibration = self.calibration
        if calibration is None:
            raise InputError("the picture has no measure yet", mend="Set two marks first.")
        across, up = calibration.place(x, y)
        if self.target.kind in (STATION, TRANSOM):
            across = abs(across)
        point = Picked(across, up, (x, y))
        self.points.setdefault(self.target, []).append(point)
        return point

    def take_back(self) -> None:
        """Forget the last point of the present target."""
        own = self.points.get(self.target, [])
        if own:
            own.pop()
        if not own:
            self.points.pop(self.target, None)

    def toggle_chine(self) -> None:
        """Say that a chine passes through the last point, or that none does."""
        own = self.points.get(self.target, [])
        if own:
            own[-1].chine = not own[-1].chine

    def rows(self, target: Target) -> list[OffsetRow]:
        """The rows of one target, keel to sheer whichever way it was picked. Raises InputError for too few points."""
        own = self.points[target]
        name = f"station {target.position:g}" if target.kind == STATION else target.kind.replace("_", " ")
        if len(own) < 2:
            raise InputError("one point makes no line", name, mend="Pick it from keel to sheer.")
        if own[0].up > own[-1].up:
            own = own[::-1]
        sheer = self._sheer_of(target, own)
        rows = [self._row(target, point, k, sheer + 1) for k, point in enumerate(own[: sheer + 1])]
        return rows + [_over(target, point, last=point is own[-1]) for point in own[sheer + 1 :]]

    def _sheer_of(self, target: Target, own: list[Picked]) -> int:
        """Which point of a station is its sheer: the last one, or the corner of one that was picked on over the deck to the
        centreline."""
        if target.kind != STATION:
            return len(own) - 1
        hull, deck = parted(np.array([(point.across, point.up) for point in own]))
        return len(own) - 1 if deck is None else len(hull) - 1

    def _row(self, target: Target, point: Picked, k: int, count: int) -> OffsetRow:
        if target.kind in (BOW, STERN):
            station, out = point.across, self.half_siding
        else:
            station, out = target.position, point.across
        if target.kind == STATION:
            label = "keel" if k == 0 else "sheer" if k == count - 1 else "chine" if point.chine else "wl"
        else:
            label = target.kind + ("_chine" if point.chine else "")
        return OffsetRow(station=to_tenth(station), label=label, half_breadth=to_tenth(out), height=to_tenth(point.up))

    def onto(self, table: OffsetsTable) -> OffsetsTable:
        """The table with everything picked; a station or an end that it had is replaced. Raises InputError."""
        if not self.points:
            raise InputError("nothing was picked", mend="Set the marks, then click along a station from keel to sheer.")
        kept = list(table.rows)
        for target in self.points:
            kept = [row for row in kept if not _same(target, row, table)]
        made = [row for target in self.points for row in self.rows(target)]
        every = [*kept, *made]
        of_ends = decks_of_ends(every)
        own = STATION_LABELS | DECK_LABELS
        stations = sorted(
            (r for k, r in enumerate(every) if r.label in own and k not in of_ends), key=lambda r: r.station
        )  # stable: a station's rows stay in order
        middle = (stations[0].station + stations[-1].station) / 2 if stations else 0.0
        ends = [r for k, r in enumerate(every) if r.label in END_LABELS or k in of_ends]
        bow = [r for r in ends if _at_bow(r, middle)]
        stern = [r for r in ends if not _at_bow(r, middle)]
        return table.model_copy(update={"rows": (*bow, *stations, *stern)})


def _over(target: Target, point: Picked, *, last: bool) -> OffsetRow:
    """A point past the sheer; the last one lies on the centreline."""
    label = "deck_centre" if last else "deck_chine" if point.chine else "deck"
    breadth = 0.0 if last else to_tenth(point.across)
    return OffsetRow(station=to_tenth(target.position), label=label, half_breadth=breadth, height=to_tenth(point.up))


def _at_bow(row: OffsetRow, middle: float) -> bool:
    return row.station < middle if row.label in DECK_LABELS else is_at_bow(row, middle)


def _same(target: Target, row: OffsetRow, table: OffsetsTable) -> bool:
    if target.kind == STATION:
        return row.label in STATION_LABELS | DECK_LABELS and abs(row.station - target.position) < ROUND_MM
    if target.kind in (BOW, STERN):
        return row.label.startswith(target.kind)
    places = [r.station for r in table.rows]
    middle = (min(places) + max(places)) / 2 if places else 0.0
    return row.label.startswith(TRANSOM) and (row.station > middle) == (target.position > middle)

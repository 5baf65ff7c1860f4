"""Tables by points: a row for each point, in whatever order of columns, stations and points."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field

from ...core.errors import InputError
from ...core.offsets.deck_rows import decks_of_ends
from ...core.offsets.table import DECK_LABELS, END_LABELS, OffsetRow
from ...core.offsets.typed_sheet import Dot
from .grid import Grid
from .numbers import Comma, Lengths, is_blank
from .understood import Column, LeftOut
from .words import Meaning, label_of

SAME_MM = 0.01
LENGTHS = {Meaning.STATION: "station", Meaning.HALF_BREADTH: "half_breadth", Meaning.HEIGHT: "height"}


@dataclass
class PointsRead:
    """What came of the rows."""

    rows: list[OffsetRow] = field(default_factory=list)
    left_out: list[LeftOut] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    wanting: Counter[Meaning] = field(default_factory=Counter)
    """How many points lack one of their offsets: the designer, or who types, gave none."""
    dots: list[Dot] = field(default_factory=list)
    """Every point that something is said of, whole or not."""

    def note(self, text: str) -> None:
        """Say something once."""
        if text not in self.notes:
            self.notes.append(text)


def read_points(grid: Grid, first: int, columns: tuple[Column, ...], comma: Comma, siding: float = 0.0) -> PointsRead:
    """The points of the rows from `first` (from 0) on; every column that holds lengths has its unit. A stem's points whose
    half-breadth is blank lie at the half-siding, mm."""
    read = PointsRead()
    place: dict[Meaning, int] = {c.meaning: k for k, c in reversed(list(enumerate(columns))) if c.meaning is not Meaning.UNUSED}
    before: dict[Meaning, str] = {}
    for k in range(first, len(grid.rows)):
        if not any(grid.rows[k]):
            continue
        cells: dict[Meaning, str] = {meaning: grid.cell(k, at) for meaning, at in place.items()}
        _as_above(cells, before)
        row = _point(grid, k, cells, place, columns, comma, read, siding)
        if row is not None:
            read.rows.append(row)
    for meaning, count in read.wanting.items():
        points = "1 point has" if count == 1 else f"{count} points have"
        read.note(f"{points} no {meaning.value}: not used so far.")
    read.rows = _in_order(read.rows, read)
    return read


def _as_above(cells: dict[Meaning, str], before: dict[Meaning, str]) -> None:
    """A station is written once for all its points, or its cells are merged: the rest of them are blank."""
    some = not is_blank(cells[Meaning.HALF_BREADTH]) or not is_blank(cells[Meaning.HEIGHT])
    if some and is_blank(cells[Meaning.STATION]) and Meaning.STATION in before:
        cells[Meaning.STATION] = before[Meaning.STATION]
    elif not is_blank(cells[Meaning.STATION]):
        before[Meaning.STATION] = cells[Meaning.STATION]


def _point(
    grid: Grid,
    k: int,
    cells: dict[Meaning, str],
    place: dict[Meaning, int],
    columns: tuple[Column, ...],
    comma: Comma,
    read: PointsRead,
    siding: float,
) -> OffsetRow | None:
    number = grid.first + k
    values: dict[str, float] = {}
    texts: dict[str, str] = {}
    given = cells.get(Meaning.LABEL, "")
    label = label_of(given)
    if is_blank(cells[Meaning.HEIGHT]) and (is_blank(cells[Meaning.HALF_BREADTH]) or label.startswith("stem")):
        return None  # nothing is given yet
    wanting = None
    for meaning, name in LENGTHS.items():
        cell, at = cells[meaning], place[meaning]
        if is_blank(cell) and meaning is Meaning.HALF_BREADTH and label.startswith("stem"):
            values[name] = siding
            continue
        if is_blank(cell):
            wanting = wanting or meaning
            continue
        try:
            values[name], text = Lengths(columns[at].unit or "mm", comma).read(cell)
        except InputError as error:
            read.left_out.append(LeftOut(number, at + 1, cell, f"{error.problem}; this point is left out"))
            return None
        if text:
            texts[name] = text
    if "station" in values:
        out = values.get("half_breadth")
        read.dots.append(Dot(label or "wl", values["station"], None if out is None else abs(out), values.get("height")))
    if wanting is not None:
        read.wanting[wanting] += 1
        return None
    if values["half_breadth"] < 0:
        values["half_breadth"] = -values["half_breadth"]
        texts.pop("half_breadth", None)
        read.note("Half-breadths with a minus are taken without it: they were measured to the other side.")
    if not label and given:
        read.note(f"Points named “{given[:30]}” are taken for points between keel and sheer.")
    return OffsetRow(label=label or "wl", written=texts, **values)


def _in_order(rows: list[OffsetRow], read: PointsRead) -> list[OffsetRow]:
    """Stations from the bow, each from keel to sheer, with both of them named, and on to the deck's centreline; the ends from their
    foot up."""
    rows = _deck_or_sheer(rows)
    after = decks_of_ends(rows)
    of_ends = [row for k, row in enumerate(rows) if k in after]
    rows = [row for k, row in enumerate(rows) if k not in after]
    ends = [row for row in rows if row.label in END_LABELS]
    stations: list[list[OffsetRow]] = []
    for row in (r for r in rows if r.label not in END_LABELS):
        own = next((s for s in stations if abs(s[0].station - row.station) <= SAME_MM), None)
        if own is None:
            stations.append([row])
        else:
            own.append(row)
    if len(stations) > 1 and stations[0][0].station > stations[-1][0].station:
        read.note("The table runs from the stern: it is turned round.")
    stations.sort(key=lambda s: s[0].station)
    found = [row for own in stations for row in _with_deck(own, read)]
    middle = (stations[0][0].station + stations[-1][0].station) / 2 if stations else 0.0
    bow = [_at_bow(row, middle) for row in ends if row.station < middle]
    stern = [_at_stern(row, middle) for row in ends if row.station >= middle]
    bow.sort(key=lambda r: r.height)
    stern.sort(key=lambda r: r.height)
    over_bow, over_stern = ([r for r in of_ends if (r.station < middle) == at_bow] for at_bow in (True, False))
    return [*bow, *over_bow, *found, *stern, *over_stern]


def _deck_or_sheer(rows: list[OffsetRow]) -> list[OffsetRow]:
    """A table that names no sheer means it by “deck”: the deck's edge. Past a sheer a deck is a deck."""
    labels = {row.label for row in rows}
    if "sheer" in labels or "deck_centre" in labels:
        return rows
    return [row.model_copy(update={"label": "sheer"}) if row.label == "deck" else row for row in rows]


def _with_deck(own: list[OffsetRow], read: PointsRead) -> list[OffsetRow]:
    """A station from keel to sheer, and its deck from there inward."""
    deck = sorted((row for row in own if row.label in DECK_LABELS), key=lambda row: -row.half_breadth)
    hull = [row for row in own if row.label not in DECK_LABELS]
    return [*(_section(hull, read) if hull else ()), *deck]


def _at_bow(row: OffsetRow, middle: float) -> OffsetRow:
    return row.model_copy(update={"label": row.label.replace("stem_stern", "stem_bow")})


def _at_stern(row: OffsetRow, middle: float) -> OffsetRow:
    """A profile that is only named “stem”, but lies aft, is the stern's."""
    return row.model_copy(update={"label": row.label.replace("stem_bow", "stem_stern")})


def _section(own: list[OffsetRow], read: PointsRead) -> list[OffsetRow]:
    labels = [row.label for row in own]
    if (
        labels[0] == "sheer"
        or (labels[-1] == "keel" and len(own) > 1)
        or ("keel" not in labels and "sheer" not in labels and own[0].height > own[-1].height)
    ):
        own = own[::-1]
    labels = [row.label for row in own]
    keel = labels.index("keel") if "keel" in labels else 0
    sheer = len(own) - 1 - labels[::-1].index("sheer") if "sheer" in labels else len(own) - 1
    first, last = own[keel], own[sheer]
    rest = [row for k, row in enumerate(own) if k not in (keel, sheer)]
    if "keel" not in labels or "sheer" not in labels:
        read.note("The first and the last point of a station are taken for keel and sheer where none is named so.")
    if len(own) == 1:
        return own
    between = [row if row.label == "chine" else row.model_copy(update={"label": "wl"}) for row in rest]
    return [first.model_copy(update={"label": "keel"}), *between, last.model_copy(update={"label": "sheer"})]

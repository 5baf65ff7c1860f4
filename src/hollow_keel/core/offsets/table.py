"""The table of offsets as the builder gives it, and the lines read from it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, SerializerFunctionWrapHandler, model_serializer

from ..errors import InputError
from ..findings import mm
from ..geometry.arrays import Array, frozen
from ..settings.axis import Axis
from ..settings.record import Kind, setting

KNUCKLE_LABELS = frozenset({"chine", "stem_bow_chine", "stem_stern_chine", "transom_chine"})
STATION_LABELS = frozenset({"keel", "sheer", "chine", "wl"})
END_LABELS = frozenset({"stem_bow", "stem_stern", "transom", "stem_bow_chine", "stem_stern_chine", "transom_chine"})
DECK_LABELS = frozenset({"deck", "deck_chine", "deck_centre"})
"""Points of a station or an end past its sheer, inward to the centreline; they follow its own rows."""
LABELS = STATION_LABELS | END_LABELS | DECK_LABELS
LABEL_WORDS = {
    "keel": "keel",
    "sheer": "sheer",
    "chine": "chine",
    "wl": "point",
    "stem_bow": "stem, bow",
    "stem_stern": "stem, stern",
    "transom": "transom",
    "stem_bow_chine": "chine at the stem, bow",
    "stem_stern_chine": "chine at the stem, stern",
    "transom_chine": "chine at the transom",
    "deck": "deck",
    "deck_chine": "chine of the deck",
    "deck_centre": "deck, centreline",
}
"""What a label says, for people."""
MOST_ROWS = 20_000
"""No table of a hull has as many points; a file that says it has is not read for minutes."""
ROUND_MM = 0.1
"""Offsets that are worked out are given to so many mm."""
TOUCHING_MM = 0.01
"""Two neighbouring points nearer than this are the same point written twice."""


class OffsetRow(BaseModel):
    """One point: where it stands along the hull, what it is, and its two offsets (mm)."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    station: Annotated[float, Axis.POSITION]
    label: str
    half_breadth: Annotated[float, Axis.OFF]
    height: Annotated[float, Axis.HEIGHT]
    written: dict[str, str] = Field(default_factory=dict)
    """Text as it was written, by field; it counts only while it reads as the value (see offsets.written)."""
    notes: dict[str, str] = Field(default_factory=dict)
    """The builder's remarks, by field."""

    @model_serializer(mode="wrap")
    def _without_empty(self, serialize: SerializerFunctionWrapHandler) -> dict[str, Any]:
        """Texts and notes only where there are any: a job file stays short enough to read."""
        return {k: v for k, v in serialize(self).items() if v != {}}


class LineKind(StrEnum):
    """The planes that run along a hull, on which a designer measures."""

    WATERLINE = "wl"
    BUTTOCK = "buttock"
    DIAGONAL = "diagonal"


class TableLine(BaseModel):
    """A waterline or buttock at `level` mm, or a diagonal that leaves the centreline at height `level` and goes
    down outward at `angle` degrees from level."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    kind: LineKind
    level: Annotated[float, Axis.HEIGHT]
    angle: Annotated[float, Axis.NONE] = Field(default=0.0, ge=0, lt=90)


class OffsetsTable(BaseModel):
    """All rows as written, keel to sheer within a station, and what they are measured to."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    rows: Annotated[tuple[OffsetRow, ...], Field(max_length=MOST_ROWS)] = setting(
        (), "Offsets", "the points of the table", Kind.RECORDS
    )
    to_inside: bool = setting(
        False,
        "Offsets to the",
        "what the offsets are measured to",
        Kind.CHOICE,
        choices={False: "outside of the planking", True: "inside of the planking"},
    )
    lines: tuple[TableLine, ...] = setting(
        (), "Lines", "the designer's own waterlines, buttocks and diagonals, where the table is kept by them", Kind.RECORDS
    )

    @property
    def has_deck(self) -> bool:
        """Whether the table goes on past the sheer."""
        return any(row.label in DECK_LABELS for row in self.rows)

    @property
    def without_notes(self) -> OffsetsTable:
        """The table without the builder's remarks: what is worked out does not depend on them."""
        if not any(row.notes for row in self.rows):
            return self
        rows = tuple(row.model_copy(update={"notes": {}}) if row.notes else row for row in self.rows)
        return self.model_copy(update={"rows": rows})

    @property
    def ends(self) -> tuple[float, float] | None:
        """The positions of its foremost and its aftermost point, mm; None where it has none."""
        places = [row.station for row in self.rows]
        return (min(places), max(places)) if places else None

    @property
    def figures(self) -> OffsetsTable:
        """The rows' positions, labels and offsets and nothing else: all that the lines depend on."""
        plain: dict[str, Any] = {"written": {}, "notes": {}}
        rows = tuple(r.model_copy(update=plain) if r.written or r.notes else r for r in self.rows)
        return OffsetsTable.model_construct(rows=rows)

    def with_row(self, number: int, row: OffsetRow) -> OffsetsTable:
        """The table with one row replaced; rows are numbered from 0."""
        return self.model_copy(update={"rows": (*self.rows[:number], row, *self.rows[number + 1 :])})


def spans(count: int, knuckles: Iterable[int]) -> list[slice]:
    """The parts of a drawn line between its knuckles: slices of its `count` points, each with both its ends."""
    cuts = [0, *knuckles, count - 1]
    return [slice(a, b + 1) for a, b in zip(cuts[:-1], cuts[1:], strict=True)]


def stretches(count: int, knuckles: Iterable[int]) -> list[slice]:
    """As `spans`, without the parts of one point: where a knuckle is the end of the line there is nothing to draw of one."""
    return [part for part in spans(count, knuckles) if part.stop - part.start > 1]


class EndKind(StrEnum):
    """What closes the hull surface at one end."""

    STEM = "stem"
    TRANSOM = "transom"
    OPEN = "open"


@dataclass(frozen=True)
class Section:
    """One station: points (n, 3) from keel to sheer; `knuckles` are indices into them."""

    x: float
    points: Array
    knuckles: tuple[int, ...] = ()


@dataclass(frozen=True)
class End:
    """The edge of the hull at one end: points (n, 3) from its foot to its head."""

    kind: EndKind
    points: Array
    knuckles: tuple[int, ...] = ()


@dataclass(frozen=True)
class Lines:
    """The hull's drawn points: stations in order from the bow, and the two ends."""

    sections: tuple[Section, ...]
    bow: End
    stern: End

    @property
    def stations(self) -> tuple[Section, ...]:
        """All stations in order from the bow, those that close an open end included."""
        bow, stern = (
            (Section(float(end.points[0, 0]), end.points, end.knuckles),) if end.kind is EndKind.OPEN else ()
            for end in (self.bow, self.stern)
        )
        return (*bow, *self.sections, *stern)

    @property
    def all_points(self) -> tuple[Array, ...]:
        """The points of every station and of both ends, (n, 3) mm each."""
        ends = (end.points for end in (self.bow, self.stern) if end.kind is not EndKind.OPEN)
        return (*(s.points for s in self.sections), *ends)


def is_at_bow(row: OffsetRow, middle: float) -> bool:
    """Whether a row of an end is of the bow's: a stem says so, a transom by its place from the middle of the hull, mm."""
    return row.label.startswith("stem_bow") or (row.label.startswith("transom") and row.station < middle)


def end_rows(table: OffsetsTable, lines: Lines) -> tuple[list[int], list[int]]:
    """Numbers of the rows of the bow's and the stern's edge, foot to head; empty where an end is open."""
    middle = float(lines.bow.points[:, 0].mean() + lines.stern.points[:, 0].mean()) / 2
    found: tuple[list[int], list[int]] = ([], [])
    for k, row in enumerate(table.rows):
        if row.label in END_LABELS:
            found[not is_at_bow(row, middle)].append(k)
    return found


def place(index: int, row: OffsetRow) -> str:
    """Names a row for a message."""
    return f"row {index + 1}, station {mm(row.station)}, {row.label}"


def read_lines(table: OffsetsTable) -> Lines:
    """Check the table and put its rows in order. Raises InputError naming row, value and mend."""
    if not table.rows:
        raise InputError("the table of offsets is empty", mend="Type or import the offsets of the stations.")
    for index, row in enumerate(table.rows):
        _check_row(index, row)
    groups = _station_groups(table)
    if len(groups) < 3:
        raise InputError(
            "a hull needs at least three stations",
            value=f"{len(groups)} given",
            mend="Add the stations between, each from keel to sheer.",
        )
    sections = tuple(_section(table, group) for group in groups)
    middle = (sections[0].x + sections[-1].x) / 2
    ends = _ends(table, middle)
    bow = ends.get("bow") or _open_end(sections[0])
    stern = ends.get("stern") or _open_end(sections[-1])
    inner = list(sections)
    if bow.kind is EndKind.OPEN:
        inner = inner[1:]
    if stern.kind is EndKind.OPEN:
        inner = inner[:-1]
    _check_ends(inner, bow, stern)
    return Lines(tuple(inner), bow, stern)


def _check_row(index: int, row: OffsetRow) -> None:
    where = place(index, row)
    if row.label not in LABELS:
        raise InputError("no such label", where, row.label, f"Use one of: {', '.join(sorted(LABELS))}.")
    for name, value in (("station", row.station), ("half-breadth", row.half_breadth), ("height", row.height)):
        if not math.isfinite(value) or abs(value) > 1e6:
            raise InputError(f"the {name} is not a usable number", where, f"{value:g}", "Type the offset again.")
    if row.half_breadth < 0:
        raise InputError(
            "a half-breadth cannot be negative",
            where,
            f"{mm(row.half_breadth)}",
            "Half-breadths are measured outward from the centreline; type it without the sign.",
        )


def _station_groups(table: OffsetsTable) -> list[list[int]]:
    """Row numbers of each station, in order; checks that stations grow from bow to stern."""
    groups: list[list[int]] = []
    for index, row in enumerate(table.rows):
        if row.label not in STATION_LABELS:
            continue
        if groups and table.rows[groups[-1][0]].station == row.station:
            groups[-1].append(index)
            continue
        if groups and row.station < table.rows[groups[-1][0]].station:
            raise InputError(
                "the stations are out of order",
                place(index, row),
                f"{mm(row.station)}",
                "Positions grow from bow to stern, all rows of a station together; move these rows or mend the position.",
            )
        groups.append([index])
    return groups


def _section(table: OffsetsTable, group: list[int]) -> Section:
    rows = [table.rows[i] for i in group]
    station = f"station {mm(rows[0].station)}"
    for label, index, side in (("keel", 0, "first"), ("sheer", -1, "last")):
        count = sum(row.label == label for row in rows)
        if count == 0:
            raise InputError(
                f"{station} has no {label} point",
                place(group[index], rows[index]),
                rows[index].label,
                f"Its {side} row must be labelled {label}.",
            )
        if count > 1 or rows[index].label != label:
            wrong = next(i for i, row in zip(group, rows, strict=True) if row.label == label and i != group[index])
            raise InputError(
                f"the {label} of {station} is not its {side} point",
                place(wrong, table.rows[wrong]),
                label,
                "List a station from keel up to sheer, one keel and one sheer; relabel the others wl.",
            )
    points = _points(table, group)
    return Section(rows[0].station, frozen(points), tuple(k for k, row in enumerate(rows) if row.label == "chine"))


def _points(table: OffsetsTable, group: Iterable[int]) -> list[tuple[float, float, float]]:
    points: list[tuple[float, float, float]] = []
    for index in group:
        row = table.rows[index]
        point = (row.station, row.half_breadth, row.height)
        if points and math.dist(point, points[-1]) < TOUCHING_MM:
            raise InputError(
                "two neighbouring rows are the same point",
                place(index, row),
                f"{mm(row.half_breadth)}, {mm(row.height)}",
                "Delete one of them or mend the offset.",
            )
        points.append(point)
    if len(points) < 2:
        row = table.rows[next(iter(group))]
        raise InputError("one point does not make a line", f"station {mm(row.station)}", "", "Add points up to the sheer.")
    return points


def _ends(table: OffsetsTable, middle: float) -> dict[str, End]:
    runs: dict[tuple[str, EndKind], list[int]] = {}
    for index, row in enumerate(table.rows):
        base = row.label.removesuffix("_chine")
        if row.label == "chine" or base not in END_LABELS:
            continue
        key = ("bow" if is_at_bow(row, middle) else "stern", EndKind.TRANSOM if base == "transom" else EndKind.STEM)
        runs.setdefault(key, []).append(index)
    ends: dict[str, End] = {}
    for (side, kind), run in runs.items():
        if side in ends:
            row = table.rows[run[0]]
            raise InputError(
                f"the {side} has both a stem and a transom", place(run[0], row), row.label, "Keep the rows of one of them."
            )
        points = _points(table, run)
        if points[-1][2] <= points[0][2]:
            row = table.rows[run[-1]]
            raise InputError(
                f"the {kind} at the {side} does not run from its foot up to its head",
                place(run[-1], row),
                f"{mm(row.height)}",
                "List its rows from keel to sheer.",
            )
        knuckles = tuple(k for k, i in enumerate(run) if table.rows[i].label in KNUCKLE_LABELS)
        ends[side] = End(kind, frozen(points), knuckles)
    return ends


def _open_end(section: Section) -> End:
    return End(EndKind.OPEN, section.points, section.knuckles)


def _check_ends(sections: list[Section], bow: End, stern: End) -> None:
    if not sections:
        raise InputError("no station is left between the ends", mend="Add stations between bow and stern.")
    first, last = sections[0], sections[-1]
    if first.points[-1, 0] <= bow.points[-1, 0]:
        raise InputError(
            "the first station lies forward of the bow's head",
            f"station {mm(first.x)}",
            f"{mm(float(bow.points[-1, 0]))}",
            "Mend the position of the station or of the stem's rows.",
        )
    if last.points[-1, 0] >= stern.points[-1, 0]:
        raise InputError(
            "the last station lies aft of the stern's head",
            f"station {mm(last.x)}",
            f"{mm(float(stern.points[-1, 0]))}",
            "Mend the position of the station or of the stern's rows.",
        )
    counts = {len(s.knuckles) for s in sections}
    most = max(counts)
    for name, end in (("bow", bow), ("stern", stern)):
        if len(end.knuckles) != most:
            raise InputError(
                f"the {name} shows {len(end.knuckles)} chine points where the stations have {most}",
                f"the {name}",
                "",
                "Label the row where each chine meets it with _chine (stem_bow_chine, transom_chine).",
            )
    for section in sections:
        missing = most - len(section.knuckles)
        beyond = _lower_knuckles_beyond(section.x, bow, stern)
        if missing and missing != beyond:
            raise InputError(
                f"it has {len(section.knuckles)} chine points where its neighbours have {most}",
                f"station {mm(section.x)}",
                "",
                "Label the point on the knuckle chine at every station it passes.",
            )


def _lower_knuckles_beyond(x: float, bow: End, stern: End) -> int:
    """How many knuckles meet an end before they reach station x."""
    return max(sum(bool(bow.points[k, 0] > x) for k in bow.knuckles), sum(bool(stern.points[k, 0] < x) for k in stern.knuckles))


def to_tenth(value: float) -> float:
    """An offset that was worked out, mm, as it is given."""
    return round(round(value / ROUND_MM) * ROUND_MM, 6) + 0.0

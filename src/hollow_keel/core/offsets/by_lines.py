"""The traditional reading of a table: a row for each line, a column for each station.

The table itself stays a list of points; here they are found again by the line they lie on, and a value written
for a line at a station becomes a point, moves one, or takes one out.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from ..errors import InputError
from ..findings import mm
from .table import STATION_LABELS, LineKind, OffsetRow, OffsetsTable, TableLine
from .written import rewritten

ON_LINE_MM = 0.05
"""A point this near to a line lies on it."""
SHARED_BY = 3
"""So many stations with a point at the same height (half-breadth) make a waterline (buttock)."""


@dataclass(frozen=True)
class LineRow:
    """One row of the traditional table: what its cells measure, `height`, `half_breadth` or `along` (a diagonal).

    `edge` is keel, chine or sheer (then `number` counts chines from the keel), or empty for a `plane`.
    """

    field: str
    edge: str = ""
    number: int = 0
    plane: TableLine | None = None

    def point(self, value: float) -> tuple[float, float]:
        """Half-breadth and height, mm, of the point that a value (mm) on a plane stands for."""
        plane = self._plane
        if plane.kind is LineKind.WATERLINE:
            return value, plane.level
        if plane.kind is LineKind.BUTTOCK:
            return plane.level, value
        slope = math.radians(plane.angle)
        return value * math.cos(slope), plane.level - value * math.sin(slope)

    def value(self, row: OffsetRow) -> float:
        """What this line measures of a point, mm."""
        if self.field == "along":
            return row.half_breadth / math.cos(math.radians(self._plane.angle))
        return float(getattr(row, self.field))

    def holds(self, row: OffsetRow) -> bool:
        """Whether a point lies on this plane."""
        plane = self._plane
        if plane.kind is LineKind.WATERLINE:
            return abs(row.height - plane.level) <= ON_LINE_MM
        if plane.kind is LineKind.BUTTOCK:
            return abs(row.half_breadth - plane.level) <= ON_LINE_MM
        slope = math.radians(plane.angle)
        off = (row.height - plane.level) * math.cos(slope) + row.half_breadth * math.sin(slope)
        return abs(off) <= ON_LINE_MM

    @property
    def name(self) -> str:
        """As a CSV heads it: lengths in mm."""
        if self.plane is None:
            edge = f"{self.edge} {self.number + 1}" if self.number else self.edge
            return f"{edge} {self.field.replace('_', '-')}"
        angle = f" @ {self.plane.angle:g}" if self.plane.kind is LineKind.DIAGONAL else ""
        return f"{self.plane.kind.value} {self.plane.level:.10g}{angle}"

    @property
    def _plane(self) -> TableLine:
        assert self.plane is not None
        return self.plane


_PLANE = re.compile(r"^(?P<kind>wl|waterline|buttock|butt|diagonal|diag)\s*(?P<level>[^@]+?)\s*(?:@\s*(?P<angle>\d*\.?\d+)\s*°?)?$")
_KINDS = {
    "wl": LineKind.WATERLINE,
    "waterline": LineKind.WATERLINE,
    "buttock": LineKind.BUTTOCK,
    "butt": LineKind.BUTTOCK,
    "diagonal": LineKind.DIAGONAL,
    "diag": LineKind.DIAGONAL,
}
_FIELDS = {LineKind.WATERLINE: "half_breadth", LineKind.BUTTOCK: "height", LineKind.DIAGONAL: "along"}


def row_of(plane: TableLine) -> LineRow:
    """The row of the traditional table that a plane makes."""
    return LineRow(_FIELDS[plane.kind], plane=plane)


@dataclass(frozen=True)
class ByLines:
    """A table read by lines."""

    table: OffsetsTable

    @cached_property
    def stations(self) -> tuple[float, ...]:
        """Positions of the stations, mm, as the table has them."""
        return tuple(dict.fromkeys(r.station for r in self.table.rows if r.label in STATION_LABELS))

    @cached_property
    def rows_of(self) -> dict[float, list[int]]:
        """Numbers of the rows of each station (by position, mm), keel to sheer."""
        found: dict[float, list[int]] = {x: [] for x in self.stations}
        for k, row in enumerate(self.table.rows):
            if row.label in STATION_LABELS:
                found[row.station].append(k)
        return found

    @cached_property
    def lines(self) -> tuple[LineRow, ...]:
        """Heights first, then half-breadths, then diagonals; within each from the keel up or the centreline out."""
        planes = sorted({*self.table.lines, *self._shared()}, key=lambda p: (list(LineKind).index(p.kind), p.level, p.angle))
        by_field = {field: [row_of(p) for p in planes if _FIELDS[p.kind] == field] for field in ("height", "half_breadth", "along")}
        chines = range(max((self._chines(x) for x in self.stations), default=0))
        for field in ("height", "half_breadth"):
            edges = [LineRow(field, "chine", n) for n in chines]
            by_field[field] = [LineRow(field, "keel"), *by_field[field], *edges, LineRow(field, "sheer")]
        return (*by_field["height"], *by_field["half_breadth"], *by_field["along"])

    def _chines(self, x: float) -> int:
        return sum(self.table.rows[k].label == "chine" for k in self.rows_of[x])

    def _shared(self) -> list[TableLine]:
        """Heights and half-breadths at which several stations have a point."""
        found: list[TableLine] = []
        for kind, field in ((LineKind.WATERLINE, "height"), (LineKind.BUTTOCK, "half_breadth")):
            at: dict[float, set[float]] = {}
            for row in self.table.rows:
                if row.label == "wl":
                    at.setdefault(round(getattr(row, field), 2), set()).add(row.station)
            found += [TableLine(kind=kind, level=v) for v, own in at.items() if len(own) >= SHARED_BY]
        declared = {(line.kind, round(line.level, 2)) for line in self.table.lines}
        return [line for line in found if (line.kind, line.level) not in declared]

    @cached_property
    def cells(self) -> dict[tuple[LineRow, float], int]:
        """The number of the row behind each cell; cells without a point are absent."""
        found: dict[tuple[LineRow, float], int] = {}
        for x, numbers in self.rows_of.items():
            chines = [k for k in numbers if self.table.rows[k].label == "chine"]
            ends = {"keel": numbers[0], "sheer": numbers[-1]}
            points = [k for k in numbers if self.table.rows[k].label == "wl"]
            for line in self.lines:
                if line.edge == "chine":
                    if line.number < len(chines):
                        found[line, x] = chines[line.number]
                elif line.edge:
                    found[line, x] = ends[line.edge]
                else:
                    own = next((k for k in points if line.holds(self.table.rows[k])), None)
                    if own is not None:
                        found[line, x] = own
        return found

    def value(self, line: LineRow, x: float) -> float | None:
        """A cell's value, mm; None where the table gives none."""
        k = self.cells.get((line, x))
        return None if k is None else line.value(self.table.rows[k])

    def sections(self) -> list[tuple[float, dict[str, float]]]:
        """For each station its position and the value (mm) of each line by name."""
        given = [(x, [(line, self.value(line, x)) for line in self.lines]) for x in self.stations]
        return [(x, {line.name: v for line, v in values if v is not None}) for x, values in given]

    @cached_property
    def unseen(self) -> tuple[int, ...]:
        """Numbers of the rows that lie on no line, and of those of the ends: they are seen only in the table by points."""
        shown = set(self.cells.values())
        return tuple(k for k, row in enumerate(self.table.rows) if k not in shown)

    def with_value(self, line: LineRow, x: float, value: float | None, text: str = "") -> OffsetsTable:
        """The table with a cell written, mm (None: taken out). Raises InputError for what cannot be.

        `text` is what was typed, for the point's own record (see offsets.written).
        """
        if value is not None and value < 0 and line.field != "height":
            raise InputError("a half-breadth cannot be negative", value=f"{mm(value)}", mend="Type it without the sign.")
        k = self.cells.get((line, x))
        if line.edge:
            if value is None or k is None:
                raise InputError(
                    f"every station needs its {line.edge}",
                    f"station {mm(x)}",
                    mend="Type another value, or take the whole station out.",
                )
            return self.table.with_row(k, rewritten(self.table.rows[k], line.field, value, text))
        rows = list(self.table.rows)
        if k is not None and sum(own == k for own in self.cells.values()) == 1:
            del rows[k]
        if value is None:
            return self.table.model_copy(update={"rows": tuple(rows)})
        y, z = line.point(value)
        notes = self.table.rows[k].notes if k is not None else {}
        new = OffsetRow(station=x, label="wl", half_breadth=y, height=z, notes=notes)
        if text and line.field != "along":
            new = rewritten(new, line.field, value, text)
        rows.insert(_place(rows, new), new)
        return self.table.model_copy(update={"rows": tuple(rows)})


def _place(rows: list[OffsetRow], new: OffsetRow) -> int:
    """Where a new point goes among its station's: where the section grows least by it."""
    own = [k for k, r in enumerate(rows) if r.station == new.station and r.label in STATION_LABELS]

    def away(k: int) -> float:
        return math.hypot(rows[k].half_breadth - new.half_breadth, rows[k].height - new.height)

    def detour(a: int, b: int) -> float:
        step = math.hypot(rows[a].half_breadth - rows[b].half_breadth, rows[a].height - rows[b].height)
        return away(a) + away(b) - step

    if len(own) < 2:
        return own[-1] + 1 if own else len(rows)
    return min(zip(own[:-1], own[1:], strict=True), key=lambda pair: detour(*pair))[1]


def parse_plane(text: str, read: Callable[[str], float]) -> TableLine:
    """A line as a builder names it: `wl 250`, `buttock 150` or `diagonal 400 @ 40`; `read` reads a length to mm.

    Raises InputError.
    """
    match = _PLANE.match(" ".join(text.lower().split()))
    if match is None:
        raise InputError("no such line", value=text, mend="Write wl 250, buttock 150 or diagonal 400 @ 40.")
    kind, level = _KINDS[match["kind"]], read(match["level"].strip())
    angle = float(match["angle"] or 0.0)
    return sound_plane(kind, level, angle)


def sound_plane(kind: LineKind, level: float, angle: float) -> TableLine:
    """A waterline at a height, a buttock at a half-breadth (mm), or a diagonal from the centreline at a height, `angle` degrees
    down from level. Raises InputError for one that cuts no hull."""
    if kind is LineKind.DIAGONAL and not 0 < angle < 90:
        raise InputError(
            "a diagonal falls by more than 0 and less than 90 degrees",
            "its angle",
            f"{angle:g}",
            "Give for example 40: it leaves the centreline at its height, 40° down from level.",
        )
    if kind is LineKind.BUTTOCK and level <= 0:
        raise InputError(
            "a buttock stands off the centreline", value=f"{mm(level)}", mend="Give its half-breadth, more than nothing."
        )
    return TableLine(kind=kind, level=level, angle=angle if kind is LineKind.DIAGONAL else 0.0)


def with_line(table: OffsetsTable, line: TableLine) -> OffsetsTable:
    """The table kept on one line more. Raises InputError where it has it already."""
    if line in table.lines:
        raise InputError("the table has this line already", value=f"{line.kind.value} {mm(line.level)}", mend="Give another.")
    return table.model_copy(update={"lines": (*table.lines, line)})


def without_line(table: OffsetsTable, line: LineRow) -> OffsetsTable:
    """The table without a line and without the points that lie only on it. Raises InputError for keel and sheer."""
    if line.plane is None:
        raise InputError(f"the {line.edge} cannot be taken out", mend="Choose a waterline, a buttock or a diagonal.")
    read = ByLines(table)
    numbers = [k for (own, _), k in read.cells.items() if own == line]
    alone = {k for k in numbers if sum(other == k for other in read.cells.values()) == 1}
    rows = tuple(row for k, row in enumerate(table.rows) if k not in alone)
    return table.model_copy(update={"rows": rows, "lines": tuple(p for p in table.lines if p != line.plane)})

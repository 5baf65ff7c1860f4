"""Battens along waterlines, buttocks and diagonals, whether or not the table is measured on them.

A batten along a plane has its ducks where the stations' own drawn curves cross it. Moved there, a station follows
with the smallest moves of its offsets that bring its curve through the new place.
"""

from __future__ import annotations

import numpy as np

from ..geometry.arrays import Array, frozen
from ..geometry.curves import LoftCurve
from ..hull.slices import slice_along
from ..offsets.by_lines import ByLines, LineRow, row_of
from ..offsets.table import LineKind, OffsetRow, OffsetsTable, TableLine, stretches
from .fair_lines import FairLine

LEAST = 4
"""A batten needs ducks at so many stations."""
NUDGE_MM = 0.01
DIAGONAL_DEGREES = 40.0


def planes_of(table: OffsetsTable, waterline: float) -> tuple[TableLine, ...]:
    """The planes a builder looks at and springs battens along: the table's own, of a kind it has none of some spread
    over the hull, and the load waterline (height `waterline` mm)."""
    own = [[table.rows[k] for k in numbers] for numbers in ByLines(table).rows_of.values()]
    if not own:
        return ()
    low, high = min(rows[0].height for rows in own), max(rows[-1].height for rows in own)
    least = min(rows[-1].height for rows in own)
    wide = max(row.half_breadth for rows in own for row in rows)
    levels = [low + (least - low) * k / 6 for k in range(1, 6)]
    spread = {
        LineKind.WATERLINE: [z for z in levels if abs(z - waterline) > (least - low) / 20],
        LineKind.BUTTOCK: [wide * k / 4 for k in (1, 2, 3)],
        LineKind.DIAGONAL: [low + (high - low) * share for share in (0.35, 0.6, 0.85)],
    }
    found: list[TableLine] = []
    for kind, places in spread.items():
        given = [line for line in table.lines if line.kind is kind]
        angle = DIAGONAL_DEGREES if kind is LineKind.DIAGONAL else 0.0
        made = given or [TableLine(kind=kind, level=place, angle=angle) for place in places]
        load = TableLine(kind=kind, level=waterline)
        if kind is LineKind.WATERLINE and load not in made:
            made = [*made, load]
        found += sorted(made, key=lambda line: line.level)
    return tuple(found)


def plane_key(plane: TableLine) -> str:
    """A stable name of a plane among the lines of a batten."""
    return f"{plane.kind.value}:{plane.level:g}"


def plane_line(table: OffsetsTable, plane: TableLine) -> FairLine | None:
    """The line to spring a batten along, or None where fewer than four stations cross the plane."""
    row = row_of(plane)
    found: list[tuple[float, float]] = []
    for x, numbers in ByLines(table).rows_of.items():
        at = _crossing(_parts([table.rows[k] for k in numbers]), plane)
        if at is not None:
            found.append((x, row.value(OffsetRow(station=x, label="wl", half_breadth=at[0], height=at[1]))))
    if len(found) < LEAST:
        return None
    places, values = np.array(sorted(found)).T
    return FairLine(plane_key(plane), plane_key(plane), row.field, (), frozen(places), frozen(values), plane=plane)


def carried(table: OffsetsTable, plane: TableLine, x: float, value: float, step: float) -> OffsetsTable:
    """The table with station `x` moved so that its curve crosses the plane at `value` (mm, as the plane measures),
    by the smallest moves of its offsets within the plane's direction, rounded to `step` mm; the keel stays."""
    numbers = ByLines(table).rows_of[x]
    rows = [table.rows[k] for k in numbers]
    line = row_of(plane)
    direction = _direction(plane)
    points = np.array([(r.half_breadth, r.height) for r in rows])
    labels = [r.label for r in rows]
    for _ in range(3):
        now = _value(line, points, labels, plane, x)
        if now is None:
            return table
        slopes = np.zeros(len(points))
        for k in range(1, len(points)):
            nudged = points.copy()
            nudged[k] += NUDGE_MM * direction
            other = _value(line, nudged, labels, plane, x)
            slopes[k] = 0.0 if other is None else (other - now) / NUDGE_MM
        if not np.any(slopes):
            return table
        points += np.outer(slopes * (value - now) / float(slopes @ slopes), direction)
    changed = list(table.rows)
    for k, row, (y, z) in zip(numbers, rows, points.tolist(), strict=True):
        moved = {"half_breadth": max(_rounded(row.half_breadth, y, step), 0.0), "height": _rounded(row.height, z, step)}
        changed[k] = row.model_copy(update=moved)
    return table.model_copy(update={"rows": tuple(changed)})


def _rounded(before: float, after: float, step: float) -> float:
    return before if abs(after - before) < step / 2 else before + round((after - before) / step) * step


def _direction(plane: TableLine) -> Array:
    """Outward within the plane, as (half-breadth, height)."""
    if plane.kind is LineKind.WATERLINE:
        return np.array([1.0, 0.0])
    if plane.kind is LineKind.BUTTOCK:
        return np.array([0.0, 1.0])
    slope = np.radians(plane.angle)
    return np.array([np.cos(slope), -np.sin(slope)])


def _value(line: LineRow, points: Array, labels: list[str], plane: TableLine, x: float) -> float | None:
    rows = [
        OffsetRow(station=x, label=label, half_breadth=y, height=z) for label, (y, z) in zip(labels, points.tolist(), strict=True)
    ]
    at = _crossing(_parts(rows), plane)
    return None if at is None else line.value(OffsetRow(station=x, label="wl", half_breadth=at[0], height=at[1]))


def _parts(rows: list[OffsetRow]) -> list[Array]:
    """A station's points from knuckle to knuckle, each (n, 3) as the hull's curves have them."""
    points = np.array([(r.station, r.half_breadth, r.height) for r in rows])
    return [points[part] for part in stretches(len(rows), (k for k, r in enumerate(rows) if r.label == "chine"))]


def _crossing(parts: list[Array], plane: TableLine) -> tuple[float, float] | None:
    """Half-breadth and height where a station's curve first crosses a plane."""
    cut = slice_along(plane)
    weights = np.array([0.0, cut.out, cut.up])
    for points in parts:
        try:
            curve = LoftCurve(points)
        except ValueError:
            continue
        share = curve.fraction_across(weights, cut.level)
        if share is not None:
            _, y, z = curve.at_fractions(np.array([share]))[0].tolist()
            return y, z
    return None

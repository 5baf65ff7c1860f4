"""A whole table changed at once: scaled, moved up or down, counted from the other end."""

from __future__ import annotations

import math
from collections.abc import Callable

from ..errors import InputError
from .table import DECK_LABELS, LineKind, OffsetRow, OffsetsTable, TableLine

FACTORS = (0.05, 20.0)
"""Least and greatest factor that makes sense."""
_TURNED = {"stem_bow": "stem_stern", "stem_stern": "stem_bow"}


def scaled(table: OffsetsTable, length: float, beam: float, depth: float) -> OffsetsTable:
    """Positions times `length`, half-breadths times `beam`, heights times `depth` (bare numbers). Raises InputError for a
    factor out of reason."""
    for name, factor in (("length", length), ("beam", beam), ("depth", depth)):
        if not FACTORS[0] <= factor <= FACTORS[1]:
            raise InputError(
                f"the factor for the {name} is out of reason",
                value=f"{factor:g}",
                mend=f"Give one between {FACTORS[0]:g} and {FACTORS[1]:g}; 1 leaves it as it is.",
            )
    changed = _each(
        table, lambda row: {"station": row.station * length, "half_breadth": row.half_breadth * beam, "height": row.height * depth}
    )
    return changed.model_copy(update={"lines": tuple(_line_scaled(p, beam, depth) for p in table.lines)})


def _line_scaled(plane: TableLine, beam: float, depth: float) -> TableLine:
    level = plane.level * (beam if plane.kind is LineKind.BUTTOCK else depth)
    angle = math.degrees(math.atan(math.tan(math.radians(plane.angle)) * depth / beam))
    return plane.model_copy(update={"level": level, "angle": angle})


def raised(table: OffsetsTable, by: float) -> OffsetsTable:
    """All heights `by` mm more: the baseline moved down by as much."""
    changed = _each(table, lambda row: {"height": row.height + by})
    lines = [p if p.kind is LineKind.BUTTOCK else p.model_copy(update={"level": p.level + by}) for p in table.lines]
    return changed.model_copy(update={"lines": tuple(lines)})


def turned(table: OffsetsTable, last: float | None = None) -> OffsetsTable:
    """Positions counted from the other end, and bow and stern exchanged; stations in order from the new bow. Position 0 is then
    where `last` was (None: the greatest in the table)."""
    last = max(row.station for row in table.rows) if last is None else last

    def label(row: OffsetRow) -> str:
        base, chine = row.label.removesuffix("_chine"), row.label.endswith("_chine")
        new = _TURNED.get(base, base)
        return row.label if new == base else new + ("_chine" if chine else "")

    rows = _each(table, lambda row: {"station": last - row.station, "label": label(row)}).rows
    return table.model_copy(update={"rows": _in_order(rows)})


def _in_order(rows: tuple[OffsetRow, ...]) -> tuple[OffsetRow, ...]:
    """Runs of rows of one station or one end, the runs by position; rows within a run stay as they are."""
    runs: list[list[OffsetRow]] = []
    for row in rows:
        kind = _run_of(row)
        if runs and (row.label in DECK_LABELS or _run_of(runs[-1][0]) == kind):
            runs[-1].append(row)
        else:
            runs.append([row])
    middle = (min(r.station for r in rows) + max(r.station for r in rows)) / 2

    def place(run: list[OffsetRow]) -> float:
        """Ends before and after all stations: a raked end reaches past some of them."""
        kind = _run_of(run[0])
        at_bow = kind == "stem_bow" or (kind == "transom" and run[0].station < middle)
        return run[0].station if isinstance(kind, float) else -math.inf if at_bow else math.inf

    runs.sort(key=place)
    return tuple(row for run in runs for row in run)


def _run_of(row: OffsetRow) -> str | float:
    base = row.label.removesuffix("_chine")
    return base if base in ("stem_bow", "stem_stern", "transom") else row.station


def _each(table: OffsetsTable, change: Callable[[OffsetRow], dict[str, object]]) -> OffsetsTable:
    rows = tuple(row.model_copy(update=change(row)) for row in table.rows)
    return table.model_copy(update={"rows": rows})

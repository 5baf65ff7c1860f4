"""Offsets as JSON: {"name", "units", "offsets_to", "waterline", "points": [{station, label, half_breadth, height}]}.

Lengths are numbers in `units` (mm, m, in, ft) or texts in any unit, as `"2-3-4+"`.
"""

from __future__ import annotations

import json
from typing import Any

from ...core.errors import InputError
from ...core.offsets.table import LABELS, OffsetRow, OffsetsTable, TableLine
from ...core.offsets.written import with_unit, written
from ...core.units import LengthUnit
from ..store.plain_json import read_json
from ..tables.text_table import UNITS, column_length
from .points_csv import OffsetsFile

FIELDS = ("station", "half_breadth", "height")


def write_offsets_json(table: OffsetsTable, name: str = "", waterline: float | None = None) -> str:
    """The text; a length that was written in another unit is given as it was written."""
    points = []
    for row in table.rows:
        lengths = {field: written(row, field) or getattr(row, field) for field in FIELDS}
        points.append({"station": lengths["station"], "label": row.label, **lengths, **({"notes": row.notes} if row.notes else {})})
    document = {
        "name": name,
        "units": "mm",
        "offsets_to": "inside" if table.to_inside else "outside",
        "waterline": waterline,
        "lines": [line.model_dump(mode="json") for line in table.lines],
        "points": points,
    }
    return json.dumps(document, indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def parse_offsets_json(text: str) -> OffsetsFile:
    """Read such a text. Raises InputError naming the point, the field, the value and the mend."""
    document = read_json(text)
    if not isinstance(document, dict) or not isinstance(document.get("points"), list):
        raise InputError("there are no offsets in this JSON", mend='Give {"units": "mm", "points": [{"station": …}]}.')
    suffix = document.get("units")
    if not isinstance(suffix, str) or suffix not in UNITS or suffix == "fie":
        raise InputError("the file does not say its unit", "units", str(suffix), "Write mm, m, in or ft.")
    unit = UNITS[suffix]
    rows = tuple(_row(point, unit, f"point {k + 1}") for k, point in enumerate(document["points"]))
    side = document.get("offsets_to", "outside")
    if side not in ["outside", "inside"]:
        raise InputError("offsets are neither outside nor inside", "offsets_to", str(side), "Write outside or inside.")
    level = document.get("waterline")
    try:
        lines = tuple(TableLine.model_validate(line) for line in document.get("lines", ()))
    except (ValueError, TypeError) as error:
        raise InputError(
            "a line cannot be read", "lines", str(error)[:60], "Give kind, level and angle, or leave it out."
        ) from None
    return OffsetsFile(
        OffsetsTable(rows=rows, to_inside=side == "inside", lines=lines),
        str(document.get("name") or ""),
        None if level is None else _length(level, unit, "waterline"),
    )


def _row(point: Any, unit: LengthUnit | None, where: str) -> OffsetRow:
    if not isinstance(point, dict):
        raise InputError("this is no point", where, str(point)[:40], "Give station, label, half_breadth and height.")
    label = str(point.get("label", "")).lower()
    if label not in LABELS:
        raise InputError("no such label", f"{where}, label", label, f"Use one of: {', '.join(sorted(LABELS))}.")
    lengths = {field: _length(point.get(field), unit, f"{where}, {field}") for field in FIELDS}
    if lengths["half_breadth"] < 0:
        raise InputError(
            "a half-breadth cannot be negative", f"{where}, half_breadth", str(point["half_breadth"]), "Leave out the sign."
        )
    texts = {f: t for f in FIELDS if isinstance(point[f], str) and (t := with_unit(point[f], unit))}
    notes = point.get("notes", {})
    notes = {str(k): str(v) for k, v in notes.items()} if isinstance(notes, dict) else {}
    return OffsetRow(label=label, written=texts, notes=notes, **lengths)


def _length(value: Any, unit: LengthUnit | None, where: str) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float, str)):
        raise InputError("a length is missing", where, "" if value is None else str(value)[:40], "Give a number or a text.")
    return column_length(value if isinstance(value, str) else repr(value), unit, where)

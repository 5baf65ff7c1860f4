"""Offsets as CSV, one point a row: read with every fault named by row, column and mend; and written."""

from __future__ import annotations

import csv
import io
import os
from dataclasses import dataclass
from pathlib import Path

from ..core.errors import InputError
from ..core.offsets.table import LABELS, OffsetRow, OffsetsTable
from ..core.units import LengthUnit, parse_length

LARGEST_BYTES = 20_000_000
_UNITS = {
    "mm": LengthUnit.MM, "m": LengthUnit.M, "in": LengthUnit.INCH, "ft": None,
    "fie": LengthUnit.FEET_INCH_EIGHTHS,
}  # fmt: skip
_COLUMNS = ("station", "label", "half_breadth", "height")


@dataclass(frozen=True)
class OffsetsFile:
    """What an offsets file says: the table and, where given, name, waterline height and half-siding (mm)."""

    table: OffsetsTable
    name: str = ""
    waterline: float | None = None
    stem_half_siding: float | None = None


def read_offsets_csv(path: Path) -> OffsetsFile:
    """Read a file. Raises InputError naming the file, the row, the column, the value and the mend."""
    try:
        return parse_offsets_csv(_read_text(path))
    except InputError as error:
        raise error.at(path.name) from None


def _read_text(path: Path) -> str:
    try:
        size = os.stat(path).st_size
        if size > LARGEST_BYTES:
            raise InputError(
                "this file is too large to be a table of offsets", value=f"{size / 1e6:.0f} MB",
                mend="Choose the CSV file that holds only the offsets.",
            )  # fmt: skip
        data = path.read_bytes()
    except OSError as error:
        raise InputError(
            "this file cannot be read", value=error.strerror or str(error),
            mend="Check that it is there and that you may read it.",
        ) from None  # fmt: skip
    if not data.strip():
        raise InputError("this file is empty", mend="Choose the file that holds the offsets.")
    if b"\0" in data:
        raise InputError(
            "this is not a text file", mend="Export the table as CSV (comma-separated text) and choose that."
        )
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        row = data[: error.start].count(b"\n") + 1
        raise InputError(
            "this text is not in UTF-8", f"row {row}", mend="Save the table again as CSV, UTF-8."
        ) from None


def parse_offsets_csv(text: str) -> OffsetsFile:
    """Read the text of an offsets CSV; see read_offsets_csv."""
    header: dict[str, str] = {}
    columns: dict[str, tuple[int, LengthUnit | None]] | None = None
    rows: list[OffsetRow] = []
    for number, line in enumerate(text.splitlines(), start=1):
        if line.lstrip().startswith("#"):
            key, colon, value = line.lstrip("# \t").partition(":")
            if colon:
                header[key.strip().lower()] = value.strip()
            continue
        if not line.strip(" \t,;"):
            continue
        cells = [cell.strip() for cell in _cells(line, number)]
        if columns is None:
            columns = _read_columns(cells, number)
        else:
            rows.append(_read_row(cells, columns, number))
    if columns is None:
        raise InputError(
            "no column headings were found", mend="The first row names the columns: " + ",".join(
                ["station_mm", "label", "half_breadth_mm", "height_mm"]) + "."
        )  # fmt: skip
    if not rows:
        raise InputError("there are headings but no offsets", mend="Add a row for each point, keel to sheer.")
    return _with_header(rows, header)


def _cells(line: str, number: int) -> list[str]:
    try:
        return next(csv.reader([line], strict=True))
    except csv.Error as error:
        raise InputError(
            "this row is not comma-separated text", f"row {number}", line[:40], f"Mend its quotes ({error})."
        ) from None


def _read_columns(cells: list[str], number: int) -> dict[str, tuple[int, LengthUnit | None]]:
    found: dict[str, tuple[int, LengthUnit | None]] = {}
    for index, cell in enumerate(cells):
        name, _, suffix = cell.lower().rpartition("_")
        if cell.lower() == "label":
            found["label"] = (index, None)
        elif name in _COLUMNS:
            if suffix not in _UNITS:
                raise InputError(
                    "this column has no unit we know", f"row {number}, column {index + 1}", cell,
                    "End the heading with _mm, _m, _in, _ft or _fie.",
                )  # fmt: skip
            found[name] = (index, _UNITS[suffix])
    missing = [name for name in _COLUMNS if name not in found]
    if missing:
        raise InputError(
            f"the column {missing[0]} is missing", f"row {number}", ",".join(cells)[:80],
            "Head the columns station_mm,label,half_breadth_mm,height_mm (or another unit than mm).",
        )  # fmt: skip
    return found


def _read_row(cells: list[str], columns: dict[str, tuple[int, LengthUnit | None]], number: int) -> OffsetRow:
    if len(cells) <= max(index for index, _ in columns.values()):
        raise InputError(
            "this row has too few columns", f"row {number}", ",".join(cells)[:60],
            "Give station, label, half-breadth and height.",
        )  # fmt: skip
    label = cells[columns["label"][0]].lower()
    if label not in LABELS:
        raise InputError(
            "no such label", f"row {number}, column label", label, f"Use one of: {', '.join(sorted(LABELS))}."
        )
    lengths: dict[str, float] = {}
    for name in ("station", "half_breadth", "height"):
        index, unit = columns[name]
        try:
            # a bare number in a column of feet is in decimal feet
            text = cells[index] + ("ft" if unit is None and _is_plain(cells[index]) else "")
            lengths[name] = parse_length(text, unit or LengthUnit.INCH)
        except InputError as error:
            raise error.at(f"row {number}, column {name}") from None
    if lengths["half_breadth"] < 0:
        raise InputError(
            "a half-breadth cannot be negative", f"row {number}, column half_breadth",
            cells[columns["half_breadth"][0]], "Type it without the sign.",
        )  # fmt: skip
    return OffsetRow(label=label, **lengths)


def _is_plain(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def _with_header(rows: list[OffsetRow], header: dict[str, str]) -> OffsetsFile:
    side = header.get("offsets-to", "outside").split()
    if side[:1] not in (["outside"], ["inside"]):
        raise InputError(
            "offsets-to is neither outside nor inside", "the comments at the top", " ".join(side),
            "Write “# offsets-to: outside” or “# offsets-to: inside”.",
        )  # fmt: skip
    lengths: dict[str, float | None] = {}
    for key in ("waterline_mm", "stem_half_siding_mm"):
        try:
            lengths[key] = parse_length(header[key]) if key in header else None
        except InputError as error:
            raise error.at(f"the comment {key}") from None
    table = OffsetsTable(rows=tuple(rows), to_inside=side[0] == "inside")
    return OffsetsFile(table, header.get("name", ""), lengths["waterline_mm"], lengths["stem_half_siding_mm"])


def write_offsets_csv(table: OffsetsTable, name: str = "", waterline: float | None = None) -> str:
    """The text of an offsets CSV in mm, read back to the same table."""
    out = io.StringIO()
    if name:
        out.write(f"# name: {' '.join(name.split())}\n")
    out.write(f"# offsets-to: {'inside' if table.to_inside else 'outside'}\n")
    if waterline is not None:
        out.write(f"# waterline_mm: {waterline!r}\n")
    out.write("station_mm,label,half_breadth_mm,height_mm\n")
    for row in table.rows:
        out.write(f"{row.station!r},{row.label},{row.half_breadth!r},{row.height!r}\n")
    return out.getvalue()

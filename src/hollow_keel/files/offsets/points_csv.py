"""Offsets as CSV: one point a row, or the traditional layout (lines_csv); every fault named by row, column and mend."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass, replace
from pathlib import Path

from ...core.errors import InputError
from ...core.offsets.table import LABELS, OffsetRow, OffsetsTable
from ...core.offsets.written import with_unit, written
from ...core.units import LengthUnit, parse_length
from ..tables.text_table import UNITS, column_length, delimiter_of, read_text, split_cells
from .lines_csv import is_lines_table, parse_lines

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
        return parse_offsets_csv(read_text(path))
    except InputError as error:
        raise error.at(path.name) from None


def is_own_csv(text: str) -> bool:
    """Whether a text is headed as we head our own files: then every fault in it is a fault, and nothing is guessed."""
    for line in text.splitlines():
        if not line.lstrip().startswith("#") and line.strip(" \t,;"):
            cells = [cell.strip().strip('"').lower() for cell in line.replace(";", ",").replace("\t", ",").split(",")]
            own = [cell.rpartition("_")[0] in _COLUMNS for cell in cells]
            return any(own) or (cells[0].startswith(("line_", "lines_")) and len(cells) > 1)
    return True


def parse_offsets_csv(text: str) -> OffsetsFile:
    """Read the text of an offsets CSV; see read_offsets_csv."""
    header: dict[str, str] = {}
    rows: list[tuple[int, list[str]]] = []
    delimiter = ","
    for number, line in enumerate(text.splitlines(), start=1):
        if line.lstrip().startswith("#"):
            key, colon, value = line.lstrip("# \t").partition(":")
            if colon:
                header[key.strip().lower()] = value.strip(" \t,;")
        elif line.strip(" \t,;"):
            if not rows:
                delimiter = delimiter_of(line)
            rows.append((number, split_cells(line, delimiter, number)))
    if not rows:
        raise InputError(
            "no column headings were found",
            mend="The first row names the columns: " + ",".join(["station_mm", "label", "half_breadth_mm", "height_mm"]) + ".",
        )
    given = _read_header(header)
    traditional = is_lines_table(rows[0][1])
    columns = {} if traditional else _read_columns(rows[0][1], rows[0][0])
    if len(rows) == 1:
        raise InputError("there are headings but no offsets", mend="Add a row for each point, keel to sheer.")
    if traditional:
        table = parse_lines(rows, given.stem_half_siding or 0.0)
        return replace(given, table=table.model_copy(update={"to_inside": given.table.to_inside}))
    points = tuple(_read_row(cells, columns, number) for number, cells in rows[1:])
    return replace(given, table=given.table.model_copy(update={"rows": points}))


def _read_columns(cells: list[str], number: int) -> dict[str, tuple[int, LengthUnit | None]]:
    found: dict[str, tuple[int, LengthUnit | None]] = {}
    for index, cell in enumerate(cells):
        name, _, suffix = cell.lower().rpartition("_")
        if cell.lower() == "label":
            found["label"] = (index, None)
        elif name in _COLUMNS:
            if suffix not in UNITS:
                raise InputError(
                    "this column has no unit we know",
                    f"row {number}, column {index + 1}",
                    cell,
                    "End the heading with _mm, _m, _in, _ft or _fie.",
                )
            found[name] = (index, UNITS[suffix])
    missing = [name for name in _COLUMNS if name not in found]
    if missing:
        raise InputError(
            f"the column {missing[0]} is missing",
            f"row {number}",
            ",".join(cells)[:80],
            "Head the columns station_mm,label,half_breadth_mm,height_mm (or another unit than mm).",
        )
    return found


def _read_row(cells: list[str], columns: dict[str, tuple[int, LengthUnit | None]], number: int) -> OffsetRow:
    if len(cells) <= max(index for index, _ in columns.values()):
        raise InputError(
            "this row has too few columns", f"row {number}", ",".join(cells)[:60], "Give station, label, half-breadth and height."
        )
    label = cells[columns["label"][0]].lower()
    if label not in LABELS:
        raise InputError("no such label", f"row {number}, column label", label, f"Use one of: {', '.join(sorted(LABELS))}.")
    lengths: dict[str, float] = {}
    texts: dict[str, str] = {}
    for name in ("station", "half_breadth", "height"):
        index, unit = columns[name]
        lengths[name] = column_length(cells[index], unit, f"row {number}, column {name}")
        if text := with_unit(cells[index], unit):
            texts[name] = text
    if lengths["half_breadth"] < 0:
        raise InputError(
            "a half-breadth cannot be negative",
            f"row {number}, column half_breadth",
            cells[columns["half_breadth"][0]],
            "Type it without the sign.",
        )
    return OffsetRow(label=label, written=texts, **lengths)


def _read_header(header: dict[str, str]) -> OffsetsFile:
    """What the comments at the top say, with an empty table."""
    side = header.get("offsets-to", "outside").split()
    if side[:1] not in (["outside"], ["inside"]):
        raise InputError(
            "offsets-to is neither outside nor inside",
            "the comments at the top",
            " ".join(side),
            "Write “# offsets-to: outside” or “# offsets-to: inside”.",
        )
    lengths: dict[str, float | None] = {}
    for key in ("waterline_mm", "stem_half_siding_mm"):
        try:
            lengths[key] = parse_length(header[key]) if key in header else None
        except InputError as error:
            raise error.at(f"the comment {key}") from None
    table = OffsetsTable(to_inside=side[0] == "inside")
    return OffsetsFile(table, header.get("name", ""), lengths["waterline_mm"], lengths["stem_half_siding_mm"])


def write_offsets_csv(table: OffsetsTable, name: str = "", waterline: float | None = None) -> str:
    """The text of an offsets CSV, read back to the same table: what was written in another unit stays as it was written, with that
    unit; the rest is in mm."""
    out = io.StringIO()
    if name:
        out.write(f"# name: {' '.join(name.split())}\n")
    out.write(f"# offsets-to: {'inside' if table.to_inside else 'outside'}\n")
    if waterline is not None:
        out.write(f"# waterline_mm: {waterline!r}\n")
    out.write("station_mm,label,half_breadth_mm,height_mm\n")
    writer = csv.writer(out, lineterminator="\n")
    for row in table.rows:
        station, breadth, height = (
            written(row, field) or repr(getattr(row, field)) for field in ("station", "half_breadth", "height")
        )
        writer.writerow([station, row.label, breadth, height])
    return out.getvalue()

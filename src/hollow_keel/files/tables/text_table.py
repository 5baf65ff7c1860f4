"""Tables kept as text: read from disk, cut into cells, their lengths in any unit; every fault named."""

from __future__ import annotations

import csv
import os
import re
from pathlib import Path

from ...core.errors import InputError
from ...core.units import LengthUnit, is_bare_number, parse_length

LARGEST_BYTES = 20_000_000
UNITS = {"mm": LengthUnit.MM, "m": LengthUnit.M, "in": LengthUnit.INCH, "ft": None, "fie": LengthUnit.FEET_INCH_EIGHTHS}
"""Units by the suffix of a heading; None is decimal feet."""
_TWO_WAYS = re.compile(r"^-?\d{1,3},\d{3}$")


def read_text(path: Path, of: str = "offsets") -> str:
    """The text of a file that is to hold a table of these. Raises InputError for one that is missing, empty, too large, binary or
    not UTF-8."""
    try:
        size = os.stat(path).st_size
        if size > LARGEST_BYTES:
            raise InputError(
                f"this file is too large to be a table of {of}",
                value=f"{size / 1e6:.0f} MB",
                mend=f"Choose the CSV file that holds only the {of}.",
            )
        data = path.read_bytes()
    except OSError as error:
        raise InputError(
            "this file cannot be read", value=error.strerror or str(error), mend="Check that it is there and that you may read it."
        ) from None
    if not data.strip():
        raise InputError("this file is empty", mend=f"Choose the file that holds the {of}.")
    if b"\0" in data:
        raise InputError("this is not a text file", mend="Export the table as CSV (comma-separated text) and choose that.")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        row = data[: error.start].count(b"\n") + 1
        raise InputError("this text is not in UTF-8", f"row {row}", mend="Save the table again as CSV, UTF-8.") from None


def delimiter_of(heading: str) -> str:
    """What stands between the cells, from the row of headings: a tab, a semicolon or a comma."""
    return next((mark for mark in ("\t", ";") if mark in heading), ",")


def split_cells(line: str, delimiter: str, number: int) -> list[str]:
    """The cells of one row, stripped. Raises InputError.

    Where semicolons or tabs stand between the cells, a comma within a number is a decimal comma.
    """
    try:
        cells = next(csv.reader([line], delimiter=delimiter, strict=True))
    except csv.Error as error:
        raise InputError(
            "this row is not comma-separated text", f"row {number}", line[:40], f"Mend its quotes ({error})."
        ) from None
    if delimiter == ",":
        return [cell.strip() for cell in cells]
    return [_decimal_point(cell.strip(), number) for cell in cells]


def _decimal_point(cell: str, number: int) -> str:
    if _TWO_WAYS.match(cell):
        raise InputError(
            "this number can be read in two ways",
            f"row {number}",
            cell,
            f"Write {cell.replace(',', '.')} or {cell.replace(',', '')}.",
        )
    return re.sub(r"(?<=\d),(?=\d)", ".", cell)


def column_length(text: str, unit: LengthUnit | None, where: str) -> float:
    """A cell's length in mm; a bare number is in `unit` (None: decimal feet). Raises InputError with the place."""
    try:
        # a bare number in a column of feet is in decimal feet
        return parse_length(text + ("ft" if unit is None and is_bare_number(text) else ""), unit or LengthUnit.INCH)
    except InputError as error:
        raise error.at(where) from None

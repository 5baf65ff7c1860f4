"""A workbook without its stray cells: one that stands a million rows below a table makes a grid that no memory holds."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from pathlib import Path

SHEET = re.compile(r"xl/worksheets/[^/]+\.xml$")
_END = rb"(?:/>|>.*?</(?:\w+:)?%s>)"
_ROW = re.compile(rb'<(?:\w+:)?row\b[^>]*?\br="(\d+)"[^>]*?' + _END % b"row", re.DOTALL)
_CELL = re.compile(rb'<(?:\w+:)?c\b[^>]*?\br="([A-Z]+)\d+"[^>]*?' + _END % b"c", re.DOTALL)
_SIZE = re.compile(rb"<(?:\w+:)?dimension\b[^>]*?(?:/>|>\s*</(?:\w+:)?dimension>)")
MOST_BYTES = 30_000_000
"""A larger workbook is no table with a stray cell."""


def without_strays(path: Path, rows: int, columns: int) -> io.BytesIO | None:
    """The workbook (xlsx) with no cell past so many rows and columns; None where it has none there, or is larger than can be
    looked through, or is no sound archive. Raises OSError."""
    try:
        return _copied(path, rows, columns)
    except (zipfile.BadZipFile, zlib.error, RuntimeError, EOFError):  # said by what reads it
        return None


def _copied(path: Path, rows: int, columns: int) -> io.BytesIO | None:
    with zipfile.ZipFile(path) as book:
        if sum(own.file_size for own in book.infolist()) > MOST_BYTES:
            return None
        sheets = [own for own in book.infolist() if SHEET.search(own.filename)]
        told = {own.filename: book.read(own) for own in sheets}
        near = {name: _near(data, rows, columns) for name, data in told.items()}
        if near == told:
            return None
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as copy:
            for own in book.infolist():
                data = near.get(own.filename)
                copy.writestr(own.filename, data if data is not None else book.read(own))
        out.seek(0)
        return out


def _near(data: bytes, rows: int, columns: int) -> bytes:
    """A sheet's XML without what lies farther out."""

    def row(found: re.Match[bytes]) -> bytes:
        return b"" if int(found[1]) > rows else found[0]

    def cell(found: re.Match[bytes]) -> bytes:
        return b"" if _column(found[1]) > columns else found[0]

    kept = _CELL.sub(cell, _ROW.sub(row, data))
    return kept if kept == data else _SIZE.sub(b"", kept)


def _column(letters: bytes) -> int:
    number = 0
    for letter in letters:
        number = 26 * number + letter - 64
    return number

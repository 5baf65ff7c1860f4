"""The entries of a log as CSV, both ways: what is written is read back as it was."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from pydantic import ValidationError

from ...core.errors import InputError
from ...core.log.when import day_of
from ...core.refusal import refusal
from ...core.settings.log_entry import Batch, Entry, Laid
from ...core.settings.readings import Side
from ..inert import inert, plain

MOST_BYTES = 20_000_000
MOST_SAID = 200
DAY = re.compile(r"(?:(?P<iso>\d{4}-\d{1,2}-\d{1,2})|(?P<dots>\d{1,2}\.\d{1,2}\.\d{2,4})|(?P<slashes>\d{1,2}/\d{1,2}/\d{2,4}))$")
PAIR = re.compile(r"^(\d{1,4})(?:-(\d{1,4}))?$")
CLOCK = re.compile(r"^(\d{1,2}):(\d{2})$")
BATCH = re.compile(
    r"^(?P<resin>[\d.eE+-]+?)\+(?P<hardener>[\d.eE-]+) g(?: at (?P<temperature>-?[\d.eE-]+) C)?"
    r"(?: (?P<mixed>\d{1,2}:\d{2}|\?)-(?P<used>\d{1,2}:\d{2}|\?))?$"
)


def _clock(minute: int | None) -> str:
    return "" if minute is None else f"{minute // 60}:{minute % 60:02d}"


def _pair(numbers: tuple[int, int] | None) -> str:
    return "" if numbers is None else f"{numbers[0]}-{numbers[1]}"


def _batch(batch: Batch) -> str:
    text = f"{batch.resin!r}+{batch.hardener!r} g"
    if batch.temperature is not None:
        text += f" at {batch.temperature!r} C"
    if batch.mixed is not None or batch.used_up is not None:
        text += f" {_clock(batch.mixed) or '?'}-{_clock(batch.used_up) or '?'}"
    return text


def _list(texts: Sequence[str]) -> str:
    return "; ".join(text.replace("\\", "\\\\").replace(";", "\\;") for text in texts)


def _texts(cell: str) -> tuple[str, ...]:
    """The texts of a list: `; ` stands between them, and what follows a backslash for itself."""
    if not cell:
        return ()
    parts = [""]
    for token in re.findall(r"\\.|; |.", cell, re.DOTALL):
        if token == "; ":
            parts.append("")
        else:
            parts[-1] += token[1:] if len(token) == 2 else token
    return tuple(parts)


def _minute(cell: str) -> int | None:
    if not cell or cell == "?":
        return None
    match = CLOCK.match(cell)
    if match is None:
        raise ValueError(f"{cell!r} is no time of day: write it as 19:30")
    return int(match[1]) * 60 + int(match[2])


def _numbers(cell: str) -> tuple[int, int] | None:
    if not cell:
        return None
    match = PAIR.match(cell)
    if match is None:
        raise ValueError(f"{cell!r} is no pair of numbers: write it as 21-24")
    return int(match[1]), int(match[2] or match[1])


def _batches(cell: str) -> tuple[Batch, ...]:
    found = []
    for text in _texts(cell):
        match = BATCH.match(text)
        if match is None:
            raise ValueError(f"{text!r} is no batch of glue: write it as 200+40 g at 14 C 19:10-19:40")
        found.append(
            Batch(
                resin=float(match["resin"]),
                hardener=float(match["hardener"]),
                temperature=None if match["temperature"] is None else float(match["temperature"]),
                mixed=_minute(match["mixed"] or ""),
                used_up=_minute(match["used"] or ""),
            )
        )
    return tuple(found)


def _float(cell: str) -> float:
    """A number with a decimal point or a decimal comma."""
    return float(cell.replace(",", ".") or 0)


def _number(value: float | None) -> str:
    return "" if value is None else repr(value)


def _reprs(values: Sequence[float]) -> str:
    return _list([repr(value) for value in values])


def _floats(cell: str) -> tuple[float, ...]:
    return tuple(_float(part) for part in _texts(cell))


def _runs(runs: Sequence[Laid]) -> str:
    return _list([_pair((run.first, run.last)) + (f" {run.side.value}" if run.side else "") for run in runs])


def _laid(cell: str) -> tuple[Laid, ...]:
    found = []
    for text in _texts(cell):
        numbers, _, side = text.partition(" ")
        pair = _numbers(numbers)
        if pair is None:
            raise ValueError(f"{text!r} is no run of strips: write it as 21-24 port")
        found.append(Laid(first=pair[0], last=pair[1], side=Side(side) if side else None))
    return tuple(found)


def _safe_list(texts: Sequence[str]) -> str:
    return inert(_list(texts))


def _plain_texts(cell: str) -> tuple[str, ...]:
    return _texts(plain(cell))


def _day(cell: str) -> date | str:
    """A day as it is written here or by a spreadsheet: 2026-09-28, 28.9.2026, 28/9/2026; as it stands where it is none."""
    match = DAY.match(cell.strip())
    told = match.groupdict() if match else None
    if told is None or told["iso"] is not None:
        return cell.strip()
    return day_of({**dict.fromkeys(("word", "ago", "weekday", "named", "months")), **told}, date.max, day_first=True) or cell


DECIMAL = (repr, _reprs, _number)
"""What writes numbers."""
TEXTS = (plain, _plain_texts)
"""What reads texts, whose blanks are theirs."""
NO_DAY = "this is no log"
Column = tuple[str, Callable[[Any], str], Callable[[str], Any]]
COLUMNS: tuple[Column, ...] = (
    ("day", date.isoformat, _day),
    ("told", str, str.lower),
    ("task", str, str.lower),
    ("what", inert, plain),
    ("people", str, lambda cell: int(cell or 1)),
    ("names", _safe_list, _plain_texts),
    ("hours", repr, _float),
    ("begin", _clock, _minute),
    ("end", _clock, _minute),
    ("strips", _pair, _numbers),
    ("veneers", _pair, _numbers),
    ("side", lambda side: "" if side is None else str(side), lambda cell: cell or None),
    ("molds", _safe_list, _plain_texts),
    ("sheets", repr, _float),
    ("metres", repr, _float),
    ("batches", lambda own: _list([_batch(batch) for batch in own]), _batches),
    ("wood", inert, plain),
    ("mend", inert, plain),
    ("photos", _safe_list, _plain_texts),
    ("finished", lambda own: "yes" if own else "", lambda cell: cell.lower() in ("yes", "true", "1")),
    ("line", inert, plain),
    ("wood_metres", repr, _float),
    ("stood", _reprs, _floats),
    ("also", _runs, _laid),
    ("own_hours", _reprs, _floats),
    ("temperature", _number, _float),
)


NAMES = {
    "date": "day",
    "datum": "day",
    "jour": "day",
    "kind": "told",
    "work": "task",
    "notes": "what",
    "note": "what",
    "who": "names",
    "time": "hours",
    "from": "begin",
    "start": "begin",
    "to": "end",
    "until": "end",
    "crew": "people",
    "glue": "batches",
}
"""What columns are called elsewhere."""


def write_log_csv(entries: Sequence[Entry], *, comma: bool = False) -> str:
    """The text of a log, one entry a row, safe to be opened by a spreadsheet; where it is more than ASCII it says that it is UTF-8.
    With a decimal `comma` there are semicolons between its cells."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n", delimiter=";" if comma else ",")
    writer.writerow([name for name, _, _ in COLUMNS])
    for entry in entries:
        cells = [(write, write(getattr(entry, name))) for name, write, _ in COLUMNS]
        writer.writerow([cell.replace(".", ",") if comma and write in DECIMAL else cell for write, cell in cells])
    text = out.getvalue()
    return text if text.isascii() else f"\ufeff{text}"


@dataclass(frozen=True)
class LogRow:
    """A row of a log's CSV: its number in the file (from 1), its cells, the entry that it is, or why it is none."""

    number: int
    cells: tuple[str, ...]
    entry: Entry | None = None
    why: str = ""


@dataclass(frozen=True)
class LogRead:
    """A log's CSV as it was understood: its headings, the column of an entry that each stands for (empty: not used), its rows."""

    headings: tuple[str, ...]
    meanings: tuple[str, ...]
    rows: tuple[LogRow, ...]

    @property
    def entries(self) -> tuple[Entry, ...]:
        """The entries of the rows that are any."""
        return tuple(row.entry for row in self.rows if row.entry is not None)

    @property
    def left_out(self) -> tuple[LogRow, ...]:
        """The rows that are none."""
        return tuple(row for row in self.rows if row.entry is None)


def understand_log(text: str, said: Mapping[int, str] | None = None) -> LogRead:
    """A log's CSV, or a spreadsheet's: semicolons or tabs between cells, columns in any order and by names used elsewhere. `said`
    tells what columns are, by their numbers from 0. Raises InputError for what is no table at all."""
    if len(text) > MOST_BYTES:
        raise InputError("this file is too large to be a log", mend="Choose the CSV of a log.")
    text = text.lstrip("\ufeff")
    first = text.partition("\n")[0]
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=max(";\t,", key=first.count))
    known = {name: read for name, _, read in COLUMNS}
    rows: list[LogRow] = []
    try:
        headings = tuple(next(reader, ()))
        meanings = _meanings(headings, said or {})
        for cells in reader:
            if any(cell.strip() for cell in cells):
                rows.append(_row(reader.line_num, tuple(cells), meanings, known))
    except csv.Error as error:
        raise InputError(
            "this file cannot be read as a table", f"line {reader.line_num}", str(error), "Export it as CSV again."
        ) from None
    return LogRead(headings, meanings, tuple(rows))


def _meanings(headings: Sequence[str], said: Mapping[int, str]) -> tuple[str, ...]:
    """What each column is: as it is said, else by its heading; each once."""
    names = [name for name, _, _ in COLUMNS]
    called = [heading.strip().lower().replace(" ", "_") for heading in headings]
    found: list[str] = []
    for k, name in enumerate(called):
        own = said[k] if k in said else NAMES.get(name, name) if NAMES.get(name) not in called else name
        taken = own in found or (k not in said and own in said.values())
        found.append(own if own in names and not taken else "")
    return tuple(found)


def _row(number: int, cells: tuple[str, ...], meanings: Sequence[str], known: Mapping[str, Callable[[str], Any]]) -> LogRow:
    try:
        values = {
            name: known[name](cell)
            for name, cell in zip(meanings, cells, strict=False)
            if name and (cell.strip() or (cell and known[name] in TEXTS))
        }
        return LogRow(number, cells, Entry.model_validate(values))
    except ValueError as error:
        return LogRow(number, cells, why=_said(error))


def read_log_csv(text: str) -> tuple[Entry, ...]:
    """The entries of a log's CSV, as `understand_log` reads it. Columns that are missing are as where nothing was told, but the day
    must be there. Raises InputError naming the line, the value and the mend."""
    found = understand_log(text)
    if "day" not in found.meanings:
        raise InputError(NO_DAY, mend="Its first line must name the columns, and one of them is day.")
    for row in found.left_out:
        raise InputError("an entry cannot be read", f"line {row.number}", row.why, "Mend that line, or take it out.")
    return found.entries


def _said(error: Exception) -> str:
    if isinstance(error, ValidationError):
        found = refusal(error, Entry)
        return f"{found.where or 'entry'}: {found.value or 'this'} cannot be used. {found.mend}"[:MOST_SAID]
    return str(error)[:MOST_SAID]

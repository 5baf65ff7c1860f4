"""The entries of a log as CSV, both ways: what is written is read back as it was."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Sequence
from datetime import date
from typing import Any

from pydantic import ValidationError

from ..core.errors import InputError
from ..core.log.when import day_of
from ..core.refusal import refusal
from ..core.settings.log_entry import Batch, Entry, Laid
from ..core.settings.readings import Side

MOST_BYTES = 20_000_000
MOST_SAID = 200
LIVE = ("=", "+", "-", "@", "\t", "\r", "'")
"""What a text begins with that a spreadsheet might run."""
DAY = re.compile(
    r"(?:(?P<iso>\d{4}-\d{1,2}-\d{1,2})|(?P<dots>\d{1,2}\.\d{1,2}\.\d{2,4})|(?P<slashes>\d{1,2}/\d{1,2}/\d{2,4}))$"
)
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
                resin=float(match["resin"]), hardener=float(match["hardener"]),
                temperature=None if match["temperature"] is None else float(match["temperature"]),
                mixed=_minute(match["mixed"] or ""), used_up=_minute(match["used"] or ""),
            )
        )  # fmt: skip
    return tuple(found)


def _float(cell: str) -> float:
    """A number with a decimal point or a decimal comma."""
    return float(cell.replace(",", ".") or 0)


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


def _safe(text: str) -> str:
    """A text that no spreadsheet takes for a formula: one that begins as a formula does has an apostrophe before it."""
    return f"'{text}" if text[:1] in LIVE else text


def _plain(cell: str) -> str:
    return cell[1:] if cell[:1] == "'" and cell[1:2] in LIVE else cell


def _safe_list(texts: Sequence[str]) -> str:
    return _safe(_list(texts))


def _plain_texts(cell: str) -> tuple[str, ...]:
    return _texts(_plain(cell))


def _day(cell: str) -> date | str:
    """A day as it is written here or by a spreadsheet: 2026-09-28, 28.9.2026, 28/9/2026; as it stands where it is none."""
    match = DAY.match(cell.strip())
    told = match.groupdict() if match else None
    if told is None or told["iso"] is not None:
        return cell.strip()
    return (
        day_of(
            {**dict.fromkeys(("word", "ago", "weekday", "named", "months")), **told}, date.max, day_first=True
        )
        or cell
    )


Column = tuple[str, Callable[[Any], str], Callable[[str], Any]]
COLUMNS: tuple[Column, ...] = (
    ("day", date.isoformat, _day), ("told", str, str.lower), ("task", str, str.lower), ("what", _safe, _plain),
    ("people", str, lambda cell: int(cell or 1)), ("names", _safe_list, _plain_texts), ("hours", repr, _float),
    ("begin", _clock, _minute), ("end", _clock, _minute), ("strips", _pair, _numbers), ("veneers", _pair, _numbers),
    ("side", lambda side: "" if side is None else str(side), lambda cell: cell or None), ("molds", _safe_list, _plain_texts),
    ("sheets", repr, _float), ("metres", repr, _float),
    ("batches", lambda own: _list([_batch(batch) for batch in own]), _batches), ("wood", _safe, _plain), ("mend", _safe, _plain),
    ("photos", _safe_list, _plain_texts),
    ("finished", lambda own: "yes" if own else "", lambda cell: cell.lower() in ("yes", "true", "1")),
    ("line", _safe, _plain), ("wood_metres", repr, _float),
    ("stood", _reprs, _floats), ("also", _runs, _laid), ("own_hours", _reprs, _floats),
    ("temperature", lambda own: "" if own is None else repr(own), _float),
)  # fmt: skip


NAMES = {
    "date": "day", "datum": "day", "jour": "day", "kind": "told", "work": "task", "notes": "what", "note": "what", "who": "names",
    "time": "hours",
    "from": "begin", "start": "begin", "to": "end", "until": "end", "crew": "people", "glue": "batches",
}  # fmt: skip
"""What columns are called elsewhere."""


def write_log_csv(entries: Sequence[Entry]) -> str:
    """The text of a log, one entry a row, safe to be opened by a spreadsheet; where it is more than ASCII it says that it is
    UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow([name for name, _, _ in COLUMNS])
    for entry in entries:
        writer.writerow([write(getattr(entry, name)) for name, write, _ in COLUMNS])
    text = out.getvalue()
    return text if text.isascii() else f"\ufeff{text}"


def read_log_csv(text: str) -> tuple[Entry, ...]:
    """The entries of a log's CSV, or of a spreadsheet's: semicolons or tabs between cells, columns in any order and by names
    used elsewhere. Columns that are missing are as where nothing was told, but the day must be there. Raises InputError naming the
    line, the value and the mend."""
    if len(text) > MOST_BYTES:
        raise InputError("this file is too large to be a log", mend="Choose the CSV of a log.")
    text = text.lstrip("\ufeff")
    first = text.partition("\n")[0]
    rows = csv.DictReader(io.StringIO(text, newline=""), delimiter=max(";\t,", key=first.count))
    known = {name: read for name, _, read in COLUMNS}
    found = []
    try:
        called = [name.strip().lower() for name in rows.fieldnames or ()]
        rows.fieldnames = [
            NAMES.get(name, name) if NAMES.get(name) not in called else name for name in called
        ]
        if "day" not in rows.fieldnames:
            raise InputError(
                "this is no log", mend="Its first line must name the columns, and one of them is day."
            )
        for row in rows:
            if not any(row.values()):
                continue
            values = {name: known[name](cell) for name, cell in row.items() if name in known and cell}
            found.append(Entry.model_validate(values))
    except (ValueError, csv.Error) as error:
        raise InputError(
            "an entry cannot be read",
            f"line {rows.line_num}",
            _said(error),
            "Mend that line, or take it out.",
        ) from None
    return tuple(found)


def _said(error: Exception) -> str:
    if isinstance(error, ValidationError):
        found = refusal(error, Entry)
        return f"{found.where or 'entry'}: {found.value or 'this'} cannot be used. {found.mend}"[:MOST_SAID]
    return str(error)[:MOST_SAID]

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
from ..core.refusal import refusal
from ..core.settings.log_entry import Batch, Entry

MOST_BYTES = 20_000_000
MOST_SAID = 200
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


Column = tuple[str, Callable[[Any], str], Callable[[str], Any]]
COLUMNS: tuple[Column, ...] = (
    ("day", date.isoformat, str), ("told", str, str), ("task", str, str), ("what", str, str),
    ("people", str, lambda cell: int(cell or 1)), ("names", _list, _texts), ("hours", repr, lambda cell: float(cell or 0)),
    ("begin", _clock, _minute), ("end", _clock, _minute), ("strips", _pair, _numbers), ("veneers", _pair, _numbers),
    ("side", lambda side: "" if side is None else str(side), lambda cell: cell or None), ("molds", _list, _texts),
    ("sheets", repr, lambda cell: float(cell or 0)), ("metres", repr, lambda cell: float(cell or 0)),
    ("batches", lambda own: _list([_batch(batch) for batch in own]), _batches), ("wood", str, str), ("mend", str, str),
    ("photos", _list, _texts), ("finished", lambda own: "yes" if own else "", lambda cell: cell.lower() in ("yes", "true", "1")),
    ("line", str, str), ("wood_metres", repr, lambda cell: float(cell or 0)),
    ("stood", lambda own: _list([repr(at) for at in own]), lambda cell: tuple(float(at) for at in _texts(cell))),
)  # fmt: skip


def write_log_csv(entries: Sequence[Entry]) -> str:
    """The text of a log, one entry a row."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow([name for name, _, _ in COLUMNS])
    for entry in entries:
        writer.writerow([write(getattr(entry, name)) for name, write, _ in COLUMNS])
    return out.getvalue()


def read_log_csv(text: str) -> tuple[Entry, ...]:
    """The entries of a log's CSV; columns that are missing are as where nothing was told, but the day must be there. Raises
    InputError naming the line, the value and the mend."""
    if len(text) > MOST_BYTES:
        raise InputError("this file is too large to be a log", mend="Choose the CSV of a log.")
    rows = csv.DictReader(io.StringIO(text.lstrip("\ufeff"), newline=""))
    known = {name: read for name, _, read in COLUMNS}
    found = []
    try:
        if "day" not in (rows.fieldnames or ()):
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

"""What changed between two jobs, in the builder's words."""

from __future__ import annotations

from operator import attrgetter
from typing import Any

from ..core.job import Job
from ..core.settings.record import Kind
from ..core.settings_table import Record, all_settings
from ..core.units import LengthStyle
from .setting_text import text_to_show

MOST_LETTERS = 60


def differences(before: Job, after: Job) -> tuple[str, ...]:
    """A line for each setting that is not the same; what is kept in rows is told by how many of them differ."""
    style = after.units.style
    found = []
    for path, record in all_settings().items():
        was, now = (attrgetter(path)(job) for job in (before, after))
        if was != now:
            found.append(f"{record.setting.label}: {_told(record, was, now, style)}")
    return tuple(found)


def _told(record: Record, was: Any, now: Any, style: LengthStyle) -> str:
    if isinstance(was, tuple) and isinstance(now, tuple) and record.setting.kind is Kind.RECORDS:
        return _rows(was, now)
    if record.setting.kind is Kind.RECORDS:
        return "changed" if was is not None and now is not None else "taken out" if now is None else "new"
    return f"{_short(record, was, style)} → {_short(record, now, style)}"


def _rows(was: tuple[Any, ...], now: tuple[Any, ...]) -> str:
    left = list(was)
    new = 0
    for row in now:
        if row in left[:1]:
            left.pop(0)
        elif row in left:
            left.remove(row)
        else:
            new += 1
    parts = [f"{count} {word}" for count, word in ((new, "new or changed"), (len(left), "gone or as they were")) if count]
    return ", ".join(parts) or "in another order"


def _short(record: Record, value: Any, style: LengthStyle) -> str:
    text = text_to_show(record, value, style)
    return text if len(text) <= MOST_LETTERS else f"{text[:MOST_LETTERS]}…"

"""A setting as a text: as it is shown, as it is typed, and read back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from ..core.errors import InputError
from ..core.log.days import day_text, days_text, read_day, read_days
from ..core.places import Ends, parse_lengths, parse_place
from ..core.settings.record import Kind
from ..core.settings_table import Record, is_length
from ..core.units import LengthStyle, format_length, given_length, parse_length, refuse_thousands

YES_NO = {True: "yes", False: "no"}
ZERO = "0: "
"""Before the words of what is so where a setting is 0."""


def style_of(record: Record, style: LengthStyle) -> LengthStyle:
    """How its lengths are written: finer where a caliper measures them."""
    return style.fine if record.setting.kind is Kind.FINE else style


def text_to_type(record: Record, value: Any, style: LengthStyle) -> str:
    """A value as it is typed; nothing set is an empty text."""
    if value is None:
        return ""
    if is_length(record):
        return given_length(value, style_of(record, style))
    writers: dict[Kind, Callable[[], str]] = {
        Kind.LENGTHS: lambda: ", ".join(given_length(x, style) for x in value),
        Kind.SHARES: lambda: ", ".join(f"{100 * share:g}" for share in value),
        Kind.PER_CENT: lambda: f"{100 * value:g}",
        Kind.DAY: lambda: day_text(value),
        Kind.DAYS: lambda: days_text(value),
    }
    return writers.get(record.setting.kind, lambda: f"{value:g}" if isinstance(value, float) else str(value))()


def text_to_show(record: Record, value: Any, style: LengthStyle) -> str:
    """A value in words: a choice in its own, nothing as what is so then, a number with what it counts."""
    words = record.setting
    if words.kind is Kind.CHOICE and value in words.choices:
        return words.choices[value]
    if words.kind is Kind.FLAG:
        return YES_NO[bool(value)]
    none = words.none.removeprefix(ZERO)
    if value is None or value == () or (value == 0 and words.none.startswith(ZERO)):
        return none or "none"
    text = text_to_type(record, value, style)
    if words.kind in (Kind.PER_CENT, Kind.SHARES):
        return f"{text} %"
    unit = {"degrees": "°"}.get(words.unit, f" {words.unit}" if words.unit else "")
    return f"{text}{unit}"


def as_given(record: Record, now: Any, shown: str, style: LengthStyle) -> str:
    """The number that is `shown` for a setting on a drawing, which a job says is `now`: with more digits where it is that number
    rounded to another length than was given. One that shows anything else stays."""
    if is_length(record) and isinstance(now, float) and shown == format_length(now, style_of(record, style)):
        return given_length(now, style_of(record, style))
    return shown


def read_text(record: Record, text: str, style: LengthStyle, now: Any, ends: Ends | None = None) -> Any:
    """The value that a text stands for; the present one as long as its own text is unchanged, so that nothing is rounded that was
    not typed. Places along the hull may be told from its `ends`. Raises InputError named after the setting."""
    text = text.strip()
    if now is not None and text == text_to_type(record, now, style):
        return now
    if record.may_be_none and not text:
        return None
    label, unit = record.setting.label, style_of(record, style).unit
    ends = ends if record.is_place else None
    readers: dict[Kind, Callable[[], Any]] = {
        Kind.LENGTH: lambda: parse_place(text, unit, ends),
        Kind.FINE: lambda: parse_length(text, unit),
        Kind.LENGTHS: lambda: parse_lengths(text, unit, ends),
        Kind.NUMBER: lambda: read_number(text, label),
        Kind.DAY: lambda: read_day(text, date.today()),
        Kind.DAYS: lambda: read_days(text, date.today()),
        Kind.DEGREES: lambda: read_number(text.rstrip("° "), label),
        Kind.PER_CENT: lambda: read_number(text.rstrip("% "), label, 60) / 100,
        Kind.WHOLE: lambda: read_whole(text, label),
        Kind.SHARES: lambda: tuple(_share(part, label) for part in _parts(text.replace("%", " "))),
    }
    try:
        if record.setting.kind in (Kind.LENGTH, Kind.FINE, Kind.LENGTHS):
            for part in _parts(text):
                refuse_thousands(part, unit)
        return readers.get(record.setting.kind, lambda: text)()
    except InputError as error:
        raise error if error.where else error.at(label) from None


def _parts(text: str) -> list[str]:
    return [part.strip() for part in text.replace(";", ",").split(",") if part.strip()]


def read_number(text: str, label: str = "", example: float = 7.7) -> float:
    """A plain number, with a point or a comma. Raises InputError."""
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise InputError("this is not a number", label, text, f"Write for example {example:g}.") from None


def read_whole(text: str, label: str = "", example: int = 2) -> int:
    """A whole number. Raises InputError."""
    try:
        return int(text)
    except ValueError:
        raise InputError("this is not a whole number", label, text, f"Write for example {example}.") from None


def _share(text: str, label: str) -> float:
    try:
        return float(text) / 100
    except ValueError:
        raise InputError("this is not a share in per cent", label, text, "Write for example 35, 65.") from None

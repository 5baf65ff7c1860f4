"""Settings given as KEY=VALUE, as on the command line."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import date
from enum import Enum
from functools import reduce
from typing import Any

from ..core.change import change
from ..core.errors import InputError
from ..core.job import Job
from ..core.log.days import days_text, read_day, read_days
from ..core.places import Ends, parse_lengths, parse_place
from ..core.settings.record import Kind
from ..core.settings_table import Record, all_settings, setting_named
from ..core.units import LengthUnit, parse_length
from ..files.store.plain_json import read_json
from .setting_text import ZERO


def _stations(text: str, unit: LengthUnit, ends: Ends | None) -> dict[str, Any]:
    if text == "offsets":
        return {"stations": (), "every": None}
    if text.startswith("every:"):
        return {"stations": (), "every": parse_length(text.removeprefix("every:"), unit)}
    return {"stations": parse_lengths(text, unit, ends), "every": None}


def _guide(text: str, unit: LengthUnit, _ends: Ends | None) -> dict[str, Any]:
    """A guide line: sheer, keel, both, master:HEIGHT, natural:HEIGHT, or girth:SHARE."""
    kind, colon, value = text.partition(":")
    if not colon:
        return {"guide": text}
    if kind == "girth":
        try:
            return {"guide": "master", "master": {"kind": "girth", "share": float(value)}}
        except ValueError:
            raise InputError("this is not a share", value=value, mend="Write for example girth:0.6.") from None
    kinds = {"master": "height", "natural": "natural"}
    if kind not in kinds:
        raise InputError(
            "no such guide line", value=text, mend="Use sheer, keel, both, master:HEIGHT, natural:HEIGHT or girth:SHARE."
        )
    return {"guide": "master", "master": {"kind": kinds[kind], "height": parse_length(value, unit)}}


_Reader = Callable[[str, LengthUnit, Ends | None], Any]
TOGETHER: Mapping[str, tuple[str, _Reader]] = {"mold.stations": ("molds", _stations), "strip.guide": ("strips", _guide)}
"""Names that set more than one field at once."""
YES, NO = ("true", "yes", "on", "1"), ("false", "no", "off", "0")
NOTHING = ("none", "")


def apply_override(job: Job, key: str, value: str, unit: LengthUnit = LengthUnit.MM) -> Job:
    """The job with one setting changed; a bare length is in `unit`. Raises InputError naming key, value and mend."""
    try:
        if key in TOGETHER:
            part, together = TOGETHER[key]
            changed = change(job, part, **together(value, unit, job.offsets.ends))
        else:
            record = setting_named(key)
            changed = change(job, record.part, **{record.field: read_value(record, value.strip(), unit, job.offsets.ends)})
        return changed.in_step()
    except InputError as error:
        raise error if error.problem == "no such setting" else error.at(key) from None


def _nothing(record: Record) -> Any:
    """What a setting is where nothing is set: no value, an empty list, or the nought of its own words; … if none of them."""
    if record.may_be_none:
        return None
    if record.default == ():
        return ()
    return 0.0 if record.setting.none.startswith(ZERO) else ...


def read_value(record: Record, text: str, unit: LengthUnit, ends: Ends | None = None) -> Any:
    """A setting's value from a text; a bare length is in `unit`, a place along the hull may be told from its `ends`. What pydantic
    reads itself is left to it. Raises InputError."""
    kind = record.setting.kind
    if text.lower() in NOTHING and (nothing := _nothing(record)) is not ...:
        return nothing
    ends = ends if record.is_place else None
    readers: dict[Kind, Callable[[], Any]] = {
        Kind.LENGTH: lambda: parse_place(text, unit, ends),
        Kind.FINE: lambda: parse_length(text, unit),
        Kind.LENGTHS: lambda: parse_lengths(text, unit, ends),
        Kind.SHARES: lambda: tuple(_share(part) for part in text.split(",") if part.strip()),
        Kind.PER_CENT: lambda: _share(text),
        Kind.FLAG: lambda: _flag(text),
        Kind.RECORDS: lambda: _records(text),
        Kind.DAY: lambda: read_day(text, date.today()),
        Kind.DAYS: lambda: _records(text) if text.startswith("[") else read_days(text, date.today()),
    }
    if kind is Kind.CHOICE and any(isinstance(value, bool) for value in record.setting.choices):
        return _flag(text)
    return readers[kind]() if kind in readers else text


def as_overrides(before: Job, after: Job) -> list[str] | None:
    """What makes one job of another, each as KEY=VALUE; None where that cannot be said so."""
    found: list[str] = []
    told = before
    for record in all_settings().values():
        now, then = (reduce(getattr, record.path.split("."), job) for job in (before, after))
        if now == then:
            continue
        text = _written(record, then)
        found.append(f"{record.key}={text}")
        try:
            told = apply_override(told, record.key, text)
        except InputError:
            return None
    return found if told == after.in_step() else None


def _written(record: Record, value: Any) -> str:
    """A setting's value as the command line reads it, whatever a job's unit."""
    if value is None or value == ():
        return "none"
    if record.setting.kind in (Kind.LENGTH, Kind.FINE, Kind.LENGTHS):
        return ",".join(f"{own:.10g}mm" for own in (value if isinstance(value, tuple) else (value,)))
    if record.setting.kind is Kind.DAYS:
        return days_text(value)
    if isinstance(value, bool):
        return YES[0] if value else NO[0]
    return str(value.value if isinstance(value, Enum) else value)


def _share(text: str) -> float:
    """A share, as 0.35 or 35 %."""
    try:
        return float(text.rstrip("% ")) / 100 if text.strip().endswith("%") else float(text)
    except ValueError:
        raise InputError("this is not a share", value=text, mend="Write for example 0.35 or 35%.") from None


def _flag(text: str) -> bool:
    if text.lower() in (*YES, *NO):
        return text.lower() in YES
    raise InputError("this is neither yes nor no", value=text, mend="Write true or false.")


def _records(text: str) -> Any:
    try:
        return read_json(text)
    except InputError as error:
        raise InputError("this is not JSON", error.where, text[:40], error.mend) from None

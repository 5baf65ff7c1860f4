"""Schedules: a result's rows with their columns, told once for the table on a page, the CSV, the plan file and paper."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Protocol

from ..core.amounts import data_length, data_style
from ..core.findings import in_words
from ..core.job import Job
from ..core.results import Results
from ..core.stage import Stage
from ..core.units import LengthStyle, format_degrees, format_length, plain_length
from .rounded import rounded


class Kind(StrEnum):
    """What a column tells."""

    LENGTH = "length"
    FINE = "fine"
    """A length that a caliper measures."""
    DEGREES = "degrees"
    SHARE = "share"
    """Told in per cent."""
    NUMBER = "number"
    WORD = "word"


@dataclass(frozen=True)
class Field:
    """A column: its key in the plan file, its heading, its value in a row (mm, degrees; None: not known), and its kind."""

    key: str
    heading: str
    of: Callable[[Any], Any]
    kind: Kind = Kind.LENGTH
    long: str = ""
    """Its heading where there is room for it: on paper and in CSV; lengths in it are marked."""


class Values(Protocol):
    """What stages came to, as far as it is known."""

    def get(self, stage: Stage[Any]) -> Any:
        """The value of a stage; None where it is not known."""


@dataclass(frozen=True)
class Schedule:
    """Rows of a stage's value. `key` is their name in the plan file; `title` stands over them; `pick` is what a row is picked
    by."""

    key: str
    title: str
    stage: Stage[Any]
    rows: Callable[[Any], Iterable[Any]]
    fields: tuple[Field, ...] | Callable[[Any], tuple[Field, ...]]
    pick: Callable[[Any], str] = lambda _row: ""
    ticked: bool = False
    """Whether its rows are ticked off on paper."""

    def when(self, job: Job) -> bool:
        """Whether a job has it."""
        return self.stage.when(job)

    def columns(self, value: Any) -> tuple[Field, ...]:
        """The columns for a stage's value."""
        return self.fields(value) if callable(self.fields) else self.fields

    def value_in(self, values: Values, job: Job) -> Any:
        """What it is told from, among what is known of a job; None where the job has no such thing, or it is not known."""
        return values.get(self.stage) if self.when(job) else None

    def told(self, value: Any) -> tuple[list[Any], list[Field]]:
        """Its rows, and those columns that have anything in them; nothing of None."""
        if value is None:
            return [], []
        rows = list(self.rows(value))
        return rows, [f for f in self.columns(value) if any(f.of(row) is not None for row in rows)]


def shown(value: Any, kind: Kind, style: LengthStyle) -> str:
    """A value as it is read by a builder."""
    if value is None:
        return ""
    if kind is Kind.LENGTH:
        return format_length(value, style)
    if kind is Kind.FINE:
        return format_length(value, style.fine)
    if kind is Kind.DEGREES:
        return format_degrees(value)
    if kind is Kind.SHARE:
        return f"{100 * value:.1f} %"
    return str(value)


def title_of(field: Field, style: LengthStyle) -> str:
    """A column's heading, lengths in it as the builder has them."""
    return in_words(field.long or field.heading, lambda value: format_length(value, style))


def _heading(field: Field, style: LengthStyle) -> str:
    """A column's heading with its unit."""
    title = in_words(field.long or field.heading, lambda value: plain_length(value, style))
    if field.kind in (Kind.LENGTH, Kind.FINE):
        return f"{title} {data_style(style).name}"
    if field.kind is Kind.DEGREES:
        return f"{title} deg"
    return f"{title} %" if field.kind is Kind.SHARE else title


def _plain(value: Any, kind: Kind, style: LengthStyle) -> str:
    if value is None:
        return ""
    if kind in (Kind.LENGTH, Kind.FINE):
        return data_length(float(value), style)
    if kind in (Kind.DEGREES, Kind.SHARE):
        return f"{value * (100 if kind is Kind.SHARE else 1):.2f}"
    return str(value)


def schedule_csv(results: Results, schedule: Schedule) -> str:
    """One schedule's headings and rows, in the job's units."""
    out = io.StringIO()
    _write(out, results, schedule)
    return out.getvalue()


def schedules_csv(results: Results, schedules: Sequence[Schedule]) -> str:
    """Schedules one after another, each under its title and with a blank line after it, in the job's units."""
    parts = []
    for schedule in schedules:
        out = io.StringIO()
        csv.writer(out, lineterminator="\n").writerow([schedule.title])
        if _write(out, results, schedule):
            parts.append(out.getvalue())
    return "\n".join(parts)


def _write(out: io.StringIO, results: Results, schedule: Schedule) -> bool:
    """Write a schedule's headings and rows; whether it has any."""
    style = results.job.units.style
    value = schedule.value_in(results, results.job)
    rows = list(schedule.rows(value)) if value is not None else []
    if rows:
        fields = schedule.columns(value)
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow([_heading(field, style) for field in fields])
        writer.writerows([_plain(field.of(row), field.kind, style) for field in fields] for row in rows)
    return bool(rows)


def schedule_rows(value: Any, schedule: Schedule) -> list[dict[str, Any]]:
    """A schedule's rows for the plan file: lengths mm, angles degrees, shares as they are."""
    if value is None:
        return []
    return [
        {field.key: rounded(own) if isinstance(own := field.of(row), float) else own for field in schedule.columns(value)}
        for row in schedule.rows(value)
    ]

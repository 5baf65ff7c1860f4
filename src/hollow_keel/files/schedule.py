"""Schedules: rows of figures with their columns, told once for the table on a page, the CSV, the plan file and paper."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fnmatch import fnmatchcase
from typing import Any, Protocol

from ..core.amounts import converted, data_length, data_style, far_length
from ..core.findings import in_words
from ..core.job import Job
from ..core.results import Results
from ..core.settings.units import UnitSettings
from ..core.stage import Stage
from ..core.units import INCHES, LengthStyle, format_degrees, format_length, plain_length
from .inert import inert
from .rounded import rounded

STRAIGHT, SEEN_STRAIGHT = 1e-8, 1e-6
"""A curvature, 1/mm, below which there is no radius to tell, in a file and to a builder."""


class Kind(StrEnum):
    """What a column tells. Values are mm, degrees, 1/mm, metric amounts; how each is told stands in `_WAYS`."""

    LENGTH = "length"
    """Decimal and exact in a file, for it is added up there; on the tape's marks where it is read."""
    TAPE = "tape"
    """A length laid off with the tape: on its marks in files too."""
    FINE = "fine"
    """A length that a caliper measures."""
    CALIPER = "caliper"
    """The same, and rounded so in files too."""
    RADIUS = "radius"
    """Given as a curvature, 1/mm."""
    DEGREES = "degrees"
    SHARE = "share"
    """Told in per cent."""
    AMOUNT = "amount"
    """In a metric unit of its own (`Field.unit`); told in what the job has."""
    NUMBER = "number"
    WORD = "word"
    """Lengths in it are marked."""


@dataclass(frozen=True)
class Field:
    """A column: its key in the plan file, its heading, its value in a row (mm, degrees; None: not known), and its kind."""

    key: str
    heading: str
    of: Callable[[Any], Any]
    kind: Kind = Kind.LENGTH
    long: str = ""
    """Its heading where there is room for it: on paper and in CSV; lengths in it are marked."""
    places: int | None = None
    """Decimals in a file; None: as the kind has them."""
    unit: str = ""
    """Of an amount (metric), or said after a number."""
    order: Callable[[Any], float] | None = None
    """What rows are sorted by, where that is not the value."""
    said: Callable[[Any, UnitSettings], str] | None = None
    """How it is read on a page, where its kind does not say that."""


class Values(Protocol):
    """What stages came to, as far as it is known."""

    def get(self, stage: Stage[Any]) -> Any:
        """The value of a stage; None where it is not known."""


@dataclass(frozen=True)
class Schedule:
    """Rows of a stage's value, or of what `source` makes of several. `key` is their name in the plan file; `title` stands over
    them; `pick` is what a row is picked by. `page` and `file` name the columns that stand there, in their order ("*" for the rest
    of a name); empty: all."""

    key: str
    title: str
    stage: Stage[Any]
    rows: Callable[[Any], Iterable[Any]]
    fields: tuple[Field, ...] | Callable[[Any], tuple[Field, ...]]
    pick: Callable[[Any], str] = lambda _row: ""
    ticked: bool = False
    """Whether its rows are ticked off on paper."""
    beside: tuple[Stage[Any], ...] = ()
    """The other stages that it is told from."""
    source: Callable[..., Any] | None = None
    """What rows and columns are told from, where the stage's value alone is not enough: of a job, that value, and the values of
    those beside it (None: not known); None where too little is known."""
    page: tuple[str, ...] = ()
    file: tuple[str, ...] = ()
    paper: tuple[str, ...] = ()
    bracketed: bool = False
    """Whether units stand in brackets in the headings of its file."""
    missing: str = ""
    """What is said of a figure that there is none of."""

    def when(self, job: Job) -> bool:
        """Whether a job has it."""
        return self.stage.when(job)

    def columns(self, value: Any, named: tuple[str, ...] = ()) -> tuple[Field, ...]:
        """The columns for a value: all, or those named, in that order."""
        fields = self.fields(value) if callable(self.fields) else self.fields
        if not named:
            return fields
        return tuple(field for name in named for field in fields if fnmatchcase(field.key, name))

    def value_in(self, values: Values, job: Job) -> Any:
        """What it is told from, among what is known of a job; None where the job has no such thing, or it is not known."""
        if not self.when(job):
            return None
        own, *others = (values.get(stage) for stage in (self.stage, *self.beside))
        return own if own is None or self.source is None else self.source(job, own, *others)

    def told(self, value: Any, named: tuple[str, ...] = ()) -> tuple[list[Any], list[Field]]:
        """Its rows (none of None), and those columns that have anything to say; all where there is no row."""
        if value is None and callable(self.fields):
            return [], []
        rows = [] if value is None else list(self.rows(value))
        fields = self.columns(value, named)
        return rows, [f for f in fields if not rows or f.said is not None or any(f.of(row) is not None for row in rows)]


@dataclass(frozen=True)
class _Way:
    """How a kind's values are told: on a page or on paper, in a file, and in what unit there."""

    shown: Callable[[Any, Field, UnitSettings], str]
    plain: Callable[[Any, Field, UnitSettings], str]
    unit: Callable[[Field, UnitSettings], str]


def _places(field: Field, usual: int) -> int:
    return usual if field.places is None else field.places


def _amount(value: float, field: Field, units: UnitSettings) -> str:
    number, unit = converted(value, field.unit, units.told_in)
    return f"{number:.{_places(field, 1)}f} {unit}"


def _plain_amount(value: float, field: Field, units: UnitSettings) -> str:
    number, unit = converted(value, field.unit, units.told_in)
    return f"{number:.{_places(field, 2) if unit == field.unit else 2}f}"


def _number(value: Any, field: Field, _units: UnitSettings) -> str:
    return f"{value} {field.unit}" if field.unit else str(value)


def _plain_number(value: Any, field: Field, _units: UnitSettings) -> str:
    return str(value) if field.places is None else f"{value:.{field.places}f}"


def _words(value: Any, _field: Field, units: UnitSettings) -> str:
    return in_words(str(value), lambda mm: format_length(mm, units.style, unit=True))


_EXACT = _Way(
    lambda v, _, units: format_length(v, units.style),
    lambda v, _, units: data_length(float(v), units.style),
    lambda _, units: data_style(units.style).name,
)
_WAYS: Mapping[Kind, _Way] = {
    Kind.LENGTH: _EXACT,
    Kind.FINE: replace(_EXACT, shown=lambda v, _, units: format_length(v, units.style.fine)),
    Kind.TAPE: replace(_EXACT, plain=lambda v, _, units: plain_length(v, units.style), unit=lambda _, units: units.style.name),
    Kind.CALIPER: _Way(
        lambda v, _, units: format_length(v, units.style.fine),
        lambda v, _, units: plain_length(v, units.style.fine),
        lambda _, units: units.style.fine.name,
    ),
    Kind.RADIUS: _Way(
        lambda v, _, units: far_length(1 / v, units.style, 1) if v > SEEN_STRAIGHT else "straight",
        lambda v, _, units: far_length(1 / v, units.style, 2).split()[0] if v > STRAIGHT else "straight",
        lambda _, units: "ft" if units.style.unit in INCHES else "m",
    ),
    Kind.DEGREES: _Way(lambda v, *_: format_degrees(v), lambda v, field, _: f"{v:.{_places(field, 2)}f}", lambda *_: "deg"),
    Kind.SHARE: _Way(lambda v, *_: f"{100 * v:.1f} %", lambda v, field, _: f"{100 * v:.{_places(field, 2)}f}", lambda *_: "%"),
    Kind.AMOUNT: _Way(_amount, _plain_amount, lambda field, units: converted(1.0, field.unit, units.told_in)[1]),
    Kind.NUMBER: _Way(_number, _plain_number, lambda field, _: field.unit),
    Kind.WORD: _Way(_words, lambda *told: inert(_words(*told)), lambda *_: ""),
}


def shown(row: Any, field: Field, units: UnitSettings, missing: str = "") -> str:
    """A row's cell as it is read by a builder, on a page or on paper."""
    if field.said is not None:
        return field.said(row, units)
    value = field.of(row)
    return missing if value is None else _WAYS[field.kind].shown(value, field, units)


def title_of(field: Field, style: LengthStyle) -> str:
    """A column's heading, lengths in it as the builder has them."""
    return in_words(field.long or field.heading, lambda value: format_length(value, style))


def _heading(field: Field, units: UnitSettings, bracketed: bool) -> str:
    """A column's heading with its unit."""
    title = in_words(field.long or field.heading, lambda value: plain_length(value, units.style))
    unit = _WAYS[field.kind].unit(field, units)
    if bracketed and unit:
        return f"{title} ({'degrees' if unit == 'deg' else unit})"
    return f"{title} {unit}".rstrip()


def _plain(row: Any, field: Field, units: UnitSettings) -> str:
    """A row's cell in a file: figures alone, without their unit."""
    value = field.of(row)
    return "" if value is None else _WAYS[field.kind].plain(value, field, units)


def schedule_csv(results: Results, schedule: Schedule) -> str:
    """One schedule's headings and rows, in the job's units. Raises what went wrong with any stage that it is told from."""
    for stage in (schedule.stage, *schedule.beside):
        if stage.when(results.job):
            results[stage]
    return told_csv(schedule, schedule.value_in(results, results.job), results.job.units)


def told_csv(schedule: Schedule, value: Any, units: UnitSettings) -> str:
    """A schedule's headings and rows, told from a value; nothing of None."""
    out = io.StringIO()
    if value is not None:
        fields = schedule.columns(value, schedule.file)
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow([_heading(field, units, schedule.bracketed) for field in fields])
        writer.writerows([_plain(row, field, units) for field in fields] for row in schedule.rows(value))
    return out.getvalue()


def schedules_csv(results: Results, schedules: Sequence[Schedule]) -> str:
    """Those schedules that have a row, one after another, each under its title and a blank line after it, in the job's units."""
    parts = []
    for schedule in schedules:
        value = schedule.value_in(results, results.job)
        if value is not None and any(True for _ in schedule.rows(value)):
            out = io.StringIO()
            csv.writer(out, lineterminator="\n").writerow([schedule.title])
            parts.append(out.getvalue() + told_csv(schedule, value, results.job.units))
    return "\n".join(parts)


def schedule_rows(value: Any, schedule: Schedule) -> list[dict[str, Any]]:
    """A schedule's rows for the plan file: lengths mm, angles degrees, shares as they are."""
    if value is None:
        return []
    return [
        {field.key: rounded(own) if isinstance(own := field.of(row), float) else own for field in schedule.columns(value)}
        for row in schedule.rows(value)
    ]

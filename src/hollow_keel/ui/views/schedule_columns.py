"""Schedules as tables show them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ...core.settings.units import UnitSettings
from ...files.schedule import Field, Kind, Schedule, shown
from .data_table import Column, DataTable


def schedule_table(schedule: Schedule) -> DataTable:
    """An empty table for a schedule."""
    return DataTable(schedule.title, [], schedule.pick)


def show_schedule(table: DataTable, schedule: Schedule, value: Any, units: UnitSettings) -> None:
    """Show the rows that are told from a value, with the columns that stand on a page; none of None."""
    show_rows_of(table, schedule, () if value is None else schedule.rows(value), units, value)


def show_rows_of(table: DataTable, schedule: Schedule, rows: Iterable[Any], units: UnitSettings, value: Any = None) -> None:
    """Show some rows of a schedule, with those of its columns for a page that have anything to say."""
    own = list(rows)
    fields: Iterable[Field]
    fields = () if value is None and callable(schedule.fields) else schedule.columns(value, schedule.page)
    if own:
        fields = schedule.of_use(own, fields)
    table.show_rows(own, columns_of(fields, units, schedule.missing))


def columns_of(fields: Iterable[Field], units: UnitSettings, missing: str = "") -> list[Column]:
    """A column for each field; figures are sorted by what they are."""
    return [_column(field, units, missing) for field in fields]


def _column(field: Field, units: UnitSettings, missing: str) -> Column:
    def order(row: Any) -> float:
        own = field.of(row)
        if field.kind is Kind.RADIUS:
            return -float(own)
        return float(own) if isinstance(own, (int, float)) else 0.0

    return Column(
        field.heading,
        lambda row: shown(row, field, units, missing),
        field.order if field.order is not None else None if field.kind is Kind.WORD else order,
    )

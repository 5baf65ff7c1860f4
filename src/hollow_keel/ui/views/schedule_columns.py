"""Schedules as tables show them."""

from __future__ import annotations

from typing import Any

from ...core.settings.units import UnitSettings
from ...files.schedule import Field, Kind, Schedule, shown
from .data_table import Column, DataTable


def schedule_table(schedule: Schedule) -> DataTable:
    """An empty table for a schedule."""
    return DataTable(schedule.title, [], schedule.pick)


def show_schedule(table: DataTable, schedule: Schedule, value: Any, units: UnitSettings) -> None:
    """Show the rows that are told from a value (none of None), with the columns that stand on a page."""
    rows, fields = schedule.told(value, schedule.page)
    table.show_rows(rows, [_column(field, units, schedule.missing) for field in fields])


def _column(field: Field, units: UnitSettings, missing: str) -> Column:
    """Figures are sorted by what they are, radii by how straight."""

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

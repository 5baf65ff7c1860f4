"""The columns of a schedule as a table shows them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ...core.units import LengthStyle
from ...files.schedule import Field, Kind, shown
from .data_table import Column


def columns_of(fields: Iterable[Field], style: LengthStyle) -> list[Column]:
    """A column for each field; figures are sorted by what they are."""
    return [_column(field, style) for field in fields]


def _column(field: Field, style: LengthStyle) -> Column:
    def order(row: Any) -> float:
        own = field.of(row)
        return float(own) if isinstance(own, (int, float)) else 0.0

    return Column(field.heading, lambda row: shown(field.of(row), field.kind, style), None if field.kind is Kind.WORD else order)

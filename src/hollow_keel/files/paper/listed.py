"""Rows of a schedule as a table on paper."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from ...core.settings.units import UnitSettings
from ..schedule import Field, Kind, Schedule, shown, title_of
from .pages import TEXT_MM, Head, Pages

FIGURES, WORDS = 1.5, 2.0
"""How wide columns are beside each other, where nothing else is said."""


def listed(
    pages: Pages,
    schedule: Schedule,
    rows: Iterable[Any],
    fields: Sequence[Field],
    units: UnitSettings,
    *,
    wide: Mapping[str, float] | None = None,
    words: float = WORDS,
    strong: str = "",
    figures: bool = True,
    size: float = TEXT_MM,
) -> None:
    """Write rows under the headings of some columns, with boxes where they are ticked off. `wide` tells by their keys which columns
    are wider or narrower than others, `words` how wide those with words are else, `strong` the one that the table is read for;
    `figures` whether figures stand to the right."""
    shares = {f.key: words if f.kind is Kind.WORD else FIGURES for f in fields} | dict(wide or {})
    heads = [Head(title_of(f, units.style), shares[f.key], figures and f.kind is not Kind.WORD, f.key == strong) for f in fields]
    cells = ([shown(row, f, units, schedule.missing) for f in fields] for row in rows)
    pages.table(heads, cells, boxes=schedule.ticked, size=size)

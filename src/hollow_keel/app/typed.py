"""The table that is being typed, and the offsets that it comes to so far."""

from __future__ import annotations

import re
from functools import lru_cache

from ..core.change import change
from ..core.errors import InputError
from ..core.job import Job
from ..core.offsets.table import END_LABELS, OffsetsTable
from ..core.offsets.typed_sheet import TypedSheet, bare, unit_words
from ..core.units import LengthUnit, parse_length
from ..files.tables.grid import Grid
from ..files.tables.numbers import is_number, unit_in
from ..files.tables.reading import all_left_out, understand
from ..files.tables.understood import Understood
from ..files.tables.words import PLANES, line_of

BEGIN = "Type heights and half-breadths of keel and sheer at three stations, and the hull appears."
LEAST_STATIONS = 3
SAME_MM = 1e-6
WANTED = 6
"""So many things that are still wanted are said at once."""


@lru_cache(maxsize=2)
def read_sheet(sheet: TypedSheet) -> Understood:
    """What a typed table comes to so far."""
    return understand([Grid(sheet.cells)])


def job_with_typed(job: Job, sheet: TypedSheet) -> Job:
    """The job with a table as it is typed now, and with the offsets that can be read from it."""
    table = _hull_of(read_sheet(sheet))
    return change(job, "", typed=sheet, offsets=table.model_copy(update={"to_inside": job.offsets.to_inside}), unfaired=None)


def is_as_typed(job: Job, found: Understood) -> bool:
    """Whether the job's offsets are still those of its typed table: nobody changed them in another way since. (Once, a job had the
    points of a hull's first two stations too.)"""
    read = found.table or OffsetsTable()
    return job.offsets.figures in (_hull_of(found).figures, read.figures)


def _hull_of(found: Understood) -> OffsetsTable:
    """The offsets, as soon as they are of three stations: before, nothing is wrong yet, and nothing can be worked out."""
    return found.table if found.table is not None and len(_stations(found)) >= LEAST_STATIONS else OffsetsTable()


def _stations(found: Understood) -> set[float]:
    """The stations that have points of a section."""
    rows = found.table.rows if found.table is not None else ()
    return {row.station for row in rows if row.label not in END_LABELS}


def still_wanted(found: Understood) -> list[str]:
    """What a typed table still wants, in words."""
    said = [question.text for question in found.questions]
    if found.layout is not None and not said and len(_stations(found)) < LEAST_STATIONS:
        said.append(BEGIN)
    elif found.problem:
        said.append(found.problem)
    return [*said, *all_left_out(found), *found.notes][:WANTED]


def sheet_in(sheet: TypedSheet, before: LengthUnit, now: LengthUnit) -> TypedSheet:
    """A sheet headed in one unit with its headings in another. Bare numbers are written anew where the other unit says them
    exactly; any other keeps its digits and is given its unit. A sheet that is headed in a third unit stays as it is."""
    was, own = unit_words(before), unit_words(now)
    if was == own or unit_in(sheet.cell(0, 0)) != unit_in(f"({was})"):
        return sheet

    def anew(row: int, column: int, text: str) -> str:
        if is_number(text.removesuffix("*")):
            return _anew(text.removesuffix("*"), before, now) + ("*" if text.endswith("*") else "")
        if row == 0:
            return text.replace(f"({was})", f"({own})")
        named = line_of(text) if column == 0 else None
        if named is None or named.line not in PLANES or not named.level:
            return text
        return text.replace(named.level, _anew(named.level, before, now), 1)

    return TypedSheet(cells=tuple(tuple(anew(k, j, text) for j, text in enumerate(row)) for k, row in enumerate(sheet.cells)))


def _anew(text: str, before: LengthUnit, now: LengthUnit) -> str:
    """A length whose bare number was in one unit, so that it is the same where that is in another. What was given its unit is
    without it again where that is the other one: there and back nothing has changed."""
    length = _maybe(text, before)
    if length is None:
        return text
    without = re.sub(rf"\s*{_suffix(now)}$", "", text)
    for own in (without, bare(length, now), text, f"{text} {_suffix(before)}"):
        again = _maybe(own, now)
        if again is not None and abs(again - length) < SAME_MM:
            return own
    return f"{length:.10g} mm"


def _suffix(unit: LengthUnit) -> str:
    return unit.value if unit in (LengthUnit.MM, LengthUnit.M) else "in"


def _maybe(text: str, unit: LengthUnit) -> float | None:
    try:
        return parse_length(text, unit)
    except InputError:
        return None

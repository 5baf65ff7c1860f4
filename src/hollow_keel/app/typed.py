"""The table that is being typed, and the offsets that it comes to so far."""

from __future__ import annotations

from functools import lru_cache

from ..core.change import change
from ..core.job import Job
from ..core.offsets.table import OffsetsTable
from ..core.offsets.typed_sheet import TypedSheet
from ..files.tables.grid import Grid
from ..files.tables.reading import all_left_out, understand
from ..files.tables.understood import Understood

BEGIN = "Type heights and half-breadths of keel and sheer at three stations, and the hull appears."
WANTED = 6
"""So many things that are still wanted are said at once."""


@lru_cache(maxsize=2)
def read_sheet(sheet: TypedSheet) -> Understood:
    """What a typed table comes to so far."""
    return understand([Grid(sheet.cells)])


def job_with_typed(job: Job, sheet: TypedSheet) -> Job:
    """The job with a table as it is typed now, and with the offsets that can be read from it."""
    found = read_sheet(sheet)
    table = found.table or OffsetsTable()
    return change(
        job,
        "",
        typed=sheet,
        offsets=table.model_copy(update={"to_inside": job.offsets.to_inside}),
        unfaired=None,
    )


def is_as_typed(job: Job, found: Understood) -> bool:
    """Whether the job's offsets are still those of its typed table: nobody changed them in another way since."""
    table = found.table or OffsetsTable()
    return table.figures == job.offsets.figures


def still_wanted(found: Understood) -> list[str]:
    """What a typed table still wants, in words."""
    said = [question.text for question in found.questions]
    if found.table is None and found.layout is not None and not said:
        said.append(BEGIN)
    elif found.problem:
        said.append(found.problem)
    return [*said, *all_left_out(found), *found.notes][:WANTED]

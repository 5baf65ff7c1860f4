"""What is decided, by its path: its record, what a job says of it, and the job with another value.

Nearly all are settings of the job. How many strips are laid is kept with the day it was so, and decided like one.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from operator import attrgetter
from typing import Any

from pydantic.fields import FieldInfo

from ..core.change import change
from ..core.errors import InputError
from ..core.job import Job
from ..core.settings.progress import Planked
from ..core.settings.record import Kind, Setting
from ..core.settings_table import Record, all_settings

_OF_ONE = {Kind.SHARES: Kind.PER_CENT, Kind.LENGTHS: Kind.LENGTH}
"""What one of several is."""
LAID = "planked.strips"
MOST_STRIPS = 2000
_LAID = Record(
    LAID,
    Setting(
        "Strips laid each side", "how many strips are on, alike on both sides", Kind.WHOLE, none="0: none yet"
    ),
    FieldInfo(annotation=int, default=0),
)


def record_of(path: str) -> Record:
    """The record of what is decided; of one of several, named by its number from 0, that of one value. Raises LookupError for a
    path that names nothing."""
    if path == LAID:
        return _LAID
    whole, item = _item(path)
    if item is None:
        return all_settings()[path]
    several = all_settings()[whole]
    one = replace(
        several.setting, kind=_OF_ONE[several.setting.kind], label=f"{several.setting.label}, no. {item + 1}"
    )
    return Record(path, one, FieldInfo(annotation=float))


def whole_of(path: str) -> str:
    """The path of the setting that an item is one of; any other path as it is."""
    return _item(path)[0]


def _item(path: str) -> tuple[str, int | None]:
    """A path that ends in the number of an item: the path of the whole and that number."""
    whole, _, last = path.rpartition(".")
    return (whole, int(last)) if last.isdigit() else (path, None)


def value_of(path: str, job: Job) -> Any:
    """What a job says of it."""
    if path == LAID:
        return job.planked.strips if job.planked is not None else 0
    whole, item = _item(path)
    value = attrgetter(whole)(job)
    return value if item is None else value[item]


def with_value(job: Job, path: str, value: Any, today: Callable[[], date] = date.today) -> Job:
    """The job with another value. Raises InputError for one that cannot be."""
    if path == LAID:
        if not 0 <= value <= MOST_STRIPS:
            raise InputError(
                "that is no number of strips", value=f"{value}", mend=f"Give 0 to {MOST_STRIPS}."
            )
        return change(job, "", planked=(job.planked or Planked()).with_strips(value, today()))
    path, item = _item(path)
    if item is not None:
        items = list(value_of(path, job))
        items[item] = value
        value = tuple(items)
    record = record_of(path)
    return change(job, record.part, **{record.field: value})

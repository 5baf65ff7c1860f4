"""What is decided, by its path: its record, what a job says of it, and the job with another value.

Nearly all are settings of the job. How many strips are laid is kept with the day it was so, and decided like one.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date
from operator import attrgetter
from typing import Any

from pydantic.fields import FieldInfo

from ..core.change import change
from ..core.errors import InputError
from ..core.job import Job
from ..core.settings.progress import Planked
from ..core.settings.record import Kind, Setting
from ..core.settings_table import Record, all_settings, item_record
from .in_units import job_in_units

_OF_ONE = {Kind.SHARES: Kind.PER_CENT, Kind.LENGTHS: Kind.LENGTH}
"""What one of several is."""
LAID, UNITS = "planked.strips", "units"
MOST_STRIPS = 2000
_LAID = Record(
    LAID,
    Setting("Strips laid each side", "how many strips are on, alike on both sides", Kind.WHOLE, none="0: none yet"),
    FieldInfo(annotation=int, default=0),
)


@dataclass(frozen=True)
class _Place:
    """Where a value stands: the setting's own path, which of several it is (None: it is not one of several), which of its
    fields."""

    whole: str
    item: int | None = None
    field: str = ""


def _place_of(path: str) -> _Place:
    names = path.split(".")
    for k, name in enumerate(names):
        if name.isdigit():
            return _Place(".".join(names[:k]), int(name), ".".join(names[k + 1 :]))
    return _Place(path)


def whole_of(path: str) -> str:
    """The path of the setting that an item is one of; any other path as it is."""
    return _place_of(path).whole


def record_of(path: str) -> Record:
    """The record of what is decided; of one of several, named by its number from 0, that of one value, or of a field of it. Raises
    LookupError for a path that names nothing."""
    if path == LAID:
        return _LAID
    place = _place_of(path)
    if place.item is None:
        return all_settings()[path]
    if place.field:
        return item_record(path, place.whole, place.field)
    several = all_settings()[place.whole].setting
    one = replace(several, kind=_OF_ONE[several.kind], label=f"{several.label}, no. {place.item + 1}")
    return Record(path, one, FieldInfo(annotation=float))


def value_of(path: str, job: Job) -> Any:
    """What a job says of it."""
    if path == LAID:
        return job.planked.strips if job.planked is not None else 0
    place = _place_of(path)
    value = attrgetter(place.whole)(job)
    if place.item is not None:
        value = value[place.item]
    return getattr(value, place.field) if place.field else value


def with_value(job: Job, path: str, value: Any, today: Callable[[], date] = date.today) -> Job:
    """The job with another value. Raises InputError for one that cannot be."""
    if path == LAID:
        if not 0 <= value <= MOST_STRIPS:
            raise InputError("that is no number of strips", value=f"{value}", mend=f"Give 0 to {MOST_STRIPS}.")
        return change(job, "", planked=(job.planked or Planked()).with_strips(value, today()))
    place = _place_of(path)
    if place.item is not None:
        items = list(value_of(place.whole, job))
        one = items[place.item]
        items[place.item] = {**one.model_dump(), place.field: value} if place.field else value
        value = tuple(items)
    record = record_of(place.whole)
    if record.part == UNITS:
        return job_in_units(job, change(job.units, "", **{record.field: value}))
    return change(job, record.part, **{record.field: value})

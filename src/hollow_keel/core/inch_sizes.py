"""A job in inches begins with inch sizes: what a blank job says in round millimetres becomes the round inch size beside it."""

from __future__ import annotations

import math
from operator import attrgetter
from typing import Any

from .change import change
from .job import Job
from .settings.record import Kind
from .settings.units import UnitSettings
from .settings_table import all_settings
from .units import INCHES, MM_PER_INCH, LengthStyle, LengthUnit, format_length

STEPS = (12.0, 6.0, 4.0, 2.0, 1.0, *(1 / 2**k for k in range(1, 7)))
"""Inches: the roundest of them that comes near enough is taken."""
NEAR = 0.06
"""As a share of the size: 6 mm is a quarter of an inch, 12 a half, 18 three quarters, as wood is sold (common practice)."""
SIZES = frozenset({Kind.LENGTH, Kind.FINE})


def inch_size(mm: float) -> float:
    """The round inch size, mm, that stands for one in millimetres: within a sixteenth of it, or the nearest 64th of an inch."""
    inches = mm / MM_PER_INCH
    for step in STEPS:
        near = round(inches / step) * step
        if near and abs(near - inches) <= NEAR * abs(inches):
            return float(near * MM_PER_INCH)
    return math.copysign(max(round(abs(inches) * 64), 1) / 64, inches) * MM_PER_INCH


def usual_size(mm: float, unit: LengthUnit) -> float:
    """A size to begin with, mm: the round one of a unit that stands for one in round millimetres."""
    return inch_size(mm) if mm and unit in INCHES else mm


def usual_length(mm: float, style: LengthStyle) -> str:
    """A length to begin with, with its unit: a round one in the builder's."""
    return format_length(usual_size(mm, style.unit), style, unit=True)


def blank_size(path: str, units: UnitSettings) -> Any:
    """What a blank job in these units says of a setting."""
    record = all_settings()[path]
    return usual_size(record.default, units.unit) if record.setting.kind in SIZES and record.default else record.default


def with_sizes_of(job: Job, before: UnitSettings) -> Job:
    """A job whose units were `before`: the sizes that nobody has given yet are those of a blank job in its units."""
    if (job.units.unit in INCHES) == (before.unit in INCHES):
        return job
    for path, record in all_settings().items():
        own = blank_size(path, job.units)
        if record.setting.kind in SIZES and own and attrgetter(path)(job) == blank_size(path, before):
            job = change(job, record.part, **{record.field: own})
    return job


def blank_job(units: UnitSettings) -> Job:
    """A job with nothing in it, in these units."""
    return with_sizes_of(Job(units=units), UnitSettings())

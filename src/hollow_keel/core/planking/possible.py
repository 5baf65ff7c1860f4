"""Which other ways of laying strips a hull allows, before one is chosen."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..change import change
from ..errors import ImpossiblePlan
from ..hull.build import Hull
from ..job import Job
from ..settings.strip_choices import Guide, MasterKind
from ..settings_table import all_settings
from .courses import Fields
from .plank import laying_of, plank

WAYS = ("strips.guide", "strips.layout", "strips.master.kind")
"""Settings that are chosen among ways of laying strips."""


def refusals(hull: Hull, job: Job, path: str) -> Iterator[tuple[Any, str]]:
    """Each choice of one of WAYS that cannot be laid on a job's hull with its other settings as they are, and why not; the present
    one is not asked. Heights of a master line that are not given yet refuse nothing: they are asked for once they are chosen."""
    record = all_settings()[path]
    fields = Fields()
    for choice in record.setting.choices:
        other = change(job, record.part, **{record.field: choice}).strips
        asks = other.guide is Guide.MASTER and other.master.kind is MasterKind.HEIGHTS and not other.master.heights
        if asks or other == job.strips:
            continue
        try:
            plank(hull, laying_of(other), fields=fields)
        except ImpossiblePlan as error:
            yield choice, str(error)

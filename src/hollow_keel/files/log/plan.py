"""The log's part of the plan file (see docs/plan-file.md)."""

from __future__ import annotations

from typing import Any

from ...core.log.forecast import is_dated
from ...core.log.stages import WORK
from ...core.results import Results
from ...core.settings.log import logged
from ..rounded import rounded
from ..schedule import schedule_rows
from .schedules import LOG_SCHEDULES


def log_document(results: Results) -> dict[str, Any]:
    """Entries, sums and the forecast; empty where no log is kept."""
    if not logged(results.job):
        return {}
    work = results[WORK]
    sums = work.sums
    return {
        "entries": [entry.model_dump(mode="json", exclude_defaults=True) for entry in results.job.log.entries],
        "from": work.forecast.starts.isoformat() if is_dated(work.forecast.starts) else None,
        "hours": rounded(sums.hours, 2),
        "strips": sums.strips,
        "told_of": sums.told_of,
        "strips_a_day": None if sums.strips_a_day is None else rounded(sums.strips_a_day, 2),
        "grams_a_strip": None if sums.grams_a_strip is None else rounded(sums.grams_a_strip, 1),
        "planned_grams": None if sums.planned_grams is None else rounded(sums.planned_grams, 1),
        "port": sums.port,
        "starboard": sums.starboard,
        "cost": rounded(sums.cost, 2),
        **{
            schedule.key: schedule_rows(results.get(schedule.stage), schedule)
            for schedule in LOG_SCHEDULES
            if schedule.when(results.job)
        },
    }

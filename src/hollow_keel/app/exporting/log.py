"""The log: its entries, the plan of work, the forecast as a calendar, and what the next boat should do differently."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ...core.log.stages import WASTE, WORK
from ...core.settings.log import logged
from ..export import Export, only_where

if TYPE_CHECKING:
    from ...core.results import Results

GROUP = "Log"
LACK = "This job keeps no log: begin one by the menu Log, or set log.wanted."


def _csv(results: Results) -> bytes:
    from ...files.log.entries import write_log_csv

    return write_log_csv(results.job.log.entries).encode()


def _comma_csv(results: Results) -> bytes:
    from ...files.log.entries import write_log_csv

    return write_log_csv(results.job.log.entries, comma=True).encode()


def _plan_csv(results: Results) -> bytes:
    from ...files.log.schedules import LOG_SCHEDULES
    from ...files.schedule import schedules_csv

    return schedules_csv(results, LOG_SCHEDULES).encode()


def _pdf(results: Results) -> bytes:
    from ...files.log.paper import work_pdf

    return work_pdf(results)


def _lessons(results: Results) -> bytes:
    from ...files.log.paper import lessons_pdf

    return lessons_pdf(results)


def _ics(results: Results) -> bytes:
    from ...files.log.calendar import forecast_ics

    return forecast_ics(results[WORK], results.job)


def _document(results: Results) -> dict[str, Any]:
    from ...files.log.plan import log_document

    return log_document(results)


ALL = (
    Export("work-pdf", GROUP, "Plan of work for the wall, and what the log tells (PDF)", ".pdf", (WORK,), _pdf, glad_of=(WASTE,)),
    Export("work-csv", GROUP, "Plan of work, hours and forecast (CSV)", ".csv", (WORK,), _plan_csv, glad_of=(WASTE,)),
    Export("work-ics", GROUP, "Forecast as a calendar (iCalendar)", ".ics", (WORK,), _ics),
    Export("log-csv", GROUP, "Entries of the log (CSV)", ".csv", (), _csv),
    Export("log-csv-comma", GROUP, "Entries of the log (CSV with semicolons and decimal commas)", ".csv", (), _comma_csv),
    Export("lessons-pdf", GROUP, "What the next boat should do differently (PDF)", ".pdf", (), _lessons, glad_of=(WORK,)),
)
EXPORTS = tuple(only_where(logged, LACK, export) for export in ALL)
PLAN_PARTS = (("log", _document),)

"""The forecast as a calendar (iCalendar, RFC 5545): a day for every task that is left, with its likely span."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from uuid import NAMESPACE_OID, uuid5

from ...core.errors import ImpossiblePlan
from ...core.job import Job
from ...core.log.forecast import is_dated
from ...core.log.plan_of_work import WorkPlan


def forecast_ics(work: WorkPlan, job: Job) -> bytes:
    """The calendar's bytes: entries without a date are left out. Raises ImpossiblePlan where nothing tells when work begins."""
    from icalendar import Calendar, Event  # loads slowly: not before it is needed

    calendar = Calendar()
    calendar.add("prodid", "-//Hollow Keel//forecast//EN")
    calendar.add("version", "2.0")
    if not is_dated(work.forecast.starts):
        raise ImpossiblePlan("No day is known to count from: keep an entry of the log, or say when work begins on the Log page.")
    stamp = datetime.combine(work.forecast.starts, datetime.min.time(), UTC)
    for milestone in work.forecast.milestones:
        if milestone.likely is None:
            continue
        event = Event()
        event.add("uid", f"{uuid5(NAMESPACE_OID, f'{job.name}/{milestone.task.value}')}@hollow-keel")
        event.add("dtstamp", stamp)
        event.add("dtstart", milestone.likely)
        event.add("dtend", milestone.likely + timedelta(days=1))
        event.add("summary", f"{job.name}: {milestone.task.value} done")
        if milestone.early is not None and milestone.late is not None:
            span = f"Likely between {milestone.early.isoformat()} and {milestone.late.isoformat()} (eight of ten)."
            event.add("description", span)
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    data: bytes = calendar.to_ical()
    return data

"""The log on paper: the plan of work for the wall, what it tells, and what the next boat should do differently."""

from __future__ import annotations

from ...core.log.forecast import is_dated
from ...core.log.stages import WORK
from ...core.results import Results
from ...core.settings.log_entry import Told
from ...core.words import counted
from ...drawing.log import forecast_drawing, forecast_sentence, weeks_drawing
from ..paper.listed import listed
from ..paper.pages import Pages
from ..paper.sheet import PAPERS
from .schedules import LOG_SCHEDULES

PICTURE_MM = 52.0
HEADINGS = {Told.MISTAKE: "Mistakes, and their mends", Told.SETTING: "Settings that worked", Told.DECISION: "Decisions, and why"}
WIDE = {"caution": 4.6, "state": 2.5, "task": 2.2, "name": 4.0, "early": 2.1, "likely": 2.1, "late": 2.1, "units": 1.2, "done": 1.2}


def work_pdf(results: Results) -> bytes:
    """The plan of work and what the log tells, landscape."""
    job, work = results.job, results[WORK]
    height, width = PAPERS["a4"]
    pages = Pages(
        f"{job.name}: the plan of work",
        f"counted from {work.forecast.starts.isoformat()}" if is_dated(work.forecast.starts) else "in weeks from the first day",
        size=(width, height),
    )
    pages.page()
    pages.line(forecast_sentence(work), strong=True)
    pages.picture(forecast_drawing(work), PICTURE_MM, stretched=True)
    for schedule in LOG_SCHEDULES:
        rows, fields = schedule.told(schedule.value_in(results, job))
        if not rows:
            continue
        pages.heading(schedule.title)
        listed(pages, schedule, rows, fields, job.units, wide=WIDE, words=1.5)
    if work.sums.weeks:
        pages.heading("Hours week by week", with_next=PICTURE_MM)
        pages.picture(weeks_drawing(work), PICTURE_MM, stretched=True)
    return pages.finish()


def lessons_pdf(results: Results) -> bytes:
    """What the next boat should do differently: mistakes, settings and decisions, on one sheet or a few."""
    job = results.job
    pages = Pages(f"{job.name}: for the next boat", counted(len(job.log.entries), "entry"))
    pages.page()
    for told, heading in HEADINGS.items():
        entries = [entry for entry in job.log.entries if entry.told is told]
        pages.heading(heading if entries else f"{heading}: none are noted")
        for entry in entries:
            more = "; ".join(
                part for part in (entry.mend, f"{entry.hours_words} h" if entry.hours else "", entry.day.isoformat()) if part
            )
            pages.item(entry.what or entry.line, more)
    work = results.get(WORK)
    if work is not None:
        pages.heading("Against the plan")
        for piece, factor in zip(work.pieces, work.rates.factors().tolist(), strict=True):
            if piece.logged > 0:
                pages.line(f"{piece.task.value.capitalize()}: {piece.logged:.1f} h logged; {factor:.2f} of the hours planned.")
    return pages.finish()

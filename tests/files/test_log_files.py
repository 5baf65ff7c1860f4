"""Files of the log: CSV both ways, the calendar, paper, and the plan file."""

from __future__ import annotations

import csv
import io
from datetime import date
from pathlib import Path
from typing import Any

import icalendar
import pypdf
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from hollow_keel.app.exports import export_named, plan_parts
from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan, InputError
from hollow_keel.core.log.stages import WASTE, WORK
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.log_entry import Batch, Entry, Laid, Task, Told
from hollow_keel.core.settings.readings import Side
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.log.entries import COLUMNS, read_log_csv, write_log_csv
from hollow_keel.files.log.schedules import LOG_SCHEDULES
from hollow_keel.files.store.job_file import load_job, quick_text, save_job

texts = st.text(st.characters(exclude_categories=("Cs",), exclude_characters="\r\x00"), min_size=1, max_size=20)
numbers = st.tuples(st.integers(1, 5000), st.integers(1, 5000)).map(lambda own: (min(own), max(own)))
minutes = st.none() | st.integers(0, 1439)
runs = st.builds(lambda pair, side: Laid(first=pair[0], last=pair[1], side=side), numbers, st.none() | st.sampled_from(Side))
batches = st.builds(
    Batch,
    resin=st.floats(0, 1e5),
    hardener=st.floats(0, 1e5),
    temperature=st.none() | st.floats(-20, 60),
    mixed=minutes,
    used_up=minutes,
)
entries = st.builds(
    Entry,
    day=st.dates(),
    told=st.sampled_from(Told),
    task=st.sampled_from(Task),
    what=texts,
    people=st.integers(1, 99),
    names=st.lists(texts, max_size=3).map(tuple),
    hours=st.floats(0, 24),
    begin=minutes,
    end=minutes,
    strips=st.none() | numbers,
    veneers=st.none() | numbers,
    side=st.none() | st.sampled_from(Side),
    molds=st.lists(texts, max_size=3).map(tuple),
    sheets=st.floats(0, 100),
    metres=st.floats(0, 100),
    batches=st.lists(batches, max_size=2).map(tuple),
    mend=texts,
    photos=st.lists(texts, max_size=2).map(tuple),
    finished=st.booleans(),
    line=texts,
    also=st.lists(runs, max_size=2).map(tuple),
    own_hours=st.lists(st.floats(0, 24), max_size=2).map(tuple),
    temperature=st.none() | st.floats(-60, 60),
    stood=st.lists(st.floats(0, 9000), max_size=2).map(tuple),
    wood=texts,
)


@example([Entry(day=date(2026, 9, 1), photos=("\\", "a; b\\; c"), names=("; ", "\\\\"))])
@given(st.lists(entries, max_size=4))
def test_what_is_written_is_read_back(own: list[Entry]) -> None:
    assert read_log_csv(write_log_csv(own)) == tuple(own)
    assert read_log_csv(write_log_csv(own, comma=True)) == tuple(own)


def test_every_field_of_an_entry_has_its_column() -> None:
    assert {name for name, *_ in COLUMNS} == set(Entry.model_fields)


@pytest.mark.parametrize("text", ["=1+2", "+1", "-1", "@x", "\t=1", "'quoted", "plain"])
def test_no_text_is_a_formula_in_a_spreadsheet(text: str) -> None:
    own = Entry(day=date(2026, 9, 1), what=text, line=text, mend=text, names=(text,), photos=(text,))
    written = write_log_csv([own])
    (row,) = csv.reader(io.StringIO(written.split("\n", 1)[1]))
    assert not any(cell[:1] in ("=", "+", "-", "@", "\t") for cell in row)
    assert read_log_csv(written) == (own,)
    commas = write_log_csv([own], comma=True)
    assert commas.partition("\n")[0].count(";") == len(COLUMNS) - 1
    assert read_log_csv(commas) == (own,)


def test_a_spreadsheets_own_csv_is_read() -> None:
    """Semicolons, other names and orders of columns, its own days and decimals, and the mark of UTF-8."""
    text = "\ufeffHours;Date;Task;Strips;Notes\n2,5;28.9.2026;Planking;3-4;für Ana\n1;29/9/2026;fairing;;\n"
    first, second = read_log_csv(text)
    assert (first.day, first.hours, first.strips, first.what) == (date(2026, 9, 28), 2.5, (3, 4), "für Ana")
    assert (second.day, second.task, second.hours) == (date(2026, 9, 29), Task.FAIRING, 1.0)
    assert write_log_csv([first]).startswith("\ufeffday,")
    assert write_log_csv([second]).startswith("day,")


@given(st.text(max_size=200))
def test_any_text_is_read_or_refused_in_words(text: str) -> None:
    try:
        read_log_csv(text)
    except InputError as error:
        assert error.mend


@pytest.mark.parametrize(
    ("row", "said"), [("2026-09-01,1-x", "pair of numbers"), ("soon,", "day"), ("2026-09-01,9-3", "before the last")]
)
def test_a_line_that_cannot_be_read_is_named(row: str, said: str) -> None:
    with pytest.raises(InputError) as raised:
        read_log_csv(f"day,strips\n2026-09-01,1-2\n{row}\n")
    assert raised.value.where == "line 3"
    assert said in str(raised.value)
    with pytest.raises(InputError, match="no log"):
        read_log_csv("a,b\n1,2\n")


@pytest.fixture(scope="module")
def results() -> Any:
    return Pipeline().results(demo_job("linnet"), [WORK, WASTE])


def test_the_calendar_has_a_day_for_every_task_that_is_left(results: Any) -> None:
    calendar = icalendar.Calendar.from_ical(export_named("work-ics").write(results))
    events = {str(event["summary"]): event["dtstart"].dt for event in calendar.walk("VEVENT")}
    milestones = results[WORK].forecast.milestones
    assert events == {f"Linnet: {m.task.value} done": m.likely for m in milestones}
    assert export_named("work-ics").write(results) == export_named("work-ics").write(results)


def test_the_plan_file_has_the_log(results: Any) -> None:
    part = dict(plan_parts())["log"](results)
    work = results[WORK]
    assert (part["strips"], part["from"]) == (20, work.forecast.starts.isoformat())
    assert len(part["entries"]) == len(results.job.log.entries)
    assert [row["task"] for row in part["tasks"]] == [p.task.value for p in work.pieces]
    assert part["tasks"][-1]["likely"] == work.forecast.milestones[-1].likely.isoformat()
    assert dict(plan_parts())["log"](Pipeline().results(demo_job("pipit"), [])) == {}


def test_paper_has_the_plan_of_work_and_the_lessons(results: Any) -> None:
    def text(kind: str) -> str:
        pages = pypdf.PdfReader(io.BytesIO(export_named(kind).write(results))).pages
        return " ".join(" ".join(page.extract_text() for page in pages).split())

    work = text("work-pdf")
    assert all(schedule.title in work for schedule in LOG_SCHEDULES)
    lessons = text("lessons-pdf")
    assert "staples through an offcut" in lessons
    assert "of the hours planned" in lessons


def test_csv_of_the_demo_is_read_back_and_a_job_without_a_log_says_so(results: Any) -> None:
    text = export_named("log-csv").write(results).decode()
    assert read_log_csv(text) == results.job.log.entries
    assert "The plan of work" in export_named("work-csv").write(results).decode()
    none = change(demo_job("pipit"), "log", wanted=False)
    with pytest.raises(ImpossiblePlan, match="keeps no log"):
        export_named("log-csv").write(Pipeline().results(none, []))


def test_dates_are_iso(results: Any) -> None:
    for row in dict(plan_parts())["log"](results)["by_week"]:
        assert date.fromisoformat(row["monday"]).weekday() == 0


def test_a_job_kept_in_haste_is_the_same_job(tmp_path: Path) -> None:
    for name in ("linnet", "sedge"):
        job = demo_job(name)
        (tmp_path / "quick.hkeel").write_text(quick_text(job))
        save_job(job, tmp_path / "plain.hkeel")
        assert load_job(tmp_path / "quick.hkeel") == load_job(tmp_path / "plain.hkeel") == job

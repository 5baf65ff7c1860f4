"""The log: lines read as entries, sums by hand, strips as one truth, and the stop-watch."""

from __future__ import annotations

import pickle
import re
from datetime import date, timedelta
from types import SimpleNamespace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.job import Job
from hollow_keel.core.log.keep import TICKED, all_kept, kept, laid_by_hand, mold_ticked, put_right, replaced, strip_ticked
from hollow_keel.core.log.learn import learned, with_hours_of
from hollow_keel.core.log.line import line_of
from hollow_keel.core.log.plan_of_work import plan_work
from hollow_keel.core.log.quick import read_line
from hollow_keel.core.log.stages import WORK
from hollow_keel.core.log.stopwatch import Started, as_text, elapsed, from_text
from hollow_keel.core.log.sums import strips_laid, sums_of
from hollow_keel.core.log.tasks import Amounts, pieces_of
from hollow_keel.core.log.waste import waste_of
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.log import LogSettings
from hollow_keel.core.settings.log_entry import Batch, Entry, Task, Told
from hollow_keel.core.settings.progress import Planked
from hollow_keel.core.settings.readings import Side
from hollow_keel.core.stages import Texts, keys_of
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.log import forecast_drawing, forecast_sentence
from hollow_keel.files.log.calendar import forecast_ics
from hollow_keel.files.log.schedules import LOG_SCHEDULES
from hollow_keel.files.schedule import schedule_rows
from tests.shapes import unworked

TODAY = date(2026, 11, 29)  # a Sunday
DAY = date(2026, 11, 20)


def entry_of(line: str) -> Entry:
    found = read_line(line, TODAY)
    assert found.faults == ()
    assert found.entry is not None
    return found.entry


# -- lines -----------------------------------------------------------------------------------------------------


def test_a_whole_line_is_understood() -> None:
    entry = entry_of("2h planking strips 21-24 port, 250 g at 14 C, two of us")
    assert entry == Entry(
        day=TODAY,
        task=Task.PLANKING,
        what="planking",
        people=2,
        hours=2.0,
        strips=(21, 24),
        side=Side.PORT,
        batches=(Batch(resin=250.0, temperature=14.0),),
        line=entry.line,
    )


LINES: tuple[tuple[str, dict[str, Any]], ...] = (
    ("2h strips 3-5, used 46 m of red cedar", {"wood": "red cedar", "wood_metres": 46.0, "metres": 0.0, "strips": (3, 5)}),
    ("used up 20 m of strip stock", {"wood": "strip stock", "wood_metres": 20.0, "task": Task.PLANKING}),
    ("2h 5 m of ash inwale", {"metres": 5.0, "wood_metres": 0.0, "task": Task.SHEER}),
    (
        "19:00-21:30 molds 3, 4 and 6-8",
        {"hours": 2.5, "begin": 1140, "end": 1290, "molds": ("3", "4", "6", "7", "8"), "task": Task.MOLDS},
    ),
    ("1h30 sanding", {"hours": 1.5, "task": Task.FAIRING}),
    ("1.5 h glassing", {"hours": 1.5, "task": Task.GLASSING}),
    ("1,5h glass", {"hours": 1.5}),
    ("90 minutes of rails", {"hours": 1.5, "task": Task.SHEER}),
    ("yesterday 2h setting up", {"day": date(2026, 11, 28), "task": Task.SETTING_UP}),
    ("on friday 2h", {"day": date(2026, 11, 27)}),
    ("sunday 2h", {"day": TODAY}),
    ("2026-11-03 2h", {"day": date(2026, 11, 3)}),
    ("3 people 2h", {"people": 3}),
    ("2h with Ana and Per", {"people": 3, "names": ("Ana", "Per")}),
    ("strip 7 both sides", {"strips": (7, 7), "side": None}),
    ("veneers 4 to 9 starboard 2h", {"veneers": (4, 9), "side": Side.STARBOARD, "task": Task.VENEERS}),
    (
        "200+40 g mixed 19:10 used up 19:45 at 57 F strips 1-2",
        {"batches": (Batch(resin=200, hardener=40, temperature=13.9, mixed=1150, used_up=1185),)},
    ),
    ("6.5 m of inwale 3h", {"metres": 6.5, "task": Task.SHEER}),
    ("2 sheets cut", {"sheets": 2.0}),
    ("molds 1-12 done 5h", {"finished": False, "task": Task.MOLDS}),
    ("molds done 5h", {"finished": True, "task": Task.MOLDS}),
    (
        "decision: leave the stem proud because the cap hides it",
        {"told": Told.DECISION, "what": "leave the stem proud", "mend": "the cap hides it"},
    ),
    ("mistake: strip 12 slipped, mend: glued again", {"told": Told.MISTAKE, "what": "strip 12 slipped", "mend": "glued again"}),
    ("swept the floor", {"task": Task.OTHER, "what": "swept the floor", "hours": 0.0}),
)


@pytest.mark.parametrize(("line", "wanted"), LINES)
def test_lines_are_read_in_any_order_of_words(line: str, wanted: dict[str, Any]) -> None:
    entry = entry_of(line)
    assert {name: getattr(entry, name) for name in wanted} == wanted
    assert entry.line == line


def test_a_line_tells_its_day_or_leaves_it() -> None:
    for line in ("yesterday 2h", "on 2026-11-03 2h", "friday 2h sanding"):
        assert read_line(line, TODAY).dated
    for line in ("2h sanding", "mistake: strip 2 crept, mend: put on again"):
        assert not read_line(line, TODAY).dated


FAULTS = (
    ("", "Nothing is typed"),
    ("2h and 3h", "twice"),
    ("30h sanding", "no day's work"),
    ("21:00-19:00", "before it begins"),
    ("strips 24-21 2h", "no numbers"),
    ("strip 0", "no numbers"),
    ("2026-12-24 2h", "still to come"),
    ("2026-02-30 2h", "no day"),
    ("mixed 19:10 2h", "how much"),
    ("strips 1-2 90 g at 90 C", "no temperature"),
)


@pytest.mark.parametrize(("line", "said"), FAULTS)
def test_what_cannot_be_is_said_and_nothing_is_made_of_it(line: str, said: str) -> None:
    found = read_line(line, TODAY)
    assert found.entry is None
    assert any(said in fault for fault in found.faults)


@given(st.text(max_size=120))
def test_any_text_is_an_entry_or_a_fault(line: str) -> None:
    found = read_line(line, TODAY)
    assert (found.entry is None) == bool(found.faults)
    if found.entry is not None:
        assert found.entry.line == line[:4000]
        assert Entry.model_validate(found.entry.model_dump(mode="json")) == found.entry


PARTS = (
    "2h",
    "strips 3-5",
    "port",
    "250 g",
    "at 14 C",
    "two of us",
    "yesterday",
    "molds 3",
    "mistake:",
    "done",
    "with Ana",
    "19:00-20:00",
    "90 min",
    "☃",
    "12",
    "g",
    "-",
    ",",
)
words = st.sampled_from(PARTS)


@given(st.lists(words, max_size=12))
def test_words_of_lines_in_any_order_never_break(parts: list[str]) -> None:
    found = read_line(" ".join(parts), TODAY)
    assert (found.entry is None) == bool(found.faults)


# -- strips: one truth -----------------------------------------------------------------------------------------


def planking(day: int, first: int, last: int, side: Side | None = None) -> Entry:
    return Entry(day=date(2026, 9, day), task=Task.PLANKING, strips=(first, last), side=side, hours=1.0)


def test_strips_kept_in_the_log_are_so_far_once_they_are_on_both_sides() -> None:
    job = kept(Job(), planking(1, 1, 4))
    assert job.planked is not None
    assert job.planked.strips == 4
    job = kept(job, planking(2, 5, 7, Side.PORT))
    assert job.planked is not None
    assert (job.planked.strips, strips_laid(job.log.entries)) == (4, 4)
    job = kept(job, planking(3, 5, 6, Side.STARBOARD))
    assert job.planked is not None
    assert job.planked.strips == 6
    assert [d.strips for d in job.planked.days] == [4, 6]
    out = replaced(job, 2, None)
    assert out.planked is not None
    assert out.planked.strips == 4


def test_so_far_set_by_hand_is_an_entry_where_a_log_is_kept() -> None:
    job = kept(Job(), planking(1, 1, 4))
    more = laid_by_hand(job, Planked(strips=9), date(2026, 9, 5))
    assert more.planked is not None
    assert more.planked.strips == 9
    assert more.log.entries[-1].strips == (5, 9)
    without = laid_by_hand(Job(), Planked(strips=9), date(2026, 9, 5))
    assert without.log.entries == ()


def test_entries_stand_by_their_day_and_are_put_right_in_place() -> None:
    job = kept(kept(kept(Job(), planking(3, 3, 4)), planking(1, 1, 2)), planking(3, 5, 6))
    assert [e.strips for e in job.log.entries] == [(1, 2), (3, 4), (5, 6)]
    other = replaced(job, 1, planking(3, 3, 3))
    assert sorted(e.strips for e in other.log.entries if e.strips) == [(1, 2), (3, 3), (5, 6)]
    with pytest.raises(IndexError):
        replaced(job, 9, None)


# -- sums ------------------------------------------------------------------------------------------------------


def logged(*entries: Entry, **job: Any) -> Job:
    return Job(log=LogSettings(wanted=True, entries=entries, hourly=job.pop("hourly", 0.0)), **job)


def test_hours_are_summed_by_task_person_and_week() -> None:
    sums = sums_of(
        logged(
            Entry(day=date(2026, 9, 1), task=Task.MOLDS, hours=2.0, people=3, names=("Ana",)),
            Entry(day=date(2026, 9, 2), task=Task.PLANKING, hours=1.5, people=2, strips=(1, 3)),
            Entry(day=date(2026, 9, 15), task=Task.PLANKING, hours=2.0, strips=(4, 5), batches=(Batch(resin=100, hardener=20),)),
            hourly=10.0,
        ),
        50.0,
        30,
    )
    assert {own.name: own.hours for own in sums.tasks} == {"molds": 6.0, "planking": 5.0}
    assert {own.name: own.hours for own in sums.people} == {"all of us": 9.0, "Ana": 2.0}
    assert [(w.monday.isoformat(), w.hours, w.strips) for w in sums.weeks] == [
        ("2026-08-31", 9.0, 3),
        ("2026-09-07", 0.0, 0),
        ("2026-09-14", 2.0, 2),
    ]
    assert (sums.strips, sums.strip_days, sums.strips_a_day) == (5, 2, 2.5)
    assert sums.hours_a_strip == pytest.approx(1.0)
    assert (sums.grams_a_strip, sums.planned_grams) == (24.0, 50.0)
    assert sums.cost == pytest.approx(110.0)


def test_a_batch_past_its_pot_life_is_named_by_hand_sum() -> None:
    """25 minutes at 20 °C are 50 at 10 °C and 12.5 at 30 °C: half for every ten degrees warmer (common practice)."""

    def batch(minutes: int, temperature: float) -> Entry:
        own = Batch(resin=100.0, temperature=temperature, mixed=1430, used_up=(1430 + minutes) % 1440)
        return Entry(day=date(2026, 9, 1), task=Task.PLANKING, batches=(own,))

    sums = sums_of(logged(batch(49, 10.0), batch(51, 10.0), batch(12, 30.0), batch(13, 30.0)), None, 0)
    assert [(b.used, b.holds) for b in sums.missed] == [(51.0, 50.0), (13.0, 12.5)]  # past midnight, too
    assert [f.code for f in sums.findings] == ["pot-life", "pot-life"]


def test_what_does_not_fit_is_said() -> None:
    timed = [
        Entry(day=date(2026, 9, 1), hours=2.0, begin=1140, end=1260, names=names, people=2)
        for names in (("Ana",), ("Per",), ("Ana", "Per"))
    ]
    codes = [f.code for f in sums_of(logged(*timed), None, 0).findings]
    assert codes == ["log-overlap"] * 2, "the third with each of the others"
    far = sums_of(logged(planking(1, 1, 70), planked=Planked(strips=70)), None, 65)
    assert [f.code for f in far.findings] == ["no-such-strip"]
    other = sums_of(logged(planking(1, 1, 7), planked=Planked(strips=5)), None, 65)
    assert [f.code for f in other.findings] == ["log-so-far"]
    twice = sums_of(logged(planking(1, 1, 3), planking(2, 3, 4, Side.PORT), planked=Planked(strips=3)), None, 65)
    assert [(f.code, "Strip 3 on port" in f.text) for f in twice.findings] == [("strip-twice", True)]
    cold = Entry(day=date(2026, 9, 1), batches=(Batch(resin=10.0, temperature=7.0),))
    assert [f.code for f in sums_of(logged(cold), None, 0).findings] == ["cold-glue"]


def test_tasks_are_as_far_as_the_log_and_so_far_say() -> None:
    job = logged(
        Entry(day=date(2026, 9, 1), task=Task.MOLDS, hours=4.0, molds=("1", "2", "3")),
        Entry(day=date(2026, 9, 2), task=Task.SETTING_UP, hours=3.0, finished=True),
        Entry(day=date(2026, 9, 3), task=Task.FAIRING, hours=3.0, people=2),
        planked=Planked(strips=8),
    )
    pieces = {p.task: p for p in pieces_of(Amounts(molds=12, strips=40, area=10.0), job)}
    assert (pieces[Task.MOLDS].done, pieces[Task.MOLDS].state) == (3.0, "started")
    assert (pieces[Task.SETTING_UP].left, pieces[Task.SETTING_UP].state) == (0.0, "done")
    assert (pieces[Task.PLANKING].done, pieces[Task.PLANKING].each) == (8.0, 1.0)
    assert pieces[Task.FAIRING].done == pytest.approx(6.0 / 1.5)
    assert (pieces[Task.TURNING].state, pieces[Task.TURNING].reason) == ("waiting", "after molds")
    assert Task.GLASSING not in pieces


def test_what_has_to_be_in_the_shed_is_what_is_left_of_each_task() -> None:
    """Of Linnet's 65 strips a side 45 are left: as much of the glue; the outside is glassed whole, a tenth overlap in both."""
    job = demo_job("linnet")
    work = Pipeline().results(job, [WORK])[WORK]
    rows = {(w.task, w.what): w for w in work.wanted}
    glue = rows[Task.PLANKING, "glue, mixed"]
    assert work.sums.planned_grams is not None
    assert (glue.amount, glue.unit) == (pytest.approx(45 * work.sums.planned_grams / 1000), "kg")
    assert glue.by == work.forecast.starts
    area = next(p.units for p in work.pieces if p.task is Task.GLASSING)
    used = job.stock.used_up
    cloth = rows[Task.GLASSING, f"cloth of {used.cloth_out:g} g/m², outside"]
    assert cloth.amount == pytest.approx(area * (1 + used.overlap / 100))
    assert cloth.by == next(m.early for m in work.forecast.milestones if m.task is Task.FAIRING)


def test_a_cold_shed_makes_strips_wait_longer() -> None:
    """12 hours at 20 °C are 24 at 10 °C."""
    job = change(Job(log=LogSettings(wanted=True)), "stock.used_up", temperature=10.0)
    (own,) = [p for p in pieces_of(Amounts(strips=10), job) if p.task is Task.PLANKING]
    assert own.wait == pytest.approx(24.0)


def test_the_demo_log_has_what_it_is_said_to_have() -> None:
    """Three weeks of evenings, two mistakes, a cold batch that was used too long, twenty strips."""
    job = demo_job("linnet")
    work = Pipeline().results(job, [WORK])[WORK]
    assert (work.sums.strips, work.sums.port, work.sums.starboard) == (20, 20, 20)
    assert sum(e.told is Told.MISTAKE for e in job.log.entries) == 2
    assert {f.code for f in work.findings} == {"cold-glue", "pot-life"}
    assert work.forecast.end is not None
    assert work.forecast.end.likely is not None
    assert not any("wider" in own.name for own in work.what_if)
    tried = Pipeline().results(change(job, "log", wider=True), [WORK])[WORK]
    assert any("52 a side" in own.name for own in tried.what_if)  # of 14 mm there are 65: 65 / 1.25


def test_what_a_job_teaches_is_the_plan_of_the_next() -> None:
    """Twelve molds took 18 hours: their plan of 0.75 h becomes more, what was not done stays, and another job takes it all."""
    job = logged(Entry(day=date(2026, 9, 1), task=Task.MOLDS, hours=18.0, molds=tuple(str(k) for k in range(1, 13))))
    work = plan_work(Amounts(molds=12, strips=40), None, job)
    own = learned(job, work)
    assert own.log.mold == pytest.approx(0.75 * float(work.rates.factors()[0]), abs=1e-4)
    assert 1.2 < own.log.mold < 1.5
    assert own.log.set_up == job.log.set_up
    other = with_hours_of(change(Job(), "log", people=4), own)
    assert (other.log.mold, other.log.people, other.log.entries) == (own.log.mold, own.log.people, ())


# -- stop-watch -------------------------------------------------------------------------------------------------


def test_a_stop_watch_is_a_note_that_survives() -> None:
    started = Started(1000.0, 50.0, "run")
    note = from_text(as_text(started))
    assert note == started
    told = elapsed(started, Started(1000.0 + 5400.0, 50.0 + 5400.0, "run"))
    assert (told.hours, told.doubt) == (1.5, "")
    after_a_restart = elapsed(started, Started(1000.0 + 5400.0, 12.0, "another"))
    assert (after_a_restart.hours, after_a_restart.doubt) == (1.5, "")


def test_a_clock_that_was_set_meanwhile_is_seen() -> None:
    started = Started(1000.0, 50.0, "run")
    told = elapsed(started, Started(1000.0 + 7200.0, 50.0 + 3600.0, "run"))
    assert told.hours == 1.0
    assert "set meanwhile" in told.doubt
    back = elapsed(started, Started(500.0, 3.0, "another"))
    assert back.hours == 0.0
    assert "tell the hours yourself" in back.doubt
    assert "forgotten" in elapsed(started, Started(1000.0 + 90_000, 50.0 + 90_000, "run")).doubt


@pytest.mark.parametrize("text", ["", "{}", "[]", '{"wall": "x", "machine": 1, "run": ""}', "\x00", "null"])
def test_a_note_that_is_none_is_no_stop_watch(text: str) -> None:
    assert from_text(text) is None


# -- waste -------------------------------------------------------------------------------------------------------


def strip(number: int, length: float) -> Any:
    return SimpleNamespace(number=number, length=length)


def test_waste_by_a_hand_sum() -> None:
    """Strips 1 and 2 on both sides and 3 to port: 2 (4 + 5) + 6 = 24 m, of 30 m used up: a fifth is waste."""
    lines = ("strips 1-2 both sides, 18 m of cedar", "strip 3 port", "12 m of cedar", "3 m of cedar sanding", "strip 2 port")
    log = LogSettings(entries=tuple(entry_of(line) for line in lines))
    planking: Any = SimpleNamespace(strips=(strip(1, 4000.0), strip(2, 5000.0), strip(3, 6000.0), strip(4, 9000.0)))
    waste = waste_of(log, planking, 0.1)
    assert (waste.used, waste.laid, waste.share, waste.planned) == pytest.approx((30.0, 24.0, 0.2, 0.1))
    assert waste.findings == ()


def test_waste_is_not_told_where_wood_was_not_noted() -> None:
    log = LogSettings(entries=(entry_of("strips 1-2 both sides, 10 m of cedar"),))
    planking: Any = SimpleNamespace(strips=(strip(1, 4000.0), strip(2, 5000.0)))
    waste = waste_of(log, planking, 0.1)
    assert waste.share is None
    assert "some was not noted" in waste.findings[0].text
    assert waste_of(LogSettings(), planking, 0.1).findings == ()


# -- what thousands of entries do not slow down --------------------------------------------------------------------


def test_entries_sent_to_another_process_come_back_the_same() -> None:
    job = demo_job("linnet")
    back = pickle.loads(pickle.dumps(job))
    assert back == job
    assert back.log.entries[0].model_fields_set >= set(Entry.model_fields)
    assert back.log.model_dump_json() == job.log.model_dump_json()


def test_keys_with_texts_kept_are_those_without(monkeypatch: pytest.MonkeyPatch) -> None:
    many = tuple(Entry(day=TODAY, hours=1.0, what=str(k)) for k in range(500))
    job, texts = change(demo_job("linnet"), "log", entries=many), Texts()
    told = keys_of(job, texts)
    assert told == keys_of(job)
    more = kept(job, Entry(day=TODAY, hours=2.0))
    other = keys_of(more, texts)
    assert other == keys_of(more)
    assert other["work"] != told["work"]
    assert keys_of(change(more, "log", entries=many[::-1]), texts)["work"] not in (other["work"], told["work"])
    assert keys_of(job, texts) == told


def test_strips_between_those_that_are_logged_are_named() -> None:
    """1-4 and 7-8 are on: *So far* says 8, the sums 6, and a remark why."""

    def logged(*runs: tuple[tuple[int, int], Side | None]) -> Job:
        job = change(unworked(demo_job("linnet")), "log", wanted=True, entries=())
        for first_last, side in runs:
            job = kept(job, Entry(day=date(2031, 5, 4), task=Task.PLANKING, strips=first_last, side=side, hours=2.0))
        return job

    def said(job: Job) -> list[tuple[str, str]]:
        return [(f.where, f.text) for f in sums_of(job, None, 65).findings if f.code == "log-between"]

    job = logged(((1, 4), None), ((7, 8), None))
    ((where, text),) = said(job)
    assert where == "strips 5–6"
    assert "strip 8 is on" in text
    assert job.planked is not None
    sums = sums_of(job, None, 65)
    assert (job.planked.strips, sums.strips, sums.port, sums.starboard) == (8, 8, 8, 8)
    assert (sums.told_of, sums.hours_a_strip) == (6, pytest.approx(4.0 / 6)), "rates go by what entries tell of"
    ((_, text),) = said(logged(((1, 4), None), ((5, 8), Side.PORT), ((7, 8), Side.STARBOARD)))
    assert "to starboard" in text
    assert not said(logged(((21, 24), None), ((25, 30), None))), "the log began later"
    assert not said(logged(((1, 4), None), ((5, 8), None)))


def test_what_the_bench_ticked_is_put_right_without_losing_it() -> None:
    """Its line is written from it, and read as it is: only what is changed in it changes."""
    job = change(demo_job("linnet"), "log", wanted=True, entries=())
    job = job.model_copy(update={"planked": None})
    for number in (1, 2, 3):
        job = strip_ticked(job, number, DAY)
    for name, at in (("4", 1200.0), ("9", 3200.0)):
        job = mold_ticked(job, name, at, DAY)
    strips, molds = job.log.entries
    line = line_of(strips)
    read = read_line(line.replace("planking", "planking; 3 h; 2 people"), DAY + timedelta(days=9))
    assert read.entry is not None
    right = put_right(strips, read.entry, dated=read.dated)
    assert (right.strips, right.hours, right.people, right.day) == ((1, 3), 3.0, 2, DAY)
    assert right.what == TICKED
    changed = replaced(job, 0, right)
    assert changed.planked is not None
    assert changed.planked.strips == 3
    again = strip_ticked(changed, 4, DAY)
    assert [e.strips for e in again.log.entries if e.strips] == [(1, 4)], "the ticks go on in it"
    read = read_line(line_of(molds), DAY)
    assert read.entry is not None
    same = put_right(molds, read.entry, dated=read.dated)
    assert (same.task, same.molds, same.stood) == (Task.SETTING_UP, ("4", "9"), (1200.0, 3200.0))


@pytest.mark.parametrize("side", [None, Side.PORT])
def test_an_entry_written_as_a_line_reads_as_it_is(side: Side | None) -> None:
    entry = Entry(day=DAY, task=Task.PLANKING, strips=(21, 24), side=side, hours=2.5, people=3)
    read = read_line(line_of(entry), DAY).entry
    assert read is not None
    for name in ("task", "strips", "side", "hours", "people", "day"):
        assert getattr(read, name) == getattr(entry, name), name
    typed = Entry(day=DAY, line="fairing 2h")
    assert line_of(typed) == "fairing 2h"


def test_entries_of_another_log_are_so_far_too() -> None:
    job = change(demo_job("linnet"), "log", wanted=False, entries=())
    job = job.model_copy(update={"planked": None})
    entries = [Entry(day=DAY, task=Task.PLANKING, strips=(1, 6)), Entry(day=DAY, task=Task.FAIRING, hours=2.0)]
    together, new = all_kept(job, entries)
    assert new == 2
    assert together.log.wanted
    assert together.planked is not None
    assert (together.planked.strips, together.planked.days[0].day) == (6, DAY)
    assert all_kept(together, entries) == (together, 0)


def test_a_log_without_entries_says_nothing_of_days() -> None:
    """Weeks of the work alone: on the page, in the tables, in the plan file; no calendar can be made of them."""
    job = change(unworked(demo_job("linnet")), "log", wanted=True, entries=(), starts=None)
    results = Pipeline().results(job, [WORK])
    work = results[WORK]
    texts = [forecast_sentence(work), *(label.text for label in forecast_drawing(work).labels)]
    for schedule in (own for own in LOG_SCHEDULES if own.stage is WORK):
        texts += [str(value) for row in schedule_rows(work, schedule) for value in row.values()]
    assert not any(re.search(r"\b(?:0001|2000)\b|Jan|0001-", text) for text in texts)
    assert "in week " in texts[0]
    assert any(text.startswith("week ") for text in texts[1:])
    with pytest.raises(ImpossiblePlan, match="No day is known"):
        forecast_ics(work, job)
    dated = Pipeline().results(change(job, "log", starts=date(2026, 3, 2)), [WORK])[WORK]
    assert dated.forecast.end is not None
    assert work.forecast.end is not None
    assert (dated.forecast.end.likely - date(2026, 3, 2)) == (work.forecast.end.likely - date.min), "the same work"
    assert "2026" in forecast_sentence(dated)


def test_an_overlap_is_found_behind_another_s_entry() -> None:
    def at(begin: int, end: int, *names: str) -> Entry:
        return Entry(day=DAY, task=Task.FAIRING, begin=begin, end=end, hours=(end - begin) / 60, people=1, names=names)

    long, between, late = at(600, 900, "Ana"), at(610, 640, "Per"), at(700, 720, "Ana")
    found = [f.text for f in sums_of(logged(long, between, late), None, 0).findings if f.code == "log-overlap"]
    assert found == ["Two entries overlap, from 11:40 to 12:00: hours count twice."]


def test_each_has_his_own_hours() -> None:
    entry = Entry(day=DAY, task=Task.FAIRING, hours=2.0, people=3, names=("Ana", "Per"), own_hours=(2.0, 3.5))
    sums = sums_of(logged(entry), None, 0)
    assert entry.person_hours == pytest.approx(7.5)
    assert entry.hours_words == "2, 3.5, 2", "as the day book, the card and the paper have them"
    assert entry.model_copy(update={"own_hours": ()}).hours_words == "2"
    assert {own.name: own.hours for own in sums.people} == {"Ana": 2.0, "Per": 3.5, "all of us": 2.0}


def test_several_runs_of_strips_count_on_their_sides() -> None:
    entry = read_line("strips 1-4 port, 1-3 starboard, 2h", DAY).entry
    assert entry is not None
    job = kept(Job(), entry)
    assert job.planked is not None
    assert job.planked.strips == 3
    sums = sums_of(job, None, 0)
    assert (sums.port, sums.starboard, sums.told_of) == (4, 3, 3.5)
    again = read_line(line_of(entry.model_copy(update={"line": ""})), DAY).entry
    assert again is not None
    assert again.laid == entry.laid

"""The log's page driven as a builder does: by keyboard, line by line."""

from __future__ import annotations

import subprocess
import sys
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QLocale, Qt
from PySide6.QtGui import QImage, QTextDocumentFragment
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLabel

from hollow_keel.core.change import change
from hollow_keel.core.job import Job, LogSettings
from hollow_keel.core.log.stages import WORK
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.settings.log_entry import Task, Told
from hollow_keel.core.stages import SHOWN
from hollow_keel.files.log.photos import brought_along
from hollow_keel.ui.decide.week import HoursBox
from hollow_keel.ui.incoming.log_in import LogInDialog
from hollow_keel.ui.window.status import status
from hollow_keel.ui.window.window import MainWindow

TODAY = date(2026, 9, 30)


@pytest.fixture
def page(window: MainWindow, qtbot: Any) -> Any:
    window.session.edit("no log yet", change(window.session.job, "log", wanted=False, entries=()))
    window.session.edit("no strips yet", window.session.job.model_copy(update={"planked": None}))
    assert status(window.state, "log")[0] == "hidden"
    window.command("begin-log")()
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    window.page.today = lambda: TODAY
    return window.page


FIND = """
import sys
from pathlib import Path
from hollow_keel.app import unsaved
unsaved._held = lambda lock: False
[found] = unsaved.left_behind(Path(sys.argv[1]))
print(len(found.job.log.entries))
"""
"""What another process finds of this one's unsaved work, as if this one were gone."""


def typed(page: Any, qtbot: Any, line: str) -> None:
    page.line.setFocus()
    page.line.clear()
    qtbot.keyClicks(page.line, line)
    qtbot.keyClick(page.line, Qt.Key.Key_Return)


WEEK = (
    "2026-09-21 3h setting up molds 1-12 done, two of us",
    "2026-09-22 2h strips 1-2, 90 g at 17 C, two of us",
    "2026-09-24 2h strips 3-4 port",
    "2026-09-24 1h strips 3-4 starboard",
    "mistake: strip 2 crept, mend: wedged",
    "2026-09-26 19:00-21:30 strips 5-8 with Ana",
    "swept the floor 30 min",
)


def test_a_week_is_logged_by_keyboard_alone(window: MainWindow, page: Any, qtbot: Any) -> None:
    for line in WEEK:
        typed(page, qtbot, line)
        assert page.line.text() == ""
    entries = window.session.job.log.entries
    assert sorted(e.line for e in entries) == sorted(WEEK)
    assert [e.day for e in entries] == sorted(e.day for e in entries)
    assert window.session.job.planked is not None
    assert window.session.job.planked.strips == 8
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert page.book.model().rowCount() == len(WEEK)
    work = window.state.known.get(WORK)
    assert work.sums.strips == 8
    assert page.sentence.text().startswith("Molds first; all of it is likely done by")
    assert page.forecast.drawing.strokes
    assert page.weeks.drawing.strokes
    window.session.undo()
    assert len(window.session.job.log.entries) == len(WEEK) - 1


def test_a_line_is_seen_as_it_is_understood_before_it_is_kept(window: MainWindow, page: Any, qtbot: Any) -> None:
    qtbot.keyClicks(page.line, "2h strips 21-24 port, 250 g at 14 C and cake")
    shown = QTextDocumentFragment.fromHtml(page.chips.text()).toPlainText().replace("\xa0", " ")
    for part in ("2 hours", "strips 21 to 24 port", "250 g of glue", "at 14 °C", "not understood, kept as words:  “cake”"):
        assert part in shown
    assert window.session.job.log.entries == ()


def test_a_piece_that_was_understood_is_typed_over_where_it_stands(page: Any, qtbot: Any) -> None:
    qtbot.keyClicks(page.line, "2h strips 21-24 port, 250 g")
    (glue,) = [part for part in page.quick.parts if "glue" in part.meaning]
    page.chips.linkActivated.emit(f"{glue.begin}:{glue.end}")
    qtbot.keyClicks(page.line, "90 g")
    assert page.line.text() == "2h strips 21-24 port, 90 g"
    assert page.quick.entry.batches[0].resin == 90


def test_an_entry_that_is_read_is_not_put_right_by_the_next_line(window: MainWindow, page: Any, qtbot: Any) -> None:
    """Escape lets go of one that is being put right; nothing of it is lost."""
    typed(page, qtbot, "2026-09-22 2h strips 1-2")
    page.choose_key("entry:0")
    assert page.line.text() == ""
    typed(page, qtbot, "2026-09-23 1h strips 3-4")
    assert [e.strips for e in window.session.job.log.entries] == [(1, 2), (3, 4)]
    page.choose_key("entry:0")
    page.mend_button.click()
    assert page.line.text() == "2026-09-22 2h strips 1-2"
    qtbot.keyClick(page.line, Qt.Key.Key_Escape)
    assert (page.line.text(), page.mending) == ("", None)
    typed(page, qtbot, "2026-09-24 1h strips 5-6")
    assert [e.strips for e in window.session.job.log.entries] == [(1, 2), (3, 4), (5, 6)]


def test_strips_past_the_plan_are_shown_and_not_counted(window: MainWindow, page: Any, qtbot: Any) -> None:
    qtbot.waitUntil(lambda: window.state.known.get(PLANKING) is not None, timeout=60_000)
    most = len(window.state.known.get(PLANKING).strips)
    typed(page, qtbot, f"strips {most}-{most + 9}")
    (entry,) = window.session.job.log.entries
    assert (entry.strips, entry.what) == (None, f"strips {most}-{most + 9}")


def test_what_cannot_be_stays_as_it_was_typed(window: MainWindow, page: Any, qtbot: Any) -> None:
    said: list[str] = []
    page.said.connect(said.append)
    typed(page, qtbot, "2026-12-24 2h strips 9-3")
    assert page.line.text() == "2026-12-24 2h strips 9-3"
    assert "still to come" in said[-1]
    assert not page.keep_button.isEnabled()
    assert window.session.job.log.entries == ()


def test_an_entry_is_put_right_and_taken_out(window: MainWindow, page: Any, qtbot: Any) -> None:
    typed(page, qtbot, "2026-09-22 2h strips 1-2")
    page.choose_key("entry:0")
    page.mend_button.click()
    assert page.line.text() == "2026-09-22 2h strips 1-2"
    assert page.keep_button.text() == "Keep it so"
    typed(page, qtbot, "3h strips 1-3")
    (entry,) = window.session.job.log.entries
    assert (entry.day, entry.hours, entry.strips) == (date(2026, 9, 22), 3.0, (1, 3))
    assert window.session.job.planked is not None
    assert window.session.job.planked.strips == 3
    page.choose_key("entry:0")
    page.take_out()
    assert window.session.job.log.entries == ()
    assert window.session.job.planked.strips == 0
    window.session.undo()
    assert len(window.session.job.log.entries) == 1


def test_a_row_of_a_table_that_is_gone_chooses_nothing(page: Any) -> None:
    page.choose_key("entry:0")
    assert page.chosen is None
    assert page.line.text() == ""


def test_what_is_kept_is_where_a_crash_cannot_reach_it(window: MainWindow, page: Any, qtbot: Any) -> None:
    """The first entry with the whole job, the next ones beside it; told as kept, each is found by another process at once."""
    for n, line in enumerate(("2h sanding", "1h sanding", "1h sanding"), start=1):
        typed(page, qtbot, line)
        seen = subprocess.run(
            [sys.executable, "-c", FIND, str(window.folder), window.files.unsaved.token], capture_output=True, text=True, check=True
        )
        assert int(seen.stdout) == n
    assert len(list(window.folder.rglob("*.added"))) == 1


def test_the_stop_watch_goes_on_without_the_window(
    window: MainWindow, page: Any, monkeypatch: pytest.MonkeyPatch, qtbot: Any
) -> None:
    from hollow_keel.app import watch
    from hollow_keel.core.log.stopwatch import Started

    monkeypatch.setattr(watch, "now", lambda: Started(1000.0, 10.0, "run"))
    window.command("log-watch")()
    assert page.watch.text() == "Stop the stop-watch"
    assert watch.running(window.folder) == Started(1000.0, 10.0, "run")
    monkeypatch.setattr(watch, "now", lambda: Started(1000.0 + 5100.0, 10.0 + 5100.0, "run"))
    window.command("log-watch")()
    assert page.line.text() == "1h25 "
    assert watch.running(window.folder) is None
    (entry,) = window.session.job.log.entries
    assert entry.hours == pytest.approx(1 + 25 / 60), "kept at once"
    qtbot.keyClicks(page.line, "sanding")
    qtbot.keyClick(page.line, Qt.Key.Key_Return)
    (entry,) = window.session.job.log.entries
    assert (entry.task, entry.line.strip()) == (Task.FAIRING, "1h25 sanding")


def test_photographs_stand_with_their_entry_and_one_that_is_gone_is_said(
    window: MainWindow, page: Any, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    typed(page, qtbot, "2h sanding")
    picture = tmp_path / "sheer.png"
    image = QImage(300, 200, QImage.Format.Format_RGB32)
    image.fill(0x336699)
    assert image.save(str(picture))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(picture), ""))
    page.choose_key("entry:0")
    window.command("log-photo")()
    assert window.session.job.log.entries[0].photos == (str(picture),)
    assert not page.findChildren(QLabel, "small")[0].pixmap() or page.thumbs.count() == 1
    picture.unlink()
    page.seen.forget()
    page.refresh()
    widget = page.thumbs.itemAt(0).widget()
    assert "is gone" in widget.text()


def test_photographs_are_copied_beside_the_job_and_go_where_it_goes(
    window: MainWindow, page: Any, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "boat").mkdir()
    window.session.save(tmp_path / "boat" / "a.hkeel")
    for k, side in enumerate((20, 30)):  # two cameras call theirs the same
        (tmp_path / str(k)).mkdir()
        picture = QImage(side, side, QImage.Format.Format_RGB32)
        picture.fill(0x336699)
        picture.save(str(tmp_path / str(k) / "shot.png"))
        typed(page, qtbot, "2h sanding")
        monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, k=k: (str(tmp_path / str(k) / "shot.png"), ""))
        window.command("log-photo")()
    photos = [entry.photos for entry in window.session.job.log.entries]
    assert photos == [("a photos/shot.png",), ("a photos/shot-2.png",)]
    page.choose_key("entry:1")
    label = page.thumbs.itemAt(0).widget()
    assert label.pixmap().height() == 84
    (tmp_path / "away").mkdir()
    assert window.files._save_to(tmp_path / "away" / "b.hkeel")
    assert QImage(str(tmp_path / "away" / "a photos" / "shot-2.png")).width() == 30
    page.choose_key("entry:0")
    assert "away" in page.thumbs.itemAt(0).widget().toolTip()


def test_a_photograph_out_of_the_jobs_folder_is_not_copied(tmp_path: Path) -> None:
    (tmp_path / "secret.png").write_bytes(b"x")
    (tmp_path / "old").mkdir()
    (tmp_path / "deep" / "new").mkdir(parents=True)
    assert brought_along(["../secret.png"], tmp_path / "old", tmp_path / "deep" / "new") == []
    assert not (tmp_path / "deep" / "secret.png").exists()


def test_entries_come_from_a_csv_once(
    window: MainWindow, page: Any, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from hollow_keel.files.log.entries import write_log_csv

    typed(page, qtbot, "2h sanding")
    typed(page, qtbot, "decision: no glue below ten degrees because it failed")
    path = tmp_path / "log.csv"
    path.write_text(write_log_csv(window.session.job.log.entries[1:]), encoding="utf-8")
    window.session.undo()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    monkeypatch.setattr(LogInDialog, "exec", lambda dialog: dialog.accept() or int(dialog.result()))
    for _ in range(2):
        window.command("log-read")()
        assert [e.told for e in window.session.job.log.entries] == [Told.WORK, Told.DECISION]


def test_a_log_kept_in_a_spreadsheet_is_shown_before_it_is_taken(
    window: MainWindow, page: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "book.csv"
    path.write_text(
        "Datum;Std;Streifen;Notiz\n28.9.2026;2,5;1-2;good fit\n29.9.2026;1;9-3;\n\n30.9.2026;3,25;3-4;cold\n", encoding="utf-8"
    )
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    seen = []

    def look(dialog: LogInDialog) -> int:
        assert dialog.found.meanings == ("day", "", "", "")
        assert "3 entries, nothing left out" in dialog.summary.text()
        dialog.name_column(1, "hours")
        dialog.name_column(2, "strips")
        dialog.name_column(3, "what")
        seen.extend([dialog.summary.text(), dialog.take.text(), dialog.remarks.item(0).text()])
        assert dialog.cells.item(2, 0).background().color().name() != dialog.cells.item(1, 0).background().color().name()
        dialog.accept()
        return int(dialog.result())

    monkeypatch.setattr(LogInDialog, "exec", look)
    window.command("log-read")()
    assert seen[0] == "2 entries, 1 row left out."
    assert seen[1] == "Take 2 entries"
    assert seen[2].startswith("line 3:")
    entries = window.session.job.log.entries
    assert [(e.day.day, e.hours, e.strips, e.what) for e in entries] == [(28, 2.5, (1, 2), "good fit"), (30, 3.25, (3, 4), "cold")]
    path.write_text("Tag;x\n;\n1;2\n", encoding="utf-8")

    def refuse(dialog: LogInDialog) -> int:
        assert "Which column is the day" in dialog.summary.text()
        assert not dialog.take.isEnabled()
        dialog.reject()
        return int(dialog.result())

    monkeypatch.setattr(LogInDialog, "exec", refuse)
    window.command("log-read")()
    assert window.session.job.log.entries == entries


def test_so_far_on_the_planking_page_and_the_log_are_one_truth(window: MainWindow, page: Any, qtbot: Any) -> None:
    typed(page, qtbot, "2h strips 1-4")
    window.go_to_page("planking")
    window.page.so_far.today = lambda: TODAY
    window.page.so_far._laid(9)
    assert window.session.job.log.entries[-1].strips == (5, 9)
    assert window.session.job.planked is not None
    assert window.session.job.planked.strips == 9


@pytest.mark.parametrize(
    ("text", "hours"), [("2.5", 2.5), ("2,5", 2.5), ("2½", 2.5), ("2 1/2", 2.5), ("1:45", 1.75), ("1:20", 1.333), ("3", 3.0)]
)
def test_hours_are_typed_as_people_write_them_whatever_the_locale(qtbot: Any, text: str, hours: float) -> None:
    for locale in (QLocale("de_DE"), QLocale("en_US"), QLocale("fr_CH")):
        box = HoursBox()
        qtbot.addWidget(box)
        box.setLocale(locale)
        box.selectAll()
        QTest.keyClicks(box, text)
        QTest.keyClick(box, Qt.Key.Key_Return)
        assert box.value() == hours, locale.name()
        box.selectAll()
        QTest.keyClicks(box, box.text())
        QTest.keyClick(box, Qt.Key.Key_Return)
        assert box.value() == hours, "typed over itself"


def test_days_without_work_are_typed_and_shaded(window: MainWindow, page: Any, qtbot: Any) -> None:
    for line in ("2026-09-22 2h strips 1-2", "2026-09-24 2h strips 3-4"):
        typed(page, qtbot, line)
    qtbot.waitUntil(lambda: page.work.forecast.starts == date(2026, 9, 25), timeout=30_000)
    before = page.work.forecast.end.likely
    row = page.decisions.rows["log.holidays"]
    page.decisions.open_for("log.holidays")
    row.open()
    QTest.keyClicks(row.field, "26 Sept 2026 to 25 Oct 2026")
    QTest.keyClick(row.field, Qt.Key.Key_Return)
    assert len(window.session.job.log.holidays) == 30
    qtbot.waitUntil(lambda: bool(page.work.forecast.free), timeout=30_000)
    assert row.value.text() == "26 Sep 2026 to 25 Oct 2026"
    assert page.work.forecast.end.likely > before, "a month without work is not worked in"
    assert [label.text for label in page.forecast.drawing.labels].count("no work") == 1
    row = page.decisions.rows["log.starts"]
    row.open()
    QTest.keyClicks(row.field, "1 Nov 2026")
    QTest.keyClick(row.field, Qt.Key.Key_Return)
    assert window.session.job.log.starts == date(2026, 11, 1)


def test_hours_of_the_week_are_typed_where_they_stand(window: MainWindow, page: Any) -> None:
    page.week.fields[2].setValue(3.5)
    assert window.session.job.log.week == (0.0, 2.0, 3.5, 2.0, 0.0, 5.0, 0.0)


def test_a_log_of_five_thousand_entries_is_opened_and_kept(window: MainWindow, page: Any, qtbot: Any) -> None:
    from hollow_keel.core.settings.log_entry import Entry, Task

    many = tuple(Entry(day=date(2010 + k // 365, 1 + k % 12, 1 + k % 28), task=Task.FAIRING, hours=1.0) for k in range(5000))
    many = tuple(sorted(many, key=lambda entry: entry.day))
    window.session.edit("many", change(window.session.job, "log", entries=many))
    typed(page, qtbot, "2h sanding")
    assert len(window.session.job.log.entries) == 5001
    assert page.book.model().rowCount() == 5001


def test_a_job_without_a_hull_keeps_a_log_too(window: MainWindow, qtbot: Any) -> None:
    window.session.edit("blank", Job(log=LogSettings(wanted=True)))
    window.go_to_page("log")
    window.page.today = lambda: TODAY
    typed(window.page, qtbot, "2h drew lines")
    assert len(window.session.job.log.entries) == 1
    window.command("no-log")()
    assert window.session.job.log.entries[0].line == "2h drew lines"
    assert status(window.state, "log")[0] == "hidden"


def test_strips_and_molds_ticked_off_at_the_bench_are_in_the_days_entry(
    window: MainWindow, page: Any, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    from hollow_keel.ui.bench.mode import BenchMode

    def tick(bench: BenchMode) -> int:
        for _ in range(3):
            qtbot.keyClick(bench, Qt.Key.Key_D)
        assert "is in the log" in bench.verdict.text()
        return 0

    monkeypatch.setattr(BenchMode, "exec", tick)
    window.command("bench-strips")()
    (entry,) = window.session.job.log.entries
    assert (entry.strips, entry.what) == ((1, 3), "ticked off at the bench")
    assert window.session.job.planked is not None
    assert window.session.job.planked.strips == 3
    window.command("bench-marks")()
    assert window.session.job.log.entries[-1].molds == ("1", "2", "3")
    window.session.undo()
    assert window.session.job.log.entries[-1].molds == ("1", "2")

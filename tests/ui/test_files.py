"""The job's file seen from the window: what others do to it, earlier versions, work left behind."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from hollow_keel.app.exports import export_named
from hollow_keel.app.unsaved import Origin, Unsaved, left_behind
from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.files.store.backups import versions_of
from hollow_keel.files.store.job_file import load_job, save_job
from hollow_keel.ui.files.earlier_dialog import EarlierDialog
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import discard

BLANK = Job(name="Blank")


@pytest.fixture
def blank(qapp: QApplication, tmp_path: Path) -> Iterator[MainWindow]:
    window = MainWindow(Job(), tmp_path / "own")
    window.show()
    yield window
    window.session.start(Job())
    window.close()
    discard(window)


@pytest.fixture
def opened(blank: MainWindow, tmp_path: Path) -> MainWindow:
    save_job(BLANK, tmp_path / "a.hkeel")
    blank.session.open(tmp_path / "a.hkeel")
    return blank


def saved_elsewhere(path: Path, name: str) -> None:
    save_job(change(load_job(path), "", name=name), path)


def answering(monkeypatch: pytest.MonkeyPatch, words: str) -> list[QMessageBox]:
    """Questions are answered by the button with such a text; the boxes as they were asked."""
    asked: list[Any] = []

    def click(box: QMessageBox) -> int:
        asked.append((box.text(), box.informativeText()))
        next(button for button in box.buttons() if words in button.text()).click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", click)
    return asked


def choosing(monkeypatch: pytest.MonkeyPatch, row: int, *, throw: bool = False) -> list[Any]:
    shown: list[Any] = []

    def choose(dialog: EarlierDialog) -> bool:
        dialog.list.setCurrentRow(row)
        shown.append((dialog.list.item(row).text(), dialog.changes.toPlainText()))
        (dialog.throw_button if throw else dialog.take_button).click()
        return True

    monkeypatch.setattr(EarlierDialog, "exec", choose)
    return shown


def test_what_another_window_saved_is_said_and_asked_about(opened: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    path = opened.session.path
    assert path is not None
    saved_elsewhere(path, "Theirs")
    qtbot.waitUntil(lambda: "saved by another window" in opened.message.text(), timeout=5000)
    opened.session.edit("name", change(opened.session.job, "", name="Mine"))
    asked = answering(monkeypatch, "Cancel")
    assert not opened.files.save()
    assert "Name: Mine → Theirs" in asked[0][1]
    assert load_job(path).name == "Theirs"
    answering(monkeypatch, "Save over it")
    assert opened.files.save()
    assert load_job(path).name == "Mine"
    assert load_job(versions_of(opened.versions, path)[0].path).name == "Theirs"


def test_a_file_moved_away_is_said(opened: MainWindow, qtbot: Any) -> None:
    path = opened.session.path
    assert path is not None
    path.rename(path.with_name("moved.hkeel"))
    qtbot.waitUntil(lambda: "moved or deleted" in opened.message.text(), timeout=5000)
    assert opened.files.save()
    assert "was not there any more" in opened.message.text()


def test_a_job_that_is_open_in_another_window_is_said(blank: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "a.hkeel"
    save_job(BLANK, path)
    other = Unsaved(blank.folder)
    other.hold(Origin(str(path)))
    blank.files.open_job(path)
    assert "open in another window" in blank.message.text()
    other.let_go()


def test_an_earlier_version_is_one_step_that_can_be_undone(opened: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    opened.files.show_versions()
    assert "no earlier version" in opened.message.text()
    for name in ("second", "third"):
        opened.session.edit("name", change(opened.session.job, "", name=name))
        assert opened.files.save()
    shown = choosing(monkeypatch, 1)
    opened.command("versions")()
    assert shown[0][1] == "Name: third → Blank"
    assert opened.session.job.name == "Blank"
    opened.session.undo()
    assert opened.session.job.name == "third"


def test_work_left_behind_is_thrown_away_or_taken_up_whatever_is_open(opened: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    path = opened.session.path
    assert path is not None
    gone = Unsaved(opened.folder)
    gone.keep(change(BLANK, "", name="Rescued"), opened.session.origin)()
    shown = choosing(monkeypatch, 0)
    opened.files.offer_recovery()
    assert "a.hkeel. Against its file:" in shown[0][1]
    assert "Name: Blank → Rescued" in shown[0][1]
    assert (opened.session.job.name, opened.session.path, opened.session.changed) == ("Rescued", path, True)
    assert left_behind(opened.folder) == []
    Unsaved(opened.folder).keep(BLANK, Origin())()
    choosing(monkeypatch, 0, throw=True)
    opened.command("unsaved")()
    assert left_behind(opened.folder) == []
    assert "no work left" in opened.message.text()


def test_save_as_asks_about_the_name_with_its_suffix(opened: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The dialog asks about what was typed; what is added to it is asked about too."""
    other = tmp_path / "mine.hkeel"
    save_job(change(BLANK, "", name="Another's"), other)
    offered: list[str] = []

    def name(_top: object, _title: str, start: str, _kinds: str) -> tuple[str, str]:
        offered.append(start)
        return str(tmp_path / "mine"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", name)
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.No)
    assert not opened.files.save_as()
    assert load_job(other).name == "Another's"
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Yes)
    assert opened.files.save_as()
    assert load_job(other).name == "Blank"
    opened.session.start(change(Job(), "", name="../Tender 1/2"))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda _t, _n, start, _k: (offered.append(start), ("", ""))[1])
    opened.files.save_as()
    assert Path(offered[-1]).name == "-tender 1-2.hkeel", "no slashes from names"


def test_no_output_is_written_over_a_job(window: MainWindow, tmp_path: Path, warnings: list[str]) -> None:
    job = tmp_path / "own.hkeel"
    window.session.save(job)
    before = job.read_bytes()
    for path in (job, tmp_path / ".." / tmp_path.name / "own.hkeel"):
        window.exporter.export(export_named("plan-json"), path)
        assert "made from" in warnings[-1]
    other = tmp_path / "other.hkeel"
    save_job(BLANK, other)
    window.exporter.export(export_named("plan-json"), other)
    assert "a job is kept there" in warnings[-1]
    assert job.read_bytes() == before

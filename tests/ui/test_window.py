"""The real window, driven as a builder drives it."""

from __future__ import annotations

import json
import os
import signal
import sys
import threading
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from hollow_keel.app.exports import EXPORTS, export_named
from hollow_keel.app.settings import load_settings
from hollow_keel.app.unsaved import left_behind
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import HullEnd, Job
from hollow_keel.core.molds.cut_stages import PROUD
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet
from hollow_keel.drawing.model import Drawing
from hollow_keel.files.store.job_file import load_job, save_job
from hollow_keel.ui.decide.lengths_dialog import StationsDialog
from hollow_keel.ui.files.earlier_dialog import EarlierDialog
from hollow_keel.ui.pages.molds.dialogs import MoldDialogs
from hollow_keel.ui.pages.offsets.page import OffsetsPage
from hollow_keel.ui.pages.registry import PAGES
from hollow_keel.ui.views.drawing_view import DrawingView
from hollow_keel.ui.window.command_finder import CommandFinder
from hollow_keel.ui.window.menus import set_units
from hollow_keel.ui.window.not_caught import tell_what_is_not_caught
from hollow_keel.ui.window.start import make_application
from hollow_keel.ui.window.state import SHOWN
from hollow_keel.ui.window.theme import DARK, LIGHT
from hollow_keel.ui.window.window import MainWindow
from tests.conftest import DATA
from tests.core.hull.test_hard_ends import skiff
from tests.ui.conftest import answering, settle


def offsets_page(window: MainWindow) -> OffsetsPage:
    page = window.pages.of("offsets")
    assert isinstance(page, OffsetsPage)
    return page


def type_cell(window: MainWindow, row: int, column: int, text: str) -> None:
    """Type into a cell of the table, key by key, and Enter."""
    table = offsets_page(window).table
    table.setFocus()
    table.setCurrentIndex(table.offsets.index(row, column))
    QTest.keyClicks(table, text[0])
    editor = QApplication.focusWidget()
    assert editor is not table
    QTest.keyClicks(editor, text[1:])
    QTest.keyClick(editor, Qt.Key.Key_Return)
    QApplication.processEvents()  # an editor closes a moment after Enter


def test_demo_is_planned(window: MainWindow, qtbot: Any) -> None:
    qtbot.waitUntil(lambda: window.state.stocked, timeout=30_000)
    assert window.state.planking is not None
    assert len(window.state.planking.strips) == 65
    assert window.card.card.heading == "Hull"
    # two molds are out, and the planking has drifted apart at a third
    assert [s for s, _ in window.order.statuses if s != "hidden"] == ["ready", "ready", "ready", "look", "look", "ready"]


def test_typed_offset_redraws_and_can_be_undone(window: MainWindow, qtbot: Any) -> None:
    before = window.session.job
    length = window.state.shape.measures.volume
    type_cell(window, 60, 2, "0' 0 1/2\"")
    assert window.session.job.offsets.rows[60].half_breadth == pytest.approx(12.7)
    assert offsets_page(window).table.currentIndex().row() == 61
    settle(qtbot, window)
    assert window.state.shape.measures.volume != length
    window.menus.actions["undo"].trigger()
    assert window.session.job == before
    settle(qtbot, window)
    assert window.state.shape.measures.volume == pytest.approx(length)
    window.menus.actions["redo"].trigger()
    assert window.session.job.offsets.rows[60].half_breadth == pytest.approx(12.7)


def test_what_cannot_be_read_stays_and_is_named(window: MainWindow) -> None:
    before = window.session.job
    type_cell(window, 60, 2, "40x")
    model = offsets_page(window).model
    assert window.session.job == before
    assert model.data(model.index(60, 2)) == "40x"
    assert "40x" in window.message.text()
    type_cell(window, 60, 2, "641")
    assert model.faults == {}
    assert window.session.job.offsets.rows[60].half_breadth == 641


def test_bad_table_keeps_the_last_drawing_and_says_why(window: MainWindow, qtbot: Any) -> None:
    shape = window.state.shape
    page = offsets_page(window)
    last_sheer = max(k for k, r in enumerate(page.model.rows) if r.label == "sheer")
    type_cell(window, last_sheer, 1, "wl")
    qtbot.waitUntil(lambda: bool(window.state.problem))
    assert "no sheer" in window.state.problem
    assert window.state.shape.key == shape.key
    assert window.state.shape.job is shape.job
    assert page.note.isVisible()
    assert window.order.statuses[0][0] == "look"
    assert window.order.statuses[1][0] == "redo"
    window.session.undo()
    settle(qtbot, window)
    assert not window.state.problem


def test_new_job_from_a_blank_page_by_paste(window: MainWindow, qtbot: Any) -> None:
    rows = linnet().offsets.rows
    window.files.new_job()
    assert window.session.job.offsets.rows == ()
    assert window.order.statuses[0][0] == "empty"
    text = "\n".join(f"{r.station:g}\t{r.label}\t{r.half_breadth:g}\t{r.height:g}" for r in rows)
    QGuiApplication.clipboard().setText(text)
    offsets_page(window).table.paste()
    assert window.session.job.offsets.rows == rows
    settle(qtbot, window)
    assert len(window.state.shape.molds.molds) == 14


def test_bad_paste_changes_nothing(window: MainWindow) -> None:
    before = window.session.job
    QGuiApplication.clipboard().setText("100\tkeel\t3\t4\n100\twl\tfour\t4")
    table = offsets_page(window).table
    table.setCurrentIndex(table.offsets.index(0, 0))
    table.paste()
    assert window.session.job == before
    assert "half-breadth of row 2" in window.message.text()


def test_rows_are_added_and_deleted_from_the_keyboard(window: MainWindow) -> None:
    table = offsets_page(window).table
    count = len(window.session.job.offsets.rows)
    table.setFocus()
    table.setCurrentIndex(table.offsets.index(30, 2))
    QTest.keyClick(table, Qt.Key.Key_Insert)
    assert len(window.session.job.offsets.rows) == count + 1
    QTest.keyClick(table, Qt.Key.Key_Delete)
    assert len(window.session.job.offsets.rows) == count


@pytest.mark.parametrize("page", range(len(PAGES)))
def test_keel_line_moves_every_page(window: MainWindow, page: int) -> None:
    window.go_to(page)
    QTest.keyClick(window.keel_line, Qt.Key.Key_Right)
    QTest.keyClick(window.keel_line, Qt.Key.Key_Right)
    assert window.state.mold_number == 2
    assert window.state.mold.name == "3"
    x = window.keel_line._across(window.state.shape.molds.molds[8].station)
    QTest.mouseClick(window.keel_line, Qt.MouseButton.LeftButton, pos=QPoint(round(x), 60))
    assert window.state.mold.name == "9"
    if page in (2, 3):
        assert window.card.card.heading.endswith("9")


def test_row_and_drawing_are_linked(window: MainWindow) -> None:
    window.go_to_page("setup")
    page: Any = window.pages.of("setup")
    page.table.setCurrentIndex(page.table.model().index(4, 0))
    assert window.state.mold.name == "5"
    assert page.view._marked == "mold:5"
    mark = window.state.shape.setup.marks[9]
    at = page.view.mapFromScene(QPointF(mark.from_zero, -mark.keel_above / 2))
    QTest.mouseClick(page.view.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert window.state.mold.name == "10"


def test_strip_is_picked_in_the_map_and_the_table(window: MainWindow) -> None:
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    at = page.map.mapFromScene(QPointF(2700.0, 30 * 14 + 7.0))
    QTest.mouseClick(page.map.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert window.state.strip_number == pytest.approx(31, abs=3)
    assert page.table.current_key() == f"strip:{window.state.strip_number}"
    page.table.select("strip:7")
    page.table.setCurrentIndex(page.table.model().index(11, 0))
    assert window.card.card.heading == f"Strip {window.state.strip_number}"


def test_strip_is_picked_on_the_hull(window: MainWindow) -> None:
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    mesh = page.hull.mesh
    page.hull.set_view(90.0, 0.0)
    pixels, _ = page.hull._on_screen(mesh.points)
    quad = [k for k, n in enumerate(mesh.strip) if n == 12][30]
    middle = pixels[mesh.quads[quad]].mean(axis=0)
    assert page.hull.strip_at(QPointF(*middle)) == 12


def test_hull_is_rendered_and_sketched_alike(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    page.prepare_picture()
    assert page.hull._image is not None
    page.hull._know("")  # a machine that cannot render
    sketch = page.hull._image
    assert sketch is not None
    colours = {sketch.pixelColor(x, y).name() for x in range(0, sketch.width(), 7) for y in range(0, sketch.height(), 7)}
    assert len(colours) > 10


def test_settings_of_every_page(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("molds")
    page: Any = window.pages.of("molds")
    page.decisions.decide("molds.skin")
    field = page.decisions.rows["molds.skin"].field
    QTest.keyClicks(field, "3/8in")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert window.session.job.molds.skin == pytest.approx(9.525)
    window.go_to_page("setup")
    setup: Any = window.pages.of("setup")
    setup.change("measure from the", "setup", zero_end=HullEnd.STERN)
    settle(qtbot, window)
    assert window.state.shape.setup.marks[0].mold == "12"
    setup.change("beam wide", "setup", beam_width=-4.0)
    assert "Beam wide: this value cannot be used (it says “-4 mm”). It must be more than 0 mm." in window.message.text()
    assert window.session.job.setup.beam_width == 75


def test_field_keeps_what_cannot_be_read(window: MainWindow) -> None:
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    page.decisions.decide("strips.width")
    field = page.decisions.rows["strips.width"].field
    QTest.keyClicks(field, "wide")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert field.text() == "wide"
    assert field.property("wrong")
    assert "wide" in window.message.text()


def test_strips_that_cannot_be_laid_leave_the_rest_alone(
    window: MainWindow, qtbot: Any, tmp_path: Path, warnings: list[str]
) -> None:
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    page.change("strip wide", "strips", width=5000.0)
    qtbot.waitUntil(lambda: "wider than the whole girth" in window.state.problem, timeout=20_000)
    qtbot.waitUntil(lambda: window.state.judged, timeout=20_000)
    assert page.note.isVisible()
    assert not page.bar.isVisible(), "nothing is being laid"
    assert window.card.card.aside == "out of date"
    assert [m for m, _ in window.order.statuses if m != "hidden"] == ["ready", "ready", "ready", "look", "look", "redo"]
    set_units(window, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16))
    qtbot.waitUntil(lambda: '(196 7/8")' in page.note.text(), timeout=20_000)
    window.go_to_page("molds")
    assert "girth" not in window.page.note.text()
    window.exporter.export(export_named("molds-dxf"), tmp_path / "molds.dxf")
    assert (tmp_path / "molds.dxf").stat().st_size > 10_000
    window.exporter.export(export_named("stem-pdf"), tmp_path / "stem.pdf")
    assert (tmp_path / "stem.pdf").read_bytes()[:5] == b"%PDF-"
    window.exporter.export(export_named("strips-csv"), tmp_path / "strips.csv")
    assert '(196 7/8") is wider than the whole girth' in warnings[-1]
    window.go_to_page("planking")
    page.change("strip wide", "strips", width=14.0)
    settle(qtbot, window)
    assert window.order.statuses[4][0] == "look"
    assert window.card.card.aside == "both sides"


def test_offsets_that_make_no_hull_leave_all_the_rest_to_do_again(window: MainWindow, qtbot: Any) -> None:
    rows = window.session.job.offsets.rows
    window.session.edit("out of order", change(window.session.job, "offsets", rows=rows[::-1]))
    qtbot.waitUntil(lambda: bool(window.state.problem), timeout=20_000)
    assert [m for m, _ in window.order.statuses if m != "hidden"] == ["look", *["redo"] * 5]
    for page, kind in enumerate(PAGES):
        if kind.stage in ("deck", "veneers", "sheer", "log"):  # this boat has none
            continue
        window.go_to(page)
        assert window.page.note.isVisible()
        assert "out of order" in window.page.note.text()
        assert window.card.card.aside == "out of date" or not window.card.card.big
    window.session.undo()
    settle(qtbot, window)
    assert window.card.card.aside != "out of date"


def test_a_page_with_nothing_on_it_says_where_to_begin(window: MainWindow, qtbot: Any) -> None:
    window.edit("off the hull", change(window.session.job, "molds", stations=(9000.0,)))
    qtbot.waitUntil(lambda: not window.state.has_molds, timeout=20_000)
    settle(qtbot, window)
    window.go_to_page("setup")
    assert "no mold to set up" in window.page.hint.text()
    assert window.order.statuses[3] == ("empty", 0)
    window.session.start(Job())
    for page in range(1, 5):
        window.go_to(page)
        assert "on the Offsets page first" in window.page.hint.text()
        assert window.page.hint.isVisible()
    assert {mark for mark, _ in window.order.statuses} == {"empty", "hidden"}


def test_messages_are_in_the_builder_s_units(window: MainWindow, warnings: list[str], qtbot: Any) -> None:
    set_units(window, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16))
    qtbot.waitUntil(lambda: not window.state.stale, timeout=20_000)
    window.say("It is ⟨50.8⟩ long.")
    assert window.message.text() == 'It is 2" long.'
    window.warn("No", "It is ⟨25.4⟩ long.")
    assert warnings[-1] == 'It is 1" long.'


def test_units_switch_is_one_undoable_step(window: MainWindow) -> None:
    set_units(window, LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16))
    assert window.card.card.big == "17-6-6"
    assert window.units_button.text().startswith("ft-in-8ths")
    assert not window.state.stale
    window.session.undo()
    assert window.card.card.big == "5\u202f353.0"


def test_save_open_and_recent(window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, qtbot: Any) -> None:
    path = tmp_path / "mine.hkeel"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    window.session.edit("name", window.session.job.model_copy(update={"name": "Mine"}))
    assert window.isWindowModified()
    window.menus.actions["save"].trigger()
    assert load_job(path).name == "Mine"
    assert not window.isWindowModified()
    window.files.start_demo("pipit")
    assert window.session.job.name == "Pipit"
    window.files.open_job(path)
    assert window.session.job.name == "Mine"
    window.menus.menus["recent"].aboutToShow.emit()
    assert [a.text() for a in window.menus.menus["recent"].actions()] == [str(path)]
    assert load_settings(window.folder).recent == (str(path),)


def test_bad_files_leave_the_job_alone(window: MainWindow, tmp_path: Path, warnings: list[str]) -> None:
    before = window.session.job
    for name, data in (("a.hkeel", b"{"), ("b.csv", b"\0\1"), ("c.hkeel", b'{"format": "hollow-keel-job", "version": 7}')):
        path = tmp_path / name
        path.write_bytes(data)
        window.files.open_job(path)
        assert name in warnings[-1]
    window.importer.import_from(tmp_path / "none.csv")
    assert "cannot be read" in warnings[-1]
    assert window.session.job == before


def test_import_into_a_job_is_undoable(window: MainWindow, qtbot: Any) -> None:
    before = window.session.job
    window.importer.import_from(DATA / "cone.csv")
    assert len(window.session.job.offsets.rows) == 90
    settle(qtbot, window)
    window.session.undo()
    assert window.session.job == before


def test_save_into_a_folder_that_is_not_there(window: MainWindow, tmp_path: Path, warnings: list[str]) -> None:
    assert not window.files._save_to(tmp_path / "none" / "a.hkeel")
    assert "cannot be written" in warnings[-1]
    window.exporter.export(export_named("strips-csv"), tmp_path / "none" / "a.csv")
    assert "cannot be written" in warnings[-1]


def test_export_from_the_window(window: MainWindow, tmp_path: Path) -> None:
    window.exporter.export(export_named("setup-pdf"), tmp_path / "s.pdf")
    assert (tmp_path / "s.pdf").read_bytes().startswith(b"%PDF")
    assert "Wrote s.pdf" in window.message.text()


def test_stations_are_asked_in_the_jobs_unit(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, qtbot: Any, warnings: list[str]
) -> None:
    set_units(window, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16))

    def evenly(dialog: StationsDialog) -> int:
        dialog.spacing.setText("20 1/2")
        dialog.spacing.setModified(True)
        dialog.spacing.editingFinished.emit()
        assert dialog.even.isChecked()
        assert window.session.attempting, "the keel line shows it already"
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(StationsDialog, "exec", evenly)
    MoldDialogs(window).ask_stations()
    assert window.session.job.molds.every == pytest.approx(20.5 * 25.4)

    def listed(dialog: StationsDialog) -> int:
        dialog.listed.setChecked(True)
        table = dialog.table.table
        table.item(0, 0).setText("oak")
        dialog.accept()
        assert "row 1" in dialog.fault.text()
        assert "oak" in dialog.fault.text()
        table.item(0, 0).setText("19")
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(StationsDialog, "exec", listed)
    MoldDialogs(window).ask_stations()
    assert window.session.job.molds.stations[0] == pytest.approx(19 * 25.4)
    assert window.session.job.molds.every is None


def test_what_a_command_cannot_do_is_said(window: MainWindow, warnings: list[str]) -> None:
    def run(shell: Any) -> None:
        change(shell.session.job, "molds", every=1e9)

    window.menus.commands["stations"] = replace(window.menus.commands["stations"], run=run)
    before = window.session.job
    window.command("stations")()
    assert "It must be less than 1000000 mm." in warnings[-1]
    assert window.session.job is before


def test_unsaved_work_survives_a_crash(window: MainWindow, qtbot: Any, qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> None:
    window.session.edit("name", window.session.job.model_copy(update={"name": "Nearly lost"}))
    window.files.keep_recovery()
    window.files.wait_for_recovery()
    assert left_behind(window.folder) == []  # its window is there
    os.close(window.files.unsaved._lock)  # as the system does with a process that is killed
    shown: list[Any] = []

    def take_up(dialog: EarlierDialog) -> bool:
        shown.append((dialog.list.item(0).text(), dialog.changes.toPlainText()))
        dialog.take_button.click()
        return True

    monkeypatch.setattr(EarlierDialog, "exec", take_up)
    second = MainWindow(Job(), window.folder)
    second.files.offer_recovery()
    assert second.session.job.name == "Nearly lost"
    assert "Nearly lost" in shown[0][0]
    assert "Name: Untitled → Nearly lost" in shown[0][1]
    window.files.unsaved._lock = -1
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Discard)
    second.close()
    assert left_behind(window.folder) == []
    assert not list(window.folder.rglob("*.hkeel"))


def test_computing_process_that_dies_is_started_again(window: MainWindow, qtbot: Any) -> None:
    os.kill(window.planner.worker.process.pid, signal.SIGKILL)
    window.planner.worker.process.wait()
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    page.change("strip wide", "strips", width=25.0)
    settle(qtbot, window)
    assert not window.state.problem
    assert len(window.state.planking.strips) == 37


def test_computing_process_that_dies_at_work_comes_back_by_itself(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("planking")
    page: Any = window.pages.of("planking")
    page.change("strip wide", "strips", width=25.0)
    os.kill(window.planner.worker.process.pid, signal.SIGKILL)
    settle(qtbot, window)
    assert not window.state.problem
    assert len(window.state.planking.strips) == 37


def test_newest_request_wins_and_work_can_be_stopped(window: MainWindow, qtbot: Any) -> None:
    page: Any = window.pages.of("planking")
    for width in (11.0, 12.0, 13.0, 30.0):
        page.state = window.state
        page.change("strip wide", "strips", width=width)
    settle(qtbot, window)
    assert window.state.planking.width == 30
    page.state = window.state
    page.change("strip wide", "strips", width=5.0)
    window.stop_work()
    assert "stopped" in window.state.problem
    window.session.undo()
    settle(qtbot, window)
    assert not window.state.problem


@pytest.mark.parametrize("skin", [6.0, None])
def test_what_is_undone_at_once_does_not_come_later(window: MainWindow, qtbot: Any, tmp_path: Path, skin: float | None) -> None:
    """Values on their way for a job that is gone again would take the place of those that are known, and nobody would ask anew."""
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    job = window.session.job
    other = change(job, "stock.saw", kerf=4.5) if skin is None else change(job, "molds", skin=skin)
    window.edit("other", other)
    window._ask()  # as it is after a moment
    window.session.undo()
    assert window.session.job == job
    qtbot.waitUntil(lambda: not window.planner._asked, timeout=60_000)
    qtbot.wait(300)
    assert window.state.answered(SHOWN)
    window.exporter.export(export_named("setup-csv"), tmp_path / "a.csv")
    assert (tmp_path / "a.csv").exists()


def test_measure_fit_and_zoom(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("molds")
    view: Any = window.pages.of("molds").view
    view.setFocus()
    before = view.transform().m11()
    QTest.keyClick(view, Qt.Key.Key_Plus)
    assert view.transform().m11() > before
    QTest.keyClick(view, Qt.Key.Key_F)
    assert view.transform().m11() == pytest.approx(before)
    QTest.keyClick(view, Qt.Key.Key_M)
    with qtbot.waitSignal(view.measured) as signal_:
        for x in (-100.0, 100.0):
            QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=view.mapFromScene(QPointF(x, -300.0)))
    assert signal_.args[0] == pytest.approx(200, abs=4)


def test_command_finder_finds(window: MainWindow) -> None:
    actions = [(k, a) for k, a in window.menus.actions.items()]
    finder = CommandFinder(actions, window)
    QTest.keyClicks(finder.line, "setting sheet")
    assert finder.list.count() == 1
    QTest.keyClick(finder.line, Qt.Key.Key_Return)
    assert finder.chosen is window.menus.actions["export-setup-pdf"]


def test_every_action_has_a_place_in_the_menus(window: MainWindow) -> None:
    for name, action in window.menus.actions.items():
        assert any(action in menu.actions() for menu in window.menus.menus.values()), name
    keys = [a.shortcut().toString() for a in window.menus.actions.values() if not a.shortcut().isEmpty()]
    assert len(keys) == len(set(keys))


def test_dark_theme_and_bow_to_the_right(window: MainWindow, qtbot: Any) -> None:
    window.set_theme("dark")
    assert window.state.theme is DARK
    window.menus.actions["bow-side"].trigger()
    assert window.keel_line.bow_right
    assert load_settings(window.folder).theme == "dark"
    QTest.keyClick(window.keel_line, Qt.Key.Key_Left)
    assert window.state.mold_number == 1


def test_copying_cells_and_the_large_number(window: MainWindow) -> None:
    window.go_to_page("setup")
    page: Any = window.pages.of("setup")
    page.table.selectRow(0)
    QTest.keyClick(page.table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QGuiApplication.clipboard().text().split("\t")[:3] == ["1", "500.0", "forward"]
    window.choose_mold(6)
    window.card.copy()
    assert QGuiApplication.clipboard().text() == "2900.0"


def test_colours_can_be_read() -> None:
    """Contrast of at least 4.5 to 1 (WCAG 2.1, relative luminance) for every text on its ground."""

    def luminance(name: str) -> float:
        parts = [int(name[k : k + 2], 16) / 255 for k in (1, 3, 5)]
        linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    for theme in (LIGHT, DARK):
        for text in (theme.ink, theme.second, theme.accent, theme.good, theme.bad, theme.water):
            for ground in (theme.ground, theme.paper):
                high, low = sorted((luminance(text), luminance(ground)), reverse=True)
                assert (high + 0.05) / (low + 0.05) >= 4.5, (text, ground)


def test_one_application_only(qapp: QApplication) -> None:
    assert make_application() is qapp


def test_open_job_file_given_at_the_start(qapp: QApplication, tmp_path: Path, qtbot: Any) -> None:
    path = tmp_path / "a.hkeel"
    save_job(linnet(), path)
    window = MainWindow(load_job(path), tmp_path / "s", path)
    assert "a.hkeel" in window.windowTitle()
    assert not window.session.changed
    window.close()


def as_long_and_wide(length: float, beam: float) -> Callable[[Job], bool]:
    """Whether a job's hull is so long and so wide, mm."""

    def check(job: Job) -> bool:
        measures = Pipeline().shape(job).measures
        return (measures.length, measures.beam) == pytest.approx((length, beam), abs=1.0)

    return check


def test_the_whole_table_is_changed_from_the_menu(window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    before = window.session.job
    for action, answer, check in (
        ("scale", {"Length": "1,1"}, lambda job: job.offsets.rows[-1].station > before.offsets.rows[-1].station + 400),
        ("scale", {"Length": "6 m", "Beam": "32 in"}, as_long_and_wide(6000.0, 812.8)),
        ("baseline", {"Lower it by": "100"}, lambda job: job.waterline == before.waterline + 100),
        ("restation", {"A station every": "600 mm"}, lambda job: len(job.offsets.rows) != len(before.offsets.rows)),
        ("turn", {}, lambda job: any(r.label == "stem_stern" for r in job.offsets.rows)),
    ):
        answering(monkeypatch, answer)
        window.menus.actions[action].trigger()
        settle(qtbot, window)
        assert check(window.session.job), action
        assert not window.state.problem, action
        window.session.undo()
        settle(qtbot, window)
        assert window.session.job == before
    for action, name in (("scale", "Beam"), ("baseline", "Lower it by"), ("restation", "A station every")):
        said = answering(monkeypatch, {name: "big"})
        window.menus.actions[action].trigger()
        assert window.session.job == before
        assert "big" in said[0]
        assert name in said[0]


def test_molds_are_laid_on_sheets_and_kept(window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    from hollow_keel.ui.pages.molds.sheets_dialog import SheetsDialog

    window.session.edit("halves", change(window.session.job, "molds", halves=True))
    settle(qtbot, window)

    def fill(dialog: SheetsDialog) -> int:
        dialog.decisions.decide("sheets.length")
        field = dialog.decisions.rows["sheets.length"].field
        assert field is not None
        QTest.keyClicks(field, "broad")
        QTest.keyClick(field, Qt.Key.Key_Return)
        assert "broad" in dialog.said.text()
        field.selectAll()
        QTest.keyClicks(field, "0")
        QTest.keyClick(field, Qt.Key.Key_Return)
        assert "no size for a sheet" in dialog.said.text()
        dialog.put("sheets.length", 300.0)
        assert dialog.sheets.length == 300.0
        dialog.start()
        qtbot.waitUntil(lambda: not dialog.running, timeout=30_000)
        assert "larger than a sheet" in dialog.said.text()
        (ring, _) = dialog.view.drawing.rings
        assert ring.value == 300.0
        dialog.put("sheets.length", 2440.0)
        dialog.start()
        qtbot.waitUntil(lambda: dialog.layout_now is not None, timeout=30_000)
        assert dialog.enough.isEnabled()
        dialog.enough.click()
        assert not dialog.running
        assert "24 parts" in dialog.said.text()
        dialog.keep.click()
        return dialog.result()

    monkeypatch.setattr(SheetsDialog, "exec", fill)
    MoldDialogs(window).sheets()
    layout = window.session.job.layout
    assert layout is not None
    assert len(layout.placed) == 24
    assert window.session.undo_label == "molds on sheets"
    window.session.edit("skin", change(window.session.job, "molds", skin=9.0))
    settle(qtbot, window)

    def look(dialog: SheetsDialog) -> int:
        assert dialog.stale
        assert "have changed" in dialog.said.text()
        assert not dialog.keep.isEnabled()
        dialog.reject()
        return dialog.result()

    monkeypatch.setattr(SheetsDialog, "exec", look)
    MoldDialogs(window).sheets()
    assert window.session.job.layout == layout


def test_a_printer_that_prints_small_is_told_of(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    said = answering(monkeypatch, {"It measures": "80"}, {"It measures": "98,5"})
    MoldDialogs(window).proof_bar()
    assert "at least 90 mm" in said[0]
    assert window.session.job.printing.proof_bar == 98.5
    window.session.undo()
    assert window.session.job.printing.proof_bar == 100.0


def test_a_wrong_face_is_said_on_the_molds_page(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("molds")
    window.session.edit("faces", change(window.session.job, "molds", faces="forward"))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: window.state.is_known(PROUD), timeout=30_000)
    assert "proud of the planking" in window.pages.of("molds").note.text()


def test_the_window_writes_the_template(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, warnings: list[str]
) -> None:
    target = tmp_path / "foil.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    said = answering(monkeypatch, {"Thickness": "290"}, {"Thickness": "b"}, {"Chord": "300", "Thickness": "36"})
    window.exporter.foil_template()
    assert "no foil" in said[0]
    assert "Thickness" in said[1]
    assert target.read_bytes().startswith(b"%PDF")


def test_an_export_waits_for_what_it_tells_of(window: MainWindow, tmp_path: Path, qtbot: Any) -> None:
    window.edit("wider strips", change(window.session.job, "strips", width=20.0))
    assert window.state.stale
    window.exporter.export(export_named("plan-json"), tmp_path / "plan.json")
    plan = json.loads((tmp_path / "plan.json").read_text(encoding="utf-8"))
    assert plan["strips"]["per_side"] == len(window.state.planking.strips) < 65
    assert plan["stock"]["pieces"], "the wood as well"
    window.stop_work()
    window.exporter.export(export_named("strips-csv"), tmp_path / "s.csv")
    assert (tmp_path / "s.csv").stat().st_size > 1000


def test_an_alarm_goes_when_it_works_again(window: MainWindow) -> None:
    window._give_up("The computing process ended twice at the lines.")
    assert "ended twice" in window.message.text()
    window._done()
    assert window.message.text() == "It is worked out again."
    window.say("Saved.")
    window._done()
    assert window.message.text() == "Saved."


def test_waiting_can_be_given_up(window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("hollow_keel.ui.window.window.wait_aside", lambda *_: False)
    window.exporter.export(export_named("plan-json"), tmp_path / "plan.json")
    assert not (tmp_path / "plan.json").exists()
    assert "Nothing was written" in window.message.text()


def test_every_page_fits_a_laptop(window: MainWindow, qtbot: Any) -> None:
    for strongback in ("beam", "table", "rails"):
        window.session.edit("on", change(window.session.job, "setup", strongback=strongback))
        settle(qtbot, window)
        for number, kind in enumerate(PAGES):
            window.go_to(number)
            QApplication.processEvents()
            least = window.minimumSizeHint()
            assert least.width() <= 1280, (kind.stage, strongback, least.width())
            assert least.height() <= 760, (kind.stage, strongback, least.height())


def test_no_menu_is_longer_than_the_window(window: MainWindow) -> None:
    for name, menu in window.menus.menus.items():
        assert menu.sizeHint().height() < 500, name
    assert window.menus.menus["Print › Wood"].actions()[0].text().startswith("Wood: what to buy")
    found = [a for a in window.menus.actions if a.startswith("export-")]
    assert len(found) == len(EXPORTS)


@pytest.fixture
def drawn(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The titles of all drawings made, as they are."""
    titles: list[str] = []
    own = DrawingView.show_drawing

    def show(view: DrawingView, drawing: Drawing, *rest: Any) -> None:
        titles.append(drawing.title)
        own(view, drawing, *rest)

    monkeypatch.setattr(DrawingView, "show_drawing", show)
    return titles


def test_what_an_edit_does_not_touch_is_neither_worked_out_nor_drawn(
    window: MainWindow, qtbot: Any, drawn: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    for number in range(len(PAGES)):
        window.go_to(number)
        QApplication.processEvents()
    asked: list[Job] = []
    monkeypatch.setattr(window.planner, "request", lambda job, _: asked.append(job))
    drawn.clear()
    rows = window.session.job.offsets.rows
    note = rows[3].model_copy(update={"notes": {"height": "measured twice"}})
    for number in range(len(PAGES)):
        window.go_to(number)
        QApplication.processEvents()
        drawn.clear()
        window.session.edit("a note", change(window.session.job, "", offsets=window.session.job.offsets.with_row(3, note)))
        QApplication.processEvents()
        window.session.undo()
        assert drawn == [], PAGES[number].stage
    window.go_to_page("offsets")
    drawn.clear()
    window.session.edit("currency", change(window.session.job, "stock.buying", currency="kr"))
    assert asked == []
    assert drawn == []
    assert not window.state.stale
    window.go_to_page("stock")
    assert "kr" in window.page.result.text() or "kr" in window.page.to_buy.model().headerData(6, Qt.Orientation.Horizontal)  # type: ignore[attr-defined]


def test_an_edit_draws_a_page_at_most_twice(window: MainWindow, qtbot: Any, drawn: list[str]) -> None:
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    window.go_to_page("molds")
    QApplication.processEvents()
    drawn.clear()
    window.session.edit("skin", change(window.session.job, "molds", skin=9.0))
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    assert 1 <= drawn.count("Mold 1") <= 2


def test_what_nobody_caught_is_told(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    written: list[type[BaseException]] = []
    monkeypatch.setattr(sys, "excepthook", lambda kind, *_: written.append(kind))
    tell_what_is_not_caught(window.say)
    sys.excepthook(InputError, InputError("a bay is too wide", value="\u27e8254\u27e9"), None)
    assert window.message.text() == window.sentence("a bay is too wide (it says “\u27e8254\u27e9”).")
    sys.excepthook(KeyError, KeyError("x"), None)
    assert "Help › Log files" in window.message.text()
    window.say("")
    aside = threading.Thread(target=lambda: sys.excepthook(KeyError, KeyError("y"), None))
    aside.start()
    aside.join()
    assert window.message.text() == "", "no other thread touches the window"
    assert written == [InputError, KeyError, KeyError]


def test_pages_of_a_flat_bottomed_skiff_are_drawn(window: MainWindow, qtbot: Any) -> None:
    """Her chine and her keel meet at the stem's foot: a panel that comes to a point there."""
    window.session.start(Job(offsets=skiff()))
    settle(qtbot, window)
    for number in range(len(PAGES)):
        window.go_to(number)
        settle(qtbot, window)


def test_a_page_that_cannot_be_drawn_is_blank_with_a_reason(
    window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settle(qtbot, window)
    page = window.page
    assert page._drawn is not None
    assert page._drawn.isVisible()

    def breaks() -> None:
        raise IndexError("a fault")

    with monkeypatch.context() as patch:
        patch.setattr(page, "refresh", breaks)
        with pytest.raises(IndexError):
            window._show(replace(window.state, job=change(window.state.job, "", name="Another")))
        assert not page._drawn.isVisible(), "what was seen is of another job"
        assert "cannot be drawn" in page.hint.text()
        assert page.hint.isVisible()
        with pytest.raises(IndexError):  # twice: what is hidden is not forgotten
            window._show(window.state)
    window._show(window.state)
    assert page._drawn.isVisible()
    assert not page.hint.isVisible()

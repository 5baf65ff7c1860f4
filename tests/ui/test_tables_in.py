"""Offsets into a blank job as a new user brings them: pasted, imported with a question, typed from nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QGuiApplication, QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QLineEdit

from hollow_keel.core.job import Job
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.offsets.typed_sheet import Ending
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.tables.grid import grid_of_text
from hollow_keel.files.tables.understood import Asked
from hollow_keel.files.tables.words import Meaning
from hollow_keel.ui.incoming.new_table import NewTableDialog
from hollow_keel.ui.incoming.table_in import TableInDialog
from hollow_keel.ui.pages.offsets.page import AS_TYPED, OffsetsPage
from hollow_keel.ui.window.menus import set_units
from hollow_keel.ui.window.status import status
from hollow_keel.ui.window.theme import LIGHT, apply_theme, load_fonts
from hollow_keel.ui.window.window import MainWindow
from tests.files import styles
from tests.ui.conftest import discard, settle
from tests.ui.hub import Hub

LINNET = linnet().offsets


@pytest.fixture
def blank(qapp: QApplication, tmp_path: Path, warnings: list[str], hub: Hub) -> Iterator[MainWindow]:
    load_fonts()
    apply_theme(qapp, LIGHT)
    made = MainWindow(Job(), tmp_path / "settings", None, hub.worker())
    made.show()
    yield made
    made.close()
    discard(made)


def answering(monkeypatch: pytest.MonkeyPatch, kind: type[QDialog], fill: Callable[[Any], None]) -> None:
    def run(dialog: Any) -> int:
        fill(dialog)
        return int(dialog.result())

    monkeypatch.setattr(kind, "exec", run)


def page(window: MainWindow) -> OffsetsPage:
    found = window.page
    assert isinstance(found, OffsetsPage)
    return found


def test_a_traditional_table_on_the_clipboard_is_a_planked_hull_in_three_actions(
    blank: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Copy, paste (the button of the blank page, or its keys), take: eleven stations, no headings of ours."""
    sections = [s for k, s in enumerate(ByLines(LINNET).sections()) if k not in (1, 3, 5)]
    assert len(sections) == 11
    QGuiApplication.clipboard().setText("All dimensions in mm\n" + styles.two_tables(sections))

    def fill(dialog: TableInDialog) -> None:
        assert dialog.take.isEnabled()
        assert "at 11 stations, nothing left out" in dialog.summary.text()
        assert len(dialog.view.drawing.strokes) > 11
        dialog.take.click()

    answering(monkeypatch, TableInDialog, fill)
    blank.command("paste-table")()
    settle(qtbot, blank)
    assert blank.state.planking is not None
    assert blank.state.shape is not None
    assert blank.state.shape.measures.length == pytest.approx(4800, abs=1)


def test_a_column_named_and_a_unit_said_in_the_preview(qapp: QApplication, qtbot: Any) -> None:
    from hollow_keel.files.tables.grid import grid_of_text

    rows = [
        [f"{r.station / 25.4:.4f}", f"{r.half_breadth / 25.4:.4f}", f"{r.height / 25.4:.4f}"]
        for r in LINNET.rows
        if r.label not in styles.ENDS
    ]
    grid = grid_of_text(styles.as_csv([["A", "B", "C"], *rows]))
    dialog = TableInDialog([grid], "a.csv", linnet().units.style, LIGHT)
    qtbot.addWidget(dialog)
    dialog.show()
    assert not dialog.take.isEnabled()
    assert dialog.found.questions[0].about is Asked.COLUMNS
    for k, meaning in enumerate((Meaning.STATION, Meaning.HEIGHT, Meaning.HALF_BREADTH)):
        dialog.name_column(k, meaning)
    dialog.name_column(1, Meaning.HALF_BREADTH)
    dialog.name_column(2, Meaning.HEIGHT)
    assert [q.about for q in dialog.found.questions] == [Asked.UNIT]
    dialog.answer(Asked.UNIT, "in")
    assert dialog.found.table is not None
    want = [r for r in LINNET.rows if r.label not in styles.ENDS]
    got = dialog.found.table.rows
    assert [r.label for r in got] == [r.label for r in want]
    assert all(abs(a.half_breadth - b.half_breadth) < 0.01 for a, b in zip(got, want, strict=True))
    dialog.measure_column(2, "mm")
    assert dialog.found.table.rows[0].height == pytest.approx(want[0].height / 25.4, abs=0.01)


def test_a_table_with_a_question_is_opened_with_its_answer(
    blank: MainWindow, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    head, *rows = styles.by_lines(ByLines(LINNET).sections())
    path = tmp_path / "skiff.txt"
    path.write_text(styles.as_csv([["Lines of the skiff"], ["", *head[1:]], *rows], "\t"))

    def fill(dialog: TableInDialog) -> None:
        ((question, box),) = dialog._asked
        assert question.about is Asked.UNIT
        box.setCurrentIndex(box.findData("mm"))
        box.activated.emit(box.currentIndex())
        dialog.take.click()

    answering(monkeypatch, TableInDialog, fill)
    blank.files.open_job(path)
    settle(qtbot, blank)
    assert blank.session.job.name == "skiff"
    assert len(blank.state.shape.lines.stations) >= 14
    blank.session.undo()
    assert not blank.session.job.offsets.rows


def test_pasting_what_is_no_table_says_so(blank: MainWindow, warnings: list[str]) -> None:
    QGuiApplication.clipboard().setText("see you at the yard")
    blank.command("paste-table")()
    assert "holds no table of offsets" in warnings[-1]


def type_into(qtbot: Any, own: OffsetsPage, row: int, column: int, text: str) -> None:
    """Keys to a cell, as a builder types over it, and Enter."""
    table, model = own.sheet_table, own.sheet_model
    table.setCurrentIndex(model.index(row, column))
    table.setFocus()
    QTest.keyClicks(table, text[0])
    qtbot.waitUntil(lambda: isinstance(QApplication.focusWidget(), QLineEdit), timeout=5_000)
    editor = QApplication.focusWidget()
    QTest.keyClicks(editor, text[1:])
    QTest.keyClick(editor, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: model.sheet.cell(row, column) == text and table.state() != table.State.EditingState, timeout=5_000)


def test_typed_from_nothing_by_keyboard(blank: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def fill(dialog: NewTableDialog) -> None:
        dialog.count.setValue(4)
        dialog.spacing.setText("a lot")
        assert "Spacing" in dialog.problem.text()
        assert dialog.sheet is None
        dialog.spacing.setText("0.5 m")
        dialog.waterlines.setText("150")
        for box in (dialog.bow, dialog.stern):
            box.setCurrentIndex(box.findData(Ending.OPEN))
            box.activated.emit(box.currentIndex())
        dialog.accept()

    answering(monkeypatch, NewTableDialog, fill)
    blank.command("type-table")()
    own = page(blank)
    assert own._tables.currentIndex() == AS_TYPED
    assert "the hull appears" in own.note.text()
    names = [row[0] if row else "" for row in own.sheet_model.sheet.cells]
    assert names == ["Station (mm)", "Heights", "Sheer", "Keel", "Half-breadths", "Sheer", "Waterline 150", "Keel"]
    for column in range(1, 5):
        for row, text in ((2, "420"), (3, "20"), (5, "310"), (6, "200"), (7, "12")):
            type_into(qtbot, own, row, column, text)
        assert bool(blank.session.job.offsets.rows) == (column > 2), "a hull with the third station, and no fault before it"
    settle(qtbot, blank)
    assert blank.state.shape is not None
    assert blank.state.shape.measures.length == pytest.approx(1500)
    type_into(qtbot, own, 6, 2, "wide")
    assert "cannot be read" in own.note.text(), "one bad cell is one bad cell"
    assert own.sheet_model.sheet.cell(6, 2) == "wide"
    assert len(blank.session.job.offsets.rows) == 11
    blank.session.undo()
    assert len(blank.session.job.offsets.rows) == 12
    own._finish_typing()
    assert blank.session.job.typed is None
    assert own._tables.currentIndex() != AS_TYPED
    assert len(blank.session.job.offsets.rows) == 12


def waiting_keys(window: MainWindow, text: str) -> None:
    """Keys that wait for the window, as after a moment when it was busy: each goes to what has the focus by then."""
    handle = window.windowHandle()
    for c in text:
        key = Qt.Key.Key_Return if c == "\n" else Qt.Key(ord(c.upper()))
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            QApplication.postEvent(handle, QKeyEvent(kind, key, Qt.KeyboardModifier.NoModifier, "\r" if c == "\n" else c))


def test_a_hundred_cells_typed_without_looking_come_out_as_typed(
    blank: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Nothing is clicked: the focus is in the first cell, Enter goes down the offsets past headings and on to the next station;
    keys come faster than the window can look at them, and the hull is worked out meanwhile."""

    def fill(dialog: NewTableDialog) -> None:
        dialog.waterlines.setText("100 to 600 every 100")
        dialog.accept()

    answering(monkeypatch, NewTableDialog, fill)
    blank.command("type-table")()
    own = page(blank)
    qtbot.waitUntil(own.sheet_table.hasFocus)
    assert (own.sheet_table.currentIndex().row(), own.sheet_table.currentIndex().column()) == (2, 1)
    assert own.drawer_height > 12 * 24, "more rows than five"
    columns = [
        [str(700 - 7 * k), str(100 + 9 * k), str(300 + k), *(str(300 - 20 * j + k) for j in range(6)), "12"] for k in range(10)
    ]
    keys = "".join(f"{text}\n" for column in columns for text in column)
    assert len([c for c in keys if c == "\n"]) == 100
    waiting_keys(blank, keys)
    QApplication.processEvents()
    rows = [2, 3, 5, 6, 7, 8, 9, 10, 11, 12]
    sheet = own.sheet_model.sheet
    assert [sheet.cell(1, 0), sheet.cell(4, 0)] == ["Heights", "Half-breadths"]
    assert [[sheet.cell(row, k + 1) for row in rows] for k in range(10)] == columns
    assert (own.sheet_table.currentIndex().row(), own.sheet_table.currentIndex().column()) == (2, 11)
    assert blank.session.job.typed == sheet
    settle(qtbot, blank)
    assert blank.state.shape is not None
    assert blank.state.shape.measures.length == pytest.approx(4500)


def test_the_drawing_grows_with_the_cells_and_stations_and_names_stay_in_view(
    blank: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    answering(monkeypatch, NewTableDialog, lambda dialog: dialog.accept())
    blank.command("type-table")()
    own = page(blank)
    assert not own.profile_view.drawing.strokes
    own.sheet_model.write([(2, 1, "700")], "the first cell")
    qtbot.waitUntil(lambda: len(own.profile_view.drawing.strokes) == 1)
    own.sheet_model.write([(3, 1, "100"), (5, 1, "300"), (6, 1, "12")], "the first station")
    qtbot.waitUntil(lambda: len(own.body_view.drawing.strokes) > 2)
    assert not blank.session.job.offsets.rows
    assert status(blank.state, "offsets")[0] == "empty", "nothing is wrong yet"
    across, down = Qt.Orientation.Horizontal, Qt.Orientation.Vertical
    model = own.sheet_model
    assert (model.headerData(2, across), model.headerData(2, down)) == ("C", "3")
    own.sheet_table.scrollTo(model.index(model.rowCount() - 1, model.columnCount() - 1))
    assert (model.headerData(2, across), model.headerData(2, down)) == ("500", "Sheer")
    own.sheet_table.scrollToTop()
    assert model.headerData(2, across) == "C"
    at = own.sheet_table.currentIndex()
    own.sheet_model.write([(30, 20, "12")], "a cell beyond the sheet")
    assert own.sheet_table.currentIndex() == at, "the next key goes where it would have gone"


def test_a_new_sheet_is_asked_for_its_unit_and_follows_it(blank: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    def fill(dialog: NewTableDialog) -> None:
        assert dialog.spacing.text() == "500"
        dialog.unit.setCurrentIndex(dialog.unit.findData(LengthUnit.INCH_FRACTION))
        dialog.unit.activated.emit(dialog.unit.currentIndex())
        assert dialog.spacing.text() == "24"
        dialog.waterlines.setText("4 to 12 every 4")
        dialog.accept()

    answering(monkeypatch, NewTableDialog, fill)
    blank.command("type-table")()
    job = blank.session.job
    assert job.typed is not None
    assert job.typed.cells[0][:3] == ("Station (in)", "0", "24")
    assert job.units.unit is LengthUnit.INCH_FRACTION, "and so is the tape of a blank job"
    assert job.strips.width == pytest.approx(19.05)
    assert [row[0] for row in job.typed.cells if row and row[0].startswith("Waterline")] == [
        "Waterline 12",
        "Waterline 8",
        "Waterline 4",
    ]
    set_units(blank, LengthStyle())
    typed = blank.session.job.typed
    assert typed is not None
    assert typed.cells[0][:3] == ("Station (mm)", "0", "609.6")
    blank.session.undo()
    blank.session.undo()
    assert blank.session.job == Job(), "one step each"


def test_what_was_typed_is_in_the_file(blank: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    answering(monkeypatch, NewTableDialog, lambda dialog: dialog.accept())
    blank.command("type-table")()
    page(blank).sheet_model.setData(page(blank).sheet_model.index(2, 1), "to be asked")
    blank.session.save(tmp_path / "half.hkeel")
    blank.session.start(Job())
    blank.session.open(tmp_path / "half.hkeel")
    assert blank.session.job.typed is not None
    assert blank.session.job.typed.cell(2, 1) == "to be asked"
    assert page(blank)._tables.currentIndex() == AS_TYPED


def test_a_slip_of_a_whole_station_is_tried_with_a_button(window: MainWindow, qtbot: Any) -> None:
    from tests.core.fairing.test_table_slips import all_exchanged

    window.go_to_page("offsets")
    own = page(window)
    assert not own.note.remarks
    sound = window.session.job.offsets
    window.session.edit("a slip", window.session.job.model_copy(update={"offsets": all_exchanged(sound)}))
    qtbot.waitUntil(lambda: any(r.mend for r in own.note.remarks), timeout=30_000)
    (number,) = (k for k, r in enumerate(own.note.remarks) if r.mend)
    assert "Exchange them" in own.note.remarks[number].mend
    assert "look exchanged" in own.note.text()
    own.note.mended.emit(number)
    qtbot.waitUntil(lambda: not window.state.stale, timeout=30_000)
    own.note.answered.emit(True)
    got, want = window.session.job.offsets.rows, sound.rows
    assert all((a.half_breadth, a.height) == (b.half_breadth, b.height) for a, b in zip(got, want, strict=True))
    qtbot.waitUntil(lambda: not own.note.remarks, timeout=30_000)
    window.session.undo()
    assert window.session.job.offsets.rows != want


def test_what_is_copied_out_carries_its_headings_and_comes_back(window: MainWindow) -> None:
    from hollow_keel.files.tables.grid import grid_of_text
    from hollow_keel.files.tables.reading import understand

    window.go_to_page("offsets")
    own = page(window)
    for habit, table in ((0, own.table), (1, own.lines_table)):
        own.show_habit(habit)
        table.selectAll()
        table.copy()
        text = QGuiApplication.clipboard().text()
        found = understand([grid_of_text(text)])
        assert found.table is not None, text[:200]
        assert not found.left_out
        want = [r for r in LINNET.rows if habit == 0 or r.label in ("keel", "sheer")]
        got = found.table.rows if habit == 0 else [r for r in found.table.rows if r.label in ("keel", "sheer")]
        assert [(r.label, r.half_breadth, r.height) for r in got] == [
            (r.label, r.half_breadth, r.height) for r in want if habit == 0 or r.label in ("keel", "sheer")
        ]
        table.setCurrentIndex(table.model().index(0, 0))
        before = window.session.job.offsets.figures
        table.paste()
        assert window.session.job.offsets.figures == before, "pasted where it came from, it changes nothing"


def test_which_side_of_the_planking_offsets_are_to_is_said_before_they_are_taken(qapp: QApplication) -> None:
    """A table that says it is believed; one that does not is to the outside, until the builder says otherwise."""
    text = styles.two_tables(ByLines(LINNET).sections())
    told = TableInDialog([grid_of_text("Offsets to inside of planking, mm\n" + text)], "x", LengthStyle(), LIGHT)
    assert told.side.currentText() == "to the inside of the planking"
    dialog = TableInDialog([grid_of_text("All dimensions in mm\n" + text)], "x", LengthStyle(), LIGHT)
    assert dialog.side.currentText() == "to the outside of the planking"
    dialog.answer(Asked.SIDE, "inside")
    assert dialog.found.table is not None
    assert dialog.found.table.to_inside
    assert dialog.side.currentIndex() == 1

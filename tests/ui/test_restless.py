"""Restless hands: whatever is pressed, chosen, typed or dragged, in whatever order, nothing but clear messages comes of it.

Errors in slots and unexpected Qt messages fail a test by themselves (pytest-qt).
"""

from __future__ import annotations

import random
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAction
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QDialog,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QMessageBox,
    QTabBar,
    QTableView,
    QToolButton,
    QWidget,
)

from hollow_keel.core.job import Job
from hollow_keel.demo.jobs import demo_job
from hollow_keel.ui.decide import on_drawing, panel
from hollow_keel.ui.decide.in_place import choices_of
from hollow_keel.ui.views.drawing_view import DrawingView
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import drag_ring

TYPED = (
    "",
    "0",
    "-1",
    "1",
    "12",
    "3.5",
    "1/2",
    "2-3-4+",
    "5 ft 3 in",
    "nan",
    "oak",
    "1e9",
    "42 1/2 + 3/4",
    "600 mm",
    "18 mm",
    "∞",
    "1x6",
    "25",
)
KEYS = (
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Return,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Insert,
    Qt.Key.Key_Escape,
    Qt.Key.Key_Plus,
    Qt.Key.Key_Minus,
    Qt.Key.Key_0,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
)
STEPS = 100
FAR_PIXELS = 1e5
"""No hand reaches farther."""
LEFT_ALONE = ("Quit", "Open", "Close")


class Hands:
    """Pokes at whatever can be seen; every choice comes from one seed."""

    def __init__(self, seed: int) -> None:
        self.random = random.Random(seed)
        self.done: list[str] = []

    def poke(self, root: QWidget) -> None:
        """Do something to one thing that is on show."""
        acts: dict[type, Callable[[Any], None]] = {
            QAbstractButton: self._press,
            QComboBox: self._choose,
            QLineEdit: self._type,
            QTableView: self._in_table,
            QAbstractSpinBox: lambda box: box.stepBy(self.random.choice((-5, -1, 1, 20))),
            QTabBar: lambda bar: bar.setCurrentIndex(self.random.randrange(max(bar.count(), 1))),
            DrawingView: self._drag,
        }
        shown = [(w, act) for kind, act in acts.items() for w in root.findChildren(kind) if w.isVisible() and w.isEnabled()]
        if shown:
            widget, act = self.random.choice(shown)
            self.done.append(f"{type(widget).__name__} {widget.accessibleName()}")
            act(widget)

    def trigger(self, root: QWidget) -> None:
        """Choose one thing from the menus."""
        acts = [
            a
            for a in root.findChildren(QAction)
            if a.isEnabled() and a.text() and not a.menu() and not a.text().startswith(LEFT_ALONE)
        ]
        action = self.random.choice(acts)
        self.done.append(action.text())
        action.trigger()

    def answer(self, dialog: QDialog) -> int:
        """Fill in some of a dialog, then leave it one way or the other."""
        for _ in range(4):
            fields = [f for f in dialog.findChildren(QLineEdit) if f.isEnabled() and not f.isReadOnly()]
            if fields:
                self._type(self.random.choice(fields))
            boxes = dialog.findChildren(QComboBox)
            if boxes:
                self._choose(self.random.choice(boxes))
        dialog.accept() if self.random.random() < 0.6 else dialog.reject()
        if dialog.result() != QDialog.DialogCode.Accepted:
            dialog.reject()
        return dialog.result()

    def _press(self, button: QAbstractButton) -> None:
        if not (isinstance(button, QToolButton) and button.menu()):
            button.click()

    def _choose(self, box: QComboBox) -> None:
        if box.count():
            at = self.random.randrange(box.count())
            box.setCurrentIndex(at)
            box.activated.emit(at)

    def _type(self, field: QLineEdit) -> None:
        if not field.isReadOnly():
            field.selectAll()
            field.insert(self.random.choice(TYPED))
            QTest.keyClick(field, self.random.choice((Qt.Key.Key_Return, Qt.Key.Key_Tab, Qt.Key.Key_Escape)))

    def _in_table(self, table: QTableView) -> None:
        model = table.model()
        if not model.rowCount() or not model.columnCount():
            return
        row, column = self.random.randrange(model.rowCount()), self.random.randrange(model.columnCount())
        table.setCurrentIndex(model.index(row, column))
        place = model.index(row, column)  # the table may be another one now
        if place.isValid() and place.flags() & Qt.ItemFlag.ItemIsEditable and self.random.random() < 0.7:
            model.setData(place, self.random.choice(TYPED), Qt.ItemDataRole.EditRole)
        else:
            QTest.keyClick(table, self.random.choice(KEYS))

    def _drag(self, view: DrawingView) -> None:
        start, end = (QPoint(self.random.randrange(view.width() + 1), self.random.randrange(view.height() + 1)) for _ in range(2))
        QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
        QTest.mouseMove(view, end)
        rings = [ring for ring in view.drawing.rings if max(map(abs, view.frame.point(ring.at))) < FAR_PIXELS]
        if rings and self.random.random() < 0.5:
            drag_ring(view, self.random.choice(rings), self.random.uniform(-300, 300), self.random.uniform(-300, 300))
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
        QTest.keyClick(view, self.random.choice(KEYS))


def with_answers(hands: Hands, folder: Path, patch: pytest.MonkeyPatch) -> None:
    """Whatever is asked is answered by restless hands."""

    def answered(dialog: QDialog) -> int:
        return hands.answer(dialog)

    patch.setattr(QDialog, "exec", answered)
    patch.setattr(QInputDialog, "getText", lambda *_, **__: (hands.random.choice(TYPED), True))
    patch.setattr(QInputDialog, "getDouble", lambda *_, **__: (hands.random.uniform(92, 108), True))
    patch.setattr(QInputDialog, "getInt", lambda *_, **__: (1, True))
    patch.setattr(QMessageBox, "information", lambda *_: QMessageBox.StandardButton.Ok)
    patch.setattr(QFileDialog, "getOpenFileName", lambda *_, **__: ("", ""))
    patch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: (str(folder / "out"), ""))
    patch.setattr(QFileDialog, "getExistingDirectory", lambda *_, **__: "")
    for module in (panel, on_drawing):
        patch.setattr(module, "choose", lambda record, value, *_: hands.random.choice([value, *choices_of(record)]))


def do_something(hands: Hands, window: MainWindow) -> None:
    """One thing that a hand may do."""
    chance = hands.random.random()
    if chance < 0.15:
        window.go_to(hands.random.randrange(len(window.pages)))
    elif chance < 0.25:
        hands.trigger(window)
    elif chance < 0.32:
        window.session.undo()
    else:
        hands.poke(window)
    QApplication.processEvents()


@pytest.mark.parametrize(("name", "seed"), [("linnet", 1), ("pipit", 2), ("blank", 3)])
def test_restless_hands(
    name: str, seed: int, window: MainWindow, warnings: list[str], tmp_path: Path, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    hands = Hands(seed)
    with_answers(hands, tmp_path, monkeypatch)
    window.session.start(Job() if name == "blank" else demo_job(name))
    try:
        for _ in range(STEPS):
            do_something(hands, window)
        qtbot.waitUntil(lambda: bool(window.state.problem) or not window.state.stale, timeout=60_000)
    except BaseException:
        print("done before:", *hands.done[-12:], sep="\n  ")
        raise
    assert all(text.strip() and "Traceback" not in text for text in warnings)
    assert window.session.job == Job.model_validate_json(window.session.job.model_dump_json())

"""The real window with the demo job, and message boxes that answer by themselves."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QGuiApplication, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QMessageBox, QWidget

from hollow_keel.core.job import Job
from hollow_keel.ui.decide.ask import AskDialog
from hollow_keel.ui.window.theme import LIGHT, apply_theme, load_fonts
from hollow_keel.ui.window.window import MainWindow
from tests.shapes import bare_linnet
from tests.ui.hub import Hub


@pytest.fixture
def warnings(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """What message boxes would have said; questions are answered Discard."""
    said: list[str] = []

    def box(*arguments: Any) -> QMessageBox.StandardButton:
        said.append(str(arguments[2]))
        return QMessageBox.StandardButton.Discard

    monkeypatch.setattr(QMessageBox, "warning", box)
    monkeypatch.setattr(QMessageBox, "question", box)
    return said


@pytest.fixture(scope="session")
def hub() -> Iterator[Hub]:
    made = Hub()
    yield made
    made.close()


@pytest.fixture
def window(qapp: QApplication, qtbot: Any, tmp_path: Path, warnings: list[str], hub: Hub) -> Iterator[MainWindow]:
    load_fonts()
    apply_theme(qapp, LIGHT)
    made = MainWindow(bare_linnet(), tmp_path / "settings", None, hub.worker())
    made.show()
    settle(qtbot, made)
    yield made
    made.close()
    discard(made)


def answering(monkeypatch: pytest.MonkeyPatch, *answers: Mapping[str, Any]) -> list[str]:
    """What is asked for next is answered with texts by name (choices with their value), one answer after the other until one is
    taken; faults that were said are collected."""
    said: list[str] = []

    def exec_(dialog: AskDialog) -> int:
        for answer in answers:
            for name, text in answer.items():
                box = dialog.fields[name]
                if isinstance(box, QComboBox):
                    box.setCurrentIndex(box.findData(text))
                else:
                    box.setText(text)
            dialog.accept()
            if dialog.result():
                return 1
            said.append(dialog.fault.text())
        return 0

    monkeypatch.setattr(AskDialog, "exec", exec_)
    return said


def drag_ring(view: Any, ring: Any, right: float, up: float) -> None:
    """Drag a ring of a drawing by so many of the drawing's own lengths, with the mouse."""
    x, y = view.frame.point(ring.at)
    to_x, to_y = view.frame.point((ring.at[0] + right, ring.at[1] + up))
    port = view.viewport()
    QTest.mousePress(port, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    for share in (0.5, 1.0):
        at = QPointF(x + share * (to_x - x), y + share * (to_y - y))
        event = QMouseEvent(
            QEvent.Type.MouseMove,
            at,
            port.mapToGlobal(at),
            Qt.MouseButton.NoButton,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(port, event)
    QTest.mouseRelease(port, Qt.MouseButton.LeftButton, pos=QPoint(round(to_x), round(to_y)))


def discard(widget: QWidget) -> None:
    """Delete a widget now: every one left alive is styled anew for each window that follows."""
    widget.deleteLater()
    QApplication.sendPostedEvents(widget, QEvent.Type.DeferredDelete.value)


def settle(qtbot: Any, window: MainWindow) -> None:
    qtbot.waitUntil(
        lambda: not window.state.stale and (window.state.planking is not None or bool(window.state.problem)), timeout=30_000
    )


def paste_offsets(window: MainWindow, job: Job, monkeypatch: pytest.MonkeyPatch) -> None:
    """A blank job, and another's table of offsets pasted into it from the clipboard as a spreadsheet puts it there."""
    from hollow_keel.ui.incoming.table_in import TableInDialog

    lines = ["Station mm\tPoint\tHalf-breadth mm\tHeight mm"]
    for r in job.offsets.rows:
        lines.append(f"{r.station:g}\t{r.label.replace('_', ' ')}\t{r.half_breadth:g}\t{r.height:g}")
    window.session.start(Job())
    QGuiApplication.clipboard().setText("\n".join(lines))

    def take(dialog: TableInDialog) -> int:
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(TableInDialog, "exec", take)
    window.command("paste-table")()

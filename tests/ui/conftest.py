"""The real window with the demo job, and message boxes that answer by themselves."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QApplication, QMessageBox, QWidget

from hollow_keel.demo.jobs import linnet
from hollow_keel.ui.theme import LIGHT, apply_theme, load_fonts
from hollow_keel.ui.window import MainWindow


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


@pytest.fixture
def window(qapp: QApplication, qtbot: Any, tmp_path: Path, warnings: list[str]) -> Iterator[MainWindow]:
    load_fonts()
    apply_theme(qapp, LIGHT)
    made = MainWindow(linnet(), tmp_path / "settings")
    made.show()
    settle(qtbot, made)
    yield made
    made.close()
    discard(made)


def discard(widget: QWidget) -> None:
    """Delete a widget now: every one left alive is styled anew for each window that follows."""
    widget.deleteLater()
    QApplication.sendPostedEvents(widget, QEvent.Type.DeferredDelete.value)


def settle(qtbot: Any, window: MainWindow) -> None:
    qtbot.waitUntil(
        lambda: not window.state.stale and (window.state.planking is not None or bool(window.state.problem)),
        timeout=30_000,
    )

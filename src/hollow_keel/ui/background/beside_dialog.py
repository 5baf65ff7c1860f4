"""A dialog over work that runs in a process of its own: ever better answers, a bar, and an end whenever the builder likes."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from PySide6.QtCore import QTimer
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QProgressBar, QPushButton, QWidget

from ...app.processes.beside import Beside
from ...core.units import LengthStyle
from ..views.sentences import sentence

POLL_MS = 100


class BesideDialog(QDialog):
    """Begins and ends the work and takes what it sends; what is sent and shown is each dialog's own."""

    def __init__(self, style: LengthStyle, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.style_of_lengths = style
        self._run: Beside | None = None
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self._poll)

    def foot_with(self, buttons: Iterable[QPushButton]) -> QHBoxLayout:
        """The foot of the dialog: the bar, and buttons beside it."""
        foot = QHBoxLayout()
        foot.addWidget(self.bar, 1)
        for button in buttons:
            foot.addWidget(button)
        return foot

    @property
    def running(self) -> bool:
        """Whether the work is under way."""
        return self._run is not None

    def begin_work(self, run: Beside) -> None:
        """Take what this work sends from now on."""
        self.stop()
        self._run = run
        self._timer.start()
        self.show_now()

    def stop(self) -> None:
        """Enough: what has come stays."""
        self._timer.stop()
        if self._run is not None:
            self._run.stop()
            self._run = None
            self.show_now()

    def _poll(self) -> None:
        for kind, value in self._run.poll() if self._run is not None else ():
            if kind == "progress":
                self.bar.setValue(round(100 * value))
            elif kind in ("done", "failed"):
                self.stop()
                if kind == "failed":
                    self.said.setText(sentence(str(value), self.style_of_lengths))
                else:
                    self.work_done()
                return
            else:
                self.take(value)
                self.show_now()

    def take(self, value: Any) -> None:
        """Something that the work has found."""
        raise NotImplementedError

    def work_done(self) -> None:
        """The work has come to its end by itself."""

    def show_now(self) -> None:
        """Show what there is."""
        raise NotImplementedError

    def closeEvent(self, event: QCloseEvent) -> None:
        self.stop()
        super().closeEvent(event)

    def done(self, result: int) -> None:
        self.stop()
        super().done(result)

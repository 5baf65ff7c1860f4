"""Earlier states of a job in a list, each with what changed: one is taken, or thrown away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QListWidget, QPlainTextEdit, QPushButton, QVBoxLayout, QWidget

MOST_LINES = 200
MINUTE, HOUR, DAY = 60.0, 3600.0, 86400.0


@dataclass(frozen=True)
class Earlier:
    """A state of a job: what it is called in the list, what is said of it, a line for each change."""

    title: str
    said: str
    changes: tuple[str, ...]


class EarlierDialog(QDialog):
    """`chosen` is the number of the state that is asked for, `throw` whether it is to be thrown away; None: nothing is."""

    def __init__(
        self, title: str, intro: str, states: Sequence[Earlier], take: str, throw: str = "", parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.states = list(states)
        self.chosen: int | None = None
        self.throw = False
        told = QLabel(intro)
        told.setWordWrap(True)
        self.list = QListWidget()
        self.list.setAccessibleName(title)
        self.list.addItems([state.title for state in self.states])
        self.list.currentRowChanged.connect(self._show)
        self.list.itemActivated.connect(lambda _: self._done(throw=False))
        self.changes = QPlainTextEdit()
        self.changes.setReadOnly(True)
        self.changes.setAccessibleName("What changed")
        both = QHBoxLayout()
        both.addWidget(self.list, 2)
        both.addWidget(self.changes, 3)
        foot = QHBoxLayout()
        self.take_button, self.throw_button, leave = (QPushButton(take), QPushButton(throw), QPushButton("Not now"))
        self.take_button.clicked.connect(lambda: self._done(throw=False))
        self.throw_button.clicked.connect(lambda: self._done(throw=True))
        self.throw_button.setVisible(bool(throw))
        leave.clicked.connect(self.reject)
        foot.addWidget(self.throw_button)
        foot.addStretch(1)
        foot.addWidget(leave)
        foot.addWidget(self.take_button)
        self.take_button.setDefault(True)
        layout = QVBoxLayout(self)
        layout.addWidget(told)
        layout.addLayout(both, 1)
        layout.addLayout(foot)
        self.resize(860, 440)
        self.list.setCurrentRow(0)
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)

    def _show(self, row: int) -> None:
        if not 0 <= row < len(self.states):
            return
        state = self.states[row]
        lines = list(state.changes[:MOST_LINES])
        if len(state.changes) > MOST_LINES:
            lines.append(f"… and {len(state.changes) - MOST_LINES} more")
        self.changes.setPlainText("\n".join([*([state.said, ""] if state.said else []), *lines]))

    def _done(self, *, throw: bool) -> None:
        self.chosen, self.throw = self.list.currentRow(), throw
        self.accept()


def when_told(when: datetime, now: datetime) -> str:
    """A moment as it is said: its day and time, and how long ago."""
    seconds = (now - when).total_seconds()
    if seconds < 0:
        ago = "by a clock that was ahead"
    elif seconds < MINUTE:
        ago = "just now"
    elif seconds < HOUR:
        ago = f"{round(seconds / MINUTE)} min ago"
    elif seconds < DAY:
        ago = f"{round(seconds / HOUR)} h ago"
    else:
        days = round(seconds / DAY)
        ago = "a day ago" if days == 1 else f"{days} days ago"
    return f"{when:%Y-%m-%d %H:%M}, {ago}"

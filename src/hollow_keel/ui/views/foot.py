"""The foot of a page: what wants looking at, a line each with the way there and its mend; and the way to the table."""

from __future__ import annotations

import html
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from PySide6.QtCore import QPoint, QRect, Qt, Signal
from PySide6.QtGui import QFontMetrics, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QSizePolicy, QToolTip, QVBoxLayout, QWidget

MOST_LINES = 2
READ_MS = 30_000
"""All of a remark may be read for so long."""
MENU_LETTERS = 120


@dataclass(frozen=True)
class Remark:
    """One line: its words, what its button says (empty: it has no mend), and the mark before it."""

    text: str
    mend: str = ""
    mark: str = "▲"

    @property
    def line(self) -> str:
        """As it is shown."""
        return f"{self.mark} {self.text}"


def wrapped(text: str) -> str:
    """A text that a tip breaks into lines."""
    return f"<p>{html.escape(text)}</p>"


def shortened(text: str) -> str:
    """As much of a text as a menu has room for."""
    return text if len(text) <= MENU_LETTERS else text[:MENU_LETTERS].rsplit(" ", 1)[0] + "…"


class RemarkLine(QPushButton):
    """A line of text that is clicked; as much of it as there is room for, all of it when pointed at."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("remark")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.whole = ""

    def say(self, text: str) -> None:
        """Another text."""
        self.whole = text
        self.setToolTip(wrapped(text))
        self.setAccessibleName(text)
        self._fit()

    @property
    def cut(self) -> bool:
        """Whether there is no room for all of it."""
        return self.text() != self.whole

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        room = max(self.width() - 8, 20)
        self.setText(QFontMetrics(self.font()).elidedText(self.whole, Qt.TextElideMode.ElideRight, room))


class Foot(QWidget):
    """`chosen` carries the number of the remark that was clicked, `mended` of the one whose mend was."""

    chosen = Signal(int)
    mended = Signal(int)
    answered = Signal(bool)
    """Whether what is being tried is kept."""

    def __init__(self) -> None:
        super().__init__()
        self.remarks: list[Remark] = []
        self.lines: list[tuple[RemarkLine, QPushButton]] = []
        said = QWidget()
        said.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.column = QVBoxLayout(said)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(0)
        for k in range(MOST_LINES):
            self._add(k)
        self._add_trial()
        self.more = QPushButton()
        self.more.setObjectName("remark")
        self.more.setMenu(QMenu(self.more))
        self.more.menu().aboutToShow.connect(self._list)
        self.hint = QLabel()
        self.hint.setObjectName("small")
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(12, 0, 12, 8)
        self.row.addWidget(said, 1, Qt.AlignmentFlag.AlignBottom)
        self.row.addWidget(self.more, 0, Qt.AlignmentFlag.AlignBottom)
        self.row.addWidget(self.hint, 0, Qt.AlignmentFlag.AlignBottom)
        self.say([])

    def _add(self, k: int) -> None:
        line, mend = RemarkLine(), QPushButton()
        mend.setObjectName("mend")
        line.clicked.connect(lambda: self._choose(k))
        mend.clicked.connect(lambda: self.mended.emit(k))
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(line, 1)
        row.addWidget(mend)
        self.column.addLayout(row)
        self.lines.append((line, mend))

    def _add_trial(self) -> None:
        self.trial = QWidget()
        self.trying = QLabel()
        self.trying.setObjectName("trying")
        keep, drop = QPushButton("Keep it"), QPushButton("Give it up")
        for button, answer in ((keep, True), (drop, False)):
            button.setObjectName("mend")
            button.clicked.connect(lambda _=False, answer=answer: self.answered.emit(answer))
        row = QHBoxLayout(self.trial)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.trying)
        row.addWidget(keep)
        row.addWidget(drop)
        row.addStretch(1)
        self.column.addWidget(self.trial)
        self.trial.setVisible(False)

    def say_trial(self, text: str) -> None:
        """What is being tried, with a button to keep it and one to give it up; nothing: none is."""
        self.trying.setText(text)
        self.trial.setVisible(bool(text))
        if text:
            for line, mend in self.lines:
                line.setVisible(False)
                mend.setVisible(False)
            self.more.setVisible(False)

    def say(self, remarks: Sequence[Remark]) -> None:
        """What wants looking at."""
        self.remarks = list(remarks)
        for k, (line, mend) in enumerate(self.lines):
            seen = k < len(self.remarks)
            line.setVisible(seen)
            mend.setVisible(seen and bool(self.remarks[k].mend))
            if seen:
                line.say(self.remarks[k].line)
                mend.setText(self.remarks[k].mend)
        left = len(self.remarks) - MOST_LINES
        self.more.setVisible(left > 0)
        self.more.setText(f"and {left} more")

    def _choose(self, k: int) -> None:
        """Go to what a remark is about; where there is no room for all of it, all of it is read over the page."""
        self.chosen.emit(k)
        line = self.lines[min(k, MOST_LINES - 1)][0]
        if k < len(self.remarks) and (k >= MOST_LINES or line.cut):
            QToolTip.showText(line.mapToGlobal(QPoint(0, 0)), wrapped(self.remarks[k].line), line, QRect(), READ_MS)

    def _list(self) -> None:
        menu = self.more.menu()
        menu.clear()
        menu.setToolTipsVisible(True)
        for k in range(MOST_LINES, len(self.remarks)):
            remark = self.remarks[k]
            action = menu.addAction(shortened(remark.line), partial(self._choose, k))
            action.setToolTip(wrapped(remark.line))
            if remark.mend:
                menu.addAction(f"      {remark.mend}", partial(self.mended.emit, k))

    def text(self) -> str:
        """All that is said, a line each."""
        return "\n".join(remark.line for remark in self.remarks)

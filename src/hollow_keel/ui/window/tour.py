"""The short tour: shown in the window itself, on the builder's own job, a place at a time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

if TYPE_CHECKING:
    from .shell import Shell

WIDE, AWAY = 330, 14


@dataclass(frozen=True)
class Stop:
    """One place: the page it is on (empty: whichever is open), which widget, and what is said of it."""

    page: str
    where: Callable[[Shell], QWidget]
    heading: str
    text: str


STOPS = (
    Stop(
        "",
        lambda s: s.place("order"),
        "The work, in order",
        "Each stage says how it stands: empty, ready, look or redo. Below "
        "them: what has to be done next, and why. Click one to go there.",
    ),
    Stop(
        "offsets",
        lambda s: s.page.canvas,
        "Offsets",
        "Whatever you have: a file, the clipboard, paper, a picture, a scan. Any "
        "unit in any cell: 1613, 63.5in, 5' 3 1/2\", 5-3-4 (feet-inches-eighths), 42 1/2 + 3/4.",
    ),
    Stop(
        "molds",
        lambda s: s.page.canvas,
        "Decide on the drawing",
        "A number with a dotted line under it is yours: click it, or "
        "press Tab to come to it, and type. Drag a ring. Esc gives up; Ctrl+Z takes back.",
    ),
    Stop(
        "molds",
        lambda s: s.place("side"),
        "Or beside it",
        "The same settings stand here in groups, with all that no drawing "
        "shows. Point at one to read what it is for. Above: the few numbers of what you picked.",
    ),
    Stop(
        "molds",
        lambda s: s.place("keel"),
        "The keel line",
        "Step from mold to mold with the arrow keys, or drag one along the hull.",
    ),
    Stop(
        "setup",
        lambda s: s.page.canvas,
        "Setting up",
        "Every mark from one zero. The table below (F8) has them all; Measured takes what you read, and says what to move.",
    ),
    Stop(
        "planking",
        lambda s: s.page.canvas,
        "Planking",
        "Turn the hull, pick a strip, Shift-pick another: a run of them can have "
        "its own wood, width or thickness. The map below unrolls the same strips.",
    ),
    Stop(
        "stock",
        lambda s: s.page.canvas,
        "Stock",
        "Type the boards you have and what is for sale: how they are sawn, which piece goes where and what to buy follows.",
    ),
    Stop(
        "",
        lambda s: s.place("menu"),
        "On paper and at the bench",
        "Print has patterns at full size: measure the 100 mm bar "
        "before you cut. Bench mode (Stations, Strips) shows one number at a time, readable from three metres. Ctrl+K finds any "
        "command.",
    ),
)


class Tour(QWidget):
    """Lies over the window: what is spoken of is left bright, the rest is dimmed. Enter or a click goes on, Esc leaves."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell.top)
        self.setAccessibleName("First steps")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._shell = shell
        self.at = 0
        self._bright = QRect()
        self.box = QFrame(self)
        self.box.setObjectName("sheet")
        self.box.setFixedWidth(WIDE)
        self.heading, self.text, self.count = QLabel(), QLabel(), QLabel()
        self.heading.setObjectName("question")
        self.count.setObjectName("small")
        self.text.setWordWrap(True)
        self.back, self.next, leave = QPushButton("Back"), QPushButton("Next"), QPushButton("Leave")
        self.back.clicked.connect(lambda: self.go(-1))
        self.next.clicked.connect(lambda: self.go(1))
        leave.clicked.connect(self.leave)
        row = QHBoxLayout()
        row.addWidget(self.count)
        row.addStretch(1)
        for button in (leave, self.back, self.next):
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            row.addWidget(button)
        column = QVBoxLayout(self.box)
        for widget in (self.heading, self.text):
            column.addWidget(widget)
        column.addLayout(row)
        self.setGeometry(shell.top.rect())
        self._show()
        self.show()
        self.raise_()
        self.setFocus()

    def _show(self) -> None:
        stop = STOPS[self.at]
        if stop.page:
            self._shell.go_to_page(stop.page)
        target = stop.where(self._shell)
        self._bright = QRect(target.mapTo(self._shell.top, QPoint(0, 0)), target.size())
        self.heading.setText(stop.heading)
        self.text.setText(stop.text)
        self.count.setText(f"{self.at + 1} of {len(STOPS)}")
        self.back.setEnabled(self.at > 0)
        self.next.setText("Next" if self.at + 1 < len(STOPS) else "Done")
        self.box.setFixedHeight(self.box.layout().heightForWidth(WIDE) + 14)  # type: ignore[union-attr]
        self._put()
        self.raise_()
        self.update()

    def _put(self) -> None:
        """Beside what is spoken of, where there is room; over its lower part otherwise."""
        bright, wide, tall = self._bright, self.box.width(), self.box.height()
        if bright.right() + AWAY + wide < self.width():
            x, y = bright.right() + AWAY, bright.top() + AWAY
        elif bright.left() - AWAY - wide > 0:
            x, y = bright.left() - AWAY - wide, bright.top() + AWAY
        elif bright.top() - AWAY - tall > 0:
            x, y = bright.center().x() - wide // 2, bright.top() - AWAY - tall
        else:
            x, y = bright.center().x() - wide // 2, bright.bottom() + AWAY
        self.box.move(min(max(x, AWAY), self.width() - wide - AWAY), min(max(y, AWAY), self.height() - tall - AWAY))

    def go(self, by: int) -> None:
        """The next place, or the one before; past the last it is over."""
        if self.at + by >= len(STOPS):
            self.leave()
        elif self.at + by >= 0:
            self.at += by
            self._show()

    def leave(self) -> None:
        """Done with it."""
        self.hide()
        self.deleteLater()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        shade = QColor(20, 26, 30, 120)
        bright = self._bright.adjusted(-2, -2, 2, 2)
        whole = self.rect()
        painter.fillRect(QRect(0, 0, whole.width(), bright.top()), shade)
        painter.fillRect(QRect(0, bright.bottom() + 1, whole.width(), whole.height() - bright.bottom()), shade)
        painter.fillRect(QRect(0, bright.top(), bright.left(), bright.height()), shade)
        painter.fillRect(QRect(bright.right() + 1, bright.top(), whole.width() - bright.right(), bright.height()), shade)
        painter.setPen(QPen(QColor(self._shell.theme_now().accent), 2.5))
        painter.drawRoundedRect(QRectF(bright), 4, 4)
        painter.end()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.leave()
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_PageUp, Qt.Key.Key_Backspace):
            self.go(-1)
        else:
            self.go(1)

    def mousePressEvent(self, _event: object) -> None:
        self.go(1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self.isHidden():
            self._put()

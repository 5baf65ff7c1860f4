"""The blank page: every way in, each with a picture of what it looks like."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPalette, QPen
from PySide6.QtWidgets import QAbstractButton, QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from ....demo.jobs import DEMOS
from ...window.theme import figures

WIDE, TALL, PICTURE = 272, 206, 112


class WayIn(QAbstractButton):
    """One way: a picture, what it is, what it takes."""

    def __init__(self, name: str, words: str, picture: Callable[[QPainter, QRectF, QWidget], None]) -> None:
        super().__init__()
        self.setText(name)
        self.words, self._picture = words, picture
        self.setAccessibleName(name)
        self.setAccessibleDescription(words)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedSize(WIDE, TALL)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)

    def sizeHint(self) -> QSize:
        return QSize(WIDE, TALL)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        palette = self.palette()
        strong = self.hasFocus() or self.underMouse()
        painter.setPen(
            QPen(palette.color(QPalette.ColorRole.Highlight if strong else QPalette.ColorRole.Mid), 1.6 if strong else 1)
        )
        painter.setBrush(palette.color(QPalette.ColorRole.Base))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 5, 5)
        self._picture(painter, QRectF(18, 14, WIDE - 36, PICTURE), self)
        ink = palette.color(QPalette.ColorRole.WindowText)
        painter.setPen(ink)
        painter.setFont(figures(14, strong=True))
        painter.drawText(QRectF(14, PICTURE + 20, WIDE - 28, 22), Qt.AlignmentFlag.AlignLeft, self.text())
        painter.setFont(figures(12))
        painter.setPen(palette.color(QPalette.ColorRole.PlaceholderText))
        flags = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        painter.drawText(QRectF(14, PICTURE + 44, WIDE - 28, 44), flags, self.words)
        painter.end()


def _pen(of: QWidget, role: QPalette.ColorRole, width: float = 1.2) -> QPen:
    return QPen(of.palette().color(role), width)


def _grid(painter: QPainter, box: QRectF, of: QWidget) -> None:
    """A table of offsets."""
    faint, ink = QPalette.ColorRole.Mid, QPalette.ColorRole.PlaceholderText
    rows, columns = 6, 6
    for k in range(rows + 1):
        painter.setPen(_pen(of, faint, 0.9))
        y = box.top() + k * box.height() / rows
        painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
    for k in range(columns + 1):
        x = box.left() + k * box.width() / columns
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
    painter.setFont(figures(9))
    painter.setPen(_pen(of, ink))
    for row in range(rows):
        for column in range(columns):
            cell = QRectF(
                box.left() + column * box.width() / columns,
                box.top() + row * box.height() / rows,
                box.width() / columns - 3,
                box.height() / rows,
            )
            text = (
                f"{column}"
                if row == 0 and column
                else ("", "sheer", "WL 2", "WL 1", "B 1", "keel")[row]
                if column == 0
                else f"{round(60 + 70 * column * (6 - column) / (1 + 0.4 * row))}"
            )
            painter.drawText(cell, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)


def _type(painter: QPainter, box: QRectF, of: QWidget) -> None:
    """An empty grid with one cell being typed."""
    painter.setPen(_pen(of, QPalette.ColorRole.Mid, 0.9))
    for k in range(7):
        y = box.top() + k * box.height() / 6
        x = box.left() + k * box.width() / 6
        painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
    cell = QRectF(box.left() + box.width() / 3, box.top() + box.height() / 3, box.width() / 6, box.height() / 6)
    painter.setPen(_pen(of, QPalette.ColorRole.Highlight, 1.8))
    painter.drawRect(cell)
    painter.setFont(figures(11, strong=True))
    painter.drawText(cell.adjusted(3, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, "1-9-4")


def _curve(box: QRectF, share: float, bow: float) -> QPainterPath:
    """One station's curve, from the keel at the foot of the box up and out."""
    path = QPainterPath(QPointF(box.center().x(), box.bottom()))
    out = box.center().x() + bow * share * box.width() / 2
    path.cubicTo(QPointF(out * 0.7 + box.center().x() * 0.3, box.bottom()), QPointF(out, box.center().y()), QPointF(out, box.top()))
    return path


def _lines(painter: QPainter, box: QRectF, of: QWidget) -> None:
    """A body plan."""
    painter.setPen(_pen(of, QPalette.ColorRole.Mid, 0.9))
    painter.drawLine(QPointF(box.center().x(), box.top()), QPointF(box.center().x(), box.bottom()))
    for k in range(4):
        y = box.top() + (k + 0.5) * box.height() / 4
        painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
    painter.setPen(_pen(of, QPalette.ColorRole.WindowText, 1.5))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for share in (0.35, 0.6, 0.8, 0.95):
        painter.drawPath(_curve(box, share, 1.0))
        painter.drawPath(_curve(box, share * 0.97, -1.0))


def _photo(painter: QPainter, box: QRectF, of: QWidget) -> None:
    """A picture with points picked on it."""
    painter.setPen(_pen(of, QPalette.ColorRole.Mid, 1.0))
    painter.setBrush(of.palette().color(QPalette.ColorRole.AlternateBase))
    painter.drawRect(box)
    painter.setPen(_pen(of, QPalette.ColorRole.PlaceholderText, 1.3))
    inner = box.adjusted(16, 12, -16, -10)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    path = QPainterPath(inner.topLeft())
    path.cubicTo(QPointF(inner.center().x(), inner.top() + 26), QPointF(inner.center().x(), inner.top() + 26), inner.topRight())
    path.lineTo(QPointF(inner.right() - 14, inner.bottom()))
    path.quadTo(QPointF(inner.center().x(), inner.bottom() + 8), QPointF(inner.left() + 30, inner.bottom() - 4))
    path.closeSubpath()
    painter.drawPath(path)
    painter.setPen(_pen(of, QPalette.ColorRole.Highlight, 1.8))
    for share in (0.06, 0.28, 0.5, 0.72, 0.94):
        at = path.pointAtPercent(0.36 * share)
        painter.drawLine(at + QPointF(-5, -5), at + QPointF(5, 5))
        painter.drawLine(at + QPointF(-5, 5), at + QPointF(5, -5))


def _scan(painter: QPainter, box: QRectF, of: QWidget) -> None:
    """A hull of triangles."""
    painter.setPen(_pen(of, QPalette.ColorRole.PlaceholderText, 0.9))
    across, up = 11, 4
    points = []
    for k in range(across + 1):
        t = k / across
        half = 1 - (2 * t - 1) ** 2
        low = box.bottom() - 4 - (1 - half) * box.height() * 0.35
        high = box.top() + 8 + half * box.height() * 0.18
        points.append([QPointF(box.left() + t * box.width(), high + (low - high) * r / up) for r in range(up + 1)])
    for k in range(across):
        for r in range(up):
            a, b, c, d = points[k][r], points[k + 1][r], points[k + 1][r + 1], points[k][r + 1]
            for p, q in ((a, b), (a, d), (a, c), (d, c), (b, c)):
                painter.drawLine(p, q)


def _demo(painter: QPainter, box: QRectF, of: QWidget) -> None:
    """A planked hull."""
    accent = of.palette().color(QPalette.ColorRole.Highlight)
    for k in range(9):
        share = k / 8
        path = QPainterPath(QPointF(box.left() + 4 + 14 * share, box.top() + 14 + 50 * share))
        path.quadTo(
            QPointF(box.center().x(), box.top() + 44 + 92 * share),
            QPointF(box.right() - 4 - 10 * share, box.top() + 14 + 50 * share),
        )
        painter.setPen(QPen(QColor(accent), 4.0 if k == 2 else 1.3))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)


WAYS = (
    ("import", "A file", "A spreadsheet or CSV of offsets, or a lines drawing (DXF, SVG)", _lines),
    ("paste-table", "A table on the clipboard", "Copied from a spreadsheet, titles and all", _grid),
    ("type-table", "A table on paper", "Say what is on it, then type it into an empty grid: fractions as they stand", _type),
    ("pick-picture", "A picture or PDF of the lines", "Mark what you know, then pick points on it", _photo),
    ("import-mesh", "A scanned hull", "STL, OBJ or PLY: whole or half, any way up", _scan),
    ("demo-linnet", "Nothing yet: look at a demo", "A boat planked from end to end, to try everything on", _demo),
)


class WaysIn(QWidget):
    """All of them; `run` is called with the command of the one chosen."""

    def __init__(self, run: Callable[[str], None]) -> None:
        super().__init__()
        grid = QGridLayout()
        grid.setSpacing(14)
        self.ways: dict[str, WayIn] = {}
        for k, (command, name, words, picture) in enumerate(WAYS):
            way = WayIn(name, words, picture)
            way.clicked.connect(lambda _=False, command=command: run(command))
            self.ways[command] = way
            grid.addWidget(way, k // 3, k % 3)
        others = QHBoxLayout()
        others.addStretch(1)
        label = QLabel("other demos:")
        label.setObjectName("small")
        others.addWidget(label)
        for name in list(DEMOS)[1:]:
            button = QPushButton(name.capitalize())
            button.setObjectName("quiet")
            button.clicked.connect(lambda _=False, name=name: run(f"demo-{name}"))
            others.addWidget(button)
        others.addStretch(1)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addLayout(grid)
        row.addStretch(1)
        whole = QVBoxLayout(self)
        whole.addStretch(2)
        whole.addLayout(row)
        whole.addLayout(others)
        whole.addStretch(3)

"""The card at the right: the few numbers of what is selected, large, with why."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetrics, QGuiApplication
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from ..window.theme import figures


@dataclass(frozen=True)
class Card:
    """What the card says: a heading, one large number with its unit and meaning, rows of name and value, why."""

    heading: str = ""
    aside: str = ""
    big: str = ""
    unit: str = ""
    meaning: str = ""
    rows: tuple[tuple[str, str], ...] = ()
    why: str = ""
    caution: str = ""


ROOM, SIZES = 194, (40, 34, 30, 26, 22, 18)
"""Pixels that the large number and its unit may be wide, and the sizes it is tried in."""
AT_FIRST, APART = 6, 8
"""So many rows are seen before more is asked for; pixels between a name and its value."""


class BenchCard(QFrame):
    """Shows a Card; copies its large number."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.card, self._shown = Card(), False
        self._size = 0
        self._labels: list[tuple[QLabel, QLabel]] = []
        self._heading, self._aside = QLabel(), QLabel()
        self._heading.setObjectName("heading")
        self._aside.setObjectName("small")
        self._big, self._unit, self._meaning, self._why, self.caution = (QLabel() for _ in range(5))
        self._unit.setObjectName("small")
        self._meaning.setObjectName("small")
        self._why.setObjectName("why")
        self.caution.setObjectName("why")
        for label in (self._meaning, self._why, self.caution):
            label.setWordWrap(True)
        self._big.setAccessibleName("The large number")
        self._big.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._copy = QPushButton("copy")
        self._copy.setObjectName("quiet")
        self._copy.setAccessibleName("Copy the large number")
        self._copy.clicked.connect(self.copy)
        self._more = QPushButton()
        self._more.setObjectName("quiet")
        self._more.setCheckable(True)
        self._more.setAccessibleName("All numbers, and why")
        self._more.toggled.connect(lambda _: self._fold())
        self._rows = QVBoxLayout()
        self._rows.setSpacing(3)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        top = QHBoxLayout()
        top.addWidget(self._heading)
        top.addStretch(1)
        top.addWidget(self._aside)
        layout.addLayout(top)
        number = QHBoxLayout()
        number.addWidget(self._big)
        number.addWidget(self._unit, 0, Qt.AlignmentFlag.AlignBottom)
        number.addStretch(1)
        number.addWidget(self._copy, 0, Qt.AlignmentFlag.AlignBottom)
        layout.addLayout(number)
        layout.addWidget(self._meaning)
        layout.addLayout(self._rows)
        layout.addWidget(self._more, 0, Qt.AlignmentFlag.AlignLeft)
        layout.addWidget(self._why)
        self.show_card(Card())

    def show_card(self, card: Card) -> None:
        """Replace what is shown; rows keep their labels, which are slow to make."""
        if card == self.card and self._shown:
            return
        self.card, self._shown = card, True
        self._heading.setText(card.heading.upper())
        self._aside.setText(card.aside)
        size = self._fitting(card)
        if size != self._size:
            self._size = size
            self._big.setFont(figures(size, strong=True))
            self._big.setStyleSheet(f"font-size: {size}px; font-weight: 600;")
        self._big.setText(card.big)
        self._unit.setText(card.unit)
        self._meaning.setText(card.meaning)
        self._why.setText(f"why: {card.why}" if card.why else "")
        self.caution.setText(card.caution)
        self.caution.setVisible(bool(card.caution))
        self._copy.setVisible(bool(card.big))
        self._copy.setEnabled(bool(card.big))
        self._fill_rows(card.rows)

    def _fitting(self, card: Card) -> int:
        """The largest figures that leave room for the unit beside them."""
        beside = QFontMetrics(figures(11)).horizontalAdvance(card.unit) + 44
        for size in SIZES:
            if QFontMetrics(figures(size, strong=True)).horizontalAdvance(card.big) + beside <= ROOM:
                return size
        return SIZES[-1]

    def _fill_rows(self, rows: tuple[tuple[str, str], ...]) -> None:
        while len(self._labels) < len(rows):
            self._labels.append(self._add_row())
        for k, (left, right) in enumerate(self._labels):
            name, value = rows[k] if k < len(rows) else ("", "")
            left.setText(name)
            right.setText(value)
            right.setWordWrap(len(value) > 16)
            wide = QFontMetrics(left.font()).horizontalAdvance(name) + QFontMetrics(right.font()).horizontalAdvance(value)
            left.setWordWrap(wide + APART > ROOM)
        self._fold()

    def _fold(self) -> None:
        """The first rows, or all of them with why."""
        rows, all_of_it = len(self.card.rows), self._more.isChecked()
        shown = rows if all_of_it or rows <= AT_FIRST + 1 else AT_FIRST
        for k, (left, right) in enumerate(self._labels):
            left.setVisible(k < shown)
            right.setVisible(k < shown)
        self._why.setVisible(bool(self.card.why) and all_of_it)
        self._more.setVisible(bool(rows or self.card.why))
        self._more.setText("▴ less" if all_of_it else "▾ more, and why")

    def _add_row(self) -> tuple[QLabel, QLabel]:
        left, right = QLabel(), QLabel()
        left.setObjectName("small")
        right.setObjectName("value")
        right.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        right.setFont(figures(12, strong=True))
        row = QHBoxLayout()  # its own: a long value in one row leaves the names of the others their room
        row.setSpacing(APART)
        row.addWidget(left, 1)
        row.addWidget(right)
        self._rows.addLayout(row)
        return left, right

    def copy(self) -> None:
        """Put the large number on the clipboard."""
        QGuiApplication.clipboard().setText(self.card.big.replace("\u202f", ""))

"""The card at the right: the few numbers of what is selected, large, with why."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from ..theme import figures


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


class BenchCard(QFrame):
    """Shows a Card; copies its large number."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("panel")
        self.setFixedWidth(232)
        self.card, self._shown = Card(), False
        self._size = 0
        self._labels: list[tuple[QLabel, QLabel]] = []
        self._heading, self._aside = QLabel(), QLabel()
        self._heading.setObjectName("heading")
        self._aside.setObjectName("small")
        self._big, self._unit, self._meaning, self._why, self._caution = (QLabel() for _ in range(5))
        self._unit.setObjectName("small")
        self._meaning.setObjectName("small")
        self._why.setObjectName("why")
        self._caution.setObjectName("why")
        for label in (self._meaning, self._why, self._caution):
            label.setWordWrap(True)
        self._big.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._copy = QPushButton("Copy")
        self._copy.setAccessibleName("Copy the large number")
        self._copy.clicked.connect(self.copy)
        self._rows = QGridLayout()
        self._rows.setHorizontalSpacing(8)
        self._rows.setVerticalSpacing(7)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(14, 12, 14, 12)
        top = QHBoxLayout()
        top.addWidget(self._heading)
        top.addStretch(1)
        top.addWidget(self._aside)
        layout.addLayout(top)
        number = QHBoxLayout()
        number.addWidget(self._big)
        number.addWidget(self._unit, 0, Qt.AlignmentFlag.AlignBottom)
        number.addStretch(1)
        layout.addLayout(number)
        layout.addWidget(self._meaning)
        layout.addSpacing(6)
        layout.addLayout(self._rows)
        layout.addSpacing(8)
        layout.addWidget(self._why)
        layout.addStretch(1)
        layout.addWidget(self._caution)
        layout.addWidget(self._copy)
        self.show_card(Card())

    def show_card(self, card: Card) -> None:
        """Replace what is shown; rows keep their labels, which are slow to make."""
        if card == self.card and self._shown:
            return
        self.card, self._shown = card, True
        self._heading.setText(card.heading.upper())
        self._aside.setText(card.aside)
        wide = len(card.big) + max(len(card.unit) - 4, 0) // 2  # a long unit stands beside it
        size = 38 if wide <= 7 else 30 if wide <= 9 else 24
        if size != self._size:
            self._size = size
            self._big.setFont(figures(size, strong=True))
            self._big.setStyleSheet(f"font-size: {size}px; font-weight: 600;")
        self._big.setText(card.big)
        self._unit.setText(card.unit)
        self._meaning.setText(card.meaning)
        self._why.setText(f"why: {card.why}" if card.why else "")
        self._caution.setText(card.caution)
        self._copy.setVisible(bool(card.big))
        self._copy.setEnabled(bool(card.big))
        self._fill_rows(card.rows)

    def _fill_rows(self, rows: tuple[tuple[str, str], ...]) -> None:
        while len(self._labels) < len(rows):
            self._labels.append(self._add_row(len(self._labels)))
        for k, (left, right) in enumerate(self._labels):
            name, value = rows[k] if k < len(rows) else ("", "")
            left.setVisible(k < len(rows))
            right.setVisible(k < len(rows))
            left.setText(name)
            right.setText(value)
            right.setWordWrap(len(value) > 16)

    def _add_row(self, k: int) -> tuple[QLabel, QLabel]:
        left, right = QLabel(), QLabel()
        left.setObjectName("small")
        right.setObjectName("value")
        right.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        right.setFont(figures(13, strong=True))
        self._rows.addWidget(left, k, 0)
        self._rows.addWidget(right, k, 1)
        return left, right

    def copy(self) -> None:
        """Put the large number on the clipboard."""
        QGuiApplication.clipboard().setText(self.card.big.replace("\u202f", ""))

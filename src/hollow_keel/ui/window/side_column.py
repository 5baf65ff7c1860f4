"""The column at the right: the bench card, and under it what is decided on the page."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QScrollArea, QStackedWidget, QVBoxLayout, QWidget

from ..decide.panel import Decisions
from ..views.bench_card import BenchCard

WIDE, BAR = 220, 9
"""Pixels: the column, and what its scroll bar takes of it."""


class SideColumn(QFrame):
    """Card and decisions, one under the other; they scroll together where there is no room for both."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setFixedWidth(WIDE)
        self.card = BenchCard()
        self.pages = _Stack()
        inside = QWidget()
        inside.setObjectName("inside")
        inside.setFixedWidth(WIDE - 2 - BAR)
        column = QVBoxLayout(inside)
        column.setContentsMargins(10, 9, 3, 8)
        column.setSpacing(6)
        column.addWidget(self.card)
        rule = QFrame()
        rule.setObjectName("rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        column.addWidget(self.pages, 1)
        self.area = QScrollArea()
        self.area.setWidgetResizable(True)
        self.area.verticalScrollBar().setFixedWidth(BAR)
        self.area.setFrameShape(QFrame.Shape.NoFrame)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setWidget(inside)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.area, 1)
        self.card.caution.setContentsMargins(10, 3, 10, 6)
        whole.addWidget(self.card.caution)

    def add(self, decisions: Decisions) -> None:
        """What is decided on one more page."""
        self.pages.addWidget(decisions)

    def show_page(self, decisions: Decisions) -> None:
        """What is decided on the page on show."""
        self.pages.setCurrentWidget(decisions)
        self.pages.updateGeometry()
        self.area.verticalScrollBar().setValue(0)


class _Stack(QStackedWidget):
    """As tall as what is on show, not as the tallest page."""

    def sizeHint(self):  # type: ignore[no-untyped-def]
        shown = self.currentWidget()
        return shown.sizeHint() if shown else super().sizeHint()

    def minimumSizeHint(self):  # type: ignore[no-untyped-def]
        shown = self.currentWidget()
        return shown.minimumSizeHint() if shown else super().minimumSizeHint()

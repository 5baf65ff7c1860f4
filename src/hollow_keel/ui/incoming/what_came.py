"""What came of a hull that was brought in: how far the drawn one lies from it, and what could not be used."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

from ...core.offsets.from_curves import Taken
from ...core.units import LengthStyle
from ...drawing.lines.compared import compared_drawing
from ..views.drawing_view import DrawingView
from ..views.sentences import sentence
from ..window.theme import Theme


class WhatCame(QDialog):
    """A picture where there is one, and one line for each thing to know."""

    def __init__(self, taken: Taken, style: LengthStyle, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("What to know about these offsets")
        layout = QVBoxLayout(self)
        self.view = DrawingView("The drawn hull beside the scanned one")
        self.view.setVisible(taken.compared is not None)
        if taken.compared is not None:
            self.view.show_drawing(compared_drawing(taken.compared, style), theme, style)
            layout.addWidget(self.view, 3)
        self.said = QTextBrowser()
        self.said.setAccessibleName("What to know")
        self.said.setPlainText("\n\n".join(f"●  {sentence(text, style)}" for text in taken.remarks))
        layout.addWidget(self.said, 2)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok)
        buttons.accepted.connect(self.accept)
        layout.addWidget(buttons)
        self.resize(900, 680 if taken.compared is not None else 320)

"""What was understood of a typed line, piece by piece: each can be picked, to be typed over where it stands in the line."""

from __future__ import annotations

import html

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QLabel, QWidget

from ...core.log.quick import Quick, Understood
from ..window.theme import Theme


class Chips(QLabel):
    """Pieces of a line with what they were taken for, what was not beside them; `picked` tells from where to where
    one stands in the line."""

    picked = Signal(int, int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("What was understood")
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setWordWrap(True)
        self.setTextInteractionFlags(
            Qt.TextInteractionFlag.LinksAccessibleByMouse | Qt.TextInteractionFlag.LinksAccessibleByKeyboard
        )
        self.linkActivated.connect(self._pick)
        self.setToolTip("Pick a piece to type over it")

    def show_pieces(self, quick: Quick, theme: Theme) -> None:
        """The pieces of a line that can be kept; none of one that is blank or cannot."""
        entry = quick.entry
        if entry is None:
            self.setText("")
            return
        head = f"{entry.day.isoformat()} · {html.escape(entry.task.value)} "
        told = "&nbsp; ".join(_chip(part, part.meaning, theme.mold, theme.ink) for part in quick.parts)
        left = "&nbsp; ".join(_chip(part, f"“{part.meaning}”", theme.paper, theme.bad) for part in quick.left)
        self.setText(f"{head}{told}" + (f"<br/>not understood, kept as words: {left}" if left else ""))

    def _pick(self, link: str) -> None:
        begin, _, end = link.partition(":")
        self.picked.emit(int(begin), int(end))


def _chip(part: Understood, text: str, ground: str, ink: str) -> str:
    style = f"background-color: {ground}; color: {ink}; text-decoration: none;"
    shown = html.escape(text).replace(" ", "&nbsp;")
    return f'<a href="{part.begin}:{part.end}" style="{style}">&nbsp;{shown}&nbsp;</a>'

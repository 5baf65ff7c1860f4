"""One number at a time, full-screen, readable from three metres; readings go straight in beside it.

Stepped by Space, Enter, Page Down and Page Up (a foot pedal sends those) or the mouse wheel. A caliper, tape or level
that types its readings like a keyboard ends each with Enter: the reading is taken and the next number shown.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from ..core.errors import InputError
from ..core.units import LengthUnit, parse_length
from .instrument_choice import InstrumentChoice

GROUND, INK, FAINT, GOOD, BAD = "#1B2429", "#F3F0E8", "#A9B3B8", "#7FC8A0", "#F0A58F"
WIDE_TEXT = 9
"""Letters of a number for which the full size is meant."""


@dataclass(frozen=True)
class Step:
    """One number: what it is, the number as it is written, what else there is to know, and its length in mm where a
    reading is to be compared with it (None: nothing is measured)."""

    heading: str
    number: str
    below: str = ""
    planned: float | None = None


class BenchMode(QDialog):
    """Shows steps one by one. `take` is called with the number of a step and a reading in mm; it returns what the reading
    comes to, in words, and whether that is good."""

    def __init__(
        self,
        steps: Sequence[Step],
        unit: LengthUnit,
        take: Callable[[int, float], tuple[str, bool]] | None = None,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Bench")
        self.setModal(True)  # it is shown before it runs
        self.steps, self.unit, self._take = list(steps), unit, take
        self.at = 0
        self.heading, self.number, self.below, self.verdict = QLabel(), QLabel(), QLabel(), QLabel()
        self.entry = QLineEdit()
        self.entry.setAccessibleName("Reading")
        self.entry.setPlaceholderText("reading, then Enter")
        self.entry.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.entry.setVisible(take is not None)
        layout = QVBoxLayout(self)
        layout.addStretch(1)
        for label in (self.heading, self.number, self.below):
            label.setAlignment(Qt.AlignmentFlag.AlignCenter)
            label.setWordWrap(label is self.below)
            layout.addWidget(label)
        layout.addWidget(self.entry, 0, Qt.AlignmentFlag.AlignHCenter)
        self.verdict.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self.verdict)
        layout.addStretch(1)
        self.instrument = InstrumentChoice(self._planned)
        self.instrument.heard.connect(self.hear)
        self.instrument.said.connect(lambda text: self._say(text, good=False))
        self.instrument.setVisible(take is not None)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(self.instrument)
        row.addStretch(1)
        layout.addLayout(row)
        self.foot = QLabel("Space, Enter, pedal or wheel: next · Page Up: back · Esc: leave")
        self.foot.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self.foot)
        self._show()

    def _show(self) -> None:
        step = self.steps[self.at] if self.steps else Step("Nothing to show", "–")
        self.heading.setText(f"{step.heading}   ({self.at + 1} of {len(self.steps)})")
        self.number.setText(step.number)
        self.below.setText(step.below)
        self._dress()

    def _dress(self) -> None:
        high = max(self.height(), 300)
        size = min(240, int(0.32 * high), int(1.5 * self.width() / max(len(self.number.text()), WIDE_TEXT)))
        self.setStyleSheet(
            f"QDialog {{ background: {GROUND}; }} QLabel {{ color: {INK}; font-size: 26px; }}"
            f"QLineEdit {{ font-size: 40px; min-width: 420px; background: {INK}; color: {GROUND}; }}"
        )
        self.number.setStyleSheet(f"font-size: {size}px; font-weight: 600;")
        self.heading.setStyleSheet("font-size: 34px;")
        self.foot.setStyleSheet(f"font-size: 15px; color: {FAINT};")
        self.verdict.setWordWrap(True)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._dress()

    def step(self, by: int) -> None:
        """The next number or an earlier one; it stops at both ends."""
        at = min(max(self.at + by, 0), len(self.steps) - 1)
        if at != self.at:
            self.at = at
            self.entry.clear()
            self._show()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        typed = self.entry.text().strip()
        if key == Qt.Key.Key_Escape:
            self.reject()
        elif key in (Qt.Key.Key_PageUp, Qt.Key.Key_Up, Qt.Key.Key_Backspace):
            self.step(-1)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and typed and self._take is not None:
            self._read(typed)
        elif key in (
            Qt.Key.Key_Space,
            Qt.Key.Key_Return,
            Qt.Key.Key_Enter,
            Qt.Key.Key_PageDown,
            Qt.Key.Key_Down,
        ):
            self.step(1)
        else:
            event.ignore()

    def _planned(self) -> float | None:
        return self.steps[self.at].planned if self.steps else None

    def hear(self, text: str) -> None:
        """A line that an instrument sent."""
        if text:
            self._read(text)
        else:
            self._say("the instrument sent nothing: measure this one again", good=False)

    def done(self, result: int) -> None:
        self.instrument.close_line()
        super().done(result)

    def _read(self, typed: str) -> None:
        """Take a reading; one that cannot be read is said, and stays."""
        try:
            value = parse_length(typed, self.unit)
        except InputError as error:
            self._say(str(error), good=False)
            return
        assert self._take is not None
        heading = self.steps[self.at].heading
        text, good = self._take(self.at, value)
        self._say(f"{heading}: {text}", good=good)
        self.entry.clear()
        self.step(1)

    def _say(self, text: str, *, good: bool) -> None:
        self.verdict.setText(("● " if good else "▲ ") + text)
        self.verdict.setStyleSheet(f"font-size: 26px; color: {GOOD if good else BAD};")

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.step(-1 if event.angleDelta().y() > 0 else 1)
        event.accept()

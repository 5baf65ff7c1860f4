"""One number at a time, full-screen, readable from three metres; readings go straight in beside it.

Stepped by Space, Enter, Page Down and Page Up (a foot pedal sends those) or the mouse wheel. A caliper, tape or level
that types its readings like a keyboard ends each with Enter: the reading is taken and the next number shown.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QLineEdit, QProgressBar, QVBoxLayout, QWidget

from ...core.errors import InputError
from ...core.units import LengthStyle, LengthUnit, parse_reading
from ...drawing.bench import HERE
from ...drawing.model import Drawing
from ..pages.setup.instrument_choice import InstrumentChoice
from ..views.drawing_view import DrawingView
from ..window.theme import DARK, figures

GROUND, INK, FAINT, GOOD, BAD, MARK = "#1B2429", "#F3F0E8", "#A9B3B8", "#7FC8A0", "#F0A58F", "#E5A53D"
BENCH = replace(DARK, paper=GROUND, mold="#2C373C", ink="#F3F0E8")
LINE_TALL = 32
LEFT_EDGE = 0.12
"""A tap within this share of the width goes back."""
WIDE_TEXT = 9
"""Letters of a number for which the full size is meant."""


@dataclass(frozen=True)
class Step:
    """One number: what it is, the number as it is written, what else there is to know, its length in mm where a reading is to be
    compared with it (None: nothing is measured), and the piece with its place marked, drawn when it is shown."""

    heading: str
    number: str
    below: str = ""
    planned: float | None = None
    picture: Callable[[], Drawing] | None = None

    @property
    def named(self) -> str:
        """Its name and its number, for the one before and the one after."""
        return f"{self.heading}: {self.number}"


class BenchMode(QDialog):
    """Shows steps one by one. `take` is called with the number of a step and a reading in mm; it returns what the reading
    comes to, in words, and whether that is good. `done` is called with the number of a step that is ticked off (D); it returns what
    was noted, in words."""

    def __init__(
        self,
        steps: Sequence[Step],
        unit: LengthUnit,
        take: Callable[[int, float], tuple[str, bool]] | None = None,
        parent: QWidget | None = None,
        done: Callable[[int], str] | None = None,
    ) -> None:
        super().__init__(parent)
        self._done = done
        self.setWindowTitle("Bench")
        self.setModal(True)  # it is shown before it runs
        self.steps, self.unit, self._take = list(steps), unit, take
        self.at, self._all_taken = 0, False
        self.heading, self.count, self.number, self.below = QLabel(), QLabel(), QLabel(), QLabel()
        self.verdict, self.beside = QLabel(), QLabel()
        self.entry = QLineEdit()
        self.entry.setAccessibleName("Reading")
        self.entry.setPlaceholderText("reading, then Enter")
        self.entry.setVisible(take is not None)
        self.picture = DrawingView("The piece, with the place marked")
        self.picture.has_scale_bar = False
        self.picture.larger = 2.0
        self.picture.setBackgroundBrush(QColor(GROUND))
        self.picture.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.picture.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.through = QProgressBar()
        self.through.setTextVisible(False)
        self.through.setFixedHeight(7)
        self.through.setRange(0, max(len(self.steps), 1))
        self.instrument = InstrumentChoice(self._planned)
        self.instrument.heard.connect(self.hear)
        self.instrument.said.connect(lambda text: self._say(text, good=False))
        self.instrument.setVisible(take is not None)
        self.foot = QLabel("Space, Enter, pedal, wheel or a tap: next · Page Up or a tap at the left edge: back · Esc: leave")
        if done is not None:
            self.foot.setText(f"D: done, into the log · {self.foot.text()}")
        self._longest = max((len(step.number) for step in self.steps), default=WIDE_TEXT)
        self._lay_out()
        self._show()

    def _lay_out(self) -> None:
        """Everything in its place: nothing moves as the numbers go by."""
        top = QHBoxLayout()
        top.addWidget(self.heading, 1)
        top.addWidget(self.count)
        for label in (self.below, self.verdict, self.beside):
            label.setWordWrap(True)
            label.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        left = QVBoxLayout()
        left.addStretch(1)
        left.addWidget(self.number)
        left.addWidget(self.below)
        left.addSpacing(14)
        left.addWidget(self.entry, 0, Qt.AlignmentFlag.AlignLeft)
        left.addWidget(self.verdict)
        left.addStretch(1)
        left.addWidget(self.beside)
        for label, lines in ((self.below, 2), (self.verdict, 3), (self.beside, 2)):
            label.setMinimumHeight(lines * LINE_TALL)  # whatever they say, the number stays where it is
        middle = QHBoxLayout()
        middle.setSpacing(24)
        middle.addLayout(left, 11)
        middle.addWidget(self.picture, 9)
        last = QHBoxLayout()
        last.addWidget(self.foot, 1)
        last.addWidget(self.instrument)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(60, 36, 60, 24)
        whole.addLayout(top)
        whole.addLayout(middle, 1)
        whole.addWidget(self.through)
        whole.addLayout(last)

    def _show(self) -> None:
        step = self.steps[self.at] if self.steps else Step("Nothing to show", "–")
        self.heading.setText(step.heading)
        self.count.setText(f"{self.at + 1} of {len(self.steps)}" if self.steps else "")
        self.number.setText(step.number)
        self.below.setText(step.below)
        around = [("before", self.at - 1), ("next", self.at + 1)]
        self.beside.setText("\n".join(f"{word}: {self.steps[k].named}" for word, k in around if 0 <= k < len(self.steps)))
        self.through.setValue(self.at + 1)
        drawing = step.picture() if step.picture is not None else Drawing("", ())
        self.picture.show_drawing(drawing, BENCH, LengthStyle())
        self.picture.mark(HERE)
        self._dress()

    def _dress(self) -> None:
        high, room = max(self.height(), 300), 0.53 * max(self.width() - 120, 200)
        size = min(240, int(0.32 * high), int(1.72 * room / max(self._longest, 4)))
        self.setStyleSheet(
            f"QDialog {{ background: {GROUND}; }} QLabel {{ color: {INK}; font-size: 25px; }}"
            f"QLineEdit {{ font-size: 34px; min-width: 320px; background: #26333A; color: {INK}; border: 2px solid {MARK}; "
            f"border-radius: 5px; padding: 6px 14px; }}"
            f"QProgressBar {{ background: #37444B; border: none; }} QProgressBar::chunk {{ background: {MARK}; }}"
        )
        self.number.setFont(figures(size, strong=True))
        self.number.setStyleSheet(f"font-size: {size}px; font-weight: 600;")
        self.number.setFixedHeight(round(1.15 * size))
        self.heading.setStyleSheet("font-size: 32px;")
        self.count.setStyleSheet(f"font-size: 25px; color: {FAINT};")
        self.beside.setStyleSheet(f"font-size: 22px; color: {FAINT};")
        self.foot.setStyleSheet(f"font-size: 15px; color: {FAINT};")

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._dress()

    def step(self, by: int) -> None:
        """The next number or an earlier one; it stops at both ends."""
        at = min(max(self.at + by, 0), len(self.steps) - 1)
        if at != self.at:
            self.at, self._all_taken = at, False
            self.entry.clear()
            self._show()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """A tap: on, or back at the left edge."""
        self.step(-1 if event.position().x() < LEFT_EDGE * self.width() else 1)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        typed = self.entry.text().strip()
        if key == Qt.Key.Key_Escape:
            self.reject()
        elif key in (Qt.Key.Key_PageUp, Qt.Key.Key_Up, Qt.Key.Key_Backspace):
            self.step(-1)
        elif key == Qt.Key.Key_D and self._done is not None and self.steps:
            noted = self._done(self.at)
            self.step(1)
            self._say(noted, good=True)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and typed and self._take is not None:
            self._read(typed)
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_PageDown, Qt.Key.Key_Down):
            self.step(1)
        else:
            event.ignore()

    def _planned(self) -> float | None:
        return self.steps[self.at].planned if self.steps else None

    def hear(self, text: str) -> None:
        """A line that an instrument sent."""
        if text and self._all_taken:  # nobody looks at it any more: the instrument is being put away
            self._say("all are read: go back to one to read it again", good=False)
        elif text:
            self._read(text)
        else:
            self._say("the instrument sent nothing: measure this one again", good=False)

    def done(self, result: int) -> None:
        self.instrument.close_line()
        super().done(result)

    def _read(self, typed: str) -> None:
        """Take a reading; one that cannot be read is said, and stays."""
        try:
            value = parse_reading(typed, self.unit)
            assert self._take is not None
            heading = self.steps[self.at].heading
            text, good = self._take(self.at, value)
        except InputError as error:
            self._say(str(error), good=False)
            return
        self._say(f"{heading}: {text}", good=good)
        self.entry.clear()
        self._all_taken = self.at == len(self.steps) - 1
        self.step(1)

    def _say(self, text: str, *, good: bool) -> None:
        self.verdict.setText(("● " if good else "▲ ") + text)
        self.verdict.setStyleSheet(f"font-size: 25px; color: {GOOD if good else BAD};")

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.step(-1 if event.angleDelta().y() > 0 else 1)
        event.accept()

"""Looking along the molds, as they stand or with a hidden error to be found."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from ....core.setup.judgement import Direction, SurveyJudgement
from ....core.setup.sighting import WAYS, Displaced, Puzzle, new_puzzle, sight
from ....drawing.model import Drawing
from ....drawing.setup.sighting import sighting_drawing
from ...views.drawing_view import DrawingView
from ...views.fields import LengthField
from ...window.state import State

LARGER = ((1.0, "true"), (5.0, "5 times"), (20.0, "20 times"))


class Sighting(QObject):
    """The view along the molds, its controls and the practice with hidden errors; the page places the widgets."""

    picked = Signal(str)
    said = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.state: State | None = None
        self.judgement: SurveyJudgement | None = None
        self.puzzle: Puzzle | None = None
        self.points = self.asked = 0
        self._eye_up, self._eye_back = 0.0, 1500.0
        self.view = DrawingView("Along the molds")
        self.view.has_scale_bar = False
        self.view.picked.connect(self._picked)
        self.controls = QWidget()
        column = QVBoxLayout(self.controls)
        column.addLayout(self._eye_row())
        column.addLayout(self._practice_row())
        self.verdict = QLabel("Marks in one line are at one height; centrelines in one line are true.")
        self.verdict.setWordWrap(True)
        column.addWidget(self.verdict)
        column.addStretch(1)

    def _eye_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.eye_up = LengthField("Eye above the waterline")
        self.eye_up.entered.connect(lambda mm: self._eye_moved(up=mm))
        self.eye_back = LengthField("Eye before the first mold")
        self.eye_back.entered.connect(lambda mm: self._eye_moved(back=mm))
        for field in (self.eye_up, self.eye_back):
            field.fault.connect(self.said)
        self.larger = QComboBox()
        self.larger.setAccessibleName("Errors drawn larger")
        for times, text in LARGER:
            self.larger.addItem(text, times)
        self.larger.setCurrentIndex(1)
        self.larger.activated.connect(lambda _: self._show())
        for text, widget in (
            ("Eye above the marks", self.eye_up),
            ("before the first mold", self.eye_back),
            ("errors", self.larger),
        ):
            row.addWidget(QLabel(text))
            row.addWidget(widget)
        row.addStretch(1)
        return row

    def _practice_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.hide = QPushButton("Hide an error")
        self.hide.setToolTip("One mold is moved; find it with your eye")
        self.hide.clicked.connect(self._hide)
        self.which, self.way = QComboBox(), QComboBox()
        self.which.setAccessibleName("The mold that is out")
        self.way.setAccessibleName("Which way it is out")
        for way in WAYS:
            self.way.addItem(way, way)
        self.say = QPushButton("That is it")
        self.say.clicked.connect(self.answer)
        self.score = QLabel()
        self.back = QPushButton("As measured")
        self.back.clicked.connect(self.stop)
        for widget in (self.hide, QLabel("It is mold"), self.which, self.way, self.say, self.back, self.score):
            row.addWidget(widget)
        row.addStretch(1)
        return row

    def _eye_moved(self, up: float | None = None, back: float | None = None) -> None:
        self._eye_up = self._eye_up if up is None else up
        self._eye_back = self._eye_back if back is None else max(back, 0.0)
        self._show()

    def show_state(self, state: State, judgement: SurveyJudgement | None) -> None:
        """Show a moment of the window and what its survey came to."""
        self.state, self.judgement = state, judgement
        names = [m.mold for m in state.shape.setup.marks] if state.shape else []
        if names != [self.which.itemText(k) for k in range(self.which.count())]:
            self.which.clear()
            for name in names:
                self.which.addItem(name, name)
        self.eye_up.show_length(self._eye_up, state.style)
        self.eye_back.show_length(self._eye_back, state.style)
        self._show()

    def _hide(self) -> None:
        self.start()

    def start(self, seed: int | None = None) -> None:
        """Hide an error somewhere."""
        if self.state is not None and self.state.shape is not None and self.state.shape.setup.marks:
            self.puzzle = new_puzzle(self.state.shape.setup, seed)
            self.verdict.setText("One mold is out of place. Which one, and which way?")
            self._show()

    def answer(self) -> None:
        """Say which mold it is, and which way."""
        if self.puzzle is None:
            self.verdict.setText("Nothing is hidden: press “Hide an error” first.")
            return
        points, text = self.puzzle.answer(str(self.which.currentData()), str(self.way.currentData()))
        self.points, self.asked = self.points + points, self.asked + 1
        self.score.setText(f"{self.points} of {2 * self.asked} points")
        self.verdict.setText(text)
        self.puzzle = None

    def stop(self) -> None:
        """Back to the molds as they were measured."""
        self.puzzle = None
        self.verdict.setText("As measured, the datum taken off.")
        self._show()

    def _picked(self, key: str) -> None:
        name = key.partition(":")[2]
        if self.puzzle is not None:
            self.which.setCurrentIndex(self.which.findData(name))
        else:
            self.picked.emit(key)

    def _show(self) -> None:
        state = self.state
        if state is None or state.shape is None:
            self.view.show_drawing(Drawing("", ()), state.theme if state else self.view.theme, self.view.style_of_lengths)
            return
        shape = state.shape
        displaced = self.puzzle.displaced if self.puzzle is not None else self._measured()
        seen = sight(
            shape.setup,
            shape.molds.molds,
            displaced,
            eye_back=self._eye_back,
            eye_up=self._eye_up,
            larger=float(self.larger.currentData()),
        )
        title = "Along the marks" + (": something is hidden" if self.puzzle is not None else "")
        self.view.show_drawing(sighting_drawing(seen, title), state.theme, state.style)
        if self.puzzle is None and state.mold is not None:
            self.view.mark(f"mold:{state.mold.name}")
        elif self.puzzle is not None:
            self.view.mark("")

    def _measured(self) -> dict[str, Displaced]:
        judged = self.judgement
        if judged is None:
            return {}
        names = {name for row in judged.rows for name in row.molds}
        return {
            name: Displaced(
                judged.error(name, Direction.UP), judged.error(name, Direction.ACROSS), judged.error(name, Direction.ROLL)
            )
            for name in names
        }

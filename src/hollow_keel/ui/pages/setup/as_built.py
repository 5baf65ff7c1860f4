"""The molds as they stand: readings, what they come to, what to move, and the batten over them."""

from __future__ import annotations

import operator
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QLabel, QPushButton, QSplitter, QVBoxLayout, QWidget

from ....core.molds.stations import Mold
from ....core.settings.survey import Survey
from ....core.setup.as_built import BattenTest, batten_along, batten_test, heights_of
from ....core.setup.judgement import Direction, Move, SurveyJudgement, grade_of
from ....core.setup.long_batten import Batten
from ....drawing.model import Drawing
from ....drawing.setup.survey import NAMES, batten_drawing, errors_drawing
from ...views.bench_card import Card
from ...views.data_table import Column, DataTable
from ...views.drawing_view import DrawingView
from ...views.fields import LengthField
from ...views.readings_table import ReadingsModel, ReadingsTable
from ...views.sentences import sentence
from ...window.state import State

NOTHING_MEASURED = SurveyJudgement((), (), (), (), ())
FIRST_READING = (
    "Nothing is measured yet: type what you read beside the plan on the tab Measured, or press Ctrl+Shift+B and be asked for "
    "each reading."
)

LEVEL, ALONG = "level", "along"
"""Ways to lay the batten: at one height, or along the current strip's edge."""


class AsBuilt(QObject):
    """The widgets of a survey and what binds them; the page places them."""

    picked = Signal(str)
    said = Signal(str)
    chosen = Signal()

    def __init__(self, changed: Callable[[str, Survey], None]) -> None:
        super().__init__()
        self.state: State | None = None
        self.judgement: SurveyJudgement | None = None
        self.batten: BattenTest | None = None
        self._height: float | None = None
        self._judged: tuple[Any, ...] = ()
        self._earlier = ""
        self.model = ReadingsModel(changed)
        self.table = ReadingsTable(self.model)
        self.table.fault.connect(self.said)
        self.moves = DataTable("What to move", [], lambda move: f"mold:{move.mold}")
        self.moves.picked.connect(self.picked)
        self.datum = QLabel()
        self.datum.setWordWrap(True)
        self.to_do = QWidget()
        column = QVBoxLayout(self.to_do)
        column.setContentsMargins(0, 4, 0, 0)
        self.on_this = QPushButton("They were taken on the set-up as it is now")
        self.on_this.clicked.connect(lambda: self._taken_here(changed))
        column.addWidget(self.datum)
        column.addWidget(self.on_this, 0, Qt.AlignmentFlag.AlignLeft)
        column.addWidget(self.moves, 1)
        self.errors_view = DrawingView("Readings against the plan")
        self.batten_view = DrawingView("A batten over the molds")
        self.drawings = QSplitter(Qt.Orientation.Horizontal)
        for view in (self.errors_view, self.batten_view):
            view.has_scale_bar = False
            view.stretch_to_fit = True
            view.picked.connect(self.picked)
            self.drawings.addWidget(view)
        self._build_choices()

    def _taken_here(self, changed: Callable[[str, Survey], None]) -> None:
        """The readings belong to the set-up as it is now."""
        if self.state is not None and self.state.job.surveys:
            changed("set-up of the readings", self.state.job.surveys[-1].model_copy(update={"on": None}))

    def _build_choices(self) -> None:
        self.choices = QWidget()
        row = QHBoxLayout(self.choices)
        row.setContentsMargins(0, 2, 0, 0)
        self.direction = QComboBox()
        self.direction.setAccessibleName("Readings shown")
        for direction in Direction:
            self.direction.addItem(NAMES[direction], direction)
        self.direction.activated.connect(lambda _: self.chosen.emit())
        self.side = QComboBox()
        self.side.setAccessibleName("Side of the batten")
        for text, starboard in (("starboard", True), ("port", False)):
            self.side.addItem(text, starboard)
        self.side.activated.connect(lambda _: self.chosen.emit())
        self.lie = QComboBox()
        self.lie.setAccessibleName("Where the batten lies")
        for text, lies in (("at height", LEVEL), ("along strip", ALONG)):
            self.lie.addItem(text, lies)
        self.lie.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.lie.activated.connect(lambda _: self.chosen.emit())
        self.height = LengthField("Batten at height")
        self.height.entered.connect(self._height_typed)
        self.height.fault.connect(self.said)
        for widget in (QLabel("Show"), self.direction, QLabel("Batten"), self.lie, self.height, self.side):
            if isinstance(widget, QLabel):
                widget.setObjectName("small")
            row.addWidget(widget)

    def _height_typed(self, height: float) -> None:
        self._height = height
        self.chosen.emit()

    def show_state(self, state: State) -> None:
        """Show a moment of the window."""
        self.state = state
        shape = state.shape
        if shape is None or not shape.molds.molds:
            self.model.show_survey(Survey(), (), state.style)
            for view in (self.errors_view, self.batten_view):
                view.show_drawing(Drawing("", ()), state.theme, state.style)
            self.moves.show_rows([], [])
            return
        survey = state.job.surveys[-1] if state.job.surveys else Survey()
        height = shape.waterline if self._height is None else self._height
        self.height.show_length(height, state.style)
        self.height.setVisible(self.lie.currentData() == LEVEL)
        if state.strip is not None:
            self.lie.setItemText(1, f"along strip {state.strip.number}")
        self.model.theme = state.theme
        self.model.show_survey(survey, shape.setup.marks, state.style)
        self._judge(state, survey, height)
        assert self.judgement is not None
        elsewhere = self.judgement.elsewhere
        direction = Direction(self.direction.currentData())
        errors = errors_drawing(self.judgement, direction, state.job.setup.fairs_below, state.style)
        if elsewhere:
            errors = Drawing(f"{NAMES[direction]}: measured on another set-up", ())
        self.errors_view.show_drawing(errors, state.theme, state.style)
        measured = bool(self.judgement.rows)
        self.batten_view.show_drawing(
            batten_drawing(self.batten, self._no_batten(shape.molds.molds, height, state), state.job.setup.fairs_below, state.style)
            if measured
            else Drawing(f"Batten: {'measured on another set-up' if elsewhere else 'nothing is measured yet'}", ()),
            state.theme,
            state.style,
        )
        texts = [sentence(text, state.style) for text in self.judgement.datum]
        self.on_this.setVisible(elsewhere)
        if not self.judgement.rows and not elsewhere:
            texts.append(FIRST_READING)
        texts += [self._earlier] if self._earlier else []
        self.datum.setText("\n".join(f"● {text}" for text in texts))
        self.datum.setVisible(bool(texts))
        self.moves.show_rows((*self.judgement.moves, *self.judgement.leave), self._columns(state))
        header = self.moves.horizontalHeader()
        for k in range(header.count()):
            last = k == header.count() - 1
            mode = QHeaderView.ResizeMode.Stretch if last else QHeaderView.ResizeMode.ResizeToContents
            header.setSectionResizeMode(k, mode)
        if state.mold is not None:
            for view in (self.errors_view, self.batten_view):
                view.mark(f"mold:{state.mold.name}")

    def _no_batten(self, molds: tuple[Mold, ...], height: float, state: State) -> str:
        """Why no batten can lie where it is asked for."""
        if self.lie.currentData() == ALONG:
            return "this strip crosses fewer than four molds"
        low, high, at = heights_of(molds, height)
        count = f"only {at} molds come" if at else "no mold comes"
        return (
            f"{count} to height {state.write(height, unit=True)}, and it needs four; the molds' edges reach from "
            f"{state.write(low)} to {state.write(high)}"
        )

    def _judge(self, state: State, survey: Survey, height: float) -> None:
        """Judge the survey and lay the batten, unless that was done of these very readings."""
        shape = state.shape
        assert shape is not None
        starboard = bool(self.side.currentData())
        along = self.lie.currentData() == ALONG
        edge = state.strip.near if along and state.strip is not None else ()
        made_of = (shape.surveys, shape.setup, shape.molds, state.job.molds, state.job.strips, state.job.surveys, edge)
        asked = made_of, (height, starboard, along, state.style)
        if self._judged and asked[1] == self._judged[1] and all(map(operator.is_, asked[0], self._judged[0])):
            return
        self._judged = asked
        self._earlier = _history(state) if len(shape.surveys) > 1 else ""
        self.judgement = shape.surveys[-1] if shape.surveys else NOTHING_MEASURED
        strips = state.job.strips
        batten = Batten.of_strip(strips.width, strips.thickness)
        molds, setup = shape.molds.molds, state.job.setup
        if along:
            longest = max(edge, key=lambda piece: piece.length, default=None)
            self.batten = (
                batten_along(self.judgement, molds, longest, batten, starboard=starboard, setup=setup)
                if longest is not None
                else None
            )
        else:
            self.batten = batten_test(self.judgement, molds, height, batten, starboard=starboard, setup=setup)

    def _columns(self, state: State) -> list[Column]:
        def shows(move: Move) -> str:
            if self.batten is None or move.mold not in self.batten.molds:
                return ""
            return self.batten.verdict(self.batten.molds.index(move.mold))

        return [
            Column("Mold", lambda m: m.mold, lambda m: int(m.mold)),
            Column("Out by", lambda m: state.say_length(abs(m.error)), lambda m: abs(m.error)),
            Column("It comes to", lambda m: m.grade.value),
            Column("Do this", lambda m: sentence(m.mend, state.style) if m in self._to_move() else "leave it: strips fair it"),
            Column("Under a batten", shows),
            Column("Likely cause", lambda m: m.cause),
        ]

    def card(self) -> Card:
        """The current mold as it stands."""
        state = self.state
        if state is None or state.mold is None or self.judgement is None:
            return Card("As it stands")
        name = state.mold.name
        rows = [row for row in self.judgement.rows if name in row.molds]
        if not rows:
            if self.judgement.elsewhere:
                return Card(f"Mold {name}", "not judged", why="it was measured on another set-up")
            return Card(f"Mold {name}", "not measured", why="type its readings beside the plan")
        own = {row.direction: self.judgement.error(name, row.direction) for row in rows}
        worst = max(own, key=lambda d: abs(own[d]))
        return Card(
            f"Mold {name} as it stands",
            NAMES[worst].lower(),
            f"{abs(own[worst]):.1f}",
            "mm",
            f"{grade_of(own[worst], state.job.setup).value}; the datum is taken off",
            tuple((NAMES[d].lower(), f"{round(error, 1) + 0.0:+.1f}") for d, error in own.items()),
            "each reading less its plan, less the smooth sweep that all molds share; "
            "a mold is named when its own error is what makes the readings most probable",
            "Measure again before you move anything. Check once more after the second and third strip.",
        )

    def _to_move(self) -> tuple[Move, ...]:
        return self.judgement.moves if self.judgement is not None else ()


def _history(state: State) -> str:
    """The rounds before the one that is judged, with what was found to be out then and what was moved."""
    shape = state.shape
    assert shape is not None
    said = []
    for survey, judged in zip(shape.job.surveys[:-1], shape.surveys[:-1], strict=False):
        out = ", ".join(f"{m.mold} by {state.say_length(abs(m.error))}" for m in judged.moves) or "none"
        said.append(f"{survey.name}: out {out}" + (f"; moved: {survey.moved}" if survey.moved else ""))
    return "Earlier rounds. " + " · ".join(said)

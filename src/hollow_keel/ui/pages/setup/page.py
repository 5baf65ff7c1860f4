"""The setting-up page: where each mold goes on the beam, from one zero."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSplitter, QStackedWidget, QTabWidget, QWidget

from ....core.hull.stages import HULL
from ....core.job import HullEnd
from ....core.molds.stages import MOLDS
from ....core.settings.survey import Survey
from ....core.setup.judgement import with_last_survey
from ....core.setup.stages import SCHEDULE, SETUP, SURVEYS
from ....drawing.model import Drawing
from ....drawing.setup.end_view import end_view
from ....drawing.setup.strongback import setup_drawing, with_faults
from ....files.setup.schedules import MARKS, marks_told
from ...views.bench_card import Card
from ...views.drawing_view import DrawingView
from ...views.schedule_columns import schedule_table, show_schedule
from ..page import Page, result_label
from .as_built import AsBuilt
from .groups import SETUP_GROUPS
from .sighting import Sighting

SIGHTING = 3
DRAWN = (HULL, MOLDS, SETUP, SCHEDULE, SURVEYS)


class SettingUpPage(Page):
    """Where each mold goes on the strongback; what was measured there; what is to be moved, and what a batten shows."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Where does each mold stand?", SETUP_GROUPS, "the set-up", parent)
        self.spacers = result_label("")
        self.head.addWidget(self.as_built_choices())
        self.head.addWidget(self.spacers)
        self.view = DrawingView("Molds on the strongback")
        self.end_view = DrawingView("The mold on the strongback")
        self.end_view.has_scale_bar = False
        for view in (self.view, self.end_view):
            view.picked.connect(self.choose_key)
            self.decides_on(view)
        planned = QSplitter(Qt.Orientation.Vertical)
        planned.addWidget(self.view)
        planned.addWidget(self.end_view)
        planned.setSizes([300, 350])
        self.sighting = Sighting()
        self.sighting.picked.connect(self.choose_key)
        self.sighting.said.connect(self.said)
        self.drawings = QStackedWidget()
        for widget in (planned, self.as_built.drawings, self.sighting.view):
            self.drawings.addWidget(widget)
        built = (self.as_built.errors_view, self.as_built.batten_view, self.sighting.view)
        self.set_drawing(self.drawings, [self.view, *built], [self.end_view, *built])
        self.table = schedule_table(MARKS)
        self.table.picked.connect(self.choose_key)
        self.tabs = QTabWidget()
        self.tabs.addTab(self.table, "Marks")
        self.tabs.addTab(self.as_built.table, "Measured")
        self.tabs.addTab(self.as_built.to_do, "To move")
        self.tabs.addTab(self.sighting.controls, "Sighting")
        self.tabs.currentChanged.connect(self._tab_changed)
        self.set_drawer(self.tabs, "Table of marks")

    def as_built_choices(self) -> QWidget:
        """What is shown of the readings; made with the rest of the survey."""
        self.as_built = AsBuilt(self._surveyed)
        self.as_built.picked.connect(self.choose_key)
        self.as_built.said.connect(self.said)
        self.as_built.chosen.connect(self._show_as_built)
        self.as_built.choices.setVisible(False)
        return self.as_built.choices

    def _surveyed(self, label: str, survey: Survey) -> None:
        """A reading was typed: the survey it belongs to changes, or is begun."""
        shape = self.state.shape
        self.edited.emit(label, with_last_survey(self.state.job, shape.setup if shape else None, survey))

    def _tab_changed(self, number: int) -> None:
        self.drawings.setCurrentIndex((0, 1, 1, 2)[number])
        self.spacers.setVisible(number == 0)
        self.as_built.choices.setVisible(number in (1, 2))
        self.question.setText("Where does each mold stand?" if number == 0 else "Do the molds stand where they should?")
        self._show_as_built()
        self.card_changed.emit()

    def _show_as_built(self) -> None:
        if self.state.shape is not None and not self.state.is_cut:
            return
        if self.tabs.currentIndex() == 0:
            return
        self.as_built.show_state(self.state)
        if self.tabs.currentIndex() == SIGHTING:
            self.sighting.show_state(self.state, self.as_built.judgement)
        self.card_changed.emit()

    def refresh(self) -> None:
        state = self.state
        self.say_findings("setup")
        if state.shape is not None and not state.is_cut:
            return  # marks and readings come in a moment: the drawings stay till then
        self._show_as_built()
        job = state.drawn_job
        if self.seen(state.key(*DRAWN), job.setup, job.molds, job.units, state.theme, state.mold_number):
            return
        shape = state.shape
        told = marks_told(shape.job, shape.setup, shape.schedule) if shape is not None else None
        show_schedule(self.table, MARKS, told, job.units)
        if state.shape is None or state.mold is None:
            for view in (self.view, self.end_view):
                view.show_drawing(Drawing("", ()), state.theme, state.style)
            self.spacers.setText("")
            return
        said = [f"{s.count} of {state.write(s.length)}" for s in state.shape.schedule.spacers]
        self.spacers.setText("spacers: " + ", ".join(said[:3]) + (" …" if len(said) > 3 else "") if said else "")
        key = f"mold:{state.mold.name}"
        self.view.job = self.end_view.job = state.shape.job
        drawn = with_faults(setup_drawing(state.shape, state.style), state.shape, state.style)
        self.view.show_drawing(drawn, state.theme, state.style)
        self.end_view.show_drawing(end_view(state.shape, state.mold, state.style), state.theme, state.style)
        self.view.mark(key)
        self.table.select(key)

    def card(self) -> Card:
        state = self.state
        if state.shape is None or state.mold is None:
            return Card("Mark")
        if self.tabs.currentIndex() > 0:
            return self.as_built.card()
        mark = next(m for m in state.shape.setup.marks if m.mold == state.mold.name)
        end = "bow" if state.job.setup.zero_end is HullEnd.BOW else "stern"
        on = state.job.setup.strongback.value
        standing = next(s for s in state.shape.schedule.standings if s.mold == mark.mold)
        more = [
            (name, state.write(value))
            for name, value in (
                ("leg, clear", standing.leg),
                ("past each rail", standing.reach),
                ("cross spall above it", standing.spall_above),
                ("post under the keel", standing.post),
            )
            if value is not None
        ]
        gap = "last mold" if mark.gap_to_next is None else state.write(mark.gap_to_next)
        return Card(
            f"Mark for mold {mark.mold}",
            f"{end} end",
            state.write(mark.from_zero),
            state.style.name,
            f"from zero to the {mark.face.value} face",
            (
                ("mold lies towards", f"the {mark.body_towards}"),
                ("gap to the next", gap),
                (f"waterline above {on}", state.write(mark.waterline_above)),
                (f"keel above {on}", state.write(mark.keel_above)),
                ("sheer mark", f"{state.write(abs(mark.sheer_above))} {'below' if mark.sheer_above < 0 else 'above'}"),
                *more,
                ("highest above floor", state.write(standing.highest)),
                ("rounding error at most", state.write_error()),
            ),
            "every mark is measured from one zero and rounded once; the gap is the spacing less one sheet, "
            "less two where the faces turn over",
            "Square each line to the centreline, not to the beam's edge. Turning or lifting a form takes enough hands.",
        )

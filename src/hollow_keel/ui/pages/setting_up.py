"""The setting-up page: where each mold goes on the beam, from one zero."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSplitter, QStackedWidget, QTabWidget, QWidget

from ...core.hull.stages import HULL
from ...core.job import HullEnd
from ...core.molds.stages import MOLDS
from ...core.settings.setup_choices import Strongback
from ...core.settings.survey import Survey
from ...core.setup.beam import Mark
from ...core.setup.judgement import with_last_survey
from ...core.setup.schedule import Standing
from ...core.setup.stages import SCHEDULE, SETUP
from ...core.units import LengthStyle, format_length
from ...drawing.end_view import end_view
from ...drawing.model import Drawing
from ...drawing.setup import setup_drawing
from ..views.bench_card import Card
from ..views.data_table import Column, DataTable
from ..views.drawing_view import DrawingView
from .as_built import AsBuilt
from .page import Page, result_label
from .sighting import Sighting


def mark_key(mark: Mark) -> str:
    """The name by which a mark's mold is picked."""
    return f"mold:{mark.mold}"


def mark_columns(style: LengthStyle, standing: Mapping[str, Standing] | None = None) -> list[Column]:
    """The schedule of marks; how each mold stands where `standing` tells it."""

    def write(mm: float | None) -> str:
        return "–" if mm is None else format_length(mm, style)

    def own(name: str, field: str) -> float | None:
        value: float | None = getattr((standing or {})[name], field)
        return value

    more = [
        Column(heading, lambda m, f=field: write(own(m.mold, f)), lambda m, f=field: own(m.mold, f) or 0.0)
        for heading, field in STANDING
        if any(getattr(s, field) is not None for s in (standing or {}).values())
    ]
    return [
        Column("Mold", lambda m: m.mold, lambda m: int(m.mold)),
        Column("From zero", lambda m: write(m.from_zero), lambda m: m.from_zero),
        Column("Face on the mark", lambda m: m.face.value),
        Column("Mold lies towards", lambda m: m.body_towards),
        Column("Spacing", lambda m: write(m.spacing_to_next), lambda m: m.spacing_to_next or 0.0),
        Column("Gap to next mold", lambda m: write(m.gap_to_next), lambda m: m.gap_to_next or 0.0),
        Column("Waterline above it", lambda m: write(m.waterline_above), lambda m: m.waterline_above),
        Column("Keel above it", lambda m: write(m.keel_above), lambda m: m.keel_above),
        *more,
    ]


STANDING = (
    ("Leg", "leg"),
    ("Past each rail", "reach"),
    ("Spall above it", "spall_above"),
    ("Post under keel", "post"),
)
"""Columns that only some set-ups have: heading and what it is of how a mold stands."""
SIGHTING = 3
DRAWN = (HULL, MOLDS, SETUP, SCHEDULE)
LOW, HIGH = [215, 325], [380, 160]
"""Heights of the drawing and of what is below it."""


class SettingUpPage(Page):
    """Where each mold goes on the strongback; what was measured there; what is to be moved, and what a batten shows."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Where does each mold stand?", parent)
        self._build_settings()
        self.settings.addStretch(1)
        self.spacers = result_label("")
        self.head.addWidget(self.spacers)
        self.view = DrawingView("Molds on the strongback")
        self.view.picked.connect(self.choose_key)
        self.as_built = AsBuilt(self._surveyed)
        self.as_built.picked.connect(self.choose_key)
        self.as_built.said.connect(self.said)
        self.as_built.chosen.connect(self._show_as_built)
        self.table = DataTable("Marks from zero", mark_columns(LengthStyle()), mark_key)
        self.table.picked.connect(self.choose_key)
        self._stands: dict[str, Standing] = {}
        self.drawings = QStackedWidget()
        self.end_view = DrawingView("The mold on the strongback")
        self.end_view.has_scale_bar = False
        planned = QSplitter(Qt.Orientation.Horizontal)
        planned.addWidget(self.view)
        planned.addWidget(self.end_view)
        planned.setSizes([560, 290])
        self.drawings.addWidget(planned)
        self.drawings.addWidget(self.as_built.drawings)
        self.sighting = Sighting()
        self.sighting.picked.connect(self.choose_key)
        self.sighting.said.connect(self.said)
        self.drawings.addWidget(self.sighting.view)
        self.tabs = QTabWidget()
        self.tabs.addTab(self.table, "Marks")
        self.tabs.addTab(self.as_built.table, "Measured")
        self.tabs.addTab(self.as_built.to_do, "To move")
        self.tabs.addTab(self.sighting.controls, "Sighting")
        self.tabs.setCornerWidget(self.as_built.choices)
        self.tabs.currentChanged.connect(self._tab_changed)
        self.as_built.choices.setVisible(False)
        split = self.split = QSplitter(Qt.Orientation.Vertical)
        split.addWidget(self.drawings)
        split.addWidget(self.tabs)
        split.setSizes(LOW)
        self.body.addWidget(split, 1)

    def _build_settings(self) -> None:
        self.add("setup.zero_end")
        self.add("setup.zero_at")
        self.add("setup.first_face")
        self.add("setup.top")
        self.settings.addStretch(1)
        self.next_row()
        self.add("setup.strongback")
        self.add("setup.upright")
        self.add("setup.waterline_above")
        self.beam_fields = [
            self.add("setup.beam_width"),
            self.add("setup.beam_height"),
            self.add("setup.wedges"),
        ]
        self.table_fields = [self.add("setup.leg_spread")]
        self.rail_fields = [self.add("setup.rail_spread")]
        for field in (*self.table_fields, *self.rail_fields):
            self.show_field(field, False)

    def _surveyed(self, label: str, survey: Survey) -> None:
        """A reading was typed: the survey it belongs to changes, or is begun."""
        shape = self.state.shape
        self.edited.emit(label, with_last_survey(self.state.job, shape.setup if shape else None, survey))

    def _tab_changed(self, number: int) -> None:
        self.drawings.setCurrentIndex((0, 1, 1, 2)[number])
        self.split.setSizes(HIGH if number == SIGHTING else LOW)
        self.as_built.choices.setVisible(number in (1, 2))
        self.question.setText(
            "Where does each mold stand?" if number == 0 else "Do the molds stand where they should?"
        )
        self._show_as_built()
        self.card_changed.emit()

    def _show_as_built(self) -> None:
        if self.tabs.currentIndex() == 0:
            return
        self.as_built.show_state(self.state)
        if self.tabs.currentIndex() == SIGHTING:
            self.sighting.show_state(self.state, self.as_built.judgement)
        self.card_changed.emit()

    def refresh(self) -> None:
        state = self.state
        self.say_findings("setup")
        self._fit_fields()
        self._show_as_built()
        job = state.drawn_job
        if self.seen(state.key(*DRAWN), job.setup, job.molds, job.units, state.theme, state.mold_number):
            return
        marks = state.shape.setup.marks if state.shape else ()
        stands = state.shape.schedule.standings if state.shape else ()
        standing = self._stands = {s.mold: s for s in stands}
        self.table.show_rows(marks, mark_columns(state.style, standing))
        if state.shape is None or state.mold is None:
            for view in (self.view, self.end_view):
                view.show_drawing(Drawing("", ()), state.theme, state.style)
            self.spacers.setText("")
            return
        said = [f"{s.count} of {state.write(s.length)}" for s in state.shape.schedule.spacers]
        self.spacers.setText(
            "spacers: " + ", ".join(said[:3]) + (" …" if len(said) > 3 else "") if said else ""
        )
        key = f"mold:{state.mold.name}"
        self.view.show_drawing(setup_drawing(state.shape, state.style), state.theme, state.style)
        self.end_view.show_drawing(end_view(state.shape, state.mold, state.style), state.theme, state.style)
        self.view.mark(key)
        self.table.select(key)

    def _fit_fields(self) -> None:
        """Only the sizes of the strongback that there is."""
        setup = self.state.job.setup
        legs = setup.strongback is not Strongback.BEAM and not setup.upright
        for fields, seen in (
            (self.beam_fields, setup.strongback is Strongback.BEAM),
            (self.table_fields, legs),
            (self.rail_fields, setup.strongback is Strongback.RAILS),
        ):
            for field in fields:
                self.show_field(field, seen)

    def card(self) -> Card:
        state = self.state
        if state.shape is None or state.mold is None:
            return Card("Mark")
        if self.tabs.currentIndex() > 0:
            return self.as_built.card()
        mark = next(m for m in state.shape.setup.marks if m.mold == state.mold.name)
        end = "bow" if state.job.setup.zero_end is HullEnd.BOW else "stern"
        on = state.job.setup.strongback.value
        standing = self._stands[mark.mold]
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
            f"Mark for mold {mark.mold}", f"{end} end", state.write(mark.from_zero), state.style.name,
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
        )  # fmt: skip

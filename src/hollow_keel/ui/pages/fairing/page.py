"""The fairing page: which offsets stand out, a batten along any line, three views that follow."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QLabel, QPushButton, QSplitter, QTabWidget, QVBoxLayout, QWidget

from ....core.change import change
from ....core.errors import InputError
from ....core.fairing.doubts import Doubt
from ....core.fairing.stages import FAIRNESS, MOVED
from ....core.hull.stages import DECK, HULL, WATERLINE
from ....core.offsets.table import LABEL_WORDS, OffsetsTable, TableLine
from ....core.units import format_length
from ....drawing.lines.areas import curve_of_areas
from ....drawing.lines.plan import body_plan, buttocks, half_breadth_plan, profile, section_key
from ....drawing.model import Drawing
from ...background.later import later
from ...decide.ask import AskDialog, Asked
from ...views.batten_view import BattenView
from ...views.bench_card import Card
from ...views.data_table import DataTable
from ...views.dialogs import accepted
from ...views.drawing_view import DrawingView
from ...views.entry_table import FINEST
from ...views.fields import LengthField
from ..offsets.groups import OFFSET_GROUPS
from ..page import Page, Seen, head_button, result_label
from .cards import doubt_card, lines_card
from .columns import MEASURE_COLUMNS, doubt_columns, measure_rows, move_columns

if TYPE_CHECKING:
    from ....app.batten_state import BattenState
    from ....core.fairing.fair_lines import FairLine


def doubt_key(doubt: Doubt) -> str:
    """The name by which a doubt is picked."""
    return f"doubt:{doubt.row}"


DRAWN = (HULL, WATERLINE, DECK)


class FairingPage(Page):
    """Findings, battens and easing; every change of offsets is one step that can be undone."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Are the lines fair?", OFFSET_GROUPS, "the hull", parent)
        self.result = result_label("")
        self.head.addWidget(self.result)
        self.head.addWidget(head_button("Ease the whole hull…", "The smallest moves that make all lines fair", self.ask_ease))
        self._lines: tuple[FairLine, ...] = ()
        self._planes: dict[str, TableLine] = {}
        self._batten: BattenState | None = None
        self._lines_seen, self._moves_seen, self._measured = Seen(), Seen(), Seen()
        self._doubts_shown: object = None
        self.body_view, self.profile_view = DrawingView("Body plan"), DrawingView("Profile")
        self.plan_view = DrawingView("Half-breadth plan")
        for view in (self.body_view, self.profile_view, self.plan_view):
            view.picked.connect(self._picked)
        self._side_soon = later(self, 15, self._draw_side)
        self.batten_view = BattenView()
        self.batten_view.dragged.connect(self._batten_moved)
        self.batten_view.settled.connect(self._batten_moved)
        side = QSplitter(Qt.Orientation.Vertical)
        side.addWidget(self.profile_view)
        side.addWidget(self.plan_view)
        views = QSplitter(Qt.Orientation.Horizontal)
        views.addWidget(side)
        views.addWidget(self.body_view)
        views.setSizes([600, 330])
        self.set_drawing(views, [self.profile_view, self.body_view], [self.plan_view, self.body_view])
        self.batten_pane = self._batten_pane()
        self._build_tabs()
        self.set_drawer(self.tabs, "What stands out, and the batten")

    def _batten_pane(self) -> QWidget:
        """The batten along a line, with what is done with it."""
        self.line_box = QComboBox()
        self.line_box.setAccessibleName("Line for the batten")
        self.line_box.setMaxVisibleItems(24)
        self.line_box.activated.connect(lambda k: self.choose_line(self.line_box.itemData(k)))
        self.line_box.setMaximumWidth(270)
        self.give = LengthField("Give of the batten")
        self.give.setFixedWidth(58)
        self.give.setToolTip("How far the batten may lift off its ducks, on the whole; nothing: it touches all it is held by")
        self.give.entered.connect(self._give_entered)
        self.give.fault.connect(self.said)
        self.accept = head_button("Accept", "Move this line's offsets to the batten, in all views", self.accept_batten)
        self.reset = head_button("Put back", "All ducks held at their offsets again", self.put_back)
        row = QHBoxLayout()
        row.setContentsMargins(14, 4, 12, 0)
        for text, widget in (("Batten along", self.line_box), ("giving", self.give)):
            label = QLabel(text)
            label.setObjectName("small")
            label.setBuddy(widget)
            row.addWidget(label)
            row.addWidget(widget)
        row.addStretch(1)
        row.addWidget(self.accept)
        row.addWidget(self.reset)
        pane = QWidget()
        column = QVBoxLayout(pane)
        column.setContentsMargins(0, 0, 0, 4)
        column.setSpacing(2)
        column.addLayout(row)
        column.addWidget(self.batten_view, 1)
        return pane

    def _build_tabs(self) -> None:
        self.doubts = DataTable("Offsets that stand out", [], doubt_key)
        self.doubts.picked.connect(self._doubt_picked)
        self.moved = DataTable("What fairing moved", [], lambda m: f"move:{m.row}")
        self.tabs = QTabWidget()
        self.tabs.setDocumentMode(True)
        self.mend = QPushButton("Take the fair value")
        self.mend.setToolTip("Write the fair value of the selected row into the table, rounded")
        self.mend.clicked.connect(self.take_fair)
        self.from_here = QPushButton("Count from here")
        self.from_here.setToolTip("Forget what the offsets were before: the list of what was moved begins anew")
        self.from_here.clicked.connect(self.count_from_here)
        corner = QWidget()
        row = QHBoxLayout(corner)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.from_here)
        row.addWidget(self.mend)
        self.tabs.setCornerWidget(corner)
        self.tabs.currentChanged.connect(self._tab_changed)
        self.tabs.addTab(self.doubts, "What stands out")
        self.tabs.setTabToolTip(
            0, "Offsets that do not agree with all their neighbours, worst first. Look at the drawing before you believe it."
        )
        self.tabs.addTab(self.batten_pane, "The batten")
        self.tabs.addTab(self.moved, "What fairing moved")
        self.measures = DataTable("Measures of the lines", [], lambda r: r[0])
        self.areas = DrawingView("Curve of areas")
        self.areas.has_scale_bar = False
        self.areas.picked.connect(self._picked)
        sections = QSplitter(Qt.Orientation.Horizontal)
        sections.addWidget(self.measures)
        sections.addWidget(self.areas)
        sections.setSizes([420, 420])
        self.tabs.addTab(sections, "Sections and measures")
        self._tab_changed(0)
        self.doubts.activated.connect(lambda _: self.tabs.setCurrentWidget(self.batten_pane))

    def _tab_changed(self, _tab: int) -> None:
        shown = self.tabs.currentWidget()
        self.mend.setVisible(shown is self.doubts)
        self.from_here.setVisible(shown is self.moved)

    # -- doubts ------------------------------------------------------------------------------------

    def current_doubt(self) -> Doubt | None:
        """The doubt of the selected row."""
        if self.state.fairness is None:
            return None
        key = self.doubts.current_key()
        return next((d for d in self.state.fairness.doubts if doubt_key(d) == key), None)

    def _doubt_picked(self, _key: str) -> None:
        doubt = self.current_doubt()
        if doubt is not None:
            self._mark_station(doubt.written.station)
            row = doubt.row
            own = [line for line in self._lines if row in line.rows and line.which == doubt.which]
            if own:
                self.choose_line(own[0].key)
            self.card_changed.emit()

    def take_fair(self) -> None:
        """Write the selected doubt's fair value into the table, as one step."""
        doubt = self.current_doubt()
        rows = self.state.job.offsets.rows
        if doubt is None or not self.state.judged or rows[doubt.row].model_copy(update={"notes": {}}) != doubt.written:
            self.said.emit("Select an offset in the list first.")
            return
        step = self.state.style.step_mm
        value = round(getattr(doubt.fair, doubt.which) / step) * step
        changed = doubt.written.model_copy(update={doubt.which: value})
        table = self.state.job.offsets.with_row(doubt.row, changed)
        self._faired(f"fair value in row {doubt.row + 1}", table)

    # -- the batten ------------------------------------------------------------------------------------

    def choose_line(self, key: str) -> None:
        """Spring a batten along another line."""
        from ....app.batten_state import BattenState

        line = self._line(key)
        self._batten = BattenState(line) if line is not None else None
        self.line_box.setCurrentIndex(self.line_box.findData(key))
        name = self._name(line) if line is not None else ""
        self.batten_view.show_batten(self._batten, name, self.state.theme, self.state.style)
        self._batten_moved()

    def _line(self, key: str) -> FairLine | None:
        """A line through offsets, or one along a plane, measured when it is wanted."""
        from ....core.fairing.plane_lines import plane_line

        if key in self._planes:
            return plane_line(self.state.job.offsets, self._planes[key])
        return next((line for line in self._lines if line.key == key), None)

    def _batten_moved(self) -> None:
        changed = self._batten is not None and self._batten.changed
        give = self._batten.give if self._batten is not None else 0.0
        self.give.show_length(give or None, self.state.style, "none")
        self.accept.setEnabled(changed)
        self.reset.setEnabled(changed)

    def _give_entered(self, mm: float) -> None:
        if self._batten is not None:
            self._batten.set_give(mm)
            self.batten_view.update()
            self._batten_moved()

    def put_back(self) -> None:
        """All ducks back to their offsets."""
        if self._batten is not None:
            self._batten.reset()
            self.batten_view.update()
            self._batten_moved()

    def accept_batten(self) -> None:
        """Move the line's offsets to the batten."""
        if self._batten is None:
            return
        try:
            table = self._batten.accepted(self.state.job.offsets, self.state.style.step_mm)
        except InputError as error:
            self.said.emit(str(error))
            return
        self._faired(f"batten along the {self._name(self._batten.line)}", table)

    def _fill_lines(self) -> None:
        from ....core.fairing.fair_lines import fair_lines
        from ....core.fairing.plane_lines import plane_key, planes_of

        kept = self._batten.line.key if self._batten else "sheer:height"
        self._lines = fair_lines(self.state.job.offsets)
        level = self.state.shape.waterline if self.state.shape is not None else 0.0
        self._planes = {plane_key(plane): plane for plane in planes_of(self.state.job.offsets, level)}
        lengthwise = [line for line in self._lines if not line.across]
        sections = [line for line in self._lines if line.across]
        named = [(line.key, self._name(line)) for line in lengthwise]
        named += [(key, self._plane_name(plane)) for key, plane in self._planes.items()]
        named += [(line.key, self._name(line)) for line in sections]
        keys, names = [key for key, _ in named], [name for _, name in named]
        if names != [self.line_box.itemText(k) for k in range(self.line_box.count())]:
            self.line_box.clear()
            for name, key in zip(names, keys, strict=True):
                self.line_box.addItem(name, key)
        self.choose_line(kept if kept in keys else (keys[0] if keys else ""))

    def _plane_name(self, plane: TableLine) -> str:
        kind = {"wl": "waterline"}.get(plane.kind.value, plane.kind.value)
        angle = f" @ {plane.angle:g}°" if plane.angle else ""
        return f"{kind} {self._exact(plane.level)}{angle}"

    def _name(self, line: FairLine) -> str:
        """A line's name, in the builder's units."""
        if line.plane is not None:
            return self._plane_name(line.plane)
        if not line.across:
            return line.name
        what = "deck" if line.key.startswith("deck-section") else "section"
        return f"{what} at {self._exact(self.state.job.offsets.rows[line.rows[0]].station)}"

    # -- easing ----------------------------------------------------------------------------------------

    def ask_ease(self) -> None:
        """Ask how far an offset may move, and ease."""
        from ....core.fairing.ease import sound_most

        style = self.state.style
        start = 25.4 / 8 if style.step_mm > 1 or style.unit.value != "mm" else 3.0
        name = "No offset moves the skin by more than"
        dialog = AskDialog(
            "Ease the whole hull",
            [Asked(name, start)],
            style,
            self.state.theme,
            parent=self,
            check=lambda values: sound_most(values[name]),
        )
        if accepted(dialog):
            self.ease(dialog.values[name])

    def ease(self, most: float) -> None:
        """The smallest moves, none over `most` mm of skin, that make all lines fair; as one step."""
        from ....core.fairing.ease import eased, moved

        table = self.state.job.offsets
        shape = self.state.drawn_from(table)
        if shape is None:
            self.said.emit("The lines must be drawn first.")
            return
        found = eased(table, shape.hull, most, self.state.style.step_mm)
        moves = found.moves
        if not moves:
            self.said.emit("Nothing to move: every offset lies within the tape's rounding of a fair line.")
            return
        self.tabs.setCurrentWidget(self.moved)
        self._faired("ease the whole hull", moved(table, moves))
        said = f"{len(moves)} offsets moved; the greatest by {self.state.write(max(abs(m.by) for m in moves), unit=True)}."
        if found.held:
            row, by = table.rows[found.held[0][0]], abs(found.held[0][1])
            said += (
                f" That is not enough to make the lines fair: {len(found.held)} would have to move farther, most of all the "
                f"{LABEL_WORDS[row.label]} at {self._exact(row.station)}, by {self.state.write(by, unit=True)}. Look at "
                f"these offsets first."
            )
        self.said.emit(said)

    def _exact(self, mm: float) -> str:
        """An offset as it was given, not at the rounding of the shop's tape."""
        return format_length(mm, FINEST.get(self.state.style.unit, self.state.style))

    def _faired(self, label: str, table: OffsetsTable) -> None:
        """Ask for a fairing edit; what the offsets were before the first of them is kept in the job."""
        job = self.state.job
        self.edited.emit(label, change(job, "", offsets=table, unfaired=job.unfaired or job.offsets))

    def count_from_here(self) -> None:
        """Take the offsets as they are for the ones that fairing begins from."""
        self.edited.emit("count moves from here", change(self.state.job, "", unfaired=None))

    def _show_moves(self) -> None:
        state = self.state
        if self._moves_seen(state.key(MOVED), state.job.units):
            return
        moves = state.known.values[MOVED.id].value if MOVED.id in state.known.values else ()
        self.moved.show_rows(moves or (), move_columns(self._exact, self.state.write))
        title = "What fairing moved" if moves is not None else "What fairing moved (the table has other points since)"
        self.tabs.setTabText(self.tabs.indexOf(self.moved), f"{title} ({len(moves)})" if moves else title)

    # -- showing --------------------------------------------------------------------------------------

    def _mark_station(self, x: float) -> None:
        for view in (self.body_view, self.profile_view, self.plan_view):
            view.mark(section_key(x))

    def _picked(self, key: str) -> None:
        self.tabs.setCurrentWidget(self.batten_pane)
        kind, _, name = key.partition(":")
        if kind == "station":
            self._mark_station(float(name))
            self.choose_line(f"section:{float(name)!r}")
        elif kind in ("wl", "buttock", "diagonal"):
            self.choose_line(key)

    def refresh(self) -> None:
        state = self.state
        self.say_findings("fairing")
        if not self._lines_seen(state.job.offsets.without_notes, state.job.units, state.theme):
            self._fill_lines()
        self._show_doubts()
        self._show_moves()
        self._show_measures()
        if self.seen(state.key(*DRAWN), state.drawn_job.offsets.lines, state.job.units, state.theme):
            return
        if state.shape is None:
            for view in (self.body_view, self.profile_view, self.plan_view):
                view.show_drawing(Drawing("", ()), state.theme, state.style)
            return
        self.body_view.show_drawing(body_plan(state.shape), state.theme, state.style)
        self._side_soon.start()

    def _draw_side(self) -> None:
        """Profile and half-breadth plan, in a turn of their own so that no turn is long."""
        state = self.state
        if state.shape is None:
            return
        side = profile(state.shape)
        side = Drawing(side.title, (*side.strokes, *buttocks(state.shape)), side.labels)
        self.profile_view.show_drawing(side, state.theme, state.style)
        self.plan_view.show_drawing(half_breadth_plan(state.shape), state.theme, state.style)

    def prepare_picture(self) -> None:
        self._draw_side()

    def _show_doubts(self) -> None:
        state = self.state
        fairness = state.fairness
        known = fairness is not None and state.judged
        doubts = fairness.doubts if fairness is not None and state.judged else ()
        count = len(doubts)
        points = len(state.job.offsets.rows)
        if not state.job.offsets.rows:
            words = "no offsets yet"
        elif not known:
            words = "looking…" if state.problem_stage != "offsets" else "not looked at"
        else:
            words = f"{count} of {points} offsets stand out" if count else f"none of {points} offsets stands out"
        self.result.setText(words)
        self.mend.setEnabled(bool(count))
        if (doubts, state.style) == self._doubts_shown:  # found again as they were: the selection stays
            return
        self._doubts_shown = (doubts, state.style)
        self.doubts.show_rows(doubts, doubt_columns(self._exact))
        header = self.doubts.horizontalHeader()
        header.setSectionResizeMode(header.count() - 1, QHeaderView.ResizeMode.ResizeToContents)
        if doubts:
            self.doubts.select(doubt_key(doubts[0]))
            self._doubt_picked("")

    def _show_measures(self) -> None:
        """Sections and rules, whenever the lines were looked over anew, doubts or none."""
        fairness, style = self.state.fairness, self.state.style
        if fairness is None or self._measured(self.state.key(FAIRNESS), self.state.job.units, self.state.theme):
            return
        self.measures.show_rows(measure_rows(fairness, self.state), MEASURE_COLUMNS)
        self.areas.show_drawing(curve_of_areas(fairness.hydro), self.state.theme, style)

    def card(self) -> Card:
        state = self.state
        doubt = self.current_doubt() if state.judged else None
        if doubt is not None:
            return doubt_card(doubt, self._exact, state.style)
        return lines_card(state.fairness.hydro, state) if state.fairness is not None else Card("Lines")

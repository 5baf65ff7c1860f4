"""The offsets page: the table, the body plan and the profile that follow it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QStandardItemModel
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QSizePolicy,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from ....app.typed import is_as_typed, job_with_typed, read_sheet, still_wanted
from ....core.change import change
from ....core.errors import InputError
from ....core.hull.stages import DECK, HULL, WATERLINE
from ....core.offsets.table import END_LABELS, LABEL_WORDS, STATION_LABELS, OffsetRow, OffsetsTable
from ....core.offsets.typed_sheet import Dot, TypedSheet
from ....core.offsets.written import written
from ....core.words import counted
from ....drawing.lines.decisions import lines_decisions
from ....drawing.lines.plan import body_plan, profile, section_key
from ....drawing.lines.typed_so_far import body_so_far, not_drawn_yet, profile_so_far
from ...background.later import later
from ...incoming.sheet_table import SheetModel, SheetTable
from ...views.bench_card import Card
from ...views.drawing_view import DrawingView
from ...views.entry_table import EntryTable
from ...views.foot import Remark
from ...views.lines_table import LinesModel, LinesTableView
from ...views.offsets_table import OffsetsModel, OffsetsTableView
from ...views.sentences import sentence
from ..page import Page, head_button
from .groups import OFFSET_GROUPS
from .lines import LinesAndStations
from .ways_in import WaysIn

DRAWN = (HULL, WATERLINE, DECK)
BY_POINTS, BY_LINES, AS_TYPED = 0, 1, 2
MOST_LISTED = 30
PROFILE_AFTER_MS = 15
TYPING_TALL = 400
"""Of the drawer while a table is typed, pixels: a dozen rows."""


class OffsetsPage(Page):
    """Typing, pasting and importing offsets, by points or by lines; the drawings follow as they change."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Do these offsets make the hull you mean?", OFFSET_GROUPS, "the hull", parent)
        self.head.addWidget(
            head_button("Import…", "Read a table, a drawing or a scanned hull from a file", lambda: self.command.emit("import"))
        )
        self.model = OffsetsModel(self._table_changed, self)
        self.table = OffsetsTableView(self.model)
        self.lines_model = LinesModel(self._table_changed, self)
        self.lines_table = LinesTableView(self.lines_model)
        for table in (self.table, self.lines_table):
            table.cell_chosen.connect(self._cell_chosen)
            table.fault.connect(self.said)
        self.body_view, self.profile_view = DrawingView("Body plan"), DrawingView("Profile")
        for view in (self.body_view, self.profile_view):
            view.picked.connect(self._picked)
            self.decides_on(view)
        self._drawings = QSplitter(Qt.Orientation.Horizontal)
        self._drawings.addWidget(self.profile_view)
        self._drawings.addWidget(self.body_view)
        self._drawings.setSizes([560, 380])
        self._stack = QStackedWidget()
        self._stack.addWidget(self._drawings)
        self.ways_in = WaysIn(self.command.emit)
        self._stack.addWidget(self.ways_in)
        views = [self.profile_view, self.body_view]
        self.set_drawing(self._stack, views, views)
        self._tables = QStackedWidget()
        self.sheet_model = SheetModel(self._typed, self)
        self.sheet_table = SheetTable(self.sheet_model)
        for own in (self.table, self.lines_table, self.sheet_table):
            self._tables.addWidget(own)
        filled = QWidget()
        layout = QVBoxLayout(filled)
        layout.setContentsMargins(4, 2, 4, 2)
        layout.setSpacing(4)
        self.lines_and_stations = LinesAndStations(self)
        layout.addLayout(self._tools())
        layout.addWidget(self._tables, 1)
        self.set_drawer(filled, "Table of offsets")
        self._profile_soon = later(self, PROFILE_AFTER_MS, self._draw_profile)
        self._kept_by_lines: bool | None = None
        self._typing = False
        self._begun = False
        self.show_habit(BY_POINTS)

    def _button(self, text: str, slot: Callable[[], object], tip: str, row: QHBoxLayout) -> QPushButton:
        button = head_button(text, tip, slot)
        row.addWidget(button)
        return button

    def _tools(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self.habit = QComboBox()
        self.habit.setAccessibleName("Table by points or by lines")
        self.habit.addItems(["Table by points", "Table by lines", "Table as typed"])
        self.habit.setToolTip("A row for each point, or the traditional table: lines down, stations across")
        self.habit.activated.connect(self.show_habit)
        row.addWidget(self.habit)
        self.as_written = QCheckBox("as written")
        self.as_written.setToolTip("Show offsets as they were typed or read, in whatever unit that was")
        self.as_written.toggled.connect(lambda _: self.refresh())
        row.addWidget(self.as_written)
        self.unseen = QPushButton()
        self.unseen.setObjectName("small")
        self.unseen.setToolTip("Points that are not on a line of this table: which they are, and the way to them")
        self.unseen.setMenu(QMenu(self.unseen))
        self.unseen.menu().aboutToShow.connect(self._list_unseen)
        row.addWidget(self.unseen)
        row.addStretch(1)
        self._for_points = [self._button("Add point", self._add, "A new row below the current one (Ins)", row)]
        self.measure = self._button(
            "Measure on lines",
            self.lines_and_stations.measure_on_lines,
            "Write this hull down anew on waterlines and buttocks at round heights and half-breadths",
            row,
        )
        add = self._menu_button(
            "Add",
            (
                ("A station, measured on the lines…", self.lines_and_stations.ask_station),
                ("A line to measure on…", self.lines_and_stations.ask_line),
            ),
        )
        self._for_lines = [self.measure]
        take_out = self._menu_button(
            "Take out",
            (
                ("The selected points", self._delete),
                ("The current line and its points", self.lines_and_stations.take_out_line),
                ("The current station", self.lines_and_stations.take_out_station),
            ),
        )
        self._for_finished: list[QWidget] = [
            add,
            take_out,
            self._button("Note…", self.ask_note, "A note on the current cell", row),
            self.as_written,
        ]
        for button in (add, take_out):
            row.insertWidget(row.count() - 1, button)
        self._for_typed = [
            self._button("Add row", self.sheet_table.add_row, "An empty row above the current one (Ins)", row),
            self._button("Take out rows", self.sheet_table.take_out_rows, "The rows of the selected cells", row),
            self._button("It is finished", self._finish_typing, "Keep the offsets; the sheet they were typed in goes", row),
        ]
        return row

    def _menu_button(self, text: str, actions: Iterable[tuple[str, Callable[[], None]]]) -> QPushButton:
        button = QPushButton(text)
        menu = QMenu(button)
        for name, slot in actions:
            menu.addAction(name, slot)
        button.setMenu(menu)
        return button

    @property
    def current_table(self) -> EntryTable:
        """The table that is shown; the one by points while the typed one is."""
        return self.lines_table if self._tables.currentIndex() == BY_LINES else self.table

    # -- typed from nothing --------------------------------------------------------------------------------

    def _typed(self, label: str, sheet: TypedSheet) -> None:
        """A cell of the typed table has another text."""
        self.edited.emit(label, job_with_typed(self.state.job, sheet))

    def _finish_typing(self) -> None:
        """The offsets stay, the sheet goes."""
        if self.state.job.offsets.rows:
            self.edited.emit("the table is finished", change(self.state.job, "", typed=None))
        else:
            self.said.emit("There are no offsets yet: type keel and sheer of three stations first.")

    def _show_typed(self) -> bool:
        """The typed table, while the offsets are still what it says; whether it is the one on show."""
        sheet = self.state.job.typed
        found = read_sheet(sheet) if sheet is not None else None
        typed = found is not None and is_as_typed(self.state.job, found)
        model = self.habit.model()
        assert isinstance(model, QStandardItemModel)
        model.item(AS_TYPED).setEnabled(typed)
        if sheet is None or found is None or not typed:
            self._typing = False
            if self._tables.currentIndex() == AS_TYPED:
                self.show_habit(BY_LINES if self.state.job.offsets.lines else BY_POINTS)
            return False
        self.sheet_model.theme = self.state.theme
        self.sheet_model.show_sheet(sheet, found)
        if not self._typing:
            self._typing = True
            self.show_habit(AS_TYPED)
            self.open_drawer(True, max(TYPING_TALL, self.drawer_height))
            QTimer.singleShot(0, self.sheet_table, self.sheet_table.begin_typing)
            return True
        if self._tables.currentIndex() != AS_TYPED:
            return False
        wanted = still_wanted(found)
        self.note.say([Remark(sentence(text, self.state.style), mark="●") for text in wanted])
        return True

    def show_habit(self, habit: int) -> None:
        """The table by points, by lines, or as it is being typed."""
        self.habit.setCurrentIndex(habit)
        self._tables.setCurrentIndex(habit)
        by_lines = habit == BY_LINES
        typed = habit == AS_TYPED
        for button in self._for_points:
            button.setVisible(habit == BY_POINTS)
        for button in self._for_typed:
            button.setVisible(typed)
        for widget in self._for_finished:
            widget.setVisible(not typed)
        for button in self._for_lines:
            button.setVisible(by_lines)
        self.refresh()

    def _add(self) -> None:
        self.table.add_row()

    def _delete(self) -> None:
        self.table.clear_cells()

    def change_rows(self, label: str, rows: tuple[OffsetRow, ...]) -> None:
        self._table_changed(label, self.state.job.offsets.model_copy(update={"rows": rows}))

    def _table_changed(self, label: str, table: OffsetsTable) -> None:
        self.edited.emit(label, change(self.state.job, "", offsets=table))

    def attempt(self, label: str, work: Callable[[OffsetsTable], OffsetsTable]) -> None:
        """One change of the table; what cannot be is said."""
        try:
            self._table_changed(label, work(self.state.job.offsets))
        except InputError as error:
            self.said.emit(str(error))

    def ask_note(self) -> None:
        """A note on the current cell."""
        self.current_table.ask_note()

    def fill_down(self) -> None:
        """The uppermost selected cell into those below."""
        self.current_table.fill_down()

    # -- linking ---------------------------------------------------------------------------------------------

    def station_of(self, row: int, column: int) -> float | None:
        if self.current_table is self.lines_table:
            stations = self.lines_model.read.stations
            return stations[column] if 0 <= column < len(stations) else None
        if 0 <= row < len(self.model.rows) and self.model.rows[row].label in STATION_LABELS:
            return self.model.rows[row].station
        return None

    def _cell_chosen(self, row: int, column: int) -> None:
        x = self.station_of(row, column)
        if x is not None:
            self.body_view.mark(section_key(x))
            self.profile_view.mark(section_key(x))
        entry = self.current_table.entry
        valid = 0 <= row < entry.rowCount() and 0 <= column < entry.columnCount()
        behind = entry.row_behind(row, column) if valid else None
        text = written(self.model.rows[behind[0]], behind[1]) if behind and behind[1] != "label" else ""
        note = entry.note(row, column) if valid else ""
        parts = [f"written {text}" if text else "", f"note: {note}" if note else ""]
        self.said.emit("   ".join(part for part in parts if part))

    def _picked(self, key: str) -> None:
        if self.current_table is self.lines_table:
            for k, x in enumerate(self.lines_model.read.stations):
                if section_key(x) == key:
                    row = max(self.lines_table.currentIndex().row(), 0)
                    self.lines_table.setCurrentIndex(self.lines_model.index(row, k))
            return
        for row, offset in enumerate(self.model.rows):
            if section_key(offset.station) == key:
                self.table.setCurrentIndex(self.model.index(row, 2))
                self.table.scrollTo(self.model.index(row, 2), self.table.ScrollHint.PositionAtTop)
                return

    def refresh(self) -> None:
        state = self.state
        table = state.job.offsets
        begun = bool(table.rows) or state.job.typed is not None
        self._stack.setCurrentIndex(0 if begun else 1)
        # it is tall: out of sight it must not keep the drawer from being so
        self.ways_in.setSizePolicy(*(2 * [QSizePolicy.Policy.Ignored if begun else QSizePolicy.Policy.Preferred]))
        self.question.setText("Do these offsets make the hull you mean?" if begun else "What have you got?")
        self.drawer_button.setVisible(begun)
        if not begun:
            self.open_drawer(False)
        elif not self._begun:
            self.open_drawer(True)
        self._begun = begun
        typed = self._show_typed()
        by_lines = bool(table.lines)
        if table.rows and by_lines != self._kept_by_lines and not typed:  # a table opens in the habit it is kept in
            self._kept_by_lines = by_lines
            if by_lines:
                self.show_habit(BY_LINES)
                return
        self.measure.setVisible(self.current_table is self.lines_table and not by_lines)
        shown = self.current_table.entry
        shown.theme = state.theme
        self.model.show_table(table, state.style, self.as_written.isChecked())
        if shown is self.lines_model:
            self.lines_model.show_table(table, state.style, self.as_written.isChecked())
        if not typed:
            self.say_findings("offsets")
        self._say_unseen()
        dots = self._dots()
        if self.seen(state.key(*DRAWN), dots, state.drawn_job.offsets.lines, state.job.units, state.theme):
            return
        drawn = body_so_far(dots)
        if state.shape is not None:
            own = lines_decisions(body_plan(state.shape), state.shape, state.style)
            drawn = replace(own, strokes=(*own.strokes, *drawn.strokes))
            self.body_view.job = state.shape.job
        self.body_view.show_drawing(drawn, state.theme, state.style)
        self._profile_soon.start()

    def _dots(self) -> tuple[Dot, ...]:
        """Points of the table that is being typed that the hull has not: all of them as long as there is none."""
        sheet, shape = self.state.job.typed, self.state.shape
        if sheet is None or not self._typing:
            return ()
        dots = read_sheet(sheet).dots
        return dots if shape is None else not_drawn_yet(dots, (s.x for s in shape.lines.stations))

    def _draw_profile(self) -> None:
        """In a turn of its own, so that no turn is long."""
        state = self.state
        drawn = profile_so_far(self._dots())
        if state.shape is not None:
            own = lines_decisions(profile(state.shape), state.shape, state.style)
            drawn = replace(own, strokes=(*own.strokes, *drawn.strokes))
            self.profile_view.job = state.shape.job
        self.profile_view.show_drawing(drawn, state.theme, state.style)

    def prepare_picture(self) -> None:
        self._draw_profile()

    def _say_unseen(self) -> None:
        """By lines, points that lie on no line and the ends of the hull are not seen: which, and the way to them."""
        unseen = self.lines_model.read.unseen if self.current_table is self.lines_table else ()
        self.unseen.setVisible(bool(unseen))
        if not unseen:
            return
        rows = self.state.job.offsets.rows
        others = sum(rows[k].label not in END_LABELS for k in unseen)
        self.unseen.setText(f"{counted(others, 'point')} not shown" if others else "the ends are not shown")

    def _list_unseen(self) -> None:
        """Each point that this table cannot show, by name; chosen, it is gone to in the table by points."""
        menu = self.unseen.menu()
        menu.clear()
        rows = self.state.job.offsets.rows
        for k in self.lines_model.read.unseen[:MOST_LISTED]:
            row = rows[k]
            place = ", ".join(self.state.write(v) for v in (row.half_breadth, row.height))
            action = menu.addAction(f"{LABEL_WORDS[row.label]} at {self.state.write(row.station)}: {place}")
            action.triggered.connect(lambda _=False, k=k: self.go_to_point(k))
        left = len(self.lines_model.read.unseen) - MOST_LISTED
        if left > 0:
            menu.addAction(f"and {left} more, in the table by points", lambda: self.show_habit(BY_POINTS))

    def go_to_point(self, row: int) -> None:
        """The table by points, at this row."""
        self.show_habit(BY_POINTS)
        self.table.setCurrentIndex(self.model.index(row, 2))
        self.table.scrollTo(self.model.index(row, 2), self.table.ScrollHint.PositionAtCenter)
        self.table.setFocus()

    def card(self) -> Card:
        state = self.state
        if state.shape is None:
            return Card("Hull", rows=(("points", str(len(state.job.offsets.rows))),))
        m = state.shape.measures
        big = state.write(m.length)
        return Card(
            "Hull",
            "both sides",
            big,
            state.style.name,
            "overall, stemhead to the after end",
            (
                ("beam", state.write(m.beam)),
                ("load waterline at", state.write(state.shape.waterline)),
                ("volume below it", state.amount(m.volume, "m³", ".3f")),
                ("fresh water", state.amount(m.volume * 1000, "kg", ".0f")),
                ("salt water", state.amount(m.volume * 1025, "kg", ".0f")),
                ("wetted area", state.amount(m.wetted_area, "m²", ".2f")),
                ("area to plank", state.amount(m.planked_area, "m²", ".2f")),
                ("stations", str(len(state.shape.lines.stations))),
                ("points", str(len(state.job.offsets.rows))),
            ),
            "one surface through every point of the table, to the outside of the planking; volume from the centre plane",
            "These are measures of shape, not an assessment of stability.",
        )

"""The offsets page: the table, the body plan and the profile that follow it."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from ...app.overrides import change
from ...core.offsets.table import OffsetRow, OffsetsTable
from ...drawing.lines_plan import body_plan, profile, section_key
from ...drawing.model import Drawing
from ..views.bench_card import Card
from ..views.drawing_view import DrawingView
from ..views.offsets_table import OffsetsModel, OffsetsTableView
from .page import Page

START_ROWS = tuple(
    OffsetRow(station=500.0 * (k // 3 + 1), label=("keel", "wl", "sheer")[k % 3], half_breadth=y, height=z)
    for k, (y, z) in enumerate(
        [(0, 120), (110, 260), (180, 420), (0, 90), (210, 220), (300, 400), (0, 110), (150, 250), (220, 430)]
    )
)


class OffsetsPage(Page):
    """Typing, pasting and importing offsets; the lines redraw as they change."""

    import_wanted = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Do these offsets make the hull you mean?", parent)
        self.add_length("Load waterline at height", "", "waterline", "none")
        self.add_choice(
            "Offsets to the",
            "offsets",
            "to_inside",
            [("outside of planking", False), ("inside of planking", True)],
        )
        self.settings.addStretch(1)
        for text, slot, tip in (
            ("Add point", self._add, "A new row below the current one (Ins)"),
            ("Delete points", self._delete, "Take out the rows of the selected cells (Del)"),
            ("Import CSV…", self.import_wanted.emit, "Read a table of offsets from a file"),
        ):
            button = QPushButton(text)
            button.setToolTip(tip)
            button.clicked.connect(slot)
            self.settings.addWidget(button)
        self.model = OffsetsModel(self._rows_changed, self)
        self.table = OffsetsTableView(self.model)
        self.table.row_chosen.connect(self._row_chosen)
        self.table.fault.connect(self.said)
        self.body_view, self.profile_view = DrawingView("Body plan"), DrawingView("Profile")
        for view in (self.body_view, self.profile_view):
            view.picked.connect(self._picked)
        drawings = QSplitter(Qt.Orientation.Vertical)
        drawings.addWidget(self.profile_view)
        drawings.addWidget(self.body_view)
        drawings.setSizes([190, 360])
        both = QSplitter(Qt.Orientation.Horizontal)
        both.addWidget(self.table)
        both.addWidget(drawings)
        both.setSizes([330, 520])
        self._stack = QStackedWidget()
        self._stack.addWidget(both)
        self._stack.addWidget(self._empty())
        self.body.addWidget(self._stack, 1)

    def _empty(self) -> QWidget:
        page = QWidget()
        layout = QVBoxLayout(page)
        layout.addStretch(1)
        text = QLabel(
            "This job has no offsets yet.\n\nImport a CSV file with a point in each row, paste rows from a spreadsheet,\n"
            "or start from three made-up stations and type your own over them."
        )
        text.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(text)
        row = QHBoxLayout()
        row.addStretch(1)
        for name, slot in (
            ("Import CSV…", self.import_wanted.emit),
            ("Paste from a spreadsheet", self.table.paste),
            ("Type them in", lambda: self._rows_changed("three stations to type over", START_ROWS)),
        ):
            button = QPushButton(name)
            button.clicked.connect(slot)
            row.addWidget(button)
        row.addStretch(1)
        layout.addLayout(row)
        layout.addStretch(2)
        return page

    def _add(self) -> None:
        self.table.add_row()

    def _delete(self) -> None:
        self.table.delete_rows()

    def _rows_changed(self, label: str, rows: tuple[OffsetRow, ...]) -> None:
        table = OffsetsTable(rows=rows, to_inside=self.state.job.offsets.to_inside)
        self.edited.emit(label, change(self.state.job, "", offsets=table))

    def _row_chosen(self, row: int) -> None:
        if 0 <= row < len(self.model.rows):
            key = section_key(self.model.rows[row].station)
            self.body_view.mark(key)
            self.profile_view.mark(key)
        self.said.emit("")

    def _picked(self, key: str) -> None:
        for row, offset in enumerate(self.model.rows):
            if section_key(offset.station) == key:
                self.table.setCurrentIndex(self.model.index(row, 2))
                self.table.scrollTo(self.model.index(row, 2), self.table.ScrollHint.PositionAtTop)
                return

    def refresh(self) -> None:
        state = self.state
        self._stack.setCurrentIndex(0 if state.job.offsets.rows else 1)
        self.model.theme = state.theme
        self.model.show_rows(state.job.offsets.rows, state.style)
        self.say_findings("offsets")
        if self.seen(state.shape, state.job.units, state.theme):
            return
        if state.shape is None:
            empty = Drawing("", ())
            self.body_view.show_drawing(empty, state.theme, state.style)
            self.profile_view.show_drawing(empty, state.theme, state.style)
            return
        self.body_view.show_drawing(body_plan(state.shape), state.theme, state.style)
        self.profile_view.show_drawing(profile(state.shape), state.theme, state.style)

    def card(self) -> Card:
        state = self.state
        if state.shape is None:
            return Card("Hull", rows=(("points", str(len(state.job.offsets.rows))),))
        m = state.shape.measures
        big = state.write(m.length)
        return Card(
            "Hull", "both sides", big, state.style.name, "overall, stemhead to the after end",
            (
                ("beam", state.write(m.beam)),
                ("load waterline at", state.write(state.shape.waterline)),
                ("volume below it", f"{m.volume:.3f} m³"),
                ("fresh water", f"{m.volume * 1000:.0f} kg"),
                ("salt water", f"{m.volume * 1025:.0f} kg"),
                ("wetted area", f"{m.wetted_area:.2f} m²"),
                ("area to plank", f"{m.planked_area:.2f} m²"),
                ("stations", str(len(state.shape.lines.stations))),
                ("points", str(len(state.job.offsets.rows))),
            ),
            "one surface through every point of the table, to the outside of the planking; volume from the centre plane",
            "These are measures of shape, not an assessment of stability.",
        )  # fmt: skip

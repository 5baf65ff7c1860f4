"""Molds laid on sheets: what sheets there are, ever better layouts, good enough when the builder says so."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from ....app.deciding import record_of, with_value
from ....app.processes.nester import NestRun
from ....core.amounts import far_length, in_amounts, quantity
from ....core.errors import InputError
from ....core.findings import mm
from ....core.molds.offcuts import largest_left_over
from ....core.molds.parts import sheet_weight
from ....core.results import Shape
from ....core.settings.layout import Layout, Sheets
from ....core.units import LengthStyle, format_length
from ....core.words import counted
from ....drawing.model import Drawing
from ....drawing.molds.sheets import empty_sheet, sheets_drawing
from ...background.beside_dialog import BesideDialog
from ...decide.groups import Doing, Group
from ...decide.lengths_dialog import LengthsDialog, Rows
from ...decide.panel import Decisions
from ...views.dialogs import accepted
from ...views.drawing_view import DrawingView
from ...views.sentences import sentence
from ...window.state import State
from ...window.theme import Theme

SECONDS = 20.0
PLYWOOD = 600.0
"""kg/m³, a usual softwood plywood (common practice, from memory)."""
SIDE = 220
MOST_MM = 20_000.0
SIZES = {"sheets.length": 50.0, "sheets.width": 50.0, "sheets.gap": 0.0, "sheets.margin": 0.0}
"""The least that each may be, mm."""


def _offcuts(state: State) -> str:
    count = len(state.job.sheets.offcuts)
    return f"{count} piece{'s' if count > 1 else ''}" if count else "none"


SHEET_GROUPS = (
    Group("Sheets", ("sheets.length", "sheets.width", Doing("Offcuts on hand", _offcuts, "offcuts"))),
    Group("Laid out", ("sheets.gap", "sheets.margin", "sheets.grain")),
)


class SheetsDialog(BesideDialog):
    """`layout_now` is the layout shown, `sheets` what was asked for; OK takes both into the job."""

    def __init__(self, shape: Shape, style: LengthStyle, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(style, parent)
        self.setWindowTitle("Molds on sheets")
        self.shape, self.theme = shape, theme
        self.parts = shape.parts
        self.sheets: Sheets = shape.job.sheets
        self.layout_now: Layout | None = shape.job.layout
        self.job = shape.job
        self.decisions = Decisions(SHEET_GROUPS, "sheets")
        self.decisions.tried.connect(self.put)
        self.decisions.kept.connect(self.put)
        self.decisions.left.connect(self.show_now)
        self.decisions.said.connect(self._say)
        self.decisions.doing.connect(lambda _: self.ask_offcuts())
        self.decisions.setFixedWidth(SIDE)
        self.view = DrawingView("Sheets")
        self.view.tried.connect(self.put)
        self.view.kept.connect(self.put)
        self.view.left.connect(self.show_now)
        self.view.said.connect(self._say)
        self.begin = QPushButton("Lay out")
        self.begin.clicked.connect(self.start)
        self.enough = QPushButton("Good enough")
        self.enough.clicked.connect(self.stop)
        self.keep = QPushButton("Keep this layout")
        self.keep.clicked.connect(self.accept)
        leave = QPushButton("Cancel")
        leave.clicked.connect(self.reject)
        layout = QVBoxLayout(self)
        halves = QHBoxLayout()
        halves.addWidget(self.view, 1)
        halves.addWidget(self.decisions)
        layout.addLayout(halves, 1)
        layout.addWidget(self.said)
        layout.addLayout(self.foot_with((self.begin, self.enough, self.keep, leave)))
        self.resize(1100, 680)
        self.show_now()

    def _say(self, text: str) -> None:
        self.said.setText(sentence(text, self.style_of_lengths))

    def put(self, path: str, value: Any) -> None:
        """Other sheets; what is no size for one is said, and nothing changes."""
        try:
            if path in SIZES and not SIZES[path] <= value < MOST_MM:
                label = record_of(path).setting.label
                raise InputError("this is no size for a sheet", label, mm(value), "Type it again.")
            self.job = with_value(self.job, path, value)
        except InputError as error:
            self._say(str(error))
            return
        self.sheets = self.job.sheets
        self._show_sheets()

    def ask_offcuts(self) -> None:
        """Ask for pieces on hand, a row for each."""

        def sound(rows: Rows) -> None:
            for long, wide in rows:
                if not (0 < long < MOST_MM and 0 < wide < MOST_MM):
                    raise InputError("this is no size for an offcut", value=mm(max(long, wide)), mend="Type it again.")

        words = "Pieces on hand: they are used before whole sheets."
        now = self.sheets.offcuts
        dialog = LengthsDialog("Offcuts", words, ["Long", "Wide"], now, self.style_of_lengths, sound, self)
        if accepted(dialog):
            self.put("sheets.offcuts", tuple((long, wide) for long, wide in dialog.given))

    def start(self) -> None:
        """Begin to lay out."""
        self.stop()
        self.layout_now = None
        self.begin_work(NestRun(self.parts.flat, self.sheets, SECONDS))

    def _show_sheets(self) -> None:
        """What is asked for: beside the drawing, and on it as long as nothing is laid yet."""
        self.decisions.show_state(State(self.job, theme=self.theme))
        self.view.job = self.job
        if self.layout_now is None:
            drawing = empty_sheet(self.sheets, self.style_of_lengths)
            self.view.show_drawing(drawing, self.theme, self.style_of_lengths)

    def take(self, value: Layout) -> None:
        """A better layout."""
        self.layout_now = value

    def show_now(self) -> None:
        """The layout there is, and what it comes to."""
        self._show_sheets()
        self.begin.setEnabled(not self.running)
        self.enough.setEnabled(self.running)
        self.bar.setVisible(self.running)
        layout = self.layout_now
        self.keep.setEnabled(layout is not None and not self.stale)
        if layout is None:
            self.said.setText(f"{counted(len(self.parts.parts), 'part')}. Press Lay out.")
            return
        drawing = sheets_drawing(self.shape, layout) if not self.stale else Drawing("", ())
        self.view.show_drawing(drawing, self.theme, self.style_of_lengths)
        if self.stale:
            self.said.setText("The molds have changed since they were laid out. Lay them out again.")
            return
        told = self.shape.job.units.told_in
        weight = sheet_weight(self.parts.parts, self.shape.job.molds.thickness, PLYWOOD)
        how = "" if layout.shapes else " (as rectangles; looking for better)" if self.running else " (as rectangles)"
        cut = sum(part.cut_length for part in self.parts.parts) / 1000
        sheets = f"{counted(layout.count, 'sheet')}" + (
            f" and {len(layout.offcuts)} offcut{'s' if len(layout.offcuts) > 1 else ''}" if layout.offcuts else ""
        )
        heavy, dense = (in_amounts(quantity(own, unit, ".0f"), told) for own, unit in ((weight, "kg"), (PLYWOOD, "kg/m³")))
        text = (
            f"{sheets} for {counted(len(self.parts.parts), 'part')}{how}; {layout.used:.0%} of them is parts, "
            f"about {heavy} at {dense}; "
            f"{far_length(1000 * cut, self.style_of_lengths)} to cut."
        )
        if not self.running and layout.count:
            left = largest_left_over(layout, self.parts.flat, layout.count - 1)
            long, wide = (format_length(side, self.style_of_lengths, unit=True) for side in left)
            text += f" Left over on the last sheet: {long} by {wide}."
        self.said.setText(text)

    @property
    def stale(self) -> bool:
        """Whether the layout shown was made of other parts than there are now."""
        return self.layout_now is not None and self.layout_now.of != self.parts.fingerprint

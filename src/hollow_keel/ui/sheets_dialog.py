"""Molds laid on sheets: what sheets there are, ever better layouts, good enough when the builder says so."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from ..app.nester import NestRun
from ..core.errors import InputError
from ..core.findings import mm
from ..core.molds.offcuts import largest_left_over
from ..core.molds.parts import sheet_weight
from ..core.results import Shape
from ..core.settings.layout import Layout, Sheets
from ..core.units import LengthStyle, format_length, parse_length
from ..drawing.model import Drawing
from ..drawing.sheets import sheets_drawing
from .beside_dialog import BesideDialog
from .decide.lengths_dialog import LengthsDialog, Rows
from .dialogs import accepted
from .sentences import sentence
from .theme import Theme
from .views.drawing_view import DrawingView

SECONDS = 20.0
PLYWOOD = 600.0
"""kg/m³, a usual softwood plywood (common practice, from memory)."""
FIELDS = (("length", "Sheets long"), ("width", "wide"), ("gap", "gap between parts"), ("margin", "margin"))


class SheetsDialog(BesideDialog):
    """`layout_now` is the layout shown, `sheets` what was asked for; OK takes both into the job."""

    def __init__(self, shape: Shape, style: LengthStyle, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(style, parent)
        self.setWindowTitle("Molds on sheets")
        self.shape, self.theme = shape, theme
        self.parts = shape.parts
        self.sheets: Sheets = shape.job.sheets
        self.layout_now: Layout | None = shape.job.layout
        row = QHBoxLayout()
        self.fields: dict[str, QLineEdit] = {}
        for name, label in FIELDS:
            box = QLineEdit(format_length(getattr(self.sheets, name), style))
            box.setAccessibleName(label)
            box.setFixedWidth(84)
            self.fields[name] = box
            row.addWidget(QLabel(label))
            row.addWidget(box)
        self.grain = QCheckBox("grain upright in the molds")
        self.grain.setChecked(self.sheets.grain)
        row.addWidget(self.grain)
        self.offcuts: tuple[tuple[float, float], ...] = self.sheets.offcuts
        self.offcuts_button = QPushButton()
        self.offcuts_button.setToolTip("Pieces on hand that are used before whole sheets")
        self.offcuts_button.clicked.connect(self.ask_offcuts)
        row.addWidget(self.offcuts_button)
        row.addStretch(1)
        self.view = DrawingView("Sheets")
        self.begin = QPushButton("Lay out")
        self.begin.clicked.connect(self.start)
        self.enough = QPushButton("Good enough")
        self.enough.clicked.connect(self.stop)
        self.keep = QPushButton("Keep this layout")
        self.keep.clicked.connect(self.accept)
        leave = QPushButton("Cancel")
        leave.clicked.connect(self.reject)
        foot = QHBoxLayout()
        foot.addWidget(self.bar, 1)
        for button in (self.begin, self.enough, self.keep, leave):
            foot.addWidget(button)
        layout = QVBoxLayout(self)
        layout.addLayout(row)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.said)
        layout.addLayout(foot)
        self.resize(1100, 680)
        self.show_now()

    def ask_offcuts(self) -> None:
        """Ask for pieces on hand, a row for each."""
        found: list[tuple[float, float]] = []

        def sound(rows: Rows) -> None:
            for long, wide in rows:
                if not (0 < long < 20_000 and 0 < wide < 20_000):
                    raise InputError(
                        "this is no size for an offcut", value=mm(max(long, wide)), mend="Type it again."
                    )
            found[:] = [(long, wide) for long, wide in rows]

        words = "Pieces on hand: they are used before whole sheets."
        dialog = LengthsDialog(
            "Offcuts", words, ["Long", "Wide"], self.offcuts, self.style_of_lengths, sound, self
        )
        if accepted(dialog):
            self.offcuts = tuple(found)
            self.show_now()

    def start(self) -> None:
        """Begin to lay out; a fault in a field is said."""
        try:
            lengths = {
                name: parse_length(box.text(), self.style_of_lengths.unit)
                for name, box in self.fields.items()
            }
            for name, value in lengths.items():
                if not 0 <= value < 20_000 or (name in ("length", "width") and value < 50):
                    raise InputError(
                        "this is no size for a sheet", dict(FIELDS)[name], mm(value), "Type it again."
                    )
            self.sheets = Sheets(**lengths, grain=self.grain.isChecked(), offcuts=self.offcuts)
        except InputError as error:
            self.said.setText(sentence(str(error), self.style_of_lengths))
            return
        self.stop()
        self.layout_now = None
        self.begin_work(NestRun(self.parts.flat, self.sheets, SECONDS))

    def take(self, value: Layout) -> None:
        """A better layout."""
        self.layout_now = value

    def show_now(self) -> None:
        """The layout there is, and what it comes to."""
        count = len(self.offcuts)
        self.offcuts_button.setText(f"Offcuts on hand: {count}…" if count else "Offcuts on hand…")
        self.begin.setEnabled(not self.running)
        self.enough.setEnabled(self.running)
        self.bar.setVisible(self.running)
        layout = self.layout_now
        self.keep.setEnabled(layout is not None and not self.stale)
        if layout is None:
            self.view.show_drawing(Drawing("", ()), self.theme, self.style_of_lengths)
            self.said.setText(f"{len(self.parts.parts)} parts. Press Lay out.")
            return
        drawing = sheets_drawing(self.shape, layout) if not self.stale else Drawing("", ())
        self.view.show_drawing(drawing, self.theme, self.style_of_lengths)
        if self.stale:
            self.said.setText("The molds have changed since they were laid out. Lay them out again.")
            return
        weight = sheet_weight(self.parts.parts, self.shape.job.molds.thickness, PLYWOOD)
        how = (
            ""
            if layout.shapes
            else " (as rectangles; looking for better)"
            if self.running
            else " (as rectangles)"
        )
        cut = sum(part.cut_length for part in self.parts.parts) / 1000
        sheets = f"{layout.count} sheets" + (
            f" and {len(layout.offcuts)} offcut{'s' if len(layout.offcuts) > 1 else ''}"
            if layout.offcuts
            else ""
        )
        text = (
            f"{sheets} for {len(self.parts.parts)} parts{how}; {layout.used:.0%} of them is parts, about "
            f"{weight:.0f} kg at {PLYWOOD:.0f} kg/m³; {cut:.0f} m to cut."
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

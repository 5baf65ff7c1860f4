"""Type them in: what is on the drawing before the builder, asked once, and the empty table that it makes."""

from __future__ import annotations

import re

from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from ...core.errors import InputError
from ...core.inch_sizes import usual_size
from ...core.offsets.typed_sheet import Ending, TypedSheet, Wanted, bare, empty_sheet, unit_words
from ...core.places import parse_lengths
from ...core.units import INCHES, STYLES, LengthStyle, LengthUnit, parse_typed
from ...drawing.lines.new_table import new_table_drawing
from ..views.drawing_view import DrawingView
from ..window.theme import Theme

MOST_STATIONS = 100
NUMBERS_IN = {
    LengthUnit.MM: "millimetres",
    LengthUnit.M: "metres",
    LengthUnit.INCH: "inches with decimals",
    LengthUnit.INCH_FRACTION: "inches and fractions",
    LengthUnit.FEET_INCH_FRACTION: "feet, inches and fractions",
    LengthUnit.FEET_INCH_EIGHTHS: "feet-inches-eighths",
}
"""What the numbers of a drawing may be in, in words."""


class NewTableDialog(QDialog):
    """Asks for stations, lines and ends; a picture follows. `sheet` is the empty table, None while something cannot be read."""

    def __init__(self, style: LengthStyle, theme: Theme, parent: QWidget | None = None, *, tape_too: bool = False) -> None:
        super().__init__(parent)
        self.setWindowTitle("Type a table of offsets")
        self.style_of_lengths, self.theme = style, theme
        self._tape = style
        self.sheet: TypedSheet | None = None
        self.unit = QComboBox()
        for unit, words in NUMBERS_IN.items():
            self.unit.addItem(words, unit)
        self.unit.setCurrentIndex(self.unit.findData(style.unit))
        self.unit.activated.connect(self._other_unit)
        self.tape_too = QCheckBox("and so is the tape in the shop")
        self.tape_too.setChecked(tape_too)
        self.tape_too.setToolTip("Lengths are shown in it everywhere, and bare numbers read in it")
        self.habit = QComboBox()
        self.habit.addItem("by lines: a line in each row, a station in each column", True)
        self.habit.addItem("by points: a point in each row", False)
        self.count = QSpinBox()
        self.count.setRange(3, MOST_STATIONS)
        self.count.setValue(11)
        self.spacing, self.first, self.places = QLineEdit(), QLineEdit(), QLineEdit()
        self.waterlines, self.buttocks, self.diagonals = QLineEdit(), QLineEdit(), QLineEdit()
        self._say_examples()
        self.chines = QSpinBox()
        self.chines.setRange(0, 4)
        self.bow, self.stern = QComboBox(), QComboBox()
        for box in (self.bow, self.stern):
            for ending in Ending:
                box.addItem(ending.value, ending)
        self.stern.setCurrentIndex(self.stern.findData(Ending.TRANSOM))
        self.view = DrawingView("What will be typed")
        self.view.has_scale_bar = False
        self.view.stretch_to_fit = True
        self.view.setMinimumSize(380, 200)
        self.problem = QLabel()
        self.problem.setObjectName("note")
        self.problem.setWordWrap(True)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Make the empty table")
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        self._lay_out()
        self._follow()
        self.resize(940, 480)

    def _written(self, mm: float) -> str:
        return bare(mm, self.style_of_lengths.unit)

    def _say_examples(self) -> None:
        """Numbers to begin with, and examples, in the unit that was chosen; what was typed stays."""
        inches = self.style_of_lengths.unit in INCHES

        def own(mm: float) -> str:
            return self._written(usual_size(mm, self.style_of_lengths.unit))

        for line, mm in ((self.spacing, 600.0 if inches else 500.0), (self.first, 0.0)):
            if not line.isModified():
                line.setText(own(mm) if mm else "0")
        self.places.setPlaceholderText(f"or all of them: {own(300)}; {own(900)}; {own(1600)}")
        self.waterlines.setPlaceholderText(f"their heights, for example {own(100)}; {own(200)}")
        self.buttocks.setPlaceholderText(f"their half-breadths, for example {own(150)}; {own(300)}")
        self.diagonals.setPlaceholderText(f"height @ degrees down from level, for example {own(400)} @ 40")

    def _other_unit(self) -> None:
        """The numbers of the drawing are in another unit: what is typed means that."""
        unit = list(NUMBERS_IN)[self.unit.currentIndex()]  # Qt hands an enum back as a text
        self.style_of_lengths = next(s for s in (self._tape, *STYLES, LengthStyle(unit)) if s.unit is unit)
        self._say_examples()
        self.hint.setText(self._hint())
        self._follow()

    def _hint(self) -> str:
        unit = self.style_of_lengths.unit
        bare_is = "A bare number is inches" if unit in INCHES else f"Bare numbers are {NUMBERS_IN[unit]}"
        if unit is LengthUnit.FEET_INCH_EIGHTHS:
            bare_is = "Lengths are written as 2-3-4, with a + for a sixteenth"
        return f"{bare_is}; others are typed with their unit. Everything can be typed over afterwards, headings too."

    def _lay_out(self) -> None:
        form = QFormLayout()
        stations = QHBoxLayout()
        for widget in (self.count, QLabel("every"), self.spacing, QLabel("the first at"), self.first):
            stations.addWidget(widget)
        numbers = QHBoxLayout()
        numbers.addWidget(self.unit)
        numbers.addWidget(self.tape_too)
        form.addRow("Numbers are", numbers)
        form.addRow("The table is", self.habit)
        form.addRow("Stations", stations)
        form.addRow("", self.places)
        form.addRow("Waterlines", self.waterlines)
        form.addRow("Buttocks", self.buttocks)
        form.addRow("Diagonals", self.diagonals)
        form.addRow("Chines", self.chines)
        form.addRow("Forward the hull ends in", self.bow)
        form.addRow("Aft in", self.stern)
        for name, field in (
            ("Unit of the numbers", self.unit),
            ("Habit", self.habit),
            ("Number of stations", self.count),
            ("Spacing of stations", self.spacing),
            ("First station at", self.first),
            ("All stations", self.places),
            ("Waterlines", self.waterlines),
            ("Buttocks", self.buttocks),
            ("Diagonals", self.diagonals),
            ("Chines", self.chines),
            ("Bow", self.bow),
            ("Stern", self.stern),
        ):
            field.setAccessibleName(name)
        for line in (self.spacing, self.first, self.places, self.waterlines, self.buttocks, self.diagonals):
            line.textChanged.connect(self._follow)
        for spin in (self.count, self.chines):
            spin.valueChanged.connect(self._follow)
        for box in (self.habit, self.bow, self.stern):
            box.activated.connect(self._follow)
        left = QVBoxLayout()
        left.addLayout(form)
        left.addStretch(1)
        halves = QHBoxLayout()
        halves.addLayout(left, 3)
        halves.addWidget(self.view, 2)
        self.hint = QLabel(self._hint())
        self.hint.setWordWrap(True)
        layout = QVBoxLayout(self)
        layout.addWidget(self.hint)
        layout.addLayout(halves, 1)
        layout.addWidget(self.problem)
        layout.addWidget(self.buttons)

    def wanted(self) -> Wanted:
        """What was asked for. Raises InputError with the field."""
        if self.places.text().strip():
            stations = self._lengths(self.places.text(), "Stations")
        else:
            first, spacing = (self._length(self.first.text(), "First station"), self._length(self.spacing.text(), "Spacing"))
            stations = tuple(first + k * spacing for k in range(self.count.value()))
        if len(set(stations)) < 3 or min(b - a for a, b in zip(sorted(stations), sorted(stations)[1:], strict=False)) <= 0:
            raise InputError("a hull needs at least three stations, each at a place of its own")
        return Wanted(
            tuple(sorted(stations)),
            self._lengths(self.waterlines.text(), "Waterlines"),
            self._lengths(self.buttocks.text(), "Buttocks"),
            self._diagonals(),
            self.chines.value(),
            Ending(self.bow.currentData()),
            Ending(self.stern.currentData()),
            by_lines=bool(self.habit.currentData()),
        )

    def _length(self, text: str, where: str) -> float:
        try:
            return parse_typed(text, self.style_of_lengths.unit)
        except InputError as error:
            raise error.at(where) from None

    def _lengths(self, text: str, where: str) -> tuple[float, ...]:
        if re.fullmatch(r"[\d.]+(?: +[\d.]+)+", text.strip()):
            text = ",".join(text.split())
        try:
            return parse_lengths(text, self.style_of_lengths.unit)
        except InputError as error:
            raise error.at(where) from None

    def _diagonals(self) -> tuple[tuple[float, float], ...]:
        found = []
        for part in (p for p in self.diagonals.text().split(";") if p.strip()):
            level, at, angle = part.partition("@")
            number = re.fullmatch(r"\s*(\d+(?:\.\d+)?)\s*°?\s*", angle)
            if not at or number is None or not 0 < float(number[1]) < 90:
                raise InputError("a diagonal is a height @ its angle in degrees", "Diagonals", part.strip())
            found.append((self._length(level.strip(), "Diagonals"), float(number[1])))
        return tuple(found)

    def _follow(self) -> None:
        """The picture, and what cannot be read."""
        ok = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        try:
            wanted = self.wanted()
        except InputError as error:
            self.sheet = None
            self.problem.setText(str(error))
            ok.setEnabled(False)
            return
        self.sheet = empty_sheet(wanted, unit_words(self.style_of_lengths.unit), self._written)
        self.problem.setText("")
        ok.setEnabled(True)
        self.view.show_drawing(new_table_drawing(wanted, self.style_of_lengths), self.theme, self.style_of_lengths)

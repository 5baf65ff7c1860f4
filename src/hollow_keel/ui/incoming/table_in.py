"""A table before it is taken: as it was understood, with what each column means, what is open, and what was left out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QSplitter,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from ...core.units import LengthStyle
from ...core.words import counted
from ...drawing.lines.points import points_plan
from ...drawing.model import Drawing
from ...files.tables.grid import Grid
from ...files.tables.reading import INSIDE, OUTSIDE, UNITS, all_left_out, understand
from ...files.tables.understood import Answers, Asked, Layout, Question, Understood, letter
from ...files.tables.words import Meaning
from ..views.drawing_view import DrawingView
from ..views.sentences import sentence
from ..window.theme import Theme

MOST_SHOWN, WIDEST = 600, 104
"""Rows that are shown (all are read), and the width of a column, pixels."""
TAKE = "Take these offsets"


class TableInDialog(QDialog):
    """Shows what was made of a table and follows what the builder says of it. `found` is what it comes to."""

    def __init__(self, grids: Sequence[Grid], name: str, style: LengthStyle, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Offsets from {name}")
        self.grids, self.style_of_lengths, self.theme = list(grids), style, theme
        self.answers = Answers()
        self.found: Understood = understand(self.grids, self.answers)
        self.summary = QLabel()
        self.summary.setObjectName("heading")
        self.summary.setWordWrap(True)
        self.sheet = QComboBox()
        self.sheet.setAccessibleName("Sheet")
        for number, grid in enumerate(self.grids):
            self.sheet.addItem(grid.name or f"sheet {number + 1}", number)
        self.sheet.setVisible(len(self.grids) > 1)
        self.sheet.activated.connect(lambda _: self._say(replace(Answers(), sheet=self.sheet.currentData())))
        self.side = QComboBox()
        self.side.setAccessibleName("Offsets are to the")
        self.side.addItem("to the outside of the planking", OUTSIDE)
        self.side.addItem("to the inside of the planking", INSIDE)
        self.side.setToolTip("What the drawing says its offsets are measured to; molds follow from it")
        self.side.activated.connect(lambda _: self.answer(Asked.SIDE, self.side.currentData()))
        self.questions = QFormLayout()
        self._asked: list[tuple[Question, QWidget]] = []
        self.cells = QTableWidget()
        self.cells.setAccessibleName("The table as it was understood")
        self.cells.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.view = DrawingView("The points as read")
        self.view.has_scale_bar = False
        self.remarks = QListWidget()
        self.remarks.setAccessibleName("What was left out, and what was taken for granted")
        self.remarks.setWordWrap(True)
        self.remarks.currentRowChanged.connect(self._go_to)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.take = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        self.take.setText(TAKE)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        self._lay_out()
        self.resize(1120, 660)
        self._show()

    def _lay_out(self) -> None:
        top = QHBoxLayout()
        top.addWidget(self.summary, 1)
        top.addWidget(self.side)
        top.addWidget(self.sheet)
        right = QWidget()
        column = QVBoxLayout(right)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view, 1)
        column.addWidget(self.remarks)
        self.remarks.setMaximumHeight(150)
        halves = QSplitter(Qt.Orientation.Horizontal)
        halves.addWidget(self.cells)
        halves.addWidget(right)
        halves.setSizes([620, 480])
        layout = QVBoxLayout(self)
        layout.addLayout(top)
        layout.addLayout(self.questions)
        layout.addWidget(halves, 1)
        layout.addWidget(self.buttons)

    # -- what the builder says -------------------------------------------------------------------------------

    def _say(self, answers: Answers) -> None:
        """Read the table again by other answers."""
        self.answers = answers
        self.found = understand(self.grids, answers)
        self._show()

    def answer(self, about: Asked, text: str) -> None:
        """Answer one question."""
        self._say(replace(self.answers, said={**self.answers.said, about: text}))

    def name_column(self, column: int, meaning: Meaning) -> None:
        """Say what a column (from 0) is; no other is that then."""
        others = {
            k: Meaning.UNUSED
            for k, own in enumerate(self.found.columns)
            if own.meaning is meaning and k != column and meaning is not Meaning.UNUSED
        }
        self._say(replace(self.answers, meanings={**self.answers.meanings, **others, column: meaning}))

    def measure_column(self, column: int, unit: str) -> None:
        """Say in which unit a column's bare numbers are."""
        self._say(replace(self.answers, units={**self.answers.units, column: unit}))

    # -- what is shown ---------------------------------------------------------------------------------------

    def _show(self) -> None:
        found = self.found
        self.sheet.setCurrentIndex(found.sheet)
        self.summary.setText(sentence(self._summary(), self.style_of_lengths))
        self.take.setEnabled(found.table is not None)
        self.side.setEnabled(found.table is not None)
        self.side.setCurrentIndex(int(found.table is not None and found.table.to_inside))
        self._show_questions()
        self._show_cells()
        drawing = points_plan(found.table, self.style_of_lengths) if found.table is not None else Drawing("", ())
        self.view.show_drawing(drawing, self.theme, self.style_of_lengths)
        self.remarks.clear()
        self.remarks.addItems([sentence(text, self.style_of_lengths) for text in (*all_left_out(found), *found.notes)])
        self.remarks.setVisible(self.remarks.count() > 0)

    def _summary(self) -> str:
        found = self.found
        if found.table is None:
            if found.questions:
                return "One thing has to be said first." if len(found.questions) == 1 else "Some things have to be said first."
            return found.problem
        stations = len({row.station for row in found.table.rows if row.label in ("keel", "sheer")})
        said = f"{counted(len(found.table.rows), 'point')} at {counted(stations, 'station')}"
        said += f", {len(found.left_out)} left out" if found.left_out else ", nothing left out"
        return f"{said}. {found.problem}" if found.problem else f"{said}."

    def _show_questions(self) -> None:
        now = [(q.about, q.text) for q in self.found.questions]
        if now == [(q.about, q.text) for q, _ in self._asked]:
            return
        while self.questions.rowCount():
            self.questions.removeRow(0)
        self._asked = []
        for question in self.found.questions:
            box = self._answer_box(question)
            label = QLabel(question.text)
            label.setWordWrap(True)
            label.setBuddy(box)
            self.questions.addRow(label, box)
            self._asked.append((question, box))
        if self._asked:
            self._asked[0][1].setFocus()

    def _answer_box(self, question: Question) -> QWidget:
        about = question.about
        if question.choices:
            choice = QComboBox()
            choice.setAccessibleName(question.text)
            choice.addItem("choose…", "")
            for key, words in question.choices.items():
                choice.addItem(words, key)
            choice.activated.connect(lambda _: self.answer(about, str(choice.currentData())))
            return choice
        if about is Asked.COLUMNS:
            return QLabel("↓")
        line = QLineEdit()
        line.setAccessibleName(question.text)
        line.setPlaceholderText(f"for example {question.hint}" if question.hint else "")
        line.returnPressed.connect(lambda: self.answer(about, line.text()))
        line.editingFinished.connect(lambda: self.answer(about, line.text()) if line.text().strip() else None)
        return line

    def _show_cells(self) -> None:
        found, grid = self.found, self.grids[self.found.sheet]
        by_points = found.layout is Layout.POINTS
        heads = 2 if by_points else 0
        rows = grid.rows[:MOST_SHOWN]
        self.cells.clear()
        self.cells.setColumnCount(grid.width)
        self.cells.setRowCount(len(rows) + heads)
        self.cells.setHorizontalHeaderLabels([letter(k + 1) for k in range(grid.width)])
        self.cells.setVerticalHeaderLabels([*("is", "unit")[:heads], *(str(grid.first + k) for k in range(len(rows)))])
        bad = {(bit.row, bit.column): bit.why for bit in found.left_out if bit.row}
        bold = QFont(self.cells.font())
        bold.setBold(True)
        for k, row in enumerate(rows):
            number = grid.first + k
            for j, text in enumerate(row):
                item = QTableWidgetItem(text)
                if number == found.heading:
                    item.setFont(bold)
                if number < found.heading or (by_points and found.columns[j].meaning is Meaning.UNUSED):
                    item.setForeground(QColor(self.theme.second))
                why = bad.get((number, j + 1))
                if why:
                    item.setBackground(QColor(self.theme.bad))
                    item.setForeground(QColor("#FFFFFF"))
                    item.setToolTip(sentence(why, self.style_of_lengths))
                self.cells.setItem(k + heads, j, item)
        if by_points:
            self._show_columns()
        self.cells.resizeColumnsToContents()
        for k in range(self.cells.columnCount()):  # a title does not push the columns apart
            self.cells.setColumnWidth(k, min(self.cells.columnWidth(k), WIDEST if k else 2 * WIDEST))

    def _show_columns(self) -> None:
        for k, column in enumerate(self.found.columns[: self.cells.columnCount()]):
            meaning = QComboBox()
            meaning.setAccessibleName(f"Column {letter(k + 1)} is")
            for own in Meaning:
                meaning.addItem(own.value, own)
            meaning.setCurrentIndex(meaning.findData(column.meaning))
            meaning.activated.connect(lambda _, n=k, box=meaning: self.name_column(n, Meaning(box.currentData())))
            self.cells.setCellWidget(0, k, meaning)
            if column.meaning in (Meaning.STATION, Meaning.HALF_BREADTH, Meaning.HEIGHT):
                unit = QComboBox()
                unit.setAccessibleName(f"Unit of column {letter(k + 1)}")
                if column.unit is None:
                    unit.addItem("choose…", "")
                for key, words in UNITS.items():
                    unit.addItem(key, key)
                    unit.setItemData(unit.count() - 1, words, Qt.ItemDataRole.ToolTipRole)
                unit.setCurrentIndex(max(unit.findData(column.unit), 0))
                unit.activated.connect(lambda _, n=k, box=unit: self.measure_column(n, str(box.currentData())))
                self.cells.setCellWidget(1, k, unit)

    def _go_to(self, number: int) -> None:
        """Show the cell that a remark is about."""
        if 0 <= number < len(self.found.left_out):
            bit = self.found.left_out[number]
            row = bit.row - self.grids[self.found.sheet].first + (2 if self.found.layout is Layout.POINTS else 0)
            if bit.row and 0 <= row < self.cells.rowCount():
                self.cells.setCurrentCell(row, max(bit.column - 1, 0))

"""Entries of a log before they are taken: what each column is, what became of each row, what was left out."""

from __future__ import annotations

from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QLabel,
    QListWidget,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from ...core.words import counted
from ...files.log.entries import COLUMNS, LogRead, understand_log
from ..window.theme import Theme

MOST_SHOWN, WIDEST = 600, 180
"""Rows that are shown (all are read), and the width of a column, pixels."""
NOT_USED = "not used"


class LogInDialog(QDialog):
    """Shows what was made of a log's CSV and follows what the builder says of its columns. `found` is what it comes to. Raises
    InputError for what is no table."""

    def __init__(self, text: str, name: str, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Entries from {name}")
        self._text, self._theme = text, theme
        self._said: dict[int, str] = {}
        self.found: LogRead = understand_log(text)
        self.summary = QLabel()
        self.summary.setObjectName("heading")
        self.summary.setWordWrap(True)
        self.cells = QTableWidget()
        self.cells.setAccessibleName("The log as it was understood")
        self.cells.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.remarks = QListWidget()
        self.remarks.setAccessibleName("Rows that are left out")
        self.remarks.setWordWrap(True)
        self.remarks.setMaximumHeight(130)
        self.remarks.currentRowChanged.connect(self._go_to)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.take = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        layout = QVBoxLayout(self)
        layout.addWidget(self.summary)
        layout.addWidget(self.cells, 1)
        layout.addWidget(self.remarks)
        layout.addWidget(self.buttons)
        self.resize(1080, 600)
        self._show()

    def name_column(self, column: int, meaning: str) -> None:
        """Say what a column (from 0) is; empty: it is not used."""
        self._said = {k: own for k, own in self._said.items() if own != meaning or not meaning} | {column: meaning}
        self.found = understand_log(self._text, self._said)
        self._show()

    def _show(self) -> None:
        found = self.found
        dated = "day" in found.meanings
        self.take.setEnabled(dated and bool(found.entries))
        self.take.setText(f"Take {counted(len(found.entries), 'entry')}" if dated else "Take them")
        left = f"{counted(len(found.left_out), 'row')} left out" if found.left_out else "nothing left out"
        self.summary.setText(
            f"{counted(len(found.entries), 'entry')}, {left}." if dated else "Which column is the day? Say it over the columns."
        )
        self._show_cells()
        self.remarks.clear()
        if dated:
            self.remarks.addItems([f"line {row.number}: {row.why}" for row in found.left_out[:MOST_SHOWN]])
        self.remarks.setVisible(self.remarks.count() > 0)

    def _show_cells(self) -> None:
        found, rows = self.found, self.found.rows[:MOST_SHOWN]
        self.cells.clear()
        self.cells.setColumnCount(len(found.headings))
        self.cells.setRowCount(len(rows) + 1)
        self.cells.setHorizontalHeaderLabels(list(found.headings))
        self.cells.setVerticalHeaderLabels(["is", *(str(row.number) for row in rows)])
        for k, own in enumerate(found.meanings):
            box = QComboBox()
            box.setAccessibleName(f"Column {found.headings[k] or k + 1} is")
            box.addItem(NOT_USED, "")
            for name, _, _ in COLUMNS:
                box.addItem(name.replace("_", " "), name)
            box.setCurrentIndex(box.findData(own))
            box.activated.connect(lambda _, n=k, box=box: self.name_column(n, str(box.currentData())))
            self.cells.setCellWidget(0, k, box)
        for k, row in enumerate(rows):
            for j, text in enumerate(row.cells[: len(found.headings)]):
                item = QTableWidgetItem(text)
                if row.entry is None and "day" in found.meanings:
                    item.setBackground(QColor(self._theme.bad))
                    item.setForeground(QColor("#FFFFFF"))
                    item.setToolTip(row.why)
                elif not found.meanings[j]:
                    item.setForeground(QColor(self._theme.second))
                self.cells.setItem(k + 1, j, item)
        self.cells.resizeColumnsToContents()
        for k in range(self.cells.columnCount()):
            self.cells.setColumnWidth(k, min(self.cells.columnWidth(k), WIDEST))

    def _go_to(self, number: int) -> None:
        """Show the row that a remark is about."""
        if 0 <= number < len(self.found.left_out):
            at = self.found.rows.index(self.found.left_out[number])
            if at + 1 < self.cells.rowCount():
                self.cells.setCurrentCell(at + 1, 0)

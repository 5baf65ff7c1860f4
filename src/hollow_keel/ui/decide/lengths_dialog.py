"""Lists of lengths in a small table: a row for each, added and taken out; shown behind it while it is typed."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from ...core.errors import InputError
from ...core.units import LengthStyle, given_length, parse_typed
from ..views.sentences import sentence

Rows = tuple[tuple[float, ...], ...]


class LengthsTable(QWidget):
    """Rows of lengths under headings, sorted by the first as they are read (`in_order`) or as they stand. `changed` is called
    after each that is typed."""

    def __init__(
        self, headings: Sequence[str], rows: Rows, style: LengthStyle, changed: Callable[[], object], *, in_order: bool = True
    ) -> None:
        super().__init__()
        self._in_order = in_order
        self._style, self._changed = style, changed
        self.headings = list(headings)
        self.table = QTableWidget(0, len(headings))
        self.table.setHorizontalHeaderLabels([f"{name}, {style.name}" for name in headings])
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.verticalHeader().setVisible(False)
        self.table.setAccessibleName(", ".join(headings))
        for row in rows:
            self._append(tuple(given_length(value, style) for value in row))
        self._given = dict(enumerate(rows))
        self._append(("",) * len(headings))
        self.table.itemChanged.connect(self._typed)
        out = QPushButton("Take out this row")
        out.clicked.connect(self._take_out)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.table, 1)
        column.addWidget(out, 0, Qt.AlignmentFlag.AlignLeft)

    def _append(self, texts: Sequence[str]) -> None:
        row = self.table.rowCount()
        self.table.insertRow(row)
        for column, text in enumerate(texts):
            item = QTableWidgetItem(text)
            item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            self.table.setItem(row, column, item)

    def _typed(self, item: QTableWidgetItem) -> None:
        self._given.pop(item.row(), None)
        last = self.table.rowCount() - 1
        if any(self._text(last, k) for k in range(len(self.headings))):
            self.table.blockSignals(True)
            self._append(("",) * len(self.headings))
            self.table.blockSignals(False)
        self._changed()

    def _take_out(self) -> None:
        row = self.table.currentRow()
        if 0 <= row < self.table.rowCount() - 1:
            self.table.removeRow(row)
            self._given = {k - (k > row): own for k, own in self._given.items() if k != row}
            self._changed()

    def _text(self, row: int, column: int) -> str:
        item = self.table.item(row, column)
        return item.text().strip() if item is not None else ""

    def rows(self) -> Rows:
        """What is typed; a row that was not touched is not rounded. Raises InputError naming the row and the heading."""
        found: list[tuple[float, ...]] = []
        for k in range(self.table.rowCount()):
            texts = [self._text(k, column) for column in range(len(self.headings))]
            if not any(texts):
                continue
            found.append(self._given[k] if k in self._given else tuple(self._read(k, texts)))
        return tuple(sorted(found) if self._in_order else found)

    def _read(self, row: int, texts: Sequence[str]) -> list[float]:
        values = []
        for name, text in zip(self.headings, texts, strict=True):
            try:
                values.append(parse_typed(text, self._style.unit))
            except InputError as error:
                raise error.at(f"row {row + 1}, {name.lower()}") from None
        return values


class LengthsDialog(QDialog):
    """A LengthsTable with its words. `tried` is called with the rows as they are typed."""

    def __init__(
        self,
        title: str,
        words: str,
        headings: Sequence[str],
        rows: Rows,
        style: LengthStyle,
        tried: Callable[[Rows], None],
        parent: QWidget | None = None,
        *,
        in_order: bool = True,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._tried = tried
        said = QLabel(words)
        said.setWordWrap(True)
        self.fault = QLabel()
        self.fault.setObjectName("note")
        self.fault.setWordWrap(True)
        self.given: Rows = rows
        self._style = style
        self.table = LengthsTable(headings, rows, style, self._follow, in_order=in_order)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        layout = QVBoxLayout(self)
        for widget in (said, self.table, self.fault, buttons):
            layout.addWidget(widget, 1 if widget is self.table else 0)
        self.resize(420, 420)

    def _follow(self) -> bool:
        try:
            self.given = self.table.rows()
            self._tried(self.given)
        except InputError as error:
            self.fault.setText(sentence(str(error), self._style))
            return False
        self.fault.setText("")
        return True

    def accept(self) -> None:
        """Take what is typed; what cannot be is said, and the dialog stays."""
        if self._follow():
            super().accept()


class StationsDialog(QDialog):
    """Where molds stand: at each station of the table, at an even spacing, or as listed. `tried` is called with stations and
    spacing (mm; empty and None: at each station) as they are chosen."""

    def __init__(
        self,
        stations: Sequence[float],
        every: float | None,
        now: Sequence[float],
        style: LengthStyle,
        tried: Callable[[tuple[float, ...], float | None], None],
        parent: QWidget | None = None,
    ) -> None:
        from PySide6.QtWidgets import QButtonGroup, QRadioButton

        from ..views.fields import LengthField

        super().__init__(parent)
        self.setWindowTitle("Where molds stand")
        self._tried, self._style = tried, style
        self.stations, self.every = tuple(stations), every
        self.each = QRadioButton("at each station of the table")
        self.even = QRadioButton("evenly, a mold every")
        self.listed = QRadioButton("at these places along the hull")
        group = QButtonGroup(self)
        for button in (self.each, self.even, self.listed):
            group.addButton(button)
        steps = [b - a for a, b in zip(now[:-1], now[1:], strict=True)]
        likely = every or (sorted(steps)[len(steps) // 2] if steps else 300.0)
        self.spacing = LengthField("Spacing of the molds")
        self.spacing.show_length(likely, style)
        self._likely = likely
        self.spacing.entered.connect(self._spaced)
        rows = tuple((x,) for x in (stations or now))
        self.table = LengthsTable(["Mold's face at"], rows, style, self._follow_list)
        self.fault = QLabel()
        self.fault.setObjectName("note")
        self.fault.setWordWrap(True)
        (self.listed if stations else self.even if every else self.each).setChecked(True)
        group.buttonToggled.connect(lambda _button, on: self._follow() if on else None)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        row = QHBoxLayout()
        row.addWidget(self.even)
        row.addWidget(self.spacing)
        row.addStretch(1)
        layout = QVBoxLayout(self)
        layout.addWidget(self.each)
        layout.addLayout(row)
        layout.addWidget(self.listed)
        layout.addWidget(self.table, 1)
        layout.addWidget(QLabel("They are shown on the keel line; a mold can be dragged along it as well."))
        layout.addWidget(self.fault)
        layout.addWidget(buttons)
        self.resize(430, 460)
        self.table.setEnabled(bool(stations))

    def _spaced(self, mm: float) -> None:
        self._likely = mm
        self.even.setChecked(True)
        self._follow()

    def _follow_list(self) -> None:
        if self.listed.isChecked():
            self._follow()

    def _follow(self) -> bool:
        self.table.setEnabled(self.listed.isChecked())
        try:
            if self.listed.isChecked():
                self.stations, self.every = tuple(row[0] for row in self.table.rows()), None
            else:
                self.stations, self.every = (), self._likely if self.even.isChecked() else None
            self._tried(self.stations, self.every)
        except InputError as error:
            self.fault.setText(sentence(str(error), self._style))
            return False
        self.fault.setText("")
        return True

    def accept(self) -> None:
        """Take what is chosen; what cannot be is said, and the dialog stays."""
        if self._follow():
            super().accept()

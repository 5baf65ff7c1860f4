"""Asks for some lengths in rows and columns; each may be left empty."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QLabel, QVBoxLayout, QWidget

from ...core.units import LengthStyle
from .fields import LengthField

Place = tuple[int, int]


class ReadingsDialog(QDialog):
    """`values` holds what is typed, mm, by row and column. What cannot be read is said and has to be mended first."""

    def __init__(
        self,
        title: str,
        asked: str,
        rows: Sequence[str],
        columns: Sequence[str],
        values: Mapping[Place, float],
        hints: Mapping[Place, str],
        style: LengthStyle,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.values: dict[Place, float] = dict(values)
        self.fields: dict[Place, LengthField] = {}
        self._faults: dict[Place, str] = {}
        words = QLabel(asked)
        words.setWordWrap(True)
        grid = QGridLayout()
        for k, name in enumerate(columns):
            grid.addWidget(QLabel(name), 0, k + 1)
        for row, name in enumerate(rows):
            grid.addWidget(QLabel(name), row + 1, 0)
            for column, heading in enumerate(columns):
                place = (row, column)
                field = LengthField(f"{name}, {heading}", fine=True)
                field.setFixedWidth(110)
                field.show_length(values.get(place), style, hints.get(place, "not read"))
                field.entered.connect(partial(self._entered, place))
                field.cleared.connect(partial(self._cleared, place))
                field.fault.connect(partial(self._fault, place))
                self.fields[place] = field
                grid.addWidget(field, row + 1, column + 1)
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        box.addWidget(words)
        box.addLayout(grid)
        box.addWidget(self.said)
        box.addWidget(self.buttons)

    def accept(self) -> None:
        """Take what is typed, once all of it can be read."""
        focused = self.focusWidget()
        if isinstance(focused, LengthField):
            focused.editingFinished.emit()  # what is typed last is taken, too
        if not self._faults:
            super().accept()

    def _entered(self, place: Place, value: float) -> None:
        self.values[place] = value
        self._mended(place)

    def _cleared(self, place: Place) -> None:
        self.values.pop(place, None)
        self._mended(place)

    def _mended(self, place: Place) -> None:
        self._faults.pop(place, None)
        self.said.setText("  ".join(self._faults.values()))

    def _fault(self, place: Place, text: str) -> None:
        self._faults[place] = text
        self.said.setText(text)

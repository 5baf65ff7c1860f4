"""A field to type a length into, in any unit, with the fault named and what was typed kept."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLineEdit, QWidget

from ...core.errors import InputError
from ...core.units import LengthStyle, given_length, parse_reading, refuse_thousands


class LengthField(QLineEdit):
    """`entered` carries the new length in mm; `fault` the message for what cannot be read; `cleared` that it was emptied where
    an empty field has a meaning (it shows that as a hint). A `fine` one shows what a caliper measures."""

    entered = Signal(float)
    fault = Signal(str)
    cleared = Signal()

    def __init__(self, name: str, parent: QWidget | None = None, *, fine: bool = False) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.fine = fine
        self.setFixedWidth(78)
        self._lengths = LengthStyle()
        self.editingFinished.connect(self._read)

    def show_length(self, mm: float | None, style: LengthStyle, empty: str = "") -> None:
        """What the job says; None shows an empty field with a hint. What is being typed is left alone."""
        style = style.fine if self.fine else style
        self._lengths = style
        text = "" if mm is None else given_length(mm, style)
        self.setPlaceholderText(empty)
        if self.hasFocus() and self.isModified():
            return
        self.setText(text)
        self._mark(False)

    def _read(self) -> None:
        text = self.text().strip()
        if not self.isModified():
            return
        if not text and self.placeholderText():
            self.setModified(False)
            self._mark(False)
            self.cleared.emit()
            return
        try:
            refuse_thousands(text, self._lengths.unit)
            value = parse_reading(text, self._lengths.unit)
        except InputError as error:
            self._mark(True)
            self.fault.emit(str(error))
            return
        self.setModified(False)
        self._mark(False)
        self.entered.emit(value)

    def _mark(self, wrong: bool) -> None:
        self.setProperty("fault", "true" if wrong else "false")
        self.style().unpolish(self)
        self.style().polish(self)

"""The hours of a week: seven small fields, Monday to Sunday."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtGui import QValidator
from PySide6.QtWidgets import QDoubleSpinBox, QHBoxLayout, QLabel, QWidget

from ...core.errors import InputError
from ...core.log.grammar import hours_typed

DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
MOST, DIGITS = 24.0, 3


class HoursBox(QDoubleSpinBox):
    """Hours as a log has them, whatever the locale: 2.5, 2,5, 2 1/2, 2:30."""

    def __init__(self) -> None:
        super().__init__()
        self.setRange(0.0, MOST)
        self.setDecimals(DIGITS)
        self.setSingleStep(0.5)
        self.setKeyboardTracking(False)

    def validate(self, text: str, at: int) -> tuple[QValidator.State, str, int]:
        try:
            fits = 0.0 <= hours_typed(text) <= MOST
        except InputError:
            fits = False
        return (QValidator.State.Acceptable if fits else QValidator.State.Intermediate, text, at)

    def valueFromText(self, text: str) -> float:
        try:
            return round(hours_typed(text), DIGITS)
        except InputError:
            return self.value()

    def textFromValue(self, hours: float) -> str:
        return f"{round(hours, DIGITS):g}"


class WeekField(QWidget):
    """`changed` carries the seven hours once one of them is typed or stepped."""

    changed = Signal(tuple)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.fields: list[HoursBox] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        heading = QLabel("Hours of the week")
        heading.setObjectName("small")
        row.addWidget(heading)
        for day in DAYS:
            name = QLabel(day)
            name.setObjectName("small")
            own = HoursBox()
            own.setAccessibleName(f"Hours on {day}")
            own.valueChanged.connect(self._tell)
            self.fields.append(own)
            row.addWidget(name)
            row.addWidget(own)
        row.addStretch(1)

    def show_week(self, week: tuple[float, ...]) -> None:
        """Show seven hours without telling anyone."""
        for own, hours in zip(self.fields, week, strict=True):
            own.blockSignals(True)
            own.setValue(hours)
            own.blockSignals(False)

    def _tell(self) -> None:
        self.changed.emit(tuple(round(own.value(), DIGITS) for own in self.fields))

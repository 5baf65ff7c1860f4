"""The hours of a week: seven small fields, Monday to Sunday."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QDoubleSpinBox, QHBoxLayout, QLabel, QWidget

DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
MOST = 24.0


class WeekField(QWidget):
    """`changed` carries the seven hours once one of them is typed or stepped."""

    changed = Signal(tuple)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.fields: list[QDoubleSpinBox] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        heading = QLabel("Hours of the week")
        heading.setObjectName("small")
        row.addWidget(heading)
        for day in DAYS:
            name = QLabel(day)
            name.setObjectName("small")
            own = QDoubleSpinBox()
            own.setAccessibleName(f"Hours on {day}")
            own.setRange(0.0, MOST)
            own.setDecimals(1)
            own.setSingleStep(0.5)
            own.setKeyboardTracking(False)
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
        self.changed.emit(tuple(round(own.value(), 2) for own in self.fields))

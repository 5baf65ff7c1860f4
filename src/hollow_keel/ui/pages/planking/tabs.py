"""What stands beside the planked hull: strips at the current mold, the girth divider."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QLabel, QSpinBox, QVBoxLayout, QWidget

from ....core.errors import ImpossiblePlan
from ....core.planking.divider import KEEL, SHEER, Divided, divide
from ....core.planking.stages import TICKS
from ....core.units import LengthStyle, LengthUnit, format_length
from ...views.data_table import Column, DataTable
from ...views.fields import LengthField
from ...window.state import State

METRIC = LengthStyle(LengthUnit.MM, 0.5)


class Divider(QWidget):
    """Divides every mold's edge between two lines."""

    said = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._state: State | None = None
        self._width: float | None = None
        self._build_fields()
        row = QHBoxLayout()
        for text, widget in (
            ("From", self.first),
            ("to", self.second),
            ("into", self.parts),
            ("parts, or near", self.width_box),
            ("by", self.tape),
        ):
            label = QLabel(text)
            label.setObjectName("small")
            row.addWidget(label)
            row.addWidget(widget)
        row.addStretch(1)
        self.table = DataTable("The girth divided", [], lambda d: f"mold:{d.mold}")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.addLayout(row)
        column.addWidget(self.table, 1)

    def _build_fields(self) -> None:
        self.first, self.second = QComboBox(), QComboBox()
        for box, name, line in ((self.first, "from", SHEER), (self.second, "to", KEEL)):
            box.setAccessibleName(f"Divide {name}")
            box.addItems([SHEER, KEEL])
            box.setCurrentText(line)
            box.setEditable(True)
            box.setToolTip("sheer, keel, or the number of a strip: its edge away from the sheer")
            box.currentTextChanged.connect(lambda _: self._show())
        self.parts = QSpinBox()
        self.parts.setAccessibleName("Parts")
        self.parts.setRange(0, 500)
        self.parts.setSpecialValueText("–")
        self.parts.setKeyboardTracking(False)
        self.parts.valueChanged.connect(lambda _: self._show())
        self.width_box = LengthField("Width of a part")
        self.width_box.entered.connect(self._width_typed)
        self.width_box.fault.connect(self.said)
        self.tape = QComboBox()
        self.tape.setAccessibleName("Tape")
        self.tape.addItems(["the job's tape", "a metric tape"])
        self.tape.currentIndexChanged.connect(lambda _: self._show())

    def _width_typed(self, mm: float) -> None:
        self._width = mm
        self.parts.setValue(0)
        self._show()

    def show_state(self, state: State) -> None:
        """Show a moment of the window."""
        self._state = state
        self._show()

    def _show(self) -> None:
        state = self._state
        if state is None or state.shape is None:
            self.table.show_rows([], [])
            return
        style = METRIC if self.tape.currentIndex() == 1 else state.style
        width = self._width or state.job.strips.cover
        if self.parts.value() == 0:
            self.width_box.show_length(width, state.style)
        rows: list[Divided] = []
        ticks = state.known.get(TICKS) or {}
        try:
            for mold in state.shape.molds.molds:
                found = divide(
                    mold,
                    ticks.get(mold.name, ()),
                    self.first.currentText().strip(),
                    self.second.currentText().strip(),
                    parts=self.parts.value(),
                    width=width,
                )
                rows += [found] if found is not None else []
        except ImpossiblePlan as error:
            self.said.emit(str(error))
        self.table.show_rows(
            rows,
            [
                Column("Mold", lambda d: d.mold, lambda d: int(d.mold)),
                Column("Way", lambda d: format_length(d.girth, style), lambda d: d.girth),
                Column("Parts", lambda d: str(len(d.marks)), lambda d: len(d.marks)),
                Column("Each", lambda d: format_length(d.width, style), lambda d: d.width),
                Column("Marks along the tape", lambda d: "  ".join(format_length(m, style) for m in d.marks)),
            ],
        )
        header = self.table.horizontalHeader()
        for k in range(header.count()):
            last = k == header.count() - 1
            header.setSectionResizeMode(k, QHeaderView.ResizeMode.Stretch if last else QHeaderView.ResizeMode.ResizeToContents)

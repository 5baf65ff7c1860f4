"""What one in a file is on the hull: chosen, or typed as a length or as the scale of a drawing on paper."""

from __future__ import annotations

import re

from PySide6.QtWidgets import QComboBox, QWidget

from ...core.errors import InputError
from ...core.units import LengthUnit, parse_length

SCALES = (("1 mm", 1.0), ("1 cm", 10.0), ("1 m", 1000.0), ("1 inch", 25.4), ("1 foot", 304.8))
_RATIO = re.compile(r"\s*1\s*[:/]\s*(\d+(?:[.,]\d+)?)\s*$")


class ScaleBox(QComboBox):
    """`mm` is the length on the hull, None while it is not said; `known` is what the file itself says."""

    def __init__(self, name: str, known: float | None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setEditable(True)
        self.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self.setToolTip("Choose, or type it: 12 mm, 1/2 in; or the scale of a drawing whose numbers are millimetres of paper: 1:8")
        if known not in [value for _, value in SCALES]:
            self.addItem("choose…", None)
        for text, value in SCALES:
            self.addItem(text, value)
        self.setCurrentIndex(max(self.findData(known), 0))

    @property
    def mm(self) -> float | None:
        """Raises InputError for what is no length."""
        index = self.findText(self.currentText())
        if index >= 0:
            value: float | None = self.itemData(index)
            return value
        ratio = _RATIO.match(self.currentText())
        found = float(ratio[1].replace(",", ".")) if ratio else parse_length(self.currentText(), LengthUnit.MM)
        if not found > 0:
            raise InputError("a length on the hull is more than nothing", value=self.currentText())
        return found

    @property
    def likely(self) -> float | None:
        """As `mm`; None for what cannot be read yet."""
        try:
            return self.mm
        except InputError:
            return None

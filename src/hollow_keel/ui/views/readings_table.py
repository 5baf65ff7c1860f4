"""Readings on the molds as they stand, typed beside what is planned."""

from __future__ import annotations

from PySide6.QtWidgets import QHeaderView, QWidget

from ...core.errors import InputError
from ...core.settings.survey import Survey
from ...core.setup.beam import Mark
from ...core.units import LengthStyle, format_length, parse_reading
from .beside_plan import BesidePlanModel
from .cells_table import Cell
from .entry_table import EntryTable

COLUMNS: tuple[tuple[str, str], ...] = (
    ("Mold", ""),
    ("From zero: plan", ""),
    ("port", "along_port"),
    ("starboard", "along_starboard"),
    ("Waterline: plan", ""),
    ("port", "height_port"),
    ("starboard", "height_starboard"),
    ("Centre, keel end", "centre_low"),
    ("Centre, sheer end", "centre_high"),
    ("Lean", "lean"),
)


class ReadingsModel(BesidePlanModel):
    """One row a mold, in order from the zero; what is planned are the marks."""

    columns = COLUMNS

    def show_survey(self, survey: Survey, marks: tuple[Mark, ...], style: LengthStyle) -> None:
        """What the job says now."""
        self.show_beside(survey, tuple(m.mold for m in marks), tuple(m.station for m in marks), marks, style)

    def plan_text(self, row: int, column: int) -> str:
        mark: Mark = self.planned[row]
        return format_length(mark.from_zero if column == 1 else mark.waterline_above, self.style)

    def cell_name(self, row: int, column: int) -> str:
        return f"reading of mold {self.molds[row]}" if row < len(self.molds) else "reading"

    def with_cells(self, cells: list[Cell]) -> Survey:
        survey: Survey = self.table
        for row, column, text in cells:
            field = COLUMNS[column][1] if column < len(COLUMNS) else ""
            if row >= len(self.molds) or not field:
                raise InputError("readings go beside the plan only", value=text, mend="Paste from the first reading's cell on.")
            mold = self.molds[row]
            try:
                value = parse_reading(text, self.style.unit) if text.strip() else None
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
            survey = survey.with_value(mold, field, value, self.places[row])
        return survey


class ReadingsTable(EntryTable):
    """The table of readings."""

    def __init__(self, model: ReadingsModel, parent: QWidget | None = None) -> None:
        super().__init__("Readings on the molds", model, parent)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)

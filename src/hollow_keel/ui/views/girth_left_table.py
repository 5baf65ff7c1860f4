"""What is left to plank, typed beside what the plan leaves."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from ...core.errors import InputError
from ...core.molds.stations import Mold
from ...core.settings.progress import GirthLeft, Planked
from ...core.units import LengthStyle, format_length, parse_reading
from .beside_plan import BesidePlanModel
from .cells_table import Cell

MOST_SHARE = 1.03
"""A tape over the planking reads a little more than the mold under it is round."""
COLUMNS = (
    ("Mold", ""),
    ("Left by plan", ""),
    ("Left to port", "port"),
    ("Left to starboard", "starboard"),
    ("Strips to come: width", ""),
)


class GirthLeftModel(BesidePlanModel):
    """One row a mold; what is planned is what the plan leaves there, and how wide the strips to come are."""

    columns = COLUMNS
    girths: Mapping[str, float] = MappingProxyType({})

    def show_planked(
        self,
        planked: Planked,
        plan: tuple[tuple[str, float | None], ...],
        widths: Mapping[str, float],
        style: LengthStyle,
        molds: Mapping[str, Mold],
    ) -> None:
        """What the job says now, how wide the strips to come are by mold, and the molds: where each stands, and how far it is
        round; no more is left."""
        self.girths = {name: mold.edge.girth for name, mold in molds.items()}
        planned = tuple((left, widths.get(name)) for name, left in plan)
        names = tuple(name for name, _ in plan)
        self.show_beside(planked, names, tuple(molds[name].station for name in names), planned, style)

    def reading(self, mold: str, at: float) -> GirthLeft:
        planked: Planked = self.table
        return planked.now(mold, at)

    def plan_text(self, row: int, column: int) -> str:
        left, width = self.planned[row]
        if column == 1:
            return "–" if left is None else format_length(left, self.style)
        return "" if width is None else format_length(width, self.style)

    def cell_name(self, row: int, column: int) -> str:
        return f"left at mold {self.molds[row]}" if row < len(self.molds) else "girth left"

    def with_cells(self, cells: list[Cell]) -> Planked:
        planked: Planked = self.table
        for row, column, text in cells:
            field = COLUMNS[column][1] if column < len(COLUMNS) else ""
            if row >= len(self.molds) or not field:
                raise InputError(
                    "readings go under port and starboard only", value=text, mend="Paste from the first of those cells on."
                )
            name = self.molds[row]
            try:
                value = parse_reading(text, self.style.unit) if text.strip() else None
                if value is not None and value < 0:
                    raise InputError("nothing less than nothing can be left", value=text, mend="Type it without a minus.")
                most = self.girths.get(name)
                if value is not None and most is not None and value > MOST_SHARE * most:
                    raise InputError(
                        f"more is left than the whole mold is round ({format_length(most, self.style, unit=True)})",
                        value=text,
                        mend="Look at the unit, and measure along the mold's edge from the last strip on.",
                    )
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
            at = self.places[row]
            own = {**planked.now(name, at).model_dump(), "mold": name, "at": at, field: value}
            planked = planked.with_row(GirthLeft.model_validate(own))
        return planked

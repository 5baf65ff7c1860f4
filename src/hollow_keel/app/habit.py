"""From a table by points to the traditional one: the hull written down on waterlines and buttocks."""

from __future__ import annotations

from ..core.hull.table_lines import IMPERIAL, METRIC, table_lines
from ..core.offsets.table import OffsetsTable
from ..core.results import Shape
from ..core.units import INCHES
from ..files.offsets.lines_csv import lines_csv
from ..files.offsets.points_csv import parse_offsets_csv


def measured_by_lines(shape: Shape) -> OffsetsTable:
    """The table of a hull measured anew on round waterlines and buttocks, each value to 0.1 mm. Raises InputError."""
    table = shape.job.offsets
    spacings = IMPERIAL if shape.job.units.unit in INCHES else METRIC
    stems = [row.half_breadth for row in table.rows if row.label.startswith("stem_")]
    header = [f"stem_half_siding_mm: {max(stems)!r}"] if stems else []
    made = parse_offsets_csv(lines_csv(table, table_lines(shape.lines, spacings), header)).table
    return made.model_copy(update={"to_inside": table.to_inside})

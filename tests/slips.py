"""Tables with a slip planted in them, and hulls to plant them in."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from hollow_keel.core.fairing.doubts import judge
from hollow_keel.core.geometry.curves import KeptCurves
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.offsets.table import OffsetsTable, read_lines
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.offsets.points_csv import read_offsets_csv

from .shapes import wigley

DATA = Path(__file__).parent / "data"


def rounded(table: OffsetsTable, step: float = 1.0) -> OffsetsTable:
    """As a builder writes it."""
    rows = tuple(
        row.model_copy(update={"half_breadth": round(row.half_breadth / step) * step, "height": round(row.height / step) * step})
        for row in table.rows
    )
    return table.model_copy(update={"rows": rows})


def hulls() -> dict[str, OffsetsTable]:
    """The 5 m demo hull and hulls of known shape of about that size, rounded to 1 mm."""
    tables = {"linnet": demo_job("linnet").offsets, "wigley": wigley()}
    tables |= {path.stem: read_offsets_csv(path).table for path in sorted(DATA.glob("*.csv"))}
    return {name: rounded(table) for name, table in tables.items()}


@dataclass
class Planter:
    """Plants slips that move the skin by a given amount into one clean table."""

    table: OffsetsTable

    def __post_init__(self) -> None:
        self.curves = KeptCurves()
        self.places = judge(self.table, self.build(self.table))

    def build(self, table: OffsetsTable) -> Hull:
        return build_hull(read_lines(table), 0.0, self.curves)

    def plant(self, skin: float, random: np.random.Generator) -> tuple[OffsetsTable, int, str]:
        """The faulty table, the row and which offset of it is wrong."""
        while True:
            row = list(self.places)[int(random.integers(len(self.places)))]
            normal = self.places[row].normal
            which = "half_breadth" if abs(normal[1]) > abs(normal[2]) else "height"
            slope = float(normal[1] if which == "half_breadth" else normal[2])
            value = getattr(self.table.rows[row], which) + skin / abs(slope) * float(random.choice([-1, 1]))
            if which == "height" or value >= 0:
                return with_offset(self.table, row, which, value), row, which


def with_offset(table: OffsetsTable, row: int, which: str, value: float) -> OffsetsTable:
    """The table with one offset replaced."""
    return table.with_row(row, table.rows[row].model_copy(update={which: value}))

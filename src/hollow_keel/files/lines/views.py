"""Stations from the profile and the half-breadth plan of a lines drawing: where waterlines, buttocks, keel and sheer cross them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from ...core.errors import InputError
from ...core.geometry.arrays import Array
from ...core.offsets.table import LineKind, OffsetRow, TableLine
from ..offsets.lines_csv import StationOffsets, section_rows

POINTED_MM = 1.0
"""Where the sheer is no broader than the stem by more than this, the hull has ended."""


@dataclass
class Views:
    """Lines of a drawing in our frame, mm: (position, height) or (position, half-breadth), (n, 2). Waterlines by height,
    buttocks by half-breadth."""

    keel: Array | None = None
    sheer_up: Array | None = None
    sheer_out: Array | None = None
    waterlines: dict[float, Array] = field(default_factory=dict)
    buttocks: dict[float, Array] = field(default_factory=dict)

    @property
    def planes(self) -> tuple[TableLine, ...]:
        """The lines as those of a table."""
        return (
            *(TableLine(kind=LineKind.WATERLINE, level=z) for z in sorted(self.waterlines)),
            *(TableLine(kind=LineKind.BUTTOCK, level=y) for y in sorted(self.buttocks)),
        )

    @property
    def missing(self) -> list[str]:
        """What stations cannot be made without."""
        wanted = {
            "the keel in profile": self.keel is not None,
            "the sheer in profile": self.sheer_up is not None,
            "the sheer in the half-breadth plan": self.sheer_out is not None,
            "a waterline or a buttock": bool(self.waterlines or self.buttocks),
        }
        return [what for what, there in wanted.items() if not there]

    def rows(self, spacing: float, half_siding: float, remarks: list[str]) -> list[OffsetRow]:
        """Rows of a station every `spacing` mm where keel and sheer reach. Raises InputError where a view is missing."""
        if self.keel is None or self.sheer_up is None or self.sheer_out is None or self.missing:
            raise InputError(
                "without a body plan stations are taken where the other views cross them",
                value="",
                mend=f"Say which layer shows {' and '.join(self.missing)}.",
            )
        edges = {"keel height": self.keel, "sheer height": self.sheer_up, "sheer half-breadth": self.sheer_out}
        ends = [line[:, 0] for line in edges.values()]
        low, high = max(float(x.min()) for x in ends), min(float(x.max()) for x in ends)
        if not spacing > 0 or (high - low) / spacing > 200:
            raise InputError("this spacing gives too many stations", "A station every", f"{spacing:g}")
        rows: list[OffsetRow] = []
        for x in np.arange(np.ceil(low / spacing), np.floor(high / spacing) + 1) * spacing:
            station = self._station(float(x), edges)
            if station.given.get("sheer half-breadth", (0.0, ""))[0] <= half_siding + POINTED_MM:
                continue  # an end, not a station
            rows += section_rows(station, half_siding, lambda error: remarks.append(str(error)))
        return rows

    def _station(self, x: float, edges: Mapping[str, Array]) -> StationOffsets:
        """What the views say of one station; `edges` are keel and sheer by what they give. The lowest keel and the highest and
        broadest sheer count."""
        station = StationOffsets(x, "")
        for name, line in edges.items():
            found = crossings(line, x)
            if found:
                station.given[name] = (found[0] if name == "keel height" else found[-1], "")
        station.points += [(y, z, {}) for z, line in self.waterlines.items() for y in crossings(line, x)]
        station.points += [(y, z, {}) for y, line in self.buttocks.items() for z in crossings(line, x)]
        top, bottom = (station.given.get(name, (np.nan, ""))[0] for name in ("sheer height", "keel height"))
        station.points = [(round(y, 1), round(z, 1), {}) for y, z, _ in station.points if bottom < z < top]
        station.given = {name: (round(value, 1), "") for name, (value, _) in station.given.items()}
        return station


def crossings(line: Array, x: float) -> list[float]:
    """The other coordinate of a polyline (n, 2) wherever it crosses a position; nothing for a part along it."""
    before, after = line[:-1], line[1:]
    over = (before[:, 0] <= x) != (after[:, 0] <= x)
    a, b = before[over], after[over]
    found = a[:, 1] + (x - a[:, 0]) / (b[:, 0] - a[:, 0]) * (b[:, 1] - a[:, 1])
    ends = [float(p[1]) for p in (line[0], line[-1]) if p[0] == x]
    return sorted({round(float(v), 6) for v in (*found, *ends)})


def differences(sections: Mapping[float, Array], views: Views, apart: float) -> list[str]:
    """Where waterlines and buttocks of the other views are not those of the body plan, (half-breadth, height) by position; the
    worst of each line is said."""
    said = []
    for kind, lines, known, asked in (("waterline", views.waterlines, 1, 0), ("buttock", views.buttocks, 0, 1)):
        for level, line in lines.items():
            worst: tuple[float, float, float, float] | None = None
            for x, section in sections.items():
                here, there = crossings(section[:, [known, asked]], level), crossings(line, x)
                if len(here) == 1 and len(there) == 1:
                    off = abs(here[0] - there[0])
                    worst = max(worst or (0.0, 0.0, 0.0, 0.0), (off, x, there[0], here[0]))
            if worst is not None and worst[0] > apart:
                _, x, there_at, here_at = worst
                what = "half-breadth" if kind == "waterline" else "height"
                said.append(
                    f"Station {x:g}: {kind} {level:g} gives a {what} of {there_at:.1f}, the body plan {here_at:.1f}. "
                    "The body plan's was taken."
                )
    return said

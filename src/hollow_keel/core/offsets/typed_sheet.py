"""A table that is being typed: cells as they stand, headings and blanks with them, and an empty one to begin with."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from pydantic import BaseModel, ConfigDict

from ..units import MM_PER_INCH, LengthStyle, LengthUnit, format_length

MOST_CELLS = 60_000


class TypedSheet(BaseModel):
    """Rows of cells, as they were typed. It is read as any other table; what cannot be read yet stays where it is."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    cells: tuple[tuple[str, ...], ...]

    def cell(self, row: int, column: int) -> str:
        """A cell; empty where nothing was typed."""
        inside = row < len(self.cells) and column < len(self.cells[row])
        return self.cells[row][column] if inside else ""

    def with_cells(self, typed: Sequence[tuple[int, int, str]]) -> TypedSheet:
        """With some cells (row, column, text) typed over; the sheet grows where it must."""
        rows = [list(row) for row in self.cells]
        for row, column, text in typed:
            while len(rows) <= row:
                rows.append([])
            rows[row] += [""] * (column + 1 - len(rows[row]))
            rows[row][column] = " ".join(text.split())
        return TypedSheet(cells=tuple(tuple(row) for row in rows))

    def with_row(self, at: int) -> TypedSheet:
        """With an empty row before one."""
        return TypedSheet(cells=(*self.cells[:at], (), *self.cells[at:]))

    def without_rows(self, numbers: set[int]) -> TypedSheet:
        """Without some rows."""
        return TypedSheet(cells=tuple(row for k, row in enumerate(self.cells) if k not in numbers))

    @property
    def width(self) -> int:
        """The most cells of a row."""
        return max((len(row) for row in self.cells), default=0)


@dataclass(frozen=True)
class Dot:
    """What a sheet says of one point so far: the line that it is on (keel, sheer, chine, an end, or wl for any other), its station,
    and its half-breadth and height, mm; None where that is not given yet."""

    line: str
    station: float
    half_breadth: float | None
    height: float | None


class Ending(StrEnum):
    """What closes the hull at an end."""

    STEM = "a stem"
    TRANSOM = "a transom"
    OPEN = "its last station"


@dataclass(frozen=True)
class Wanted:
    """What is on the drawing before the builder: where its stations, waterlines, buttocks lie (mm), its diagonals (height mm,
    degrees down from level), how many chines it has, what its ends are, and how many points of each end's profile."""

    stations: tuple[float, ...]
    waterlines: tuple[float, ...] = ()
    buttocks: tuple[float, ...] = ()
    diagonals: tuple[tuple[float, float], ...] = ()
    chines: int = 0
    bow: Ending = Ending.STEM
    stern: Ending = Ending.TRANSOM
    by_lines: bool = True
    end_points: int = 6


UNIT_WORDS = {LengthUnit.MM: "mm", LengthUnit.M: "m", LengthUnit.FEET_INCH_EIGHTHS: "feet-inches-eighths"}
"""How a heading names a unit so that it is read again; all others are inches."""


def unit_words(unit: LengthUnit) -> str:
    """A unit as a heading names it."""
    return UNIT_WORDS.get(unit, "in")


def bare(mm: float, unit: LengthUnit) -> str:
    """A length as a bare number in a unit, as exact as that can say it."""
    match unit:
        case LengthUnit.MM:
            return f"{mm:.10g}"
        case LengthUnit.M:
            return f"{mm / 1000:.10g}"
        case LengthUnit.INCH:
            return f"{mm / MM_PER_INCH:.6g}"
        case _:
            return format_length(mm, LengthStyle(unit, 1 / 64))


def empty_sheet(wanted: Wanted, unit: str, write: Callable[[float], str]) -> TypedSheet:
    """An empty sheet in one of the two habits: headings, names and places, no offsets. Lengths are written by `write`, whose bare
    numbers are in `unit` (its name)."""
    return TypedSheet(cells=_lines(wanted, unit, write) if wanted.by_lines else _points(wanted, unit, write))


def _lines(wanted: Wanted, unit: str, write: Callable[[float], str]) -> tuple[tuple[str, ...], ...]:
    head = (f"Station ({unit})", *(write(x) for x in wanted.stations))
    chines = [f"Chine {k + 1}" if wanted.chines > 1 else "Chine" for k in range(wanted.chines)]
    rows: list[tuple[str, ...]] = [
        head,
        ("Heights",),
        ("Sheer",),
        *((name,) for name in reversed(chines)),
        *((f"Buttock {write(b)}",) for b in wanted.buttocks),
        ("Keel",),
        ("Half-breadths",),
        ("Sheer",),
        *((name,) for name in reversed(chines)),
        *((f"Waterline {write(z)}",) for z in reversed(wanted.waterlines)),
        ("Keel",),
    ]
    if wanted.diagonals:
        rows += [("Diagonals",), *((f"Diagonal {write(z)} @ {angle:g}",) for z, angle in wanted.diagonals)]
    for name, ending in (("bow", wanted.bow), ("stern", wanted.stern)):
        if ending is Ending.STEM:
            rows += [(), (f"Stem {name} position",), (f"Stem {name} height",)]
        elif ending is Ending.TRANSOM:
            own = "Transom" if name == "stern" else "Transom bow"
            rows += [(), (f"{own} position",), (f"{own} half-breadth",), (f"{own} height",)]
    if Ending.STEM in (wanted.bow, wanted.stern):
        rows += [(), ("Half-siding of the stem",)]
    return tuple(rows)


def _points(wanted: Wanted, unit: str, write: Callable[[float], str]) -> tuple[tuple[str, ...], ...]:
    head = (f"Station ({unit})", "Point", f"Half-breadth ({unit})", f"Height ({unit})")
    rows: list[tuple[str, ...]] = [head]
    if wanted.bow is not Ending.OPEN:
        rows += [("", "stem_bow" if wanted.bow is Ending.STEM else "transom")] * wanted.end_points
    for x in wanted.stations:
        at = write(x)
        rows.append((at, "keel"))
        rows += [(at, "wl", "", write(z)) for z in wanted.waterlines]
        rows += [(at, "wl", write(b)) for b in wanted.buttocks]
        rows += [(at, "chine")] * wanted.chines
        if not (wanted.waterlines or wanted.buttocks):
            rows += [(at, "wl")] * 4
        rows.append((at, "sheer"))
    if wanted.stern is not Ending.OPEN:
        rows += [("", "stem_stern" if wanted.stern is Ending.STEM else "transom")] * wanted.end_points
    return tuple(rows)

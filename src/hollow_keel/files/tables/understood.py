"""What was made of a table: the offsets, what each column was taken for, what was left out, what has to be asked."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from ...core.offsets.table import OffsetsTable
from ...core.offsets.typed_sheet import Dot
from .words import Meaning


class Layout(StrEnum):
    """How a table is laid out."""

    POINTS = "a point in each row"
    LINES = "a line in each row, a station in each column"
    LINES_ACROSS = "a station in each row, a line in each column"


class Asked(StrEnum):
    """What a table may leave open. The value is its name on the command line."""

    UNIT = "unit"
    COMMA = "comma"
    SPACING = "spacing"
    WATERLINES = "waterlines"
    BUTTOCKS = "buttocks"
    DIAGONALS = "diagonals"
    LOAD = "load-waterline"
    COLUMNS = "columns"
    SHIFTED = "shifted"
    SIDE = "offsets-to"


@dataclass(frozen=True)
class Question:
    """What cannot be known from the table: `choices` are answers (with words for each) where there are so many only; otherwise an
    answer is a length or several. `hint` is one of them, written in the place of the answer."""

    about: Asked
    text: str
    choices: Mapping[str, str] = field(default_factory=dict)
    hint: str = ""


@dataclass(frozen=True)
class LeftOut:
    """A cell that was not used: its row and column (from 1; 0 where it is the whole row, or no one cell), its text, and why."""

    row: int
    column: int
    text: str
    why: str

    @property
    def where(self) -> str:
        """The place in words."""
        if not self.row:
            return "in the table"
        return f"row {self.row}" + (f", column {letter(self.column)}" if self.column else "")


@dataclass(frozen=True)
class Column:
    """A column of a table by points: its heading, what it holds, and the unit of its bare numbers (None: not known)."""

    heading: str
    meaning: Meaning
    unit: str | None = None


@dataclass(frozen=True)
class Answers:
    """What the builder says of a table: answers by question; of a table by points its columns' meanings and units, by their number
    (from 0); a sheet other than the one that was found."""

    said: Mapping[Asked, str] = field(default_factory=dict)
    meanings: Mapping[int, Meaning] = field(default_factory=dict)
    units: Mapping[int, str] = field(default_factory=dict)
    sheet: int | None = None


@dataclass(frozen=True)
class Understood:
    """`table` is None while a question is open or nothing could be read; `problem` why, where it is neither. `notes` say what was
    taken for granted. `heading` is the number of the row of headings (from 1); `dots` are all points that something is said of,
    whole or not."""

    sheet: int
    layout: Layout | None
    heading: int
    columns: tuple[Column, ...] = ()
    questions: tuple[Question, ...] = ()
    left_out: tuple[LeftOut, ...] = ()
    notes: tuple[str, ...] = ()
    table: OffsetsTable | None = None
    problem: str = ""
    name: str = ""
    waterline: float | None = None
    dots: tuple[Dot, ...] = ()

    @property
    def score(self) -> tuple[int, int]:
        """How much of a table it is, to choose the best of several sheets."""
        points = len(self.table.rows) if self.table is not None else 0
        return (self.layout is not None) + bool(self.questions), points


def letter(column: int) -> str:
    """A column (from 1) as spreadsheets name it."""
    text = ""
    while column > 0:
        column, rest = divmod(column - 1, 26)
        text = chr(65 + rest) + text
    return text

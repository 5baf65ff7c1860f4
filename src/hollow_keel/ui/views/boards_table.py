"""Boards typed in: those on hand, and those for sale. The last row is empty, for the next one."""

from __future__ import annotations

import re
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHeaderView, QWidget

from ...app.setting_text import read_whole
from ...core.errors import InputError
from ...core.settings.timber import Board, Grain, free_marks
from ...core.stock.nominal import dressed
from ...core.units import LengthStyle, parse_length
from .cells_table import Cell
from .data_table import ROOT, Index
from .entry_table import Changed, EntryModel, EntryTable

FIELDS = ("mark", "wood", "thickness", "width", "length", "count", "faults", "grain", "price")
HEADS = ("Mark", "Wood", "Thick", "Wide", "Long", "How many", "Lost to faults", "Grain of the face", "Price each")
WIDTHS = {0: 52, 1: 150, 7: 92}
LENGTHS = frozenset({"thickness", "width", "length", "faults"})
HINTS = {
    "thickness": "Dressed. A nominal size in inches may be typed as 1x6: its dressed size is taken.",
    "width": "Dressed. A nominal size in inches may be typed as 1x6: its dressed size is taken.",
    "length": "Empty the length to take the boards out.",
    "grain": "flat, vertical or not known",
    "mark": "What you write on the boards: their strips are named after it.",
}
NOMINAL = re.compile(r"^\s*(\d+(?:[.,]\d+)?|\d+/\d+)\s*[x×]\s*(\d+)\s*$", re.IGNORECASE)


class BoardsModel(EntryModel):
    """One kind of board a row. `marks` are what the rows' boards are marked with, `taken` every mark in use."""

    def __init__(self, changed: Changed, *, for_sale: bool, parent: QWidget | None = None) -> None:
        super().__init__(changed, parent)
        self.table: tuple[Board, ...] = ()
        self.for_sale = for_sale
        self.marks: tuple[str, ...] = ()
        self.taken: frozenset[str] = frozenset()
        self.wood = ""
        self.currency = ""

    def show_boards(
        self, boards: tuple[Board, ...], marks: tuple[str, ...], taken: frozenset[str], wood: str, currency: str, style: LengthStyle
    ) -> None:
        """What the job says now; rows that are the same are left alone, one may be typed into."""
        self.taken = taken
        now = (boards, marks, wood, currency, style)
        if now == (self.table, self.marks, self.wood, self.currency, self.style):
            return
        same = len(boards) == len(self.table)
        if not same:
            self.beginResetModel()
            self.faults.clear()
        self.table, self.marks, self.wood, self.currency, self.style = now
        if same:
            self.dataChanged.emit(self.index(0, 0), self.index(len(boards), len(FIELDS) - 1))
        else:
            self.endResetModel()

    def rowCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(self.table) + 1

    def columnCount(self, parent: Index = ROOT) -> int:
        return 0 if parent.isValid() else len(FIELDS)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation != Qt.Orientation.Horizontal:
            return None
        if role == Qt.ItemDataRole.ToolTipRole:
            return HINTS.get(FIELDS[section])
        if role == Qt.ItemDataRole.DisplayRole:
            if FIELDS[section] == "count" and self.for_sale:
                return "There are (0: any)"
            return f"{HEADS[section]} {self.currency}" if FIELDS[section] == "price" else HEADS[section]
        return None

    def text(self, row: int, column: int, *, exact: bool) -> str:
        field = FIELDS[column]
        if row >= len(self.table):
            return "new" if field == "mark" and not exact else ""
        if field == "mark":
            return self.marks[row]
        value = getattr(self.table[row], field)
        if field in LENGTHS:
            return self.length(value, exact=exact)
        if field == "wood":
            return value or ("" if exact else self.wood)
        if field == "price":
            return f"{value:g}" if exact else f"{value:.2f}"
        return str(value)

    def cell_name(self, row: int, column: int) -> str:
        named = f"board {self.marks[row]}" if row < len(self.marks) else "the new board"
        return f"{HEADS[column].lower()} of {named}"

    def with_cells(self, cells: list[Cell]) -> tuple[Board, ...]:
        boards: list[Board | None] = [b.model_copy(update={"mark": mark}) for b, mark in zip(self.table, self.marks, strict=True)]
        for row, column, text in cells:
            if column >= len(FIELDS):
                raise InputError("there is no such column", value=text, mend="Paste further to the left.")
            field = FIELDS[column]
            while row >= len(boards):
                boards.append(self._new(boards))
            board = boards[row]
            if board is None:
                continue
            if field == "length" and not text.strip():
                boards[row] = None
                continue
            if field == "mark" and text.strip() in {b.mark for b in boards if b is not None and b is not board} | self._others():
                raise InputError("other boards have this mark", self.cell_name(row, column), text, "Give them another one.")
            try:
                boards[row] = _with_field(board, field, text, self.style)
            except InputError as error:
                raise error.at(self.cell_name(row, column)) from None
        return tuple(b for b in boards if b is not None)

    def _others(self) -> frozenset[str]:
        """Marks of boards in the other table."""
        return self.taken - frozenset(self.marks)

    def _new(self, boards: list[Board | None]) -> Board:
        """A new row is like the one above it, with a mark that is free."""
        used = self.taken | {b.mark for b in boards if b is not None}
        mark = next(free_marks(used))
        above = next((b for b in reversed(boards) if b is not None), None)
        if above is not None:
            return above.model_copy(update={"faults": 0.0, "mark": mark})
        return Board(count=0 if self.for_sale else 1, mark=mark)


def _with_field(board: Board, field: str, text: str, style: LengthStyle) -> Board:
    """A board with one cell read. Raises InputError."""
    from ...core.change import change

    nominal = NOMINAL.match(text) if field in ("thickness", "width") else None
    if nominal:
        thick = nominal[1].replace(",", ".")
        over, _, under = thick.partition("/")
        sizes = dressed(float(over) / float(under or 1), float(nominal[2]))
        if sizes is None:
            raise InputError("this nominal size is not in the table", value=text, mend="Type the dressed sizes themselves.")
        return change(board, "", thickness=sizes[0], width=sizes[1])
    if field in LENGTHS:
        return change(board, "", **{field: parse_length(text, style.unit) if text.strip() else 0.0})
    if field == "count":
        return change(board, "", count=read_whole(text or "0", example=12))
    if field == "price":
        return change(board, "", price=_money(text))
    if field == "grain":
        return change(board, "", grain=_grain(text))
    return change(board, "", **{field: text.strip()})


def _money(text: str) -> float:
    figures = re.sub(r"[^\d.,-]", "", text)
    if re.fullmatch(r"\d{1,3},\d{3}", figures):
        raise InputError("this price can be read in two ways", value=text, mend="Write 1250 or 1.25, without a comma.")
    try:
        return float(figures.replace(",", ".")) if text.strip() else 0.0
    except ValueError:
        raise InputError("this is not a price", value=text, mend="Write for example 24.50.") from None


def _grain(text: str) -> Grain:
    word = text.strip().lower()
    for grain in Grain:
        if word and grain.value.startswith(word):
            return grain
    if not word:
        return Grain.UNKNOWN
    raise InputError("no such grain", value=text, mend="Write flat, vertical or not known.")


class BoardsTable(EntryTable):
    """The table of boards."""

    def __init__(self, name: str, model: BoardsModel, parent: QWidget | None = None) -> None:
        super().__init__(name, model, parent)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.fix_widths(WIDTHS)

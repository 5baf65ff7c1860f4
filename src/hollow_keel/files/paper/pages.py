"""Pages of one document that fill from the top: headings, lines, tables and pictures, a new page where one is full. Millimetres."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from ...drawing.model import Drawing
from .sheet import FONT, PAPERS, Ink, Sheet

MARGIN_MM, ROW_MM, TEXT_MM = 14.0, 6.4, 3.4
BESIDE_MM, HEAD_MM, LARGE_MM = 14.0, 2.8, 3.8
BETWEEN_MM, FOOT_MM = 8.0, 5.0


@dataclass(frozen=True)
class Head:
    """A column of a table: its heading, its share of the width, whether it holds figures (to the right), and whether they are what
    the table is read for."""

    text: str
    share: float
    figures: bool = False
    strong: bool = False


Column = tuple[Head, float, float]
"""A column with its left edge and its width."""


class Pages:
    """A PDF written from top to bottom, or some pages of one (`sheet`) of another `size`, in so many `columns`; `foot` is said at
    the bottom of every page. `y` is where the next thing's top goes."""

    def __init__(
        self,
        title: str,
        beside: str,
        sheet: Sheet | None = None,
        size: tuple[float, float] = PAPERS["a4"],
        *,
        columns: int = 1,
        foot: Sequence[str] = (),
    ) -> None:
        self.width, self.height = size
        self.title, self.beside, self.foot = title, beside, foot
        self.sheet = sheet or Sheet(title)
        self.y = 0.0
        self.columns, self._column, self._aside = columns, 0, 0.0
        self._top = 0.0
        self._open = False

    @property
    def left(self) -> float:
        """Left edge of the column that is written."""
        return MARGIN_MM + self._aside + self._column * (self.across + BETWEEN_MM)

    @property
    def across(self) -> float:
        """Width of a column."""
        whole = self.width - 2 * MARGIN_MM - self._aside
        return (whole - (self.columns - 1) * BETWEEN_MM) / self.columns

    @property
    def bottom(self) -> float:
        """Nothing but the foot goes below."""
        return MARGIN_MM + FOOT_MM * len(self.foot)

    def page(self) -> None:
        """Begin a page with the title on it."""
        if self._open:
            self.sheet.end_page()
        self._open, self._column, self._aside = True, 0, 0.0
        self.sheet.page(self.width, self.height)
        top = self.height - MARGIN_MM - 4
        self.sheet.text(MARGIN_MM, top, self.title, 5.0, strong=True)
        self.sheet.text(self.width - MARGIN_MM, top, self.beside, 3.0, anchor="right")
        for k, text in enumerate(reversed(self.foot)):
            self.sheet.text(MARGIN_MM, MARGIN_MM - 4 + FOOT_MM * k, text, 3.2)
        self.y = self._top = top - 8

    def room(self, high: float) -> None:
        """Go on to another column or page where less than `high` mm are left."""
        if not self._open:
            self.page()
        elif self.y - high < self.bottom:
            if self._column + 1 < self.columns:
                self._column, self.y = self._column + 1, self._top
            else:
                self.page()

    def heading(self, text: str, *, with_next: float = 20.0) -> None:
        """A heading, kept together with so much of what follows."""
        self.room(13 + with_next)
        self.y -= 9
        self.sheet.text(self.left, self.y, text, 4.2, strong=True)
        self.y -= 4

    def line(self, text: str, *, strong: bool = False, indent: float = 0.0) -> None:
        """A text, broken into as many lines as it needs."""
        for part in broken(text, self.across - indent, TEXT_MM):
            self.room(ROW_MM)
            self.y -= 4.8
            self.sheet.text(self.left + indent, self.y, part, TEXT_MM, strong=strong)

    def picture(self, drawing: Drawing, high: float, *, stretched: bool = False) -> None:
        """A drawing as large as the width and a height allow, with room for texts at its sides; `stretched` fills both."""
        left, bottom, right, top = drawing.bounds()
        if right <= left:
            return
        self.room(high + 12)
        across, up = (self.across - 2 * BESIDE_MM) / (right - left), high / max(top - bottom, 1e-6)
        if not stretched:
            across = up = min(across, up)
        fitted = drawing.stretched(across, up)
        self.y -= 5
        self.sheet.drawing(fitted, (self.left + BESIDE_MM - left * across, self.y - top * up), 1.0)
        self.y -= (top - bottom) * up + 9

    def picture_aside(self, drawing: Drawing, share: float) -> None:
        """A drawing at the left, in a share of the width; what follows on this page stands at its right."""
        left, bottom, right, top = drawing.bounds()
        wide = share * self.across
        scale = min((wide - BESIDE_MM) / max(right - left, 1e-6), (self.y - self.bottom - 9) / max(top - bottom, 1e-6))
        self.sheet.drawing(drawing, (self.left - left * scale, self.y - 5 - top * scale), scale)
        self._aside = wide + BETWEEN_MM

    def item(self, text: str, more: str = "") -> None:
        """A box to tick with a text, and what else is to be said of it below."""
        self.room(2 * ROW_MM)
        self.y -= 4.8
        tick_box(self.sheet, self.left, self.y - 0.5)
        parts = [(part, True) for part in broken(text, self.across - 7, LARGE_MM)]
        parts += [(part, False) for part in broken(more, self.across - 7, LARGE_MM) if more]
        for part, strong in parts:
            self.sheet.text(self.left + 7, self.y, part, LARGE_MM, strong=strong)
            self.y -= 5
        self.y -= 1.5

    def table(self, heads: Sequence[Head], rows: Iterable[Sequence[str]], *, boxes: bool = False, size: float = TEXT_MM) -> None:
        """Rows under headings that are said again on every page; long cells run on below; `boxes` to tick at the left; texts of
        a `size` in mm."""
        self.room(3 * ROW_MM)
        columns = self._laid_out(heads, boxes)
        self._heads(columns)
        step = 1.235 * size
        for row in rows:
            cells = _in_columns(row, columns, size)
            high = size + 3.0 + step * (max(len(c) for c in cells) - 1)
            before = self.y
            self.room(high)
            if self.y > before:
                columns = self._laid_out(heads, boxes)
                self._heads(columns)
            self._write(cells, columns, (size, size + 1.2, step))
            if boxes:
                tick_box(self.sheet, self.left, self.y - size - 1.4)
            self._rule(high, Ink(0.7, 0.1))

    def _laid_out(self, heads: Sequence[Head], boxes: bool) -> list[Column]:
        start = self.left + (7.0 if boxes else 0.0)
        whole = self.left + self.across - start
        total = sum(h.share for h in heads)
        columns: list[Column] = []
        for head in heads:
            columns.append((head, start, whole * head.share / total))
            start += columns[-1][2]
        return columns

    def _heads(self, columns: Sequence[Column]) -> None:
        cells = _in_columns([head.text for head, *_ in columns], columns, HEAD_MM)
        self._write(cells, columns, (HEAD_MM, 4.0, 3.4), strong=True)
        self._rule(6 + 3.4 * (max(len(c) for c in cells) - 1), Ink(0.0, 0.3))

    def _write(
        self, cells: Sequence[Sequence[str]], columns: Sequence[Column], sizes: tuple[float, float, float], *, strong: bool = False
    ) -> None:
        """A row of cells, each in lines; `sizes` are the height of texts, how far down the first line stands, and the next."""
        size, down, step = sizes
        for lines, (head, left, width) in zip(cells, columns, strict=True):
            at, anchor = (left + width - 2, "right") if head.figures else (left, "left")
            for k, text in enumerate(lines):
                self.sheet.text(at, self.y - down - step * k, text, size, anchor=anchor, strong=strong or head.strong)

    def _rule(self, high: float, ink: Ink) -> None:
        """A line under a row so high; the next thing goes below it."""
        self.y -= high
        self.sheet.pen(ink)
        self.sheet.polyline([(self.left, self.y), (self.left + self.across, self.y)])

    def close(self) -> None:
        """The last of these pages is done."""
        if not self._open:
            self.page()
        self.sheet.end_page()
        self._open = False

    def finish(self) -> bytes:
        """The whole file."""
        self.close()
        return self.sheet.finish()


def tick_box(sheet: Sheet, x: float, y: float) -> None:
    """A box to tick, its lower left corner at (x, y)."""
    sheet.pen(Ink(0.0, 0.2))
    sheet.polyline([(x, y), (x + 4, y), (x + 4, y + 4), (x, y + 4)], closed=True)


def _in_columns(texts: Sequence[str], columns: Sequence[Column], size: float) -> list[list[str]]:
    return [broken(text, width - 2.5, size) for text, (_, _, width) in zip(texts, columns, strict=True)]


def broken(text: str, width: float, size: float) -> list[str]:
    """A text in lines no wider than `width` mm at a size; a word that is longer stands alone."""
    lines: list[str] = []
    for word in text.split(" "):
        trial = f"{lines[-1]} {word}" if lines else word
        if lines and pdfmetrics.stringWidth(trial, FONT, size * mm) / mm <= width:
            lines[-1] = trial
        else:
            lines.append(word)
    return lines

"""Pages of one document that fill from the top: headings, lines, tables and pictures, a new page where one is full. Millimetres."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from ..drawing.model import Drawing
from .paper import FONT, PAPERS, Ink, Sheet

MARGIN_MM, ROW_MM, TEXT_MM = 14.0, 6.4, 3.4
BESIDE_MM, HEAD_MM = 14.0, 2.8


@dataclass(frozen=True)
class Head:
    """A column of a table: its heading, its share of the width, and whether it holds figures (to the right)."""

    text: str
    share: float
    figures: bool = False


Column = tuple[Head, float, float]
"""A column with its left edge and its width."""


class Pages:
    """A PDF written from top to bottom, or some pages of one (`sheet`) of another `size`. `y` is where the next thing's top
    goes."""

    def __init__(
        self, title: str, beside: str, sheet: Sheet | None = None, size: tuple[float, float] = PAPERS["a4"]
    ) -> None:
        self.width, self.height = size
        self.title, self.beside = title, beside
        self.sheet = sheet or Sheet(title)
        self.y = 0.0
        self._open = False

    @property
    def across(self) -> float:
        """Width between the margins."""
        return self.width - 2 * MARGIN_MM

    def page(self) -> None:
        """Begin a page with the title on it."""
        if self._open:
            self.sheet.end_page()
        self._open = True
        self.sheet.page(self.width, self.height)
        top = self.height - MARGIN_MM - 4
        self.sheet.text(MARGIN_MM, top, self.title, 5.0, strong=True)
        self.sheet.text(self.width - MARGIN_MM, top, self.beside, 3.0, anchor="right")
        self.y = top - 8

    def room(self, high: float) -> None:
        """Go on to another page where less than `high` mm are left."""
        if not self._open or self.y - high < MARGIN_MM:
            self.page()

    def heading(self, text: str, *, with_next: float = 20.0) -> None:
        """A heading, kept together with so much of what follows."""
        self.room(13 + with_next)
        self.y -= 9
        self.sheet.text(MARGIN_MM, self.y, text, 4.2, strong=True)
        self.y -= 4

    def line(self, text: str, *, strong: bool = False, indent: float = 0.0) -> None:
        """A text, broken into as many lines as it needs."""
        for part in broken(text, self.across - indent, TEXT_MM):
            self.room(ROW_MM)
            self.y -= 4.8
            self.sheet.text(MARGIN_MM + indent, self.y, part, TEXT_MM, strong=strong)

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
        self.sheet.drawing(fitted, (MARGIN_MM + BESIDE_MM - left * across, self.y - top * up), 1.0)
        self.y -= (top - bottom) * up + 9

    def table(self, heads: Sequence[Head], rows: Iterable[Sequence[str]], *, boxes: bool = False) -> None:
        """Rows under headings that are said again on every page; long cells run on below; `boxes` to tick at the left."""
        start = MARGIN_MM + (7.0 if boxes else 0.0)
        whole = self.width - MARGIN_MM - start
        total = sum(h.share for h in heads)
        columns: list[Column] = []
        for head in heads:
            columns.append((head, start, whole * head.share / total))
            start += columns[-1][2]
        self.room(3 * ROW_MM)
        self._heads(columns)
        for row in rows:
            cells = _in_columns(row, columns, TEXT_MM)
            high = ROW_MM + 4.2 * (max(len(c) for c in cells) - 1)
            if self.y - high < MARGIN_MM:
                self.page()
                self._heads(columns)
            self._write(cells, columns, (TEXT_MM, 4.6, 4.2))
            if boxes:
                tick_box(self.sheet, MARGIN_MM, self.y - 4.8)
            self._rule(high, Ink(0.7, 0.1))

    def _heads(self, columns: Sequence[Column]) -> None:
        cells = _in_columns([head.text for head, *_ in columns], columns, HEAD_MM)
        self._write(cells, columns, (HEAD_MM, 4.0, 3.4), strong=True)
        self._rule(6 + 3.4 * (max(len(c) for c in cells) - 1), Ink(0.0, 0.3))

    def _write(
        self,
        cells: Sequence[Sequence[str]],
        columns: Sequence[Column],
        sizes: tuple[float, float, float],
        *,
        strong: bool = False,
    ) -> None:
        """A row of cells, each in lines; `sizes` are the height of texts, how far down the first line stands, and the next."""
        size, down, step = sizes
        for lines, (head, left, width) in zip(cells, columns, strict=True):
            at, anchor = (left + width - 2, "right") if head.figures else (left, "left")
            for k, text in enumerate(lines):
                self.sheet.text(at, self.y - down - step * k, text, size, anchor=anchor, strong=strong)

    def _rule(self, high: float, ink: Ink) -> None:
        """A line under a row so high; the next thing goes below it."""
        self.y -= high
        self.sheet.pen(ink)
        self.sheet.polyline([(MARGIN_MM, self.y), (self.width - MARGIN_MM, self.y)])

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

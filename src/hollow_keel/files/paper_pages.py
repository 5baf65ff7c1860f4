"""Pages of one document that fill from the top: headings, lines, tables and pictures, a new page where one is full. Millimetres."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from ..drawing.model import Drawing
from .paper import FONT, PAPERS, STRONG, Ink, Sheet

MARGIN_MM, ROW_MM, TEXT_MM = 14.0, 6.4, 3.4


@dataclass(frozen=True)
class Head:
    """A column of a table: its heading, its share of the width, and whether it holds figures (to the right)."""

    text: str
    share: float
    figures: bool = False


class Pages:
    """A PDF written from top to bottom. `y` is where the next thing's top goes."""

    def __init__(self, title: str, beside: str, paper: str = "a4", *, landscape: bool = False) -> None:
        width, height = PAPERS[paper]
        self.width, self.height = (height, width) if landscape else (width, height)
        self.title, self.beside = title, beside
        self.sheet = Sheet(title)
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

    def picture(
        self, drawing: Drawing, high: float, *, stretched: bool = False, beside: float = 14.0
    ) -> None:
        """A drawing as large as the width and a height allow; `stretched` fills both; `beside` is room for texts at its sides."""
        left, bottom, right, top = drawing.bounds()
        if right <= left:
            return
        self.room(high + 12)
        across, up = (self.across - 2 * beside) / (right - left), high / max(top - bottom, 1e-6)
        if not stretched:
            across = up = min(across, up)
        fitted = drawing.stretched(across, up)
        self.y -= 5
        self.sheet.drawing(fitted, (MARGIN_MM + beside - left * across, self.y - top * up), 1.0)
        self.y -= (top - bottom) * up + 9

    def table(self, heads: Sequence[Head], rows: Iterable[Sequence[str]], *, boxes: bool = False) -> None:
        """Rows under headings that are said again on every page; long cells run on below; `boxes` to tick at the left."""
        start = MARGIN_MM + (7.0 if boxes else 0.0)
        whole = self.width - MARGIN_MM - start
        total = sum(h.share for h in heads)
        widths = [whole * h.share / total for h in heads]
        lefts = [start + sum(widths[:k]) for k in range(len(heads))]
        self.room(3 * ROW_MM)
        self._heads(heads, lefts, widths)
        for row in rows:
            cells = [broken(cell, w - 2.5, TEXT_MM) for cell, w in zip(row, widths, strict=True)]
            high = ROW_MM + 4.2 * (max(len(c) for c in cells) - 1)
            if self.y - high < MARGIN_MM:
                self.page()
                self._heads(heads, lefts, widths)
            for head, left, width, lines in zip(heads, lefts, widths, cells, strict=True):
                for k, text in enumerate(lines):
                    at = left + width - 2 if head.figures else left
                    anchor = "right" if head.figures else "left"
                    self.sheet.text(at, self.y - 4.6 - 4.2 * k, text, TEXT_MM, anchor=anchor)
            if boxes:
                tick_box(self.sheet, MARGIN_MM, self.y - 4.8)
            self.y -= high
            self.sheet.pen(Ink(0.7, 0.1))
            self.sheet.polyline([(MARGIN_MM, self.y), (self.width - MARGIN_MM, self.y)])

    def _heads(self, heads: Sequence[Head], lefts: Sequence[float], widths: Sequence[float]) -> None:
        lines = [broken(head.text, width - 2.5, 2.8) for head, width in zip(heads, widths, strict=True)]
        most = max(len(own) for own in lines)
        for head, left, width, own in zip(heads, lefts, widths, lines, strict=True):
            for k, text in enumerate(own):
                at = left + width - 2 if head.figures else left
                anchor = "right" if head.figures else "left"
                self.sheet.text(at, self.y - 4 - 3.4 * k, text, 2.8, anchor=anchor, strong=True)
        self.y -= 6 + 3.4 * (most - 1)
        self.sheet.pen(Ink(0.0, 0.3))
        self.sheet.polyline([(MARGIN_MM, self.y), (self.width - MARGIN_MM, self.y)])

    def finish(self) -> bytes:
        """The whole file."""
        if not self._open:
            self.page()
        self.sheet.end_page()
        return self.sheet.finish()


def tick_box(sheet: Sheet, x: float, y: float) -> None:
    """A box to tick, its lower left corner at (x, y)."""
    sheet.pen(Ink(0.0, 0.2))
    sheet.polyline([(x, y), (x + 4, y), (x + 4, y + 4), (x, y + 4)], closed=True)


def broken(text: str, width: float, size: float, *, strong: bool = False) -> list[str]:
    """A text in lines no wider than `width` mm at a size; a word that is longer stands alone."""
    font = STRONG if strong else FONT
    lines: list[str] = []
    for word in text.split(" "):
        trial = f"{lines[-1]} {word}" if lines else word
        if lines and pdfmetrics.stringWidth(trial, font, size * mm) / mm <= width:
            lines[-1] = trial
        else:
            lines.append(word)
    return lines

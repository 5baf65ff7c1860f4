"""The pages of tiled drawings, and a map that shows how they lie."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...drawing.model import Drawing, Layer
from .sheet import Ink, Sheet

MARGIN_MM, HEAD_MM, FOOT_MM = 14.0, 20.0, 32.0
ACROSS, DOWN = 3, 4
"""Drawings on one map page."""
OUTLINES = frozenset({Layer.MOLD, Layer.HOLE})


@dataclass(frozen=True)
class Tile:
    """One page of a tiled drawing: column, row (from the lower left, from 0) and its part of the drawing in mm."""

    column: int
    row: int
    left: float
    bottom: float
    right: float
    top: float

    @property
    def name(self) -> str:
        """Row letter and column number, as the pages are laid out."""
        return f"{chr(ord('A') + self.row)}{self.column + 1}"


def page_maps(sheet: Sheet, title: str, tiled: Sequence[tuple[Drawing, list[Tile]]], paper: tuple[float, float]) -> None:
    """Pages that show each drawing small with the pages it is printed on, in their places and with their names."""
    width, height = paper
    count = sum(len(pages) for _, pages in tiled)
    each = ACROSS * DOWN
    cell_x = (width - 2 * MARGIN_MM) / ACROSS
    cell_y = (height - HEAD_MM - FOOT_MM) / DOWN
    for first in range(0, len(tiled), each):
        sheet.page(width, height)
        sheet.text(MARGIN_MM, height - 10, f"{title}: how the {count} pages lie", 5.0, strong=True)
        sheet.text(MARGIN_MM, height - 15, "Join the pages of each mold as drawn here, cross on cross.", 3.0)
        for k, (drawing, pages) in enumerate(tiled[first : first + each]):
            left = MARGIN_MM + (k % ACROSS) * cell_x
            bottom = height - HEAD_MM - (k // ACROSS + 1) * cell_y
            _one_map(sheet, drawing, pages, (left, bottom, cell_x, cell_y))
        sheet.proof_bars(MARGIN_MM, MARGIN_MM)
        sheet.end_page()


def _one_map(sheet: Sheet, drawing: Drawing, pages: list[Tile], cell: tuple[float, float, float, float]) -> None:
    x, y, wide, high = cell
    left, bottom = min(t.left for t in pages), min(t.bottom for t in pages)
    right, top = max(t.right for t in pages), max(t.top for t in pages)
    scale = min((wide - 6) / (right - left), (high - 9) / (top - bottom))
    shift = (x + 3 - left * scale, y + 2 - bottom * scale)
    sheet.text(x + 3, y + high - 5, f"{drawing.title}: {len(pages)} pages", 3.0, strong=True)
    small = Drawing(drawing.title, tuple(s for s in drawing.strokes if s.layer in OUTLINES))
    sheet.drawing(small, shift, scale)
    for tile in pages:
        sheet.pen(Ink(0.5, 0.1))
        corners = [(tile.left, tile.bottom), (tile.right, tile.bottom), (tile.right, tile.top), (tile.left, tile.top)]
        sheet.polyline([(a * scale + shift[0], b * scale + shift[1]) for a, b in corners], closed=True)
        middle = ((tile.left + tile.right) / 2 * scale + shift[0], (tile.bottom + tile.top) / 2 * scale + shift[1])
        sheet.text(middle[0], middle[1] - 1.0, tile.name, 2.8, anchor="middle", back=True)

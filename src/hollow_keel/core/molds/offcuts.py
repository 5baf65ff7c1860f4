"""Sheets that are not whole: offcuts on hand that are used first, and the largest offcut that a layout leaves."""

from __future__ import annotations

import numpy as np
import shapely

from ..geometry.arrays import BoolArray
from ..settings.layout import Layout
from .part import FlatPart

CELL_MM = 20.0


def largest_left_over(layout: Layout, parts: list[FlatPart], sheet: int) -> tuple[float, float]:
    """Sides (mm) of the largest upright rectangle that is free on a sheet, to within CELL_MM, its gap to parts kept."""
    long, wide = layout.size(sheet)
    shapes = {p.name: p for p in parts}
    lying = [
        shapely.Polygon(p.moved(shapes[p.name].outline), [p.moved(h) for h in shapes[p.name].holes])
        for p in layout.placed
        if p.sheet == sheet
    ]
    taken = shapely.buffer(shapely.union_all(lying), layout.sheets.gap)
    across, down = int(long // CELL_MM), int(wide // CELL_MM)
    x, y = np.meshgrid(np.arange(across) * CELL_MM, np.arange(down) * CELL_MM)
    cells = shapely.box(x, y, x + CELL_MM, y + CELL_MM)
    shapely.prepare(taken)
    free = ~shapely.intersects(taken, cells)
    columns, rows = _largest_rectangle(free)
    return columns * CELL_MM, rows * CELL_MM


def _largest_rectangle(free: BoolArray) -> tuple[int, int]:
    """Columns and rows of the largest all-true rectangle: for each row the heights of free columns above it, and for
    each height the longest run of columns at least so high."""
    heights = np.zeros(free.shape[1], dtype=int)
    best, area = (0, 0), 0
    for row in free:
        heights = np.where(row, heights + 1, 0)
        stack: list[int] = []
        for k, high in enumerate([*heights.tolist(), 0]):
            while stack and heights[stack[-1]] >= high:
                top = int(heights[stack.pop()])
                run = k - (stack[-1] + 1 if stack else 0)
                if top * run > area:
                    best, area = (run, top), top * run
            stack.append(k)
    return best

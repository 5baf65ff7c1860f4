"""Mold patterns at full size: tiled over A4, Letter, A3 or Tabloid pages, or one page of its own size for a roll."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from shapely.geometry import LineString

from ...core.errors import InputError
from ...core.molds.stations import Mold
from ...core.planking.strips import Planking
from ...core.results import Shape
from ...drawing.model import Drawing
from ...drawing.molds.mold import face_text, mold_drawing
from ..paper.page_map import Tile, page_maps
from ..paper.sheet import PAPERS, Ink, Sheet

MARGIN_MM = 12.0
OVERLAP_MM = 10.0
MOST_PAGES = 3000
"""A file of more is not made: nobody tapes them together."""
FOOT_MM = 16.0
"""Height kept at the foot of a tile for the proof bars."""
ROLL_MARGIN_MM = 25.0


def mold_patterns_pdf(shape: Shape, molds: Sequence[Mold], paper: str, planking: Planking | None = None) -> bytes:
    """All patterns in one file, tiled ones after a map of their pages. Strips are ticked where the job asks and `planking`
    is given. `paper` is a name of PAPERS or "roll". Raises InputError for another, and for more pages than anybody prints."""
    if paper != "roll" and paper not in PAPERS:
        raise InputError("no such paper", value=paper, mend=f"Use one of: {', '.join([*PAPERS, 'roll'])}.")
    sheet = Sheet(f"{shape.job.name}: mold patterns", shape.job.printing.correction)
    drawings = [mold_drawing(shape, mold, shape.job.units.style, planking) for mold in molds]
    if paper == "roll":
        for mold, drawing in zip(molds, drawings, strict=True):
            _own_page(sheet, drawing, _heading(shape, mold))
        return sheet.finish()
    _refuse_heaps(drawings, paper)
    tiled = [fewest_pages(drawing, PAPERS[paper]) for drawing in drawings]
    page_maps(sheet, shape.job.name, [(d, pages) for d, (_, pages) in zip(drawings, tiled, strict=True)], PAPERS[paper])
    for mold, drawing, (size, pages) in zip(molds, drawings, tiled, strict=True):
        sheet.keep(f"mold-{mold.name}", drawing)
        for tile in pages:
            _tile_page(sheet, shape, mold, tile, size)
    return sheet.finish()


def _refuse_heaps(drawings: Sequence[Drawing], paper: str) -> None:
    """Molds of a hull that is too large by a slip would take pages without number."""
    area = (PAPERS[paper][0] - 2 * MARGIN_MM) * (PAPERS[paper][1] - 2 * MARGIN_MM - FOOT_MM)
    bounds = [drawing.bounds() for drawing in drawings]
    about = sum((right - left) * (top - bottom) for left, bottom, right, top in bounds) / area
    if about > MOST_PAGES:
        raise InputError(
            f"these patterns would take some {about:,.0f} pages of {paper.title()}",
            mend="Choose larger paper or a roll, or look at how large the molds are.",
        )


def fewest_pages(drawing: Drawing, paper: tuple[float, float]) -> tuple[tuple[float, float], list[Tile]]:
    """The better way of the paper, and its pages."""
    on_side = (paper[1], paper[0])
    upright, across = tiles(drawing, *paper), tiles(drawing, *on_side)
    return (on_side, across) if len(across) < len(upright) else (paper, upright)


def drawings_pdf(drawings: Sequence[Drawing], title: str, correction: float = 1.0) -> bytes:
    """Any drawings at full size, each on a page of its own size with its own name, and the proof bars."""
    sheet = Sheet(title, correction)
    for drawing in drawings:
        _own_page(sheet, drawing, f"{title}: {drawing.title.lower()} · print at 100 %, no scaling")
    return sheet.finish()


def tiles(drawing: Drawing, page_width: float, page_height: float) -> list[Tile]:
    """The pages a drawing needs at full size, those left out that would be empty."""
    wide, high = page_width - 2 * MARGIN_MM, page_height - 2 * MARGIN_MM - FOOT_MM
    left, bottom, right, top = drawing.bounds()
    left, bottom, right, top = left - 8, bottom - 8, right + 8, top + 8
    columns = max(1, math.ceil((right - left - OVERLAP_MM) / (wide - OVERLAP_MM)))
    rows = max(1, math.ceil((top - bottom - OVERLAP_MM) / (high - OVERLAP_MM)))
    # centre the drawing on its pages
    start_x = (left + right) / 2 - (columns * (wide - OVERLAP_MM) + OVERLAP_MM) / 2
    start_y = (bottom + top) / 2 - (rows * (high - OVERLAP_MM) + OVERLAP_MM) / 2
    lines = shapely.union_all([LineString(s.points) for s in drawing.strokes])
    found = []
    for row in range(rows):
        for column in range(columns):
            x, y = start_x + column * (wide - OVERLAP_MM), start_y + row * (high - OVERLAP_MM)
            tile = Tile(column, row, x, y, x + wide, y + high)
            if lines.intersects(shapely.box(tile.left, tile.bottom, tile.right, tile.top)):
                found.append(tile)
    return found


def _heading(shape: Shape, mold: Mold) -> str:
    return f"{shape.job.name} · mold {mold.name} · {face_text(mold)} · print at 100 %, no scaling"


def _own_page(sheet: Sheet, drawing: Drawing, heading: str) -> None:
    left, bottom, right, top = drawing.bounds()
    width = max(right - left, 140.0) + 2 * ROLL_MARGIN_MM
    height = top - bottom + 2 * ROLL_MARGIN_MM + FOOT_MM
    sheet.page(width, height)
    centre = ROLL_MARGIN_MM + max(right - left, 140.0) / 2 - (left + right) / 2
    sheet.drawing(drawing, (centre, ROLL_MARGIN_MM + FOOT_MM - bottom))
    sheet.text(ROLL_MARGIN_MM, height - 12, heading)
    sheet.proof_bars(ROLL_MARGIN_MM, 12)
    sheet.end_page()


def _tile_page(sheet: Sheet, shape: Shape, mold: Mold, tile: Tile, paper: tuple[float, float]) -> None:
    width, height = paper
    sheet.page(width, height)
    x, y = MARGIN_MM - tile.left, MARGIN_MM + FOOT_MM - tile.bottom
    window = (MARGIN_MM, MARGIN_MM + FOOT_MM, tile.right - tile.left, tile.top - tile.bottom)
    sheet.show(f"mold-{mold.name}", (x, y), window)
    _registration(sheet, tile, x, y)
    sheet.text(MARGIN_MM, height - 8, _heading(shape, mold), 2.8)
    sheet.text(width - MARGIN_MM, MARGIN_MM - 6, f"mold {mold.name}   page {tile.name}", 3.4, anchor="right", strong=True)
    sheet.proof_bars(MARGIN_MM + 2, MARGIN_MM)
    sheet.text(
        MARGIN_MM,
        4,
        "Lay the crosses of neighbouring pages on each other: A1 is the lower left page, A2 to its right, B1 above it.",
        2.4,
    )
    sheet.end_page()


def _registration(sheet: Sheet, tile: Tile, x: float, y: float) -> None:
    """A cross in the middle of the overlap at each corner: the same four places on the neighbouring pages."""
    half = OVERLAP_MM / 2
    sheet.pen(Ink(0.0, 0.15))
    for cx in (tile.left + half, tile.right - half):
        for cy in (tile.bottom + half, tile.top - half):
            at = np.array([cx + x, cy + y])
            sheet.polyline([(at[0] - 4, at[1]), (at[0] + 4, at[1])])
            sheet.polyline([(at[0], at[1] - 4), (at[0], at[1] + 4)])

"""The girth map on one sheet of paper, to hang beside the form."""

from __future__ import annotations

from ...core.amounts import far_length
from ...core.results import Results
from ...core.words import counted
from ...drawing.planking.girth_map import girth_map
from ..paper.sheet import PAPERS, Sheet

MARGIN_MM, HEAD_MM, BESIDE_MM = 12.0, 22.0, 16.0


def girth_map_pdf(results: Results, paper: str = "a3") -> bytes:
    """A landscape page; along and across each at its own scale, so that the strips can be told apart."""
    shape, planking = results.shape, results.planking
    drawing = girth_map(shape, planking, shape.job.units.style)
    height, width = PAPERS[paper]
    sheet = Sheet(f"{shape.job.name}: girth map")
    sheet.page(width, height)
    count = len(planking.strips)
    sheet.text(MARGIN_MM, height - MARGIN_MM - 4, f"{shape.job.name}: girth map", 6.5, strong=True)
    together = far_length(planking.total_length, shape.job.units.style)
    said = f"{counted(count, 'strip')} a side, {together} in all; scales along and across differ"
    sheet.text(width - MARGIN_MM, height - MARGIN_MM - 4, said, 3.6, anchor="right")
    left, bottom, right, top = drawing.bounds()
    across = (width - 2 * MARGIN_MM - 2 * BESIDE_MM) / max(right - left, 1.0)
    up = (height - 2 * MARGIN_MM - HEAD_MM) / max(top - bottom, 1.0)
    fitted = drawing.stretched(across, up)
    sheet.drawing(fitted, (MARGIN_MM + BESIDE_MM - left * across, MARGIN_MM + 8 - bottom * up), 1.0)
    sheet.end_page()
    return sheet.finish()

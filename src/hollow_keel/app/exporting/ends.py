"""Sheets, and what closes the hull at its ends."""

from __future__ import annotations

from ...core.errors import ImpossiblePlan
from ...core.molds.end_stages import STEM_BEVELS, STEMS, TRANSOM, unmade
from ...core.results import SHAPE, Results, Shape
from ...core.settings.layout import Layout
from ..export import Export
from .molds import cuttable, left_out

GROUP = "Sheets and ends"


def _layout(shape: Shape) -> Layout:
    layout = shape.job.layout
    if layout is None:
        raise ImpossiblePlan("The molds are not laid on sheets yet: do that on the Molds page first.")
    if layout.of != shape.parts.fingerprint:
        raise ImpossiblePlan("The molds have changed since they were laid on sheets: lay them out again.")
    return layout


def _parts_zip(results: Results) -> bytes:
    from ...files.mold_dxf import parts_zip

    cuttable(results)
    return parts_zip(results.shape)


def _sheets_dxf(results: Results) -> bytes:
    from ...drawing.sheets import sheets_drawing
    from ...files.mold_dxf import drawings_dxf

    cuttable(results)
    return drawings_dxf([sheets_drawing(results.shape, _layout(results.shape))]).encode()


def _sheets_pdf(results: Results) -> bytes:
    from ...files.sheets_pdf import sheets_pdf

    cuttable(results)
    return sheets_pdf(results.shape, _layout(results.shape))


def _transom(results: Results) -> bytes:
    from ...drawing.transom import transom_drawing, transom_mold_drawing
    from ...files.mold_pdf import drawings_pdf

    job = results.job
    drawings = [
        drawing
        for piece in results[TRANSOM]
        for drawing in (transom_drawing(piece, job.name, job.units.style), transom_mold_drawing(piece, job.name, job.units.style))
    ]
    return drawings_pdf(drawings, job.name, job.printing.correction)


def _no_pattern(results: Results) -> tuple[str, ...]:
    """The transom that has none, and why, where the one at the other end has."""
    return tuple(finding.in_a_line() for finding in unmade(results[TRANSOM]))


def _stem_csv(results: Results) -> bytes:
    from ...files.mold_tables import stem_csv

    stems = results[STEM_BEVELS]
    return stem_csv(stems, results.job.units.style).encode()


def _stem_pdf(results: Results) -> bytes:
    from ...drawing.stem import stem_drawings
    from ...files.mold_pdf import drawings_pdf

    shape = results.shape
    drawings = [drawing for piece in results[STEMS] for drawing in stem_drawings(shape, piece)]
    return drawings_pdf(drawings, shape.job.name, shape.job.printing.correction)


EXPORTS = (
    Export(
        "parts-dxf", GROUP, "Every part and sheet in a file of its own (DXF in a ZIP)", ".zip", SHAPE, _parts_zip, lacks=left_out
    ),
    Export("sheets-dxf", GROUP, "Molds laid on sheets (DXF)", ".dxf", SHAPE, _sheets_dxf, lacks=left_out),
    Export("sheets-pdf", GROUP, "Plan of the sheets (PDF)", ".pdf", SHAPE, _sheets_pdf, lacks=left_out),
    Export("transom-pdf", GROUP, "Transom, true shape at full size (PDF)", ".pdf", (TRANSOM,), _transom, lacks=_no_pattern),
    Export("stem-pdf", GROUP, "Inner stem and its mold at full size (PDF)", ".pdf", (*SHAPE, STEMS), _stem_pdf),
    Export("stem-csv", GROUP, "Bevels of the stem by height (CSV)", ".csv", (STEM_BEVELS,), _stem_csv),
)

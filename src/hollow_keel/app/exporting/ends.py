"""Sheets, and what closes the hull at its ends."""

from __future__ import annotations

import math

from ...core.errors import ImpossiblePlan
from ...core.offsets.table import EndKind
from ...core.results import SHAPE, Results, Shape
from ...core.settings.layout import Layout
from ...core.settings.setup_choices import Strongback
from ..export import Export
from .molds import some_molds

GROUP = "Sheets and ends"


def _layout(shape: Shape) -> Layout:
    from ...core.molds.nesting import fingerprint
    from ...core.molds.parts import mold_parts

    layout = shape.job.layout
    if layout is None:
        raise ImpossiblePlan("The molds are not laid on sheets yet: do that on the Molds page first.")
    parts = [p.part for p in mold_parts(shape.job, shape.molds, shape.setup.beam_level)]
    if layout.of != fingerprint(parts):
        raise ImpossiblePlan("The molds have changed since they were laid on sheets: lay them out again.")
    return layout


def _parts_zip(results: Results) -> bytes:
    from ...files.mold_dxf import parts_zip

    some_molds(results.shape)
    return parts_zip(results.shape)


def _sheets_dxf(results: Results) -> bytes:
    from ...drawing.sheets import sheets_drawing
    from ...files.mold_dxf import drawings_dxf

    some_molds(results.shape)
    return drawings_dxf([sheets_drawing(results.shape, _layout(results.shape))]).encode()


def _sheets_pdf(results: Results) -> bytes:
    from ...files.sheets_pdf import sheets_pdf

    some_molds(results.shape)
    return sheets_pdf(results.shape, _layout(results.shape))


def _transom(results: Results) -> bytes:
    from ...core.molds.ends import transom
    from ...drawing.transom import transom_drawing, transom_mold_drawing
    from ...files.mold_pdf import drawings_pdf

    shape = results.shape
    job, lines = shape.job, shape.hull.lines
    stern = lines.stern.kind is EndKind.TRANSOM
    piece = transom(shape.hull, job.molds.skin, job.molds.thickness, stern=stern)
    style, foot = job.units.style, float((lines.stern if stern else lines.bow).points[0, 2])
    on_legs = job.setup.strongback is not Strongback.BEAM and not job.setup.upright
    level = (shape.setup.beam_level - foot) / math.cos(piece.rake) if on_legs else None
    drawings = [transom_drawing(piece, job.name, style), transom_mold_drawing(piece, job.name, style, level)]
    return drawings_pdf(drawings, job.name, job.printing.correction)


def _stem_csv(results: Results) -> bytes:
    from ...files.mold_tables import stem_csv

    return stem_csv(results.shape).encode()


def _stem_pdf(results: Results) -> bytes:
    from ...drawing.stem import stem_drawings
    from ...files.mold_pdf import drawings_pdf

    shape = results.shape
    ends = ((False, shape.hull.lines.bow), (True, shape.hull.lines.stern))
    stems = [stern for stern, end in ends if end.kind is EndKind.STEM]
    if not stems:
        raise ImpossiblePlan("This hull has no stem.")
    drawings = [drawing for stern in stems for drawing in stem_drawings(shape, stern=stern)]
    return drawings_pdf(drawings, shape.job.name, shape.job.printing.correction)


EXPORTS = (
    Export(
        "parts-dxf",
        GROUP,
        "Every part and sheet in a file of its own (DXF in a ZIP)",
        ".zip",
        SHAPE,
        _parts_zip,
    ),
    Export("sheets-dxf", GROUP, "Molds laid on sheets (DXF)", ".dxf", SHAPE, _sheets_dxf),
    Export("sheets-pdf", GROUP, "Plan of the sheets (PDF)", ".pdf", SHAPE, _sheets_pdf),
    Export("transom-pdf", GROUP, "Transom, true shape at full size (PDF)", ".pdf", SHAPE, _transom),
    Export("stem-pdf", GROUP, "Inner stem and its mold at full size (PDF)", ".pdf", SHAPE, _stem_pdf),
    Export("stem-csv", GROUP, "Bevels of the stem by height (CSV)", ".csv", SHAPE, _stem_csv),
)

"""Molds on paper, as drawings and as numbers."""

from __future__ import annotations

from dataclasses import replace

from ...core.errors import ImpossiblePlan
from ...core.molds.end_stages import STEM_BEVELS, STEMS, TRANSOM, unmade
from ...core.planking.stages import PLANKING
from ...core.results import SHAPE, Results, Shape
from ...core.settings.layout import Layout
from ..export import Export, Write

GROUP = "Molds"
SHEETS = "Sheets and ends"


def cuttable(results: Results) -> Shape:
    """The shape with those of its molds that can be cut. Raises ImpossiblePlan where there is none."""
    shape = results.shape
    some_molds(shape)
    sound = tuple(mold for mold in shape.molds.molds if shape.pieces[mold.name].why_not is None)
    if not sound:
        raise ImpossiblePlan(left_out(results)[0])
    return replace(shape, molds=replace(shape.molds, molds=sound))


def some_molds(shape: Shape) -> None:
    """Raises ImpossiblePlan where there is no mold."""
    if not shape.molds.molds:
        raise ImpossiblePlan("There is no mold to write: no station cuts the hull. Look at the stations on the Molds page.")


def left_out(results: Results) -> tuple[str, ...]:
    """The molds that cannot be cut, and why."""
    found = [piece.why_not for piece in results.shape.pieces.values()]
    return tuple(finding.in_a_line() for finding in found if finding is not None)


def _pdf(paper: str) -> Write:
    def write(results: Results) -> bytes:
        from ...files.molds.paper import mold_patterns_pdf

        shape = cuttable(results)
        return mold_patterns_pdf(shape, shape.molds.molds, paper, results.get(PLANKING))

    return write


def _dxf(results: Results) -> bytes:
    from ...files.molds.dxf import molds_dxf

    shape = cuttable(results)
    return molds_dxf(shape, shape.molds.molds).encode()


def _svg(results: Results) -> bytes:
    from ...drawing.molds.mold import mold_drawing
    from ...files.paper.svg import drawings_svg

    shape = cuttable(results)
    return drawings_svg([mold_drawing(shape, m, shape.job.units.style) for m in shape.molds.molds]).encode()


def _prick(results: Results) -> bytes:
    from ...files.molds.schedules import PRICKS
    from ...files.schedule import told_csv

    return told_csv(PRICKS, cuttable(results).molds.molds, results.job.units).encode()


def _bevels(results: Results) -> bytes:
    from ...files.molds.schedules import CALLS, calls_told
    from ...files.schedule import told_csv

    return told_csv(CALLS, calls_told(cuttable(results)), results.job.units).encode()


def _patterns(kind: str, paper: str, words: str) -> Export:
    name = f"Mold patterns, full size{words} (PDF)"
    shop = paper == "a4"
    return Export(kind, GROUP, name, ".pdf", SHAPE, _pdf(paper), glad_of=(PLANKING,), patterns=True, shop=shop, lacks=left_out)


def _layout(shape: Shape) -> Layout:
    layout = shape.job.layout
    if layout is None:
        raise ImpossiblePlan("The molds are not laid on sheets yet: do that on the Molds page first.")
    if layout.of != shape.parts.fingerprint:
        raise ImpossiblePlan("The molds have changed since they were laid on sheets: lay them out again.")
    return layout


def _parts_zip(results: Results) -> bytes:
    from ...files.molds.dxf import parts_zip

    cuttable(results)
    return parts_zip(results.shape)


def _sheets_dxf(results: Results) -> bytes:
    from ...drawing.molds.sheets import sheets_drawing
    from ...files.molds.dxf import drawings_dxf

    cuttable(results)
    return drawings_dxf([sheets_drawing(results.shape, _layout(results.shape))]).encode()


def _sheets_pdf(results: Results) -> bytes:
    from ...files.molds.sheets_paper import sheets_pdf

    cuttable(results)
    return sheets_pdf(results.shape, _layout(results.shape))


def _transom(results: Results) -> bytes:
    from ...drawing.molds.transom import transom_drawing, transom_mold_drawing
    from ...files.molds.paper import drawings_pdf

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
    from ...files.molds.schedules import STEM_ROWS
    from ...files.schedule import schedule_csv

    return schedule_csv(results, STEM_ROWS).encode()


def _stem_pdf(results: Results) -> bytes:
    from ...drawing.molds.stem import stem_drawings
    from ...files.molds.paper import drawings_pdf

    shape = results.shape
    drawings = [drawing for piece in results[STEMS] for drawing in stem_drawings(shape, piece)]
    return drawings_pdf(drawings, shape.job.name, shape.job.printing.correction)


EXPORTS = (
    _patterns("molds-pdf", "a4", " on A4"),
    _patterns("molds-letter-pdf", "letter", " on Letter"),
    _patterns("molds-roll-pdf", "roll", ", one page each for a roll"),
    _patterns("molds-a3-pdf", "a3", " on A3"),
    _patterns("molds-tabloid-pdf", "tabloid", " on Tabloid"),
    Export("molds-dxf", GROUP, "Molds (DXF)", ".dxf", SHAPE, _dxf, patterns=True, lacks=left_out),
    Export("molds-svg", GROUP, "Molds (SVG)", ".svg", SHAPE, _svg, patterns=True, lacks=left_out),
    Export("prick-csv", GROUP, "Points to prick through for every mold (CSV)", ".csv", SHAPE, _prick, lacks=left_out),
    Export("bevels-csv", GROUP, "Bevels to call out along every mold (CSV)", ".csv", SHAPE, _bevels, lacks=left_out),
    Export(
        "parts-dxf", SHEETS, "Every part and sheet in a file of its own (DXF in a ZIP)", ".zip", SHAPE, _parts_zip, lacks=left_out
    ),
    Export("sheets-dxf", SHEETS, "Molds laid on sheets (DXF)", ".dxf", SHAPE, _sheets_dxf, lacks=left_out),
    Export("sheets-pdf", SHEETS, "Plan of the sheets (PDF)", ".pdf", SHAPE, _sheets_pdf, lacks=left_out),
    Export("transom-pdf", SHEETS, "Transom, true shape at full size (PDF)", ".pdf", (TRANSOM,), _transom, lacks=_no_pattern),
    Export("stem-pdf", SHEETS, "Inner stem and its mold at full size (PDF)", ".pdf", (*SHAPE, STEMS), _stem_pdf),
    Export("stem-csv", SHEETS, "Bevels of the stem by height (CSV)", ".csv", (STEM_BEVELS,), _stem_csv),
)

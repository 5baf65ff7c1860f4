"""Molds on paper, as drawings and as numbers."""

from __future__ import annotations

from dataclasses import replace

from ...core.errors import ImpossiblePlan
from ...core.planking.stages import PLANKING
from ...core.results import SHAPE, Results, Shape
from ..export import Export, Write

GROUP = "Molds"


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
        from ...files.mold_pdf import mold_patterns_pdf

        shape = cuttable(results)
        return mold_patterns_pdf(shape, shape.molds.molds, paper, results.get(PLANKING))

    return write


def _dxf(results: Results) -> bytes:
    from ...files.mold_dxf import molds_dxf

    shape = cuttable(results)
    return molds_dxf(shape, shape.molds.molds).encode()


def _svg(results: Results) -> bytes:
    from ...drawing.mold import mold_drawing
    from ...files.svg import drawings_svg

    shape = cuttable(results)
    return drawings_svg([mold_drawing(shape, m, shape.job.units.style) for m in shape.molds.molds]).encode()


def _prick(results: Results) -> bytes:
    from ...files.mold_tables import prick_points_csv

    return prick_points_csv(cuttable(results)).encode()


def _bevels(results: Results) -> bytes:
    from ...files.mold_tables import bevels_csv

    return bevels_csv(cuttable(results)).encode()


def _patterns(kind: str, paper: str, words: str) -> Export:
    name = f"Mold patterns, full size{words} (PDF)"
    shop = paper == "a4"
    return Export(kind, GROUP, name, ".pdf", SHAPE, _pdf(paper), glad_of=(PLANKING,), patterns=True, shop=shop, lacks=left_out)


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
)

"""Molds on paper, as drawings and as numbers."""

from __future__ import annotations

from ...core.errors import ImpossiblePlan
from ...core.findings import Weight
from ...core.planking.stages import PLANKING
from ...core.results import SHAPE, Results, Shape
from ..export import Export, Write

GROUP = "Molds"


def some_molds(shape: Shape) -> None:
    """Raises ImpossiblePlan where there is no mold, or one that cannot be cut."""
    if not shape.molds.molds:
        raise ImpossiblePlan(
            "There is no mold to write: no station cuts the hull. Look at the stations on the Molds page."
        )
    for piece in shape.pieces.values():
        for finding in piece.findings:
            if finding.weight is Weight.STOP:
                raise ImpossiblePlan(f"{finding.said().where}: {finding.said().text}")


def _pdf(paper: str) -> Write:
    def write(results: Results) -> bytes:
        from ...files.mold_pdf import mold_patterns_pdf

        some_molds(results.shape)
        planking = results.get(PLANKING)
        return mold_patterns_pdf(results.shape, results.shape.molds.molds, paper, planking)

    return write


def _dxf(results: Results) -> bytes:
    from ...files.mold_dxf import molds_dxf

    some_molds(results.shape)
    return molds_dxf(results.shape, results.shape.molds.molds).encode()


def _svg(results: Results) -> bytes:
    from ...drawing.mold import mold_drawing
    from ...files.svg import drawings_svg

    shape = results.shape
    some_molds(shape)
    return drawings_svg([mold_drawing(shape, m, shape.job.units.style) for m in shape.molds.molds]).encode()


def _prick(results: Results) -> bytes:
    from ...files.mold_tables import prick_points_csv

    some_molds(results.shape)
    return prick_points_csv(results.shape).encode()


def _bevels(results: Results) -> bytes:
    from ...files.mold_tables import bevels_csv

    some_molds(results.shape)
    return bevels_csv(results.shape).encode()


def _patterns(kind: str, paper: str, words: str) -> Export:
    name = f"Mold patterns, full size{words} (PDF)"
    shop = paper == "a4"
    return Export(
        kind, GROUP, name, ".pdf", SHAPE, _pdf(paper), glad_of=(PLANKING,), patterns=True, shop=shop
    )


EXPORTS = (
    _patterns("molds-pdf", "a4", " on A4"),
    _patterns("molds-letter-pdf", "letter", " on Letter"),
    _patterns("molds-roll-pdf", "roll", ", one page each for a roll"),
    _patterns("molds-a3-pdf", "a3", " on A3"),
    _patterns("molds-tabloid-pdf", "tabloid", " on Tabloid"),
    Export("molds-dxf", GROUP, "Molds (DXF)", ".dxf", SHAPE, _dxf, patterns=True),
    Export("molds-svg", GROUP, "Molds (SVG)", ".svg", SHAPE, _svg, patterns=True),
    Export("prick-csv", GROUP, "Points to prick through for every mold (CSV)", ".csv", SHAPE, _prick),
    Export("bevels-csv", GROUP, "Bevels to call out along every mold (CSV)", ".csv", SHAPE, _bevels),
)

"""Strips as tables, maps and meshes."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from ...core.errors import ImpossiblePlan
from ...core.planking.stages import BEHAVIOURS, CENTRE_CUTS, PLANKING, STRIP_ENDS, TICKS
from ...core.results import SHAPE, Results
from ...core.settings.veneers import strip_planked
from ..export import Export
from .drawn import drawn

if TYPE_CHECKING:
    from ...drawing.model import Drawing

GROUP = "Strips"
LAID = (*SHAPE, PLANKING)
TICKED = (*LAID, TICKS, CENTRE_CUTS)


def _strips(results: Results) -> bytes:
    from ...files.planking.schedules import STRIP_ROWS
    from ...files.schedule import schedule_csv

    return schedule_csv(results, STRIP_ROWS).encode()


def _ticks_csv(results: Results) -> bytes:
    from ...files.planking.schedules import TICK_ROWS
    from ...files.schedule import schedule_csv

    return schedule_csv(results, TICK_ROWS).encode()


def _ticks_pdf(results: Results) -> bytes:
    from ...files.planking.ticks import ticks_pdf

    return ticks_pdf(results)


def _girth_pdf(results: Results) -> bytes:
    from ...files.planking.paper import girth_map_pdf

    return girth_map_pdf(results)


def _girth(results: Results) -> list[Drawing]:
    from ...drawing.planking.girth_map import girth_map

    return [girth_map(results.shape, results.planking, results.job.units.style)]


def _tapers(results: Results) -> list[Drawing]:
    from ...drawing.planking.flat_strip import flat_strips

    drawings = flat_strips(results.shape, results.planking, results.job.units.style)
    if not drawings:
        raise ImpossiblePlan("Every strip is of one width: there is nothing to cut to shape.")
    return drawings


def _obj(results: Results) -> bytes:
    from ...files.planking.mesh import planked_obj

    return planked_obj(results.planking).encode()


def _stl(results: Results) -> bytes:
    from ...files.planking.mesh import planked_stl

    return planked_stl(results.planking).encode()


ALL = (
    Export("strips-csv", GROUP, "Strips (CSV)", ".csv", (*TICKED, BEHAVIOURS, STRIP_ENDS), _strips, shop=True),
    Export("ticks-csv", GROUP, "Where strips come on every mold (CSV)", ".csv", TICKED, _ticks_csv),
    Export("ticks-pdf", GROUP, "Where strips come on every mold, to tick off (PDF)", ".pdf", TICKED, _ticks_pdf, shop=True),
    Export("girth-pdf", GROUP, "Girth map on A3 (PDF)", ".pdf", LAID, _girth_pdf, shop=True),
    Export("girth-svg", GROUP, "Girth map (SVG)", ".svg", LAID, drawn(_girth, "svg")),
    Export("girth-dxf", GROUP, "Girth map (DXF)", ".dxf", LAID, drawn(_girth, "dxf")),
    Export("tapers-pdf", GROUP, "Strips cut to shape, full size (PDF)", ".pdf", LAID, drawn(_tapers, "pdf")),
    Export("tapers-dxf", GROUP, "Strips cut to shape (DXF)", ".dxf", LAID, drawn(_tapers, "dxf")),
    Export("planked-obj", GROUP, "Planked hull, one part a strip (OBJ)", ".obj", (PLANKING,), _obj),
    Export("planked-stl", GROUP, "Planked hull, one part a strip (STL)", ".stl", (PLANKING,), _stl),
)
EXPORTS = tuple(replace(export, when=strip_planked) for export in ALL)

"""Layers of veneer: their schedule, spiling, maps and full-size shapes."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ...core.errors import ImpossiblePlan
from ...core.results import Results
from ...core.settings.veneers import veneered
from ...core.veneers.stages import LAYERS
from ..export import Export, only_where
from .drawn import drawn

if TYPE_CHECKING:
    from ...drawing.model import Drawing

GROUP = "Veneers"
LACK = "This job has no layers of veneer: add one by the menu Veneers, or set veneers.layers."


def _csv(results: Results) -> bytes:
    from ...files.veneers_csv import veneers_csv

    return veneers_csv(results).encode()


def _spiling(results: Results) -> bytes:
    from ...files.veneers_csv import spiling_csv

    return spiling_csv(results).encode()


def _maps(results: Results) -> list[Drawing]:
    from ...drawing.veneers import layer_maps

    plans = results[LAYERS]
    return layer_maps(plans)


def _flat(results: Results) -> list[Drawing]:
    from ...drawing.veneers import flat_veneers

    job, plans = results.job, results[LAYERS]
    found = flat_veneers(plans, job.name, job.units.style)
    if not found:
        raise ImpossiblePlan("Every veneer is cut parallel: there is nothing to cut to shape.")
    return found


def _document(results: Results) -> dict[str, Any]:
    from ...files.veneers_json import veneers_document

    return veneers_document(results)


NEEDS = (LAYERS,)
ALL = (
    Export("veneers-csv", GROUP, "Veneers (CSV)", ".csv", NEEDS, _csv, shop=True, when=veneered),
    Export(
        "spiling-csv",
        GROUP,
        "Spiling of the veneers (CSV)",
        ".csv",
        NEEDS,
        _spiling,
        shop=True,
        when=veneered,
    ),
    Export("veneers-svg", GROUP, "The layers on the hull (SVG)", ".svg", NEEDS, drawn(_maps, "svg")),
    Export("veneers-dxf", GROUP, "Veneers flat, full size (DXF)", ".dxf", NEEDS, drawn(_flat, "dxf")),
    Export("veneers-pdf", GROUP, "Veneers flat, full size (PDF)", ".pdf", NEEDS, drawn(_flat, "pdf")),
)
EXPORTS = tuple(only_where(veneered, LACK, export) for export in ALL)
PLAN_PARTS = (("veneers", _document),)

"""Layers of veneer: their schedule, spiling, maps and full-size shapes."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ...core.errors import ImpossiblePlan
from ...core.results import Results
from ...core.settings.form import formed
from ...core.settings.veneers import veneered
from ...core.veneers.stages import FORM, LAYERS, LAYING
from ..export import Export, only_where
from .drawn import drawn

if TYPE_CHECKING:
    from ...drawing.model import Drawing

GROUP = "Veneers"
LACK = "This job has no layers of veneer: add one by the menu Veneers, or set veneers.layers."


def _csv(results: Results) -> bytes:
    from ...files.schedule import schedule_csv
    from ...files.veneers.schedules import VENEERS

    return schedule_csv(results, VENEERS).encode()


def _spiling(results: Results) -> bytes:
    from ...files.schedule import schedule_csv
    from ...files.veneers.schedules import SPILING

    return schedule_csv(results, SPILING).encode()


def _maps(results: Results) -> list[Drawing]:
    from ...drawing.veneers.layers import layer_maps

    plans = results[LAYERS]
    return layer_maps(plans)


def _flat(results: Results) -> list[Drawing]:
    from ...drawing.veneers.layers import flat_veneers

    job, plans = results.job, results[LAYERS]
    found = flat_veneers(plans, job.name, job.units.style)
    if not found:
        raise ImpossiblePlan("Every veneer is cut parallel: there is nothing to cut to shape.")
    return found


def _ribbands(results: Results) -> bytes:
    from ...files.schedule import schedule_csv
    from ...files.veneers.schedules import CROSSINGS

    return schedule_csv(results, CROSSINGS).encode()


def _laying(results: Results) -> bytes:
    from ...files.schedule import schedule_csv
    from ...files.veneers.schedules import TAKES

    return schedule_csv(results, TAKES).encode()


def _sheets(results: Results) -> list[Drawing]:
    from ...drawing.veneers.sheets import veneer_sheets

    plans = results[LAYERS]
    found = [
        sheet
        for plan, own in zip(plans, results[LAYING].sheeted, strict=True)
        for sheet in veneer_sheets(plan, own, results.job.laying)
    ]
    if not found:
        raise ImpossiblePlan("Every veneer is wider than the sheets: there is nothing to lay out.")
    return found


def _obj(results: Results) -> bytes:
    from ...files.veneers.mesh import laid_obj

    plans = results[LAYERS]
    return laid_obj(plans).encode()


def _ends(results: Results) -> list[Drawing]:
    from ...drawing.veneers.layers import end_molds

    found = end_molds(results[FORM], results.job.name, results.job.units.style)
    if not found:
        raise ImpossiblePlan("This form ends at the hull's own ends: there is no mold past them.")
    return found


def _document(results: Results) -> dict[str, Any]:
    from ...files.veneers.plan import veneers_document

    return veneers_document(results)


NEEDS = (LAYERS,)
ON_SHEETS = (LAYERS, LAYING)
ALL = (
    Export("veneers-csv", GROUP, "Veneers (CSV)", ".csv", NEEDS, _csv, shop=True),
    Export("spiling-csv", GROUP, "Spiling of the veneers (CSV)", ".csv", NEEDS, _spiling, shop=True),
    Export("veneers-svg", GROUP, "The layers on the hull (SVG)", ".svg", NEEDS, drawn(_maps, "svg")),
    Export("veneers-dxf", GROUP, "Veneers flat, full size (DXF)", ".dxf", NEEDS, drawn(_flat, "dxf")),
    Export("veneers-pdf", GROUP, "Veneers flat, full size (PDF)", ".pdf", NEEDS, drawn(_flat, "pdf")),
    Export("veneer-sheets-dxf", GROUP, "Veneers on their sheets, full size (DXF)", ".dxf", ON_SHEETS, drawn(_sheets, "dxf")),
    Export("veneer-sheets-pdf", GROUP, "Veneers on their sheets, full size (PDF)", ".pdf", ON_SHEETS, drawn(_sheets, "pdf")),
    Export("laying-csv", GROUP, "Glue, staples, sheets and hours of each layer (CSV)", ".csv", ON_SHEETS, _laying),
    Export("laid-obj", GROUP, "Laid hull, one part a veneer (OBJ)", ".obj", NEEDS, _obj),
)
RIBBANDS = Export("ribbands-csv", GROUP, "Ribbands or stringers on every mold (CSV)", ".csv", (FORM,), _ribbands, shop=True)
ENDS = tuple(
    Export(
        f"form-end-{kind}",
        GROUP,
        f"The mold at the end of the form, full size ({kind.upper()})",
        f".{kind}",
        (FORM,),
        drawn(_ends, kind),
    )
    for kind in ("pdf", "dxf")
)
NO_FORM = "This job has no form of ribbands or stringers: choose what its layers are laid on (form.kind)."
EXPORTS = (
    *(only_where(veneered, LACK, export) for export in ALL),
    *(only_where(formed, NO_FORM, export) for export in (RIBBANDS, *ENDS)),
)
PLAN_PARTS = (("veneers", _document),)

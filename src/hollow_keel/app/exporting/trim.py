"""The sheer on the outside: its schedule, and the pattern of the camber."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ...core.errors import ImpossiblePlan
from ...core.results import Results
from ...core.settings.trim import trimmed
from ...core.trim.stages import SHEER, SHEER_STRIPS
from ..export import Export, only_where
from .drawn import drawn

if TYPE_CHECKING:
    from ...drawing.model import Drawing

GROUP = "Sheer & ends"
LACK = "The sheer of this job is not carried out: choose it by the menu Sheer, or set trim.wanted."


def _csv(results: Results) -> bytes:
    from ...files.trim_csv import sheer_csv

    return sheer_csv(results).encode()


def _camber(results: Results) -> list[Drawing]:
    from ...drawing.trim import camber_pattern

    job = results.job
    if job.trim.crown <= 0:
        raise ImpossiblePlan("The beams are flat: give their crown (trim.crown).")
    return [camber_pattern(results[SHEER], job.trim, job.name, job.units.style)]


def _document(results: Results) -> dict[str, Any]:
    from ...files.trim_json import trim_document

    return trim_document(results)


ALL = (
    Export(
        "sheer-csv", GROUP, "The sheer on the outside, head by head (CSV)", ".csv", (SHEER_STRIPS,), _csv, shop=True
    ),
    Export("camber-pdf", GROUP, "Camber pattern, full size (PDF)", ".pdf", (SHEER,), drawn(_camber, "pdf")),
    Export("camber-dxf", GROUP, "Camber pattern (DXF)", ".dxf", (SHEER,), drawn(_camber, "dxf")),
)  # fmt: skip
EXPORTS = tuple(only_where(trimmed, LACK, export) for export in ALL)
PLAN_PARTS = (("trim", _document),)

"""The deck: its strips, its map, the templates of its openings, hull and deck as one mesh."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ...core.deck.strip_stages import DECK_BEHAVIOURS, DECK_OPENINGS, DECK_PLAN, DECK_STRIP_ENDS
from ...core.errors import ImpossiblePlan
from ...core.hull.stages import DECK
from ...core.molds.stages import MOLDS
from ...core.planking.stages import PLANKING
from ...core.results import SHAPE, Results
from ...core.settings.deck import decked
from ..export import Export, only_where
from .drawn import drawn

if TYPE_CHECKING:
    from ...core.job import Job
    from ...drawing.model import Drawing

GROUP = "Deck"
LACK = "This job has no deck: give it offsets past the sheer, or a camber on the Deck page."


def _csv(results: Results) -> bytes:
    from ...files.deck.schedules import DECK_STRIPS
    from ...files.schedule import schedule_csv

    return schedule_csv(results, DECK_STRIPS).encode()


def _plan(results: Results) -> list[Drawing]:
    from ...drawing.deck.plan import deck_plan

    return [deck_plan(results[DECK], results[DECK_PLAN], results[DECK_OPENINGS], results[MOLDS].molds)]


def _templates(results: Results) -> list[Drawing]:
    from ...drawing.deck.plan import templates

    found = templates(results[DECK_OPENINGS], results.job.units.style)
    if not found:
        raise ImpossiblePlan("There is no opening in the deck.")
    return found


def _tapers(results: Results) -> list[Drawing]:
    from ...drawing.planking.flat_strip import flat_strips

    found = flat_strips(results.shape, results[DECK_PLAN].planking, results.job.units.style)
    if not found:
        raise ImpossiblePlan("Every strip of the deck is of one width: there is nothing to cut to shape.")
    return found


def _obj(results: Results) -> bytes:
    from ...files.planking.mesh import planked_obj

    return planked_obj(results[PLANKING], results[DECK_PLAN].planking).encode()


def _stl(results: Results) -> bytes:
    from ...files.planking.mesh import planked_stl

    return planked_stl(results[PLANKING], results[DECK_PLAN].planking).encode()


def _document(results: Results) -> dict[str, Any]:
    from ...files.deck.plan import deck_document

    return deck_document(results)


def _opened(job: Job) -> bool:
    return decked(job) and bool(job.deck.openings)


LAID = (DECK, DECK_PLAN, DECK_OPENINGS, MOLDS)
LISTED = (DECK_PLAN, DECK_BEHAVIOURS, DECK_STRIP_ENDS, DECK_OPENINGS)
CUT = (*SHAPE, DECK_PLAN)
BOTH = (PLANKING, DECK_PLAN)
ALL = (
    Export("deck-csv", GROUP, "Strips of the deck (CSV)", ".csv", LISTED, _csv, shop=True),
    Export("deck-svg", GROUP, "The deck from above (SVG)", ".svg", LAID, drawn(_plan, "svg")),
    Export("deck-dxf", GROUP, "The deck from above (DXF)", ".dxf", LAID, drawn(_plan, "dxf")),
    Export(
        "openings-pdf",
        GROUP,
        "Templates of the openings, full size (PDF)",
        ".pdf",
        LAID,
        drawn(_templates, "pdf"),
        shop=True,
        when=_opened,
    ),
    Export("openings-dxf", GROUP, "Templates of the openings (DXF)", ".dxf", LAID, drawn(_templates, "dxf")),
    Export("deck-tapers-pdf", GROUP, "Deck strips cut to shape, full size (PDF)", ".pdf", CUT, drawn(_tapers, "pdf")),
    Export("decked-obj", GROUP, "Hull and deck planked, one part a strip (OBJ)", ".obj", BOTH, _obj),
    Export("decked-stl", GROUP, "Hull and deck planked, one part a strip (STL)", ".stl", BOTH, _stl),
)
EXPORTS = tuple(only_where(decked, LACK, export) for export in ALL)
PLAN_PARTS = (("deck", _document),)

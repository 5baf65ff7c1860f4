"""How fair the lines are, and what fairing has moved."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from ..hull.stages import HULL, WATERLINE
from ..stage import Given, Stage, Turn

if TYPE_CHECKING:
    from ..findings import Finding
    from ..hull.build import Hull
    from ..offsets.table import OffsetsTable
    from .fairness import Fairness
    from .moves import Moved
    from .table_slips import TableSlip


def _fairness(given: Given) -> Fairness:
    from ..hull.build import build_hull
    from ..offsets.table import read_lines
    from .fairness import judge_fairness

    job = given.job

    def build(table: OffsetsTable) -> Hull:
        return build_hull(read_lines(table), job.outward, given.curves)

    table = job.offsets.without_notes
    found = judge_fairness(table, given[HULL], given[WATERLINE].height, build, lambda: given.tick(0.0))
    if not table.has_deck:
        return found
    from .deck_doubts import deck_doubts

    both = (*found.doubts, *deck_doubts(table, build, given.tick))
    return replace(found, doubts=tuple(sorted(both, key=lambda doubt: -doubt.score)))


def _moved(given: Given) -> tuple[Moved, ...] | None:
    from .moves import moved_since

    job = given.job
    return moved_since(job.unfaired, job.offsets) if job.unfaired is not None else ()


def _table_slips(given: Given) -> tuple[TableSlip, ...]:
    from .table_slips import table_slips

    return table_slips(given.job.offsets.without_notes)


def _slip_findings(slips: tuple[TableSlip, ...]) -> list[Finding]:
    from .table_slips import slip_findings

    return slip_findings(slips)


FAIRNESS = Stage(
    "fairness",
    "fairing",
    "how fair the lines are",
    ("offsets.without_notes", "outward"),
    (HULL, WATERLINE),
    _fairness,
    lambda fairness: fairness.remarks,
    Turn.LINES,
)
MOVED = Stage("moved", "fairing", "what fairing moved", ("offsets.without_notes", "unfaired"), (), _moved)

TABLE_SLIPS = Stage(
    "table-slips", "offsets", "slips of whole rows", ("offsets.without_notes",), (), _table_slips, _slip_findings, Turn.CHECKS
)

STAGES = (TABLE_SLIPS, FAIRNESS, MOVED)

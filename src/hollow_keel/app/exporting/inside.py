"""Sole and bulkheads, full size."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...core.errors import ImpossiblePlan
from ...core.inside.stages import INSIDE
from ...core.settings.inside import bulkheaded, soled
from .drawn import pattern

if TYPE_CHECKING:
    from ...core.results import Results
    from ...drawing.model import Drawing

GROUP = "Sheer"


def _inside(results: Results) -> list[Drawing]:
    from ...drawing.inside import bulkhead_pattern, sole_pattern

    job, inside = results.job, results[INSIDE]
    style = job.units.style
    found = [sole_pattern(inside.sole, job, style)] if inside.sole is not None else []
    found += [bulkhead_pattern(bulkhead, job, style) for bulkhead in inside.bulkheads]
    if not found:
        raise ImpossiblePlan("; ".join(finding.said().text for finding in inside.findings))
    return found


EXPORTS = (
    *pattern(
        GROUP,
        "inside",
        "Sole and bulkheads, full size",
        INSIDE,
        _inside,
        lambda job: soled(job) or bulkheaded(job),
        "There is no sole and no bulkhead: set inside.sole or inside.bulkheads.",
    ),
)

"""Outer stems and a transom of planks, full size."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ...core.ends.stages import OUTER, PLANKS
from ...core.errors import ImpossiblePlan
from ...core.settings.ends import outer_stemmed, plank_transom
from .drawn import pattern

if TYPE_CHECKING:
    from ...core.results import Results
    from ...drawing.model import Drawing

GROUP = "Sheer"


def _outer(results: Results) -> list[Drawing]:
    from ...drawing.ends import outer_stem_drawing

    job, outer = results.job, results[OUTER]
    if not outer.stems:
        raise ImpossiblePlan("; ".join(finding.said().text for finding in outer.findings))
    return [outer_stem_drawing(stem, job, job.units.style) for stem in outer.stems]


def _planks(results: Results) -> list[Drawing]:
    from ...drawing.ends import planks_drawing

    job, planks = results.job, results[PLANKS]
    if not planks.planks:
        raise ImpossiblePlan("; ".join(finding.said().text for finding in planks.findings))
    return [planks_drawing(own, job, job.units.style) for own in planks.transoms if own.planks]


EXPORTS = (
    *pattern(
        GROUP,
        "outer-stem",
        "Outer stems, full size",
        OUTER,
        _outer,
        outer_stemmed,
        "The outer stems are not worked out: set outer.stems.",
    ),
    *pattern(
        GROUP,
        "transom-planks",
        "Transom of planks, full size",
        PLANKS,
        _planks,
        plank_transom,
        "The transom is not divided into planks: set outer.planks.",
    ),
)

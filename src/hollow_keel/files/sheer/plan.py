"""The sheer's part of the plan file (see docs/plan-file.md). Lengths mm, angles degrees."""

from __future__ import annotations

from typing import Any

from ...core.results import Results
from ...core.settings.sheer import railed, trimmed
from ...core.sheer.heads import SheerMark
from ...core.sheer.rails import Rail
from ...core.sheer.stages import RAILS, SHEER_STRIPS
from ..rounded import rounded
from ..schedule import schedule_rows
from .schedules import HEADS, RAIL_ROWS, SCHEDULES

TOLD_FULLY = (HEADS, RAIL_ROWS)
"""These stand in the plan file with more than their columns."""


def trim_document(results: Results) -> dict[str, Any]:
    """All heads from the bow aft, and the rows of every schedule that the job has; empty where the sheer is not carried out."""
    if not trimmed(results.job):
        return {}
    plan = results[SHEER_STRIPS]
    own = {
        schedule.key: schedule_rows(results.get(schedule.stage), schedule)
        for schedule in SCHEDULES
        if schedule not in TOLD_FULLY and schedule.when(results.job)
    }
    return {
        "carried": results.job.trim.carried.value,
        "beam": rounded(plan.beam),
        "bases": [[rounded(float(value)) for value in base] for base in plan.bases],
        "heads": [_head(mark) for mark in plan.marks],
        "rails": [_rail(rail) for rail in results[RAILS].rails] if railed(results.job) else [],
        **own,
    }


def _rail(rail: Rail) -> dict[str, Any]:
    return {
        "name": rail.name,
        "length": rounded(rail.length),
        "grade": rail.behaviour.grade.value,
        "share": rounded(rail.behaviour.share, 5),
        "push": rounded(rail.behaviour.push, 1),
        "laminations": rail.laminations,
        "each": rounded(rail.each, 2),
        "pieces": rail.pieces,
    }


def _head(mark: SheerMark) -> dict[str, Any]:
    return {
        "name": mark.name,
        "station": rounded(mark.station),
        "mold": mark.mold,
        "inside": [rounded(float(value)) for value in mark.inside],
        "outside": [rounded(float(value)) for value in mark.outside],
        "inside_up": rounded(mark.inside_up),
        "outside_up": rounded(mark.outside_up),
        "cut_up": rounded(mark.cut_up),
        "girth": rounded(mark.girth),
        "slope": rounded(mark.slope),
        "along": rounded(mark.along),
        "strip": mark.strip,
        "below": None if mark.below is None else rounded(mark.below),
        "gauge": None if mark.gauge is None else rounded(mark.gauge),
        "radii": [rounded(radius) for radius in mark.radii],
    }

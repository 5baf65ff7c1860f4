"""How each stage of the work stands, for the marks in the order of work."""

from __future__ import annotations

from collections.abc import Sequence

from .state import State


def status(state: State, stages: Sequence[str], number: int) -> tuple[str, int]:
    """Stage `number`: empty, ready, look (with how many things want looking at), or redo while what it shows is not of this
    very job."""
    stage = stages[number]
    nothing = {"stock": not state.job.stock.given, "setup": not state.has_molds}
    if not state.job.offsets.rows or nothing.get(stage, False):
        return "empty", 0
    if _redo(state, stages, number):
        return "redo", 0
    count = len(state.findings(stage)) + (stage == state.problem_stage)
    if stage == "fairing" and state.fairness is not None:
        count += len(state.fairness.doubts)
    return ("look", count) if count else ("ready", 0)


def _redo(state: State, stages: Sequence[str], number: int) -> bool:
    stage = stages[number]
    if state.problem:
        at = stages.index(state.problem_stage)
        if number >= at:
            return number > at
    waits = {
        "fairing": not state.judged,
        "planking": state.planking is None or state.stale,
        "stock": not state.stocked,
    }
    return waits.get(stage, False) or any(f.code == "printed-changed" for f in state.findings(stage))

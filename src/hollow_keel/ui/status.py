"""How each stage of the work stands, for the marks in the order of work."""

from __future__ import annotations

from .state import State


def status(state: State, stage: str) -> tuple[str, int]:
    """A stage is empty, ready, look (with how many things want looking at), or redo while what it shows is not of this
    very job."""
    nothing = {"stock": not state.job.stock.given, "setup": not state.has_molds}
    if not state.job.offsets.rows or nothing.get(stage, False):
        return "empty", 0
    if _redo(state, stage):
        return "redo", 0
    count = len(state.findings(stage)) + (stage == state.problem_stage)
    if stage == "fairing" and state.fairness is not None:
        count += len(state.fairness.doubts)
    return ("look", count) if count else ("ready", 0)


def _redo(state: State, stage: str) -> bool:
    if state.stopped(stage):
        return stage != state.problem_stage
    waits = {
        "fairing": not state.judged,
        "planking": state.planking is None or state.stale,
        "stock": not state.stocked,
    }
    return waits.get(stage, False) or any(f.code == "printed-changed" for f in state.findings(stage))

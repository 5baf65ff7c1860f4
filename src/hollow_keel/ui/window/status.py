"""How each stage of the work stands, for the marks in the order of work."""

from __future__ import annotations

from ..pages.registry import BY_STAGE
from .state import State


def status(state: State, page: str) -> tuple[str, int]:
    """A page is empty, ready, look (with how many things want looking at), redo while what it shows is not of this
    very job, or hidden where the job has nothing of the kind."""
    kind = BY_STAGE[page]
    if not kind.has(state.job):
        return "hidden", 0
    if not state.job.offsets.rows or kind.empty(state):
        return "empty", 0
    if _redo(state, page):
        return "redo", 0
    count = len(state.findings(page)) + (page == state.problem_stage) + kind.more(state)
    return ("look", count) if count else ("ready", 0)


def _redo(state: State, page: str) -> bool:
    if state.stopped(page):
        return page != state.problem_stage
    return state.waits(page) or any(f.code == "printed-changed" for f in state.findings(page))

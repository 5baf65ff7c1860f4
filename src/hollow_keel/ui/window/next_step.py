"""What has to be done next, and why, in words."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.findings import Finding
from ...core.settings.veneers import strip_planked
from ..pages.registry import PAGES
from .state import State
from .status import status


@dataclass(frozen=True)
class NextStep:
    """The page to go to, what to do there, and why."""

    page: str
    what: str
    why: str


def next_step(state: State) -> NextStep:
    """The first thing in order of work that wants doing."""
    if not state.job.offsets.rows:
        return NextStep("offsets", "Give the offsets", "all else follows from them")
    if state.problem:
        return NextStep(state.problem_stage, "Put it right: see the foot of the page", "nothing after it is sure")
    for page, why in ((kind.stage, kind.before) for kind in PAGES if kind.before):
        mark, count = status(state, page)
        if mark == "look":
            return NextStep(page, _look(state, page, count), why)
        printed = _printed_before(state, page)
        if printed is not None:
            return NextStep(page, f"Print anew: {printed.where}", "they changed since they were printed")
        if mark == "redo":
            return NextStep(page, "It is being worked out", "it followed from what you changed")
    return _go_on(state)


def _look(state: State, page: str, count: int) -> str:
    """What is to be looked at: the first finding's place, or how many there are."""
    found = state.findings(page)
    if not found:
        return f"Fair {count} offset{'s' if count > 1 else ''} that stand{'' if count > 1 else 's'} out"
    more = f", and {count - 1} more" if count > 1 else ""
    return f"Look at {found[0].where}{more}"


def _printed_before(state: State, page: str) -> Finding | None:
    return next((f for f in state.findings(page) if f.code == "printed-changed"), None)


def _go_on(state: State) -> NextStep:
    """Nothing is wrong: what the work itself comes to next."""
    job = state.job
    if not state.has_molds:
        return NextStep("molds", "Say where molds stand", "they give the hull its shape")
    if not job.printed:
        return NextStep("molds", "Print all for the shop (Ctrl+Shift+P)", "all lines are as you gave them")
    if not strip_planked(job):
        return NextStep("veneers", "Set up the form, and lay the first veneer", "layers, spiling and sheets are ready")
    if not job.stock.given:
        return NextStep("stock", "Type the boards you have", "how they are sawn and what to buy follows")
    laid = job.planked.strips if job.planked is not None else 0
    whole = len(state.planking.strips) if state.planking is not None else 0
    if laid < whole:
        return NextStep("planking", f"Lay strip {laid + 1} of {whole}", "molds, strips and wood are ready")
    return NextStep("planking", "The hull is planked", "all strips are on")

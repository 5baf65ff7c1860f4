"""The sheer and the ends."""

from __future__ import annotations

from collections.abc import Callable

from ...core.change import change
from ...core.settings.sheer import trimmed
from ...core.sheer.heads import SheerPlan
from ...core.sheer.stages import SHEER_STRIPS
from ..window.command import Command
from ..window.shell import Shell

MENU = "Sheer"


def carry(shell: Shell) -> None:
    """Work the sheer out on the outside, and go to its page."""
    job = shell.session.job
    if not job.offsets.rows:
        shell.say("Give the hull's offsets first: its sheer is carried out from the molds.")
        return
    if not trimmed(job):
        shell.edit("the sheer carried out", change(job, "trim", wanted=True))
    shell.go_to_page("sheer")


def leave(shell: Shell) -> None:
    """Leave the sheer out of the job again."""
    if not trimmed(shell.session.job):
        shell.say("The sheer is not carried out.")
        return
    shell.edit("the sheer not carried out", change(shell.session.job, "trim", wanted=False))


def bench(shell: Shell) -> None:
    """Every head's mark, one at a time."""
    from ..bench.sheer import sheer_steps
    from ..views.dialogs import Dialogs

    state = shell.state
    plan: SheerPlan | None = state.known.get(SHEER_STRIPS)
    if plan is None or not plan.marks:
        shell.say("The sheer is not carried out yet.")
        return
    Dialogs(shell).bench(sheer_steps(plan, state.job.molds.skin, state.job.trim, state.style))


def _asked(name: str) -> Callable[[Shell], None]:
    def run(shell: Shell) -> None:
        from ..pages.sheer.dialogs import TrimDialogs

        getattr(TrimDialogs(shell), name)()

    return run


COMMANDS = (
    Command("carry-sheer", MENU, "Carry the sheer to the outside", carry),
    Command("bench-sheer", MENU, "Bench: the sheer, head by head…", bench),
    Command("read-arcs", MENU, "Arcs read at this head…", _asked("arcs")),
    Command("read-heights", MENU, "Heights read by eye at this head…", _asked("heights")),
    Command("draw-trim-curve", MENU, "Draw a trimming curve", _asked("first_curve")),
    Command("trim-curve", MENU, "Points of a trimming curve…", _asked("curve")),
    Command("no-sheer", MENU, "Leave the sheer out again", leave),
)

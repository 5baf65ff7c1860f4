"""What is done about the planking away from its page: settings, plans compared, ticks one by one."""

from __future__ import annotations

from datetime import date

from ....core.change import change
from ....core.job import Job
from ....core.settings.log import logged
from ...views.dialogs import Dialogs, accepted


class PlankingDialogs(Dialogs):
    """Asks and shows; what is taken over is one step that can be undone."""

    def heights(self) -> None:
        """Ask for the master line's heights at places along the hull."""
        from ....core.settings.strip_choices import Guide, MasterKind
        from ...decide.lengths_dialog import LengthsDialog, Rows

        job = self.job

        def with_heights(rows: Rows) -> Job:
            master = change(job.strips.master, "", kind=MasterKind.HEIGHTS, heights=rows)
            return change(job, "strips", guide=Guide.MASTER, master=master)

        dialog = LengthsDialog(
            "Master line by heights",
            "The first strip's edge passes these heights; between them it runs fair.",
            ["Along the hull", "Height"],
            job.strips.master.heights,
            self.state.style,
            lambda rows: self.shell.session.attempt(with_heights(rows)),
            self.parent,
        )
        if accepted(dialog):
            self.edit("heights of the master line", with_heights(dialog.given))
        else:
            self.shell.session.give_up()

    def differ(self) -> None:
        """The sheet for the current strip: wood, width and thickness of its own."""
        from .page import PlankingPage

        self.shell.go_to_page("planking")
        page = self.shell.page
        if isinstance(page, PlankingPage) and page.state.strip is not None:
            number = page.state.strip.number
            page.run_from = number
            page.show_band(number, number, page.canvas.rect().center())
            self.say("Click the first strip that differs, then Shift-click the last.")

    def strips(self) -> None:
        """The strips that are still to go on, one at a time; ticked off they are in the log."""
        from ....core.log.keep import strip_ticked
        from ...bench.planking import strip_steps

        planking, job = self.state.planking, self.job
        if planking is None:
            self.say("There are no strips yet.")
            return
        first = (job.planked.strips if job.planked is not None else 0) + 1
        steps = strip_steps(planking, first, self.state.style)
        if not steps:
            self.say("All strips are on.")
            return

        def done(at: int) -> str:
            number = first + at
            self.edit(f"strip {number} ticked off", strip_ticked(self.job, number, date.today()))
            return f"strip {number} is in the log"

        self.bench(steps, done=done if logged(job) else None)

    def compare(self) -> None:
        """Put ways of planking beside each other, or look for one."""
        from .compare_dialog import CompareDialog

        state = self.state
        if state.shape is None or state.planking is None:
            self.say("There are no strips to compare yet.")
            return
        dialog = CompareDialog(state.job, state.style, state.theme, self.parent)
        if not accepted(dialog):
            return
        job = change(state.job, "", plans=tuple(dialog.plans))
        if dialog.chosen is not None:
            self.edit("another way of planking", change(job, "", strips=dialog.chosen))
        elif tuple(dialog.plans) != state.job.plans and len(dialog.plans) > 1:
            self.edit("plans side by side", job)

    def pieces(self) -> None:
        """Every piece still to be cut from the current strip on, one at a time."""
        from ...bench.stock import piece_steps

        state = self.state
        plan = state.stock.plan if state.stock is not None and state.stocked else None
        if plan is None or not plan.made:
            self.say("There are no pieces to cut yet: give boards on the Stock page first.")
            return
        steps = piece_steps(plan, state.strip.number if state.strip else 1, state.style)
        self.bench(steps or piece_steps(plan, 1, state.style))

    def ticks(self) -> None:
        """Where every strip comes on the current mold, one at a time."""
        from ....core.planking.stages import TICKS
        from ...bench.planking import tick_steps

        state = self.state
        if state.shape is None or state.planking is None or state.mold is None:
            self.say("There are no strips yet.")
            return
        if not state.is_known(TICKS):
            self.say("Where the strips come on the molds is being worked out: a moment, please.")
            return
        rows = (state.known.get(TICKS) or {}).get(state.mold.name, ())
        self.bench(tick_steps(state.shape, state.mold, rows, state.style))

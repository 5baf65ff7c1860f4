"""What is done about the molds away from their page: their places, sheets of plywood, the printer's scale."""

from __future__ import annotations

from dataclasses import replace

from ....core.change import change
from ...decide.ask import AskDialog, Asked, Values
from ...views.dialogs import Dialogs, accepted


class MoldDialogs(Dialogs):
    """Asks and shows; what is taken over is one step that can be undone."""

    def sheets(self) -> None:
        """Lay the molds' parts on sheets of plywood."""
        from .sheets_dialog import SheetsDialog  # not needed at the start

        state, job = self.state, self.job
        shape = state.shape
        if shape is None or not shape.is_cut or not state.shape_known or shape.job.molds != job.molds:
            self.say("The molds must be drawn first.")
            return
        dialog = SheetsDialog(replace(shape, job=job), state.style, state.theme, self.parent)
        if accepted(dialog):
            self.edit("molds on sheets", change(job, "", sheets=dialog.sheets, layout=dialog.layout_now))

    def proof_bar(self) -> None:
        """What the printed 100 mm bar measures, so that the next print comes out at full size."""
        asked = [Asked("It measures", self.job.printing.proof_bar, "mm")]
        dialog = AskDialog(
            "My printer",
            asked,
            self.state.style,
            self.state.theme,
            words=self._printed,
            intro="Print a page and measure its 100 mm bar.",
            parent=self.parent,
        )
        if accepted(dialog):
            self.edit("printer's scale", change(self.job, "printing", proof_bar=dialog.values["It measures"]))

    def _printed(self, values: Values) -> str:
        """What the next print does about it. Raises InputError for a bar that no printer makes."""
        printing = change(self.job.printing, "", proof_bar=values["It measures"])
        return f"The next print is drawn {printing.correction:.4f} times as large."

    def ask_stations(self) -> None:
        """Ask where the molds' reference faces stand; the keel line follows while it is asked."""
        from ...decide.lengths_dialog import StationsDialog

        state, job = self.state, self.job
        now = [m.station for m in state.shape.molds.molds] if state.shape is not None else []

        def tried(stations: tuple[float, ...], every: float | None) -> None:
            self.shell.session.attempt(change(job, "molds", stations=stations, every=every))

        dialog = StationsDialog(job.molds.stations, job.molds.every, now, state.style, tried, self.parent)
        if accepted(dialog):
            self.edit("where molds stand", change(job, "molds", stations=dialog.stations, every=dialog.every))
        else:
            self.shell.session.give_up()

"""What is done about the molds away from their page: their settings, sheets of plywood, the printer's scale."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtWidgets import QInputDialog

from ..app.overrides import apply_override
from ..core.change import change
from ..core.errors import InputError
from ..core.units import format_length
from .dialogs import Dialogs, accepted


class MoldDialogs(Dialogs):
    """Asks and shows; what is taken over is one step that can be undone."""

    def sheets(self) -> None:
        """Lay the molds' parts on sheets of plywood."""
        from .sheets_dialog import SheetsDialog  # not needed at the start

        state, job = self.state, self.job
        shape = state.shape
        if shape is None or not state.shape_known or shape.job.molds != job.molds:
            self.say("The molds must be drawn first.")
            return
        dialog = SheetsDialog(replace(shape, job=job), state.style, state.theme, self.parent)
        if accepted(dialog):
            self.edit("molds on sheets", change(job, "", sheets=dialog.sheets, layout=dialog.layout_now))

    def settings(self) -> None:
        """Ask for all that is chosen about the molds' pieces and marks."""
        from .mold_settings import MOLD_SETTINGS

        self.ask("The molds", MOLD_SETTINGS)

    def proof_bar(self) -> None:
        """What the printed 100 mm bar measures, so that the next print comes out at full size."""
        now = self.job.printing.proof_bar
        question = "Print a page and measure its 100 mm bar. It measures, in mm:"
        value, sure = QInputDialog.getDouble(self.parent, "My printer", question, now, 90, 110, 2)
        if sure:
            self.edit("printer's scale", change(self.job, "printing", proof_bar=value))

    def ask_stations(self) -> None:
        """Ask where the molds' reference faces stand."""
        molds = self.job.molds
        style = self.job.units.style
        now = "offsets"
        if molds.stations:
            now = ", ".join(format_length(x, style) for x in molds.stations)
        elif molds.every:
            now = f"every:{format_length(molds.every, style)}"
        text, sure = QInputDialog.getText(
            self.parent, "Where molds stand",
            "“offsets” (at each station of the table), “every:” and a spacing, or positions along the hull with commas:", text=now,
        )  # fmt: skip
        if sure:
            self.set_stations(text)

    def set_stations(self, text: str) -> None:
        """As ask_stations, from a text; bare numbers are in the job's unit."""
        try:
            job = apply_override(self.job, "mold.stations", text.strip(), self.job.units.unit)
        except InputError as error:
            self.shell.warn("The stations could not be read", str(error))
            return
        self.edit("where molds stand", job)

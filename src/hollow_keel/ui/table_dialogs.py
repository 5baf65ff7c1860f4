"""Changes of the whole table, asked for in one line each: scale, baseline, stations, the other end."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QInputDialog

from ..core.change import change
from ..core.errors import InputError
from ..core.hull.restation import restationed
from ..core.job import Job
from ..core.units import format_length, parse_length
from ..core.whole_job import job_raised, job_scaled, job_turned
from .dialogs import Dialogs


class TableDialogs(Dialogs):
    """Asks, and hands the changed job on as one step. Bad answers are said and change nothing."""

    def scale(self) -> None:
        """Factors for length, beam and depth."""
        text = self._ask(
            "Scale the design", "Factors for length, beam and depth, with semicolons or spaces:", "1; 1; 1"
        )
        if text is not None:
            self._try("scale the design", lambda job: self._scaled(job, text))

    def _scaled(self, job: Job, text: str) -> Job:
        try:
            factors = [float(part.replace(",", ".")) for part in text.replace(";", " ").split()]
        except ValueError:
            factors = []
        if len(factors) != 3:
            raise InputError("three factors are needed", value=text, mend="Write for example 1.05; 1; 1.")
        length, beam, depth = factors
        changed = job_scaled(job, length, beam, depth)
        shape = self.state.shape
        if shape is not None:
            before = shape.measures.volume * 1000
            self.say(
                f"Displacement in fresh water {before:.0f} kg becomes {before * length * beam * depth:.0f} kg; "
                "scantlings and stability do not scale with it."
            )
        return changed

    def baseline(self) -> None:
        """Move the line that heights are measured from."""
        style = self.state.style
        text = self._ask(
            "Move the baseline",
            "Lower the baseline by (heights grow by as much; with a minus, raise it):",
            "0",
        )
        if text is None:
            return

        def move(job: Job) -> Job:
            return job_raised(job, parse_length(text, style.unit))

        self._try("move the baseline", move)

    def restation(self) -> None:
        """New stations at an even spacing, measured on the hull's own surface."""
        state = self.state
        text = self._ask(
            "Space the stations anew", "A station every:", format_length(400, state.style, unit=True)
        )
        if text is None:
            return

        def cut(job: Job) -> Job:
            shape = state.drawn_from(job.offsets)
            if shape is None:
                raise InputError("the lines must be drawn first", mend="Put the table right, then try again.")
            spacing = parse_length(text, state.style.unit)
            return change(job, "", offsets=restationed(job.offsets, shape.hull, spacing))

        self._try("space the stations anew", cut)

    def turn(self) -> None:
        """Count the stations from the other end."""

        def turn(job: Job) -> Job:
            shape = self.state.drawn_from(job.offsets)
            if shape is None:  # molds and zero are not known: the table alone
                return job_turned(job, (), None)
            return job_turned(job, [(m.name, m.station) for m in shape.molds.molds], shape.setup.zero_at)

        self._try("count from the other end", turn)

    def _ask(self, title: str, question: str, start: str) -> str | None:
        text, sure = QInputDialog.getText(self.parent, title, question, text=start)
        return text if sure else None

    def _try(self, label: str, work: Callable[[Job], Job]) -> None:
        job = self.state.job
        if not job.offsets.rows:
            self.say("This job has no offsets yet.")
            return
        try:
            self.edit(label, work(job))
        except InputError as error:
            self.say(str(error))

"""What is done about the set-up away from its page: bench mode for marks and readings, a new round of measuring."""

from __future__ import annotations

from datetime import date

from PySide6.QtWidgets import QInputDialog

from ....core.change import change
from ....core.results import Shape
from ....core.settings.log import logged
from ....core.settings.survey import Survey
from ....core.setup.judgement import with_last_survey
from ...views.dialogs import Dialogs


class SetupDialogs(Dialogs):
    """Asks and shows; every reading is one step that can be undone."""

    def marks(self) -> None:
        """The marks on the strongback, one at a time."""
        from ...bench.setup import mark_steps  # not needed at the start

        shape = self._shape()
        if shape is None:
            return
        marks = shape.setup.marks

        def done(at: int) -> str:
            from ....core.log.keep import mold_ticked

            mark = marks[at]
            own = mold_ticked(self.job, mark.mold, mark.station, date.today())
            self.edit(f"mold {mark.mold} ticked off", own)
            return f"mold {mark.mold} is in the log as set up"

        self.bench(mark_steps(shape, self.state.style), done=done if logged(self.job) else None)

    def readings(self) -> None:
        """Every reading of a survey, one at a time; an instrument that types can send them."""
        from ...bench.setup import reading_steps, take_reading

        shape = self._shape()
        if shape is not None:
            take = take_reading(shape, self._survey, self._put)
            self.bench(reading_steps(shape, self.state.style), take)

    def _shape(self) -> Shape | None:
        shape = self.state.shape
        if shape is None or not shape.setup.marks:
            self.say("There are no molds to set up yet.")
            return None
        return shape

    def _survey(self) -> Survey:
        surveys = self.job.surveys
        return surveys[-1] if surveys else Survey()

    def _put(self, survey: Survey) -> None:
        shape = self.state.shape
        self.edit("a reading", with_last_survey(self.job, shape.setup if shape else None, survey))

    def new_round(self) -> None:
        """Begin another round of measuring; what was moved is written down with the last one."""
        earlier = self.job.surveys
        if earlier:
            moved, sure = QInputDialog.getText(
                self.parent, "A new round", "What was moved since the last one?", text=earlier[-1].moved
            )
            if not sure:
                return
            earlier = (*earlier[:-1], earlier[-1].model_copy(update={"moved": moved.strip()}))
        fresh = Survey(name=f"round {len(earlier) + 1}")
        self.edit("a new round of measuring", change(self.job, "", surveys=(*earlier, fresh)))

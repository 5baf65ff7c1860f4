"""What is done about the set-up away from its page: bench mode for marks and readings, a new round of measuring."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtWidgets import QInputDialog, QWidget

from ..app.overrides import change
from ..core.job import Job
from ..core.results import Shape
from ..core.setup.survey import Survey
from .state import State


@dataclass
class SetupDialogs:
    """Asks and shows; every reading is one step that can be undone."""

    parent: QWidget
    state: Callable[[], State]
    job: Callable[[], Job]
    edit: Callable[[str, Job], None]
    say: Callable[[str], None]

    def marks(self) -> None:
        """The marks on the strongback, one at a time."""
        from .bench_mode import BenchMode  # not needed at the start
        from .bench_steps import mark_steps

        shape = self._shape()
        if shape is not None:
            style = self.state().style
            dialog = BenchMode(mark_steps(shape, style), style.unit, None, self.parent)
            dialog.showFullScreen()
            dialog.exec()

    def readings(self) -> None:
        """Every reading of a survey, one at a time; an instrument that types can send them."""
        from .bench_mode import BenchMode
        from .bench_steps import reading_steps, take_reading

        shape = self._shape()
        if shape is not None:
            style = self.state().style
            take = take_reading(shape, self._survey, self._put)
            dialog = BenchMode(reading_steps(shape, style), style.unit, take, self.parent)
            dialog.showFullScreen()
            dialog.exec()

    def _shape(self) -> Shape | None:
        shape = self.state().shape
        if shape is None or not shape.setup.marks:
            self.say("There are no molds to set up yet.")
            return None
        return shape

    def _survey(self) -> Survey:
        surveys = self.job().surveys
        return surveys[-1] if surveys else Survey()

    def _put(self, survey: Survey) -> None:
        job = self.job()
        self.edit("a reading", change(job, "", surveys=(*job.surveys[:-1], survey)))

    def new_round(self) -> None:
        """Begin another round of measuring; what was moved is written down with the last one."""
        earlier = self.job().surveys
        if earlier:
            moved, sure = QInputDialog.getText(
                self.parent, "A new round", "What was moved since the last one?", text=earlier[-1].moved
            )
            if not sure:
                return
            earlier = (*earlier[:-1], earlier[-1].model_copy(update={"moved": moved.strip()}))
        fresh = Survey(name=f"round {len(earlier) + 1}")
        self.edit("a new round of measuring", change(self.job(), "", surveys=(*earlier, fresh)))

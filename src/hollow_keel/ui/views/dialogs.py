"""What all that is asked away from the pages has in common."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QWidget

from ...core.job import Job
from ..window.state import State

if TYPE_CHECKING:
    from ..bench.mode import Step
    from ..window.shell import Shell

Take = Callable[[int, float], tuple[str, bool]]


def accepted(dialog: QDialog) -> bool:
    """Whether a dialog is answered with yes. It is gone when the window goes on: what it holds is taken from it before."""
    try:
        return bool(dialog.exec())
    finally:
        dialog.deleteLater()


@dataclass
class Dialogs:
    """Asks and shows; what is taken over is one step that can be undone."""

    shell: Shell

    @property
    def parent(self) -> QWidget:
        """What dialogs stand over."""
        return self.shell.top

    @property
    def state(self) -> State:
        """The moment that is shown."""
        return self.shell.state

    @property
    def job(self) -> Job:
        """The job as it is now."""
        return self.shell.session.job

    def edit(self, label: str, job: Job) -> None:
        """Put another job in its place, as one step."""
        self.shell.edit(label, job)

    def say(self, text: str) -> None:
        """A message in the status line."""
        self.shell.say(text)

    def bench(self, steps: Sequence[Step], take: Take | None = None, done: Callable[[int], str] | None = None) -> None:
        """Show steps full-screen, one at a time; `take` is called with readings, `done` with what is ticked off."""
        from ..bench.mode import BenchMode

        dialog = BenchMode(steps, self.state.style.unit, take, self.parent, done)
        dialog.showFullScreen()
        accepted(dialog)

"""A menu of ways of laying strips in which those that cannot be laid turn grey as that is found, with why not."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QTimer

from ...app.processes.possible import PossibleRun
from ...core.job import Job
from ..views.sentences import sentence

if TYPE_CHECKING:
    from collections.abc import Iterator

    from PySide6.QtGui import QAction
    from PySide6.QtWidgets import QMenu

LOOK_MS = 100
SAID = 52
"""Letters of a reason that stand beside a choice: a menu has to fit beside what it is opened from."""


@contextmanager
def greyed(menu: QMenu, acts: Mapping[QAction, Any], job: Job, path: str) -> Iterator[None]:
    """While it is open: the actions of a menu, each with its choice of the setting at a path, are tried on the job's hull beside
    the window."""
    run = PossibleRun(job, path)
    timer = QTimer(menu)

    def look() -> None:
        for kind, value in run.poll():
            if kind == "cannot":
                choice, why = value
                for action, own in acts.items():
                    if own == choice:
                        _grey(action, sentence(why, job.units.style))

    timer.timeout.connect(look)
    timer.start(LOOK_MS)
    try:
        yield
    finally:
        timer.stop()
        run.stop()


def _grey(action: QAction, why: str) -> None:
    """Not to be chosen; the beginning of the reason stands beside it, all of it in its tip."""
    action.setEnabled(False)
    short = why if len(why) <= SAID else why[:SAID].rsplit(" ", 1)[0] + "…"
    action.setText(f"{action.text()}  ({short})")
    action.setToolTip(why)

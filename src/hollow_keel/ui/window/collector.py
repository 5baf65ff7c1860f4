"""Garbage is collected in the window's thread alone.

Python collects in whichever thread happens to ask for memory; a widget or timer found in a cycle is then taken apart beside the
window that is using it, and the program dies of it.
"""

from __future__ import annotations

import gc

from PySide6.QtCore import QObject, QTimer

from ...app.processes.memory import give_back

SETTLED_MS = 5_000
"""By then every page is made and the first plan is on screen."""
LOOK_MS = 200
REST_LOOKS = 50
"""When nothing was due for so many looks, ten seconds, the builder reads or is away."""


class Collector(QObject):
    """Takes collecting over from Python for as long as the program runs; lives in the window's thread."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self._collect)
        self._still, self._anything = 0, False
        QTimer.singleShot(SETTLED_MS, self, self.settle)

    def settle(self) -> None:
        """Begin to collect, but never look through what has been loaded: each time that held the window up by 50 ms."""
        gc.freeze()
        self._look.start()

    def _collect(self) -> None:
        """What is due; and once the window rests after that, all that there is: what pages of an hour ago held in rings would else
        wait until tens of thousands of objects more were made."""
        if collect_due():
            self._still, self._anything = 0, True
        elif self._anything:
            self._still += 1
            if self._still >= REST_LOOKS:
                self._still, self._anything = 0, False
                gc.collect()
                give_back()


def collect_due() -> bool:
    """Collect the oldest generation that Python would have collected by now; whether any was due."""
    counts, limits = gc.get_count(), gc.get_threshold()
    for generation in (2, 1, 0):
        if counts[generation] > limits[generation]:
            gc.collect(generation)
            if generation == 2:
                give_back()
            return True
    return False

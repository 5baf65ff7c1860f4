"""Garbage is collected in the window's thread alone.

Python collects in whichever thread happens to ask for memory; a widget or timer found in a cycle is then taken apart beside the
window that is using it, and the program dies of it.
"""

from __future__ import annotations

import gc

from PySide6.QtCore import QObject, QTimer

from ..app.memory import give_back

SETTLED_MS = 5_000
"""By then every page is made and the first plan is on screen."""
LOOK_MS = 200


class Collector(QObject):
    """Takes collecting over from Python for as long as the program runs; lives in the window's thread."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(collect_due)
        QTimer.singleShot(SETTLED_MS, self, self.settle)

    def settle(self) -> None:
        """Begin to collect, but never look through what has been loaded: each time that held the window up by 50 ms."""
        gc.freeze()
        self._look.start()


def collect_due() -> None:
    """Collect the oldest generation that Python would have collected by now."""
    counts, limits = gc.get_count(), gc.get_threshold()
    for generation in (2, 1, 0):
        if counts[generation] > limits[generation]:
            gc.collect(generation)
            if generation == 2:
                give_back()
            return

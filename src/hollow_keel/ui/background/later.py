"""What is done once, a pause after it was last asked for."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer


def later(owner: QObject, pause_ms: int, do: Callable[[], object]) -> QTimer:
    """A timer that calls `do` once, `pause_ms` after it was last started. It lives as long as its `owner`."""
    timer = QTimer(owner)
    timer.setSingleShot(True)
    timer.setInterval(pause_ms)
    timer.timeout.connect(do)
    return timer

"""Work of a second or more beside the window: it stays alive, and the work can be given up."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import TypeVar

from PySide6.QtCore import QCoreApplication, QEventLoop, Qt, QTimer
from PySide6.QtWidgets import QProgressDialog, QWidget

Result = TypeVar("Result")
LOOK_MS = 30


def _nothing() -> None:
    """There is nothing to be stopped."""


def run_aside(parent: QWidget, text: str, work: Callable[[], Result], stop: Callable[[], None] = _nothing) -> Result | None:
    """What `work` returns, or None if the builder gave it up. Raises what `work` raises.

    `work` runs in a thread and must not touch the window; given up, `stop` ends it, or it runs to its end and is forgotten.
    """
    answer: list[Result] = []
    fault: list[BaseException] = []

    def run() -> None:
        try:
            answer.append(work())
        except BaseException as error:  # handed on to the thread that asked
            fault.append(error)

    thread = threading.Thread(target=run, name="aside", daemon=True)
    thread.start()
    if not wait_aside(parent, text, lambda: not thread.is_alive()):
        stop()
        _keep_until_ended(thread, work)
        return None
    if fault:
        raise fault[0]
    return answer[0]


def _keep_until_ended(thread: threading.Thread, work: Callable[[], object]) -> None:
    """What `work` holds, perhaps a window, is let go of in this thread, not in the one that ends."""
    look = QTimer(QCoreApplication.instance())
    look.setInterval(LOOK_MS)

    def let_go(held: Callable[[], object] = work) -> None:
        if not thread.is_alive():
            look.deleteLater()

    look.timeout.connect(let_go)
    look.start()


def wait_aside(parent: QWidget, text: str, ready: Callable[[], bool]) -> bool:
    """Wait, the window alive, until something is ready; False if the builder gave it up."""
    if ready():
        return True
    loop = QEventLoop()
    look = QTimer()
    look.setInterval(LOOK_MS)
    look.timeout.connect(lambda: loop.quit() if ready() else None)
    look.start()
    waited = _ran_out(loop, parent, text)
    look.stop()
    return waited


def _ran_out(loop: QEventLoop, parent: QWidget, text: str) -> bool:
    """Run a loop with a box that says what is going on, until it is quit; False if the builder gave up."""
    box = QProgressDialog(text, "Give up", 0, 0, parent)
    box.setWindowModality(Qt.WindowModality.WindowModal)
    box.setMinimumDuration(300)
    box.canceled.connect(loop.quit)
    loop.exec()
    given_up = box.wasCanceled()
    box.reset()
    box.deleteLater()
    return not given_up

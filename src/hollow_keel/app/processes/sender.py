"""What a process is asked, sent in a thread of its own: one that does not read (stopped, swapped out) keeps nobody waiting."""

from __future__ import annotations

import threading
from multiprocessing.reduction import ForkingPickler
from typing import Any

from .launch import LOOK, Worker


class Sender:
    """Sends the newest request: one that was not sent yet is left out when another comes. The process is signalled after each."""

    def __init__(self, worker: Worker) -> None:
        self._worker = worker
        self._changed = threading.Condition()
        self._newest: bytes | None = None
        self._ends = False
        self._thread = threading.Thread(target=self._run, name="sender", daemon=True)
        self._thread.start()

    def send(self, request: Any) -> None:
        """Have a request sent; returns at once. It is written down here: what it holds may grow in the caller's thread (what a job
        remembers of itself), which another thread must not see halfway."""
        written = bytes(ForkingPickler.dumps(request))
        with self._changed:
            self._newest = written
            self._changed.notify()

    def stop(self, seconds: float) -> bool:
        """Send no more, and wait so long at most for what is being sent; whether that is over."""
        with self._changed:
            self._newest, self._ends = None, True
            self._changed.notify()
        self._thread.join(seconds)
        return not self._thread.is_alive()

    def _run(self) -> None:
        while True:
            with self._changed:
                self._changed.wait_for(lambda: self._ends or self._newest is not None)
                if self._newest is None:
                    return
                request, self._newest = self._newest, None
            try:
                self._worker.requests.send_bytes(request)
                self._worker.process.send_signal(LOOK)
            except (OSError, ValueError):  # it ended, or is given up: whoever reads its answers says so
                return

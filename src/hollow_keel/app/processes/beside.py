"""Work in a process of its own, so that it can be stopped at once: python -m hollow_keel.app.processes.<module>

The process reads one pickled request and answers with pickled messages (kind, value), as app.worker does: whatever it has found,
("progress", share), and at last ("done", None) or ("failed", text).
"""

from __future__ import annotations

import queue
import threading
from collections.abc import Callable, Iterator
from typing import Any

from .launch import own_pipes, start_worker
from .sender import Sender

PATIENCE_SECONDS = 5.0
Send = Callable[[str, Any], None]


class Beside:
    """One piece of work, under way. `poll` gives what has come since the last time; `stop` ends it at once."""

    def __init__(self, module: str, request: Any) -> None:
        self._worker = start_worker(module)
        self._sender = Sender(self._worker)
        self._sender.send(request)
        self._answers: queue.SimpleQueue[tuple[str, Any]] = queue.SimpleQueue()
        self._reader = threading.Thread(target=self._read, name=module, daemon=True)
        self._reader.start()

    def _read(self) -> None:
        try:
            while True:
                self._answers.put(self._worker.answers.recv())
        except (EOFError, OSError):
            self._answers.put(("done", None))

    def poll(self) -> list[tuple[str, Any]]:
        """Messages that have come."""
        found = []
        while not self._answers.empty():
            found.append(self._answers.get())
        return found

    def stop(self) -> None:
        """End it and wait for its end."""
        self._worker.process.kill()
        self._worker.process.wait()
        self._reader.join()
        self._sender.stop(PATIENCE_SECONDS)
        self._worker.close()


def serve(work: Callable[[Any, Send], None]) -> None:
    """Serve the one request: `work` is called with it and with what sends an answer."""
    from ...core.errors import HollowKeelError

    asked, answers = own_pipes()

    def tell(kind: str, value: Any) -> None:
        answers.send((kind, value))

    with asked, answers:
        try:
            work(asked.recv(), tell)
            tell("done", None)
        except HollowKeelError as error:
            tell("failed", str(error))


def found_one_by_one(results: Iterator[Any], kind: str, tell: Send) -> None:
    """Send results as they come."""
    for result in results:
        tell(kind, result)

"""Lays parts on sheets in a process of its own, so that it can be stopped: python -m hollow_keel.app.nester

It reads one pickled (parts, sheets, seconds) and answers with pickled messages as app.worker does: ("layout", Layout),
("progress", share), and at last ("done", None) or ("failed", text).
"""

from __future__ import annotations

import queue
import subprocess
import sys
import threading
from typing import Any, BinaryIO, cast

from ..core.molds.layout import Layout, Sheets
from ..core.molds.part import Part
from .worker import receive, send


class NestRun:
    """One laying out, under way. `poll` gives what has come since the last time; `stop` ends it at once."""

    def __init__(self, parts: list[Part], sheets: Sheets, seconds: float) -> None:
        self._process = subprocess.Popen(
            [sys.executable, "-m", "hollow_keel.app.nester"], stdin=subprocess.PIPE, stdout=subprocess.PIPE
        )
        send(cast(BinaryIO, self._process.stdin), (parts, sheets, seconds))
        self._answers: queue.SimpleQueue[tuple[str, Any]] = queue.SimpleQueue()
        self._reader = threading.Thread(target=self._read, name="nester", daemon=True)
        self._reader.start()

    def _read(self) -> None:
        try:
            while True:
                self._answers.put(receive(cast(BinaryIO, self._process.stdout)))
        except (EOFError, OSError, ValueError):
            self._answers.put(("done", None))

    def poll(self) -> list[tuple[str, Any]]:
        """Messages that have come."""
        found = []
        while not self._answers.empty():
            found.append(self._answers.get())
        return found

    def stop(self) -> None:
        """End it and wait for its end."""
        self._process.kill()
        self._process.wait()
        self._reader.join()
        for pipe in (self._process.stdin, self._process.stdout):
            if pipe is not None:
                pipe.close()


def main() -> None:
    """Serve the one request."""
    from ..core.errors import HollowKeelError
    from ..core.molds.nesting import nest

    answers = sys.stdout.buffer
    sys.stdout = sys.stderr  # nothing but answers goes down the pipe
    parts, sheets, seconds = receive(sys.stdin.buffer)
    try:
        for layout in nest(parts, sheets, seconds, lambda share: send(answers, ("progress", share))):
            assert isinstance(layout, Layout)
            send(answers, ("layout", layout))
        send(answers, ("done", None))
    except HollowKeelError as error:
        send(answers, ("failed", str(error)))


if __name__ == "__main__":
    main()

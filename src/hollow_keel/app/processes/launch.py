"""The first things done: the computing process is started, the collector put off; imports nothing slow."""

from __future__ import annotations

import fcntl
import gc
import os
import signal
import subprocess
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from multiprocessing.connection import Connection

LOOK = signal.SIGURG
"""Sent to the computing process after a request that is to be looked at now; one that is not there yet to see it ignores it."""
PIPE_BYTES = 1 << 20
"""Room for some dozens of requests."""


@dataclass(frozen=True)
class Worker:
    """A process of the application's, and both ways to it."""

    process: subprocess.Popen[bytes]
    requests: Connection
    answers: Connection

    def close(self) -> None:
        """Close both ways; the process ends by itself when it is told so."""
        for way in (self.requests, self.answers):
            with suppress(OSError):
                way.close()


def start_worker(module: str = "worker") -> Worker:
    """Start a process of the application's; the computing one loads while the window is being built."""
    return started([sys.executable, "-m", f"hollow_keel.app.processes.{module}"])


def started(command: Sequence[str]) -> Worker:
    """A process that is asked by its standard input and answers by its standard output."""
    process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE)
    assert process.stdin is not None
    assert process.stdout is not None
    with suppress(OSError):  # it reads when it comes to it: the window must not wait for that
        fcntl.fcntl(process.stdin, fcntl.F_SETPIPE_SZ, PIPE_BYTES)
    with process.stdin, process.stdout:
        return Worker(
            process,
            Connection(os.dup(process.stdin.fileno()), readable=False),
            Connection(os.dup(process.stdout.fileno()), writable=False),
        )


def own_pipes() -> tuple[Connection, Connection]:
    """In such a process: what it is asked by, and what it answers by. Nothing but answers goes down that pipe: what is printed
    goes where errors go."""
    asked = Connection(os.dup(sys.stdin.fileno()), writable=False)
    answers = Connection(os.dup(sys.stdout.fileno()), readable=False)
    os.dup2(sys.stderr.fileno(), sys.stdout.fileno())
    return asked, answers


@contextmanager
def window_starting() -> Iterator[Worker]:
    """A computing process for a window about to be built; ended again where no window comes of it."""
    hold_collector()
    worker = start_worker()
    try:
        yield worker
    except BaseException:
        worker.process.kill()
        worker.process.wait()
        worker.close()
        raise


def hold_collector() -> None:
    """Until the window's own collector takes over: loading makes very many objects that stay, and looking through them finds
    nothing."""
    gc.disable()

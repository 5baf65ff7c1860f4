"""The first things done: the computing process is started, the collector put off; imports nothing slow."""

from __future__ import annotations

import fcntl
import gc
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager, suppress

PIPE_BYTES = 1 << 20
"""Room for some dozens of requests."""


def start_worker() -> subprocess.Popen[bytes]:
    """Start the computing process; it loads while the window is being built."""
    worker = subprocess.Popen(
        [sys.executable, "-m", "hollow_keel.app.worker"], stdin=subprocess.PIPE, stdout=subprocess.PIPE,
        env={**os.environ, "OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"},
    )  # fmt: skip
    assert worker.stdin is not None
    with suppress(OSError):  # it reads when it comes to it: the window must not wait for that
        fcntl.fcntl(worker.stdin, fcntl.F_SETPIPE_SZ, PIPE_BYTES)
    return worker


@contextmanager
def window_starting() -> Iterator[subprocess.Popen[bytes]]:
    """A computing process for a window about to be built; ended again where no window comes of it."""
    hold_collector()
    worker = start_worker()
    try:
        yield worker
    except BaseException:
        worker.kill()
        with worker:  # waits, and closes its pipes
            raise


def hold_collector() -> None:
    """Until the window's own collector takes over: loading makes very many objects that stay, and looking through them finds
    nothing."""
    gc.disable()

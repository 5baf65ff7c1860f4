"""Starts the computing process; imports nothing slow, so that it can be the first thing done."""

from __future__ import annotations

import os
import subprocess
import sys


def start_worker() -> subprocess.Popen[bytes]:
    """Start the computing process; it loads while the window is being built."""
    return subprocess.Popen(
        [sys.executable, "-m", "hollow_keel.app.worker"], stdin=subprocess.PIPE, stdout=subprocess.PIPE,
        env={**os.environ, "OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"},
    )  # fmt: skip

"""The log file: what went wrong, with its traceback, in the user's folder for state; what is full is turned over."""

from __future__ import annotations

import faulthandler
import logging
import os
import sys
import threading
from contextlib import suppress
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import TracebackType

from .settings import state_folder

BYTES, OLDER = 500_000, 3
FORMAT = "%(asctime)s %(process)d %(name)s %(levelname)s %(message)s"


def log_file(part: str) -> Path:
    """Where one part (the window, the computing process) writes what goes wrong."""
    return state_folder() / f"{part}.log"


def keep_log(part: str) -> Path | None:
    """Write down from now on what goes wrong in this process; where, or None where nothing can be written."""
    path = log_file(part)
    try:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        handler = RotatingFileHandler(path, maxBytes=BYTES, backupCount=OLDER, encoding="utf-8", delay=True)
    except OSError:
        return None
    handler.setFormatter(logging.Formatter(FORMAT))
    root = logging.getLogger()
    root.addHandler(handler)
    root.setLevel(logging.INFO)
    sys.excepthook = _not_caught
    threading.excepthook = lambda args: _not_caught(args.exc_type, args.exc_value, args.exc_traceback)
    return path


def keep_crashes(part: str) -> None:
    """Write down from now on where this process was when a library crashed, for as long as it runs, in its log."""
    with suppress(OSError):
        faulthandler.enable(os.open(log_file(part), os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600))


def _not_caught(kind: type[BaseException], error: BaseException | None, trace: TracebackType | None) -> None:
    if error is None or issubclass(kind, KeyboardInterrupt):
        sys.__excepthook__(kind, error or kind(), trace)
        return
    logging.getLogger("hollow_keel").critical("not caught", exc_info=(kind, error, trace))
    sys.__excepthook__(kind, error, trace)

"""One input tried in a process of its own, forked from one that has everything loaded: what came of it."""

from __future__ import annotations

import os
import resource
import select
import signal
import time
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

MOST_SECONDS, MOST_BYTES = 5.0, 1_000_000_000


class End(StrEnum):
    """What can come of an input."""

    READ = "read"
    REFUSED = "refused in words"
    TRACEBACK = "traceback"
    HANG = "hang"
    MEMORY = "too much memory"
    CRASH = "crash"


@dataclass(frozen=True)
class Outcome:
    """What came of one input, in how many seconds, and of what kind the fault was."""

    end: End
    seconds: float
    what: str = ""


def tried(
    read: Callable[[], object], refusal: tuple[type[Exception], ...], most: float = MOST_SECONDS
) -> Outcome:
    """Do something in a fork, in `most` seconds; `refusal` are the errors that are messages to the builder."""
    begun = time.perf_counter()
    out, into = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(out)
        _child(read, refusal, into)
    os.close(into)
    text = _answer(out, child, most)
    os.close(out)
    _, status = os.waitpid(child, 0)
    seconds = time.perf_counter() - begun
    if text is None:
        return Outcome(End.HANG, seconds)
    if not text:
        return Outcome(
            End.CRASH,
            seconds,
            signal.Signals(os.WTERMSIG(status)).name if os.WIFSIGNALED(status) else "ended",
        )
    end, _, what = text.partition(" ")
    return Outcome(End[end], seconds, what)


def _child(read: Callable[[], object], refusal: tuple[type[Exception], ...], into: int) -> None:
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    data = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024 + MOST_BYTES
    resource.setrlimit(resource.RLIMIT_DATA, (data, data))
    null = os.open(os.devnull, os.O_WRONLY)
    os.dup2(null, 1)
    os.dup2(null, 2)
    try:
        read()
        text = "READ "
    except refusal as error:
        text = f"REFUSED {type(error).__name__}"
    except MemoryError:
        text = "MEMORY "
    except BaseException as error:  # whatever it is, it is what is looked for
        place = error.__traceback__
        while place is not None and place.tb_next is not None:
            place = place.tb_next
        where = (
            f" at {os.path.basename(place.tb_frame.f_code.co_filename)}:{place.tb_lineno}"
            if place is not None
            else ""
        )
        text = f"TRACEBACK {type(error).__name__}{where} {str(error)[:200]}"
    os.write(into, text.encode())
    os._exit(0)


def _answer(out: int, child: int, most: float) -> str | None:
    """What the child says, an empty text if it ends without a word, None if it says nothing in time."""
    ready, _, _ = select.select([out], [], [], most)
    if not ready:
        os.kill(child, signal.SIGKILL)
        return None
    return os.read(out, 4096).decode(errors="replace")

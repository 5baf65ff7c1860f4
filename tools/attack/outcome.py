"""One input tried in a process of its own, forked from one that has everything loaded: what came of it."""

from __future__ import annotations

import os
import resource
import select
import signal
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path

MOST_SECONDS, MOST_BYTES = 5.0, 1_000_000_000
AT_ALL = 6
"""On a busy machine something may take so many times as long as it has of the processor."""
TICKS = os.sysconf("SC_CLK_TCK")


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


def tried(read: Callable[[], object], refusal: tuple[type[Exception], ...], most: float = MOST_SECONDS) -> Outcome:
    """Do something in a fork, in `most` seconds of the processor's; `refusal` are the errors that are messages to the builder."""
    (outcome,) = tried_all([read], refusal, most)
    return outcome


def tried_all(
    reads: Sequence[Callable[[], object]], refusal: tuple[type[Exception], ...], most: float = MOST_SECONDS
) -> Iterator[Outcome]:
    """Do one thing after another, each in `most` seconds of the processor's: all in one fork, and in another
    one after what ended the first."""
    done = 0
    while done < len(reads):
        out, into = os.pipe()
        child = os.fork()
        if child == 0:
            os.close(out)
            _child(reads[done:], refusal, into)
        os.close(into)
        try:
            for outcome in _answers(out, child, most, len(reads) - done):
                done += 1
                yield outcome
        finally:
            os.close(out)


def processor(pid: int) -> float:
    """Processor time of a process, s."""
    fields = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
    return (int(fields[11]) + int(fields[12])) / TICKS


def _answers(out: int, child: int, most: float, count: int) -> Iterator[Outcome]:
    """What the child says of each, until it has said all or ended; it is waited for."""
    kept = b""
    begun, used = time.perf_counter(), processor(child)
    for _ in range(count):
        while b"\n" not in kept:
            ready, _, _ = select.select([out], [], [], most / 5)
            took = time.perf_counter() - begun
            if not ready and took < AT_ALL * most and processor(child) - used < most:
                continue
            if not ready:
                os.kill(child, signal.SIGKILL)
                os.waitpid(child, 0)
                yield Outcome(End.HANG, time.perf_counter() - begun)
                return
            said = os.read(out, 65536)
            if not said:
                _, status = os.waitpid(child, 0)
                ended = signal.Signals(os.WTERMSIG(status)).name if os.WIFSIGNALED(status) else "ended"
                yield Outcome(End.CRASH, time.perf_counter() - begun, ended)
                return
            kept += said
        line, _, kept = kept.partition(b"\n")
        end, seconds, what = line.decode(errors="replace").split(" ", 2)
        begun, used = time.perf_counter(), processor(child)
        yield Outcome(End[end], float(seconds), what)
    os.waitpid(child, 0)


def _child(reads: Sequence[Callable[[], object]], refusal: tuple[type[Exception], ...], into: int) -> None:
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    data = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024 + MOST_BYTES
    resource.setrlimit(resource.RLIMIT_DATA, (data, data))
    null = os.open(os.devnull, os.O_WRONLY)
    os.dup2(null, 1)
    os.dup2(null, 2)
    for read in reads:
        begun = time.process_time()
        end, what = _ended(read, refusal)
        line = " ".join(f"{end} {time.process_time() - begun:.3f} {what}".splitlines()) + "\n"
        os.write(into, line.encode(errors="replace"))
    os._exit(0)


def _ended(read: Callable[[], object], refusal: tuple[type[Exception], ...]) -> tuple[str, str]:
    """The name of the end, and what is said of it."""
    try:
        read()
    except refusal as error:
        return "REFUSED", type(error).__name__
    except MemoryError:
        return "MEMORY", ""
    except BaseException as error:  # whatever it is, it is what is looked for
        place = error.__traceback__
        while place is not None and place.tb_next is not None:
            place = place.tb_next
        file = "" if place is None else f" at {os.path.basename(place.tb_frame.f_code.co_filename)}:{place.tb_lineno}"
        return "TRACEBACK", f"{type(error).__name__}{file} {str(error)[:200]}"
    return "READ", ""

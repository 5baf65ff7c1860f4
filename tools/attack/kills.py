"""Kills at any moment, while a job is saved and while a window works: nothing that was told as kept may be lost."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from hollow_keel.app.session import Session
from hollow_keel.app.unsaved import left_behind
from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.demo.jobs import demo_job
from hollow_keel.files.store.job_file import load_job

WINDOW = Path(__file__).with_name("working_window.py")


@dataclass
class Kills:
    """How many, what was lost, and what was left behind where nothing may be."""

    count: int = 0
    told: int = 0
    lost: list[str] = field(default_factory=list)
    left: list[str] = field(default_factory=list)


def in_saves(count: int, seed: int, until: float) -> Kills:
    """A process saves a job again and again, says each time how often it has, and is killed: the file must hold what was said, or
    what was being written then."""
    dice, found = random.Random(seed), Kills()
    job = demo_job("linnet")
    for _ in range(count):
        if time.monotonic() > until:
            break
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.hkeel"
            told = _killed(lambda tell, path=path: _saving(job, path, tell), dice.uniform(0.01, 0.35))
            found.count += 1
            found.told += told
            if not told:
                continue
            try:
                kept = int(load_job(path).name)
                if not told <= kept <= told + 1:
                    found.lost.append(f"save {told} was told, {kept} is there")
            except (InputError, ValueError) as error:
                found.lost.append(str(error))
    return found


def _saving(job: object, path: Path, tell: Callable[[int], None]) -> None:
    session = Session(job, None, path.parent / "versions")  # type: ignore[arg-type]
    for k in range(1, 100_000):
        session.edit("name", change(session.job, "", name=str(k)))
        session.save(path)
        tell(k)


def _killed(work: Callable[[Callable[[int], None]], None], after: float) -> int:
    """Fork, do something, kill it so many seconds after it began to tell; the last number that it told."""
    out, into = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(out)
        try:
            work(lambda k: os.write(into, f"{k}\n".encode()) and None)
        finally:
            os._exit(1)
    os.close(into)
    with os.fdopen(out, "rb") as told:
        first = told.readline()
        time.sleep(after)
        os.kill(child, signal.SIGKILL)
        rest = told.read().split()
        os.waitpid(child, 0)
    return int(rest[-1] if rest else first or 0)


def of_windows(count: int, seed: int, until: float) -> Kills:
    """A window in which entries are kept in the log and other things are done is killed: every entry told as kept must be found by
    the next one, and its computing process must end."""
    dice, found = random.Random(seed), Kills()
    for k in range(count):
        if time.monotonic() > until:
            break
        with tempfile.TemporaryDirectory() as folder:
            process = subprocess.Popen(
                [sys.executable, str(WINDOW), folder, str(seed + k)], stdout=subprocess.PIPE, start_new_session=True
            )
            assert process.stdout is not None
            first = process.stdout.readline()
            time.sleep(dice.uniform(0.0, 3.0))
            process.send_signal(signal.SIGKILL)
            process.wait()
            lines = [first, *process.stdout.read().split(b"\n")]
            process.stdout.close()
            told = [line.decode() for line in lines if line.startswith(b"kept ") and line.strip()]
            found.count += 1
            found.told += len(told)
            found.lost += _missing(Path(folder), told)
            if not _gone(process.pid):
                found.left.append(f"a process of the group {process.pid}")
    return found


def _missing(folder: Path, told: list[str]) -> list[str]:
    """What was told as kept, and cannot be found."""
    kept = {entry.line for found in left_behind(folder) if found.job is not None for entry in found.job.log.entries}
    return [line.strip() for line in told if line.strip().removeprefix("kept ") not in kept]


def _gone(group: int) -> bool:
    """Whether no process of a group is there any more, a moment later."""
    for _ in range(100):
        try:
            os.killpg(group, 0)
        except ProcessLookupError:
            return True
        time.sleep(0.1)
    os.killpg(group, signal.SIGKILL)
    return False

"""Files of other programs, read in a process of their own: python -m hollow_keel.app.processes.foreign

What such a file holds is not ours: a reader may stumble over it, never end, or take all memory. In a process of its own, with
limits on time and memory, that costs one message. A request is (reader, path, arguments); the answer is (kind, value): "value",
or "fault" with an InputError. It is unpickled by names on a list alone, so that a reader that a file has got the better of can
send us nothing but pictures, curves, meshes and tables.
"""

from __future__ import annotations

import io
import logging
import pickle
import resource
import signal
from collections.abc import Callable, Mapping
from contextlib import suppress
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from ...core.errors import InputError
from .launch import Worker, own_pipes, start_worker

log = logging.getLogger(__name__)
SECONDS, SECONDS_A_MB = 5.0, 0.6
"""Of processor time, when what reads is loaded."""
BYTES, BYTES_A_BYTE = 900_000_000, 12
START_SECONDS, WALL_TIMES = 60.0, 4.0
"""By the clock it may take longer: other programs want the processor too."""
READERS: Mapping[str, tuple[str, str, tuple[str, ...]]] = {
    "drawing": ("lines.drawing", "read_drawing", ("ezdxf", "shapely")),
    "curve": ("lines.closed_curve", "largest_closed_curve", ("ezdxf", "shapely")),
    "mesh": ("mesh.hull", "read_mesh", ("trimesh",)),
    "picture": ("pictures", "read_picture", ("PIL.Image",)),
    "pages": ("pictures", "page_count", ()),
    "tables": ("tables.grid", "grids_of", ()),
}
"""What can be asked for: the function of the files' part that reads it, and the libraries that it loads slowly."""
LESS = "Save it again with less in it: the hull's lines or its surface alone."
PLAINER = "Open it in the program that it is from and save it again, in its plainest form."
ALLOWED = frozenset(
    {
        ("hollow_keel.core.errors", "InputError"),
        ("hollow_keel.files.lines.drawing", "LinesDrawing"),
        ("hollow_keel.files.mesh.hull", "MeshHull"),
        ("hollow_keel.files.mesh.pose", "Pose"),
        ("hollow_keel.files.pictures", "Picture"),
        ("hollow_keel.files.tables.grid", "Grid"),
        ("numpy._core.multiarray", "_reconstruct"),
        ("numpy._core.numeric", "_frombuffer"),
        ("numpy._core.multiarray", "scalar"),
        ("numpy", "ndarray"),
        ("numpy", "dtype"),
    }
)
"""All that an answer may be made of."""


class _Answer(pickle.Unpickler):
    """An answer, made of nothing that is not allowed."""

    def find_class(self, module: str, name: str) -> Any:
        if (module, name) not in ALLOWED:
            raise pickle.UnpicklingError(f"{module}.{name} has no place in an answer")
        return super().find_class(module, name)


def answer_of(data: bytes) -> tuple[str, Any]:
    """What an answer says. Raises UnpicklingError for one that is not made of what is allowed."""
    kind, value = _Answer(io.BytesIO(data)).load()
    return str(kind), value


class ForeignRead:
    """One file being read. `run` waits for it, `stop` (from another thread) gives it up."""

    def __init__(self, reader: str, path: Path, *arguments: Any) -> None:
        self._request = (reader, str(path), arguments)
        self._path = path
        self._worker: Worker | None = None
        self._stopped = False

    def run(self) -> Any:
        """What was read. Raises InputError for what cannot be."""
        self._worker = worker = start_worker("foreign")
        try:
            if self._stopped:
                worker.process.kill()
            with suppress(OSError):  # it is told by what comes of it
                worker.requests.send(self._request)
            seconds = START_SECONDS + WALL_TIMES * _seconds(self._path)
            if not worker.answers.poll(seconds):
                raise _too_long(self._path)
            kind, value = answer_of(worker.answers.recv_bytes())
        except (EOFError, OSError, pickle.UnpicklingError, ValueError, TypeError) as error:
            worker.process.kill()
            raise self._fault(worker.process.wait(), error) from None
        finally:
            worker.process.kill()
            worker.process.wait()
            worker.close()
        if kind == "fault":
            raise value if isinstance(value, InputError) else self._fault(0, None)
        return value

    def stop(self) -> None:
        """Give it up."""
        self._stopped = True
        if self._worker is not None:
            self._worker.process.kill()

    def _fault(self, code: int, error: Exception | None) -> InputError:
        if code == -signal.SIGXCPU:
            return _too_long(self._path)
        log.error("reading %s ended with %d: %s", self._path, code, error)
        return _trips(self._path)


def read_foreign(reader: str, path: Path, *arguments: Any) -> Any:
    """What a reader makes of a file, in a process of its own. Raises InputError."""
    return ForeignRead(reader, path, *arguments).run()


def _size(path: Path) -> int:
    try:
        return path.stat().st_size
    except OSError:
        return 0


def _seconds(path: Path) -> float:
    return SECONDS + SECONDS_A_MB * _size(path) / 1e6


def _too_long(path: Path) -> InputError:
    return InputError(f"reading this took longer than {_seconds(path):.0f} seconds", path.name, mend=LESS)


def _trips(path: Path, what: str = "") -> InputError:
    return InputError("this file cannot be read: it trips what reads it", path.name, what, PLAINER)


def main() -> None:
    """Read one file and end."""
    asked, answers = own_pipes()
    with asked, answers:
        try:
            reader, path, arguments = asked.recv()
        except EOFError:
            return
        _send(answers, *_read(reader, Path(path), arguments))


def _read(reader: str, path: Path, arguments: tuple[Any, ...]) -> tuple[str, Any]:
    from ..log import keep_crashes, keep_log

    keep_log("reader")
    keep_crashes("reader")
    try:
        read = _loaded(reader)
        _limit(path)
        return "value", read(path, *arguments)
    except InputError as error:
        return "fault", InputError(error.problem, error.where, error.value, error.mend)
    except (MemoryError, RecursionError):
        return "fault", InputError("reading this takes more memory than a file of its size should", path.name, mend=LESS)
    except Exception as error:
        log.exception("%s of %s", reader, path)
        return "fault", _trips(path, type(error).__name__)


def _loaded(reader: str) -> Callable[..., Any]:
    """What reads, with the libraries that it needs loaded: loading is not counted."""
    from importlib import import_module

    part, name, libraries = READERS[reader]
    for library in libraries:
        import_module(library)
    found: Callable[..., Any] = getattr(import_module(f"...files.{part}", __package__), name)
    return found


def _limit(path: Path) -> None:
    """From here on only so much time of the processor, and memory, may be used."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    seconds = int(used.ru_utime + used.ru_stime + _seconds(path)) + 1
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
    room = BYTES + BYTES_A_BYTE * _size(path)
    resource.setrlimit(resource.RLIMIT_DATA, (room, room))


def _send(answers: Connection, kind: str, value: Any) -> None:
    with suppress(OSError):  # nobody waits any more
        answers.send_bytes(pickle.dumps((kind, value), protocol=5))


if __name__ == "__main__":
    main()

"""The attack's command: what to attack, for how long, with which seed; its figures as tables, and into the docs with --write."""

from __future__ import annotations

import argparse
import json
import os
import subprocess
import sys
import time
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

if TYPE_CHECKING:
    from .tally import Tally

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
PAGE = Path(__file__).parents[2] / "docs" / "how-it-is-tried.md"
BEGIN, END = "<!-- figures of {name}: ./run attack {name} -->", "<!-- end of {name} -->"
Lines = Iterator[str]
T = TypeVar("T")
CORES = os.cpu_count() or 1


def table(heads: Sequence[str], rows: Iterator[Sequence[object]]) -> Lines:
    """A table in Markdown."""
    yield f"| {' | '.join(heads)} |"
    yield f"|{'---|' * len(heads)}"
    for row in rows:
        yield f"| {' | '.join(str(cell) for cell in row)} |"


def at_once(attack: Callable[..., T], pieces: Iterable[Sequence[Any]]) -> list[T]:
    """Pieces of an attack, on every core; each begins in a process in which nothing is loaded."""
    with ProcessPoolExecutor(CORES, get_context("spawn"), max_tasks_per_child=1) as pool:
        begun = [pool.submit(attack, *piece) for piece in pieces]
        return [own.result() for own in begun]


class Attack:
    """What is asked for, and whether anything was found."""

    def __init__(self, minutes: float, count: int, seed: int, only: Sequence[str] = ()) -> None:
        self.minutes, self.count, self.seed, self.only = minutes, count, seed, only
        self.found = False

    @property
    def seconds(self) -> float:
        return 60 * self.minutes

    def readers(self) -> Lines:
        """Every reader."""
        from .readers import attacked, readers
        from .tally import FAULTS

        names = [reader.name for reader in readers() if not self.only or reader.name in self.only]
        share = self.seconds * CORES / len(names)
        tallies = at_once(attacked, ((name, self.count, self.seed, share) for name in names))

        def rows() -> Iterator[Sequence[object]]:
            for name, tally in zip(names, tallies, strict=True):
                bad = sum(tally.ends[end] for end in FAULTS)
                self.found |= bad > 0
                said = "; ".join(f"{what} ({n})" for what, n in tally.faults.most_common(3)) or "none"
                read, refused = tally.ends["read"], tally.ends["refused in words"]
                yield name, tally.count, read, refused, f"{tally.slowest:.1f} s", said

        heads = ("reader", "inputs", "read", "refused in words", "slowest", "traceback, hang, memory, crash")
        yield from table(heads, rows())

    def settings(self) -> Lines:
        """Settings at their limits."""
        from .settings import attacked, how_many

        yield from self._worked_out("settings at their limits", attacked, f" of {how_many():,} singles and pairs")

    def hulls(self) -> Lines:
        """Wrong tables of offsets."""
        from .hulls import attacked

        yield from self._worked_out("tables made wrong", attacked)

    def _worked_out(self, name: str, attacked: Callable[..., tuple[Tally, list[str]]], of: str = "") -> Lines:
        from .tally import Tally

        parts = at_once(attacked, ((self.seed, self.seconds, self.count, k, CORES) for k in range(CORES)))
        tally = sum((own for own, _ in parts), Tally())
        worst = [text for _, texts in parts for text in texts]
        self.found |= bool(worst)
        heads = (name, "worked out", "refused in words", "slowest", "faults")
        ends, slowest = tally.ends, f"{tally.slowest:.1f} s"
        row = (f"{tally.count:,}{of}", ends["read"], ends["refused in words"], slowest, len(worst))
        yield from table(heads, iter([row]))
        yield from ("", *(f"- `{text}`" for text in worst[:20]))

    def saves(self) -> Lines:
        """Kills in saves."""
        from .kills import in_saves

        yield from self._kills("kills in a save", in_saves)

    def window(self) -> Lines:
        """Kills of a window."""
        from .kills import of_windows

        yield from self._kills("kills of a working window", of_windows)

    def _kills(self, name: str, kill: Callable[[int, int, float], object]) -> Lines:
        from .kills import Kills

        found = kill(self.count, self.seed, time.monotonic() + self.seconds)
        assert isinstance(found, Kills)
        self.found |= bool(found.lost or found.left)
        heads = (name, "told as kept", "lost", "processes left")
        yield from table(heads, iter([(found.count, found.told, len(found.lost), len(found.left))]))
        yield from ("", *(f"- {text}" for text in found.lost[:5]))

    def disks(self) -> Lines:
        """Disks that take nothing more."""
        from .disks import attacked

        rows = list(attacked())
        self.found |= any(not said.startswith("refused") for _, said in rows)
        yield from table(("where a save cannot be", "what comes of it"), iter(rows))

    def hands(self) -> Lines:
        """Restless hands."""
        rows: list[Sequence[object]] = []
        for name in ("linnet", "pipit", "sedge"):
            command = [sys.executable, "-m", "tools.attack.hands", str(self.minutes / 3), name, str(self.seed)]
            done = subprocess.run(command, stdout=subprocess.PIPE, text=True, check=False)
            lines = [json.loads(line) for line in done.stdout.splitlines() if line.startswith("{")]
            if done.returncode or not lines or "idle" not in lines[-1]:
                self.found = True
                rows.append((name, "ended", done.returncode, "", "", "", "", ""))
                continue
            *lines, end = lines
            minutes = [line for line in lines if "steps" in line]
            self.found |= bool(end["faults"]) or end["left"] > 0
            last = minutes[-1]
            at_work = _steady([(own["minute"], own["window"] + own["worker"]) for own in minutes])
            at_rest = _steady([(own["begun"], own["rest"]) for own in lines if "begun" in own])
            ended = f"{end['left']} left; {len(end['faults'])} faults"
            idle = f"{end['idle']} %"
            rows.append((name, last["steps"], at_rest, at_work, last["threads"], last["processes"], idle, ended))
        heads = ("job", "things done", "memory where a job begins, MB", "at work, MB")
        yield from table((*heads, "threads", "processes", "idle, of a core", "at the end"), iter(rows))


def _steady(told: Sequence[tuple[float, int]]) -> str:
    """Memory by minutes, MB, in words: after the first ten minutes and at the end, the lowest and the highest."""
    settled = [own for at, own in told if at >= min(10.0, told[-1][0] / 2)] if told else []
    return f"{settled[0]} → {settled[-1]} ({min(settled)}–{max(settled)})" if settled else ""


def written(name: str, lines: Sequence[str], some: bool = False) -> None:
    """Put figures in their place in the docs; `some`: only the rows that there are, the others stay."""
    begin, end = BEGIN.format(name=name), END.format(name=name)
    text = PAGE.read_text(encoding="utf-8")
    before, _, rest = text.partition(begin)
    old, _, after = rest.partition(end)
    if some:
        new = {line.split("|")[1]: line for line in lines if line.startswith("|")}
        lines = [new.get(line.split("|")[1], line) for line in old.strip().splitlines()]
    PAGE.write_text(before + "\n".join([begin, "", *lines, "", end]) + after, encoding="utf-8")


def main() -> int:
    """Attack; 1 where anything was found."""
    ways = ("readers", "settings", "hulls", "saves", "window", "disks", "hands")
    parser = argparse.ArgumentParser(prog="./run attack", description=__doc__)
    parser.add_argument("what", nargs="*", choices=[*ways, []], default=[], help=f"any of {', '.join(ways)} (all)")
    parser.add_argument("--minutes", type=float, default=10.0, help="for each of them, at most")
    parser.add_argument("--count", type=int, default=10_000, help="inputs a reader, or kills, at most")
    parser.add_argument("--only", action="append", default=[], help="one reader, by its name; may be repeated")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--write", action="store_true", help="put the figures into docs/how-it-is-tried.md")
    given = parser.parse_args()
    attack = Attack(given.minutes, given.count, given.seed, given.only)
    for name in given.what or ways:
        lines = list(getattr(attack, name)())
        print(f"\n## {name}\n", *lines, sep="\n", flush=True)
        if given.write:
            written(name, lines, bool(given.only))
    return int(attack.found)


if __name__ == "__main__":
    sys.exit(main())

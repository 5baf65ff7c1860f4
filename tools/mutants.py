"""Small wrong changes made on purpose, one at a time, and whether a test notices.

    python -m tools.mutants map [tests/files tests/outside …]     which test runs which line, anew for each tree
    python -m tools.mutants try 60 --seed 3 planking molds        so many changes in those rooms of the core, drawn by lot
    python -m tools.mutants try 40 files drawing/sheer ui/pages   or on other floors, with all rooms in them

Not a part of `./run test`. Each change is tried in a process forked from this one, that has the libraries at hand already and takes
the changed module from memory: no file is touched, and it takes a second more than the tests themselves.
"""

from __future__ import annotations

import argparse
import ast
import importlib
import importlib.abc
import importlib.util
import json
import os
import random
import re
import signal
import subprocess
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from importlib.machinery import ModuleSpec
from pathlib import Path
from types import ModuleType
from typing import Any

ROOT = Path(__file__).parent.parent
SOURCE = Path("src/hollow_keel")
CORE = SOURCE / "core"
TOOK = Path("took.json")
MOST_SECONDS = 40.0
"""Of the tests that run a changed line the quickest are tried, so long together as they were when mapped."""
UNTOLD_SECONDS = 0.05
AT_HAND = (
    "numpy",
    "scipy.interpolate",
    "scipy.optimize",
    "scipy.spatial",
    "scipy.integrate",
    "scipy.sparse.linalg",
    "scipy.stats",
    "shapely.ops",
    "pydantic",
    "pytest",
    "ezdxf",
    "pypdf",
    "reportlab",
)
"""Loaded before the first change is tried: each takes its time."""
NOTICED = (1, 2)
"""What pytest ends with where a test failed, or could not even be loaded."""
SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.Mod: ast.Mult,
    ast.FloorDiv: ast.Div,
    ast.Pow: ast.Mult,
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.And: ast.Or,
    ast.Or: ast.And,
}
PAIRS = (("min", "max"), ("minimum", "maximum"), ("argmin", "argmax"), ("ceil", "floor"), ("sin", "cos"), ("any", "all"))
NAMES = {a: b for pair in PAIRS for a, b in (pair, pair[::-1])}
BARE = {"min", "max", "any", "all"}
"""Of these those that are called without a module before them."""


@dataclass(frozen=True)
class Place:
    """The `number`-th place of a file where something can be changed, its line, and what the change is."""

    file: Path
    number: int
    line: int
    what: str


class Changes(ast.NodeTransformer):
    """Counts the places of a tree; changes the wanted one. Types, decorators and texts are left alone, and what would stay the
    same."""

    def __init__(self, wanted: int = -1) -> None:
        self.wanted = wanted
        self.found: list[tuple[int, str]] = []

    def _hit(self, node: ast.expr, what: str) -> bool:
        self.found.append((node.lineno, what))
        return len(self.found) - 1 == self.wanted

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.body = [self.visit(own) for own in node.body]
        node.args.defaults = [self.visit(own) for own in node.args.defaults]
        return node

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        node.body = [self.visit(own) for own in node.body]
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node

    def _swapped(self, node: ast.expr, operator: Any) -> Any:
        """The operator of a node, or the one in its place where that is the wanted change."""
        other = SWAPS.get(type(operator))
        if other is None or not self._hit(node, f"{type(operator).__name__} → {other.__name__}"):
            return operator
        return other()

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        node.op = self._swapped(node, node.op)
        return node

    visit_BoolOp = visit_BinOp

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        node.ops[0] = self._swapped(node, node.ops[0])
        return node

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        dropped = isinstance(node.op, ast.Not | ast.USub) and self._hit(node, "a sign or a not dropped")
        return node.operand if dropped else node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        value = node.value
        if isinstance(value, bool):
            other: object = not value
        elif isinstance(value, int):
            other = value + 1
        elif isinstance(value, float):
            other = value * 1.25
        else:
            return node
        if other == value:
            return node
        return ast.copy_location(ast.Constant(other), node) if self._hit(node, f"{value} → {other}") else node

    def visit_Tuple(self, node: ast.Tuple) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.ctx, ast.Load):
            self._exchanged(node, node.elts)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        self._exchanged(node, node.args)
        return node

    def _exchanged(self, node: ast.expr, parts: list[ast.expr]) -> None:
        """The last two of some parts exchanged, where both tell something: two columns, half-breadth and height."""
        if len(parts) < 2 or any(isinstance(part, ast.Constant | ast.Starred | ast.Lambda) for part in parts[-2:]):
            return
        if ast.dump(parts[-1]) != ast.dump(parts[-2]) and self._hit(node, "the last two exchanged"):
            parts[-2:] = parts[:-3:-1]

    def visit_Name(self, node: ast.Name) -> ast.AST:
        if node.id in BARE and self._hit(node, f"{node.id} → {NAMES[node.id]}"):
            node.id = NAMES[node.id]
        return node

    def visit_Attribute(self, node: ast.Attribute) -> ast.AST:
        self.generic_visit(node)
        if node.attr in NAMES and self._hit(node, f"{node.attr} → {NAMES[node.attr]}"):
            node.attr = NAMES[node.attr]
        return node


def places(parts: list[str]) -> Iterator[Place]:
    """All places in rooms of the core, or in whole floors (or rooms of them): what is not a folder of the application is one of the
    core's."""
    for part in parts:
        where = SOURCE / part if (SOURCE / part).exists() else CORE / part
        for file in sorted(where.rglob("*.py") if where.is_dir() else [where]):
            changes = Changes()
            changes.visit(ast.parse(file.read_text()))
            for number, (line, what) in enumerate(changes.found):
                yield Place(file, number, line, what)


def changed(place: Place) -> str:
    """The file of a place with its change."""
    tree = Changes(place.number).visit(ast.parse(place.file.read_text()))
    return ast.unparse(ast.fix_missing_locations(tree))


class Changed(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Loads one module from memory, as it is with a change."""

    def __init__(self, place: Place) -> None:
        self._name = ".".join(place.file.with_suffix("").parts[1:])
        self._code = compile(changed(place), str(place.file), "exec")

    def find_spec(self, name: str, _path: Sequence[str] | None, _target: ModuleType | None = None) -> ModuleSpec | None:
        return importlib.util.spec_from_loader(name, self) if name == self._name else None

    def exec_module(self, module: ModuleType) -> None:
        exec(self._code, module.__dict__)


def make_map(tests: Sequence[str]) -> None:
    """Note which of some tests runs which line, and how long each takes."""
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-q",
        "-p",
        "no:cacheprovider",
        *(tests or ("tests",)),
        "--cov=src/hollow_keel",
        "--cov-context=test",
        "--cov-report=",
        "--durations=0",
        "--durations-min=0.05",
        "--forget",
    ]
    environment = {**os.environ, "PYTHONPATH": "src:.", "OPENBLAS_NUM_THREADS": "1", "QT_QPA_PLATFORM": "offscreen"}
    said = subprocess.run(command, env=environment, capture_output=True, text=True, check=False).stdout
    took = re.findall(r"^\s*([\d.]+)s call\s+(\S.*)$", said, re.MULTILINE)
    TOOK.write_text(json.dumps({name: float(seconds) for seconds, name in took}))
    print(said[-300:])


def tests_by_line() -> dict[str, dict[int, list[str]]]:
    """For each file, whole path, the tests that run each line."""
    from coverage import CoverageData

    data = CoverageData(".coverage")
    data.read()
    return {file: data.contexts_by_lineno(file) for file in data.measured_files()}


def tests_of(place: Place, lines: dict[int, list[str]], took: dict[str, float]) -> list[str]:
    """The quickest tests that run a line; of one that is run when its module is loaded, those that run anything there."""
    own = lines.get(place.line, [])
    if not any(own):
        own = [name for tests in lines.values() for name in tests]
    chosen, together = [], 0.0
    for name in sorted({t.split("|")[0] for t in own if t}, key=lambda t: took.get(t, UNTOLD_SECONDS)):
        together += took.get(name, UNTOLD_SECONDS)
        if together > MOST_SECONDS:
            break
        chosen.append(name)
    return chosen


def tried(place: Place, tests: Sequence[str]) -> int:
    """The number of a process that runs tests with a change, and ends as pytest does; by a signal, where it takes far too long."""
    import pytest

    number = os.fork()
    if number:
        return number
    signal.alarm(int(8 * MOST_SECONDS))
    silent = os.open(os.devnull, os.O_WRONLY)
    os.dup2(silent, 1)
    os.dup2(silent, 2)
    sys.meta_path.insert(0, Changed(place))
    os._exit(int(pytest.main(["-x", "-q", "--tb=no", "-p", "no:cacheprovider", "-p", "no:xdist", *tests])))


def told(place: Place, tests: Sequence[str], status: int) -> str:
    """What became of a change, by how its process ended: killed, lives, or not tried."""
    code = os.waitstatus_to_exitcode(status)
    found = "killed" if code < 0 or code in NOTICED else f"lives, by {len(tests)} tests" if code == 0 else "not tried"
    line = place.file.read_text().splitlines()[place.line - 1].strip()
    return f"{found}: {place.file}:{place.line}: {place.what}: {line}"


def try_all(chosen: Sequence[tuple[Place, list[str]]], at_once: int) -> None:
    """Try changes, so many at once, and say what becomes of each."""
    for name in AT_HAND:
        importlib.import_module(name)
    running: dict[int, tuple[Place, list[str]]] = {}
    killed = 0
    left = list(reversed(chosen))
    while left or running:
        while left and len(running) < at_once:
            own = left.pop()
            if own[1]:
                running[tried(*own)] = own
            else:
                print(told(*own, 0), flush=True)
        if running:
            number, status = os.wait()
            text = told(*running.pop(number), status)
            killed += text.startswith("killed")
            print(text, flush=True)
    print(f"{killed} of {len(chosen)} killed")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("what", choices=("map", "try"))
    parser.add_argument("parts", nargs="*", help="how many, then where; of a map: tests")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--at-once", type=int, default=2)
    asked = parser.parse_intermixed_args()
    if asked.what == "map":
        make_map(asked.parts)
        return
    by_file, took = tests_by_line(), json.loads(TOOK.read_text())
    count, *parts = asked.parts or ["60"]
    chosen = list(places(parts or ["planking", "molds", "setup", "hull"]))
    random.Random(asked.seed).shuffle(chosen)
    some = chosen[: int(count)]
    with_tests = [(own, tests_of(own, by_file.get(str(own.file.resolve()), {}), took)) for own in some]
    os.environ.update(QT_QPA_PLATFORM="offscreen", OPENBLAS_NUM_THREADS="1", PYTHONDONTWRITEBYTECODE="1")
    sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
    try_all(with_tests, asked.at_once)


if __name__ == "__main__":
    main()

"""Shared pieces of the tests; no test leaves a thread of ours behind."""

from __future__ import annotations

import gc
import os
import threading
from collections.abc import Iterator
from contextlib import nullcontext
from pathlib import Path

import pytest

from hollow_keel.ui.window.collector import collect_due
from tests.remembered import Remembered, remembering

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

DATA = Path(__file__).parent / "data"


LONG = (
    "test_attack",
    "test_stage_reads",
    "test_stock",
    "test_window",
    "test_planner",
    "test_geodesic_library",
    "test_restless",
    "test_veneers_page",
    "test_stock_page",
    "test_planking_page",
    "test_worker",
    "test_fairing",
)
"""Files that take longest, a core for half a minute or more: begun first, so that none is left for one core at the end."""


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--forget", action="store_true", help="each test works out everything itself: for who notes what runs what")
    parser.addoption("--all", action="store_true", help="more cases of what is tried anyway: for a release")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if not config.getoption("--all"):
        more = [item for item in items if item.get_closest_marker("more")]
        config.hook.pytest_deselected(items=more)
        items[:] = [item for item in items if not item.get_closest_marker("more")]
    items.sort(key=lambda item: LONG.index(item.path.stem) if item.path.stem in LONG else len(LONG))


@pytest.fixture
def data() -> Path:
    return DATA


@pytest.fixture(autouse=True, scope="session")
def collecting_here() -> None:
    """As in the running program, garbage is collected in the window's thread alone."""
    gc.disable()


@pytest.fixture(autouse=True, scope="session")
def memory(request: pytest.FixtureRequest) -> Iterator[Remembered]:
    with remembering() as memory:
        memory.on = not request.config.getoption("--forget")
        yield memory


@pytest.fixture(autouse=True)
def remembered(request: pytest.FixtureRequest, memory: Remembered) -> Iterator[None]:
    with memory.off() if request.node.get_closest_marker("fresh") else nullcontext():
        yield


@pytest.fixture(autouse=True)
def collected() -> Iterator[None]:
    yield
    collect_due()


@pytest.fixture(autouse=True)
def no_leaked_threads() -> Iterator[None]:
    before = set(threading.enumerate())
    yield
    ours = [t for t in threading.enumerate() if t not in before and t.name in ("planner", "probe-3d", "recovery")]
    assert not ours, f"threads left running: {ours}"


@pytest.fixture(autouse=True)
def own_settings(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))

"""Linnet as she comes, with her sheer and her log, where other tests of the window leave those out."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PySide6.QtWidgets import QFileDialog

from hollow_keel.core.change import change
from hollow_keel.core.job import StockSettings
from hollow_keel.core.stages import SHOWN
from hollow_keel.demo.jobs import linnet
from hollow_keel.ui.pages.registry import PAGES
from hollow_keel.ui.window.window import MainWindow


@pytest.fixture
def demo(window: MainWindow, qtbot: Any) -> MainWindow:
    window.session.start(linnet())
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    return window


def marks(window: MainWindow) -> list[str]:
    return [mark for mark, _ in window.order.statuses if mark != "hidden"]


def test_she_is_planned(demo: MainWindow) -> None:
    """Two molds are out, the planking has drifted apart at a third, and a batch of glue was cold."""
    assert marks(demo) == ["ready", "ready", "ready", "look", "look", "ready", "ready", "look"]


def test_strips_that_cannot_be_laid_leave_what_needs_them_to_do_again(demo: MainWindow, qtbot: Any) -> None:
    demo.go_to_page("planking")
    page: Any = demo.pages.of("planking")
    page.change("strip wide", "strips", width=5000.0)
    qtbot.waitUntil(lambda: "wider than the whole girth" in demo.state.problem, timeout=20_000)
    qtbot.waitUntil(lambda: demo.state.judged, timeout=20_000)
    assert marks(demo) == ["ready", "ready", "ready", "look", "look", "redo", "redo", "redo"]


def test_without_a_hull_all_the_rest_is_to_do_again(demo: MainWindow, qtbot: Any) -> None:
    rows = demo.session.job.offsets.rows
    demo.session.edit("out of order", change(demo.session.job, "offsets", rows=rows[::-1]))
    qtbot.waitUntil(lambda: bool(demo.state.problem), timeout=20_000)
    assert marks(demo) == ["look", *["redo"] * 7]
    for number, kind in enumerate(PAGES):
        if kind.stage in ("sheer", "log"):
            demo.go_to(number)
            assert demo.page.note.isVisible()


def test_her_sheer_is_among_what_is_written_for_the_shop(demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    paper = tmp_path / "paper"
    paper.mkdir()
    own = paper / "linnet"
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(paper))
    demo.command("for-shop")()
    assert sorted(path.name for path in own.iterdir()) == [
        "linnet-girth.pdf",
        "linnet-molds.pdf",
        "linnet-setup.pdf",
        "linnet-sheer.csv",
        "linnet-stock.pdf",
        "linnet-strips.csv",
        "linnet-ticks.pdf",
        "linnet-trim.pdf",
    ]
    assert all(path.read_bytes().startswith(b"%PDF") for path in own.glob("*.pdf"))
    assert "Wrote 8 files" in demo.message.text()
    demo.session.start(change(demo.session.job, "", stock=StockSettings()))
    for path in own.iterdir():
        path.unlink()
    demo.command("for-shop")()
    assert len(list(own.iterdir())) == 7

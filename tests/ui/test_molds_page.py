"""What is decided about the molds in the window, what it draws, and what was printed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QFileDialog

from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.settings.mold_choices import MoldEdgeKind
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.drawing.model import Layer
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import settle


def test_what_is_decided_about_the_molds_is_drawn(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("molds")
    window.choose_mold(6)  # broad enough for legs at their own spread
    page: Any = window.pages.of("molds")
    for path, value in (
        ("molds.edge", MoldEdgeKind.BEVELLED),
        ("molds.spall_above", 4.75 * 25.4),
        ("inside.stringers", (0.35, 0.65)),
        ("molds.mark_planks", True),
        ("setup.strongback", Strongback.TABLE),
        ("setup.leg_width", 80.0),
    ):
        page.keep_setting(path, value)
    settle(qtbot, window)
    drawn = page.view.drawing
    assert {Layer.OTHER_FACE, Layer.SPALL, Layer.TICK, Layer.SETUP_LINE, Layer.NEIGHBOUR} <= {s.layer for s in drawn.strokes}
    decided = {label.decides: label.value for label in drawn.labels if label.decides}
    assert decided["molds.spall_above"] == "120.65", "given so, and shown so"
    assert decided["setup.leg_width"] == "80.0"
    assert {"molds.spall_above", "setup.leg_spread", "waterline"} <= {ring.decides for ring in drawn.rings}
    assert "bevelled" in window.card.card.why


def test_printed_patterns_are_remembered_and_a_change_asks_for_new_ones(
    window: MainWindow, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    target = tmp_path / "molds.dxf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    window.exporter.export(export_named("molds-dxf"))
    settle(qtbot, window)
    assert target.read_bytes().startswith(b"  0")
    assert len(window.session.job.printed) == 12
    assert window.session.undo_label == "patterns printed"
    window.session.edit("skin", change(window.session.job, "molds", skin=9.0))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: window.order.statuses[2][0] == "redo", timeout=30_000)
    window.go_to_page("molds")
    assert "changed since printed" in window.page.note.text()
    window.exporter.export(export_named("molds-dxf"))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: window.order.statuses[2][0] == "ready", timeout=30_000)


def test_texts_that_would_cover_each_other_come_back_nearer_by(window: MainWindow, qtbot: Any) -> None:
    window.session.edit("marks", change(window.session.job, "molds", mark_waterlines=20.0, mark_buttocks=20.0))
    window.go_to_page("molds")
    settle(qtbot, window)
    page: Any = window.pages.of("molds")
    page.view.fit()
    shown = sum(item.isVisible() for item in page.view.label_items)
    assert 5 < shown < 0.8 * len(page.view.label_items)
    page.view.zoom(12.0, QPointF(page.view.viewport().rect().center()))
    assert sum(item.isVisible() for item in page.view.label_items) > 1.2 * shown
    kept = [item for item in page.view.label_items if item.label.strong or item.label.decides]
    assert kept
    assert all(item.isVisible() for item in kept)

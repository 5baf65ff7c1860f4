"""What is chosen about the molds in the window: the dialog, what it draws, and what was printed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QCheckBox, QComboBox, QFileDialog, QLineEdit

from hollow_keel.app.exports import export_named
from hollow_keel.core.change import change
from hollow_keel.core.settings.mold_choices import MoldEdgeKind
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.core.units import LengthStyle
from hollow_keel.drawing.model import Layer
from hollow_keel.ui.mold_dialogs import MoldDialogs
from hollow_keel.ui.mold_settings import MOLD_SETTINGS
from hollow_keel.ui.settings_dialog import SettingsDialog
from hollow_keel.ui.window import MainWindow
from tests.ui.conftest import settle


def fill(dialog: SettingsDialog, **texts: Any) -> None:
    for name, value in texts.items():
        field = dialog.fields[name.replace("__", ".")]
        if isinstance(field, QComboBox):
            field.setCurrentIndex(field.findData(value))
        elif isinstance(field, QCheckBox):
            field.setChecked(value)
        else:
            assert isinstance(field, QLineEdit)
            field.setText(value)


def test_everything_about_the_molds_is_one_step(
    window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.go_to(2)

    def answer(dialog: SettingsDialog) -> bool:
        fill(
            dialog, molds__edge=MoldEdgeKind.BEVELLED, molds__spall_above="4 3/4 in", molds__stringers="35, 65 %",
            molds__mark_planks=True, setup__strongback=Strongback.TABLE, setup__leg_width="80",
        )  # fmt: skip
        dialog.take()
        return bool(dialog.result())

    monkeypatch.setattr(SettingsDialog, "exec", answer)
    before = window.session.job
    window.page.command.emit("mold-settings")
    settle(qtbot, window)
    molds, setup = window.session.job.molds, window.session.job.setup
    assert molds.edge is MoldEdgeKind.BEVELLED
    assert molds.spall_above == pytest.approx(4.75 * 25.4)
    assert molds.stringers == (0.35, 0.65)
    assert (setup.strongback, setup.leg_width) == (Strongback.TABLE, 80.0)
    page: Any = window.pages[2]
    layers = {s.layer for s in page.view.drawing.strokes}
    assert {Layer.OTHER_FACE, Layer.SPALL, Layer.TICK, Layer.SETUP_LINE, Layer.NEIGHBOUR} <= layers
    assert "bevelled" in window.card.card.why
    window.session.undo()
    assert window.session.job == before


@pytest.mark.parametrize(
    ("texts", "said"),
    [
        ({"molds__spall_above": "abc"}, "Cross spall above the waterline"),
        ({"molds__stringers": "35, x"}, "not a share in per cent"),
        ({"molds__stringers": "150"}, "less than 1"),
        ({"setup__leg_width": "0"}, "greater than 0"),
    ],
)
def test_a_wrong_value_is_said_and_the_dialog_stays(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, texts: dict[str, str], said: str
) -> None:
    seen: list[str] = []

    def answer(dialog: SettingsDialog) -> bool:
        fill(dialog, **texts)
        dialog.take()
        seen.append(dialog.fault.text())
        assert dialog.isVisible() or not dialog.result()
        return False

    monkeypatch.setattr(SettingsDialog, "exec", answer)
    before = window.session.job
    MoldDialogs(window).settings()
    assert said in seen[0]
    assert window.session.job == before


def test_what_was_not_typed_is_not_rounded(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    window.session.edit("odd", change(window.session.job, "molds", stringer_width=31.37))

    def answer(dialog: SettingsDialog) -> bool:
        dialog.take()
        return True

    monkeypatch.setattr(SettingsDialog, "exec", answer)
    MoldDialogs(window).settings()
    assert window.session.job.molds.stringer_width == 31.37


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
    window.go_to(2)
    assert "changed since printed" in window.page.note.text()
    window.exporter.export(export_named("molds-dxf"))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: window.order.statuses[2][0] == "ready", timeout=30_000)


def test_texts_that_would_cover_each_other_come_back_nearer_by(window: MainWindow, qtbot: Any) -> None:
    window.session.edit(
        "marks", change(window.session.job, "molds", mark_waterlines=20.0, mark_buttocks=20.0)
    )
    window.go_to(2)
    settle(qtbot, window)
    page: Any = window.pages[2]
    page.view.fit()
    shown = sum(item.isVisible() for item in page.view._labels)
    assert 5 < shown < 0.7 * len(page.view._labels)
    page.view.zoom(12.0, QPointF(page.view.viewport().rect().center()))
    assert sum(item.isVisible() for item in page.view._labels) > 1.5 * shown
    titles = [item for item in page.view._labels if item.importance < 0]
    assert all(item.isVisible() for item in titles)


def test_settings_of_molds_fit_a_small_screen_and_show_what_means_something(window: MainWindow) -> None:
    """1280 by 720 less the window's own frame; no width of a beam while the molds stand on rails."""
    dialog = SettingsDialog("Molds", MOLD_SETTINGS, window.session.job, LengthStyle(), window)
    dialog.show()
    assert dialog.width() <= 1240
    assert dialog.height() <= 680
    dialog.list.setCurrentRow(1)
    beam, strongback = dialog.fields["setup.beam_width"], dialog.fields["setup.strongback"]
    assert isinstance(strongback, QComboBox)
    strongback.setCurrentIndex(strongback.findData(Strongback.BEAM))
    assert beam.isVisible()
    strongback.setCurrentIndex(strongback.findData(Strongback.RAILS))
    assert not beam.isVisible()
    width = dialog.fields["stem.siding"]
    assert isinstance(width, QLineEdit)
    width.setText("broad")
    dialog.take()
    assert dialog.result() == 0
    assert "broad" in dialog.fault.text()
    assert width.isVisible(), "the group of what cannot be is opened"

"""The fairing page, driven as a builder drives it."""

from __future__ import annotations

from typing import Any

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from hollow_keel.core.change import change
from hollow_keel.core.fairing.stages import MOVED
from hollow_keel.ui.pages.fairing.page import FairingPage
from hollow_keel.ui.window.window import MainWindow
from tests.slips import with_offset
from tests.ui.conftest import answering, settle

FAIRING = "fairing"
SLIPS = ((37, 25.0), (92, 10.0), (56, -10.0))


def judged(qtbot: Any, window: MainWindow) -> None:
    settle(qtbot, window)
    qtbot.waitUntil(lambda: window.state.judged, timeout=30_000)


@pytest.fixture
def page(window: MainWindow, qtbot: Any) -> FairingPage:
    window.go_to_page(FAIRING)
    judged(qtbot, window)
    found = window.pages.of(FAIRING)
    assert isinstance(found, FairingPage)
    return found


def plant(window: MainWindow, qtbot: Any) -> dict[int, float]:
    """Three slips in the demo; returns what stood there before."""
    table = window.session.job.offsets
    right = {row: table.rows[row].half_breadth for row, _ in SLIPS}
    for row, by in SLIPS:
        table = with_offset(table, row, "half_breadth", right[row] + by)
    window.session.edit("slips", change(window.session.job, "", offsets=table))
    judged(qtbot, window)
    return right


def test_a_fair_hull_says_so(window: MainWindow, page: FairingPage) -> None:
    assert "none of 140 offsets stands out" in page.result.text()
    assert page.doubts.model_of_rows.rowCount() == 0
    assert not page.mend.isEnabled()
    assert page.measures.model_of_rows.rowCount() == len(window.state.shape.lines.stations) + 3
    assert window.state.results.fairness is window.state.fairness
    assert window.card.card.heading == "Lines"
    assert float(window.card.card.big) == pytest.approx(window.state.fairness.hydro.volume * 1025, abs=1)


def test_slips_are_put_right_from_the_list_alone(window: MainWindow, page: FairingPage, qtbot: Any) -> None:
    right = plant(window, qtbot)
    assert "of 140 offsets stand out" in page.result.text()
    assert {d.row for d in window.state.fairness.doubts[:3]} == set(right)
    seen = []
    for _ in SLIPS:
        doubt = page.current_doubt()
        seen.append(doubt.row)
        assert page._batten is not None
        assert doubt.row in page._batten.line.rows
        assert window.card.card.heading == f"Row {doubt.row + 1}"
        QTest.mouseClick(page.mend, Qt.MouseButton.LeftButton)
        judged(qtbot, window)
    assert set(seen) == set(right)
    assert "none of 140" in page.result.text()
    for row, value in right.items():
        assert window.session.job.offsets.rows[row].half_breadth == pytest.approx(value, abs=2.5)
    for _ in SLIPS:
        window.session.undo()
    judged(qtbot, window)
    assert "of 140 offsets stand out" in page.result.text()


def test_a_duck_is_dragged_accepted_and_undone(window: MainWindow, page: FairingPage, qtbot: Any) -> None:
    before = window.session.job
    view = page.batten_view
    page.choose_line("sheer:height")
    line = page._batten.line
    at = view.duck_place(6).toPoint()
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=at)
    QTest.mouseMove(view, at - QPoint(0, 15))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at - QPoint(0, 15))
    assert page._batten.values[6] > line.values[6] + 5
    assert len(page._batten.sprung.turns) >= 2
    assert page.accept.isEnabled()
    wanted = page._batten.moves(0.5)
    QTest.mouseClick(page.accept, Qt.MouseButton.LeftButton)
    after = window.session.job.offsets.rows
    for row, by in zip(line.rows, wanted, strict=True):
        assert after[row].height == pytest.approx(before.offsets.rows[row].height + by)
    assert window.session.undo_label == "batten along the sheer, in profile"
    window.session.undo()
    assert window.session.job == before
    judged(qtbot, window)
    assert not page.accept.isEnabled()


def test_the_keyboard_alone_springs_a_batten(page: FairingPage) -> None:
    view = page.batten_view
    page.choose_line("keel:height")
    view.setFocus()
    QTest.keyClick(view, Qt.Key.Key_Right)
    QTest.keyClick(view, Qt.Key.Key_Up)
    assert page._batten.moves(0.5)[1] == pytest.approx(0.5)
    QTest.keyClick(view, Qt.Key.Key_Space)
    assert not page._batten.held[1]
    QTest.mouseClick(page.reset, Qt.MouseButton.LeftButton)
    assert not page._batten.changed
    view.grab()


def test_a_batten_that_gives_lifts_off_its_ducks(page: FairingPage) -> None:
    page.choose_line("line 3 from the keel:half_breadth")
    page.give.setFocus()
    QTest.keyClicks(page.give, "3mm")
    QTest.keyClick(page.give, Qt.Key.Key_Return)
    off = page._batten.sprung.on_ducks - page._batten.line.values
    assert float((off**2).mean() ** 0.5) == pytest.approx(3.0, abs=0.05)
    assert page.accept.isEnabled()
    QTest.mouseClick(page.reset, Qt.MouseButton.LeftButton)
    assert page._batten.give == 0
    assert page.give.text() == ""


def test_easing_is_one_step_with_a_table_of_what_moved(
    window: MainWindow, page: FairingPage, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    plant(window, qtbot)
    table = window.session.job.offsets
    answering(monkeypatch, {"No offset moves the skin by more than": "1/8in"})
    page.ask_ease()
    qtbot.waitUntil(lambda: window.state.is_known(MOVED), timeout=30_000)
    rows = page.moved.model_of_rows.rows
    assert rows
    assert all(0 < m.by < 12 for m in rows)
    for move in rows:
        assert window.session.job.offsets.rows[move.row] == move.after
        assert table.rows[move.row] == move.before
    assert window.session.undo_label == "ease the whole hull"
    window.session.undo()
    assert window.session.job.offsets == table
    said = answering(monkeypatch, {"No offset moves the skin by more than": "wide"})
    page.ask_ease()
    assert "wide" in said[0]


def test_a_station_picked_in_a_drawing_takes_the_batten(page: FairingPage) -> None:
    page._picked("station:2500.0")
    assert page.body_view._marked == "station:2500.0"
    assert page._batten.line.key == "section:2500.0"
    assert page._batten.line.across


def test_an_empty_job_shows_an_empty_page(window: MainWindow, page: FairingPage) -> None:
    window.files.new_job()
    window.go_to_page(FAIRING)
    assert page.result.text() == "no offsets yet"
    page.take_fair()
    page.ease(3.0)
    assert "drawn first" in window.message.text()
    page.batten_view.grab()

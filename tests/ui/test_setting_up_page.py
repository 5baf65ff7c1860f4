"""The set-up in the window: readings typed, what to move, the sighting and its practice, bench mode, rounds."""

from __future__ import annotations

from typing import Any

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QInputDialog

from hollow_keel.core.change import change
from hollow_keel.core.setup.instruments import Instrument
from hollow_keel.drawing.model import Layer
from hollow_keel.ui.bench.mode import BenchMode
from hollow_keel.ui.bench.setup import mark_steps, reading_steps, take_reading
from hollow_keel.ui.pages.setup.dialogs import SetupDialogs
from hollow_keel.ui.pages.setup.page import SIGHTING
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import settle


@pytest.fixture
def page(window: MainWindow) -> Any:
    window.go_to_page("setup")
    window.page.open_drawer(True)
    return window.pages.of("setup")


def test_the_demo_s_two_molds_are_named_with_what_to_do(window: MainWindow, page: Any) -> None:
    page.tabs.setCurrentIndex(2)
    moves = page.as_built.judgement.moves
    assert [m.mold for m in moves] == ["4", "9"]
    shown = [page.as_built.moves.model().index(0, c).data() for c in range(6)]
    assert shown[0] == "4"
    assert "down" in shown[3]
    assert "bump" in shown[4]
    assert "smooth sweep" in page.as_built.datum.text()
    drawn = page.as_built.errors_view.drawing
    assert any("4: 6" in label.text for label in drawing_labels(drawn))
    window.choose_mold(3)
    assert window.card.card.heading.startswith("Mold 4 as it stands")
    assert window.card.card.big in ("6.0", "6.1", "6.2")


def drawing_labels(drawing: Any) -> Any:
    return drawing.labels


def test_a_reading_is_typed_and_judged_at_once(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.tabs.setCurrentIndex(1)
    table = page.as_built.table
    table.setFocus()
    table.setCurrentIndex(page.as_built.model.index(6, 5))
    QTest.keyClicks(table, "8")
    QTest.keyClicks(QApplication.focusWidget(), "1.5 mm")
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    QApplication.processEvents()
    assert window.session.job.surveys[-1].of("7").height_port == 81.5
    assert window.session.undo_label.startswith("reading of mold 7")
    settle(qtbot, window)
    assert any(m.mold == "7" for m in page.as_built.judgement.moves)
    window.session.undo()
    assert window.session.job.surveys[-1].of("7").height_port != 81.5
    assert page.as_built.model.setData(page.as_built.model.index(2, 5), "abc")
    assert page.as_built.model.faults
    assert page.as_built.model.index(2, 1).flags() & Qt.ItemFlag.ItemIsEditable == Qt.ItemFlag.NoItemFlags


def test_readings_are_pasted_and_begun_from_nothing(window: MainWindow, qtbot: Any, page: Any) -> None:
    window.session.edit("none", change(window.session.job, "", surveys=()))
    settle(qtbot, window)
    page.tabs.setCurrentIndex(1)
    model = page.as_built.model
    assert model.index(0, 5).data() == ""
    assert page.as_built.card().aside == "not measured"
    assert model.paste(0, 5, "75.0\t75.5\n74.5\t75.0") == ""
    survey = window.session.job.surveys[-1]
    assert (survey.of("1").height_port, survey.of("2").height_starboard) == (75.0, 75.0)
    assert "beside the plan" in model.paste(0, 4, "1\t2")
    settle(qtbot, window)
    assert page.as_built.judgement.rows


def test_the_batten_is_laid_at_another_height_and_on_the_other_side(window: MainWindow, page: Any) -> None:
    page.tabs.setCurrentIndex(2)
    first = page.as_built.batten.errors.copy()
    page.as_built.height.entered.emit(350.0)
    assert page.as_built.batten.molds
    assert not (page.as_built.batten.errors == first).all()
    page.as_built.side.setCurrentIndex(1)
    page.as_built.side.activated.emit(1)
    nine = page.as_built.batten.molds.index("9")
    assert page.as_built.batten.errors[nine] > 3  # 5 mm to port: proud there
    page.as_built.height.entered.emit(9000.0)
    assert "no mold comes to height" in page.as_built.batten_view.drawing.title
    window.choose_strip(12)
    page.as_built.lie.setCurrentIndex(1)
    page.as_built.lie.activated.emit(1)
    assert page.as_built.lie.currentText() == "along strip 12"
    assert len(page.as_built.batten.molds) == 12
    assert page.as_built.height.isHidden()


def test_looking_along_the_molds_and_finding_a_hidden_error(window: MainWindow, page: Any) -> None:
    page.tabs.setCurrentIndex(SIGHTING)
    sighting = page.sighting
    assert {s.layer for s in sighting.view.drawing.strokes} >= {Layer.WATERLINE, Layer.CENTRELINE}
    sighting.answer()
    assert "Nothing is hidden" in sighting.verdict.text()
    sighting.start(seed=4)
    puzzle = sighting.puzzle
    sighting.view.picked.emit(f"mold:{puzzle.mold}")
    assert sighting.which.currentData() == puzzle.mold
    sighting.way.setCurrentIndex(sighting.way.findData(puzzle.way))
    sighting.answer()
    assert sighting.verdict.text().startswith("Right")
    assert sighting.score.text() == "2 of 2 points"
    sighting.stop()
    sighting.eye_up.entered.emit(50.0)
    sighting.eye_back.entered.emit(3000.0)
    assert all(s.points[:, 1].max() < 400 for s in sighting.view.drawing.strokes)


def test_bench_mode_steps_by_keys_wheel_and_pedal(window: MainWindow, qtbot: Any) -> None:
    shape = window.state.shape
    assert shape is not None
    bench = BenchMode(mark_steps(shape, window.state.style), window.state.style.unit, None, window)
    qtbot.addWidget(bench)
    bench.show()
    assert bench.number.text() == "500.0"
    for key, number in (
        (Qt.Key.Key_Space, "900.0"),
        (Qt.Key.Key_Return, "1\u202f300.0"),
        (Qt.Key.Key_PageDown, "1\u202f700.0"),
        (Qt.Key.Key_PageUp, "1\u202f300.0"),
    ):
        QTest.keyClick(bench, key)
        assert bench.number.text() == number
    wheel = QWheelEvent(
        QPointF(5, 5),
        QPointF(5, 5),
        QPoint(),
        QPoint(0, -120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    bench.wheelEvent(wheel)
    assert bench.at == 3
    for _ in range(20):
        QTest.keyClick(bench, Qt.Key.Key_Space)
    assert bench.at == 11
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.isVisible()


def measuring(window: MainWindow, qtbot: Any) -> BenchMode:
    """Bench mode asking for every reading of a survey not yet begun."""
    shape = window.state.shape
    assert shape is not None
    window.session.edit("none", change(window.session.job, "", surveys=()))
    dialogs = SetupDialogs(window)
    bench = BenchMode(
        reading_steps(shape, window.state.style),
        window.state.style.unit,
        take_reading(shape, dialogs._survey, dialogs._put),
        window,
    )
    qtbot.addWidget(bench)
    bench.show()
    return bench


def test_an_instrument_types_its_readings_into_bench_mode(window: MainWindow, qtbot: Any) -> None:
    bench = measuring(window, qtbot)
    level = Instrument(seed=2, inches=True, noise=0.0, step=0.01)
    for k in range(12):
        QTest.keyClicks(bench.entry, level.typed(75.0 + (7.0 if k == 5 else 0.0)).strip())
        QTest.keyClick(bench.entry, Qt.Key.Key_Return)
        if k == 5:
            assert "+7.0 mm" in bench.verdict.text()
            assert bench.verdict.text().startswith("▲")
    survey = window.session.job.surveys[-1]
    assert survey.of("6").height_port == pytest.approx(82.0, abs=0.05)
    assert survey.of("12").height_port == pytest.approx(75.0, abs=0.05)
    assert bench.steps[bench.at].heading == "Mold 1: waterline, starboard"
    QTest.keyClicks(bench.entry, "seventy")
    QTest.keyClick(bench.entry, Qt.Key.Key_Return)
    assert "cannot be read" in bench.verdict.text()
    assert bench.entry.text() == "seventy"


def test_bench_mode_opens_from_the_menu(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    opened: list[int] = []

    def look(dialog: BenchMode) -> int:
        opened.append(len(dialog.steps))
        dialog.reject()
        return 0

    monkeypatch.setattr(BenchMode, "exec", look)
    window.menus.actions["bench-marks"].trigger()
    window.menus.actions["bench-readings"].trigger()
    assert opened == [12, 60]


def test_a_new_round_keeps_the_last_one_and_what_was_moved(
    window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch, page: Any
) -> None:
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("4 down by 6, 9 over by 5", True))
    window.menus.actions["new-survey"].trigger()
    settle(qtbot, window)
    first, second = window.session.job.surveys
    assert first.moved == "4 down by 6, 9 over by 5"
    assert second.readings == ()
    page.tabs.setCurrentIndex(2)
    assert "Earlier rounds" in page.as_built.datum.text()
    assert "4 down by 6" in page.as_built.datum.text()
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("", False))
    window.menus.actions["new-survey"].trigger()
    assert len(window.session.job.surveys) == 2


def test_a_page_without_readings_says_what_to_do(window: MainWindow, qtbot: Any, page: Any) -> None:
    window.session.edit("none", change(window.session.job, "", surveys=()))
    settle(qtbot, window)
    page.tabs.setCurrentIndex(2)
    assert "Ctrl+Shift+B" in page.as_built.datum.text()
    assert page.as_built.batten_view.drawing.strokes == ()
    assert "nothing is measured" in page.as_built.batten_view.drawing.title


def test_a_simulated_level_on_a_line_fills_the_survey(window: MainWindow, qtbot: Any) -> None:
    bench = measuring(window, qtbot)
    source = bench.instrument
    source.choose("simulated:level")
    assert source.choice.currentData() == "simulated:level"
    for k in range(5):
        source.measure.click()
        qtbot.waitUntil(lambda k=k: bench.at == k + 1, timeout=10_000)
    assert window.session.job.surveys[-1].of("5").height_port == pytest.approx(75.0, abs=2.0)
    source.choose("simulated:laser that often fails")
    bench.hear("")
    assert "measure this one again" in bench.verdict.text()
    assert bench.at == 5
    source.choose("port:/dev/no-such-port")
    assert "plugged in" in bench.verdict.text()
    assert source.choice.currentData() == "typed"
    bench.hear("90.0 mm")
    assert "+15.0 mm" in bench.verdict.text()
    bench.reject()


def test_what_an_instrument_sends_after_the_last_reading_is_not_taken_for_it(window: MainWindow, qtbot: Any) -> None:
    bench = measuring(window, qtbot)
    bench.step(len(bench.steps))
    last = bench.at
    bench.hear("75.0 mm")
    assert bench.at == last
    taken = window.session.job.surveys[-1]
    bench.hear("11.0 mm")
    assert "all are read" in bench.verdict.text()
    assert window.session.job.surveys[-1] == taken
    bench.step(-1)
    bench.step(1)
    bench.hear("76.0 mm")
    assert window.session.job.surveys[-1] != taken, "who goes back to it reads it again"
    bench.reject()


def test_only_the_sizes_of_the_chosen_strongback_are_asked(window: MainWindow, qtbot: Any, page: Any) -> None:
    for box in page.decisions.groups:
        box.fold.setChecked(True)
    seen = lambda *names: [page.decisions.rows[f"setup.{n}"].isVisible() for n in names]  # noqa: E731
    beam, legs, rails = ("beam_width", "beam_height", "wedges"), ("leg_spread", "leg_width"), ("rail_spread",)
    assert all(seen(*beam))
    window.session.edit("table", change(window.session.job, "setup", strongback="rails"))
    settle(qtbot, window)
    assert not any(seen(*beam))
    assert all(seen(*legs, *rails))
    headings = [page.table.model().headerData(c, Qt.Orientation.Horizontal) for c in range(10)]
    assert "Leg" in headings
    assert any("leg" in name for name, _ in page.card().rows)
    window.session.edit("upright", change(window.session.job, "setup", upright=True))
    settle(qtbot, window)
    assert not any(seen(*legs))
    assert any("post" in name for name, _ in page.card().rows)


def test_results_that_arrive_leave_what_is_being_typed(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.tabs.setCurrentIndex(1)
    table = page.as_built.table
    table.setFocus()
    table.setCurrentIndex(page.as_built.model.index(4, 5))
    QTest.keyClicks(table, "8")
    window.session.edit("name", change(window.session.job, "", name="Linnet II"))
    settle(qtbot, window)
    page.refresh()
    assert QApplication.focusWidget().text() == "8"


def test_what_is_being_typed_is_taken_before_the_window_closes(
    window: MainWindow, qtbot: Any, page: Any, warnings: list[str]
) -> None:
    page.tabs.setCurrentIndex(1)
    table = page.as_built.table
    table.setFocus()
    table.setCurrentIndex(page.as_built.model.index(2, 5))
    QTest.keyClicks(table, "8")
    QTest.keyClicks(QApplication.focusWidget(), "8")
    window.close()
    assert window.session.job.surveys[-1].of("3").height_port == 88.0
    assert any("Save the changes" in text for text in warnings)

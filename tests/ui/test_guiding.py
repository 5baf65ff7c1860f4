"""What has to be done next, the tour, the ways in, dialogs with a picture, bench mode's pieces."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QFileDialog

from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.planking.stages import TICKS
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.core.settings.timber import StockSettings
from hollow_keel.demo.jobs import sedge
from hollow_keel.drawing.bench import HERE, mark_picture, reading_picture, stick_picture, tick_picture
from hollow_keel.ui.bench.mode import BenchMode
from hollow_keel.ui.bench.planking import tick_steps
from hollow_keel.ui.decide.ask import AskDialog
from hollow_keel.ui.window.next_step import next_step
from hollow_keel.ui.window.tour import STOPS, Tour
from hollow_keel.ui.window.window import MainWindow
from tests.files import styles
from tests.ui.conftest import settle


def test_what_comes_next_is_said_in_words(window: MainWindow, qtbot: Any) -> None:
    qtbot.waitUntil(lambda: window.state.judged, timeout=30_000)
    step = next_step(window.state)
    assert (step.page, step.what) == ("setup", "Look at mold 4, and 1 more")
    window.order.next_chosen.emit(step.page)
    assert window.page is window.pages.of("setup")
    fine = change(window.session.job, "", surveys=(), planked=None)
    fine = change(fine, "strips", thickness=4.0)  # thin enough to go round the stem
    window.edit("no survey", fine)
    qtbot.waitUntil(lambda: window.state.judged and window.state.stocked and not window.state.stale, timeout=60_000)
    assert next_step(window.state).what.startswith("Print all for the shop")
    window.session.start(Job())
    assert next_step(window.state).what == "Give the offsets"
    assert window.order.next_step == next_step(window.state)


def test_the_tour_goes_through_the_builder_s_own_job(window: MainWindow) -> None:
    job = window.session.job
    tour = window.command("first-steps")()
    assert isinstance(tour, Tour)
    for k, stop in enumerate(STOPS):
        assert tour.at == k
        assert tour.heading.text() == stop.heading
        assert tour.rect().contains(tour.box.geometry()), "all of it is seen"
        assert not tour._bright.isEmpty()
        QTest.keyClick(tour, Qt.Key.Key_Return)
    assert tour.isHidden(), "past the last it is over"
    assert window.session.job == job
    again = window.command("first-steps")()
    assert isinstance(again, Tour)
    QTest.keyClick(again, Qt.Key.Key_Right)
    QTest.keyClick(again, Qt.Key.Key_Left)
    assert again.at == 0
    QTest.keyClick(again, Qt.Key.Key_Escape)
    assert again.isHidden()


def test_a_blank_page_shows_every_way_in(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    window.session.start(Job())
    page: Any = window.pages.of("offsets")
    window.go_to_page("offsets")
    ways = page.findChildren(type(page._stack.widget(1)))[0].ways
    asked: list[str] = []
    page.command.disconnect()
    page.command.connect(asked.append)
    for command, way in ways.items():
        assert way.accessibleName()
        way.click()
        assert asked[-1] == command
        assert command in window.menus.commands
    assert page.drawer_button.isHidden()


@pytest.mark.parametrize("command", ["scale", "baseline", "restation", "foil", "add-line", "add-station"])
def test_a_dialog_about_shape_shows_what_it_does(window: MainWindow, command: str, monkeypatch: pytest.MonkeyPatch) -> None:
    seen: list[AskDialog] = []

    def look(dialog: AskDialog) -> int:
        seen.append(dialog)
        assert dialog.width() <= 1280
        assert dialog.height() <= 720
        assert dialog.view.drawing.strokes
        return 0

    monkeypatch.setattr(AskDialog, "exec", look)
    before = window.session.job
    window.command(command)()
    assert len(seen) == 1
    assert window.session.job == before


def test_every_dialog_fits_a_small_screen(window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    sizes: dict[str, tuple[int, int]] = {}

    def look(dialog: QDialog) -> int:
        dialog.show()
        QApplication.processEvents()
        sizes[dialog.windowTitle()] = (dialog.width(), dialog.height())
        dialog.reject()
        return 0

    monkeypatch.setattr(QDialog, "exec", look)
    for command in ("stations", "master-heights", "sheets", "compare", "keys", "cautions", "proof-bar", "find", "type-table"):
        window.command(command)()
    assert len(sizes) >= 8
    assert {name: size for name, size in sizes.items() if size[0] > 1280 or size[1] > 720} == {}


def test_the_piece_is_shown_as_it_stands_with_the_place_marked(window: MainWindow, qtbot: Any) -> None:
    """Upside down: a lower edge farther from the sheer stands higher. The waterline is as far above as the plan says."""
    qtbot.waitUntil(lambda: window.state.is_known(TICKS), timeout=30_000)
    shape, mold = window.state.shape, window.state.mold
    assert shape is not None
    assert mold is not None
    rows = window.state.known.get(TICKS)[mold.name]
    heights = []
    for number in (1, 20, 40):
        drawn = tick_picture(shape, mold, rows, number)
        (at,) = (label.at for label in drawn.labels if label.text == "●")
        heights.append(at[1])
        edge = drawn.strokes[0].points
        assert np.min(np.hypot(*(edge - at).T)) < 15.0, "it lies on the mold's edge"
    assert heights == sorted(heights)
    drawn = reading_picture(shape, mold, "height_port")
    (at,) = (label.at for label in drawn.labels if label.text == "●")
    assert at[1] == pytest.approx(75.0)
    assert at[0] < 0, "port is at the left for one who looks aft at a hull upside down"
    assert any(s.key == HERE for s in mark_picture(shape, "5").strokes)
    boxes = [s for s in stick_picture([100.0, 300.0], 1).strokes if s.key == HERE]
    assert (boxes[0].points[:, 0].min(), boxes[0].points[:, 0].max()) == (100.0, 400.0)


def test_numbers_stay_where_they_are_and_a_tap_goes_on(window: MainWindow, qtbot: Any) -> None:
    qtbot.waitUntil(lambda: window.state.is_known(TICKS), timeout=30_000)
    state = window.state
    assert state.shape is not None
    assert state.mold is not None
    steps = tick_steps(state.shape, state.mold, state.known.get(TICKS)[state.mold.name], state.style)
    bench = BenchMode(steps, state.style.unit, lambda *_: ("fine", True), window)
    qtbot.addWidget(bench)
    bench.resize(1280, 800)
    bench.show()
    QApplication.processEvents()
    places = set()
    for _ in range(4):
        places.add((bench.number.pos().x(), bench.number.pos().y(), bench.number.font().pixelSize()))
        bench._say("a long judgement " * 4, good=True)
        QTest.mouseClick(bench, Qt.MouseButton.LeftButton, pos=bench.rect().center())
        QApplication.processEvents()
    assert len(places) == 1
    assert bench.at == 4
    assert bench.number.font().pixelSize() >= 100, "readable from three metres"
    assert bench.beside.text().startswith("before: Mold")
    QTest.mouseClick(bench, Qt.MouseButton.LeftButton, pos=bench.rect().topLeft() + bench.rect().center() * 0.05)
    assert bench.at == 3
    bench.reject()


def test_how_far_the_planking_is_can_be_dragged(window: MainWindow, qtbot: Any) -> None:
    from tests.ui.conftest import drag_ring

    window.go_to_page("planking")
    settle(qtbot, window)
    page: Any = window.page
    ring = next(r for r in page.map.drawing.rings if r.decides == "planked.strips")
    assert ring.value == 20
    drag_ring(page.map, ring, 0.0, -3 * 14.0)
    planked = window.session.job.planked
    assert planked is not None
    assert planked.strips in (22, 23, 24)  # three strips of 14 mm, to the nearest pixel
    assert planked.days[-1].strips == planked.strips, "with the day it was so"
    window.session.undo()
    assert window.session.job.planked.strips == 20


def test_everything_for_the_shop_is_written_at_once(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, qtbot: Any
) -> None:
    paper = tmp_path / "paper"
    paper.mkdir()
    own = paper / "linnet"
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(paper))
    window.command("for-shop")()
    names = sorted(path.name for path in own.iterdir())
    assert names == [
        "linnet-girth.pdf",
        "linnet-molds.pdf",
        "linnet-setup.pdf",
        "linnet-stock.pdf",
        "linnet-strips.csv",
        "linnet-ticks.pdf",
    ]
    assert all(path.read_bytes().startswith(b"%PDF") for path in own.glob("*.pdf"))
    assert "Wrote 6 files" in window.message.text()
    assert window.session.job.printed, "that the patterns are printed is remembered"
    window.session.start(change(window.session.job, "", stock=StockSettings()))
    for path in own.iterdir():
        path.unlink()
    window.command("for-shop")()
    assert not (own / "linnet-stock.pdf").exists(), "there are no boards to saw"
    assert "Left out: Wood" in window.message.text()
    assert len(list(own.iterdir())) == 5


def test_molds_that_a_beam_cuts_through_are_stood_on_a_table(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page("molds")
    page: Any = window.page
    window.edit("a thick beam", change(window.session.job, "setup", beam_width=300.0))
    settle(qtbot, window)
    word = "Stand them on a table"
    qtbot.waitUntil(lambda: any(r.mend == word for r in page.note.remarks), timeout=30_000)
    page.note.mended.emit(next(k for k, r in enumerate(page.note.remarks) if r.mend == word))
    settle(qtbot, window)
    page.note.answered.emit(True)
    assert window.session.job.setup.strongback is Strongback.TABLE
    assert not any(r.mend == word for r in page.note.remarks)


def test_from_a_blank_page_to_paper_in_half_the_steps(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, qtbot: Any
) -> None:
    """A traditional table on the clipboard: pick its way in, take it, ask for all paper, say where. It took eight clicks and keys
    before: paste, OK, Ctrl+P, Save, a menu of three for the strips, Save."""
    from hollow_keel.ui.incoming.table_in import TableInDialog

    steps: list[str] = []
    paper = tmp_path / "paper"
    paper.mkdir()
    window.session.start(Job())
    page: Any = window.pages.of("offsets")
    QGuiApplication.clipboard().setText("All dimensions in mm\n" + styles.two_tables(ByLines(sedge().offsets).sections()))

    def take(dialog: TableInDialog) -> int:
        steps.append("OK")
        dialog.accept()
        return dialog.result()

    def folder(*_: Any) -> str:
        steps.append("folder")
        return str(paper)

    monkeypatch.setattr(TableInDialog, "exec", take)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", folder)
    steps.append("A table on the clipboard")
    page._stack.widget(1).ways["paste-table"].click()
    assert window.session.job.offsets.rows
    steps.append("Ctrl+Shift+P")
    window.command("for-shop")()
    names = {path.name.partition("-")[2] for path in paper.glob("*/*.*")}
    assert {"molds.pdf", "strips.csv", "setup.pdf"} <= names, window.message.text()
    assert len(steps) <= 8 / 2

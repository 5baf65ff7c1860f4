"""The deck page driven as a builder does: a deck by a camber, openings dragged and typed, tables, the bench."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QMessageBox

from hollow_keel.core.change import change
from hollow_keel.core.deck.strip_stages import DECK_OPENINGS, DECK_PLAN, DECK_TICKS, WAYS_OUT
from hollow_keel.core.job import Job
from hollow_keel.core.settings.deck_choices import DeckFrom, OpeningShape
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.stock.needs import DECK_FROM
from hollow_keel.demo.jobs import demo_job
from hollow_keel.ui.pages.deck.dialogs import REMOVE, DeckDialogs
from hollow_keel.ui.pages.deck.page import Pictures
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import answering, drag_ring, paste_offsets, settle


@pytest.fixture
def teasel() -> Job:
    return demo_job("teasel")


@pytest.fixture
def decked(window: MainWindow, qtbot: Any, teasel: Job) -> Any:
    window.session.edit("a decked boat", teasel)
    window.go_to_page("deck")
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    return window.page


def ring_of(page: Any, path: str) -> Any:
    return next(r for r in page.above.drawing.rings if r.decides == path)


def test_it_stands_in_the_order_of_work_where_there_is_a_deck(window: MainWindow, qtbot: Any, teasel: Job) -> None:
    names = [window.order.names[k] for k in window.order.shown]
    assert "Deck" not in names
    window.session.edit("a decked boat", teasel)
    settle(qtbot, window)
    assert "Deck" in [window.order.names[k] for k in window.order.shown]
    window.session.undo()
    assert "Deck" not in [window.order.names[k] for k in window.order.shown]


def test_an_open_boat_is_offered_a_deck(window: MainWindow) -> None:
    window.go_to_page("deck")
    page: Any = window.page
    assert page.give.isVisible()
    assert "no deck" in page.hint.text()
    assert not page.both.isVisible()


def test_the_deck_is_drawn_with_all_that_it_comes_to(window: MainWindow, decked: Any) -> None:
    plan = window.state.known.get(DECK_PLAN)
    drawn = {s.key for s in decked.above.drawing.strokes if s.key.startswith("deck-strip:")}
    assert drawn == {f"deck-strip:{s.number}" for s in plan.planking.strips}
    assert decked.table.model().rowCount() == len(plan.planking.strips)
    assert f"{len(plan.planking.strips)} a side" in decked.result.text()
    assert decked.ways.model().rowCount() == len(window.state.known.get(WAYS_OUT))
    assert decked.join.model().rowCount() > 10


def test_an_opening_is_dragged_where_it_lies(window: MainWindow, qtbot: Any, decked: Any) -> None:
    before = window.session.job.deck.openings[0]
    ring = ring_of(decked, "deck.openings.0.at")
    drag_ring(decked.above, ring, 150.0, 0.0)
    pixel = 1 / decked.above.frame.across
    own = window.session.job.deck.openings
    assert own[0].at == pytest.approx(before.at + 150.0, abs=0.5 + 2 * pixel)
    assert own[1] == demo_job("teasel").deck.openings[1]
    settle(qtbot, window)
    ring = ring_of(decked, "deck.openings.0.width")
    drag_ring(decked.above, ring, 0.0, -20.0)
    assert window.session.job.deck.openings[0].width == pytest.approx(before.width - 40.0, abs=0.5 + 4 * pixel)
    window.session.undo()
    window.session.undo()
    assert window.session.job.deck.openings[0] == before


def test_its_length_is_typed_where_it_stands(window: MainWindow, qtbot: Any, decked: Any) -> None:
    decked.above.deciding.open("deck.openings.1.length")
    editor = decked.above.deciding.editor
    editor.selectAll()
    QTest.keyClicks(editor, "500 mm")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    assert window.session.job.deck.openings[1].length == 500.0
    assert window.session.undo_label == "opening long"


def test_a_strip_is_picked_from_above_on_the_hull_and_in_the_table(window: MainWindow, decked: Any) -> None:
    decked.above.picked.emit("deck-strip:5")
    assert decked.strip.number == 5
    assert decked.table.current_key() == "deck-strip:5"
    decked.hull.picked.emit(DECK_FROM + 9)
    assert decked.strip.number == 9
    card = decked.card()
    assert card.heading == "Deck strip 9"
    assert any(name.startswith("left out") for name, _ in card.rows)


def test_ticks_follow_the_current_mold(window: MainWindow, decked: Any) -> None:
    window.choose_mold(5)
    ticks = window.state.known.get(DECK_TICKS)
    assert decked.at_mold.model().rowCount() == len(ticks["6"])


def test_pictures_are_chosen(decked: Any) -> None:
    decked.show_pictures(Pictures.MAP)
    assert decked.below.currentWidget() is decked.map
    assert len(decked.map.drawing.strokes) > 10
    decked.show_pictures(Pictures.ABOVE)
    assert not decked.below.isVisible()


def test_a_camber_is_asked_for_with_a_picture(window: MainWindow, qtbot: Any, monkeypatch: Any) -> None:
    answering(monkeypatch, {"Crown": "50 mm"})
    DeckDialogs(window).camber()
    deck = window.session.job.deck
    assert deck.source is DeckFrom.CAMBER
    assert deck.crown == 50.0
    assert window.session.undo_label == "a deck by a camber"
    qtbot.waitUntil(lambda: window.state.known.get(DECK_PLAN) is not None, timeout=30_000)
    DeckDialogs(window).no_deck()
    assert window.session.job.deck.source is DeckFrom.TABLE


def test_an_opening_is_added_changed_and_taken_out(window: MainWindow, qtbot: Any, decked: Any, monkeypatch: Any) -> None:
    count = len(window.session.job.deck.openings)
    answering(monkeypatch, {"Middle at": "900 mm", "Long": "240 mm", "Wide": "150 mm"})
    DeckDialogs(window).add()
    own = window.session.job.deck.openings
    assert len(own) == count + 1
    assert (own[-1].at, own[-1].length, own[-1].width) == (900.0, 240.0, 150.0)
    settle(qtbot, window)
    qtbot.waitUntil(lambda: len(decked._openings) == count + 1, timeout=30_000)
    answering(monkeypatch, {"Shape": OpeningShape.RECTANGLE, "Wide": "180 mm"})
    DeckDialogs(window)._ask(count)
    assert window.session.job.deck.openings[count].shape is OpeningShape.RECTANGLE
    assert window.session.job.deck.openings[count].width == 180.0
    answering(monkeypatch, {"Shape": REMOVE})
    DeckDialogs(window)._ask(count)
    assert len(window.session.job.deck.openings) == count


def test_an_opening_comes_from_a_drawing(window: MainWindow, decked: Any, tmp_path: Path) -> None:
    import ezdxf

    document = ezdxf.new()
    document.header["$INSUNITS"] = 5  # centimetres
    document.modelspace().add_lwpolyline([(80, -10), (120, -12), (120, 12), (80, 10)], close=True)
    path = tmp_path / "hatch.dxf"
    document.saveas(path)
    DeckDialogs(window).read_curve(path)
    made = window.session.job.deck.openings[-1]
    assert made.shape is OpeningShape.DRAWN
    assert set(made.drawn) == {(800.0, -100.0), (1200.0, -120.0), (1200.0, 120.0), (800.0, 100.0)}


def test_a_drawing_without_a_closed_curve_is_refused(window: MainWindow, decked: Any, tmp_path: Path, monkeypatch: Any) -> None:
    import ezdxf

    said: list[str] = []
    monkeypatch.setattr(window, "warn", lambda _title, text: said.append(text))
    document = ezdxf.new()
    document.modelspace().add_lwpolyline([(0, 0), (100, 0), (100, 50)])
    path = tmp_path / "open.dxf"
    document.saveas(path)
    DeckDialogs(window).read_curve(path)
    assert "no closed curve" in said[0]
    assert len(window.session.job.deck.openings) == 2


def test_an_opening_past_the_edge_is_said_and_the_rest_stays(window: MainWindow, qtbot: Any, decked: Any) -> None:
    own = window.session.job.deck.openings
    wide = (own[0].model_copy(update={"width": 900.0}), own[1])
    window.session.edit("wide", change(window.session.job, "deck", openings=wide))
    qtbot.waitUntil(lambda: window.state.is_known(DECK_OPENINGS), timeout=30_000)
    qtbot.waitUntil(lambda: any("past the edge" in r.text for r in decked.note.remarks), timeout=10_000)
    assert [o.opening.name for o in decked._openings] == ["hatch"]
    ring_of(decked, "deck.openings.1.at")


def test_the_bench_shows_the_decks_strips_one_by_one(window: MainWindow, decked: Any, monkeypatch: Any) -> None:
    shown: list[Any] = []
    monkeypatch.setattr(DeckDialogs, "bench", lambda _self, steps, take=None: shown.extend(steps))
    window.choose_mold(6)
    DeckDialogs(window).ticks()
    rows = window.state.known.get(DECK_TICKS)["7"]
    assert len(shown) == len(rows)
    assert shown[0].picture().strokes
    for step, row in zip(shown, rows, strict=True):
        bevel = "" if row.bevel is None else f"bevel to the next {np.degrees(row.bevel):.1f}°"
        assert step.below.endswith(bevel)
        assert ("bevel" in step.below) == (row.bevel is not None)


def test_everything_for_the_shop_has_the_deck(window: MainWindow, decked: Any, tmp_path: Path, monkeypatch: Any) -> None:
    from hollow_keel.app import exports

    few = tuple(e for e in exports.EXPORTS if e.group == "Deck")
    monkeypatch.setattr("hollow_keel.ui.files.exporting.EXPORTS", few)
    folder = tmp_path / "shop"
    folder.mkdir()
    window.exporter.for_shop(folder)
    own = folder / "teasel"
    assert {p.name for p in own.iterdir()} == {"teasel-deck.csv", "teasel-openings.pdf"}, window.message.text()
    asked: list[str] = []
    answers = [QMessageBox.StandardButton.No, QMessageBox.StandardButton.Yes]
    (own / "teasel-deck.csv").write_text("mine")
    with monkeypatch.context() as box:
        box.setattr(QMessageBox, "question", lambda _top, _title, text: (asked.append(text), answers.pop(0))[1])
        window.exporter.for_shop(folder)
        assert asked == ["teasel-deck.csv, teasel-openings.pdf are in teasel already. Write over them?"]
        assert (own / "teasel-deck.csv").read_text() == "mine", "nothing was written"
        window.exporter.for_shop(folder)
    assert (own / "teasel-deck.csv").read_text() != "mine"
    window.session.edit("closed up", change(window.session.job, "deck", openings=()))
    again = tmp_path / "again"
    again.mkdir()
    window.exporter.for_shop(again)
    assert {p.name for p in (again / "teasel").iterdir()} == {"teasel-deck.csv"}


def test_an_opening_is_drawn_on_the_deck(window: MainWindow, qtbot: Any, decked: Any) -> None:
    """Four clicks and Enter: a smooth closed curve through them; Esc leaves it, Backspace takes one back."""
    count = len(window.session.job.deck.openings)
    window.command("draw-opening")()
    view = decked.above
    wanted = [(900.0, -60.0), (1200.0, -70.0), (1230.0, 60.0), (900.0, 70.0)]

    def click(x: float, y: float) -> None:
        px, py = view.frame.point((x, y))
        QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(round(px), round(py)))

    for x, y in (*wanted[:2], (2000.0, 0.0)):
        click(x, y)
    QTest.keyClick(view, Qt.Key.Key_Backspace)
    QTest.keyClick(view, Qt.Key.Key_Return)
    assert view.tracing.active, "two points are no curve"
    for x, y in wanted[2:]:
        click(x, y)
    QTest.keyClick(view, Qt.Key.Key_Return)
    own = window.session.job.deck.openings
    assert len(own) == count + 1
    assert own[-1].shape is OpeningShape.DRAWN
    drawn = np.array(own[-1].drawn)
    pixel = 1 / view.frame.across
    for place in wanted:
        assert np.linalg.norm(drawn - place, axis=1).min() < 12 + 2 * pixel
    settle(qtbot, window)
    window.command("draw-opening")()
    click(*wanted[0])
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert not view.tracing.active
    assert len(window.session.job.deck.openings) == count + 1


def test_its_dialogs_fit_a_small_screen(window: MainWindow, decked: Any, monkeypatch: Any) -> None:
    sizes: dict[str, tuple[int, int]] = {}

    def look(dialog: QDialog) -> int:
        dialog.show()
        QApplication.processEvents()
        sizes[dialog.windowTitle()] = (dialog.width(), dialog.height())
        dialog.reject()
        return 0

    monkeypatch.setattr(QDialog, "exec", look)
    for command in ("deck-camber", "openings", "add-opening", "opening-curve"):
        window.command(command)()
    assert len(sizes) == 4
    assert {name: size for name, size in sizes.items() if size[0] > 1280 or size[1] > 720} == {}


def test_a_decked_job_is_made_from_a_blank_page(
    window: MainWindow, qtbot: Any, teasel: Job, monkeypatch: Any, tmp_path: Path
) -> None:
    """A table that goes on over the deck on the clipboard: paste, take; molds are closed, the deck is planked, an opening is
    added, and all paper is written."""
    paste_offsets(window, teasel, monkeypatch)
    assert window.session.job.offsets.has_deck
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=60_000)
    window.go_to_page("deck")
    page: Any = window.page
    assert "a side" in page.result.text()
    assert window.state.shape.deck is not None
    assert all(m.deck is not None for m in window.state.shape.molds.molds[2:-2])
    answering(monkeypatch, {"Wide": "380 mm"})
    window.command("add-opening")()
    qtbot.waitUntil(lambda: len(page._openings) == 1, timeout=30_000)
    smaller = change(window.session.job, "setup", beam_width=30.0, beam_height=40.0)
    window.session.edit("a beam that goes through", change(smaller, "molds", every=300.0))
    settle(qtbot, window)
    window.exporter.for_shop(tmp_path)
    names = {path.name.partition("-")[2] for path in tmp_path.glob("*/*.*")}
    assert {"molds.pdf", "strips.csv", "setup.pdf", "deck.csv", "openings.pdf"} <= names, window.message.text()

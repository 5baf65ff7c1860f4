"""The stock page driven as a builder would: boards typed, what is sawn, bought and cut, pieces one by one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit

from hollow_keel.core.change import change
from hollow_keel.core.settings.progress import Planked
from hollow_keel.core.settings.timber import Grain, JointKind, StockSettings
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.ui.bench.mode import BenchMode
from hollow_keel.ui.pages.stock.page import PIECES, TO_BUY, USED_UP
from hollow_keel.ui.window.menus import set_units
from hollow_keel.ui.window.window import MainWindow


def settle_stock(qtbot: Any, window: MainWindow) -> None:
    qtbot.waitUntil(lambda: window.state.stocked and not window.state.stale, timeout=60_000)


@pytest.fixture
def page(window: MainWindow, qtbot: Any) -> Any:
    window.go_to_page("stock")
    settle_stock(qtbot, window)
    return window.page


def empty(window: MainWindow, qtbot: Any) -> None:
    window.edit("no boards", change(window.session.job, "", stock=StockSettings()))
    settle_stock(qtbot, window)


def cell(model: Any, row: int, column: int, text: str) -> bool:
    return bool(model.setData(model.index(row, column), text))


def table_text(table: Any) -> str:
    return "\n".join("|".join(row) for row in table.as_csv_rows())


def test_boards_are_typed_into_an_empty_page(window: MainWindow, qtbot: Any, page: Any) -> None:
    empty(window, qtbot)
    assert "Type the boards you have" in page.steps.text()
    assert window.order.statuses[window.order.names.index("Stock")] == ("empty", 0)
    assert "Type what is for sale" in page.buy_said.text()
    page.first_board.click()
    page.first_board.click()  # the cell is open already
    editor = QApplication.focusWidget()
    assert isinstance(editor, QLineEdit)
    QTest.keyClicks(editor, "1 1/4in")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    QApplication.processEvents()
    assert not page.first_board.isVisibleTo(page)
    model = page.on_hand_model
    assert [b.mark for b in window.session.job.stock.boards] == ["A"]
    assert window.session.job.stock.boards[0].thickness == pytest.approx(31.75)
    cell(model, 0, 3, "15 cm")
    cell(model, 0, 4, "3600")
    cell(model, 0, 5, "9")
    cell(model, 0, 7, "vert")
    board = window.session.job.stock.boards[0]
    assert (board.width, board.length, board.count, board.grain) == (150, 3600, 9, Grain.VERTICAL)
    cell(model, 1, 1, "Western Redcedar")
    assert [b.mark for b in window.session.job.stock.boards] == ["A", "B"]
    assert window.session.job.stock.boards[1].thickness == pytest.approx(31.75), "a new row is like the one above"
    settle_stock(qtbot, window)
    plan = window.state.stock
    assert plan is not None
    assert [lot.mark for lot in plan.lots] == ["A", "B"]
    assert "Fence at" in page.steps.text()
    cell(model, 0, 4, "")
    assert [b.mark for b in window.session.job.stock.boards] == ["B"], "an emptied length takes the board out"
    window.session.undo()
    assert [b.mark for b in window.session.job.stock.boards] == ["A", "B"]


def test_nominal_sizes_and_faults_in_cells(window: MainWindow, qtbot: Any, page: Any) -> None:
    model = page.on_hand_model
    cell(model, 3, 2, "5/4x6")
    board = window.session.job.stock.boards[3]
    assert (board.thickness, board.width) == pytest.approx((25.4, 139.7))
    for column, text, words in (
        (2, "1.1x6", "not in the table"),
        (5, "many", "whole number"),
        (5, "-2", "at least 0"),
        (7, "curly", "no such grain"),
        (8, "free", "not a price"),
        (8, "1,250", "in two ways"),
        (4, "long", ""),
        (0, "A", "other boards have this mark"),
        (0, "D", "other boards"),
        (0, "X1", "mark"),
    ):
        before = window.session.job
        cell(model, 3, column, text)
        assert window.session.job is before, text
        assert model.index(3, column).data() == text, "what was typed stays, in red"
        assert words in model.faults[3, column][1]
    cell(model, 3, 0, "Q")
    assert window.session.job.stock.boards[3].mark == "Q"
    cell(model, 3, 8, "€ 12,50")
    assert window.session.job.stock.boards[3].price == 12.5


def test_a_board_is_picked_and_its_cuts_are_shown(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.on_hand.setCurrentIndex(page.on_hand_model.index(2, 3))
    assert window.card.card.heading == "Board C"
    assert "Board C: 18 strips" in page.board_view.drawing.title
    assert "Off the edge would give" in page.steps.text()
    page.tabs.setCurrentIndex(TO_BUY)
    assert "31.00" in table_text(page.to_buy)
    page.to_buy.setCurrentIndex(page.to_buy.model().index(0, 0))
    assert window.card.card.heading == "Board D"
    set_units(window, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16))
    assert "in" in page.steps.text()


def test_bought_boards_move_to_those_on_hand(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.tabs.setCurrentIndex(TO_BUY)
    before = table_text(page.pieces)
    page.bought.click()
    settle_stock(qtbot, window)
    assert [b.mark for b in window.session.job.stock.boards] == ["A", "B", "C", "D"]
    assert not page.bought.isVisibleTo(page)
    assert "what is on hand is enough" in page.buy_said.text()
    assert table_text(page.pieces) == before, "no piece is planned anew"


def test_pieces_are_cut_and_stay(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.tabs.setCurrentIndex(PIECES)
    page.pieces.setCurrentIndex(page.pieces.model().index(8, 0))
    assert window.state.strip_number == 5
    assert window.card.card.heading == "Strip 5"
    need = next(n for n in window.state.stock.needs if n.strip == 5)
    assert dict(window.card.card.rows)["glue for one seam, mixed"] == f"{need.length * 8 * 0.5 * 1.3 / 1000:.0f} ml"
    page.cut_now.click()
    settle_stock(qtbot, window)
    assert len(window.session.job.stock.cut) == 10
    assert "10 lengths are cut" in page.cut_said.text()
    cells = [page.pieces.model().index(k, 2).data() for k in (0, 9, 10)]
    assert [c.startswith("cut: ") for c in cells] == [True, True, False]
    assert "port, cut" in str(window.card.card.rows)
    said: list[str] = []
    page.said.connect(said.append)
    window.choose_strip(2)
    page.cut_now.click()
    assert "last strip that is cut" in said[-1]
    page.keep_setting("stock.joints.stagger", 400.0)
    settle_stock(qtbot, window)
    assert len(window.session.job.stock.cut) == 10
    page.not_cut.click()
    settle_stock(qtbot, window)
    assert window.session.job.stock.cut == ()


def test_strips_on_the_hull_are_marked_as_cut_at_once(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.tabs.setCurrentIndex(PIECES)
    planked = window.session.job.planked
    assert planked is not None
    assert page.cut_laid.isVisible()
    assert f"strip {planked.strips}, as laid" in page.cut_laid.text()
    page.cut_laid.click()
    settle_stock(qtbot, window)
    assert {made.strip for made in window.session.job.stock.cut} == set(range(1, planked.strips + 1))
    assert not page.cut_laid.isVisible()
    window.session.edit("more laid", change(window.session.job, "", planked=Planked(strips=planked.strips + 2)))
    assert f"strip {planked.strips + 2}, as laid" in page.cut_laid.text()
    assert page.cut_laid.isVisible()


def test_joints_are_chosen_and_a_wish_that_cannot_be_is_said(window: MainWindow, qtbot: Any, page: Any) -> None:
    rows = page.decisions.rows
    assert rows["stock.joints.slope"].isVisible()
    page.keep_setting("stock.joints.kind", JointKind.ANGLE)
    settle_stock(qtbot, window)
    assert rows["stock.joints.angle"].isVisible()
    assert not rows["stock.joints.slope"].isVisible()
    page.decisions.decide("stock.joints.angle")
    QTest.keyClicks(rows["stock.joints.angle"].field, "forty")
    QTest.keyClick(rows["stock.joints.angle"].field, Qt.Key.Key_Return)
    QTest.keyClick(rows["stock.joints.angle"].field, Qt.Key.Key_Escape)
    assert page.setting_of("stock.joints.angle") == 60
    page.decisions.decide("stock.joints.angle")
    field = page.decisions.rows["stock.joints.angle"].field
    QTest.keyClicks(field, "45°")
    QTest.keyClick(field, Qt.Key.Key_Return)
    settle_stock(qtbot, window)
    plan = window.state.stock
    assert plan is not None
    assert plan.joint.lost == pytest.approx(8.0)
    window.edit("clear of molds", change(window.session.job, "stock.joints", clear_molds=250.0))
    settle_stock(qtbot, window)
    assert "No joint can stand anywhere" in page.note.text()
    assert window.order.statuses[window.order.names.index("Stock")][0] == "look"


def test_used_up_and_settings(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.open_drawer(True)
    page.tabs.setCurrentIndex(USED_UP)
    assert "Glue, mixed" in table_text(page.used_up)
    rows = page.decisions.rows
    said: list[str] = []
    page.said.connect(said.append)
    for path, text in (
        ("stock.used_up.edge_screws", "two"),
        ("stock.used_up.edge_screws", "2"),
        ("stock.buying.currency", "kr"),
        ("stock.used_up.temperature", "25"),
    ):
        page.decisions.decide(path)
        field = rows[path].field
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        if text == "two":
            assert "whole number" in said[-1]
            QTest.keyClick(field, Qt.Key.Key_Escape)
    settle_stock(qtbot, window)
    assert "Edge screws or dowels" in table_text(page.used_up)
    assert "at 25 °C" in table_text(page.used_up)
    assert "kr" in page.result.text()


def test_pieces_one_at_a_time(window: MainWindow, qtbot: Any, page: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    shown: list[BenchMode] = []
    monkeypatch.setattr(BenchMode, "exec", lambda dialog: shown.append(dialog) or dialog.reject() or 0)
    window.choose_strip(7)
    window.menus.actions["bench-pieces"].trigger()
    assert shown[0].steps[0].heading == "Strip 7 port"
    assert "cut from C" in shown[0].steps[0].below
    empty(window, qtbot)
    window.menus.actions["bench-pieces"].trigger()
    assert "give boards on the Stock page" in window.message.text()


@pytest.mark.parametrize("kind", ["stock-pdf", "labels-pdf", "pieces-csv", "buying-csv"])
def test_what_is_shown_is_written(
    window: MainWindow, qtbot: Any, page: Any, kind: str, tmp_path: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / f"out.{kind.rpartition('-')[2]}"
    answer: Callable[..., tuple[str, str]] = lambda *_, **__: (str(path), "")  # noqa: E731
    monkeypatch.setattr(QFileDialog, "getSaveFileName", answer)
    window.command(f"export-{kind}")()
    assert path.stat().st_size > 500

"""The drawing is the form: numbers typed where they stand, rings dragged, each one step that can be undone; its room."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLabel,
    QMenu,
    QScrollArea,
    QTabBar,
    QWidget,
)

from hollow_keel.core.change import change
from hollow_keel.core.job import Job, StripSettings, Zone
from hollow_keel.core.planking.possible import WAYS
from hollow_keel.core.settings.mold_choices import MoldForm, StringerNotches
from hollow_keel.core.settings.setup_choices import Strongback
from hollow_keel.core.settings.strip_choices import Guide, StripLayout
from hollow_keel.ui.decide import on_drawing, panel
from hollow_keel.ui.decide.possible import greyed
from hollow_keel.ui.pages.page import OPENS_AFTER_MS
from hollow_keel.ui.pages.registry import PAGES
from hollow_keel.ui.views.drawing_view import DrawingView
from hollow_keel.ui.window.window import MainWindow
from tests.hulls_of_form import FORMS
from tests.ui.conftest import drag_ring, settle

FAIRING, MOLDS, SETUP, PLANKING = "fairing", "molds", "setup", "planking"


@pytest.fixture
def molds(window: MainWindow) -> Any:
    window.go_to_page(MOLDS)
    return window.page


def field_of(page: Any, path: str) -> Any:
    page.decisions.decide(path)
    return page.decisions.rows[path].field


def value_place(view: DrawingView, path: str) -> QPoint:
    """The middle of a dotted number on a drawing."""
    item = next(own for own in view.deciding.labels if own.label.decides == path)
    x, y = view.frame.point(item.label.at)
    return item.value_box().translated(x, y).center().toPoint()


def test_what_is_typed_is_tried_at_once_and_kept_as_one_step(window: MainWindow, qtbot: Any, molds: Any) -> None:
    before, undo = window.session.job, window.session.undo_label
    field = field_of(molds, "molds.skin")
    assert field.text() == "8.0"
    QTest.keyClicks(field, "1/2 in")
    qtbot.waitUntil(lambda: window.state.job.molds.skin == pytest.approx(12.7), timeout=5_000)
    assert window.session.undo_label == undo, "it is not a step yet"
    settle(qtbot, window)
    assert any(label.value == "12.7" and label.decides == "molds.skin" for label in molds.view.drawing.labels)
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert window.session.job.molds.skin == pytest.approx(12.7)
    assert window.session.undo_label == "skin taken off"
    window.session.undo()
    assert window.session.job == before


def test_escape_gives_up_and_what_cannot_be_read_is_said(window: MainWindow, qtbot: Any, molds: Any) -> None:
    before = window.session.job
    field = field_of(molds, "molds.skin")
    QTest.keyClicks(field, "22")
    qtbot.waitUntil(lambda: window.session.attempting, timeout=5_000)
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert window.session.job == before
    assert not window.session.attempting
    field = field_of(molds, "molds.skin")
    QTest.keyClicks(field, "thick")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert "Skin taken off" in window.message.text()
    assert field.text() == "thick", "what was typed is still there"
    field.selectAll()
    QTest.keyClicks(field, "-3")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert window.session.job == before
    assert "Skin taken off" in window.message.text()


def test_what_was_not_typed_is_not_rounded(window: MainWindow, molds: Any) -> None:
    window.session.edit("odd", change(window.session.job, "molds", skin=7.37))
    field = field_of(molds, "molds.skin")
    assert field.text() == "7.37", "the tape reads halves, and this is none"
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert window.session.job.molds.skin == 7.37


def test_a_number_on_the_drawing_is_clicked_and_typed(window: MainWindow, qtbot: Any, molds: Any) -> None:
    view = molds.view
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=value_place(view, "waterline"))
    editor = view.deciding.editor
    assert editor.text() == "175.0"
    assert view.viewport().rect().contains(editor.geometry())
    QTest.keyClicks(editor, "180")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    assert window.session.job.waterline == 180.0
    assert view.deciding.editor is None
    assert window.focusWidget() is view


def test_tab_goes_from_number_to_number_and_a_figure_begins_to_type(window: MainWindow, molds: Any) -> None:
    view = molds.view
    view.setFocus()
    seen = []
    for _ in range(30):
        QTest.keyClick(view, Qt.Key.Key_Tab)
        if not view.deciding.chosen:
            break
        seen.append(view.deciding.chosen)
    assert set(seen) == {label.decides for label in view.drawing.labels if label.decides}
    assert len(seen) == len(set(seen))
    view.setFocus()
    while view.deciding.chosen != "molds.skin":
        QTest.keyClick(view, Qt.Key.Key_Tab)
    QTest.keyClick(view, Qt.Key.Key_9)
    assert view.deciding.editor.text() == "9"
    QTest.keyClick(view.deciding.editor, Qt.Key.Key_Tab)
    assert window.session.job.molds.skin == 9.0


def test_words_are_chosen_from_a_list(window: MainWindow, molds: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(panel, "choose", lambda *_: MoldForm.RING)
    assert not molds.decisions.rows["molds.ring_width"].isVisible()
    molds.decisions.decide("molds.form")
    assert window.session.job.molds.form is MoldForm.RING
    assert molds.decisions.rows["molds.ring_width"].isVisible(), "it means something now"
    assert window.session.undo_label == "mold"


def test_a_ring_is_dragged_with_what_hangs_on_it_and_snaps(window: MainWindow, qtbot: Any, molds: Any) -> None:
    view = molds.view
    ring = next(r for r in view.drawing.rings if r.decides == "waterline")
    before = window.session.job
    x, y = view.frame.point(ring.at)
    QTest.mousePress(view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    assert view.deciding.dragging
    up = QPointF(x, y - 40)
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        up,
        view.viewport().mapToGlobal(up),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(view.viewport(), event)
    line = view.items_of("waterline")[0][0]
    rise = 40 / view.frame.up
    assert -line.pos().y() == pytest.approx(rise, abs=0.6), "the line goes with it before anything is worked out"
    assert window.session.job == before
    qtbot.waitUntil(lambda: window.session.attempting, timeout=5_000)
    settle(qtbot, window)
    assert view.deciding.dragging, "another drawing came, the ring is still held"
    QTest.mouseRelease(view.viewport(), Qt.MouseButton.LeftButton, pos=up.toPoint())
    level = window.session.job.waterline
    assert level == pytest.approx(175.0 + rise, abs=0.6)
    assert level * 2 == round(level * 2), "at the job's rounding"
    window.session.undo()
    assert window.session.job == before


def test_a_drag_is_given_up_by_escape(window: MainWindow, qtbot: Any, molds: Any) -> None:
    view = molds.view
    before = window.session.job
    ring = next(r for r in view.drawing.rings if r.decides == "setup.beam_width")
    x, y = view.frame.point(ring.at)
    assert view.deciding.press(QPointF(x, y))
    view.deciding.move(QPointF(x + 30, y))
    qtbot.waitUntil(lambda: window.session.attempting, timeout=5_000)
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert window.session.job == before
    assert not view.deciding.release()


@pytest.mark.parametrize(
    ("settings", "decides", "right", "up", "grows"),
    [
        ({"strongback": Strongback.TABLE}, "setup.leg_spread", 10.0, 0.0, 20.0),
        ({"strongback": Strongback.TABLE}, "setup.leg_width", -10.0, 0.0, 10.0),
        ({}, "setup.beam_width", 5.0, 0.0, 10.0),
        ({}, "setup.beam_height", 0.0, 6.0, 6.0),
    ],
)
def test_each_ring_grows_its_setting_as_it_is_moved(
    window: MainWindow, qtbot: Any, molds: Any, settings: dict[str, Any], decides: str, right: float, up: float, grows: float
) -> None:
    """By hand: both legs move, so their spread grows by twice the way of one; a leg grows inward; a beam both ways."""
    window.choose_mold(6)
    if settings:
        window.session.edit("stand", change(window.session.job, "setup", **settings))
        settle(qtbot, window)
    ring = next(r for r in molds.view.drawing.rings if r.decides == decides)
    before = ring.value
    drag_ring(molds.view, ring, right, up)
    now = molds.setting_of(decides)
    pixel = 1 / molds.view.frame.across
    assert now == pytest.approx(before + grows, abs=0.25 + 2.5 * pixel)
    settle(qtbot, window)
    again = next(r for r in molds.view.drawing.rings if r.decides == decides)
    assert again.value == pytest.approx(now), "the drawing says the same"
    moved = [(b - a) * w for a, b, w in zip(ring.at, again.at, ring.way, strict=True)]
    assert sum(moved) == pytest.approx((now - before) / ring.per, abs=0.01), "the ring stands where it was let go"


def test_a_stringer_goes_along_the_edge(window: MainWindow, qtbot: Any, molds: Any) -> None:
    """Its ring follows the mold's own edge: let go at a place, its share is that of the girth up to there."""
    window.choose_mold(6)
    window.session.edit(
        "stringers",
        change(change(window.session.job, "inside", stringers=(0.4, 0.8)), "molds", stringer_notches=StringerNotches.SHARE),
    )
    settle(qtbot, window)
    qtbot.waitUntil(lambda: any("stringers" in r.decides for r in molds.view.drawing.rings), timeout=10_000)
    edge = window.state.results.shape.molds.molds[6].edge.points
    steps = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(edge, axis=0), axis=1))])
    to = np.array([np.interp(0.6 * steps[-1], steps, edge[:, k]) for k in (0, 1)])
    ring = next(r for r in molds.view.drawing.rings if r.decides == "inside.stringers.0")
    drag_ring(molds.view, ring, *(to - ring.at).tolist())
    assert window.session.job.inside.stringers == (pytest.approx(0.6, abs=0.011), 0.8)
    assert window.session.undo_label == "stringers at, no. 1"
    settle(qtbot, window)
    page: Any = molds
    for path, way in (("inside.stringer_thickness", 6.0), ("inside.stringer_width", 5.0)):
        ring = next(r for r in page.view.drawing.rings if r.decides == path)
        drag_ring(page.view, ring, way * ring.way[0], way * ring.way[1])
        grown = page.setting_of(path) - ring.value
        assert grown == pytest.approx(ring.per * way, abs=0.25 + 2.5 * ring.per / page.view.frame.across)
        settle(qtbot, window)


def test_a_notch_over_the_stem_is_its_own(window: MainWindow, qtbot: Any, molds: Any) -> None:
    fields = {"stem_width": 30.0, "stem_depth": 15.0, "stations": (200.0, 1500.0)}
    window.session.edit("stem", change(window.session.job, "molds", **fields))
    settle(qtbot, window)
    window.choose_mold(0)
    qtbot.waitUntil(lambda: any("stem" in r.decides for r in molds.view.drawing.rings), timeout=10_000)
    ring = next(r for r in molds.view.drawing.rings if r.decides == "molds.stem_width")
    drag_ring(molds.view, ring, 5.0, 0.0)
    assert window.session.job.molds.stem_width == pytest.approx(40.0, abs=2.0)
    assert window.session.job.molds.notch_width == 0


def test_a_mold_is_dragged_along_the_keel_line(window: MainWindow, qtbot: Any) -> None:
    line = window.keel_line
    before = window.session.job
    x = round(line._across(1300.0))
    QTest.mousePress(line, Qt.MouseButton.LeftButton, pos=QPoint(x, 40))
    assert window.state.mold_number == 2
    to = QPointF(line._across(1400.0), 40)
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        to,
        line.mapToGlobal(to),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(line, event)
    qtbot.waitUntil(lambda: window.session.attempting, timeout=5_000)
    QTest.mouseRelease(line, Qt.MouseButton.LeftButton, pos=to.toPoint())
    stations = window.session.job.molds.stations
    assert len(stations) == 12
    assert stations[2] == pytest.approx(1400.0, abs=6.0)
    assert (stations[0], stations[1], stations[3]) == (500.0, 900.0, 1700.0)
    assert window.session.undo_label == "where molds stand"
    window.session.undo()
    assert window.session.job == before
    far = QPointF(line._across(2000.0), 40)  # past its neighbour
    QTest.mousePress(line, Qt.MouseButton.LeftButton, pos=QPoint(x, 40))
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        far,
        line.mapToGlobal(far),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(line, event)
    assert line.places()[2] < 1700.0
    QTest.keyClick(line, Qt.Key.Key_Escape)
    assert window.session.job == before


@pytest.mark.parametrize("page", [MOLDS, SETUP, PLANKING])
def test_the_drawing_has_the_room(window: MainWindow, page: str) -> None:
    """Three fifths of the window at 1280x800, with card and keel line shown and the table closed."""
    window.resize(1280, 800)
    window.go_to_page(page)
    QApplication.processEvents()
    drawing = window.page.canvas
    assert window.side.isVisible()
    assert window.keel_line.height() <= 90
    assert drawing.width() * drawing.height() >= 0.6 * 1280 * 800


def test_the_planked_hull_is_large(window: MainWindow, qtbot: Any) -> None:
    window.resize(1280, 800)
    window.go_to_page(PLANKING)
    QApplication.processEvents()
    page: Any = window.page
    qtbot.waitUntil(lambda: page.hull.mesh is not None, timeout=10_000)
    pixels, _ = page.hull._on_screen(page.hull.mesh.points)
    assert float(pixels[:, 0].max() - pixels[:, 0].min()) >= 700
    assert pixels.min() >= 0, "all of it is seen"


def test_a_table_is_a_drawer_that_is_remembered(window: MainWindow, tmp_path: Path) -> None:
    window.go_to_page(MOLDS)
    page = window.page
    assert not page.drawer_open
    window.command("drawer")()
    QApplication.processEvents()
    assert page.drawer_open
    assert window.settings.drawers["molds"] >= 100
    window.command("drawer")()
    assert window.settings.drawers["molds"] == 0
    window.command("side")()
    assert window.side.isHidden()
    window.command("side")()
    window.command("alone")()
    assert window.keel_line.isHidden()
    assert window.side.isHidden()
    window.command("alone")()
    assert window.keel_line.isVisible()


def test_a_mend_is_tried_before_it_is_kept(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page(PLANKING)
    page: Any = window.page
    zones = (*window.session.job.strips.zones, Zone(first=40, last=42, width=9.0))
    window.session.edit("tapered", change(window.session.job, "strips", layout="tapered", zones=zones))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: any(r.mend for r in page.note.remarks), timeout=30_000)
    number = next(k for k, r in enumerate(page.note.remarks) if r.mend)
    before = window.session.job
    page.note.mended.emit(number)
    assert window.session.attempting
    assert page.note.trial.isVisible()
    assert "Take the widths out" in page.note.trying.text()
    page.note.answered.emit(False)
    assert window.session.job == before
    settle(qtbot, window)
    qtbot.waitUntil(lambda: any(r.mend for r in page.note.remarks), timeout=30_000)
    page.note.mended.emit(number)
    settle(qtbot, window)
    page.note.answered.emit(True)
    assert window.session.undo_label == "take the widths out"
    assert all(zone.width is None for zone in window.session.job.strips.zones)


def test_choosing_on_a_drawing_uses_the_same_words(
    window: MainWindow, qtbot: Any, molds: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(on_drawing, "choose", lambda *_: None)
    labels = [item.label for item in molds.view.label_items if item.label.decides]
    assert labels
    for label in labels:
        assert label.text.endswith(label.value) or label.value in label.text
        assert label.decides in molds.decisions.rows, "what is on the drawing is beside it as well"


def test_something_clicked_twice_opens_the_table_at_its_row(window: MainWindow) -> None:
    window.go_to_page(PLANKING)
    page: Any = window.page
    assert not page.drawer_open
    strip = next(s for s in page.map.drawing.strokes if s.key == "strip:30")
    x, y = page.map.frame.point(tuple(strip.points.mean(axis=0).tolist()))
    at = QPoint(round(x), round(y))
    QTest.mouseClick(page.map.viewport(), Qt.MouseButton.LeftButton, pos=at)
    QTest.mouseDClick(page.map.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert page.drawer_open
    assert abs(window.state.strip_number - 30) <= 1  # a strip is three pixels high
    assert page.table.current_key() == f"strip:{window.state.strip_number}"


def test_a_first_pick_opens_the_table_and_never_again_once_it_was_closed(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page(PLANKING)
    page: Any = window.page
    page.map.picked.emit("strip:12")
    assert not page.drawer_open, "not under the pointer, while it may yet be a double click"
    qtbot.waitUntil(lambda: page.drawer_open, timeout=5_000)
    page.drawer_button.click()
    page.map.picked.emit("strip:20")
    qtbot.wait(2 * OPENS_AFTER_MS)
    assert not page.drawer_open
    assert window.settings.drawers["planking"] == 0
    window.command("drawer")()
    assert page.drawer_open


def test_the_batten_lies_under_the_line_that_was_picked(window: MainWindow, qtbot: Any) -> None:
    window.go_to_page(FAIRING)
    page: Any = window.page
    assert not page.drawer_open, "the three views have the page"
    page.body_view.picked.emit("wl:175.0")
    qtbot.waitUntil(lambda: page.drawer_open, timeout=5_000)
    assert page.tabs.currentWidget() is page.batten_pane
    assert page.batten_view.isVisible()


@pytest.mark.parametrize("page", [kind.stage for kind in PAGES[:7]])
def test_everything_that_can_be_used_has_a_name(window: MainWindow, page: str) -> None:
    """For a screen reader: an accessible name, or words of its own, or a label that it is the buddy of."""
    window.go_to_page(page)
    window.page.open_drawer(True)
    for box in window.page.decisions.groups:
        box.fold.setChecked(True)
    named = {label.buddy() for label in window.findChildren(QLabel) if label.buddy() is not None}
    nameless = []
    for widget in window.findChildren(QWidget):
        if not widget.isVisible() or not widget.isEnabled() or widget.focusPolicy() == Qt.FocusPolicy.NoFocus:
            continue
        if isinstance(widget.parent(), QAbstractSpinBox | QComboBox) or type(widget) in (QWidget, QScrollArea, QTabBar):
            continue
        text = widget.text() if isinstance(widget, QAbstractButton) else ""
        if not (widget.accessibleName() or text or widget in named):
            nameless.append(f"{type(widget).__name__} {widget.objectName()}")
    assert nameless == []


def test_beside_the_drawing_the_keys_are_enough(window: MainWindow, molds: Any) -> None:
    row = molds.decisions.rows["molds.skin"]
    row.value.setFocus()
    QTest.keyClick(row.value, Qt.Key.Key_Return)
    assert row.field is not None
    QTest.keyClicks(row.field, "11")
    QTest.keyClick(row.field, Qt.Key.Key_Return)
    assert window.session.job.molds.skin == 11.0
    assert window.focusWidget() is row.value
    QTest.keyClick(row.value, Qt.Key.Key_7)
    assert row.field.text() == "7"
    QTest.keyClick(row.field, Qt.Key.Key_Tab)
    assert window.session.job.molds.skin == 7.0
    assert window.focusWidget() is molds.decisions.rows["molds.strapping"].value


def test_ways_that_cannot_be_laid_turn_grey_with_why(qtbot: Any) -> None:
    """Asked of a process beside the window while the menu is open; the present choice and those that can be laid stay."""
    strips = StripSettings(width=20.0, guide=Guide.BOTH)
    job = Job(offsets=FORMS["small tender"].table(stations=13, points=11), strips=strips)
    menu = QMenu()
    acts = {menu.addAction(layout.value): layout for layout in StripLayout}
    with greyed(menu, acts, job, "strips.layout"):
        qtbot.waitUntil(lambda: any(not a.isEnabled() for a in acts), timeout=60_000)
        grey = {acts[a]: a for a in acts if not a.isEnabled()}
    assert StripLayout.PARALLEL not in grey
    for layout, action in grey.items():
        assert action.text().startswith(f"{layout.value}  (")
        assert "wide" in action.toolTip()
        assert "\u27e8" not in action.toolTip(), "lengths are written in the job's unit"
    assert "strips.guide" in WAYS
    assert "strips.master.kind" in WAYS
    assert "strips.edge" not in WAYS

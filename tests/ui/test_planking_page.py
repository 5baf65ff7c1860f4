"""The planking page driven as a builder would: guides, colours, molds, the divider, work so far, plans compared."""

from __future__ import annotations

from typing import Any

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from hollow_keel.core.change import change
from hollow_keel.core.job import Guide
from hollow_keel.core.planking.stages import TICKS
from hollow_keel.core.settings.strip_choices import MasterKind, RestWay, StripLayout
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet
from hollow_keel.drawing.model import Layer
from hollow_keel.ui.bench.mode import BenchMode
from hollow_keel.ui.decide.lengths_dialog import LengthsDialog
from hollow_keel.ui.pages.planking.compare_dialog import CompareDialog
from hollow_keel.ui.pages.planking.page import AT_MOLD, DIVIDE, SO_FAR
from hollow_keel.ui.window.menus import set_units
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import drag_ring, settle

MM = LengthStyle(LengthUnit.MM, 0.5)


@pytest.fixture
def page(window: MainWindow) -> Any:
    window.go_to_page("planking")
    window.page.open_drawer(True)
    return window.pages.of("planking")


def pick(box: Any, value: object) -> None:
    box.setCurrentIndex(box.findData(value))
    box.activated.emit(box.currentIndex())


def test_a_natural_master_line_is_chosen(window: MainWindow, qtbot: Any, page: Any) -> None:
    rows = page.decisions.rows
    assert not rows["strips.master.kind"].isVisible()
    page.keep_setting("strips.guide", Guide.MASTER)
    settle(qtbot, window)
    assert rows["strips.master.kind"].isVisible()
    page.keep_setting("strips.master.kind", MasterKind.NATURAL)
    settle(qtbot, window)
    page.decisions.decide("strips.master.height")
    field = rows["strips.master.height"].field
    QTest.keyClicks(field, "33 cm")
    QTest.keyClick(field, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert window.session.job.strips.master.height == pytest.approx(330)
    planking = window.state.planking
    assert planking is not None
    assert planking.guide == "master"
    assert {s.course.value for s in planking.strips} == {"up", "down"}
    page.decisions.decide("strips.master.height")
    field = rows["strips.master.height"].field
    field.clear()
    field.setModified(True)
    QTest.keyClick(field, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert window.session.job.strips.master.height is None
    window.session.undo()
    assert window.session.job.strips.master.height == pytest.approx(330)


def test_lines_follow_the_layout_and_a_refused_plan_is_said(window: MainWindow, qtbot: Any, page: Any) -> None:
    rows = page.decisions.rows
    for box in page.decisions.groups:
        box.fold.setChecked(True)
    page.keep_setting("strips.layout", StripLayout.TAPERED)
    settle(qtbot, window)
    assert rows["strips.least_width"].isVisible()
    assert not rows["strips.mixed_from"].isVisible()
    assert "65 a side" in page.result.text()
    window.session.edit("least", change(window.session.job, "strips", least_width=40.0))
    qtbot.waitUntil(lambda: bool(window.state.problem), timeout=30_000)
    assert "least width (40 mm)" in page.note.text()
    qtbot.waitUntil(lambda: not window.state.working, timeout=30_000)  # refused is an answer: other pages do not wait for it
    assert window.state.stale
    window.session.undo()
    page.keep_setting("strips.guide", Guide.MASTER)
    page.keep_setting("strips.master.kind", MasterKind.GIRTH)
    settle(qtbot, window)
    page.decisions.decide("strips.master.share")
    QTest.keyClicks(rows["strips.master.share"].field, "70 %")
    QTest.keyClick(rows["strips.master.share"].field, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert window.session.job.strips.master.share == pytest.approx(0.7)


def test_the_master_line_is_dragged_on_the_hull_and_on_the_map(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.keep_setting("strips.guide", Guide.MASTER)
    page.keep_setting("strips.master.height", 300.0)
    settle(qtbot, window)
    (ring,) = (r for r in page.map.drawing.rings if r.decides == "strips.master.height")
    before = window.session.undo_label
    drag_ring(page.map, ring, 0.0, 20.0)
    assert window.session.job.strips.master.height == round(2 * window.session.job.strips.master.height) / 2
    up = window.session.job.strips.master.height - 300.0
    assert 5.0 < up <= 20.0 + 0.25  # along the skin it is farther than straight up
    window.session.undo()
    assert window.session.undo_label == before
    settle(qtbot, window)
    hull = page.hull
    qtbot.waitUntil(lambda: hull.ring.place() is not None, timeout=10_000)
    at = hull.ring.place()
    assert hull.ring.press(at)
    hull.ring.move(QPointF(at.x(), at.y() - 12))
    hull.ring.release()
    assert window.session.job.strips.master.height > 301.0


def test_a_band_of_another_wood_is_picked_on_the_map(
    window: MainWindow, qtbot: Any, page: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    page.map.picked.emit("strip:30")
    monkeypatch.setattr(QGuiApplication, "keyboardModifiers", lambda: Qt.KeyboardModifier.ShiftModifier)
    page.map.picked.emit("strip:34")
    sheet = page.sheet
    assert sheet.isVisible()
    assert sheet.title.text() == "Strips 30–34"
    pick(sheet.wood, "Sitka spruce")
    sheet.thick.setText("4")
    sheet.thick.setModified(True)
    sheet.thick.editingFinished.emit()
    found = [(z.first, z.last, z.thickness, z.wood) for z in window.session.job.strips.zones if z.first == 30]
    assert found == [(30, 34, 4.0, "Sitka spruce")]
    assert sheet.like.isEnabled()
    sheet.like.click()
    assert all(z.first != 30 for z in window.session.job.strips.zones)
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert not sheet.isVisible()


def test_heights_of_the_master_line_are_typed_in_a_table(window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def fill(dialog: LengthsDialog) -> int:
        table = dialog.table.table
        for row, (x, z) in enumerate((("2600", "300"), ("500 mm", "42 cm"))):
            table.item(row, 0).setText(x)
            table.item(row, 1).setText(z)
        table.item(2, 0).setText("5000")
        dialog.accept()
        assert "row 3, height" in dialog.fault.text()
        table.item(2, 1).setText("380")
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(LengthsDialog, "exec", fill)
    window.command("master-heights")()
    master = window.session.job.strips.master
    assert master.kind is MasterKind.HEIGHTS
    assert master.heights == ((500.0, 420.0), (2600.0, 300.0), (5000.0, 380.0))
    assert window.session.undo_label == "heights of the master line"
    before = window.session.job
    monkeypatch.setattr(LengthsDialog, "exec", lambda dialog: dialog.table.table.item(0, 1).setText("410") or 0)
    window.command("master-heights")()
    assert window.session.job == before


def test_colours_stand_for_something_and_say_so_in_words(window: MainWindow, page: Any) -> None:
    assert page.legend.isHidden()
    pick(page.shade, page.shade.itemData(1))
    assert "by hand" in page.legend.text()
    layers = {s.layer for s in page.map.drawing.strokes}
    assert Layer.STRIP_2 in layers  # fourteen of Linnet's strips want clamps
    grades = {page.table.model().index(r, 3).data() for r in range(65)}
    assert grades == {"by hand", "clamps", "heat or split"}  # a few at the very stem
    window.choose_strip(20)
    rows = dict(page.card().rows)
    assert rows["goes on"] in ("by hand", "clamps")
    assert rows["push sideways"].endswith(" N")
    for k in (2, 3):
        pick(page.shade, page.shade.itemData(k))
        assert "■" in page.legend.text()


def ticked(qtbot: Any, window: MainWindow) -> None:
    qtbot.waitUntil(lambda: window.state.is_known(TICKS), timeout=30_000)


def test_strips_at_the_mold_are_listed_and_drawn(window: MainWindow, qtbot: Any, page: Any) -> None:
    ticked(qtbot, window)
    page.tabs.setCurrentIndex(AT_MOLD)
    window.choose_mold(5)
    assert page.at_mold.model().rowCount() == 64
    assert page.at_mold.model().index(0, 1).data() == "14.0"
    assert "mold 6" in page.section.drawing.title
    page.section.picked.emit("strip:30")
    assert window.state.strip_number == 30
    assert any(label.strong and label.text == "30" for label in page.section.drawing.labels)


def test_the_girth_is_divided_by_a_metric_tape_in_an_inch_job(window: MainWindow, qtbot: Any, page: Any) -> None:
    set_units(window, LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16))
    ticked(qtbot, window)
    page.tabs.setCurrentIndex(DIVIDE)
    divider = page.divider
    divider.parts.setValue(10)
    model = divider.table.model()
    assert model.rowCount() == 12
    assert model.index(5, 2).data() == "10"
    divider.tape.setCurrentIndex(1)
    each = float(model.index(5, 3).data())
    assert each == pytest.approx(88.4, abs=0.6)
    divider.second.setCurrentText("20")
    assert float(divider.table.model().index(5, 3).data()) == pytest.approx(27.5, abs=0.5)
    divider.second.setCurrentText("nothing")
    assert divider.table.model().rowCount() == 0


def test_the_rest_is_planned_again_as_readings_come_in(window: MainWindow, qtbot: Any, page: Any) -> None:
    page.tabs.setCurrentIndex(SO_FAR)
    so_far = page.so_far
    assert so_far.strips.value() == 20
    assert "45 more a side" in so_far.said.text()
    assert "mold 7" in page.note.text()
    assert so_far.way.currentData() == RestWay.ON
    assert "strips, ticks, pieces and prints follow" in so_far.said.text()
    table, model = so_far.table, so_far.model
    table.setFocus()
    table.setCurrentIndex(model.index(6, 2))
    QTest.keyClicks(table, "6")
    QTest.keyClicks(QApplication.focusWidget(), "15")
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    QApplication.processEvents()
    assert window.session.job.planked is not None
    assert window.session.job.planked.of("7").port == 615.0
    qtbot.waitUntil(lambda: "mold 7" not in page.note.text(), timeout=30_000)
    so_far.way.setCurrentIndex(so_far.way.findData(RestWay.TAPER))
    so_far.way.activated.emit(so_far.way.currentIndex())
    qtbot.waitUntil(lambda: all(s.shaped for s in window.state.planking.strips[20:]), timeout=30_000)
    so_far.strips.setValue(22)
    assert window.session.job.planked.strips == 22
    assert window.session.job.planked.measured_strips == 20
    qtbot.waitUntil(lambda: so_far.taken.text() == "Measured with 22 on, not 20", timeout=30_000)
    qtbot.waitUntil(lambda: "43 more a side" in so_far.said.text(), timeout=30_000)
    so_far.taken.click()
    assert window.session.job.planked.measured_strips == 22
    window.session.undo()
    qtbot.waitUntil(lambda: "43 more a side" in so_far.said.text(), timeout=30_000)
    assert "under port and starboard" in model.paste(0, 0, "1\t2")
    assert model.setData(model.index(0, 2), "-5")
    assert "without a minus" in model.faults[0, 2][1]
    before = window.session.job
    assert model.setData(model.index(6, 2), "6150")  # a nought too many
    assert "more is left than the whole mold is round" in model.faults[6, 2][1]
    assert window.session.job == before


def test_plans_are_compared_and_one_is_used(window: MainWindow, qtbot: Any, page: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    job = window.session.job
    narrow = job.strips.model_copy(update={"width": 20.0})
    window.session.edit("plans", change(job, "", plans=(job.strips, narrow)))
    settle(qtbot, window)

    def use_the_second(dialog: CompareDialog) -> int:
        qtbot.waitUntil(lambda: not dialog.running, timeout=60_000)
        assert dialog.table.model().rowCount() == 2
        assert not dialog.use.isEnabled()
        dialog.table.select("1")
        dialog._show_chosen()
        assert dialog.use.isEnabled()
        qtbot.waitUntil(lambda: bool(dialog.map.drawing.strokes), timeout=60_000)
        assert dialog.map.drawing == dialog.pictures[narrow].girth_map
        assert dialog.bow.drawing == dialog.pictures[narrow].bow
        on_hull, weighed = dialog.hull.mesh, dialog.found[narrow]
        assert on_hull is not None
        assert on_hull.strip.max() == weighed.per_side, "on the hull before it is taken"
        assert sum(shade > 1 for shade in on_hull.shades) == weighed.hard, "coloured by how strips go on"
        dialog.hull.picked.emit(3)
        assert dialog.map._marked == "strip:3", "a strip picked on the hull is found on the map"
        small = [dialog.table.model().index(n, 0).data(Qt.ItemDataRole.DecorationRole).toImage() for n in (0, 1)]
        assert small[0] != small[1], "each way has its own small picture"
        assert len({small[0].pixel(x, 18) for x in range(small[0].width())}) > 3, "and something is drawn in it"
        row = [dialog.table.model().index(1, c).data() for c in range(dialog.table.model().columnCount())]
        now = [dialog.table.model().index(0, c).data() for c in range(dialog.table.model().columnCount())]
        more = int(row[3].split()[0]) - int(now[3])
        assert row[3].endswith(f"({more:+d})".replace("-", "\u2212")), "what is more and less than now"
        dialog.use.click()
        return 1

    monkeypatch.setattr(CompareDialog, "exec", use_the_second)
    window.menus.actions["compare"].trigger()
    assert window.session.job.strips.width == 20.0
    assert window.session.undo_label.startswith("another way")


def test_a_search_keeps_the_best_and_can_be_stopped(window: MainWindow, qtbot: Any) -> None:
    job = change(linnet(), "strips", width=60.0, thickness=60.0)  # few strips, and few widths: quickly tried
    dialog = CompareDialog(job, MM, window.state.theme, window)
    qtbot.addWidget(dialog)
    qtbot.waitUntil(lambda: not dialog.running, timeout=60_000)
    dialog.search()
    qtbot.waitUntil(lambda: not dialog.running, timeout=120_000)
    assert 2 <= len(dialog.plans) <= 6
    assert dialog.plans[0] == job.strips
    assert "ways tried" in dialog.said.text()
    orders = [dialog.found[p].order for p in dialog.plans[1:]]
    assert orders == sorted(orders)
    dialog.search()
    dialog.stop_button.click()
    assert not dialog.running
    dialog.reject()


def test_ticks_are_read_across_the_shop(window: MainWindow, qtbot: Any, page: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    ticked(qtbot, window)
    shown: list[BenchMode] = []
    monkeypatch.setattr(BenchMode, "exec", lambda dialog: shown.append(dialog) or dialog.reject() or 0)
    window.choose_mold(5)
    window.menus.actions["bench-ticks"].trigger()
    (bench,) = shown
    assert bench.steps[0].heading == "Mold 6, strip 1"
    assert bench.steps[0].number == "14.0"
    assert "bevel" in bench.steps[0].below

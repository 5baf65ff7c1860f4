"""Offsets brought in through the window: a scanned hull, a lines drawing, a picture; notes, lines and stations typed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QInputDialog

from hollow_keel.app.picking import BOW, STATION, TRANSOM, Picking, Target
from hollow_keel.core.errors import InputError
from hollow_keel.core.offsets.by_lines import ByLines
from hollow_keel.core.offsets.calibration import KnownPoint, calibrate
from hollow_keel.core.offsets.table import LineKind, OffsetsTable, read_lines
from hollow_keel.core.units import LengthStyle
from hollow_keel.demo.jobs import linnet
from hollow_keel.files.lines.drawing import read_drawing
from hollow_keel.files.pictures import page_count, read_picture
from hollow_keel.ui.incoming.dialogs import DrawingDialog, MeshDialog
from hollow_keel.ui.incoming.pick_dialog import PickDialog
from hollow_keel.ui.incoming.what_came import WhatCame
from hollow_keel.ui.pages.offsets.page import BY_LINES
from hollow_keel.ui.views.scale_box import ScaleBox
from hollow_keel.ui.window.theme import LIGHT
from hollow_keel.ui.window.window import MainWindow
from tests.files.test_drawings_in import lines_drawing, triangles
from tests.files.test_lines_views import as_svg
from tests.ui.conftest import answering as ask
from tests.ui.conftest import settle


def answering(monkeypatch: pytest.MonkeyPatch, kind: type[QDialog], answer: Any) -> None:
    """Let a dialog be filled in by `answer` instead of a hand."""

    def run(dialog: QDialog) -> int:
        answer(dialog)
        return dialog.result()

    monkeypatch.setattr(kind, "exec", run)


@pytest.fixture
def told(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    said: list[str] = []
    answering(monkeypatch, WhatCame, lambda dialog: said.append(dialog.said.toPlainText()))
    return said


def test_a_scanned_hull_becomes_a_job(
    window: MainWindow, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, told: list[str]
) -> None:
    skin = triangles(window.state.shape.hull)
    skin.vertices /= 1000.0
    skin.export(tmp_path / "scan.stl")

    def fill(dialog: MeshDialog) -> None:
        assert "5.5 long" in dialog.how_large.text()  # taken for millimetres, and said so
        dialog._try()
        assert "which unit" in dialog.problem.text()
        dialog.scale.setCurrentIndex(dialog.scale.findData(1.0))
        dialog._try()
        assert "spacing" in dialog.problem.text()
        assert dialog.taken is None
        dialog.scale.setCurrentIndex(dialog.scale.findData(1000.0))
        assert "5 353" in dialog.how_large.text().replace("\u202f", " ")
        dialog.spacing.setText("450 mm")
        dialog._try()

    answering(monkeypatch, MeshDialog, fill)
    before = window.state.shape.measures.volume
    window.importer.import_from(tmp_path / "scan.stl")
    settle(qtbot, window)
    assert window.state.shape.measures.volume == pytest.approx(before, rel=0.005)
    assert "not closed" in told[0]
    window.session.undo()
    assert window.session.job.offsets == linnet().offsets


def test_a_lines_drawing_becomes_a_job(
    window: MainWindow, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, told: list[str]
) -> None:
    roles = lines_drawing(tmp_path / "lines.dxf", units=0, sheer_off=9.0)

    def fill(dialog: DrawingDialog) -> None:
        for name, role in roles.items():
            dialog.set_role(name, role.role, f"{role.position:g}")
        dialog._try()
        assert "does not say its unit" in dialog.problem.text()
        dialog.scale.setCurrentIndex(dialog.scale.findData(25.4))
        for name, value in (("body_centreline", "100"), ("body_baseline", "20"), ("profile_zero", "seven")):
            dialog.origins[name].setText(value)
        dialog._try()
        assert "profile zero" in dialog.problem.text()
        dialog.origins["profile_zero"].setText("7")
        dialog.origins["profile_baseline"].setText("90")
        dialog._try()
        assert dialog.taken is not None, dialog.problem.text()

    answering(monkeypatch, DrawingDialog, fill)
    window.importer.import_from(tmp_path / "lines.dxf")
    settle(qtbot, window)
    stations = [s.x for s in window.state.shape.lines.stations]
    assert stations == [s.x for s in read_lines(linnet().offsets).stations]
    assert "Station 2500" in told[0]


def test_a_click_in_the_drawing_fills_the_field(qapp: QApplication, tmp_path: Path, qtbot: Any) -> None:
    lines_drawing(tmp_path / "lines.dxf")
    dialog = DrawingDialog(read_drawing(tmp_path / "lines.dxf"), LengthStyle(), LIGHT)
    qtbot.addWidget(dialog)
    dialog.show()
    dialog._stood_in = dialog.origins["profile_baseline"]
    drawing = dialog.drawing.layers["STEM"][0]
    dialog._pointed(float(drawing[0, 0]) + 0.3, float(drawing[0, 1]) - 0.2)
    assert float(dialog.origins["profile_baseline"].text()) == pytest.approx(float(drawing[0, 1]))
    dialog.preview._click(dialog.preview.mapFromScene(0.0, 0.0).toPointF())


def test_a_file_that_is_none_of_these_is_said(window: MainWindow, tmp_path: Path, warnings: list[str]) -> None:
    for name in ("a.stl", "a.dxf", "a.png", "a.pdf", "a.json", "a.csv"):
        (tmp_path / name).write_bytes(b"rubbish")
        window.importer.import_from(tmp_path / name)
    assert len(warnings) == 6
    assert window.session.job.offsets == linnet().offsets


# -- points off a picture -----------------------------------------------------------------------------


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("turn", [0.0, 0.02, -0.03])
def test_two_marks_give_a_picture_its_measure(mirrored: bool, turn: float) -> None:
    def pixel(y: float, z: float) -> tuple[float, float]:
        at = complex(y, z) * np.exp(1j * turn) / 1.7
        return 400 + (-at.real if mirrored else at.real), 700 - at.imag

    found = calibrate(KnownPoint(pixel(0, 0), (0, 0)), KnownPoint(pixel(600, 500), (600, 500)))
    assert found.place(*pixel(321.0, 87.0)) == pytest.approx((321.0, 87.0))
    assert found.mm_per_pixel == pytest.approx(1.7)
    assert abs(found.turned) == pytest.approx(abs(turn), abs=1e-9)


def test_marks_too_near_are_refused() -> None:
    with pytest.raises(InputError, match="too near"):
        calibrate(KnownPoint((1, 1), (0, 0)), KnownPoint((5, 5), (100, 100)))
    with pytest.raises(InputError, match="Set two marks"):
        Picking().pick(3, 3)


def picked() -> Picking:
    picking = Picking(half_siding=14.0)
    picking.set_mark(0, (100, 900), (0, 0))
    picking.set_mark(1, (900, 900), (800, 0))
    return picking


def test_picks_replace_their_station_and_keep_the_rest() -> None:
    table = linnet().offsets
    picking = picked()
    picking.target = Target(STATION, 2100.0)
    for x, y in ((600, 500), (650, 600), (400, 850), (120, 890)):  # from the sheer down
        picking.pick(x, y)
    picking.toggle_chine()
    picking.toggle_chine()
    picking.target = Target(BOW)
    for x, y in ((700, 800), (300, 600), (100, 200)):
        picking.pick(x, y)
    picking.target = Target(TRANSOM, 5200.0)
    for x, y in ((120, 800), (400, 500)):
        picking.pick(x, y)
    made = picking.onto(table)
    own = [r for r in made.rows if r.station == 2100.0]
    assert [(r.label, r.half_breadth, r.height) for r in own] == [
        ("keel", 20.0, 10.0),
        ("wl", 300.0, 50.0),
        ("wl", 550.0, 300.0),
        ("sheer", 500.0, 400.0),
    ]
    assert [r.half_breadth for r in made.rows if r.label == "stem_bow"] == [14.0] * 3
    assert len([r for r in made.rows if r.label == "transom"]) == 2
    others = [r for r in table.rows if r.station != 2100.0 and r.label in ("keel", "wl", "sheer")]
    assert [r for r in made.rows if r in others] == others
    picking.take_back()
    with pytest.raises(InputError, match="no line"):
        picking.onto(table)
    with pytest.raises(InputError, match="nothing was picked"):
        Picking().onto(OffsetsTable())


def test_a_picture_and_a_pdf_are_read_and_clicked(qapp: QApplication, qtbot: Any, tmp_path: Path) -> None:
    from reportlab.pdfgen import canvas

    image = QImage(640, 480, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFF)
    image.save(str(tmp_path / "plan.png"))
    sheet = canvas.Canvas(str(tmp_path / "plan.pdf"))
    for _ in range(2):
        sheet.rect(100, 100, 300, 500, fill=1)
        sheet.showPage()
    sheet.save()
    assert page_count(tmp_path / "plan.pdf") == 2
    page = read_picture(tmp_path / "plan.pdf", 1)
    assert max(page.width, page.height) == 4000
    middle = 3 * (page.height // 2 * page.width + page.width // 2)
    assert page.rgb[middle : middle + 3] == b"\0\0\0"
    with pytest.raises(InputError, match="no such page"):
        read_picture(tmp_path / "plan.pdf", 7)
    dialog = PickDialog(read_picture(tmp_path / "plan.png"), OffsetsTable(), LengthStyle(), LIGHT)
    qtbot.addWidget(dialog)
    dialog.show()
    qapp.processEvents()

    def click(x: int, y: int) -> None:
        at = dialog.view.mapFromScene(x, y)
        QTest.mouseClick(dialog.view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(at.x(), at.y()))

    click(100, 400)
    dialog.fields[1][0].setText("400")
    dialog.fields[1][1].setText("300")
    click(500, 100)
    assert "position" in dialog.step.text()
    dialog.position.setText("1000")
    for x, y in ((102, 395), (300, 350), (400, 200)):
        click(x, y)
    assert dialog.list.count() == 4
    QTest.keyClick(dialog.position, Qt.Key.Key_Tab)
    dialog._finish()
    rows = dialog.table.rows
    assert [r.label for r in rows] == ["keel", "wl", "sheer"]
    assert (rows[1].half_breadth, rows[1].height) == pytest.approx((200, 50), abs=3)


# -- the table by lines in the window -------------------------------------------------------------------


def test_the_traditional_table_is_typed_into(window: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    page: Any = window.pages.of("offsets")
    window.go_to_page("offsets")
    page.show_habit(BY_LINES)
    assert "points not shown" in page.unseen.text()
    page._list_unseen()
    first = page.unseen.menu().actions()[0]
    assert first.text().startswith("stem, bow at ")
    first.trigger()
    assert page.current_table is page.table
    assert page.table.currentIndex().row() == page.lines_model.read.unseen[0]
    page.show_habit(BY_LINES)
    page.lines_and_stations.measure_on_lines()
    settle(qtbot, window)
    assert page.unseen.text() == "the ends are not shown"
    model, table = page.lines_model, page.lines_table
    names = [model.line_name(line) for line in model.read.lines]
    row, column = names.index("waterline 300"), 6
    table.setCurrentIndex(model.index(row, column))
    assert model.setData(model.index(row, column), "21 1/2in")
    settle(qtbot, window)
    assert ByLines(window.session.job.offsets).value(model.read.lines[row], model.read.stations[column]) == pytest.approx(546.1)
    page.as_written.setChecked(True)
    assert model.index(row, column).data() == "21 1/2in"
    model.setData(model.index(row, column), "rubbish")
    assert model.index(row, column).data() == "rubbish"
    assert "cannot be read" in str(model.index(row, column).data(Qt.ItemDataRole.ToolTipRole))
    model.setData(model.index(row, column), "546")
    ask(monkeypatch, {"It is": LineKind.WATERLINE, "At height": "350"})
    page.lines_and_stations.ask_line()
    assert "waterline 350" in [model.line_name(line) for line in model.read.lines]
    ask(monkeypatch, {"Along the hull at": "2300"})
    settle(qtbot, window)
    page.lines_and_stations.ask_station()
    assert 2300.0 in model.read.stations
    new = model.read.stations.index(2300.0)
    table.setCurrentIndex(model.index(row, new))
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("new station", True))
    page.ask_note()
    assert model.note(row, new) == "new station"
    page.lines_and_stations.take_out_station()
    assert 2300.0 not in model.read.stations
    names = [model.line_name(line) for line in model.read.lines]
    table.setCurrentIndex(model.index(names.index("waterline 350"), 0))
    page.lines_and_stations.take_out_line()
    assert "waterline 350" not in [model.line_name(line) for line in model.read.lines]


@pytest.mark.parametrize(
    ("wrong", "right"),
    [
        ({"It is": LineKind.DIAGONAL, "Down from level by": "-1"}, {"Down from level by": "40"}),
        ({"It is": LineKind.BUTTOCK, "Off the centreline": "0"}, {"Off the centreline": "150"}),
    ],
)
def test_a_line_that_cannot_be_is_said_where_it_is_asked(
    wrong: dict[str, Any], right: dict[str, Any], window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Also while no hull can be drawn: it was taken then, and no message came."""
    page: Any = window.pages.of("offsets")
    monkeypatch.setattr(type(page.state), "drawn_from", lambda *_: None)
    said = ask(monkeypatch, wrong, right)
    before = len(window.session.job.offsets.lines)
    page.lines_and_stations.ask_line()
    assert any(words in said[0] for words in ("a diagonal falls", "a buttock stands off"))
    assert len(window.session.job.offsets.lines) == before + 1


def test_cells_are_filled_down_emptied_and_pasted(window: MainWindow, qtbot: Any) -> None:
    page: Any = window.pages.of("offsets")
    window.go_to_page("offsets")
    page.show_habit(BY_LINES)
    page.lines_and_stations.measure_on_lines()
    settle(qtbot, window)
    model, table = page.lines_model, page.lines_table
    names = [model.line_name(line) for line in model.read.lines]
    top = names.index("waterline 200")
    table.clearSelection()
    for row in (top, top + 1):
        table.selectionModel().select(model.index(row, 5), table.selectionModel().SelectionFlag.Select)
    page.fill_down()
    assert model.index(top + 1, 5).data() == model.index(top, 5).data()
    QTest.keyClick(table, Qt.Key.Key_Delete)
    assert model.index(top, 5).data() == ""
    QApplication.clipboard().setText("381\t469\n467\t547")
    table.setCurrentIndex(model.index(top, 5))
    table.paste()
    assert [model.index(top, c).data() for c in (5, 6)] == ["381.0", "469.0"]
    before = window.session.job
    QApplication.clipboard().setText("381\n" * 40)
    table.paste()
    assert window.session.job is before
    assert "more was pasted" in window.message.text()


def test_the_scale_of_a_drawing_is_chosen_or_typed(qapp: QApplication) -> None:
    box = ScaleBox("Unit", None)
    assert box.mm is None
    for text, mm in (("1 inch", 25.4), ("12 mm", 12.0), ("1/2 in", 12.7), ("1:8", 8.0), ("1 / 7,5", 7.5)):
        box.setEditText(text)
        assert box.mm == pytest.approx(mm)
    for text in ("", "broad", "0 mm", "-3"):
        box.setEditText(text)
        assert box.likely is None
        with pytest.raises(InputError):
            _ = box.mm
    assert ScaleBox("Unit", 1000.0).mm == 1000.0


def test_a_drawing_without_a_body_plan_becomes_a_job(
    window: MainWindow, qtbot: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, told: list[str]
) -> None:
    roles = as_svg(tmp_path / "lines.svg")

    def fill(dialog: DrawingDialog) -> None:
        for name, role in roles.items():
            dialog.set_role(name, role.role, f"{role.position:g}")
        dialog.scale.setEditText("1:10")
        for name, value in (("profile_zero", "20"), ("profile_baseline", "100"), ("plan_centreline", "30")):
            dialog.origins[name].setText(value)
        dialog.spacing.setText("25 cm")
        dialog._try()
        assert dialog.taken is not None, dialog.problem.text()

    answering(monkeypatch, DrawingDialog, fill)
    window.importer.import_from(tmp_path / "lines.svg")
    settle(qtbot, window)
    stations = [s.x for s in window.state.shape.lines.stations]
    assert stations == [250.0 * k for k in range(1, 20)]

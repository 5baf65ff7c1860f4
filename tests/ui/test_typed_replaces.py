"""What is typed replaces the value, though it be the text that was shown; what was only looked into stays as exact as it is."""

from __future__ import annotations

from operator import attrgetter
from typing import Any

import pytest
from PySide6.QtCore import QEvent, QModelIndex, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QWidget

from hollow_keel.app.deciding import record_of
from hollow_keel.app.setting_text import style_of, text_to_type
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings.survey import Reading, Survey
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.units import LengthStyle, LengthUnit
from hollow_keel.demo.jobs import linnet
from hollow_keel.ui.decide.in_place import InPlace
from hollow_keel.ui.views.fields import LengthField
from hollow_keel.ui.views.readings_table import ReadingsModel, ReadingsTable
from tests.shapes import bare_linnet

SIXTEENTHS = LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16)
EXACT = 12.695
"""Shown as 1/2 in, which is 12.7: near enough to be called so."""


def over(field: QLineEdit, text: str | None) -> None:
    field.selectAll()
    if text is not None:
        QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)


@pytest.mark.parametrize(("typed", "kept"), [("1/2", 12.7), (None, EXACT), ("3/4", 19.05)])
def test_a_setting_typed_over_itself_is_what_is_typed(qtbot: Any, typed: str | None, kept: float) -> None:
    parent = QWidget()
    qtbot.addWidget(parent)
    field = InPlace(record_of("molds.thickness"), EXACT, SIXTEENTHS, parent)
    assert field.text() == "1/2"
    with qtbot.waitSignal(field.kept) as signal:
        over(field, typed)
    assert signal.args == [pytest.approx(kept, abs=1e-9)]


@pytest.mark.parametrize(("typed", "entered"), [("1/2", [12.7]), (None, [])])
def test_a_field_typed_over_itself_is_what_is_typed(qtbot: Any, typed: str | None, entered: list[float]) -> None:
    field, found = LengthField("Width"), list[float]()
    qtbot.addWidget(field)
    field.entered.connect(found.append)
    field.show()
    field.show_length(EXACT, SIXTEENTHS)
    assert field.text() == "1/2"
    over(field, typed)
    assert found == pytest.approx(entered)


@pytest.mark.parametrize(("typed", "after"), [("2 1/2", 63.5), (None, 63.3)])
def test_a_cell_typed_over_itself_is_what_is_typed(qtbot: Any, typed: str | None, after: float) -> None:
    from hollow_keel.core.pipeline import Pipeline

    shape = Pipeline().shape(bare_linnet())
    mold = shape.molds.molds[0]
    surveys = [Survey(readings=(Reading(mold=mold.name, at=mold.station, height_port=63.3),))]
    model = ReadingsModel(lambda _label, survey: surveys.append(survey))
    table = ReadingsTable(model)
    qtbot.addWidget(table)
    table.show()
    eighths = LengthStyle(LengthUnit.INCH_FRACTION, 1 / 8)
    model.show_survey(surveys[0], shape.setup.marks, eighths)
    cell = model.index(0, 5, QModelIndex())
    table.setCurrentIndex(cell)
    table.edit(cell)
    editor = table.findChild(QLineEdit)
    assert editor is not None
    over(editor, typed)
    assert surveys[-1].of(mold.name, mold.station).height_port == pytest.approx(after, abs=1e-9)


def test_keys_that_wait_for_each_other_go_each_into_their_own_cell(qtbot: Any) -> None:
    """A builder types on while the machine is busy: the keys of four cells come all at once, and nothing is worked on between."""
    from hollow_keel.core.pipeline import Pipeline

    shape = Pipeline().shape(bare_linnet())
    surveys = [Survey()]
    millimetres = LengthStyle(LengthUnit.MM, 0.1)

    def put(_label: str, survey: Survey) -> None:
        surveys.append(survey)
        model.show_survey(survey, shape.setup.marks, millimetres)

    model = ReadingsModel(put)
    table = ReadingsTable(model)
    qtbot.addWidget(table)
    table.show()
    model.show_survey(surveys[0], shape.setup.marks, millimetres)
    table.setFocus()
    table.setCurrentIndex(model.index(0, 5, QModelIndex()))
    typed = ["254", "205", "71.5", "80"]
    for text in typed:
        for key in [*text, "\r"]:
            target = next((e for e in table.findChildren(QLineEdit) if e.isVisible()), table)
            code = Qt.Key.Key_Return if key == "\r" else Qt.Key(ord(key))
            QApplication.sendEvent(target, QKeyEvent(QEvent.Type.KeyPress, code, Qt.KeyboardModifier.NoModifier, key))
    heights = [surveys[-1].of(m.name, m.station).height_port for m in shape.molds.molds[:4]]
    assert heights == [float(text) for text in typed]


SHOPS = {"mm": LengthStyle(), "inches": SIXTEENTHS, "feet-inches-eighths": LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16)}
TYPED = {"mm": ("19.05", 19.05), "inches": ("3/4", 19.05), "feet-inches-eighths": ("0-0-6", 19.05)}


@pytest.mark.parametrize("shop", list(SHOPS))
def test_every_field_of_every_page_keeps_what_is_typed_and_what_it_shows(qtbot: Any, shop: str) -> None:
    """All that a page's column lists, and all that stands on drawings, is typed in this field."""
    parent, job, style = QWidget(), linnet(), SHOPS[shop]
    qtbot.addWidget(parent)
    parent.show()
    tried = 0
    for path, record in all_settings().items():
        now = attrgetter(path)(job)
        if record.setting.kind not in (Kind.LENGTH, Kind.FINE) or now is None:
            continue
        for text, want, near in (
            (None, now, 1e-12),
            (text_to_type(record, now, style).replace("\u202f", " "), now, 0.02),
            (*TYPED[shop], 1e-9),
        ):
            field = InPlace(record, now, style_of(record, style), parent)
            kept: list[float] = []
            field.kept.connect(kept.append)
            over(field, text)
            assert kept == [pytest.approx(want, abs=near)], (path, text)
            field.deleteLater()
            tried += 1
    assert tried > 200

"""No page of a job in inches shows millimetres, square metres or kilograms."""

from __future__ import annotations

import re
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QPushButton, QTableView

from hollow_keel.core.change import change
from hollow_keel.core.stages import SHOWN
from hollow_keel.core.units import LengthUnit
from hollow_keel.demo.jobs import demo_job
from hollow_keel.ui.pages.registry import PAGES
from hollow_keel.ui.views.drawing_view import DrawingView
from hollow_keel.ui.window.window import MainWindow

METRIC = re.compile(r"(?<![\w.])[-−±]?\d[\d.,\u202f]*\s?(?:mm|cm|m²|m³|kg|N|litres?|ml|g/m²|kg/l|MPa)(?![\w²³])|\((?:mm|kg|m²)\)")


def shown_texts(window: MainWindow) -> list[str]:
    """Every text that can be read: labels, buttons, drawings, headings and the first rows of tables."""
    found = [re.sub(r"<[^>]*>", " ", w.text()) for w in window.findChildren(QLabel) if w.isVisible()]
    found += [w.text() for w in window.findChildren(QPushButton) if w.isVisible()]
    for view in window.findChildren(DrawingView):
        if view.isVisible():
            found += [label.text for label in view.drawing.labels]
    for table in window.findChildren(QTableView):
        model: Any = table.model()
        if model is None or not table.isVisible():
            continue
        for column in range(model.columnCount()):
            found.append(str(model.headerData(column, Qt.Orientation.Horizontal) or ""))
            found += [str(model.index(row, column).data() or "") for row in range(min(model.rowCount(), 8))]
    return found


@pytest.mark.parametrize("name", ["sedge"])
def test_no_page_of_an_inch_job_shows_metric_units(window: MainWindow, qtbot: Any, name: str) -> None:
    job = change(demo_job(name), "units", unit=LengthUnit.INCH_FRACTION, amounts=None)
    window.session.start(change(job, "log", entries=()))
    qtbot.waitUntil(lambda: window.state.answered(SHOWN), timeout=120_000)
    wrong: dict[str, list[str]] = {}
    for page in PAGES:
        window.go_to_page(page.stage)
        qtbot.wait(400)
        texts = shown_texts(window)
        assert len(texts) > 10
        found = [text for text in texts if METRIC.search(text)]
        if found:
            wrong[page.stage] = found[:4]
    assert not wrong

"""A job in inches as a new user makes it, by keys alone: a table, sizes, a week of the log; every number is what was meant."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from hollow_keel.core.job import Job
from hollow_keel.core.settings.log_entry import Task
from hollow_keel.ui.incoming.new_table import NewTableDialog
from hollow_keel.ui.window.theme import LIGHT, apply_theme, load_fonts
from hollow_keel.ui.window.window import MainWindow
from tests.ui.conftest import discard, settle
from tests.ui.hub import Hub

IN = 25.4
STATIONS = tuple(24.0 * k for k in range(8))
ROWS = ("sheer height", "buttock", "keel height", "sheer", "wl 12", "wl 8", "wl 4", "keel")
"""Eight cells a station: 64."""
WEEK = (
    "Mon 2h molds 1-4",
    "Tue 1 1/2 h molds 5, 6 with Ana",
    "Wed 7pm-9:30pm set up molds",
    "Thu 3/4 h milled strips 1-40",
    "today 2h strips 1-2, 9 oz at 57 F",
)


@pytest.fixture
def blank(qapp: QApplication, tmp_path: Path, warnings: list[str], hub: Hub) -> Iterator[MainWindow]:
    load_fonts()
    apply_theme(qapp, LIGHT)
    made = MainWindow(Job(), tmp_path / "settings", None, hub.worker())
    made.show()
    yield made
    made.close()
    discard(made)


def station(k: int) -> list[tuple[str, float]]:
    """What is typed at a station, as it is written and in inches: a hull of straight lines with fractions."""
    out = 1 - ((k - 3.5) / 5) ** 2
    keel = 1.5 + (k - 3.5) ** 2 / 8
    inches = (22.0, keel + 2.25, keel, 6 + 14 * out, 5.5 + 12 * out, 4.5 + 9 * out, 2 + 5 * out, 0.5)
    sixteenths = [round(16 * own) for own in inches]
    return [(fraction(n), n / 16) for n in sixteenths]


def fraction(sixteenths: int) -> str:
    whole, rest = divmod(sixteenths, 16)
    if not rest:
        return f"{whole}"
    of = 16
    while rest % 2 == 0:
        rest, of = rest // 2, of // 2
    return f"{whole} {rest}/{of}" if whole else f"{rest}/{of}"


def keys(text: str, then: Qt.Key = Qt.Key.Key_Return) -> None:
    for c in text:
        QTest.keyClick(focus(), c)
    QTest.keyClick(focus(), then)


def focus() -> QWidget:
    found = QApplication.focusWidget()
    assert found is not None
    return found


def in_dialog(dialog: NewTableDialog) -> int:
    """From the first field on with Tab: the unit by the arrow, eight stations two feet apart, waterlines, a buttock."""
    dialog.show()
    QTest.qWaitForWindowExposed(dialog)
    dialog.unit.setFocus()
    for _ in range(3):  # millimetres, metres, inches with decimals, inches and fractions
        QTest.keyClick(focus(), Qt.Key.Key_Down)
    keys("", Qt.Key.Key_Tab)  # the tape too: it is ticked
    assert dialog.tape_too.isChecked()
    keys("", Qt.Key.Key_Tab)
    keys("", Qt.Key.Key_Tab)
    for text in ("8", "24", "0", "", "4 to 12 every 4", "6"):
        if text and hasattr(focus(), "selectAll"):
            focus().selectAll()  # type: ignore[attr-defined]
        keys(text, Qt.Key.Key_Tab)
    for box in (dialog.bow, dialog.stern):
        box.setFocus()
        QTest.keyClick(box, Qt.Key.Key_End)
    assert dialog.problem.text() == ""
    dialog.accept()
    return int(dialog.result())


def test_a_job_in_inches_by_keys_alone(blank: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(NewTableDialog, "exec", in_dialog)
    blank.command("type-table")()
    blank.activateWindow()
    own = blank.page
    qtbot.waitUntil(own.sheet_table.hasFocus)
    assert own.sheet_model.sheet.cells[0] == ("Station (in)", *(f"{x:g}" for x in STATIONS))
    for k in range(8):
        for text, _ in station(k):
            keys(text)
    table = blank.session.job.offsets
    assert len(table.rows) == 8 * 6
    for k, x in enumerate(STATIONS):
        high, buttock, keel_high, *wide, keel = (inches * IN for _, inches in station(k))
        rows = [r for r in table.rows if r.station == pytest.approx(x * IN)]
        got = {(r.label, round(r.half_breadth, 6), round(r.height, 6)) for r in rows}
        want = {("sheer", wide[0], high), ("keel", keel, keel_high), ("wl", 6 * IN, buttock)}
        want |= {("wl", wide[1], 12 * IN), ("wl", wide[2], 8 * IN), ("wl", wide[3], 4 * IN)}
        assert got == {(label, round(y, 6), round(z, 6)) for label, y, z in want}
    settle(qtbot, blank)
    assert blank.state.shape is not None
    blank.go_to_page("molds")
    for path, text, inches in (
        ("molds.thickness", "1/2", 0.5),
        ("molds.skin", "5/16", 0.3125),
        ("molds.beyond_sheer", "1' 3/4\"", 12.75),
    ):
        blank.page.decisions.decide(path)
        QTest.keyClick(focus(), Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        keys(text)
        part, _, field = path.partition(".")
        assert getattr(getattr(blank.session.job, part), field) == pytest.approx(inches * IN, abs=1e-9)
    blank.command("begin-log")()
    blank.page.today = lambda: date(2026, 9, 25)
    blank.page.line.setFocus()
    for line in WEEK:
        keys(line)
    entries = blank.session.job.log.entries
    assert [(e.day.day, e.task, e.hours, e.people) for e in entries] == [
        (21, Task.MOLDS, 2.0, 1),
        (22, Task.MOLDS, 1.5, 2),
        (23, Task.SETTING_UP, 2.5, 1),
        (24, entries[3].task, 0.75, 1),
        (25, Task.PLANKING, 2.0, 1),
    ]
    assert [(e.molds, e.strips) for e in entries] == [
        (("1", "2", "3", "4"), None),
        (("5", "6"), None),
        ((), None),
        ((), None),
        ((), (1, 2)),
    ]
    assert entries[4].batches[0].grams == pytest.approx(9 * 28.349523, abs=0.1)
    assert entries[4].batches[0].temperature == pytest.approx((57 - 32) / 1.8, abs=0.05)

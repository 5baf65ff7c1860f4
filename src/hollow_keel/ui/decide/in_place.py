"""A setting typed right where it is shown: what is typed is tried at once, Enter keeps it, Esc gives it up."""

from __future__ import annotations

from contextlib import nullcontext
from typing import Any

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLineEdit, QMenu, QWidget

from ...app.setting_text import read_text, text_to_type
from ...core.errors import InputError
from ...core.job import Job
from ...core.places import Ends
from ...core.planking.possible import WAYS
from ...core.settings.record import Kind
from ...core.settings_table import Record
from ...core.units import LengthStyle
from ..background.later import later
from ..window.theme import figures
from .possible import greyed

REST_MS = 180
"""What is typed is tried when nothing was typed for so long."""


class InPlace(QLineEdit):
    """Emits `tried` with a value while it is typed, `kept` with the one that stays, `fault` with what cannot be read, and `left`
    when it is given up. It is gone afterwards."""

    tried = Signal(object)
    kept = Signal(object)
    fault = Signal(str)
    left = Signal()
    stepped = Signal(int)
    """Tab (1) or Shift+Tab (-1) was pressed after the value was kept."""

    def __init__(self, record: Record, value: Any, style: LengthStyle, parent: QWidget, ends: Ends | None = None) -> None:
        super().__init__(parent)
        self.record, self._value, self._style, self._ends = record, value, style, ends
        self.setObjectName("in-place")
        self.setAccessibleName(record.setting.label)
        self.setAccessibleDescription(record.setting.why)
        self.setFont(figures(13, strong=True))
        self.setPlaceholderText(record.setting.none)
        self.setText(text_to_type(record, value, style))
        self.selectAll()
        self._over = False
        self._rest = later(self, REST_MS, self._try)
        self.textEdited.connect(lambda _: self._rest.start())

    def begin(self, figure: str) -> None:
        """Another value is begun with a figure."""
        self.setText(figure)
        self.setModified(True)
        self._rest.start()

    def _try(self) -> None:
        try:
            self.tried.emit(self._read())
            self._mark(False)
        except InputError:
            self._mark(True)

    def _read(self) -> Any:
        """What is typed, though it be what was shown: a value that is shown rounded stays as exact as it is only where nothing was
        typed. Raises InputError."""
        return read_text(self.record, self.text(), self._style, None if self.isModified() else self._value, self._ends)

    def _keep(self) -> bool:
        """Whether what is typed could be read."""
        self._rest.stop()
        try:
            value = self._read()
        except InputError as error:
            self._mark(True)
            self.fault.emit(str(error))
            return False
        self._over = True
        self.kept.emit(value)
        return True

    def give_up(self) -> None:
        """As it was before."""
        self._rest.stop()
        if not self._over:
            self._over = True
            self.left.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._keep()
        elif key == Qt.Key.Key_Escape:
            self.give_up()
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, ahead: bool) -> bool:
        if self._over or self._keep():
            self.stepped.emit(1 if ahead else -1)
        return True

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Going elsewhere keeps what can be read, and gives up the rest."""
        super().focusOutEvent(event)
        if event.reason() is Qt.FocusReason.PopupFocusReason or self._over:
            return
        if not self.isModified() or not self._keep():
            self.give_up()

    def _mark(self, wrong: bool) -> None:
        if bool(self.property("wrong")) != wrong:
            self.setProperty("wrong", wrong)
            self.style().unpolish(self)
            self.style().polish(self)


def is_typed(record: Record) -> bool:
    """Whether a setting is typed; the others are chosen."""
    return record.setting.kind not in (Kind.CHOICE, Kind.FLAG)


def choices_of(record: Record) -> dict[Any, str]:
    """What can be chosen, in words."""
    if record.setting.kind is Kind.FLAG:
        return {True: "yes", False: "no"}
    return dict(record.setting.choices)


def choose(record: Record, value: Any, at: QPoint, parent: QWidget, job: Job) -> Any:
    """Ask which of a setting's choices a job is to have, in a menu at a place of the screen; the present one if nothing is chosen.
    What cannot be done turns grey, with why."""
    menu = QMenu(parent)
    menu.setAccessibleName(record.setting.label)
    menu.setToolTipsVisible(True)
    found = choices_of(record)
    acts = {}
    for own, text in found.items():
        action = menu.addAction(text)
        acts[action] = own
        action.setCheckable(True)
        action.setChecked(own == value)
        if own == value:
            menu.setActiveAction(action)
    asks = record.path in WAYS and bool(job.offsets.rows)
    with greyed(menu, acts, job, record.path) if asks else nullcontext():
        chosen = menu.exec(at)
    menu.deleteLater()
    return acts.get(chosen, value)

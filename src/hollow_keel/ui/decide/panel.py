"""What you decide: the settings of a page in groups that fold, each a short line with its value."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from ...app.deciding import record_of, value_of, whole_of
from ...app.setting_text import style_of, text_to_show
from ..window.state import State
from .dotted import Dotted
from .groups import Doing, Group, Line, means_something
from .in_place import InPlace, choose, is_typed

ROOM, INDENT = 190, 11
"""Pixels that a line may be wide, and how far it stands in from its heading."""
OPEN_AT_FIRST = 2
"""So many groups are open when a page is first seen."""


class SettingRow(QWidget):
    """One line. `tried`, `kept`: the path and a value; `left`: it is given up."""

    tried = Signal(str, object)
    kept = Signal(str, object)
    left = Signal()
    said = Signal(str)
    stepped = Signal(int)

    def __init__(self, line: Line) -> None:
        super().__init__()
        self.line = line
        own = line if isinstance(line, Doing) else None
        label = own.label if own else record_of(str(line)).setting.label
        self.name = QLabel(label)
        self.name.setObjectName("small")
        self.value = Dotted(own.label if own else record_of(str(line)).setting.label)
        self.value.clicked.connect(self.open)
        self.value.begun.connect(self._begin)
        if own is None:
            why = record_of(str(line)).setting.why
            self.setToolTip(f"{why[:1].upper()}{why[1:]}.")
            self.value.setAccessibleDescription(why)
        self.field: InPlace | None = None
        self._place = QHBoxLayout()
        self._place.addWidget(self.value)
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(INDENT, 0, 0, 0)
        self._grid.setHorizontalSpacing(6)
        self._grid.setVerticalSpacing(0)
        self._grid.setColumnStretch(1, 1)
        self._grid.addWidget(self.name, 0, 0)
        self._grid.addLayout(self._place, 0, 1)
        self._two_lines = False
        self.state: State | None = None

    def _fit(self) -> None:
        """Name and value beside each other, or one above the other where there is no room for both."""
        wide = self.name.sizeHint().width() + self.value.sizeHint().width() + 6
        two = wide > ROOM - INDENT
        if two != self._two_lines:
            self._two_lines = two
            self._grid.removeItem(self._place)
            self._grid.addLayout(self._place, *((1, 0, 1, 2) if two else (0, 1)))

    def show_state(self, state: State) -> None:
        """What the job says now; what is being typed is left alone."""
        self.state = state
        if isinstance(self.line, Doing):
            text = self.line.shown(state)
        else:
            record = record_of(self.line)
            text = text_to_show(record, value_of(self.line, state.job), state.style)
        self.value.show_value(text, state.theme)
        self._fit()

    def open(self) -> None:
        """Type it here, or choose."""
        if self.state is None or self.field is not None:
            return
        if isinstance(self.line, Doing):
            self.kept.emit(self.line.command, None)
            return
        record = record_of(self.line)
        now = value_of(self.line, self.state.job)
        if not is_typed(record):
            below = self.value.mapToGlobal(QPoint(0, self.value.height()))
            chosen = choose(record, now, below, self, self.state.job)
            if chosen != now:
                self.kept.emit(self.line, chosen)
            return
        self.field = InPlace(record, now, style_of(record, self.state.style), self, self.state.job.offsets.ends)
        self.field.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.field.tried.connect(lambda value: self.tried.emit(self.line, value))
        self.field.kept.connect(self._keep)
        self.field.left.connect(self._leave)
        self.field.fault.connect(self.said)
        self.field.stepped.connect(self.stepped)
        self._place.addWidget(self.field)
        self.value.hide()
        self.field.show()
        self.field.setFocus()

    def _begin(self, figure: str) -> None:
        """Open it with a figure that was typed on it."""
        self.open()
        if self.field is not None:
            self.field.begin(figure)

    def _keep(self, value: Any) -> None:
        self._close()
        self.kept.emit(str(self.line), value)

    def _leave(self) -> None:
        self._close()
        self.left.emit()

    def _close(self) -> None:
        field, self.field = self.field, None
        if field is not None:
            had = field.window().focusWidget() is field
            self._place.removeWidget(field)
            self.value.show()
            field.hide()
            field.deleteLater()
            if had:
                self.value.setFocus()


class GroupBox(QWidget):
    """A heading that folds, and its lines."""

    def __init__(self, group: Group, rows: Sequence[SettingRow]) -> None:
        super().__init__()
        self.group, self.rows = group, list(rows)
        self.fold = QToolButton()
        self.fold.setObjectName("fold")
        self.fold.setCheckable(True)
        self.fold.setAccessibleName(f"{group.heading}: show or hide")
        self.fold.toggled.connect(self._folded)
        self.inside = QWidget()
        column = QVBoxLayout(self.inside)
        column.setContentsMargins(0, 0, 0, 4)
        column.setSpacing(1)
        for row in rows:
            column.addWidget(row)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(1)
        whole.addWidget(self.fold)
        whole.addWidget(self.inside)
        self._folded(False)

    def _folded(self, opened: bool) -> None:
        self.fold.setText(f"{'▾' if opened else '▸'} {self.group.heading.upper()}")
        self.inside.setVisible(opened)

    def show_state(self, state: State) -> None:
        """Only the lines that mean something; a group with none is not seen."""
        seen = False
        for row in self.rows:
            meant = means_something(row.line, state.job)
            row.setVisible(meant)
            seen = seen or meant
            if meant and self.fold.isChecked():
                row.show_state(state)
            else:
                row.state = state
        self.setVisible(seen)


class Decisions(QWidget):
    """All groups of a page. `tried`, `kept`, `left` as of a row; `doing` carries the command that a line opens."""

    tried = Signal(str, object)
    kept = Signal(str, object)
    left = Signal()
    said = Signal(str)
    doing = Signal(str)

    def __init__(self, groups: Sequence[Group], of: str) -> None:
        super().__init__()
        self.groups: list[GroupBox] = []
        self.rows: dict[str, SettingRow] = {}
        self._state: State | None = None
        head = QHBoxLayout()
        title, whose = QLabel("WHAT YOU DECIDE"), QLabel(of)
        title.setObjectName("decide")
        whose.setObjectName("small")
        head.addWidget(title)
        head.addStretch(1)
        head.addWidget(whose)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(head)
        for group in groups:
            box = GroupBox(group, [self._row(line) for line in group.lines])
            box.fold.toggled.connect(lambda _on: self._again())
            self.groups.append(box)
            column.addWidget(box)
        for box in self.groups[:OPEN_AT_FIRST]:
            box.fold.setChecked(True)
        column.addStretch(1)

    def _row(self, line: Line) -> SettingRow:
        row = SettingRow(line)
        row.tried.connect(self.tried)
        row.kept.connect(self._kept)
        row.left.connect(self.left)
        row.said.connect(self.said)
        row.stepped.connect(lambda by, row=row: self._step(row, by))
        self.rows[line.command if isinstance(line, Doing) else line] = row
        return row

    def _kept(self, path: str, value: Any) -> None:
        row = self.rows[path]
        if isinstance(row.line, Doing):
            self.doing.emit(path)
        else:
            self.kept.emit(path, value)

    def _step(self, row: SettingRow, by: int) -> None:
        """Tab goes on to the next value on show."""
        shown = [r for box in self.groups for r in box.rows if r.isVisible()]
        at = shown.index(row) + by if row in shown else -1
        if 0 <= at < len(shown):
            shown[at].value.setFocus()

    def _again(self) -> None:
        if self._state is not None:
            self.show_state(self._state)

    def show_state(self, state: State) -> None:
        """Show a moment of the window."""
        self._state = state
        for box in self.groups:
            box.show_state(state)

    def open_for(self, path: str) -> None:
        """Open the group that a setting, or one of several in it, is in."""
        path = whole_of(path)
        for box in self.groups:
            if path in box.group.paths:
                box.fold.setChecked(True)

    def decide(self, path: str) -> None:
        """Open a setting's group and begin to type it."""
        self.open_for(path)
        row = self.rows.get(path)
        if row is not None:
            row.open()

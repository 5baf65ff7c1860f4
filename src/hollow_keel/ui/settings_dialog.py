"""Many settings of a job in one dialog, described as data; taken over together as one step."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from operator import attrgetter
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from ..core.change import change
from ..core.errors import InputError
from ..core.job import Job
from ..core.settings.record import Kind
from ..core.settings.strip_choices import MasterKind
from ..core.settings_table import Record, all_settings, is_length
from ..core.units import LengthStyle, format_length, parse_length
from .typed_lists import read_heights, read_number, read_whole, read_zones, write_heights, write_zones
from .views.fields import choice_box

WIDTH, TALL, GAP = 760, 600, 8
"""The dialog on any screen, pixels, and the room between two settings."""


@dataclass(frozen=True)
class Group:
    """Settings that belong together, by their paths, under a heading."""

    heading: str
    paths: tuple[str, ...]

    @property
    def settings(self) -> tuple[Record, ...]:
        """Their records."""
        return tuple(all_settings()[path] for path in self.paths)


LISTS: Mapping[str, tuple[Callable[[str, LengthStyle], Any], Callable[[Any, LengthStyle], str]]] = {
    "strips.zones": (read_zones, write_zones),
    "strips.master.heights": (read_heights, write_heights),
}
"""Settings of several things: how they are typed and written."""
CHOOSES: Mapping[str, Mapping[str, Any]] = {"strips.master.heights": {"kind": MasterKind.HEIGHTS}}
"""What typing a setting chooses beside it."""
EXAMPLES = {
    "strips.zones": "1-2: 10 wide; 12: 14 of ash; 30-34: 4 thick",
    "strips.master.heights": "500: 420; 2600: 300; 5000: 380",
    "molds.stringers": "none; for example 35, 65",
}


class SettingsDialog(QDialog):
    """Shows groups of settings; `job` is the job with what was typed once the dialog is accepted."""

    def __init__(
        self, title: str, groups: Sequence[Group], job: Job, style: LengthStyle, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.job = job
        self.style_of_lengths = style
        self.fields: dict[str, QWidget] = {}
        self._settings = [s for group in groups for s in group.settings]
        self._groups = list(groups)
        self._rows: dict[str, list[QWidget]] = {}
        self.list = QListWidget()
        self.list.setAccessibleName("Groups of settings")
        self.pages = QStackedWidget()
        for group in groups:
            self.list.addItem(group.heading)
            self.pages.addWidget(self._page(group))
        self.list.setSpacing(3)
        self.list.setFixedWidth(self.list.sizeHintForColumn(0) + 40)
        self.list.currentRowChanged.connect(self.pages.setCurrentIndex)
        self.list.setVisible(len(groups) > 1)
        halves = QHBoxLayout()
        halves.addWidget(self.list)
        halves.addWidget(self.pages, 1)
        self.fault = QLabel()
        self.fault.setObjectName("note")
        self.fault.setWordWrap(True)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.take)
        buttons.rejected.connect(self.reject)
        layout = QVBoxLayout(self)
        layout.addLayout(halves, 1)
        layout.addWidget(self.fault)
        layout.addWidget(buttons)
        self.list.setCurrentRow(0)
        self.resize(WIDTH, TALL)
        self._follow()

    def _page(self, group: Group) -> QScrollArea:
        """The settings of one group, each with what it is for under it."""
        inside = QWidget()
        grid = QGridLayout(inside)
        grid.setVerticalSpacing(2)
        grid.setColumnStretch(2, 1)
        for k, setting in enumerate(group.settings):
            field = self._field(setting)
            words = setting.setting
            field.setAccessibleName(words.label)
            self.fields[setting.path] = field
            why = QLabel(f"{words.why[:1].upper()}{words.why[1:]}.")
            why.setObjectName("why")
            why.setWordWrap(True)
            own: list[QWidget] = [field, why]
            if words.kind is Kind.FLAG:
                grid.addWidget(field, 3 * k, 0, 1, 3)
            else:
                unit = f", {words.unit}" if words.unit and words.unit not in words.label else ""
                label = QLabel(f"{words.label}{unit}")
                label.setBuddy(field)
                own.append(label)
                grid.addWidget(label, 3 * k, 0)
                grid.addWidget(field, 3 * k, 1, 1, 2, Qt.AlignmentFlag.AlignLeft)
            grid.addWidget(why, 3 * k + 1, 0, 1, 3)
            gap = QWidget()
            gap.setFixedHeight(GAP)
            grid.addWidget(gap, 3 * k + 2, 0)
            self._rows[setting.path] = [*own, gap]
        grid.setRowStretch(3 * len(group.settings), 1)
        page = QScrollArea()
        page.setWidget(inside)
        page.setWidgetResizable(True)
        page.setFrameShape(QFrame.Shape.NoFrame)
        return page

    def _follow(self) -> None:
        """Only those settings that mean something by what is chosen now."""
        try:
            job = self._now_said()
        except InputError:
            return  # while something is being typed
        shown = {record.path for record in self._settings if record.setting.when(job)}
        for path, widgets in self._rows.items():
            for widget in widgets:
                widget.setVisible(path in shown)
        for k, group in enumerate(self._groups):
            item = self.list.item(k)
            if item is not None:
                item.setHidden(shown.isdisjoint(group.paths))

    def _field(self, record: Record) -> QWidget:
        value, words = self._now(record), record.setting
        if words.kind is Kind.CHOICE:
            combo = choice_box(words)
            combo.setCurrentIndex(combo.findData(value))
            combo.currentIndexChanged.connect(self._follow)
            return combo
        if words.kind is Kind.FLAG:
            flag = QCheckBox(words.label)
            flag.setChecked(bool(value))
            flag.toggled.connect(self._follow)
            return flag
        line = QLineEdit(self._text(record, value))
        line.setPlaceholderText(EXAMPLES.get(record.path, words.none))
        if record.path in LISTS:
            line.setMinimumWidth(330)
        else:
            line.setFixedWidth(130)
        line.editingFinished.connect(self._follow)
        return line

    def _now(self, record: Record) -> Any:
        return attrgetter(record.path)(self.job)

    def _text(self, record: Record, value: Any) -> str:
        """A value as it is typed."""
        if value is None:
            return ""
        if record.path in LISTS:
            return LISTS[record.path][1](value, self.style_of_lengths)
        if is_length(record):
            return format_length(value, self._style(record))
        if record.setting.kind is Kind.SHARES:
            return ", ".join(f"{100 * share:g}" for share in value)
        return f"{value:g}" if isinstance(value, float) else str(value)

    def _style(self, record: Record) -> LengthStyle:
        return self.style_of_lengths.fine if record.setting.kind is Kind.FINE else self.style_of_lengths

    def _now_said(self) -> Job:
        """The job with what is typed. Raises InputError."""
        job = self.job
        for part in dict.fromkeys(s.part for s in self._settings):
            own = [s for s in self._settings if s.part == part]
            fields = {s.field: self._value(s) for s in own}
            for record in own:
                if fields[record.field] and fields[record.field] != self._now(record):
                    fields |= CHOOSES.get(record.path, {})
            job = change(job, part, **fields)
        return job

    def take(self) -> None:
        """Take what was typed; a value that cannot be is said, and the dialog stays."""
        try:
            self.job = self._now_said()
        except InputError as error:
            self.fault.setText(str(error))
            self._show_fault(error.where)
            return
        self.accept()

    def _show_fault(self, where: str) -> None:
        """The group of the setting that a fault is at: named by its label where it was typed, by its field where it was refused."""
        for k, group in enumerate(self._groups):
            if any(where.startswith((r.setting.label, r.field.replace("_", " "))) for r in group.settings):
                self.list.setCurrentRow(k)
                return

    def _value(self, record: Record) -> Any:
        field = self.fields[record.path]
        if isinstance(field, QComboBox):
            return field.currentData()
        if isinstance(field, QCheckBox):
            return field.isChecked()
        assert isinstance(field, QLineEdit)
        text = field.text().strip()
        if record.may_be_none and not text:
            return None
        old = self._now(record)
        same = old is not None and text == self._text(record, old)
        return old if same else self._typed(record, text)  # not typed anew: not rounded to the tape

    def _typed(self, record: Record, text: str) -> Any:
        """A text as a value."""
        label, style = record.setting.label, self._style(record)
        if is_length(record):
            try:
                return parse_length(text, style.unit)
            except InputError as error:
                raise error.at(label) from None
        readers: dict[Kind, Callable[[], Any]] = {
            Kind.NUMBER: lambda: read_number(text, label),
            Kind.DEGREES: lambda: read_number(text, label),
            Kind.WHOLE: lambda: read_whole(text, label),
            Kind.SHARES: lambda: _shares(text, label),
            Kind.RECORDS: lambda: LISTS[record.path][0](text, style),
        }
        return readers.get(record.setting.kind, lambda: text)()


def _shares(text: str, label: str) -> tuple[float, ...]:
    found: list[float] = []
    for word in text.replace(";", ",").replace("%", " ").split(","):
        if not word.strip():
            continue
        try:
            found.append(float(word) / 100)
        except ValueError:
            raise InputError(
                "this is not a share in per cent", label, word.strip(), "Write for example 35, 65."
            ) from None
    return tuple(found)

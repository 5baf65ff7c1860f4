"""Many settings of a job in one dialog, described as data; taken over together as one step."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from operator import attrgetter
from typing import Any

from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QGroupBox,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from ..app.overrides import change
from ..core.errors import InputError
from ..core.job import Job
from ..core.units import LengthStyle, format_length, parse_length
from .typed_lists import read_heights, read_number, read_whole, read_zones, write_heights, write_zones


class Kind(StrEnum):
    """How a setting is typed."""

    LENGTH = "length"
    LENGTH_OR_NONE = "length-or-none"
    CHOICE = "choice"
    FLAG = "flag"
    SHARES = "shares"
    """Shares of a whole in per cent, with commas."""
    NUMBER = "number"
    NUMBER_OR_NONE = "number-or-none"
    ZONES = "zones"
    HEIGHTS = "heights"
    WHOLE = "whole"
    WORD = "word"
    FINE = "fine"
    """A length that a caliper measures."""


@dataclass(frozen=True)
class Setting:
    """One setting: its name for people, the part of the job and the field it is, how it is typed, its choices."""

    label: str
    part: str
    field: str
    kind: Kind = Kind.LENGTH
    choices: tuple[tuple[str, Any], ...] = ()
    hint: str = ""


@dataclass(frozen=True)
class Group:
    """Settings that belong together, under a heading."""

    heading: str
    settings: tuple[Setting, ...]


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
        columns = QGridLayout()
        for k, group in enumerate(groups):
            columns.addWidget(self._box(group), k // 2, k % 2)
        self.fault = QLabel()
        self.fault.setObjectName("note")
        self.fault.setWordWrap(True)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.take)
        buttons.rejected.connect(self.reject)
        layout = QVBoxLayout(self)
        layout.addLayout(columns)
        layout.addWidget(self.fault)
        layout.addWidget(buttons)

    def _box(self, group: Group) -> QGroupBox:
        box = QGroupBox(group.heading)
        grid = QGridLayout(box)
        grid.setVerticalSpacing(6)
        for row, setting in enumerate(group.settings):
            field = self._field(setting)
            field.setAccessibleName(setting.label)
            field.setToolTip(setting.hint)
            self.fields[f"{setting.part}.{setting.field}"] = field
            if setting.kind is Kind.FLAG:
                grid.addWidget(field, row, 0, 1, 2)
                continue
            label = QLabel(setting.label)
            label.setBuddy(field)
            grid.addWidget(label, row, 0)
            grid.addWidget(field, row, 1)
        grid.setRowStretch(len(group.settings), 1)
        return box

    def _field(self, setting: Setting) -> QWidget:
        value = getattr(attrgetter(setting.part)(self.job), setting.field)
        if setting.kind is Kind.CHOICE:
            combo = QComboBox()
            for text, data in setting.choices:
                combo.addItem(text, data)
            combo.setCurrentIndex(combo.findData(value))
            return combo
        if setting.kind is Kind.FLAG:
            flag = QCheckBox(setting.label)
            flag.setChecked(bool(value))
            return flag
        line = QLineEdit(self._text(setting.kind, value))
        line.setPlaceholderText(setting.hint)
        if setting.kind in (Kind.ZONES, Kind.HEIGHTS):
            line.setMinimumWidth(330)
        else:
            line.setFixedWidth(130)
        return line

    def _text(self, kind: Kind, value: Any) -> str:
        """A value as it is typed."""
        if value is None:
            return ""
        own: dict[Kind, Callable[[], str]] = {
            Kind.SHARES: lambda: ", ".join(f"{100 * share:g}" for share in value),
            Kind.NUMBER: lambda: f"{value:g}",
            Kind.NUMBER_OR_NONE: lambda: f"{value:g}",
            Kind.ZONES: lambda: write_zones(value, self.style_of_lengths),
            Kind.HEIGHTS: lambda: write_heights(value, self.style_of_lengths),
            Kind.WHOLE: lambda: str(value),
            Kind.WORD: lambda: str(value),
        }
        return own.get(kind, lambda: format_length(value, self._style(kind)))()

    def _style(self, kind: Kind) -> LengthStyle:
        return self.style_of_lengths.fine if kind is Kind.FINE else self.style_of_lengths

    def take(self) -> None:
        """Take what was typed; a value that cannot be is said, and the dialog stays."""
        job = self.job
        try:
            for part in dict.fromkeys(s.part for s in self._settings):
                own = [s for s in self._settings if s.part == part]
                job = change(job, part, **{s.field: self._value(s) for s in own})
        except InputError as error:
            self.fault.setText(str(error))
            return
        self.job = job
        self.accept()

    def _value(self, setting: Setting) -> Any:
        field = self.fields[f"{setting.part}.{setting.field}"]
        if isinstance(field, QComboBox):
            return field.currentData()
        if isinstance(field, QCheckBox):
            return field.isChecked()
        assert isinstance(field, QLineEdit)
        text = field.text().strip()
        if setting.kind in (Kind.LENGTH_OR_NONE, Kind.NUMBER_OR_NONE) and not text:
            return None
        old = getattr(attrgetter(setting.part)(self.job), setting.field)
        if old is not None and text == self._text(setting.kind, old):
            return old  # not typed anew: not rounded to the tape
        style = self.style_of_lengths
        readers: dict[Kind, Callable[[], Any]] = {
            Kind.SHARES: lambda: _shares(text, setting.label),
            Kind.NUMBER: lambda: read_number(text, setting.label),
            Kind.NUMBER_OR_NONE: lambda: read_number(text, setting.label),
            Kind.WHOLE: lambda: read_whole(text, setting.label),
            Kind.WORD: lambda: text,
            Kind.ZONES: lambda: read_zones(text, style),
            Kind.HEIGHTS: lambda: read_heights(text, old, style),
        }
        if setting.kind in readers:
            return readers[setting.kind]()
        try:
            return parse_length(text, self._style(setting.kind).unit)
        except InputError as error:
            raise error.at(setting.label) from None


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

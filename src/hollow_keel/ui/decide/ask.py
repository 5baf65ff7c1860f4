"""Asking for a few values by their names, with a picture of what they do that follows while they are typed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from ...app.setting_text import read_number
from ...core.errors import InputError
from ...core.inch_sizes import usual_size
from ...core.units import LengthStyle, given_length, is_bare_number, parse_typed
from ...drawing.model import Drawing
from ..background.later import later
from ..views.drawing_view import DrawingView
from ..views.sentences import sentence
from ..window.theme import Theme

REST_MS = 120
WIDE, TALL, FIELD = 760, 420, 110

Values = Mapping[str, Any]


@dataclass(frozen=True)
class Asked:
    """One value: its name, where it starts, what it counts (empty: a length), or the words of its choices by value; and whether it
    means anything beside the others. A number of times may be typed as the length that is wanted, with its unit, where one is `of`
    a length, mm. A length of `ours` is a round one in the builder's unit."""

    name: str
    start: Any
    counts: str = ""
    choices: Mapping[Any, str] = field(default_factory=dict)
    when: Callable[[Values], bool] = lambda _values: True
    of: float = 0.0
    ours: bool = False


class AskDialog(QDialog):
    """`values` are those typed once it is accepted, by name (lengths mm). `picture` draws what they do, or raises InputError for
    what cannot be: then it cannot be accepted; `words` says what they come to. `check` raises InputError too, where nothing is
    drawn or said."""

    def __init__(
        self,
        title: str,
        asked: Sequence[Asked],
        style: LengthStyle,
        theme: Theme,
        picture: Callable[[Values], Drawing] | None = None,
        words: Callable[[Values], str] | None = None,
        intro: str = "",
        parent: QWidget | None = None,
        check: Callable[[Values], object] = lambda _values: None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._check = check
        self._asked, self._style, self._theme = list(asked), style, theme
        self._picture, self._words = picture, words
        self.values: Values = {}
        self.fields: dict[str, QLineEdit | QComboBox] = {}
        self._names: dict[str, QLabel] = {}
        self._starts: dict[str, str] = {}
        grid = QGridLayout()
        for k, one in enumerate(asked):
            self._add(grid, k, one)
        self.said, self.fault = QLabel(), QLabel()
        self.fault.setObjectName("note")
        left = QVBoxLayout()
        for text in (QLabel(intro) if intro else None, None):
            if text is not None:
                text.setWordWrap(True)
                left.addWidget(text)
        left.addLayout(grid)
        for label in (self.said, self.fault):
            label.setWordWrap(True)
            left.addWidget(label)
        left.addStretch(1)
        self.view = DrawingView("What it does")
        self.view.setVisible(picture is not None)
        halves = QHBoxLayout()
        halves.addLayout(left, 2)
        halves.addWidget(self.view, 3)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        whole = QVBoxLayout(self)
        whole.addLayout(halves, 1)
        whole.addWidget(self.buttons)
        self._rest = later(self, REST_MS, self.follow)
        self.resize(WIDE if picture is not None else 380, TALL if picture is not None else 180)
        self.follow()

    def _add(self, grid: QGridLayout, row: int, one: Asked) -> None:
        unit = one.counts or ("" if one.choices else self._style.name)
        label = QLabel(f"{one.name}, {unit}" if unit else one.name)
        box: QLineEdit | QComboBox
        if one.choices:
            box = QComboBox()
            for value, text in one.choices.items():
                box.addItem(text, value)
            box.setCurrentIndex(max(box.findData(one.start), 0))
            box.currentIndexChanged.connect(lambda _: self.follow())
        else:
            self._starts[one.name] = self._start_of(one)
            box = QLineEdit(self._starts[one.name])
            box.setFixedWidth(FIELD)
            box.textEdited.connect(lambda _: self._rest.start())
        box.setAccessibleName(one.name)
        label.setBuddy(box)
        grid.addWidget(label, row, 0)
        grid.addWidget(box, row, 1)
        self.fields[one.name], self._names[one.name] = box, label

    def _start_of(self, one: Asked) -> str:
        """A text to begin with."""
        if isinstance(one.start, str) or one.counts:
            return one.start if isinstance(one.start, str) else f"{one.start:g}"
        return given_length(self._length_of(one), self._style)

    def _length_of(self, one: Asked) -> float:
        return usual_size(one.start, self._style.unit) if one.ours else float(one.start)

    def read(self) -> Values:
        """What is typed now; a length that was not touched is as exact as it was. Raises InputError named after the value."""
        found = self._chosen()
        for one in self._asked:
            box = self.fields[one.name]
            if isinstance(box, QComboBox) or not one.when(found):
                continue
            text = box.text().strip()
            if one.counts and (one.of <= 0 or is_bare_number(text.replace(",", "."))):
                found[one.name] = read_number(text, one.name, 1.05)
                continue
            try:
                if one.of > 0:
                    found[one.name] = parse_typed(text, self._style.unit) / one.of
                    continue
                untouched = text == self._starts[one.name] and not box.isModified() and not isinstance(one.start, str)
                found[one.name] = self._length_of(one) if untouched else parse_typed(text, self._style.unit)
            except InputError as error:
                raise error.at(one.name) from None
        return found

    def _chosen(self) -> dict[str, Any]:
        """What is chosen; by its place, since Qt hands an enum back as a text."""
        boxes = ((one, self.fields[one.name]) for one in self._asked if one.choices)
        return {one.name: list(one.choices)[box.currentIndex()] for one, box in boxes if isinstance(box, QComboBox)}

    def follow(self) -> bool:
        """The picture of what is typed; whether it can be."""
        chosen = self._chosen()
        for one in self._asked:
            shown = one.when(chosen)
            self.fields[one.name].setVisible(shown)
            self._names[one.name].setVisible(shown)
        try:
            values = self.read()
            self._check(values)
            drawing = self._picture(values) if self._picture is not None else None
            said = self._words(values) if self._words is not None else ""
        except InputError as error:
            self.fault.setText(sentence(str(error), self._style))
            return False
        self.fault.setText("")
        self.said.setText(said)
        self.values = values
        if drawing is not None:
            self.view.show_drawing(drawing, self._theme, self._style)
        return True

    def accept(self) -> None:
        """Take what is typed; what cannot be is said, and the dialog stays."""
        self._rest.stop()
        if self.follow():
            super().accept()

"""What every page is: a question, its settings in a row, drawings and a table of the same things."""

from __future__ import annotations

from collections.abc import Callable
from operator import attrgetter
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from ...core.change import change
from ...core.errors import InputError
from ...core.job import Job
from ...core.settings.record import Kind
from ...core.settings_table import Record, all_settings, is_length
from ..sentences import sentence
from ..state import State
from ..typed_lists import read_number
from ..views.bench_card import Card
from ..views.fields import LengthField, choice_box


class Seen:
    """Remembers what something was drawn from: keys of results (`State.key`), settings, choices of the page."""

    def __init__(self) -> None:
        self._what: tuple[Any, ...] = ()

    def __call__(self, *what: Any) -> bool:
        """Whether the same was drawn last time; remembers it."""
        same = what == self._what
        self._what = what
        return same

    def __bool__(self) -> bool:
        """Whether anything was drawn."""
        return bool(self._what)

    def forget(self) -> None:
        """What was drawn is not to be seen any more."""
        self._what = ()


class Page(QFrame):
    """A page asks for edits and selections by signals; it never changes shared state itself."""

    edited = Signal(str, object)
    said = Signal(str)
    mold_chosen = Signal(int)
    strip_chosen = Signal(int)
    card_changed = Signal()
    command = Signal(str)
    """A command of the window, by its id."""

    def __init__(self, question: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("panel")
        self.state = State(Job())
        self.question = QLabel(question)
        self.question.setObjectName("question")
        self.head = QHBoxLayout()
        self.head.addWidget(self.question)
        self.head.addStretch(1)
        self.settings = QHBoxLayout()
        self.settings.setSpacing(6)
        self.note = QLabel()
        self.note.setObjectName("note")
        self.note.setWordWrap(True)
        self.note.setVisible(False)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(12, 10, 12, 10)
        self.body.setSpacing(8)
        self.body.addLayout(self.head)
        self.body.addLayout(self.settings)
        self.body.addWidget(self.note)
        self.hint = QLabel()
        self.hint.setObjectName("hint")
        self.hint.setWordWrap(True)
        self.hint.setVisible(False)
        self.body.addWidget(self.hint)
        self.seen = Seen()
        self._fields: list[tuple[LengthField, Callable[[Job], float | None], str]] = []
        self._names: dict[QWidget, QLabel] = {}
        self._numbers: list[tuple[QLineEdit, Callable[[Job], float]]] = []
        self._combos: list[tuple[QComboBox, Callable[[Job], Any]]] = []

    # -- settings ------------------------------------------------------------------------------------

    def next_row(self) -> None:
        """Another row of settings below."""
        self.settings = QHBoxLayout()
        self.settings.setSpacing(6)
        self.body.insertLayout(self.body.indexOf(self.note), self.settings)

    def add(self, path: str) -> Any:
        """A setting of the job in the settings row, as its record says: a length, a number or a choice."""
        record = all_settings()[path]
        kind = record.setting.kind
        if kind is Kind.CHOICE:
            return self._add_choice(record)
        if is_length(record):
            return self._add_length(record)
        return self._add_number(record)

    def _add_length(self, record: Record) -> LengthField:
        label = record.setting.label
        box = LengthField(label, fine=record.setting.kind is Kind.FINE)
        self._label(record.setting.brief, box)

        def read(job: Job) -> float | None:
            value = attrgetter(record.path)(job)
            return None if value is None else float(value)

        box.entered.connect(lambda mm: self.change(label.lower(), record.part, **{record.field: mm}))
        box.cleared.connect(lambda: self.change(label.lower(), record.part, **{record.field: None}))
        box.fault.connect(self.said)
        self._fields.append((box, read, record.setting.none if record.may_be_none else ""))
        return box

    def _add_number(self, record: Record) -> QLineEdit:
        label, read = record.setting.label, attrgetter(record.path)
        box = QLineEdit()
        box.setAccessibleName(label)
        box.setFixedWidth(52)
        self._label(record.setting.brief, box)

        def typed() -> None:
            now = read(self.state.job)
            try:
                value = read_number(box.text(), label, now)
            except InputError as error:
                self.said.emit(str(error))
                box.setText(f"{now:g}")
                return
            if abs(value - now) > 1e-9:
                self.change(label.lower(), record.part, **{record.field: value})

        box.editingFinished.connect(typed)
        self._numbers.append((box, lambda job: float(read(job))))
        return box

    def _add_choice(self, record: Record) -> QComboBox:
        label = record.setting.label
        box = choice_box(record.setting)
        self._label(record.setting.brief, box)
        box.activated.connect(
            lambda k: self.change(label.lower(), record.part, **{record.field: box.itemData(k)})
        )
        self._combos.append((box, attrgetter(record.path)))
        return box

    def put_field(self, text: str, box: QWidget) -> None:
        """A field of the page's own in the settings row."""
        self._label(text, box)

    def _label(self, text: str, box: QWidget) -> None:
        label = QLabel(text)
        label.setObjectName("small")
        label.setBuddy(box)
        self._names[box] = label
        self.settings.addWidget(label)
        self.settings.addWidget(box)

    def show_field(self, field: QWidget, seen: bool) -> None:
        """Show or hide a setting with its name."""
        field.setVisible(seen)
        self._names[field].setVisible(seen)

    def change(self, label: str, part: str, **fields: Any) -> None:
        """Ask for an edit of the job; a value that cannot be is said and nothing changes."""
        try:
            self.edited.emit(label, change(self.state.job, part, **fields))
        except InputError as error:
            self.said.emit(str(error))
            self.show_state(self.state)

    # -- showing --------------------------------------------------------------------------------------

    def show_state(self, state: State) -> None:
        """Show a moment of the window."""
        self.state = state
        for box, read, hint in self._fields:
            box.show_length(read(state.job), state.style, hint)
        for edit, number in self._numbers:
            if not edit.hasFocus() or not edit.isModified():
                edit.setText(f"{number(state.job):g}")
        for combo, value in self._combos:
            combo.setCurrentIndex(combo.findData(value(state.job)))
        self.refresh()

    def refresh(self) -> None:
        """Show what is particular to this page."""

    def say_findings(self, stage: str) -> None:
        """The first things that want looking at, under the settings; or why there is nothing to see."""
        texts = [f"{f.where}: {f.text}" for f in self.state.findings(stage)]
        if self.state.stopped(stage):
            texts.insert(0, sentence(self.state.problem, self.state.style))
        rest = f"  (and {len(texts) - 2} more)" if len(texts) > 2 else ""
        self.note.setText("▲ " + "\n▲ ".join(texts[:2]) + rest if texts else "")
        self.note.setVisible(bool(texts))
        hint = "" if texts else self._missing(stage)
        self.hint.setText(hint)
        self.hint.setVisible(bool(hint))

    def _missing(self, stage: str) -> str:
        """What has to be given elsewhere before there is anything here."""
        state = self.state
        if not state.job.offsets.rows and stage not in ("offsets", "stock"):  # those two say so themselves
            return "There is no hull yet: give its offsets on the Offsets page first."
        if stage == "setup" and not state.has_molds:
            return "There is no mold to set up yet: say on the Molds page where they stand."
        return ""

    def card(self) -> Card:
        """What the bench card says on this page."""
        return Card()

    def choose_key(self, key: str) -> None:
        """A thing picked in a drawing or a table."""
        kind, _, name = key.partition(":")
        if kind == "mold" and self.state.shape is not None:
            for k, mold in enumerate(self.state.shape.molds.molds):
                if mold.name == name:
                    self.mold_chosen.emit(k)
        elif kind == "strip":
            self.strip_chosen.emit(int(name))

    def show_progress(self, share: float | None) -> None:
        """How far the strips are laid, from 0 to 1; None: nothing is being laid."""

    def close_page(self) -> None:
        """The window closes: give back what must be given back."""

    def prepare_picture(self) -> None:
        """Make sure that everything is drawn before a picture of the page is taken."""


def result_label(text: str) -> QLabel:
    """A result in the settings row, at its right."""
    label = QLabel(text)
    label.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
    label.setStyleSheet("font-weight: 600;")
    return label

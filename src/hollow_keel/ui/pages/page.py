"""What every page is: a question with its one-line answer, a drawing as large as the page, what wants looking at at its foot, the
table of the same things in a drawer; what is decided stands beside it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QLabel, QPushButton, QSizePolicy, QSplitter, QVBoxLayout, QWidget

from ...app.deciding import record_of, value_of, with_value
from ...app.mends import Mend, mend_of, what_changed
from ...core.change import change
from ...core.errors import InputError
from ...core.findings import Finding
from ...core.job import Job
from ...drawing.placing import Room
from ..background.later import later
from ..decide.groups import Group
from ..decide.panel import Decisions
from ..views.bench_card import Card
from ..views.drawing_view import DrawingView
from ..views.foot import Foot, Remark
from ..views.sentences import sentence
from ..window.state import State

HEAD_TALL, FOOT_TALL, TITLE_TALL = 44, 46, 38
"""Pixels of a drawing that the page's head and foot lie over, and those of its title with the texts below it."""
DRAWER_TALL, LEAST_DRAWER = 250, 110
DRAWER_RESTS_MS = 400
CANNOT_BE_DRAWN = (
    "This page cannot be drawn: that is a fault of Hollow Keel. Help › Log files says where it is written down. "
    "The job itself is as it was, and the other pages go on."
)
"""How tall the drawer is is told when it has not been drawn for so long."""
OPENS_AFTER_MS = 300
"""The drawer opens by itself so long after a pick: a double click has been one by then, and nothing moves under the pointer."""


def lie_over(view: DrawingView, *, head: bool, foot: bool) -> None:
    """The page's head, its foot or both lie over a view, which keeps its drawing clear of them."""
    view.room = Room(44.0, TITLE_TALL + (HEAD_TALL if head else 0.0), 24.0 + (FOOT_TALL if foot else 6.0))
    view.under_head, view.over_foot = (HEAD_TALL if head else 0), (FOOT_TALL if foot else 0)


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
    tried = Signal(object)
    """A job to show while something is typed or dragged: no step yet."""
    left = Signal()
    """What was tried is given up."""
    said = Signal(str)
    mold_chosen = Signal(int)
    strip_chosen = Signal(int)
    card_changed = Signal()
    command = Signal(str)
    """A command of the window, by its id."""
    drawer_moved = Signal(int)
    """How tall the drawer was left, pixels; 0: closed."""

    drawer_at_first = 0
    """How tall the drawer is until the builder says otherwise, pixels; 0: closed."""

    def __init__(self, question: str, groups: Sequence[Group] = (), of: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("panel")
        self.state = State(Job())
        self.seen = Seen()
        self.decisions = Decisions(groups, of)
        self.decisions.tried.connect(self.try_setting)
        self.decisions.kept.connect(self.keep_setting)
        self.decisions.left.connect(self.left)
        self.decisions.said.connect(self.said)
        self.decisions.doing.connect(self.command)
        self.question = QLabel(question)
        self.question.setObjectName("question")
        self.head = QHBoxLayout()
        self.head.setContentsMargins(14, 9, 12, 0)
        self.head.addWidget(self.question)
        self.head.addStretch(1)
        self.note = Foot()
        self.note.chosen.connect(self._remark_chosen)
        self.note.mended.connect(self._mend)
        self.note.answered.connect(self._answer)
        self._trial: tuple[Mend, State] | None = None
        self.drawer_button = QPushButton()
        self.drawer_button.setVisible(False)
        self.drawer_button.clicked.connect(lambda: self.open_drawer(not self.drawer_open))
        self.note.row.addWidget(self.drawer_button, 0, Qt.AlignmentFlag.AlignBottom)
        self._drawn: QWidget | None = None
        self._blanked: list[QWidget] = []
        self.hint = QLabel()
        self.hint.setObjectName("hint")
        self.hint.setWordWrap(True)
        self.hint.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.hint.setVisible(False)
        self._findings: list[Finding] = []
        self._build()

    def _build(self) -> None:
        self.canvas = QWidget()
        self._over = QGridLayout(self.canvas)
        self._over.setContentsMargins(0, 0, 0, 0)
        head = QWidget()
        head.setLayout(self.head)
        self._over.addWidget(head, 0, 0, Qt.AlignmentFlag.AlignTop)
        self._over.addWidget(self.hint, 0, 0, Qt.AlignmentFlag.AlignVCenter)
        self._over.addWidget(self.note, 0, 0, Qt.AlignmentFlag.AlignBottom)
        head.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)  # its words do not widen the window
        self.split = QSplitter(Qt.Orientation.Vertical)
        self.split.setChildrenCollapsible(False)
        self.split.addWidget(self.canvas)
        self.split.splitterMoved.connect(lambda *_: self._said_tall.start())
        self.drawer: QWidget | None = None
        self.drawer_name = ""
        self._drawer_tall = DRAWER_TALL
        self._opens_itself = True
        self._open_soon = later(self, OPENS_AFTER_MS, self._open_by_itself)
        self._said_tall: QTimer = later(self, DRAWER_RESTS_MS, lambda: self.drawer_moved.emit(self.drawer_height))
        body = QVBoxLayout(self)
        body.setContentsMargins(1, 1, 1, 1)
        body.addWidget(self.split)

    # -- drawing and drawer --------------------------------------------------------------------------------

    def set_drawing(self, widget: QWidget, top: Sequence[DrawingView] = (), bottom: Sequence[DrawingView] = ()) -> None:
        """The page's drawing; head and foot lie over the `top` and `bottom` views in it."""
        self._drawn = widget
        self._over.addWidget(widget, 0, 0)
        widget.lower()
        for view in {*top, *bottom}:
            view.opened.connect(lambda: self.open_drawer(True))
            view.picked.connect(self.picked_on_drawing)
            lie_over(view, head=view in top, foot=view in bottom)

    def decides_on(self, view: DrawingView) -> None:
        """What is typed and dragged on a drawing is an edit of the job."""
        view.tried.connect(self.try_setting)
        view.kept.connect(self.keep_setting)
        view.left.connect(self.left)
        view.said.connect(self.said)
        view.chose.connect(self.decisions.open_for)

    def set_drawer(self, widget: QWidget, name: str) -> None:
        """The table of the same things, below."""
        self.drawer, self.drawer_name = widget, name
        if not widget.accessibleName():
            widget.setAccessibleName(name)
        widget.setMinimumHeight(LEAST_DRAWER)
        self.split.addWidget(widget)
        self.split.setStretchFactor(0, 1)
        self.split.setStretchFactor(1, 0)
        widget.setVisible(False)
        self.drawer_button.setVisible(True)
        self._name_drawer()

    def _name_drawer(self) -> None:
        self.drawer_button.setText(f"{self.drawer_name}  {'▾' if self.drawer_open else '▴'}")

    def name_drawer(self, name: str) -> None:
        """What the drawer holds now."""
        if name != self.drawer_name:
            self.drawer_name = name
            self._name_drawer()

    @property
    def drawer_open(self) -> bool:
        """Whether the table is seen."""
        return self.drawer is not None and not self.drawer.isHidden()

    @property
    def drawer_height(self) -> int:
        """How tall the drawer is, pixels; 0: closed."""
        return self.split.sizes()[1] if self.drawer_open else 0

    def leave_drawer_closed(self) -> None:
        """The builder has closed it: it opens when he opens it, not by itself."""
        self._opens_itself = False

    def picked_on_drawing(self, *_what: object) -> None:
        """Something was picked: its row is shown, until the builder has closed the drawer once."""
        if self._opens_itself and self.drawer is not None and not self.drawer_open:
            self._open_soon.start()

    def _open_by_itself(self) -> None:
        if self._opens_itself:
            self.open_drawer(True)

    def open_drawer(self, opened: bool, tall: int = 0) -> None:
        """Show or hide the table."""
        if self.drawer is None or (opened == self.drawer_open and not tall):
            return
        if self.drawer_open:
            self._drawer_tall = max(self.drawer_height, LEAST_DRAWER)
        self._drawer_tall = tall or self._drawer_tall
        self.drawer.setVisible(opened)
        self._name_drawer()
        if opened:
            QTimer.singleShot(0, self, self._size_drawer)
        if not opened:
            self.leave_drawer_closed()
        self.drawer_moved.emit(self._drawer_tall if opened else 0)
        if opened:
            self.refresh()

    def _size_drawer(self) -> None:
        whole = sum(self.split.sizes())
        tall = min(self._drawer_tall, max(whole - 120, LEAST_DRAWER))
        self.split.setSizes([whole - tall, tall])

    # -- deciding ------------------------------------------------------------------------------------------

    def changed_job(self, path: str, value: Any) -> Job:
        """The job with one setting changed. Raises InputError."""
        return with_value(self.state.job, path, value)

    def try_setting(self, path: str, value: Any) -> None:
        """Show the job with a setting as it is being typed or dragged."""
        try:
            self.tried.emit(self.changed_job(path, value))
        except InputError as error:
            self.said.emit(str(error.at(record_of(path).setting.label)))

    def keep_setting(self, path: str, value: Any) -> None:
        """Ask for an edit of the job; a value that cannot be is said and nothing changes."""
        label = record_of(path).setting.label.lower()
        try:
            self.edited.emit(label, self.changed_job(path, value))
        except InputError as error:
            self.left.emit()
            self.said.emit(str(error.at(record_of(path).setting.label)))

    def change(self, label: str, part: str, **fields: Any) -> None:
        """Ask for an edit of the job; a value that cannot be is said and nothing changes."""
        try:
            self.edited.emit(label, change(self.state.job, part, **fields))
        except InputError as error:
            self.said.emit(str(error))
            self.show_state(self.state)

    def setting_of(self, path: str) -> Any:
        """What the job says of a setting."""
        return value_of(path, self.state.job)

    # -- showing -------------------------------------------------------------------------------------------

    def show_state(self, state: State) -> None:
        """Show a moment of the window. A page that cannot be drawn is blank and says so: what was seen before is of another job, or
        of another moment. Raises what drawing it raised."""
        self.state = state
        self.decisions.show_state(state)
        try:
            self.refresh()
        except Exception:
            self._blank(CANNOT_BE_DRAWN)
            raise
        if self._blanked:
            self._blank("")

    def _blank(self, why: str) -> None:
        """Nothing but why there is nothing; without a reason all of it again."""
        hidden = [w for w in (self._drawn, self.drawer) if w is not None and not w.isHidden()]
        for widget in hidden if why else self._blanked:
            widget.setVisible(not why)
        self._blanked = [*self._blanked, *hidden] if why else []
        if why:
            self.hint.setText(why)
            self.hint.setVisible(True)

    def refresh(self) -> None:
        """Show what is particular to this page."""

    def say_findings(self, stage: str) -> None:
        """What wants looking at, at the foot; or why there is nothing to see."""
        self._findings = self.state.findings(stage)
        one_of_each = {f.code: f for f in self._findings}
        mends = {code: mend.text for code, f in one_of_each.items() if (mend := self._mend_for(f))}
        remarks = [Remark(f"{f.where}: {f.text}", mends.get(f.code, "")) for f in self._findings]
        if self.state.stopped(stage):
            problem = Remark(sentence(self.state.problem, self.state.style))
            remarks.insert(0, problem)
        self.note.say(remarks)
        self._say_trial()
        hint = "" if remarks else self._missing(stage)
        self.hint.setText(hint)
        self.hint.setVisible(bool(hint))

    def _mend_for(self, finding: Finding) -> Mend | None:
        """What puts it right, as long as what it was found in is known of this very job; the same for all of one code."""
        return mend_of(finding, self.state.results) if not self.state.working else None

    def _finding_at(self, number: int) -> Finding | None:
        number -= len(self.note.remarks) - len(self._findings)
        return self._findings[number] if 0 <= number < len(self._findings) else None

    def _remark_chosen(self, number: int) -> None:
        finding = self._finding_at(number)
        if finding is not None:
            self.go_to_place(finding.where)
        if number < len(self.note.remarks):
            self.said.emit(self.note.remarks[number].text)

    def _mend(self, number: int) -> None:
        finding = self._finding_at(number)
        mend = self._mend_for(finding) if finding is not None else None
        if mend is not None:
            self._trial = (mend, self.state)
            self.tried.emit(mend.job)

    def _say_trial(self) -> None:
        """What is being tried, and what it changes as far as that is known."""
        if self._trial is None:
            return
        mend, before = self._trial
        if self.state.job != mend.job:  # something else was done meanwhile
            self._trial = None
            self.note.say_trial("")
            return
        known = "working it out…" if self.state.working else what_changed(before.results, self.state.results)
        self.note.say_trial(f"Trying it: {mend.text}. {known}".rstrip())

    def _answer(self, keep: bool) -> None:
        if self._trial is not None:
            mend, self._trial = self._trial[0], None
            self.note.say_trial("")
            if keep:
                self.edited.emit(mend.text.lower(), mend.job)
            else:
                self.left.emit()

    def go_to_place(self, where: str) -> None:
        """Show the place that a finding is about: a mold or a strip by its number."""
        kind, _, number = where.replace(",", " ").partition(" ")
        number = number.split("–")[0].split("-")[0].split(" ")[0].split(":")[0]
        if kind in ("mold", "molds", "strip", "strips") and number.isdigit():
            self.choose_key(f"{kind.removesuffix('s')}:{number}")

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
    """The page's answer, at the right of its head."""
    label = QLabel(text)
    label.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
    label.setStyleSheet("font-weight: 600;")
    return label


def head_button(text: str, tip: str, slot: Callable[[], object]) -> QPushButton:
    """A button at the right of a page's head."""
    button = QPushButton(text)
    button.setToolTip(tip)
    button.clicked.connect(slot)
    return button

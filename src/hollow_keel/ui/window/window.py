"""The window: order of work, page, bench card, keel line, status line; its files, menus and commands are parts of their own."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QCloseEvent, QGuiApplication
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMessageBox,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from ...app.export import Export
from ...app.processes.launch import Worker
from ...app.session import Session
from ...app.settings import Settings, load_settings, save_settings
from ...core.change import change
from ...core.errors import InputError
from ...core.job import Job
from ...core.planking.stages import PLANKING
from ...core.results import SHAPE, Results
from ...core.stage import Turn, Value
from ...core.stages import SHOWN, needed_for
from ..background.aside import wait_aside
from ..background.later import later
from ..commands import all_commands
from ..files.exporting import Exporter
from ..files.jobs import Files
from ..incoming.importing import Importer
from ..pages.page import Page
from ..pages.registry import PAGES, PageShelf, load_pages, number_of
from ..views.keel_line import KeelLine
from ..views.order_of_work import OrderOfWork
from ..views.sentences import sentence
from .menus import Menus
from .next_step import next_step
from .planner import Planner
from .side_column import SideColumn
from .state import State
from .status import status
from .theme import DARK, LIGHT, Theme, apply_theme

KEEL_PAUSE_MS = 25
LATE_PAUSE_MS = 40
"""What comes after the strips only is asked for when the edit is shown."""


SOON = tuple(stage for stage in SHOWN if stage.turn <= Turn.STRIPS)


class MainWindow(QMainWindow):
    """One job in one window. `folder` holds settings and the recovery file."""

    def __init__(self, job: Job, folder: Path, path: Path | None = None, worker: Worker | None = None) -> None:
        super().__init__()
        self.folder = folder
        self.settings = load_settings(folder)
        self.versions = folder / "versions"
        self.session = Session(job, path, self.versions)
        self.files, self.importer, self.exporter = Files(self), Importer(self), Exporter(self)
        self.session.listeners.append(self._job_changed)
        self.planner = Planner(worker, self)
        self.planner.found.connect(self._found)
        self.planner.done.connect(self._done)
        self.planner.ended.connect(self._give_up)
        self._alarm = ""
        """What is said of work that ended, until it goes on again."""
        self.planner.progress.connect(self._progress)
        self.state = State(job, theme=self._theme())
        if job.offsets.rows:
            self.planner.request(job, {})  # it is computed while the window is being built
        self._ask_later = later(self, LATE_PAUSE_MS, self._ask)
        self._keel_later = later(self, KEEL_PAUSE_MS, self._show_keel_line)
        self._build()
        self.menus = Menus(self, all_commands())
        self.units_button.setMenu(self.menus.menus["units"])
        self.files.unsafe.connect(self.say)
        self.resize(1280, 800)
        self.stack.setCurrentWidget(self.page)
        self.side.show_page(self.page.decisions)
        self._show(self.state)

    @property
    def top(self) -> QMainWindow:
        """What dialogs stand over."""
        return self

    # -- building ---------------------------------------------------------------------------------

    def _build(self) -> None:
        self.pages = PageShelf(self._page_made)
        self.page_number = 0
        self._loader: threading.Thread | None = None
        self.stack = QStackedWidget()
        self.order = OrderOfWork([kind.name for kind in PAGES])
        self.order.chosen.connect(self.go_to)
        self.order.next_chosen.connect(self.go_to_page)
        self.side = SideColumn()
        self.card = self.side.card
        self.keel_line = KeelLine()
        self.keel_line.chosen.connect(self.choose_mold)
        self.keel_line.tried.connect(self._try_molds)
        self.keel_line.kept.connect(self._keep_molds)
        self.keel_line.left.connect(self.session.give_up)
        middle = QHBoxLayout()
        middle.setSpacing(6)
        middle.addWidget(self.order)
        middle.addWidget(self.stack, 1)
        middle.addWidget(self.side)
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(4, 2, 6, 0)
        layout.setSpacing(2)
        layout.addLayout(middle, 1)
        layout.addWidget(self.keel_line)
        self.setCentralWidget(whole)
        self.message = QLabel()
        self.units_button = QToolButton()
        self.units_button.setAutoRaise(True)
        self.units_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.units_button.setAccessibleName("Units and rounding")
        self.statusBar().addWidget(self.message, 1)
        self.statusBar().addPermanentWidget(self.units_button)
        self.statusBar().setSizeGripEnabled(False)

    def _page_made(self, page: Page) -> None:
        self.stack.addWidget(page)
        self.side.add(page.decisions)
        page.edited.connect(self.edit)
        page.tried.connect(self.session.attempt)
        page.left.connect(self.session.give_up)
        page.said.connect(self.say)
        page.mold_chosen.connect(self.choose_mold)
        page.strip_chosen.connect(self.choose_strip)
        page.card_changed.connect(self._card_changed)
        page.command.connect(lambda name: self.command(name)())
        stage = self.pages.stage_of(page)
        if tall := self.settings.drawers.get(stage, page.drawer_at_first):
            page.open_drawer(True, tall)
        elif stage in self.settings.drawers:
            page.leave_drawer_closed()
        page.drawer_moved.connect(lambda tall: self._drawer_moved(stage, tall))

    def _drawer_moved(self, stage: str, tall: int) -> None:
        self.keep_settings(self.settings.model_copy(update={"drawers": {**self.settings.drawers, stage: tall}}))

    def place(self, name: str) -> QWidget:
        """A part of the window: order, side, keel or menu."""
        places: dict[str, QWidget] = {"order": self.order, "side": self.side, "keel": self.keel_line, "menu": self.menuBar()}
        return places[name]

    # -- room ---------------------------------------------------------------------------------------------

    def show_side(self, shown: bool) -> None:
        """The bench card and what is decided, or not."""
        self.side.setVisible(shown)

    @property
    def side_hidden(self) -> bool:
        """Whether bench card and decisions are hidden."""
        return self.side.isHidden()

    def toggle_drawer(self) -> None:
        """Open or close the table of the page."""
        self.page.open_drawer(not self.page.drawer_open)

    def show_drawing_alone(self, alone: bool) -> None:
        """Nothing but the page."""
        for widget in (self.order, self.side, self.keel_line):
            widget.setVisible(not alone)
        if alone:
            self.page.open_drawer(False)

    @property
    def drawing_alone(self) -> bool:
        """Whether the page is all that is seen."""
        return self.order.isHidden()

    @property
    def page(self) -> Page:
        """The page on show."""
        return self.pages[self.page_number]

    def command(self, name: str) -> Callable[[], object]:
        """What a command does, by its id."""
        return self.menus.run(name)

    # -- what is shown --------------------------------------------------------------------------------

    def _theme(self) -> Theme:
        if self.settings.theme == "system":
            dark = QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark
            return DARK if dark else LIGHT
        return DARK if self.settings.theme == "dark" else LIGHT

    def theme_now(self) -> Theme:
        return self.state.theme

    def set_theme(self, name: str) -> None:
        """Light, dark or as the system."""
        self.keep_settings(self.settings.model_copy(update={"theme": name}))
        theme = self._theme()
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, theme)
        self._show(replace(self.state, theme=theme))

    def _show(self, state: State) -> None:
        path = self.session.path
        folder = path.absolute().parent if path is not None else None
        self.state = state = state if state.folder == folder else replace(state, folder=folder)
        try:
            self.page.show_state(state)
        finally:  # whatever becomes of the page, what stands around it is of this moment
            self._show_around(state)

    def _show_around(self, state: State) -> None:
        self._show_card()
        if not self._keel_later.isActive():
            self._show_keel_line()
        marks = [status(state, kind.stage) for kind in PAGES]
        self.order.show_statuses(marks, self.page_number, state.theme)
        self.order.show_next(next_step(state))
        self.units_button.setText(f"{state.style.name} · {state.style.rounding_name}")
        self.menus.show_state(state.style, self.session.undo_label, self.session.redo_label)
        where = self.session.path.name if self.session.path else "not saved yet"
        self.setWindowTitle(f"{self.session.job.name} ({where})[*] – Hollow Keel")
        self.setWindowModified(self.session.changed)

    def _card_changed(self) -> None:
        page = self.page
        if page is self.sender() or self.sender() is None:
            self._show_card()

    def _show_card(self) -> None:
        card = self.page.card()
        late = self.state.stopped(PAGES[self.page_number].stage)
        self.card.show_card(replace(card, aside="out of date") if late and card.big else card)

    def say(self, text: str) -> None:
        """A message in the status line."""
        text = self.sentence(text)
        self.message.setText(text)
        self.message.setToolTip(text)

    def show_again(self) -> None:
        """Show the present state, its title and marks."""
        self._show(self.state)

    def go_to_page(self, page: str) -> None:
        """Open a page by its id."""
        self.go_to(number_of(page))

    def go_to(self, number: int) -> None:
        """Open a page."""
        self.session.give_up()
        self.page_number = number
        self.stack.setCurrentWidget(self.page)
        self.side.show_page(self.page.decisions)
        self._show(self.state)

    def sentence(self, text: str) -> str:
        """A text with its lengths written in the builder's units."""
        return sentence(text, self.session.job.units.style)

    def warn(self, title: str, text: str) -> None:
        """One clear message about what went wrong and the mend."""
        self.say(text)
        QMessageBox.warning(self, title, self.sentence(text))

    def keep_settings(self, settings: Settings) -> None:
        """Remember settings of the window; what is remembered already is not written again."""
        if settings != self.settings:
            self.settings = settings
            save_settings(settings, self.folder)

    def choose_mold(self, number: int) -> None:
        """Make a mold the current one everywhere."""
        if number != self.state.mold_number:
            self._show(replace(self.state, mold_number=number))

    def step_mold(self, step: int) -> None:
        """The next mold aft (1) or forward (-1)."""
        if self.state.shape is not None:
            last = len(self.state.shape.molds.molds) - 1
            self.choose_mold(min(max(self.state.mold_number + step, 0), max(last, 0)))

    def choose_strip(self, number: int) -> None:
        """Make a strip the current one."""
        if number != self.state.strip_number:
            self._show(replace(self.state, strip_number=number))

    # -- molds along the keel line ----------------------------------------------------------------------

    def _molds_at(self, places: tuple[float, ...]) -> Job:
        return change(self.session.job, "molds", stations=tuple(sorted(places)), every=None)

    def _try_molds(self, places: tuple[float, ...]) -> None:
        self.session.attempt(self._molds_at(places))

    def _keep_molds(self, places: tuple[float, ...]) -> None:
        self.edit("where molds stand", self._molds_at(places))

    # -- the flow of data ------------------------------------------------------------------------------

    def edit(self, label: str, job: Job) -> None:
        """Put another job in place of the present one, as one step that can be undone; one that cannot be is said."""
        try:
            self.session.edit(label, job)
        except InputError as error:
            self.warn("This cannot be", str(error))

    def _job_changed(self) -> None:
        job = self.session.job
        state = self.state.of(job)
        self._ask_later.stop()
        if job.offsets.rows and not state.answered(SOON):
            self.planner.request(job, state.known.keys)
        else:
            self.planner.cancel()  # what is on its way is of another job: it would take the place of what is known of this one
            self._show_progress(None)
            if not job.offsets.rows:
                self.say("")
            elif not state.answered(SHOWN):
                self._ask_later.start()
        self._show(state)

    def _ask(self) -> None:
        self.planner.request(self.session.job, self.state.known.keys)

    def _show_keel_line(self) -> None:
        state = self.state
        self.keel_line.show_shape(state.shape, state.mold_number, state.theme, state.style, self.settings.bow_right)

    def _found(self, values: tuple[Value, ...], seconds: float) -> None:
        """What a turn of stages came to."""
        came = {value.stage for value in values}
        state = self.state.told(values)
        if came & {s.id for s in SHAPE}:
            self._keel_later.start()  # a moment after the page, so that neither is waited for long
        if PLANKING.id in came:
            self._show_progress(None)
        self._show(state)
        if state.problem:
            self.say(state.problem)
        elif PLANKING.id in came:
            self.say(f"Planned in {seconds:.2f} s")
            if self._loader is None:
                self._loader = threading.Thread(target=load_pages, name="pages")
                self._loader.start()

    def _done(self) -> None:
        self._show_progress(None)
        if self._alarm and self.message.text() == self._alarm:
            self.say("It is worked out again.")
        self._alarm = ""

    def _give_up(self, text: str) -> None:
        self._show_progress(None)
        self._show(self.state.given_up(text))
        self.say(text)
        self._alarm = self.message.text()

    def _show_progress(self, share: float | None) -> None:
        for page in self.pages.made:
            page.show_progress(share)

    def _progress(self, share: float) -> None:
        laying = self.state.working  # the lines are looked over after the strips
        self._show_progress(share if laying else None)

    def stop_work(self) -> None:
        """Give up what is being worked out."""
        self._ask_later.stop()
        self.planner.cancel()
        self._give_up("Laying the strips was stopped. Change a setting to lay them again.")

    def results_for(self, export: Export) -> Results | None:
        """What a kind of file is made from, waited for; None if the builder gave it up."""
        wanted = [s for s in needed_for(export.needs, self.session.job) if s.shown]
        if not wait_aside(self, "Everything is worked out first…", lambda: self.state.answered(wanted)):
            return None
        return self.state.results

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_leave():
            event.ignore()
            return
        self.files.forget_recovery()
        self._ask_later.stop()
        self.planner.stop()
        if self._loader is not None:
            self._loader.join()
        for page in self.pages.made:
            page.close_page()
        event.accept()

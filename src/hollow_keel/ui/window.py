"""The window: order of work, page, bench card, keel line; menus and status line."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QGuiApplication
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMessageBox,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)  # fmt: skip

from ..app.exports import EXPORTS, Export
from ..app.launch import Worker
from ..app.overrides import apply_override, change
from ..core.errors import InputError
from ..core.job import Job
from ..core.planking.stages import PLANKING
from ..core.results import SHAPE, Results
from ..core.stage import Value
from ..core.stages import needed_for
from ..core.units import LengthStyle, format_length
from .actions import ACTIONS
from .aside import wait_aside
from .command_finder import CommandFinder
from .dialogs import accepted
from .menu_window import MenuWindow
from .mold_dialogs import MoldDialogs
from .pages.offsets import OffsetsPage
from .pages.page import Page
from .pages.registry import PAGES, PageShelf, load_pages
from .planking_dialogs import PlankingDialogs
from .planner import Planner
from .setup_dialogs import SetupDialogs
from .state import SHOWN, State
from .status import status
from .table_dialogs import TableDialogs
from .texts import CAUTIONS, FIRST_STEPS
from .theme import DARK, LIGHT, Theme, apply_theme
from .views.bench_card import BenchCard
from .views.drawing_view import DrawingView
from .views.keel_line import KeelLine
from .views.order_of_work import OrderOfWork

KEEL_PAUSE_MS = 25


class MainWindow(MenuWindow):
    """One job in one window."""

    def __init__(
        self, job: Job, folder: Path, path: Path | None = None, worker: Worker | None = None
    ) -> None:
        super().__init__(job, folder, path)
        self.session.listeners.append(self._job_changed)
        self.planner = Planner(worker, self)
        self.planner.found.connect(self._found)
        self.planner.done.connect(self._done)
        self.planner.ended.connect(self._give_up)
        self.planner.progress.connect(self._progress)
        self.state = State(job, theme=self._theme())
        if job.offsets.rows:
            self.planner.request(job, {})  # it is computed while the window is being built
        self.table_dialogs = TableDialogs(self, lambda: self.state, self._edited, self.say)
        asked = (self, lambda: self.state, lambda: self.session.job, self._edited, self.say)
        self.setup_dialogs, self.mold_dialogs = SetupDialogs(*asked), MoldDialogs(*asked)
        self.planking_dialogs = PlankingDialogs(*asked)
        self._keel_later = QTimer(self)
        self._keel_later.setSingleShot(True)
        self._keel_later.setInterval(KEEL_PAUSE_MS)
        self._keel_later.timeout.connect(self._show_keel_line)
        self._build()
        self._build_menus()
        self.unsafe.connect(self.say)
        self.resize(1280, 800)
        self.stack.setCurrentWidget(self.page)
        self._show(self.state)

    # -- building ---------------------------------------------------------------------------------

    def _build(self) -> None:
        self.pages = PageShelf(self._page_made)
        self.page_number = 0
        self._loader: threading.Thread | None = None
        self.stack = QStackedWidget()
        self.order = OrderOfWork([kind.name for kind in PAGES])
        self.order.chosen.connect(self.go_to)
        self.card = BenchCard()
        self.keel_line = KeelLine()
        self.keel_line.chosen.connect(self.choose_mold)
        middle = QHBoxLayout()
        middle.setSpacing(10)
        middle.addWidget(self.order)
        middle.addWidget(self.stack, 1)
        middle.addWidget(self.card)
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(10, 4, 10, 0)
        layout.setSpacing(4)
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
        page.edited.connect(self._edited)
        page.said.connect(self.say)
        page.mold_chosen.connect(self.choose_mold)
        page.strip_chosen.connect(self.choose_strip)
        page.card_changed.connect(self._card_changed)
        page.command.connect(lambda name: self.command(name)())

    @property
    def page(self) -> Page:
        """The page on show."""
        return self.pages[self.page_number]

    def command(self, name: str) -> Callable[[], object]:
        """What a command does, by its id."""
        if name.startswith("page-"):
            stages = [kind.stage for kind in PAGES]
            return lambda: self.go_to(stages.index(name.removeprefix("page-")))
        if name.startswith("export-"):
            export = next(e for e in EXPORTS if e.kind == name.removeprefix("export-"))
            return lambda: self.export(export)
        if name.startswith("demo-"):
            return lambda: self.start_demo(name.removeprefix("demo-"))
        return {
            "new": self.new_job, "open": self.open_job, "import": self.import_offsets, "rename": self.rename,
            "save": self.save, "save-as": self.save_as, "quit": self.close,
            "undo": self.session.undo, "redo": self.session.redo, "find": self.find_command,
            "fit": lambda: self._in_drawing(DrawingView.fit), "measure": lambda: self._in_drawing(DrawingView.start_measuring),
            "bow-side": self._turn_keel_line,
            "add-station": lambda: self._in_offsets(OffsetsPage.ask_station),
            "add-line": lambda: self._in_offsets(OffsetsPage.ask_line),
            "fill-down": lambda: self._in_offsets(OffsetsPage.fill_down),
            "note": lambda: self._in_offsets(OffsetsPage.ask_note),
            "scale": self.table_dialogs.scale, "restation": self.table_dialogs.restation,
            "baseline": self.table_dialogs.baseline, "turn": self.table_dialogs.turn,
            "next": lambda: self.step_mold(1), "previous": lambda: self.step_mold(-1), "stations": self.ask_stations,
            "stop": self._stop, "proof-bar": self.mold_dialogs.proof_bar, "sheets": self.mold_dialogs.sheets,
            "mold-settings": self.mold_dialogs.settings,
            "strip-settings": self.planking_dialogs.settings, "compare": self.planking_dialogs.compare,
            "bench-ticks": self.planking_dialogs.ticks,
            "bench-pieces": self.planking_dialogs.pieces, "stock-settings": self.planking_dialogs.stock_settings,
            "bench-marks": self.setup_dialogs.marks, "bench-readings": self.setup_dialogs.readings,
            "new-survey": self.setup_dialogs.new_round, "foil": self.foil_template,
            "first-steps": lambda: self._tell("First steps", FIRST_STEPS),
            "cautions": lambda: self._tell("Working safely", CAUTIONS),
            "about": lambda: self._tell("About", "<h3>Hollow Keel</h3><p>Plans strip-planked and cold-molded hulls.</p>"),
        }[name]  # fmt: skip

    def _in_offsets(self, act: Callable[[OffsetsPage], None]) -> None:
        """Something done in the table of offsets, wherever the builder is."""
        self.go_to(0)
        if isinstance(self.page, OffsetsPage):
            act(self.page)

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
        self._keep_settings(self.settings.model_copy(update={"theme": name}))
        theme = self._theme()
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, theme)
        self._show(replace(self.state, theme=theme))

    def _show(self, state: State) -> None:
        self.state = state
        page = self.page
        page.show_state(state)
        self._show_card()
        if not self._keel_later.isActive():
            self._show_keel_line()
        marks = [status(state, kind.stage) for kind in PAGES]
        self.order.show_statuses(marks, self.page_number, state.theme)
        self.units_button.setText(f"{state.style.name} · {state.style.rounding_name}")
        self._style_actions.get(state.style, QAction(self)).setChecked(True)
        undo, redo = self.actions_by_id["undo"], self.actions_by_id["redo"]
        undo.setEnabled(bool(self.session.undo_label))
        redo.setEnabled(bool(self.session.redo_label))
        undo.setText(f"Undo {self.session.undo_label}".strip())
        redo.setText(f"Redo {self.session.redo_label}".strip())
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

    def show_first_page(self) -> None:
        """Open the page where work begins."""
        self.go_to(0)

    def go_to(self, number: int) -> None:
        """Open a page."""
        self.page_number = number
        self.stack.setCurrentWidget(self.page)
        self._show(self.state)

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

    # -- the flow of data ------------------------------------------------------------------------------

    def _edited(self, label: str, job: Job) -> None:
        self.session.edit(label, job)

    def _job_changed(self) -> None:
        job = self.session.job
        state = self.state.of(job)
        if not job.offsets.rows:
            self.planner.cancel()
            self._show_progress(None)
            self.say("")
        elif not state.answered(SHOWN):
            self.planner.request(job, state.known.keys)
        self._show(state)

    def remember_printed(self) -> None:
        """Keep in the job what the molds were like whose patterns were just written."""
        from ..core.molds.printed import printed_now

        results = self.state.results
        printed = printed_now(results.shape.molds.molds, list(results.shape.pieces.values()))
        if printed != self.session.job.printed:
            self._edited("patterns printed", change(self.session.job, "", printed=printed))

    def _show_keel_line(self) -> None:
        state = self.state
        self.keel_line.show_shape(
            state.shape, state.mold_number, state.theme, state.style, self.settings.bow_right
        )

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

    def _give_up(self, text: str) -> None:
        self._show_progress(None)
        self._show(self.state.given_up(text))
        self.say(text)

    def _show_progress(self, share: float | None) -> None:
        for page in self.pages.made:
            page.show_progress(share)

    def _progress(self, share: float) -> None:
        laying = self.state.stale and not self.state.problem  # the lines are looked over after the strips
        self._show_progress(share if laying else None)

    def _stop(self) -> None:
        self.planner.cancel()
        self._give_up("Laying the strips was stopped. Change a setting to lay them again.")

    def results_for(self, export: Export) -> Results | None:
        """What a kind of file is made from, waited for; None if the builder gave it up."""
        wanted = [s for s in needed_for(export.needs, self.session.job) if s.shown]
        if not wait_aside(self, "Everything is worked out first…", lambda: self.state.answered(wanted)):
            return None
        return self.state.results

    # -- the rest of the menus -------------------------------------------------------------------------

    def set_units(self, style: LengthStyle) -> None:
        """How lengths are shown and bare numbers read."""
        units = self.session.job.units.model_copy(update={"unit": style.unit, "step": style.step})
        self.session.edit("units", change(self.session.job, "", units=units))

    def rename(self) -> None:
        """Ask for the job's name."""
        name, sure = QInputDialog.getText(self, "Name of the job", "Name", text=self.session.job.name)
        if sure and name.strip():
            self.session.edit("name", change(self.session.job, "", name=name.strip()))

    def ask_stations(self) -> None:
        """Ask where the molds' reference faces stand."""
        molds = self.session.job.molds
        style = self.session.job.units.style
        now = "offsets"
        if molds.stations:
            now = ", ".join(format_length(x, style) for x in molds.stations)
        elif molds.every:
            now = f"every:{format_length(molds.every, style)}"
        text, sure = QInputDialog.getText(
            self, "Where molds stand",
            "“offsets” (at each station of the table), “every:” and a spacing, or positions along the hull with commas:", text=now,
        )  # fmt: skip
        if sure:
            self.set_stations(text)

    def set_stations(self, text: str) -> None:
        """As ask_stations, from a text; bare numbers are in the job's unit."""
        try:
            job = apply_override(self.session.job, "mold.stations", text.strip(), self.session.job.units.unit)
        except InputError as error:
            self.warn("The stations could not be read", str(error))
            return
        self.session.edit("where molds stand", job)

    def find_command(self) -> None:
        """Find any command by its name."""
        finder = CommandFinder(
            [(k.menu, self.actions_by_id[k.id]) for k in ACTIONS if k.id in self.actions_by_id], self
        )
        if accepted(finder) and finder.chosen is not None:
            finder.chosen.trigger()

    def _in_drawing(self, act: Callable[[DrawingView], None]) -> None:
        page = self.page
        focus = QApplication.focusWidget()
        view = focus if isinstance(focus, DrawingView) else page.findChild(DrawingView)
        if view is not None:
            act(view)

    def _turn_keel_line(self) -> None:
        right = self.actions_by_id["bow-side"].isChecked()
        self._keep_settings(self.settings.model_copy(update={"bow_right": right}))
        self._show(self.state)

    def _tell(self, title: str, text: str) -> None:
        box = QMessageBox(self)
        box.setWindowTitle(title)
        box.setTextFormat(Qt.TextFormat.RichText)
        box.setText(text)
        accepted(box)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._may_leave():
            event.ignore()
            return
        self.forget_recovery()
        self.planner.stop()
        if self._loader is not None:
            self._loader.join()
        for page in self.pages.made:
            page.close_page()
        event.accept()

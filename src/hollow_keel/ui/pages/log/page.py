"""The page of the log: a line is typed, seen as it is understood, and kept; what it comes to is drawn, and told in the drawer."""

from __future__ import annotations

import html
from datetime import date

from PySide6.QtCore import QLocale, Qt
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QSplitter, QTabWidget, QVBoxLayout, QWidget

from ....core.change import change
from ....core.log.keep import kept, put_right, replaced
from ....core.log.line import line_of
from ....core.log.plan_of_work import WorkPlan
from ....core.log.quick import Knows, Quick, read_line
from ....core.log.stages import WASTE, WORK
from ....core.planking.stages import PLANKING
from ....core.planking.strips import Planking
from ....core.settings.log import logged
from ....core.settings.log_entry import Entry, Laid, Told
from ....core.words import counted
from ....drawing.log import forecast_drawing, forecast_sentence, weeks_drawing
from ....drawing.model import Drawing
from ....files.log.schedules import LOG_SCHEDULES
from ...decide.week import WeekField
from ...views.bench_card import Card
from ...views.chips import Chips
from ...views.data_table import Column, DataTable
from ...views.drawing_view import DrawingView
from ...views.schedule_columns import schedule_table, show_schedule
from ..page import HEAD_TALL, Page, head_button, result_label
from .groups import LOG_GROUPS
from .thumbs import Thumbs

HINT = "2h planking strips 21-24 port, 250 g at 14 C, two of us"
EXAMPLES = (
    f"Type what was done and press Enter: {HINT} · yesterday 19:00-21:30 molds 3-5 with Ana · mistake: strip 12 slipped, mend: "
    "glued again · decision: …"
)
KEY = (
    ("when", "yesterday · last Friday · 28 Sept · 28.9.2026 · 2026-09-28 · 19-21:30 · 7pm-9:30pm · 2½ h · 1h30 · 90 min"),
    ("who", "two of us · with Ana and Per · Ana 2h, Per 3h · alone"),
    (
        "what",
        "planked strips 21, 22-24 port, 21-23 starboard · molds 3, 4 and 6-8 · veneers 4-9 · deck strips 1-6 · sanding · glassing",
    ),
    ("not laid", "milled, cut, sanded, not done … strips: they are kept in words and counted by none"),
    ("done", "planking done (the task) · strips 9-10 done (these)"),
    ("with", "250 g · 200/40 g · 9 oz · 1/2 cup · 3 pumps, at 14 C or 57 F, mixed 19:10, used up 19:45"),
    ("used up", "46 m of cedar · 2 sheets · 20 ft of rail"),
    ("for the next boat", "mistake: …, mend: … · decision: … because … · setting: …"),
)
"""What can be typed, for who asks."""
NOTHING = "nothing"
FEW = 4
"""So many molds are named; of more the first and the last."""
WORDS, MEASURED_ROWS = ("What", "Mend, or why"), 60
"""Columns that take what room there is; how many rows tell how wide the others are."""


class LogPage(Page):
    """The day book, and what it tells."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("How far is the work?", LOG_GROUPS, "the forecast", parent)
        self.today = date.today
        self.chosen: int | None = None
        """The entry that is read."""
        self.mending: int | None = None
        """The entry that the line is to stand in place of."""
        self._pictured: object = None
        self.just_kept: Entry | None = None
        """The entry that was put into the log last."""
        self.quick = Quick(None, (), ())
        self.result = result_label("")
        self.give = head_button("Begin a log", "Keep a day book of this job", lambda: self.command.emit("begin-log"))
        self.watch = head_button(
            "Start the stop-watch", "It goes on when the window is closed", lambda: self.command.emit("log-watch")
        )
        for widget in (self.result, self.watch, self.give):
            self.head.addWidget(widget)
        self._build_line()
        self.forecast, self.weeks = DrawingView("When each is done"), DrawingView("Hours week by week")
        for view in (self.forecast, self.weeks):
            view.stretch_to_fit = True
            view.has_scale_bar = False
        both = QSplitter(Qt.Orientation.Horizontal)
        both.setChildrenCollapsible(False)
        both.addWidget(self.forecast)
        both.addWidget(self.weeks)
        both.setSizes([560, 380])
        self.body = QWidget()
        column = QVBoxLayout(self.body)
        column.setContentsMargins(12, HEAD_TALL, 12, 0)
        column.addWidget(self.entry_box)
        column.addWidget(self.sentence)
        column.addWidget(both, 1)
        self.set_drawing(self.body, [], [self.forecast, self.weeks])
        self.book = DataTable("Day book", [], lambda row: f"entry:{row[0]}")
        self.book.horizontalHeader().setResizeContentsPrecision(MEASURED_ROWS)
        self.book.picked.connect(self.choose_key)
        self.tables = {s.key: schedule_table(s) for s in LOG_SCHEDULES}
        self.tabs = QTabWidget()
        self.tabs.addTab(self.book, "Day book")
        for schedule in LOG_SCHEDULES:
            self.tabs.addTab(self.tables[schedule.key], schedule.title)
        self.set_drawer(self.tabs, "Day book")

    def _build_line(self) -> None:
        self.line = QLineEdit()
        self.line.setAccessibleName("What was done")
        self.line.setPlaceholderText(HINT)
        self.line.textChanged.connect(self._typed)
        self.line.returnPressed.connect(self.keep)
        self.keep_button = QPushButton("Keep")
        self.keep_button.clicked.connect(self.keep)
        self.mend_button = QPushButton("Put it right")
        self.mend_button.setToolTip("Its line to be typed over; Escape lets go of it")
        self.mend_button.clicked.connect(self.mend)
        self.out_button = QPushButton("Take it out")
        self.out_button.clicked.connect(self.take_out)
        self.photo_button = QPushButton("Photograph…")
        self.photo_button.clicked.connect(lambda: self.command.emit("log-photo"))
        QShortcut(QKeySequence(Qt.Key.Key_Escape), self.line, self.let_go, context=Qt.ShortcutContext.WidgetShortcut)
        self.chips = Chips()
        self.chips.picked.connect(self._type_over)
        self.understood = QLabel()
        self.understood.setWordWrap(True)
        self.understood.setObjectName("small")
        self.week = WeekField()
        self.week.changed.connect(lambda week: self.change("hours of the week", "log", week=week))
        row = QHBoxLayout()
        row.addWidget(self.line, 1)
        for button in (self.keep_button, self.mend_button, self.out_button, self.photo_button):
            row.addWidget(button)
        self.key = QLabel("<br/>".join(f"<b>{name}</b>&nbsp; {html.escape(text)}" for name, text in KEY))
        self.key.setObjectName("small")
        self.key.setTextFormat(Qt.TextFormat.RichText)
        self.key.setWordWrap(True)
        self.key.setVisible(False)
        self.key_button = QPushButton("?")
        self.key_button.setAccessibleName("What can be typed")
        self.key_button.setCheckable(True)
        self.key_button.toggled.connect(self.key.setVisible)
        row.insertWidget(1, self.key_button)
        self.thumbs = Thumbs()
        self.sentence = QLabel()
        self.sentence.setWordWrap(True)
        self.sentence.setStyleSheet("font-weight: 600;")
        self.entry_box = QWidget()
        column = QVBoxLayout(self.entry_box)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(row)
        column.addWidget(self.chips)
        column.addWidget(self.understood)
        column.addWidget(self.key)
        column.addLayout(self.thumbs)
        column.addWidget(self.week)

    # -- keeping ---------------------------------------------------------------------------------------------

    def _typed(self, text: str) -> None:
        """Say how the line is understood, before it is kept."""
        self.quick = read_line(text, self.today(), self._knows())
        self.keep_button.setEnabled(self.quick.entry is not None)
        self.chips.show_pieces(self.quick, self.state.theme)
        self.chips.setVisible(self.quick.entry is not None)
        self.understood.setText(EXAMPLES if not text.strip() else "  ".join(self.quick.faults))
        self.understood.setVisible(bool(self.understood.text()))
        self.understood.setProperty("fault", "true" if self.quick.faults and text.strip() else "false")
        self.understood.style().unpolish(self.understood)
        self.understood.style().polish(self.understood)

    def measured(self, hours: str) -> None:
        """Keep the hours that were measured as an entry at once, and put it into the line to be gone on with; beside an entry
        that is being put right they only go into its line."""
        text = f"{hours} {self.line.text()}".rstrip()
        entry = read_line(text, self.today(), self._knows()).entry
        if self.mending is None and entry is not None and entry.hours > 0:
            changed = kept(self.state.job, entry)
            self.just_kept = entry
            self.edited.emit("hours that were measured", changed)
            self.chosen = self.mending = max(k for k, own in enumerate(changed.log.entries) if own == entry)
            self.command.emit("log-safe")
        self.line.setText(f"{text} ")
        self.line.setFocus()
        self.refresh()

    def _knows(self) -> Knows:
        """What lines of this job are read with."""
        planking: Planking | None = self.state.known.get(PLANKING)
        dates = QLocale.system().dateFormat(QLocale.FormatType.ShortFormat)
        return Knows.of(
            self.state.job,
            len(planking.strips) if planking is not None else None,
            day_first=dates.lower().find("d") < dates.find("M"),
        )

    def _type_over(self, begin: int, end: int) -> None:
        """A piece of the line is picked: what is typed next stands in its place."""
        self.line.setFocus()
        self.line.setSelection(begin, end - begin)

    def mend(self) -> None:
        """The line of the entry that is read, to be put right."""
        if self.chosen is not None and self.chosen < len(self.state.job.log.entries):
            self.mending = self.chosen
            self.line.setText(line_of(self.state.job.log.entries[self.chosen]))
            self.line.setFocus()
            self.refresh()

    def let_go(self) -> None:
        """Of an entry that is being put right, which stays as it is; or of one that is read; or of what was typed."""
        if self.mending is not None:
            self.mending = None
            self.line.clear()
        elif self.chosen is not None:
            self.chosen = None
        else:
            self.line.clear()
        self.refresh()
        self.card_changed.emit()

    def keep(self) -> None:
        """Keep the line as an entry, or in place of the one that is put right; what cannot be stays as it was typed."""
        entry = self.quick.entry
        if entry is None:
            self.said.emit("  ".join(self.quick.faults) or "Nothing is typed yet.")
            return
        job = self.state.job
        if self.mending is not None and self.mending < len(job.log.entries):
            old = job.log.entries[self.mending]
            changed = replaced(job, self.mending, put_right(old, entry, dated=self.quick.dated))
            label, self.just_kept = "an entry put right", None
        else:
            changed, label, self.just_kept = kept(job, entry), "an entry of the log", entry
        self.chosen = self.mending = None
        self.edited.emit(label, changed)
        self.line.clear()
        self.command.emit("log-safe")

    def take_out(self) -> None:
        """Take the chosen entry out; undo brings it back."""
        if self.chosen is not None and self.chosen < len(self.state.job.log.entries):
            number, self.chosen = self.chosen, None
            if self.mending is not None:
                self.mending = None
                self.line.clear()
            self.edited.emit("an entry taken out", replaced(self.state.job, number, None))

    def add_photo(self, path: str) -> None:
        """Put a photograph, by its path, with the chosen entry, or the last."""
        entries = self.state.job.log.entries
        if not entries:
            self.said.emit("Keep an entry first: photographs stand with one.")
            return
        number = self.chosen if self.chosen is not None and self.chosen < len(entries) else len(entries) - 1
        entry = entries[number].model_copy(update={"photos": (*entries[number].photos, path)})
        changed = (*entries[:number], entry, *entries[number + 1 :])
        self.edited.emit("a photograph", change(self.state.job, "log", entries=changed))

    def choose_key(self, key: str) -> None:
        kind, _, number = key.partition(":")
        if kind != "entry":
            super().choose_key(key)
            return
        if int(number) >= len(self.state.job.log.entries):  # of a table that is about to be shown anew
            return
        if self.mending is not None and self.mending != int(number):
            self.mending = None
            self.line.clear()
        self.chosen = int(number)
        self.refresh()
        self.card_changed.emit()

    def go_to_place(self, where: str) -> None:
        """A day of the log."""
        for number, entry in enumerate(self.state.job.log.entries):
            if entry.day.isoformat() == where:
                self.choose_key(f"entry:{number}")
                return
        super().go_to_place(where)

    def show_watch(self, text: str) -> None:
        """What the stop-watch's button says."""
        self.watch.setText(text)

    # -- showing ---------------------------------------------------------------------------------------------

    @property
    def work(self) -> WorkPlan | None:
        """What the log comes to, as far as it is known."""
        found: WorkPlan | None = self.state.known.get(WORK) if logged(self.state.job) else None
        return found

    def _missing(self, stage: str) -> str:
        return "" if logged(self.state.job) else "No log is kept yet."

    def refresh(self) -> None:
        state = self.state
        self.say_findings("log")
        has = logged(state.job)
        self.give.setVisible(not has)
        for widget in (self.body, self.drawer_button, self.watch):
            widget.setVisible(has)
        entries, work = state.job.log.entries, self.work
        if self.chosen is not None and self.chosen >= len(entries):
            self.chosen = None
        if self.mending is not None and self.mending >= len(entries):
            self.mending = None
        self.out_button.setVisible(self.chosen is not None)
        self.mend_button.setVisible(self.chosen is not None and self.mending is None)
        self.keep_button.setText("Keep it so" if self.mending is not None else "Keep")
        if not has:
            if not self.seen(NOTHING, state.theme):
                self.result.setText("")
            return
        if self.seen(
            state.key(WORK, WASTE, PLANKING), entries, self.chosen, self.mending, state.theme, state.job.units, state.job.log
        ):
            return
        self._typed(self.line.text())
        hours = sum(entry.person_hours for entry in entries)
        self.result.setText(f"{counted(len(entries), 'entry')} · {hours:g} h")
        self.sentence.setText(forecast_sentence(work) if work is not None else "")
        self.week.show_week(state.job.log.week)
        self.thumbs.show_photos(entries[self.chosen].photos if self.chosen is not None else (), self.state.folder)
        self._draw(work)
        self._tell(entries, work)

    def _draw(self, work: WorkPlan | None) -> None:
        """The forecast and the weeks; an entry that was just kept changes neither until it is reckoned in."""
        state = self.state
        drawn = state.key(WORK), state.theme, state.job.units
        if drawn == self._pictured:
            return
        self._pictured = drawn
        for view, drawing in (
            (self.forecast, forecast_drawing(work) if work else Drawing("", ())),
            (self.weeks, weeks_drawing(work) if work else Drawing("", ())),
        ):
            view.show_drawing(drawing, state.theme, state.style)

    def _tell(self, entries: tuple[Entry, ...], work: WorkPlan | None) -> None:
        self.name_drawer(f"Day book of {counted(len(entries), 'entry')}")
        self.book.show_rows(list(reversed(list(enumerate(entries)))), BOOK)
        header = self.book.horizontalHeader()
        for k, column in enumerate(BOOK):
            wide = column.title in WORDS
            header.setSectionResizeMode(k, header.ResizeMode.Stretch if wide else header.ResizeMode.ResizeToContents)
        if self.chosen is not None:
            self.book.select(f"entry:{self.chosen}")
        for k, schedule in enumerate(LOG_SCHEDULES):
            table = self.tables[schedule.key]
            show_schedule(table, schedule, schedule.value_in(self.state.known, self.state.job), self.state.job.units)
            self.tabs.setTabVisible(k + 1, table.model().rowCount() > 0)

    def card(self) -> Card:
        work, entries = self.work, self.state.job.log.entries
        if self.chosen is not None and self.chosen < len(entries):
            entry = entries[self.chosen]
            rows = [("people", _people(entry)), ("typed", entry.line)]
            if entry.mend:
                rows.append(("mend" if entry.told is Told.MISTAKE else "why", entry.mend))
            heading = entry.task.value.capitalize()
            return Card(heading, entry.day.isoformat(), entry.hours_words, "h", entry.what, tuple(rows))
        if work is None:
            return Card("The log")
        sums = work.sums
        rows = [("strips a side", str(sums.strips))]
        if sums.told_of != sums.strips:
            rows.append(("entries tell of", f"{sums.told_of:g}"))
        if sums.strips_a_day is not None:
            rows.append(("strips a day", f"{sums.strips_a_day:.1f}"))
        if sums.hours_a_strip is not None:
            rows.append(("hours for a pair", f"{sums.hours_a_strip:.1f}"))
        if sums.grams_a_strip is not None and sums.planned_grams is not None:
            rows.append(("glue for it", f"{sums.grams_a_strip:.0f} g, plan {sums.planned_grams:.0f}"))
        waste = self.state.known.get(WASTE) if WASTE.when(self.state.job) else None
        if waste is not None and waste.share is not None:
            by_plan = f", plan {100 * waste.planned:.0f} %" if waste.planned is not None else ""
            rows.append(("waste of strip wood", f"{100 * waste.share:.0f} %{by_plan}"))
        if sums.port != sums.starboard:
            rows.append(("port, starboard", f"{sums.port}, {sums.starboard}"))
        if sums.cost:
            rows.append(("cost of hours", f"{self.state.job.stock.buying.currency} {sums.cost:.0f}"))
        return Card(
            "So far",
            "",
            f"{sums.hours:g}",
            "h",
            "of all who worked",
            tuple(rows),
            "",
            "Tired hands make mistakes: stop while it still goes well.",
        )


def _people(entry: Entry) -> str:
    """Who worked: by name, with how many more, or how many."""
    more = entry.people - len(entry.names)
    if not entry.names:
        return str(entry.people)
    return ", ".join(entry.names) + (f" and {more}" if more > 0 else "")


def _numbers(entry: Entry) -> str:
    runs = entry.laid
    if not runs and entry.veneers is not None:
        runs = (Laid(first=entry.veneers[0], last=entry.veneers[1], side=entry.side),)
    if not runs:
        few = len(entry.molds) <= FEW
        return ", ".join(entry.molds) if few else f"{entry.molds[0]} … {entry.molds[-1]}"
    return ", ".join(
        (f"{run.first}–{run.last}" if run.last > run.first else f"{run.first}")
        + (f" {run.side.value}" if run.side is not None else "")
        for run in runs
    )


def _grams(entry: Entry) -> float:
    return sum(batch.grams for batch in entry.batches)


def _degrees(entry: Entry) -> str:
    told = [b.temperature for b in entry.batches] + [entry.temperature]
    return next((f"{value:g}" for value in told if value is not None), "")


BOOK = [
    Column("Day", lambda row: row[1].day.isoformat()),
    Column("", lambda row: "" if row[1].told is Told.WORK else row[1].told.value),
    Column("Task", lambda row: row[1].task.value),
    Column("What", lambda row: row[1].what or row[1].line),
    Column("Hours", lambda row: row[1].hours_words, lambda row: row[1].hours),
    Column("People", lambda row: _people(row[1])),
    Column("Strips, molds", lambda row: _numbers(row[1])),
    Column("Glue, g", lambda row: f"{_grams(row[1]):g}" if row[1].batches else "", lambda row: _grams(row[1])),
    Column("At °C", lambda row: _degrees(row[1])),
    Column("Mend, or why", lambda row: row[1].mend),
]
"""Rows are an entry's number in the log and the entry."""

"""Ways of planking side by side, and a search for the least troublesome; worked out in a process of its own."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QLabel, QPushButton, QVBoxLayout, QWidget

from ....app.processes.comparer import MOST, CompareRun
from ....core.amounts import in_amounts, quantity
from ....core.job import Job, StripSettings
from ....core.planking.compare import NOT_TRIED, PlanSummary, in_words, reasons
from ....core.planking.mechanics import GRADES
from ....core.units import LengthStyle, format_length
from ....drawing.model import Drawing
from ....drawing.planking.pictures import Pictured
from ...background.beside_dialog import BesideDialog
from ...views.data_table import Column, DataTable
from ...views.drawing_view import DrawingView
from ...views.hull_view import HullView
from ...views.sentences import sentence
from ...views.thumbnail import thumbnail
from ...window.theme import Theme, legend

PICTURE_WIDE, PICTURE_HIGH = 112, 36
"""Of the bow and the girth map in a row, in pixels."""
TABLE_HEIGHT = 36 + (PICTURE_HIGH + 4) * MOST + 8
"""Its heading and every way that is kept, in pixels."""
SAID_HEIGHT = 44
"""Three lines."""


class CompareDialog(BesideDialog):
    """`plans` are those kept side by side; `chosen` the one to use, if any, once the dialog is accepted."""

    def __init__(self, job: Job, style: LengthStyle, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(style, parent)
        self.setWindowTitle("Ways of planking")
        self.job = job
        self.theme = theme
        self.plans: list[StripSettings] = list(job.plans)
        if job.strips not in self.plans:
            self.plans = [job.strips, *self.plans][:MOST]
        self.chosen: StripSettings | None = None
        self.found: dict[StripSettings, PlanSummary] = {}
        self.pictures: dict[StripSettings, Pictured] = {}
        self._small_ones: dict[StripSettings, QPixmap] = {}
        self._searching = False
        self.table = DataTable("Ways of planking", self._columns(), lambda p: str(self._order(p)))
        self.table.picked.connect(lambda _: self._show_chosen())
        self.table.setIconSize(QSize(PICTURE_WIDE, PICTURE_HIGH))
        self.table.verticalHeader().setDefaultSectionSize(PICTURE_HIGH + 4)
        self.bow = DrawingView("The bow from the side, as it would lie")
        self.hull = HullView()
        self.hull.setAccessibleName("The hull, as it would be planked")
        self.map = DrawingView("The girth map, as it would lie")
        self.map.stretch_to_fit = True
        self.hull.picked.connect(lambda number: self._mark(f"strip:{number}"))
        self.map.picked.connect(self._mark)
        self.said.setText("The present plan and those kept beside it.")
        self.said.setMinimumHeight(SAID_HEIGHT)
        self._build_buttons()
        layout = QVBoxLayout(self)
        self.table.setFixedHeight(TABLE_HEIGHT)
        layout.addWidget(self.table)
        pictures = QHBoxLayout()
        pictures.addWidget(self.bow, 2)
        pictures.addWidget(self.hull, 3)
        pictures.addWidget(self.map, 3)
        layout.addLayout(pictures, 1)
        layout.addWidget(QLabel("Goes on " + legend([grade.value for grade in GRADES], theme)))
        layout.addWidget(self.said)
        layout.addLayout(self.foot_with((self.find_button, self.stop_button, self.drop, self.use, self.leave)))
        self.resize(1260, 700)
        self.begin_work(CompareRun(job, tuple(self.plans)))

    def _build_buttons(self) -> None:
        self.find_button = QPushButton("Find me a plan")
        self.find_button.setToolTip(
            "Tries guides, layouts and widths: least worst strip first, then fewest ends that turn sharply, fewest that want heat, "
            "fewest short ones, then least wood"
        )
        self.find_button.clicked.connect(self.search)
        self.stop_button = QPushButton("Stop")
        self.stop_button.clicked.connect(self.stop)
        self.drop = QPushButton("Take it out")
        self.drop.clicked.connect(self._drop)
        self.use = QPushButton("Use this plan")
        self.use.clicked.connect(self._use)
        self.leave = QPushButton("Close")
        self.leave.clicked.connect(self.accept)

    def search(self) -> None:
        """Try what is worth a try."""
        self._searching = True
        self.begin_work(CompareRun(self.job, ()))

    def take(self, value: PlanSummary | Pictured) -> None:
        """A plan that was weighed, or how one would lie."""
        if isinstance(value, Pictured):
            self.pictures[value.settings] = value
        else:
            self.found[value.settings] = value

    def work_done(self) -> None:
        if self._searching:
            self._keep_best()

    def _keep_best(self) -> None:
        """Put the best that were found beside the present plan, and say why the first is better."""
        self._searching = False
        tried = [p for s, p in self.found.items() if s != self.job.strips and not p.refused]
        best = sorted(tried, key=lambda p: p.order)
        present = self.found.get(self.job.strips)
        self.plans = [self.job.strips, *(p.settings for p in best)][:MOST]
        if best and present is not None:
            self.said.setText(f"Of {len(tried)} ways tried the first below yours is best: {reasons(best[0], present)} {NOT_TRIED}")
        self.show_now()
        if best:
            self.table.select("1")
            self._show_chosen()

    def _order(self, plan: PlanSummary) -> int:
        return self.plans.index(plan.settings)

    def _columns(self) -> list[Column]:
        def length(mm: float) -> str:
            return format_length(mm, self.style_of_lengths)

        def named(plan: PlanSummary) -> str:
            return ("now: " if plan.settings == self.job.strips else "") + in_words(plan.settings)

        now = self.found.get(self.job.strips)

        def beside(
            text: Callable[[PlanSummary], str],
            figure: Callable[[PlanSummary], float],
            signed: Callable[[float], str] = lambda by: f"{by:+.0f}",
        ) -> Callable[[PlanSummary], str]:
            """The figure, and how much more or less it is than now."""

            def written(plan: PlanSummary) -> str:
                if plan.refused:
                    return "–"
                if now is None or now.refused or plan.settings == now.settings:
                    return text(plan)
                more = signed(figure(plan) - figure(now)).replace("-", "−")
                return f"{text(plan)}  ({more})" if any(digit in more for digit in "123456789") else text(plan)

            return written

        def share_of_wood(by: float) -> str:
            return f"{by / now.wood:+.1%}" if now is not None else ""

        def hardest(plan: PlanSummary) -> str:
            if plan.refused:
                return sentence(plan.refused, self.style_of_lengths)
            return f"{plan.worst.value} at {length(plan.where)}"

        def wood(p: PlanSummary) -> str:
            return in_amounts(quantity(p.wood / 1e9, "m³", ".3f"), self.job.units.told_in)

        return [
            Column("Plan", named, picture=self._small),
            Column("Wide", lambda p: length(p.settings.width), lambda p: p.settings.width),
            Column("Thick", lambda p: length(p.settings.thickness), lambda p: p.settings.thickness),
            Column("A side", beside(lambda p: str(p.per_side), lambda p: p.per_side), lambda p: p.per_side),
            Column("Hardest", hardest, lambda p: p.order[0]),
            Column("Want heat", beside(lambda p: str(p.hard), lambda p: p.hard), lambda p: p.hard),
            Column("Ends turn", beside(lambda p: str(p.folds), lambda p: p.folds), lambda p: p.folds),
            Column(
                "Short, slivers",
                beside(lambda p: f"{p.short}, {p.slivers}", lambda p: p.short + p.slivers),
                lambda p: p.short + p.slivers,
            ),
            Column("Wood", beside(wood, lambda p: p.wood, share_of_wood), lambda p: p.wood),
            Column("Hours", beside(lambda p: f"{p.hours:.0f}", lambda p: p.hours), lambda p: p.hours),
        ]

    def _small(self, plan: PlanSummary) -> QPixmap | None:
        """Its bow and its girth map, small."""
        own = self.pictures.get(plan.settings)
        if own is not None and plan.settings not in self._small_ones:
            both = (own.bow, own.girth_map)
            self._small_ones[plan.settings] = thumbnail(both, self.theme, PICTURE_WIDE, PICTURE_HIGH)
        return self._small_ones.get(plan.settings)

    def show_now(self) -> None:
        """The plans there are; the one that was chosen stays chosen."""
        rows = [self.found[s] for s in self.plans if s in self.found]
        chosen = self.table.current_key()
        self.table.show_rows(rows, self._columns())
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.bar.setVisible(self.running)
        self.stop_button.setVisible(self.running)
        self.find_button.setEnabled(not self.running)
        if rows:
            self.table.select(chosen or "0")
        self._show_chosen()

    def selected(self) -> StripSettings | None:
        """The plan whose row is chosen."""
        text = self.table.current_key()
        return self.plans[int(text)] if text else None

    def _show_chosen(self) -> None:
        """How the chosen plan would lie, and what can be done with it."""
        chosen = self.selected()
        pictured = self.pictures.get(chosen) if chosen is not None else None
        for view, drawing in (
            (self.bow, pictured.bow if pictured else Drawing("", ())),
            (self.map, pictured.girth_map if pictured else Drawing("", ())),
        ):
            view.show_drawing(drawing, self.theme, self.style_of_lengths)
        mesh = pictured.hull if pictured else None
        if mesh is not self.hull.mesh:
            self.hull.mark(0)
            self.hull.show_hull((lambda: mesh) if mesh is not None else None, self.theme)
        self.use.setEnabled(chosen is not None and chosen != self.job.strips)
        self.drop.setEnabled(chosen is not None and chosen != self.job.strips)

    def _mark(self, key: str) -> None:
        """One strip, on the hull and on the map alike."""
        kind, _, number = key.partition(":")
        if kind == "strip":
            self.hull.mark(int(number))
            self.map.mark(key)

    def _drop(self) -> None:
        chosen = self.selected()
        if chosen is not None:
            self.plans.remove(chosen)
            self.show_now()

    def _use(self) -> None:
        self.chosen = self.selected()
        self.accept()

    def done(self, result: int) -> None:
        self.hull.close_scene()
        super().done(result)

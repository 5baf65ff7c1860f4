"""The page of sheer and ends: the sheer on the outside along the hull, one head below it, and all of them in the drawer."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSplitter, QTabWidget, QWidget

from ...core.settings.trim import railed, trimmed
from ...core.trim.rails import Rails
from ...core.trim.sheer import SheerMark, SheerPlan
from ...core.trim.stages import RAILS, SHEER_STRIPS
from ...drawing.model import Drawing
from ...drawing.trim import from_line, head_section, mark_key, sheer_line, side_of_line
from ..views.bench_card import Card
from ..views.data_table import Column, DataTable
from ..views.drawing_view import DrawingView
from .page import Page, head_button, result_label
from .trim_groups import TRIM_GROUPS

NOTHING = "nothing"


class TrimPage(Page):
    """Marks along the hull and one of them as it is made."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Where is she trimmed?", TRIM_GROUPS, "sheer and ends", parent)
        self.chosen = ""
        self.result = result_label("")
        self.give = head_button(
            "Carry the sheer out", "Work it out on the outside", lambda: self.command.emit("carry-sheer")
        )
        for widget in (self.result, self.give):
            self.head.addWidget(widget)
        self.line, self.section = DrawingView("The sheer along the hull"), DrawingView("One head")
        self.line.stretch_to_fit = True
        self.line.picked.connect(self.choose_key)
        for view in (self.line, self.section):
            self.decides_on(view)
        self.both = QSplitter(Qt.Orientation.Vertical)
        self.both.setChildrenCollapsible(False)
        self.both.addWidget(self.line)
        self.both.addWidget(self.section)
        self.both.setSizes([300, 340])
        self.set_drawing(self.both, [self.line], [self.section])
        self.table = DataTable("The sheer, head by head", [], mark_key)
        self.rails = DataTable("Rails of one side", [], lambda rail: f"rail:{rail.name}")
        self.tabs = QTabWidget()
        for text, table in (("Heads", self.table), ("Rails", self.rails)):
            self.tabs.addTab(table, text)
            table.picked.connect(self.choose_key)
        self.set_drawer(self.tabs, "Table of heads")

    def choose_key(self, key: str) -> None:
        """A head picked on the hull or in the table."""
        kind, _, name = key.partition(":")
        if kind != "head":
            super().choose_key(key)
            return
        self.chosen = name
        self.refresh()
        self.card_changed.emit()

    def go_to_place(self, where: str) -> None:
        if where.startswith(("mold ", "frame ", "bow ", "stern ")):
            self.choose_key(f"head:{where}")
        else:
            super().go_to_place(where)

    @property
    def plan(self) -> SheerPlan | None:
        """All heads as far as they are known."""
        found: SheerPlan | None = self.state.known.get(SHEER_STRIPS) if trimmed(self.state.job) else None
        return found

    @property
    def mark(self) -> SheerMark | None:
        """The head that is chosen; the one amidships until then."""
        plan = self.plan
        if plan is None or not plan.marks:
            return None
        return next((m for m in plan.marks if m.name == self.chosen), plan.marks[len(plan.marks) // 2])

    def _missing(self, stage: str) -> str:
        if self.state.job.offsets.rows and not trimmed(self.state.job):
            return "The sheer is not carried out yet."
        return super()._missing(stage)

    def refresh(self) -> None:
        state = self.state
        self.say_findings("trim")
        has = trimmed(state.job)
        self.give.setVisible(bool(state.job.offsets.rows) and not has)
        for widget in (self.both, self.drawer_button):
            widget.setVisible(has)
        plan, mark = self.plan, self.mark
        if plan is None or mark is None:
            self._show_nothing()
            return
        stale = "" if state.is_known(SHEER_STRIPS) else "  (out of date)"
        self.result.setText(f"{len(plan.marks)} heads a side · widest beam {state.write(plan.beam)}{stale}")
        rails: Rails | None = state.known.get(RAILS) if railed(state.job) else None
        self.tabs.setTabVisible(self.tabs.indexOf(self.rails), rails is not None)
        if self.seen(state.key(SHEER_STRIPS, RAILS), mark.name, state.job.units, state.job.trim, state.theme):
            return
        trim, style = state.job.trim, state.style
        for view, drawing in (
            (self.line, sheer_line(plan, style, trim)), (self.section, head_section(mark, state.job.molds.skin, style, trim)),
        ):  # fmt: skip
            view.job = state.job
            view.show_drawing(drawing, state.theme, style)
        self.line.mark(mark_key(mark))
        self.name_drawer(f"Table of {len(plan.marks)} heads")
        self.table.show_rows(plan.marks, self._columns(plan))
        self.table.select(mark_key(mark))
        self.rails.show_rows(rails.rails if rails else (), self._rail_columns())

    def _show_nothing(self) -> None:
        if self.seen(NOTHING, self.state.theme):
            return
        self.result.setText("")
        for view in (self.line, self.section):
            view.show_drawing(Drawing("", ()), self.state.theme, self.state.style)
        for table in (self.table, self.rails):
            table.show_rows([], [])

    def _rail_columns(self) -> list[Column]:
        write = self.state.write
        return [
            Column("Rail", lambda r: r.name),
            Column("Long", lambda r: write(r.length), lambda r: r.length),
            Column("Sprung in one piece", lambda r: r.behaviour.grade.value, lambda r: r.behaviour.share),
            Column("Hardest at", lambda r: write(r.behaviour.place), lambda r: r.behaviour.place),
            Column(
                "Laminated from",
                lambda r: f"{r.laminations} of {write(r.each)}" if r.laminations > 1 else "one piece",
            ),
            Column(
                "Scarfed from",
                lambda r: f"{r.pieces} lengths" if r.pieces else "no boards given",
                lambda r: r.pieces,
            ),
        ]

    def _columns(self, plan: SheerPlan) -> list[Column]:
        write = self.state.write

        def arc(k: int) -> Column:
            heading = f"Arc from {write(float(plan.bases[k][0]))}"
            return Column(heading, lambda m: write(m.radii[k]), lambda m: m.radii[k])

        return [
            Column("Head", lambda m: m.name, lambda m: m.station),
            Column("Stands at", lambda m: write(m.station), lambda m: m.station),
            Column("Inside, up", lambda m: write(m.inside_up), lambda m: m.inside_up),
            Column("Inside, out", lambda m: write(float(m.inside[0])), lambda m: float(m.inside[0])),
            Column("Outside, up", lambda m: write(m.outside_up), lambda m: m.outside_up),
            Column("Outside, out", lambda m: write(float(m.outside[0])), lambda m: float(m.outside[0])),
            Column("Cut first at", lambda m: write(m.cut_up), lambda m: m.cut_up),
            Column("Round from the keel", lambda m: write(m.girth), lambda m: m.girth),
            Column("Falls outboard", lambda m: f"{m.slope:.1f}°", lambda m: m.slope),
            Column("Rises aft", lambda m: f"{m.along:.1f}°", lambda m: m.along),
            Column(
                "Hooked over the ribband",
                lambda m: "" if m.gauge is None else write(m.gauge),
                lambda m: m.gauge or 0.0,
            ),
            *(arc(k) for k in range(len(plan.bases))),
            Column("In strip", lambda m: "" if m.strip is None else str(m.strip)),
        ]

    def card(self) -> Card:
        state, mark = self.state, self.mark
        if mark is None:
            return Card("Sheer and ends")
        rows: list[Any] = [
            ("inside", from_line(mark.inside_up, state.style)),
            ("head cut first at", from_line(mark.cut_up, state.style)),
            ("half-breadth outside", state.write(float(mark.outside[0]))),
            ("round from the keel", state.write(mark.girth)),
            ("falls outboard", f"{mark.slope:.1f}°"),
            ("rises aft", f"{mark.along:.1f}°"),
        ]
        if mark.strip is not None and mark.below is not None:
            rows.append((f"strip {mark.strip}'s lower edge", f"{state.write(mark.below)} below"))
        if mark.gauge is not None:
            rows.append(("hooked over its ribband", state.write(mark.gauge)))
        return Card(
            mark.name.capitalize(), f"at {state.write(mark.station)}", state.write(abs(mark.outside_up)), state.style.name,
            f"{side_of_line(mark.outside_up)} the set-up line, on the outside", tuple(rows),
            "steal the inside mark from the head, carry it through the skin, and let a batten run fair through all",
            "A planked hull is heavy and springs: cross spalls go on before molds come out.",
        )  # fmt: skip

"""The page of sheer and ends: one topic at a time, drawn above, told in the tables of the drawer."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QSplitter, QTabWidget, QWidget

from ....core.release.stages import LIFT
from ....core.settings.sheer import trimmed
from ....core.sheer.heads import SheerMark, SheerPlan
from ....core.sheer.stages import SHEER_STRIPS
from ....core.units import format_degrees
from ....core.words import counted
from ....drawing.sheer.heads import from_line, mark_key, side_of_line
from ....files.schedule import Schedule
from ....files.sheer.schedules import HEADS, SCHEDULES
from ...views.bench_card import Card
from ...views.drawing_view import DrawingView
from ...views.schedule_columns import schedule_table, show_schedule
from ..page import Page, head_button, lie_over, result_label
from .groups import SHEER_GROUPS
from .topics import NONE, TOPICS, Shown, Topic

NOTHING = "nothing"


class SheerPage(Page):
    """Marks along the hull and one of them as it is made; the other topics in the same place."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Where is she trimmed?", SHEER_GROUPS, "sheer and ends", parent)
        self.chosen, self.other = "", ""
        self._mold = 0
        self._told: list[str] = []
        self.topics = QComboBox()
        self.topics.setAccessibleName("What is shown of sheer and ends")
        self.topics.addItems([topic.name for topic in TOPICS])
        self.topics.activated.connect(lambda _: self._topic_chosen())
        self.result = result_label("")
        self.give = head_button("", "Work it out", self._give)
        for widget in (self.topics, self.result, self.give):
            self.head.addWidget(widget)
        self.line, self.section = DrawingView("The sheer along the hull"), DrawingView("One head")
        self.line.stretch_to_fit = True
        for view in (self.line, self.section):
            self.decides_on(view)
            view.picked.connect(self.choose_key)
        self.both = QSplitter(Qt.Orientation.Vertical)
        self.both.setChildrenCollapsible(False)
        self.both.addWidget(self.line)
        self.both.addWidget(self.section)
        self.both.setSizes([300, 340])
        self.set_drawing(self.both, [self.line], [self.section])
        self.tables = {s.key: schedule_table(s) for s in SCHEDULES}
        self.tabs = QTabWidget()
        for schedule in SCHEDULES:
            table = self.tables[schedule.key]
            self.tabs.addTab(table, schedule.title.split(",")[0])
            table.picked.connect(self.choose_key)
        self.set_drawer(self.tabs, "Table of heads")

    @property
    def topic(self) -> Topic:
        """What is shown."""
        return TOPICS[self.topics.currentIndex()]

    def show_topic(self, name: str) -> None:
        """Show a topic by its name."""
        self.topics.setCurrentText(name)
        self._topic_chosen()

    def _topic_chosen(self) -> None:
        self.refresh()
        self.card_changed.emit()

    def _give(self) -> None:
        """What the button in the head asks for: the sheer itself, or the topic that is shown."""
        command = self.topic.button(self.state.job)[1] if trimmed(self.state.job) else "carry-sheer"
        if command:
            self.command.emit(command)
        else:
            self.keep_setting(self.topic.path, True)

    def choose_key(self, key: str) -> None:
        """A head, or what else there is, picked in a drawing or a table."""
        kind, _, name = key.partition(":")
        if kind == "head":
            self.chosen = name
            self._choose_its_mold()
        elif kind == "bulkhead":
            self.other = name
        else:
            super().choose_key(key)
            return
        self.refresh()
        self.card_changed.emit()

    def _choose_its_mold(self) -> None:
        """A head that is a mold is the mold of the keel line too."""
        shape, mark = self.state.shape, self.mark
        names = [mold.name for mold in shape.molds.molds] if shape is not None else []
        if mark is not None and mark.of_mold in names:
            self._mold = names.index(mark.of_mold)
            self.mold_chosen.emit(self._mold)

    def _follow_mold(self) -> None:
        """The mold that is chosen on the keel line, or on another page, is the head that is shown."""
        plan, mold = self.plan, self.state.mold
        if self.state.mold_number == self._mold or plan is None or mold is None:
            return
        self._mold = self.state.mold_number
        self.chosen = next((m.name for m in plan.marks if m.of_mold == mold.name), self.chosen)

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
        self.say_findings("sheer")
        has, topic = trimmed(state.job), self.topic
        self._offer(has, topic)
        for widget in (self.both, self.drawer_button, self.topics):
            widget.setVisible(has)
        self._follow_mold()
        plan, mark = self.plan, self.mark
        if plan is None or mark is None:
            self._show_nothing()
            return
        stale = "" if state.is_known(SHEER_STRIPS) else "  (out of date)"
        self.result.setText(f"{counted(len(plan.marks), 'head')} a side · widest beam {state.write(plan.beam)}{stale}")
        stages = dict.fromkeys(s.stage for s in topic.schedules)
        if self.seen(
            state.key(SHEER_STRIPS, *stages, *topic.stages), topic.name, mark.name, self.other, self._drawn_from(), state.theme
        ):
            return
        self._draw(topic, Shown(state, plan, mark, self.other))
        self._tell(topic, mark)

    def _drawn_from(self) -> tuple[Any, ...]:
        """The settings that stand on the drawings themselves."""
        job = self.state.job
        return job.trim, job.beams, job.outer, job.release, job.inside, job.molds.skin, job.units, job.name

    def _offer(self, has: bool, topic: Topic) -> None:
        """The button in the head: what is not worked out yet, or what is read."""
        text = topic.button(self.state.job)[0] if has else "Carry the sheer out"
        self.give.setText(text)
        self.give.setVisible(bool(self.state.job.offsets.rows) and bool(text))

    def _draw(self, topic: Topic, what: Shown) -> None:
        state = what.state
        drawings = topic.draw(what) if topic.wanted(state.job) or topic.command else (TOPICS[0].draw(what)[0], NONE)
        two = bool(drawings[1].strokes)
        self.section.setVisible(two)
        lie_over(self.line, head=True, foot=not two)
        self.line.stretch_to_fit = topic.stretched or not topic.wanted(state.job)
        self.section.stretch_to_fit = not drawings[1].true_to_scale
        for view, drawing in zip((self.line, self.section), drawings, strict=True):
            view.job = state.job
            view.show_drawing(drawing, state.theme, state.style)
        self.line.mark(mark_key(what.mark))

    def _tell(self, topic: Topic, mark: SheerMark) -> None:
        """The tables of a topic; those without a row stay hidden, and the table of heads shows where there is none."""
        told = self._known(topic.schedules) or self._known((HEADS,))
        for k, schedule in enumerate(SCHEDULES):
            table = self.tables[schedule.key]
            self.tabs.setTabVisible(k, schedule.key in told)
            show_schedule(table, schedule, told.get(schedule.key), self.state.job.units)
            table.select(mark_key(mark))
        keys = list(told)
        if self._told != keys:
            self._told = keys
            self.tabs.setCurrentWidget(self.tables[keys[0]])
        heads = self.tables[HEADS.key].model().rowCount()
        self.name_drawer(f"Table of {counted(heads, 'head')}" if keys == [HEADS.key] else f"Tables: {topic.name.lower()}")

    def _known(self, schedules: Iterable[Schedule]) -> dict[str, Any]:
        """What those schedules are told from that have any row, by their keys."""
        values = {s.key: s.value_in(self.state.known, self.state.job) for s in schedules}
        return {s.key: values[s.key] for s in schedules if values[s.key] is not None and list(s.rows(values[s.key]))}

    def _show_nothing(self) -> None:
        if self.seen(NOTHING, self.state.theme):
            return
        self.result.setText("")
        for view in (self.line, self.section):
            view.show_drawing(NONE, self.state.theme, self.state.style)
        for table in self.tables.values():
            table.show_rows([], [])

    def card(self) -> Card:
        state, mark = self.state, self.mark
        if mark is None:
            return Card("Sheer and ends")
        rows: list[Any] = [
            ("inside", from_line(mark.inside_up, state.style)),
            ("head cut first at", from_line(mark.cut_up, state.style)),
            ("half-breadth outside", state.write(float(mark.outside[0]))),
            ("round from the keel", state.write(mark.girth)),
            ("falls outboard", format_degrees(mark.slope)),
            ("rises aft", format_degrees(mark.along)),
        ]
        if mark.strip is not None and mark.below is not None:
            rows.append((f"strip {mark.strip}'s lower edge", f"{state.write(mark.below)} below"))
        if mark.gauge is not None:
            rows.append(("over its ribband", state.write(mark.gauge)))
        return Card(
            mark.name.capitalize(),
            f"at {state.write(mark.station)}",
            state.write(abs(mark.outside_up)),
            state.style.name,
            f"{side_of_line(mark.outside_up)} the set-up line, on the outside",
            tuple(rows),
            "steal the inside mark from the head, carry it through the skin, and let a batten run fair through all",
            self._caution(),
        )

    def _caution(self) -> str:
        lift = self.state.known.get(LIFT) if LIFT.when(self.state.job) else None
        if lift is None:
            return "A planked hull is heavy and springs: cross spalls go on before molds come out."
        return (
            f"The shell weighs some {lift.weight:.0f} kg: {lift.hands} people to lift and turn it, on padded cradles, nobody under "
            "it. Spalls go on before molds come out."
        )

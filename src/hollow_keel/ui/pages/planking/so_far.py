"""How far the planking has come, typed beside what the plan leaves, and how the rest goes on."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QLabel, QPushButton, QSpinBox, QVBoxLayout, QWidget

from ....core.findings import Weight
from ....core.planking.as_planked import Replan
from ....core.settings.progress import Planked
from ....core.settings.strip_choices import RestWay
from ...views.entry_table import EntryTable
from ...views.girth_left_table import GirthLeftModel
from ...window.state import State

WAYS = {RestWay.ON: "as planned", RestWay.TAPER: "all tapered", RestWay.FEW: "a few bring it back"}
MEASURE = "Type how much girth is left at some molds, from the last strip to where the planking ends, along the mold."


class SoFar(QObject):
    """How many strips are on, what is left, and the rest planned again."""

    def __init__(self, changed: Callable[[str, Planked], None]) -> None:
        super().__init__()
        self._changed = changed
        self._planked = Planked()
        self.today = date.today
        self.widget = QWidget()
        self._build()

    def _build(self) -> None:
        self.strips = QSpinBox()
        self.strips.setAccessibleName("Strips laid a side")
        self.strips.setRange(0, 2000)
        self.strips.setKeyboardTracking(False)
        self.strips.valueChanged.connect(self._laid)
        self.way = QComboBox()
        self.way.setAccessibleName("The rest")
        self.way.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.way.activated.connect(lambda _: self._choose())
        self.taken = QPushButton()
        self.taken.clicked.connect(lambda: self._changed("readings taken now", self._planked.taken_now()))
        self.model = GirthLeftModel(self._changed)
        self.table = EntryTable("Girth left", self.model)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.said = QLabel()
        self.said.setWordWrap(True)
        row = QHBoxLayout()
        self.rest = QLabel("The rest")
        label = QLabel("Strips laid on each side")
        for text in (label, self.rest):
            text.setObjectName("small")
        for widget in (label, self.strips, self.taken, self.rest, self.way):
            row.addWidget(widget)
        row.addStretch(1)
        column = QVBoxLayout(self.widget)
        column.setContentsMargins(0, 4, 0, 0)
        column.addLayout(row)
        column.addWidget(self.said)
        column.addWidget(self.table, 1)

    def _laid(self, count: int) -> None:
        if count != self._planked.strips:
            self._changed("strips laid", self._planked.with_strips(count, self.today()))

    def _choose(self) -> None:
        way = RestWay(self.way.currentData())
        self._changed("how the rest goes", self._planked.model_copy(update={"way": way}))

    def show_state(self, state: State) -> None:
        """Show a moment of the window."""
        self._planked = state.job.planked or Planked()
        if not self.strips.hasFocus():
            self.strips.setValue(self._planked.strips)
        self.model.theme = state.theme
        before = self._planked.measured_strips
        self.taken.setVisible(self._planked.is_measured and before != self._planked.strips)
        self.taken.setText(f"Measured with {self._planked.strips} on, not {before}")
        replan = state.replan
        for widget in (self.rest, self.way):
            widget.setVisible(replan is not None and len(replan.ways) > 1)
        if replan is None or state.shape is None:
            self.model.show_planked(self._planked, (), {}, state.style, {})
            self.said.setText("")
            return
        self._show_ways(replan)
        molds = {mold.name: mold for mold in state.shape.molds.molds}
        widths = {row.mold: row.width for row in replan.rows}
        self.model.show_planked(self._planked, tuple(replan.left.items()), widths, state.style, molds)
        self.said.setText(_words(replan, self._planked, state))

    def _show_ways(self, replan: Replan) -> None:
        if [self.way.itemData(k) for k in range(self.way.count())] != list(replan.ways):
            self.way.clear()
            for way in replan.ways:
                self.way.addItem(WAYS[way], way)
        self.way.setCurrentIndex(self.way.findData(replan.way))


def _words(replan: Replan, planked: Planked, state: State) -> str:
    if not replan.rows:
        return MEASURE
    fine = next((f.said(state.say_length).text for f in replan.findings if f.weight is Weight.INFORMATION), "")
    coming = replan.laid + replan.strips - planked.strips
    follows = "What is laid stays; strips, ticks, pieces and prints follow."
    stays = follows if replan.changed else fine or "The plan stays."
    if replan.way is RestWay.FEW and replan.back is not None:
        widths = [w for w in replan.back.widths.values() if w > 0]
        return (
            f"{replan.back.strips} of {state.write(min(widths))} to {state.write(max(widths), unit=True)}, then as planned: "
            f"{coming} more a side. {stays}"
        )
    low, high = state.write(replan.narrowest), state.write(replan.widest, unit=True)
    wide = f"{high} wide" if state.write(replan.widest) == low else f"{low} to {high} wide"
    return f"{coming} more a side, {wide}. {stays}"

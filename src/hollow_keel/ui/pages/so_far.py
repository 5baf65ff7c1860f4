"""How far the planking has come, typed beside what the plan leaves, and how the rest goes on."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from PySide6.QtCore import QObject
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from ...core.planking.as_planked import Replan
from ...core.planking.choices import RestWay
from ...core.planking.progress import Planked
from ..state import State
from ..views.entry_table import EntryTable
from ..views.girth_left_table import GirthLeftModel

WAYS = {
    RestWay.ON: "go on as planned from where they are",
    RestWay.TAPER: "taper all the rest",
    RestWay.FEW: "bring it back with a few",
}
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
        self.way.activated.connect(lambda _: self._choose())
        self.taken = QPushButton()
        self.taken.clicked.connect(lambda: self._changed("readings taken now", self._planked.taken_now()))
        self.model = GirthLeftModel(self._changed)
        self.table = EntryTable("Girth left", self.model)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.findings = QLabel()
        self.findings.setObjectName("note")
        self.findings.setWordWrap(True)
        row = QHBoxLayout()
        label = QLabel("Strips laid on each side")
        label.setObjectName("small")
        for widget in (label, self.strips, self.taken, self.way):
            row.addWidget(widget)
        row.addWidget(self.said, 1)
        column = QVBoxLayout(self.widget)
        column.setContentsMargins(0, 4, 0, 0)
        column.addLayout(row)
        column.addWidget(self.findings)
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
        self.way.setVisible(replan is not None and len(replan.ways) > 1)
        if replan is None or state.shape is None:
            self.model.show_planked(self._planked, (), {}, state.style, {})
            self.said.setText("")
            self.findings.setVisible(False)
            return
        self._show_ways(replan)
        girths = {m.name: m.edge.girth for m in state.shape.molds.molds}
        widths = {row.mold: row.width for row in replan.rows}
        self.model.show_planked(self._planked, tuple(replan.left.items()), widths, state.style, girths)
        self.said.setText(_words(replan, self._planked, state))
        self._say_findings(replan, state)

    def _show_ways(self, replan: Replan) -> None:
        if [self.way.itemData(k) for k in range(self.way.count())] != list(replan.ways):
            self.way.clear()
            for way in replan.ways:
                self.way.addItem(WAYS[way], way)
        self.way.setCurrentIndex(self.way.findData(replan.way))

    def _say_findings(self, replan: Replan, state: State) -> None:
        """The first of what wants looking at; all of it when the pointer rests there."""
        texts = [f"▲ {f.where}: {f.text}" for f in (f.said(state.say_length) for f in replan.findings)]
        more = f"  (and {len(texts) - 1} more)" if len(texts) > 1 else ""
        self.findings.setText(texts[0] + more if texts else "")
        self.findings.setToolTip("\n".join(texts))
        self.findings.setVisible(bool(texts))


def _words(replan: Replan, planked: Planked, state: State) -> str:
    if not replan.rows:
        return MEASURE
    coming = replan.laid + replan.strips - planked.strips
    stays = (
        "What is laid stays; strips, ticks, pieces and prints follow."
        if replan.changed
        else "The plan stays."
    )
    if replan.way is RestWay.FEW and replan.back is not None:
        widths = [w for w in replan.back.widths.values() if w > 0]
        return (
            f"{replan.back.strips} of {state.write(min(widths))} to {state.write(max(widths), unit=True)}, then as planned: "
            f"{coming} more a side. {stays}"
        )
    low, high = state.write(replan.narrowest), state.write(replan.widest, unit=True)
    wide = f"{high} wide" if state.write(replan.widest) == low else f"{low} to {high} wide"
    return f"{coming} more a side, {wide}. {stays}"

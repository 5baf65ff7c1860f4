"""The page of veneers: a layer on the hull, one of its veneers flat with its spiling below it, and the tables of both."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QSplitter, QTabWidget, QWidget

from ...core.amounts import in_amounts, quantity
from ...core.settings.veneers import veneered
from ...core.veneers.layers import LayerPlan
from ...core.veneers.stages import LAYERS
from ...core.veneers.veneer import Veneer
from ...drawing.model import Drawing
from ...drawing.veneers import flat_veneer, layer_decisions, layer_map
from ...files.strips_csv import end_name
from ..views.bench_card import Card
from ..views.data_table import Column, DataTable
from ..views.drawing_view import DrawingView
from .page import Page, head_button, result_label
from .veneer_groups import VENEER_GROUPS

NOTHING = "nothing"
"""What is seen where there are no layers."""


class VeneersPage(Page):
    """Layers one by one on the hull, where their angle and width are decided; the chosen veneer flat below."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("How do the veneers lie?", VENEER_GROUPS, "the veneers", parent)
        self.layer, self.number = 1, 0
        self.result = result_label("")
        self.layers = QComboBox()
        self.layers.setAccessibleName("Layer")
        self.layers.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.layers.activated.connect(self._layer_chosen)
        self.more = head_button(
            "Add a layer", "One more layer, on the other diagonal", lambda: self.command.emit("add-layer")
        )
        for widget in (self.result, self.layers, self.more):
            self.head.addWidget(widget)
        self.map, self.flat = DrawingView("The layer on the hull"), DrawingView("The veneer, flat")
        self.flat.stretch_to_fit = True
        self.map.picked.connect(self.choose_key)
        self.decides_on(self.map)
        self.both = QSplitter(Qt.Orientation.Vertical)
        self.both.setChildrenCollapsible(False)
        self.both.addWidget(self.map)
        self.both.addWidget(self.flat)
        self.both.setSizes([380, 260])
        self.set_drawing(self.both, [self.map], [self.flat])
        self.table = DataTable(
            "Veneers of this layer, one side", [], lambda v: f"veneer:{self.layer}:{v.number}"
        )
        self.spiling = DataTable("Spiling of the chosen veneer", [], lambda row: f"spiling:{row[0]}")
        self.schedule = DataTable("Layers", [], lambda plan: f"layer:{plan.number}")
        self.tabs = QTabWidget()
        for text, table in (("Veneers", self.table), ("Spiling", self.spiling), ("Layers", self.schedule)):
            self.tabs.addTab(table, text)
            table.picked.connect(self.choose_key)
        self.set_drawer(self.tabs, "Tables of the veneers")

    # -- choosing ----------------------------------------------------------------------------------------------

    def _layer_chosen(self, index: int) -> None:
        self.layer, self.number = index + 1, 0
        self.refresh()
        self.card_changed.emit()

    def choose_key(self, key: str) -> None:
        """A veneer picked on the hull or in the table, or a layer."""
        kind, _, name = key.partition(":")
        if kind == "veneer":
            layer, _, number = name.partition(":")
            self.layer, self.number = int(layer), int(number)
        elif kind == "layer":
            self.layer, self.number = int(name), 0
        elif kind != "spiling":
            super().choose_key(key)
            return
        self.refresh()
        self.card_changed.emit()

    def go_to_place(self, where: str) -> None:
        kind, _, name = where.partition(" ")
        if kind == "layer" and name.isdigit():
            self.choose_key(f"layer:{name}")
        else:
            super().go_to_place(where)

    @property
    def plans(self) -> tuple[LayerPlan, ...]:
        """All layers as far as they are known."""
        found: tuple[LayerPlan, ...] | None = self.state.known.get(LAYERS)
        return found or ()

    @property
    def plan(self) -> LayerPlan | None:
        """The layer that is chosen."""
        plans = self.plans
        return plans[min(self.layer, len(plans)) - 1] if plans else None

    @property
    def veneer(self) -> Veneer | None:
        """The veneer that is chosen; the one laid first until then."""
        plan = self.plan
        if plan is None or not plan.veneers:
            return None
        return next((v for v in plan.veneers if v.number == self.number), plan.veneers[plan.first - 1])

    # -- showing -----------------------------------------------------------------------------------------------

    def _missing(self, stage: str) -> str:
        if self.state.job.offsets.rows and not veneered(self.state.job):
            return "This hull has no layers of veneer. Add the first one: the next goes over it, on the other diagonal."
        return super()._missing(stage)

    def refresh(self) -> None:
        state = self.state
        self.say_findings("veneers")
        has = veneered(state.job)
        self.more.setVisible(bool(state.job.offsets.rows))
        for widget in (self.layers, self.both, self.drawer_button):
            widget.setVisible(has)
        plan, veneer = self.plan, self.veneer
        if not has or plan is None or veneer is None:
            self._show_nothing()
            return
        self.layer = plan.number
        self.result.setText(self._words(plan))
        if not self.seen(state.key(LAYERS), self.layer, veneer.number, state.job.units, state.theme):
            self._show(plan, veneer)

    def _show_nothing(self) -> None:
        if self.seen(NOTHING, self.state.theme):
            return
        self.result.setText("")
        for view in (self.map, self.flat):
            view.show_drawing(Drawing("", ()), self.state.theme, self.state.style)
        for table in (self.table, self.spiling, self.schedule):
            table.show_rows([], [])

    def _show(self, plan: LayerPlan, veneer: Veneer) -> None:
        state = self.state
        names = [f"Layer {p.number}: {p.layer.degrees:g}°" for p in self.plans]
        if [self.layers.itemText(k) for k in range(self.layers.count())] != names:
            self.layers.clear()
            self.layers.addItems(names)
        self.layers.setCurrentIndex(plan.number - 1)
        self.map.job = state.job
        drawing = layer_decisions(layer_map(plan), plan, state.style)
        self.map.show_drawing(drawing, state.theme, state.style)
        self.flat.show_drawing(
            flat_veneer(plan, veneer, state.job.name, state.style), state.theme, state.style
        )
        key = f"veneer:{plan.number}:{veneer.number}"
        self.map.mark(key)
        self._show_tables(plan, veneer)
        self.table.select(key)

    def _words(self, plan: LayerPlan) -> str:
        stale = "" if self.state.is_known(LAYERS) else "  (out of date)"
        return f"{len(plan.veneers)} a side · {self._area(plan.area)} · {plan.lost:.0%} cut off{stale}"

    def _area(self, one_side: float) -> str:
        """An area of one side, mm², told for both."""
        return in_amounts(quantity(2 * one_side / 1e6, "m²", ".2f"), self.state.job.units.told_in)

    def _show_tables(self, plan: LayerPlan, veneer: Veneer) -> None:
        write = self.state.write
        self.name_drawer(f"Tables of the veneers: {len(plan.veneers)} a side")
        self.table.show_rows(
            plan.veneers,
            [
                Column("Veneer", lambda v: str(v.number), lambda v: v.number),
                Column("Length", lambda v: write(v.length), lambda v: v.length),
                Column("Piece wide", lambda v: write(v.width), lambda v: v.width),
                Column("Narrowest", lambda v: write(v.least), lambda v: v.least),
                Column("Ends", lambda v: f"{end_name(v.starts)} – {end_name(v.ends)}"),
                Column("Strain when flat", lambda v: f"{v.strain:.2%}", lambda v: v.strain),
            ],
        )
        rows: list[tuple[float, float]] = [(float(x), float(y)) for x, y in veneer.spiling.tolist()]
        self.spiling.show_rows(
            rows,
            [
                Column("Along the straight edge", lambda row: write(row[0]), lambda row: row[0]),
                Column("Wide", lambda row: write(row[1]), lambda row: row[1]),
            ],
        )
        self.schedule.show_rows(self.plans, self._layer_columns())

    def _layer_columns(self) -> list[Column]:
        write, area = self.state.write, self._area
        return [
            Column("Layer, from the form", lambda p: str(p.number), lambda p: p.number),
            Column("Runs at", lambda p: f"{p.layer.degrees:g}°", lambda p: p.layer.degrees),
            Column("Thick", lambda p: write(p.layer.thickness), lambda p: p.layer.thickness),
            Column("Of", lambda p: p.layer.wood),
            Column("A side", lambda p: str(len(p.veneers)), lambda p: len(p.veneers)),
            Column("Covers, both sides", lambda p: area(p.area), lambda p: p.area),
            Column("Cut from", lambda p: area(p.whole), lambda p: p.whole),
            Column("Narrower than this they lie down", lambda p: write(p.widest), lambda p: p.widest),
        ]

    def card(self) -> Card:
        state, plan, veneer = self.state, self.plan, self.veneer
        if plan is None or veneer is None or not veneered(state.job):
            return Card("Veneers")
        rows: list[Any] = [
            ("piece wide", state.write(veneer.width)),
            ("narrowest", state.write(veneer.least)),
            ("from", end_name(veneer.starts)),
            ("to", end_name(veneer.ends)),
            ("strain when flat", f"{veneer.strain:.2%}"),
            ("skin, all layers", state.write(state.job.molds.skin)),
        ]
        return Card(
            f"Layer {plan.number}, veneer {veneer.number}", "both sides", state.write(veneer.length), state.style.name,
            "long, along its straight edge; add your own allowance at each end", tuple(rows),
            "its outer edge stays straight as it was sawn, the other is scribed to the one before",
            "Gluing: gloves and fresh air. Staples fly when they are pulled: glasses.",
        )  # fmt: skip

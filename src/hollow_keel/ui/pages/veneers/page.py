"""The page of veneers: a layer on the hull, unrolled, or all layers peeled back; the form under them; one veneer flat with its
spiling below; and the tables of them all."""

from __future__ import annotations

from enum import StrEnum
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QSplitter, QStackedWidget, QTabWidget, QWidget

from ....core.amounts import in_amounts, quantity
from ....core.settings.form import formed
from ....core.settings.veneer_choices import FormKind
from ....core.settings.veneers import veneered
from ....core.veneers.layer_plan import LayerPlan
from ....core.veneers.laying import Laying
from ....core.veneers.neighbours import Seams
from ....core.veneers.order import order_of
from ....core.veneers.ribbands import Form, Ribband
from ....core.veneers.stages import FORM, LAYERS, LAYING, SEAMS
from ....core.veneers.veneer import Veneer
from ....drawing.model import Drawing
from ....drawing.veneers.layers import flat_veneer, form_decisions, form_map, layer_decisions, layer_map, unrolled_map
from ....drawing.veneers.mesh import laid_mesh, veneer_numbers
from ....files.planking.schedules import end_name
from ....files.veneers.schedules import CROSSINGS, RIBBANDS, SPILING, TAKES, VENEERS, VeneerRow, within
from ...views.bench_card import Card
from ...views.data_table import Column, DataTable
from ...views.drawing_view import DrawingView
from ...views.hull_view import HullView
from ...views.schedule_columns import schedule_table, show_schedule
from ..page import HEAD_TALL, Page, Seen, head_button, result_label
from .groups import VENEER_GROUPS
from .tables import neighbour_columns, order_columns, zone_columns

NOTHING = "nothing"
"""What is seen where there are no layers."""


class Pictures(StrEnum):
    """What is seen above."""

    HULL = "on the hull"
    UNROLLED = "unrolled"
    PEELED = "peeled back"
    FORM = "the form"


class VeneersPage(Page):
    """Layers one by one on the hull, where they are decided; the chosen veneer flat below."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("How do the veneers lie?", VENEER_GROUPS, "the veneers", parent)
        self.layer, self.number, self.chosen_ribband = 1, 0, 0
        self.result = result_label("")
        self.layers, self.pictures = QComboBox(), QComboBox()
        self.layers.setAccessibleName("Layer")
        self.pictures.setAccessibleName("Pictures")
        for box in (self.layers, self.pictures):
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        for kind in Pictures:
            self.pictures.addItem(kind.value, kind)
        self.layers.activated.connect(self._layer_chosen)
        self.pictures.activated.connect(lambda _: self.show_pictures(Pictures(self.pictures.currentData())))
        self.more = head_button("Add a layer", "One more layer, on the other diagonal", lambda: self.command.emit("add-layer"))
        self.find_button = head_button(
            "Find me a layout",
            "Tries angles, widths and places of this layer's first veneer",
            lambda: self.command.emit("find-layout"),
        )
        for widget in (self.result, self.layers, self.pictures, self.find_button, self.more):
            self.head.addWidget(widget)
        self._build_pictures()
        self._build_drawer()
        self._mesh_seen = Seen()

    def _build_pictures(self) -> None:
        self.map, self.flat = DrawingView("The layer on the hull"), DrawingView("The veneer, flat")
        self.flat.stretch_to_fit = True
        self.map.picked.connect(self.choose_key)
        self.decides_on(self.map)
        self.hull = HullView()
        self.hull.setAccessibleName("All layers in three dimensions, peeled back one by one")
        self.hull.picked.connect(self._picked_on_hull)
        self.hull.under_head = HEAD_TALL
        self.above = QStackedWidget()
        self.above.addWidget(self.map)
        self.above.addWidget(self.hull)
        self.both = QSplitter(Qt.Orientation.Vertical)
        self.both.setChildrenCollapsible(False)
        self.both.addWidget(self.above)
        self.both.addWidget(self.flat)
        self.both.setSizes([400, 240])
        self.set_drawing(self.both, [self.map], [self.flat])

    def _build_drawer(self) -> None:
        self.table = schedule_table(VENEERS)
        self.spiling = schedule_table(SPILING)
        self.schedule = DataTable("Layers", [], lambda plan: f"layer:{plan.number}")
        self.order = DataTable("Order of laying", [], lambda turn: f"veneer:{self.layer}:{turn.veneer.number}")
        self.takes = schedule_table(TAKES)
        self.ribbands = schedule_table(RIBBANDS)
        self.crossings = DataTable("The ribband on the molds", [], CROSSINGS.pick)
        self.zones = DataTable("Widest veneers", [], lambda z: f"layer:{z.layer}")
        self.pairs = DataTable("Seams of neighbours", [], lambda n: f"layer:{n.outer}")
        self.tabs = QTabWidget()
        for text, table in (
            ("Veneers", self.table),
            ("Spiling", self.spiling),
            ("Layers", self.schedule),
            ("Order of laying", self.order),
            ("Used up", self.takes),
            ("Widths", self.zones),
            ("Seams", self.pairs),
            ("Ribbands", self.ribbands),
            ("On the molds", self.crossings),
        ):
            self.tabs.addTab(table, text)
            table.picked.connect(self.choose_key)
        self.set_drawer(self.tabs, "Tables of the veneers")

    # -- choosing ----------------------------------------------------------------------------------------------

    def show_pictures(self, kind: Pictures) -> None:
        """The layer on the hull or unrolled, all of them peeled back, or the form under them."""
        self.pictures.setCurrentIndex(self.pictures.findData(kind))
        self.above.setCurrentWidget(self.hull if kind is Pictures.PEELED else self.map)
        self.map.stretch_to_fit = kind is Pictures.UNROLLED
        self.refresh()
        self.card_changed.emit()

    @property
    def picture(self) -> Pictures:
        """What is seen above; the form only where there is one."""
        kind = Pictures(self.pictures.currentData())
        return Pictures.HULL if kind is Pictures.FORM and self.form is None else kind

    def _layer_chosen(self, index: int) -> None:
        self.layer, self.number = index + 1, 0
        self.refresh()
        self.card_changed.emit()

    def _picked_on_hull(self, number: int) -> None:
        names = veneer_numbers(self.plans)
        if 0 < number <= len(names):
            self.choose_key("veneer:{}:{}".format(*names[number - 1]))

    def choose_key(self, key: str) -> None:
        """A veneer picked on the hull or in a table, a layer, or a ribband."""
        kind, _, name = key.partition(":")
        if kind == "veneer":
            layer, _, number = name.partition(":")
            self.layer, self.number = int(layer), int(number)
        elif kind == "layer":
            self.layer, self.number = int(name), 0
        elif kind == "ribband":
            self.chosen_ribband = int(name)
        elif kind != "spiling":
            super().choose_key(key)
            return
        self.refresh()
        self.card_changed.emit()

    def go_to_place(self, where: str) -> None:
        kind, _, name = where.partition(" ")
        if kind == "layer" and name.isdigit():
            self.choose_key(f"layer:{name}")
        elif where == "the form":
            self.show_pictures(Pictures.FORM)
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

    @property
    def form(self) -> Form | None:
        """The form, where there is one with anything on it."""
        found: Form | None = self.state.known.get(FORM) if formed(self.state.job) else None
        return found if found is not None and found.ribbands else None

    @property
    def ribband(self) -> Ribband | None:
        """The ribband that is chosen; the one along the sheer until then."""
        form = self.form
        if form is None:
            return None
        sheer = next((r for r in form.ribbands if r.at_sheer), form.ribbands[0])
        return next((r for r in form.ribbands if r.number == self.chosen_ribband), sheer)

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
        for widget in (self.layers, self.pictures, self.find_button, self.both, self.drawer_button):
            widget.setVisible(has)
        plan, veneer = self.plan, self.veneer
        if not has or plan is None or veneer is None:
            self._show_nothing()
            return
        self.layer = plan.number
        self.result.setText(self._words(plan))
        what = state.key(LAYERS, LAYING, SEAMS, FORM)
        chosen = self.layer, veneer.number, self.chosen_ribband, self.picture
        if not self.seen(what, *chosen, state.job.units, state.job.form, state.theme):
            self._show(plan, veneer)

    def _show_nothing(self) -> None:
        if self.seen(NOTHING, self.state.theme):
            return
        self.result.setText("")
        self._mesh_seen.forget()
        for view in (self.map, self.flat):
            view.show_drawing(Drawing("", ()), self.state.theme, self.state.style)
        self.hull.show_hull(None, self.state.theme)
        for table in (
            self.table,
            self.spiling,
            self.schedule,
            self.order,
            self.takes,
            self.ribbands,
            self.crossings,
            self.zones,
            self.pairs,
        ):
            table.show_rows([], [])

    def _show(self, plan: LayerPlan, veneer: Veneer) -> None:
        state = self.state
        names = [f"Layer {p.number}: {p.layer.degrees:g}°" for p in self.plans]
        if [self.layers.itemText(k) for k in range(self.layers.count())] != names:
            self.layers.clear()
            self.layers.addItems(names)
        self.layers.setCurrentIndex(plan.number - 1)
        key = f"veneer:{plan.number}:{veneer.number}"
        if self.picture is Pictures.PEELED:
            self._show_peeled(plan, veneer)
        else:
            self.map.job = state.job
            self.map.show_drawing(self._drawing(plan), state.theme, state.style)
            ribband = self.ribband
            form = self.picture is Pictures.FORM and ribband is not None
            self.map.mark(f"ribband:{ribband.number}" if form and ribband is not None else key)
        self.flat.show_drawing(flat_veneer(plan, veneer, state.job.name, state.style), state.theme, state.style)
        self._show_tables(plan, veneer)
        self.table.select(key)

    def _drawing(self, plan: LayerPlan) -> Drawing:
        style, own, form = self.state.style, self.state.job.form, self.form
        if self.picture is Pictures.FORM and form is not None:
            drawing = form_map(form, plan, style)
            return form_decisions(drawing, form, own.spacing, style)
        if self.picture is Pictures.UNROLLED:
            return unrolled_map(plan)
        return layer_decisions(layer_map(plan), plan, style)

    def _show_peeled(self, plan: LayerPlan, veneer: Veneer) -> None:
        plans = self.plans
        if not self._mesh_seen(self.state.key(LAYERS), self.state.theme):
            self.hull.show_hull(lambda: laid_mesh(plans, peeled=True), self.state.theme)
        self.hull.mark(veneer_numbers(plans).index((plan.number, veneer.number)) + 1)

    def _words(self, plan: LayerPlan) -> str:
        stale = "" if self.state.is_known(LAYERS) else "  (out of date)"
        return f"{len(plan.veneers)} a side · {self._area(plan.area)} · {plan.lost:.0%} cut off{stale}"

    def _area(self, one_side: float) -> str:
        """An area of one side, mm², told for both."""
        return in_amounts(quantity(2 * one_side / 1e6, "m²", ".2f"), self.state.job.units.told_in)

    def _show_tables(self, plan: LayerPlan, veneer: Veneer) -> None:
        state, units = self.state, self.state.job.units
        self.name_drawer(f"Tables of the veneers: {len(plan.veneers)} a side")
        show_schedule(self.table, VENEERS, (plan,), units)
        show_schedule(self.spiling, SPILING, (VeneerRow(plan, veneer),), units)
        self.schedule.show_rows(self.plans, self._layer_columns())
        self.order.show_rows(order_of(plan), order_columns(plan.number))
        show_schedule(self.takes, TAKES, TAKES.value_in(state.known, state.job), units)
        seams: Seams | None = state.known.get(SEAMS)
        self.zones.show_rows(seams.zones if seams else (), zone_columns(state))
        self.pairs.show_rows(seams.neighbours if seams else (), neighbour_columns(state))
        form, ribband = self.form, self.ribband
        show_schedule(self.ribbands, RIBBANDS, form, units)
        show_schedule(self.crossings, CROSSINGS, (ribband,) if ribband else (), units)
        for table in (self.ribbands, self.crossings):
            self.tabs.setTabVisible(self.tabs.indexOf(table), form is not None)

    def _layer_columns(self) -> list[Column]:
        write, area = self.state.write, self._area
        return [
            Column("Layer, from the form", lambda p: str(p.number), lambda p: p.number),
            Column("Runs at", lambda p: f"{p.layer.degrees:g}°", lambda p: p.layer.degrees),
            Column("Thick", lambda p: write(p.layer.thickness), lambda p: p.layer.thickness),
            Column("Of", lambda p: p.layer.wood),
            Column("A side", lambda p: str(len(p.veneers)), lambda p: len(p.veneers)),
            Column("Covers, both sides", lambda p: area(p.area), lambda p: p.area),
            Column("Trimmed", lambda p: area(p.trimmed), lambda p: p.trimmed),
            Column("Cut from", lambda p: area(p.whole), lambda p: p.whole),
            Column("Narrower than this they lie down", lambda p: write(p.widest), lambda p: p.widest),
        ]

    def prepare_picture(self) -> None:
        if self.picture is Pictures.PEELED:
            self.hull.wait_until_known()

    def close_page(self) -> None:
        self.hull.close_scene()

    def card(self) -> Card:
        state, plan, veneer = self.state, self.plan, self.veneer
        if plan is None or veneer is None or not veneered(state.job):
            return Card("Veneers")
        ribband = self.ribband
        if self.picture is Pictures.FORM and ribband is not None:
            return self._ribband_card(ribband)
        laying: Laying | None = state.known.get(LAYING)
        shell = in_amounts(quantity(laying.weight, "kg", ".0f"), state.job.units.told_in) if laying else "…"
        rows: list[Any] = [
            ("piece wide", state.write(veneer.width)),
            ("narrowest", state.write(veneer.least)),
            ("from", end_name(veneer.starts)),
            ("to", end_name(veneer.ends)),
            ("strain when flat", f"{veneer.strain:.2%}"),
            ("flat shape within", within(veneer, state.job.units)),
            ("skin, all layers", state.write(state.job.molds.skin)),
            ("shell, without cloth", shell),
        ]
        return Card(
            f"Layer {plan.number}, veneer {veneer.number}",
            "both sides",
            state.write(veneer.length),
            state.style.name,
            "long, along its straight edge; add your own allowance at each end",
            tuple(rows),
            "its outer edge stays straight as it was sawn, the other is scribed to the one before",
            "Gluing: gloves and fresh air. Staples fly when they are pulled: glasses.",
        )

    def _ribband_card(self, ribband: Ribband) -> Card:
        state, form = self.state, self.form
        assert form is not None
        total = in_amounts(quantity(form.total / 1000.0, "m", ".0f"), state.job.units.told_in)
        name, note = "Ribband", "its upper edge lies on the marks; joints are butted over a mold"
        if form.kind is FormKind.STRINGERS:
            name, note = "Stringer", "its middle lies in the middle of the notches"
        rows: list[Any] = [
            ("wide, thick", ", ".join(state.write(size) for size in form.section)),
            ("goes on", ribband.behaviour.grade.value),
            ("butted from", f"{ribband.pieces} sticks"),
            ("all, both sides", total),
            ("sticks to buy", str(form.sticks)),
        ]
        return Card(
            f"{name} {ribband.number}",
            ribband.lies,
            state.write(ribband.length),
            state.style.name,
            "long, along its middle",
            tuple(rows),
            note,
            "A form under tension: fasten every crossing before you let go.",
        )

"""The deck page: its strips from above with the openings, hull and deck in one picture, and the tables of both."""

from __future__ import annotations

from collections.abc import Mapping
from enum import StrEnum
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QComboBox, QPushButton, QSplitter, QStackedWidget, QTabWidget, QWidget

from ....core.amounts import far_length, in_amounts, quantity
from ....core.deck.openings import OpeningPlan, Openings, runs_meet, saved_by_strip
from ....core.deck.strip_stages import DECK_BEHAVIOURS, DECK_JOIN, DECK_OPENINGS, DECK_PLAN, DECK_STRIP_ENDS, DECK_TICKS, WAYS_OUT
from ....core.deck.strips import DeckPlan
from ....core.deck.ticks import DeckTick
from ....core.hull.deck import Deck
from ....core.hull.stages import DECK, DECK_DOUBT
from ....core.molds.stages import MOLDS
from ....core.planking.end_cuts import EndCut
from ....core.planking.mechanics import Behaviour
from ....core.planking.stages import PLANKING
from ....core.planking.strips import Strip
from ....core.settings.deck import decked, next_name
from ....core.settings.deck_choices import JoinKind, OpeningShape
from ....core.settings.strips import Zone
from ....core.stock.needs import DECK_FROM
from ....core.units import format_angle
from ....core.words import counted
from ....drawing.deck.mesh import decked_mesh
from ....drawing.deck.plan import deck_plan, opening_decisions
from ....drawing.model import Drawing
from ....drawing.planking.girth_map import girth_map
from ....drawing.planking.shades import by_wood
from ....files.deck.schedules import DECK_AT_MOLD, DECK_STRIPS, deck_ticks_of
from ....files.planking.schedules import end_name
from ...views.bench_card import Card
from ...views.data_table import Column, DataTable
from ...views.drawing_view import DrawingView
from ...views.hull_view import HullView
from ...views.schedule_columns import schedule_table, show_schedule
from ...views.sentences import may_be_out
from ..page import HEAD_TALL, Page, Seen, lie_over, result_label
from ..planking.band_sheet import BandSheet
from .groups import DECK_GROUPS

if TYPE_CHECKING:
    from ....core.deck.join import Join
    from ....core.deck.way_out import MoldOut


NOTHING = "nothing"
"""What is seen where there is no deck."""


class Pictures(StrEnum):
    """What is seen besides the deck from above."""

    BOTH = "from above, hull and deck"
    ABOVE = "from above"
    MAP = "from above, unrolled"


def strip_key(strip: Strip) -> str:
    """The name by which a strip of the deck is picked."""
    return f"deck-strip:{strip.number}"


class DeckPage(Page):
    """The deck from above, where openings are decided; hull and deck planked, or the deck's strips unrolled, below it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("How is the deck laid?", DECK_GROUPS, "the deck", parent)
        self.number = 1
        self.result = result_label("")
        self.pictures = QComboBox()
        self.pictures.setAccessibleName("Pictures")
        for kind in Pictures:
            self.pictures.addItem(kind.value, kind)
        self.pictures.activated.connect(lambda _: self.show_pictures(Pictures(self.pictures.currentData())))
        for widget in (self.result, self.pictures):
            self.head.addWidget(widget)
        self.above, self.map = DrawingView("The deck from above"), DrawingView("The deck's strips unrolled")
        self.map.stretch_to_fit = True
        for view in (self.above, self.map):
            view.picked.connect(partial(self._picked_on, view))
        self.decides_on(self.above)
        self.above.traced.connect(self._traced)
        self.hull = HullView()
        self.hull.setAccessibleName("Hull and deck in three dimensions")
        self.hull.picked.connect(self._picked_on_hull)
        self.below = QStackedWidget()
        self.below.addWidget(self.hull)
        self.below.addWidget(self.map)
        self.both = QSplitter(Qt.Orientation.Vertical)
        self.both.setChildrenCollapsible(False)
        self.both.addWidget(self.above)
        self.both.addWidget(self.below)
        self.both.setSizes([300, 340])
        self.set_drawing(self.both, [self.above], [self.map])
        self.give = QPushButton("Give the hull a deck by a camber…")
        self.give.clicked.connect(lambda: self.command.emit("deck-camber"))
        self.head.addWidget(self.give)
        self.sheet = BandSheet(self._bands_changed, self.canvas, lambda job: job.deck.strips, "deck strip")
        self.run_from = 0
        self._build_drawer()
        self._mesh_seen, self._tables_seen = Seen(), Seen()
        self.show_pictures(Pictures.BOTH)

    def _build_drawer(self) -> None:
        self.table = schedule_table(DECK_STRIPS)
        self.at_mold = schedule_table(DECK_AT_MOLD)
        self.openings = DataTable("Openings", [], lambda o: f"opening:{o.opening.name}")
        self.join = DataTable("The join of hull and deck", [], lambda p: f"{p.at}")
        self.ways = DataTable("How molds come out", [], lambda w: f"mold:{w.mold}")
        self.tabs = QTabWidget()
        for text, table in (
            ("Strips", self.table),
            ("At this mold", self.at_mold),
            ("Openings", self.openings),
            ("The join", self.join),
            ("Molds out", self.ways),
        ):
            self.tabs.addTab(table, text)
            table.picked.connect(self.choose_key)
        self.set_drawer(self.tabs, "Tables of the deck")

    # -- what is seen ------------------------------------------------------------------------------------------

    def show_pictures(self, kind: Pictures) -> None:
        """The deck from above alone, or with hull and deck, or with the map below it."""
        self.pictures.setCurrentIndex(self.pictures.findData(kind))
        self.below.setVisible(kind is not Pictures.ABOVE)
        self.below.setCurrentWidget(self.map if kind is Pictures.MAP else self.hull)
        lie_over(self.above, head=True, foot=kind is Pictures.ABOVE)
        self.hull.over_foot = HEAD_TALL
        self.above.fit()
        self.refresh()

    def _picked_on_hull(self, number: int) -> None:
        if number > DECK_FROM:
            self.choose_key(f"deck-strip:{number - DECK_FROM}")
            self.picked_on_drawing()
        else:
            self.strip_chosen.emit(number)

    def _picked_on(self, view: DrawingView, key: str) -> None:
        self.choose_key(key)
        kind, _, name = key.partition(":")
        if kind == "deck-strip":
            more = QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier and self.run_from
            self.run_from = self.run_from if more else int(name)
            self.show_band(self.run_from, int(name), view.viewport().mapTo(self.canvas, view.last_click))

    def show_band(self, first: int, last: int, at: QPoint) -> None:
        """The sheet for a run of strips, by their numbers over the deck: they are told by their place in their course."""
        plan: DeckPlan | None = self.state.known.get(DECK_PLAN)
        if plan is not None:
            places = plan.planking.places
            self.sheet.open(places.get(first, first), places.get(last, last), self.state, at)

    def _bands_changed(self, label: str, zones: tuple[Zone, ...]) -> None:
        self.change(label, "deck", zones=zones)

    def choose_key(self, key: str) -> None:
        """A strip of the deck, a mold or an opening picked in a drawing or a table."""
        kind, _, name = key.partition(":")
        if kind == "deck-strip":
            self.number = int(name)
            self._mark()
            self.card_changed.emit()
        elif kind == "opening":
            self.openings.select(key)
            self.tabs.setCurrentWidget(self.openings)
        else:
            super().choose_key(key)

    def go_to_place(self, where: str) -> None:
        kind, _, name = where.partition(" ")
        if kind == "opening":
            self.choose_key(f"opening:{name}")
            self.open_drawer(True)
        elif kind == "strip" and name.isdigit():
            self.choose_key(f"deck-strip:{name}")
        else:
            super().go_to_place(where)

    def trace_opening(self) -> None:
        """Draw one more opening on the deck, point by point."""
        self.above.tracing.begin()

    def _traced(self, points: list[tuple[float, float]]) -> None:
        """A curve was drawn: one more opening by it."""
        from ....core.deck.outlines import drawn_through

        own = self.state.job.deck.openings
        opening = {"name": next_name(own), "shape": OpeningShape.DRAWN, "drawn": drawn_through(points)}
        self.change("an opening as it was drawn", "deck", openings=(*own, opening))

    @property
    def strip(self) -> Strip | None:
        """The strip that is chosen."""
        plan: DeckPlan | None = self.state.known.get(DECK_PLAN)
        strips = plan.planking.strips if plan is not None else ()
        return next((s for s in strips if s.number == self.number), strips[0] if strips else None)

    def _mark(self) -> None:
        strip = self.strip
        if strip is not None:
            for view in (self.above, self.map):
                view.mark(strip_key(strip))
            for table in (self.table, self.at_mold):
                table.select(strip_key(strip))
            self.hull.mark(DECK_FROM + strip.number)

    # -- showing -----------------------------------------------------------------------------------------------

    def _missing(self, stage: str) -> str:
        if self.state.job.offsets.rows and not decked(self.state.job):
            return "This hull has no deck. Give it one by a camber, or let its offsets go on past the sheer to the centreline."
        return super()._missing(stage)

    def refresh(self) -> None:
        state = self.state
        self.say_findings("deck")
        has = decked(state.job)
        self.give.setVisible(bool(state.job.offsets.rows) and not has)
        self.pictures.setVisible(has)
        self.both.setVisible(has)
        self.drawer_button.setVisible(has)
        deck: Deck | None = state.known.get(DECK) if has else None
        plan: DeckPlan | None = state.known.get(DECK_PLAN) if has else None
        if deck is None or plan is None or state.shape is None:
            self._show_nothing()
            return
        self.result.setText(self._words(deck, plan))
        self._show_above(deck, plan)
        self._show_below(plan)
        self._show_tables(plan)
        self._mark()
        if self.sheet.isVisible():
            self.sheet.show_state(state)
        if not state.is_known(DECK_PLAN):
            self.hull.set_stale("out of date" if state.problem else "out of date: the strips are being laid again…")

    def _show_nothing(self) -> None:
        if self.seen(NOTHING, self.state.theme):
            return
        self.result.setText("")
        self._mesh_seen.forget()
        self._tables_seen.forget()
        for view in (self.above, self.map):
            view.show_drawing(Drawing("", ()), self.state.theme, self.state.style)
        self.hull.show_hull(None, self.state.theme)
        for table in (self.table, self.at_mold, self.openings, self.join, self.ways):
            table.show_rows([], [])

    def _words(self, deck: Deck, plan: DeckPlan) -> str:
        style = self.state.style
        strips = plan.planking.strips
        saved = sum(o.saved for o in self._openings)
        spared = f" · {far_length(saved, style)} left out for openings" if saved else ""
        area = in_amounts(quantity(deck.area, "m²", ".2f"), self.state.job.units.told_in)
        stale = "" if self.state.is_known(DECK_PLAN) else "  (out of date)"
        return f"{len(strips)} a side · {far_length(plan.planking.total_length, style)}{spared} · {area}{stale}"

    @property
    def _openings(self) -> tuple[OpeningPlan, ...]:
        found: Openings | None = self.state.known.get(DECK_OPENINGS)
        return found.openings if found is not None else ()

    def _show_above(self, deck: Deck, plan: DeckPlan) -> None:
        state = self.state
        woods = state.job.deck.zones, state.job.deck.wood
        if self.seen(state.key(DECK, DECK_PLAN, DECK_OPENINGS, MOLDS), woods, state.job.units, state.theme):
            return
        assert state.shape is not None
        found: Openings = state.known.get(DECK_OPENINGS) or Openings((), ())
        drawing = deck_plan(deck, plan, found, state.shape.molds.molds, self._shades(plan))
        self.above.job = state.job
        self.above.show_drawing(opening_decisions(drawing, found, state.style), state.theme, state.style)
        self.map.show_drawing(girth_map(state.shape, plan.planking, state.style), state.theme, state.style)

    def _shades(self, plan: DeckPlan) -> tuple[int, ...]:
        """By wood, where some have another; else none."""
        strips = self.state.job.deck.strips
        kinds, woods = by_wood(plan.planking, strips)
        return kinds if len(woods) > 1 else ()

    def _show_below(self, plan: DeckPlan) -> None:
        state = self.state
        if not self._mesh_seen(state.key(PLANKING, DECK_PLAN, DECK_OPENINGS), state.theme):
            hull, openings = state.planking, self._openings
            self.hull.show_hull(lambda: decked_mesh(hull, plan.planking, openings), state.theme)

    def _show_tables(self, plan: DeckPlan) -> None:
        state = self.state
        told = state.key(DECK_PLAN, DECK_BEHAVIOURS, DECK_OPENINGS, DECK_TICKS, DECK_JOIN, WAYS_OUT)
        if self._tables_seen(told, state.job.deck, state.job.units, state.mold.name if state.mold is not None else ""):
            return
        show_schedule(self.table, DECK_STRIPS, DECK_STRIPS.value_in(state.known, state.job), state.job.units)
        self.name_drawer(f"Tables of the deck: {counted(len(plan.planking.strips), 'strip')} a side")
        ticks: Mapping[str, tuple[DeckTick, ...]] = state.known.get(DECK_TICKS) or {}
        own = ticks.get(state.mold.name, ()) if state.mold is not None else ()
        show_schedule(self.at_mold, DECK_AT_MOLD, deck_ticks_of(own), state.job.units)
        self.openings.show_rows(self._openings, self._opening_columns())
        join: Join | None = state.known.get(DECK_JOIN)
        self.join.show_rows(join.places if join is not None else (), self._join_columns())
        ways: tuple[MoldOut, ...] = state.known.get(WAYS_OUT) or ()
        self.ways.show_rows(
            ways,
            [
                Column("Mold", lambda w: w.mold, lambda w: int(w.mold)),
                Column("Comes out", lambda w: w.way.value),
                Column("Through", lambda w: w.through or "–"),
            ],
        )

    def _join_columns(self) -> list[Column]:
        write = self.state.write
        let_in = self.state.job.deck.join is JoinKind.RECESS
        what = "Its floor off square by" if let_in else "Each edge planed off square by"
        columns = [
            Column("Along the hull", lambda p: write(p.at), lambda p: p.at),
            Column("Angle between hull and deck", lambda p: format_angle(p.angle, 0.1), lambda p: p.angle),
            Column(what, lambda p: format_angle(p.bevel, 0.1), lambda p: p.bevel),
        ]
        if let_in:
            columns.insert(2, Column("Recess deep", lambda p: write(p.deep), lambda p: p.deep))
        return columns

    def _opening_columns(self) -> list[Column]:
        write, deck = self.state.write, self.state.job.deck
        meet = runs_meet(deck)

        def step(made: OpeningPlan) -> str:
            own = made.step
            if own is None or not meet:
                return "–"
            if not own.tapered or own.shows_at is None:
                return f"{write(abs(own.apart))}: does not show"
            return f"{write(abs(own.apart))}: {counted(own.tapered, 'strip')} {write(own.narrow)} wide {own.narrow_end}"

        return [
            Column("Opening", lambda o: o.opening.name),
            Column("Round its edge", lambda o: write(o.rim_length), lambda o: o.rim_length),
            Column("Strips cut", lambda o: _run(o.interrupted)),
            Column("Wood saved", lambda o: far_length(o.saved, self.state.style), lambda o: o.saved),
            Column("Out of step ahead and astern", step),
        ]

    def prepare_picture(self) -> None:
        self.hull.wait_until_known()

    def close_page(self) -> None:
        """Give the renderer back."""
        self.hull.close_scene()

    def card(self) -> Card:
        state, strip = self.state, self.strip
        found: Mapping[int, Behaviour] = state.known.get(DECK_BEHAVIOURS) or {}
        if strip is None or strip.number not in found or not decked(state.job):
            return Card("Deck")
        own = found[strip.number]
        ends: Mapping[int, tuple[EndCut | None, EndCut | None]] = state.known.get(DECK_STRIP_ENDS) or {}
        cuts = ends.get(strip.number, (None, None))
        saved = saved_by_strip(self._openings)
        out = [
            (f"left out, {side}", state.write(saved[strip.number, side]))
            for side in ("port", "starboard")
            if (strip.number, side) in saved
        ]
        join: Join | None = state.known.get(DECK_JOIN)
        bands = (("bands of glass at the join", far_length(join.bands, state.style)),) if join is not None else ()
        return Card(
            f"Deck strip {strip.number}",
            "both sides",
            state.write(strip.length),
            state.style.name,
            "long, along its own middle; add your own allowance at each end",
            (
                ("goes on", own.grade.value),
                (f"forward: {end_name(strip.starts)}", self._cut_text(cuts[0], strip)),
                (f"aft: {end_name(strip.ends)}", self._cut_text(cuts[1], strip)),
                ("widest", state.write(strip.width_max)),
                *out,
                *bands,
                *may_be_out(state.known.get(DECK_DOUBT) or 0.0, state, "the deck may be out by"),
            ),
            f"where both sides meet they are cut to the same angle, a miter; {own.wood} at 12 % moisture",
            "Table saw: guard, push sticks, hearing protection. Wood dust: a mask that filters it.",
        )

    def _cut_text(self, cut: EndCut | None, strip: Strip) -> str:
        if cut is None:
            return "to a point"
        long = self.state.write(cut.long(strip.width_max))
        return f"{cut.across:.0f}°, cut {long} long"


def _run(numbers: tuple[int, ...]) -> str:
    """Numbers of strips as a range; they follow each other."""
    if not numbers:
        return "none"
    return f"{numbers[0]}–{numbers[-1]}" if len(numbers) > 1 else f"{numbers[0]}"

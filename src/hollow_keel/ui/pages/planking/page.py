"""The planking page: how many strips of what length cover the hull, how each behaves, and how the work goes on."""

from __future__ import annotations

import math
from collections.abc import Mapping
from enum import StrEnum

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import (
    QComboBox,
    QLabel,
    QProgressBar,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from ....core.amounts import far_length
from ....core.log.keep import laid_by_hand
from ....core.planking.bottom import HOW_TO, in_words, meets
from ....core.planking.crossings import Crossing
from ....core.planking.end_cuts import EndCut
from ....core.planking.stages import BEHAVIOURS, CENTRE_CUTS, PLANKING, STRIP_ENDS, TICKS, StripEnds
from ....core.planking.strips import Planking, Strip
from ....core.results import SHAPE, Shape
from ....core.settings.progress import Planked
from ....core.settings.strips import Zone
from ....core.units import LengthStyle, format_degrees
from ....core.words import counted
from ....drawing.model import Drawing
from ....drawing.planking.decisions import map_decisions, master_ring
from ....drawing.planking.girth_map import girth_map
from ....drawing.planking.mesh import planked_mesh
from ....drawing.planking.section import section_drawing
from ....drawing.planking.shades import ShadeBy, strip_shades
from ....files.planking.schedules import STRIP_ROWS, TICK_ROWS, end_name, ticks_of
from ...views.bench_card import Card
from ...views.data_table import DataTable
from ...views.drawing_view import DrawingView
from ...views.hull_view import HullView
from ...views.schedule_columns import schedule_table, show_schedule
from ...views.sentences import may_be_out, sentence
from ...window.state import State
from ...window.theme import legend
from ..page import FOOT_TALL, HEAD_TALL, Page, Seen, head_button, lie_over, result_label
from .band_sheet import BandSheet
from .groups import PLANKING_GROUPS
from .so_far import SoFar
from .tabs import Divider


class Pictures(StrEnum):
    """What the page shows."""

    BOTH = "hull and map"
    HULL_AND_SECTION = "hull and section"
    HULL = "hull"
    MAP = "map"
    SECTION = "section"


STRIPS, AT_MOLD, DIVIDE, SO_FAR = range(4)
DRAWN = (PLANKING, BEHAVIOURS)
"""What the map, the hull and the table of strips show."""
NOT_KNOWN = StripEnds((None, None), (0.0, 0.0), 0.0)
WIDE_COLUMNS = {2: 104, 3: 92}
"""These have longer words; fitting them to their contents would ask every cell for its size."""


def strip_key(strip: Strip) -> str:
    """The name by which a strip is picked."""
    return f"strip:{strip.number}"


class PlankingPage(Page):
    """The planked hull with its map or its section, large; strips picked in one are marked in all."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("How do the strips cover the hull?", PLANKING_GROUPS, "all strips", parent)
        self.map = DrawingView("Girth map")
        self.map.stretch_to_fit = True
        self.section = DrawingView("Section at the mold")
        self.hull = HullView()
        self._build_head()
        self._build_drawing()
        self._build_drawer()
        self.show_progress(None)
        self.show_pictures(Pictures.BOTH)

    def _build_head(self) -> None:
        self.result = result_label("")
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setFixedWidth(90)
        self.stop = QPushButton("Stop")
        self.stop.clicked.connect(lambda: self.command.emit("stop"))
        for widget in (self.bar, self.stop, self.result):
            self.head.addWidget(widget)
        self.pictures = QComboBox()
        self.pictures.setAccessibleName("Pictures")
        for kind in Pictures:
            self.pictures.addItem(kind.value, kind)
        self.pictures.activated.connect(lambda _: self.show_pictures(Pictures(self.pictures.currentData())))
        self.shade = QComboBox()
        self.shade.setAccessibleName("Colour by")
        for by in ShadeBy:
            self.shade.addItem(f"coloured: {by.value}", by)
        self.shade.activated.connect(lambda _: self.refresh())
        self.compare = head_button("Compare…", "Ways of planking side by side", lambda: self.command.emit("compare"))
        for chosen in (self.pictures, self.shade, self.compare):
            self.head.addWidget(chosen)
        self.legend = QLabel()
        self.legend.setTextFormat(Qt.TextFormat.RichText)
        self.note.row.insertWidget(1, self.legend, 0, Qt.AlignmentFlag.AlignBottom)

    def _build_drawing(self) -> None:
        for view in (self.map, self.section):
            view.picked.connect(self.choose_key)
            self.decides_on(view)
        self.map.picked.connect(self._picked_on_map)
        self.hull.picked.connect(self._picked_on_hull)
        self.hull.picked.connect(self.picked_on_drawing)
        self.hull.tried.connect(self.try_setting)
        self.hull.kept.connect(self.keep_setting)
        self.hull.left.connect(self.left)
        self.below = QStackedWidget()
        self.below.addWidget(self.map)
        self.below.addWidget(self.section)
        self.both = QSplitter(Qt.Orientation.Vertical)
        self.both.setChildrenCollapsible(False)
        self.both.addWidget(self.hull)
        self.both.addWidget(self.below)
        self.both.setSizes([400, 250])
        self.hull.under_head = HEAD_TALL
        self.set_drawing(self.both, (), [self.map, self.section])
        self.sheet = BandSheet(self._bands_changed, self.canvas)
        self.run_from = 0
        self.section_seen = Seen()

    def _build_drawer(self) -> None:
        self.table = schedule_table(STRIP_ROWS)
        self.at_mold = DataTable("Strips at this mold", [], TICK_ROWS.pick)
        self.centreline = QLabel()
        self.centreline.setWordWrap(True)
        mold_tab = QWidget()
        column = QVBoxLayout(mold_tab)
        column.setContentsMargins(0, 4, 0, 0)
        column.addWidget(self.centreline)
        column.addWidget(self.at_mold, 1)
        self.divider = Divider()
        self.so_far = SoFar(self._planked)
        for table in (self.table, self.at_mold, self.divider.table):
            table.picked.connect(self.choose_key)
        self.divider.said.connect(self.said)
        self.so_far.table.fault.connect(self.said)
        self.tabs = QTabWidget()
        for text, widget in (
            ("Strips", self.table),
            ("At this mold", mold_tab),
            ("Divide", self.divider),
            ("So far", self.so_far.widget),
        ):
            self.tabs.addTab(widget, text)
        self.tabs.currentChanged.connect(self._tab_changed)
        self.set_drawer(self.tabs, "Table of strips")

    # -- pictures ------------------------------------------------------------------------------------------

    def show_pictures(self, kind: Pictures) -> None:
        """Hull, map or section, or the hull over one of them."""
        self.pictures.setCurrentIndex(self.pictures.findData(kind))
        self.hull.setVisible(kind not in (Pictures.MAP, Pictures.SECTION))
        self.below.setVisible(kind is not Pictures.HULL)
        section = kind in (Pictures.SECTION, Pictures.HULL_AND_SECTION)
        self.below.setCurrentIndex(1 if section else 0)
        alone = not self.hull.isVisibleTo(self)
        for view in (self.map, self.section):
            lie_over(view, head=alone, foot=True)
            view.fit()
        self.hull.over_foot = FOOT_TALL if kind is Pictures.HULL else 0
        self.refresh()

    @property
    def shown_pictures(self) -> Pictures:
        """What is seen now."""
        return Pictures(self.pictures.currentData())

    # -- strips that differ --------------------------------------------------------------------------------

    def _picked_on_map(self, key: str) -> None:
        kind, _, number = key.partition(":")
        if kind == "strip":
            self._pick(int(number), self.map.viewport().mapTo(self.canvas, self.map.last_click))

    def _picked_on_hull(self, number: int) -> None:
        self.strip_chosen.emit(number)
        self._pick(number, self.hull.mapTo(self.canvas, self.hull.last_click))

    def _pick(self, number: int, at: QPoint) -> None:
        """A strip was picked, with Shift all from the one picked before: the sheet for them opens there."""
        more = bool(QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier) and self.run_from
        first = self.run_from if more else number
        self.run_from = first
        self.show_band(first, number, at)

    def show_band(self, first: int, last: int, at: QPoint) -> None:
        """The sheet for a run of strips, numbered over the hull."""
        planking = self.state.planking
        if planking is not None:
            places = planking.places
            self.sheet.open(places.get(first, first), places.get(last, last), self.state, at)

    def _bands_changed(self, label: str, zones: tuple[Zone, ...]) -> None:
        self.change(label, "strips", zones=zones)

    def _planked(self, label: str, planked: Planked) -> None:
        self.edited.emit(label, laid_by_hand(self.state.job, planked, self.so_far.today()))

    def _tab_changed(self, number: int) -> None:
        if number == AT_MOLD and self.shown_pictures is Pictures.BOTH:
            self.show_pictures(Pictures.SECTION)  # with the table open there is room for one
        elif number != AT_MOLD and self.shown_pictures is Pictures.SECTION:
            self.show_pictures(Pictures.BOTH)
        self.refresh()
        self.card_changed.emit()

    def show_progress(self, share: float | None) -> None:
        """How far the work has come; None when there is none."""
        for widget, busy in ((self.bar, True), (self.stop, True), (self.result, False)):
            widget.setVisible(busy == (share is not None))
        if share is not None:
            self.bar.setValue(round(100 * share))

    def close_page(self) -> None:
        """Give the renderer back."""
        self.hull.close_scene()

    def refresh(self) -> None:
        state = self.state
        if self.sheet.isVisible():
            self.sheet.show_state(state)
        planking, shape = state.planking, state.shape
        self.say_findings("planking")
        if planking is None or shape is None:
            self._show_nothing()
            return
        self.result.setText(self._words(state, planking))
        if not (state.stale and self.seen):  # the strips of an earlier moment stay as they are, greyed
            self._show_strips(planking, shape)
        if state.stale:
            self.hull.set_stale("out of date" if state.problem else "out of date: the strips are being laid again…")

    def _show_strips(self, planking: Planking, shape: Shape) -> None:
        state = self.state
        by = ShadeBy(self.shade.currentData())
        if not self.seen(
            state.key(*DRAWN),
            state.job.units,
            state.theme,
            state.job.strips if by is ShadeBy.WOOD else None,
            state.job.planked if by is ShadeBy.DAY else None,
            by,
        ):
            shades, words = strip_shades(planking, state.job, self.state.behaviours, by)
            self.legend.setVisible(bool(words))
            self.legend.setText(legend(words, state.theme))
            show_schedule(self.table, STRIP_ROWS, STRIP_ROWS.value_in(state.known, state.job), state.job.units)
            self.table.fix_widths(WIDE_COLUMNS)
            self.map.job = shape.job
            drawn = girth_map(shape, planking, state.style, shades)
            self.map.show_drawing(map_decisions(drawn, shape, planking, state.style), state.theme, state.style)
            self.hull.show_hull(lambda: planked_mesh(planking, shades), state.theme, master_ring(shape, planking), state.style)
        self.name_drawer(f"Table of {counted(len(planking.strips), 'strip')}")
        self._show_tab(state)
        self._show_section(state)
        self._mark()

    def _words(self, state: State, planking: Planking) -> str:
        """How many strips, and how long they are together."""
        count = len(planking.strips)
        stale = "  (out of date)" if state.stale else ""
        return f"{count} a side · {2 * count} in all · {far_length(planking.total_length, state.style)}{stale}"

    def _show_nothing(self) -> None:
        state = self.state
        self.result.setText("")
        self.seen.forget()
        self.table.show_rows([], [])
        self.at_mold.show_rows([], [])
        for view in (self.map, self.section):
            view.show_drawing(Drawing("", ()), state.theme, state.style)
        self.hull.show_hull(None, state.theme)
        self.section_seen.forget()
        self.divider.show_state(state)
        self.so_far.show_state(state)

    def _show_tab(self, state: State) -> None:
        """The tab that is seen; the others follow when they are."""
        number = self.tabs.currentIndex()
        assert state.shape is not None
        if number == AT_MOLD and state.mold is not None:
            show_schedule(self.at_mold, TICK_ROWS, ticks_of("", self._ticks()), state.job.units)
            self._say_centreline(state)
        elif number == DIVIDE:
            self.divider.show_state(state)
        elif number == SO_FAR:
            self.so_far.show_state(state)

    def _ticks(self) -> tuple[Crossing, ...]:
        """Where the strips come on the current mold."""
        found: Mapping[str, tuple[Crossing, ...]] = self.state.known.get(TICKS) or {}
        return found.get(self.state.mold.name, ()) if self.state.mold is not None else ()

    def _show_section(self, state: State) -> None:
        """The section, when it is seen."""
        if self.shown_pictures not in (Pictures.SECTION, Pictures.HULL_AND_SECTION):
            return
        if state.mold is None or state.shape is None:
            return
        marked = state.strip.number if state.strip else 0
        drawn = state.key(PLANKING, TICKS, *SHAPE), state.mold_number, marked, state.job.units, state.theme
        if not self.section_seen(drawn):
            drawing = section_drawing(state.shape, state.mold, self._ticks(), marked, state.style)
            self.section.show_drawing(drawing, state.theme, state.style)

    def _say_centreline(self, state: State) -> None:
        """Where the line that both sides meet on crosses the last strip of this mold."""
        assert state.mold is not None
        found = [cut for cut in state.known.get(CENTRE_CUTS) or () if cut.mold == state.mold.name]
        self.centreline.setVisible(bool(found))
        for cut in found:
            words = in_words(cut, lambda mm: state.write(mm, unit=True))
            self.centreline.setText(f"{words} {HOW_TO[state.job.strips.meeting]}")

    def _mark(self) -> None:
        strip = self.state.strip
        if strip is not None:
            key = strip_key(strip)
            for view in (self.map, self.section):
                view.mark(key)
            self.table.select(key)
            self.at_mold.select(key)
            self.hull.mark(strip.number)

    def prepare_picture(self) -> None:
        self.hull.wait_until_known()

    def card(self) -> Card:
        state, strip = self.state, self.state.strip
        if strip is None or state.planking is None or strip.number not in self.state.behaviours:
            return Card("Strip")
        found = self.state.behaviours[strip.number]
        ends = (state.known.get(STRIP_ENDS) or {}).get(strip.number, NOT_KNOWN)
        cuts, past = ends.cuts, sum(ends.past)
        past_words = f"past the keel line {state.write(past)} more; " if past else ""
        mend = f"{sentence(found.mend, state.style)}; " if found.mend else ""
        return Card(
            f"Strip {strip.number}",
            "both sides",
            state.write(strip.length),
            state.style.name,
            "long, along its own middle; add your own allowance at each end",
            (
                ("goes on", found.grade.value),
                (f"forward: {end_name(strip.starts)}", self._cut_text(cuts[0], strip)),
                (f"aft: {end_name(strip.ends)}", self._cut_text(cuts[1], strip)),
                ("widest", state.write(strip.width_max)),
                ("far edge", state.write(strip.far_length) if strip.far else "runs out"),
                ("tightest edge-set", radius_text(strip.max_edge_set, state.style)),
                ("push sideways", f"{found.push:.0f} N"),
                ("strains, edge + face", f"{100 * found.edge_strain:.2f} + {100 * found.bend_strain:.2f} %"),
                ("most twist", f"{format_degrees(twist_degrees(strip), 1)} in a metre"),
                ("of what breaks it", f"{100 * found.share:.0f} %"),
                *may_be_out(ends.uncertain_by, state),
            ),
            f"{past_words}{self._second_words(cuts, strip)}hardest near position {state.write(found.place)}; {mend}{found.wood} "
            f"at 12 % moisture, "
            f"which varies by a fifth and more",
            "Table saw: guard, push sticks, hearing protection. Wood dust: a mask that filters it.",
        )

    def _second_words(self, cuts: tuple[EndCut | None, EndCut | None], strip: Strip) -> str:
        """What "second" means, where it is shown."""
        found = [meets(cut, strip.width_max, self.state.job.strips.meeting) for cut in cuts]
        return "second: so much less on the side laid second; " if any(m is not None and m.second for m in found) else ""

    def _cut_text(self, cut: EndCut | None, strip: Strip) -> str:
        """How an end is cut: across the face and off square, or butted on the strip of the other side."""
        if cut is None:
            return "to a point"
        met = meets(cut, strip.width_max, self.state.job.strips.meeting)
        if met is not None and met.second:
            return f"{met.across:.0f}°, second −{self.state.write(met.second)}"
        return f"{cut.across:.0f}°" + ("" if cut.bevel is None else f", bevel {cut.bevel:.0f}°")


def radius_text(curvature_per_mm: float, style: LengthStyle) -> str:
    """A radius in metres or feet."""
    return far_length(1 / curvature_per_mm, style, 1) if curvature_per_mm > 1e-6 else "straight"


def twist_degrees(strip: Strip) -> float:
    """Degrees per metre."""
    return math.degrees(strip.max_twist) * 1000

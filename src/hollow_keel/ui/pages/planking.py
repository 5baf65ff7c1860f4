"""The planking page: how many strips of what length cover the hull."""

from __future__ import annotations

import math

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QProgressBar, QPushButton, QSplitter, QWidget

from ...core.job import Guide, StripEdge
from ...core.planking.strips import Strip
from ...drawing.girth_map import girth_map
from ...drawing.model import Drawing
from ...files.strips_csv import end_name
from ..views.bench_card import Card
from ..views.data_table import Column, DataTable
from ..views.drawing_view import DrawingView
from ..views.hull_mesh import planked_mesh
from ..views.hull_view import HullView
from .page import Page, result_label


def strip_key(strip: Strip) -> str:
    """The name by which a strip is picked."""
    return f"strip:{strip.number}"


class PlankingPage(Page):
    """The girth map, the planked hull and the table of strips, all linked."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("How do the strips cover the hull?", parent)
        self.add_choice(
            "Start from", "strips", "guide", [("the sheer", Guide.SHEER), ("the keel", Guide.KEEL)]
        )
        self.add_length("Strip wide", "strips", "width")
        self.add_length("thick", "strips", "thickness")
        self.add_choice(
            "Edges",
            "strips",
            "edge",
            [("square, bevelled", StripEdge.SQUARE), ("bead and cove", StripEdge.BEAD_COVE)],
        )
        self._cove = self.add_length("cove deep", "strips", "cove_depth")
        self.settings.addStretch(1)
        self.result = result_label("")
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setFixedWidth(110)
        self.stop = QPushButton("Stop")
        for widget in (self.bar, self.stop):  # coming and going, they must not lay the page out anew
            policy = widget.sizePolicy()
            policy.setRetainSizeWhenHidden(True)
            widget.setSizePolicy(policy)
        self.head.addWidget(self.bar)
        self.stop.clicked.connect(lambda: self.command.emit("stop"))
        self.head.addWidget(self.stop)
        self.head.addWidget(self.result)
        self.map = DrawingView("Girth map")
        self.map.stretch_to_fit = True
        self.hull = HullView()
        self.table = DataTable("All strips of one side", [], strip_key)
        self.map.picked.connect(self.choose_key)
        self.table.picked.connect(self.choose_key)
        self.hull.picked.connect(self.strip_chosen)
        below = QSplitter(Qt.Orientation.Horizontal)
        below.addWidget(self.hull)
        below.addWidget(self.table)
        below.setSizes([400, 450])
        split = QSplitter(Qt.Orientation.Vertical)
        split.addWidget(self.map)
        split.addWidget(below)
        split.setSizes([285, 260])
        self.body.addWidget(split, 1)
        self.show_progress(None)

    def show_progress(self, share: float | None) -> None:
        """How far the work has come; None when there is none."""
        self.bar.setVisible(share is not None)
        self.stop.setVisible(share is not None)
        if share is not None:
            self.bar.setValue(round(100 * share))

    def close_page(self) -> None:
        """Give the renderer back."""
        self.hull.close_scene()

    def _columns(self) -> list[Column]:
        write = self.state.write
        return [
            Column("Strip", lambda s: str(s.number), lambda s: s.number),
            Column("Length", lambda s: write(s.length), lambda s: s.length),
            Column("Forward end", lambda s: end_name(s.starts)),
            Column("After end", lambda s: end_name(s.ends)),
            Column("Edge-set R", lambda s: radius_text(s.max_edge_set), lambda s: -s.max_edge_set),
            Column("Twist", lambda s: f"{twist_degrees(s):.0f}°/m", twist_degrees),
        ]

    def refresh(self) -> None:
        state = self.state
        self._cove.setEnabled(state.job.strips.edge is StripEdge.BEAD_COVE)
        self.say_findings("planking")
        planking, shape = state.planking, state.shape
        if planking is None or shape is None:
            self.result.setText("")
            self.table.show_rows([], self._columns())
            self.map.show_drawing(Drawing("", ()), state.theme, state.style)
            self.hull.show_mesh(None, state.theme)
            self.seen()
            return
        count = len(planking.strips)
        stale = "  (out of date)" if state.stale else ""
        self.result.setText(
            f"{count} a side · {2 * count} in all · {planking.total_length / 1000:.0f} m{stale}"
        )
        if not self.seen(planking, state.job.units, state.theme):
            self.table.show_rows(planking.strips, self._columns())
            self.map.show_drawing(girth_map(shape, planking, state.style), state.theme, state.style)
            self.hull.show_mesh(planked_mesh(shape.hull, planking), state.theme)
        if state.stale:
            self.hull.set_stale()
        self._mark()

    def _mark(self) -> None:
        strip = self.state.strip
        if strip is not None:
            self.map.mark(strip_key(strip))
            self.table.select(strip_key(strip))
            self.hull.mark(strip.number)

    def prepare_picture(self) -> None:
        self.hull.wait_until_known()

    def card(self) -> Card:
        state, strip = self.state, self.state.strip
        if strip is None or state.planking is None:
            return Card("Strip")
        thick, wide = state.job.strips.thickness, state.job.strips.width
        return Card(
            f"Strip {strip.number}", "both sides", state.write(strip.length), state.style.name,
            "long, along its own middle; add your own allowance at each end",
            (
                ("forward end", f"on the {end_name(strip.starts)}"),
                ("after end", f"on the {end_name(strip.ends)}"),
                ("widest", state.write(strip.width_max)),
                ("guide-side edge", state.write(strip.near_length)),
                ("far edge", state.write(strip.far_length) if strip.far else "runs out"),
                ("tightest edge-set", radius_text(strip.max_edge_set)),
                ("strain at its edges", _strain(wide * strip.max_edge_set)),
                ("tightest bend", radius_text(strip.max_bend)),
                ("strain at its faces", _strain(thick * strip.max_bend)),
                ("most twist", f"{twist_degrees(strip):.0f}° in a metre"),
            ),
            f"edges are lines of equal distance from the {state.planking.guide}, {state.write(state.planking.width)} apart on the "
            "hull; the 5 % at each end are left out of bend and twist",
            "Table saw: guard, push sticks, hearing protection. Wood dust: a mask that filters it.",
        )  # fmt: skip


def radius_text(curvature_per_mm: float) -> str:
    """A radius in metres."""
    return f"{1e-3 / curvature_per_mm:.1f} m" if curvature_per_mm > 1e-6 else "straight"


def twist_degrees(strip: Strip) -> float:
    """Degrees per metre."""
    return math.degrees(strip.max_twist) * 1000


def _strain(size_times_curvature: float) -> str:
    return f"{50 * size_times_curvature:.2f} %"

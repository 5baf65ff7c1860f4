"""The molds page: the mold at the current station with its marks, and the table of all."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtWidgets import QTabWidget, QWidget

from ....core.hull.stages import HULL, WATERLINE
from ....core.molds.cut_stages import PIECES
from ....core.molds.shape import Face
from ....core.molds.stages import MOLDS, UNCERTAIN_MOLDS
from ....core.molds.stations import Mold
from ....core.planking.stages import PLANKING
from ....core.settings.mold_choices import Deduction
from ....core.setup.stages import SETUP
from ....core.units import format_degrees
from ....core.words import counted
from ....drawing.model import Drawing
from ....drawing.molds.bevel_strip import bevel_strip
from ....drawing.molds.decisions import mold_decisions
from ....drawing.molds.mold import mold_drawing, with_neighbours
from ....files.molds.schedules import MOLD_ROWS, at_waterline, most_bevel
from ...views.bench_card import Card
from ...views.drawing_view import DrawingView
from ...views.schedule_columns import schedule_table, show_schedule
from ...views.sentences import may_be_out
from ..page import Page, result_label
from .groups import MOLD_GROUPS

DRAWN = (HULL, WATERLINE, MOLDS, SETUP, PIECES)


def mold_key(mold: Mold) -> str:
    """The name by which a mold is picked."""
    return f"mold:{mold.name}"


class MoldsPage(Page):
    """One mold large with all that is decided about it; all of them in the table, its bevels beside it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("What shape is each mold?", MOLD_GROUPS, "all molds", parent)
        self.result = result_label("")
        self.head.addWidget(self.result)
        self.view = DrawingView("The mold at the current station")
        self.view.picked.connect(self.choose_key)
        self.decides_on(self.view)
        self.set_drawing(self.view, [self.view], [self.view])
        self.table = schedule_table(MOLD_ROWS)
        self.table.picked.connect(self.choose_key)
        self.strip = DrawingView("Bevels along the edge")
        self.strip.stretch_to_fit = True
        self.tabs = QTabWidget()
        self.tabs.addTab(self.table, "All molds")
        self.tabs.addTab(self.strip, "Bevels along the edge")
        self.set_drawer(self.tabs, "Table of molds")

    def _at_waterline(self, mold: Mold) -> str:
        value = at_waterline(mold)
        return MOLD_ROWS.missing if value is None else self.state.write(value)

    def refresh(self) -> None:
        state = self.state
        self.say_findings("molds")
        job = state.drawn_job
        if state.shape is not None and not state.is_cut:
            return  # what is cut comes in a moment: the drawing stays till then
        marks = (PLANKING,) if job.molds.mark_planks else ()
        drawn = state.key(*DRAWN, *marks), job.molds, job.setup, job.name, job.units
        if self.seen(drawn, state.theme, state.mold_number):
            return
        molds = state.shape.molds.molds if state.shape else ()
        self.name_drawer(f"Table of {counted(len(molds), 'mold')}")
        show_schedule(self.table, MOLD_ROWS, molds, job.units)
        mold = state.mold
        self.result.setText(f"mold {mold.name} of {len(molds)}" if mold else "")
        if mold is None or state.shape is None:
            for view in (self.view, self.strip):
                view.show_drawing(Drawing("", ()), state.theme, state.style)
            return
        drawing = with_neighbours(mold_drawing(state.shape, mold, state.style, state.planking), state.shape, mold)
        self.view.job = job
        self.view.show_drawing(mold_decisions(drawing, state.shape, mold, state.style), state.theme, state.style)
        self.strip.show_drawing(bevel_strip(state.shape, mold, state.style), state.theme, state.style)
        self.table.select(mold_key(mold))

    def card(self) -> Card:
        state, mold = self.state, self.state.mold
        if mold is None:
            return Card("Mold")
        edge = mold.edge
        normal = state.job.molds.deduction is Deduction.NORMAL
        school = "square to the hull's surface" if normal else "within the section's plane"
        toward = "aft" if mold.face is Face.FORWARD else "forward"
        at_sheer, at_keel = (math.degrees(float(edge.bevels[k])) for k in (-1, 0))
        return Card(
            f"Mold {mold.name}",
            f"station {state.write(mold.station)}",
            state.write(float(edge.sheer[0])),
            state.style.name,
            "half-breadth at the sheer mark",
            (
                ("sheer mark, height", state.write(float(edge.sheer[1]))),
                ("lowest point, height", state.write(float(edge.keel[1]))),
                ("out at the waterline", self._at_waterline(mold)),
                ("on the line", f"{mold.face.value} face"),
                ("its body lies", toward),
                ("most bevel", f"{format_degrees(most_bevel(mold))} {_lean(mold)}"),
                ("bevel at sheer, keel", f"{format_degrees(at_sheer)}, {format_degrees(at_keel)}"),
                *may_be_out((state.known.get(UNCERTAIN_MOLDS) or {}).get(mold.name, 0.0), state),
            ),
            f"{state.write(state.job.molds.deducted, unit=True)} of skin taken off "
            + f"{school}, "
            + "cut at the reference face; "
            + ("square edge, so no bevelling on a mold" if mold.far is None else "cut to the larger face, then bevelled"),
        )


def _lean(mold: Mold) -> str:
    """Which way the bevel goes, where it is worth naming."""
    worth = mold.standing[np.abs(mold.standing) > math.radians(0.5)]
    if not len(worth):
        return "square"
    return "standing" if worth.min() > 0 else "under" if worth.max() < 0 else "both ways"

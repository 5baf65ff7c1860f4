"""The settings of the planking page: only those that the chosen guide and layout have."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QSpinBox

from ...core.job import Guide, StripEdge, StripSettings
from ...core.settings.strip_choices import MasterKind, StripLayout
from ...core.settings_table import all_settings
from ..state import State
from ..views.fields import LengthField, choice_box
from .page import Page


class PlankingSettings:
    """Builds the rows of settings on a page and shows what belongs to the present choices."""

    def __init__(self, page: Page) -> None:
        self.page = page
        page.add("strips.guide")
        page.add("strips.layout")
        page.add("strips.width")
        page.add("strips.thickness")
        page.add("strips.edge")
        page.settings.addStretch(1)
        page.next_row()
        self.cove = page.add("strips.cove_depth")
        self.least = page.add("strips.least_width")
        self.full_from = page.add("strips.mixed_from")
        self.full_to = page.add("strips.mixed_to")
        self._build_bottom()
        self._build_master()
        for field in (self.cove, self.least, self.full_from, self.full_to, self.bottom, *self.masters):
            page.show_field(field, False)
        page.settings.addStretch(1)
        page.next_row()
        page.add("strips.wood")

    def _build_bottom(self) -> None:
        self.bottom = QSpinBox()
        self.bottom.setAccessibleName("Strips from the keel")
        self.bottom.setRange(0, 1000)
        self.bottom.setSpecialValueText("to the bilge")
        self.bottom.setKeyboardTracking(False)
        self.page.put_field("Strips from the keel", self.bottom)
        self.bottom.valueChanged.connect(self._bottom_chosen)

    def _bottom_chosen(self, count: int) -> None:
        if count != self._strips.bottom:
            self.page.change("strips from the keel", "strips", bottom=count)

    def _build_master(self) -> None:
        page = self.page
        self.kind = choice_box(all_settings()["strips.master.kind"].setting)
        self.kind.activated.connect(lambda _: self._master(kind=MasterKind(self.kind.currentData())))
        page.put_field("Master line", self.kind)
        self.height = LengthField("Height amidships")
        self.height.entered.connect(lambda mm: self._master(height=mm))
        self.height.cleared.connect(lambda: self._master(height=None))
        self.height.fault.connect(page.said)
        page.put_field("height amidships", self.height)
        self.share = QSpinBox()
        self.share.setAccessibleName("Share of the girth")
        self.share.setRange(5, 95)
        self.share.setSuffix(" % up")
        self.share.setKeyboardTracking(False)
        self.share.valueChanged.connect(lambda n: self._number("share", n / 100))
        page.put_field("girth", self.share)
        self.angle = QSpinBox()
        self.angle.setAccessibleName("Fall of the diagonal")
        self.angle.setRange(-70, 70)
        self.angle.setSuffix("°")
        self.angle.setKeyboardTracking(False)
        self.angle.valueChanged.connect(lambda n: self._number("angle", float(n)))
        page.put_field("falls outward", self.angle)
        self.masters = (self.kind, self.height, self.share, self.angle)

    @property
    def _strips(self) -> StripSettings:
        return self.page.state.job.strips

    def _number(self, field: str, value: float) -> None:
        if abs(value - getattr(self._strips.master, field)) > 1e-9:
            self._master(**{field: value})

    def _master(self, **fields: Any) -> None:
        self.page.change("master line", "strips", master={**self._strips.master.model_dump(), **fields})

    def show_state(self, state: State) -> None:
        """What the job says now."""
        strips = state.job.strips
        master, kind = strips.master, strips.master.kind
        by_line = strips.guide is Guide.MASTER
        for field, seen in (
            (self.cove, strips.edge is StripEdge.BEAD_COVE and strips.cutter == 0),
            (self.least, strips.layout in (StripLayout.TAPERED, StripLayout.FEW)),
            (self.full_from, strips.layout is StripLayout.MIXED),
            (self.full_to, strips.layout is StripLayout.MIXED),
            (self.bottom, strips.guide is Guide.BOTH),
            (self.kind, by_line),
            (self.height, by_line and kind not in (MasterKind.GIRTH, MasterKind.HEIGHTS)),
            (self.share, by_line and kind is MasterKind.GIRTH),
            (self.angle, by_line and kind is MasterKind.DIAGONAL),
        ):
            self.page.show_field(field, seen)
        for box, value in (
            (self.bottom, strips.bottom),
            (self.share, round(100 * master.share)),
            (self.angle, round(master.angle)),
        ):
            if not box.hasFocus():
                box.setValue(value)
        self.kind.setCurrentIndex(self.kind.findData(kind))
        self.height.show_length(master.height, state.style, "¾ girth")

"""The small sheet that opens over picked strips: their wood, width and thickness, or like the others."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QComboBox, QFrame, QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from ....core.errors import InputError
from ....core.job import Job
from ....core.planking.bands import Band, band_at, with_band
from ....core.settings.strip_choices import StripLayout
from ....core.settings.strips import StripSettings, Zone
from ....core.settings.woods import WOODS
from ....core.units import given_length
from ...views.fields import LengthField
from ...views.sentences import sentence
from ...window.state import State

MARGIN = 10


class BandSheet(QFrame):
    """Shown over the drawing for strips `first` to `last` of the hull, or of what `strips_of` tells; every change is handed on as
    the zones that the job then has."""

    def __init__(
        self,
        changed: Callable[[str, tuple[Zone, ...]], None],
        over: QWidget,
        strips_of: Callable[[Job], StripSettings] = lambda job: job.strips,
        what: str = "strip",
    ) -> None:
        super().__init__(over)
        self.setObjectName("sheet")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The picked strips")
        self._changed, self._strips_of, self._what = changed, strips_of, what
        self._state: State | None = None
        self.first, self.last = 1, 1
        self.title, self.note = QLabel(), QLabel()
        self.title.setObjectName("value")
        self.note.setObjectName("small")
        self.wood = QComboBox()
        self.wood.setAccessibleName("Wood of these strips")
        self.wood.addItem("as the others", "")
        for name in WOODS:
            self.wood.addItem(name, name)
        self.wood.activated.connect(lambda _: self._put(wood=str(self.wood.currentData())))
        self.wide, self.thick = LengthField("Width of these strips"), LengthField("Thickness of these strips")
        for field, name in ((self.wide, "width"), (self.thick, "thickness")):
            field.entered.connect(lambda mm, name=name: self._put(**{name: mm}))
            field.cleared.connect(lambda name=name: self._put(**{name: None}))
            field.fault.connect(self.note.setText)
        self.wide_name, self.thick_name = QLabel("wide"), QLabel("thick")
        self.like = QPushButton("Like the others")
        self.like.setToolTip("These strips are as all the others again")
        self.like.clicked.connect(self._plain)
        done = QPushButton("Done")
        done.clicked.connect(self.hide)
        row = QGridLayout()
        for k, (label, widget) in enumerate(
            ((QLabel("wood"), self.wood), (self.wide_name, self.wide), (self.thick_name, self.thick))
        ):
            label.setObjectName("small")
            label.setBuddy(widget)
            row.addWidget(label, 0, 2 * k)
            row.addWidget(widget, 0, 2 * k + 1)
        foot = QHBoxLayout()
        foot.addWidget(self.like)
        foot.addWidget(self.note, 1)
        foot.addWidget(done)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(12, 8, 12, 8)
        whole.addWidget(self.title)
        whole.addLayout(row)
        whole.addLayout(foot)
        self.hide()

    def open(self, first: int, last: int, state: State, at: QPoint) -> None:
        """For a run of strips, near a place of what it stands over."""
        self.first, self.last = min(first, last), max(first, last)
        self.show_state(state)
        self.adjustSize()
        over = self.parentWidget()
        assert over is not None
        room_x, room_y = over.width() - self.width() - MARGIN, over.height() - self.height() - MARGIN
        x = min(max(at.x() - self.width() // 2, MARGIN), max(room_x, MARGIN))
        y = at.y() + 16 if at.y() + 16 <= room_y else at.y() - self.height() - 16
        self.move(x, max(y, MARGIN))
        self.show()
        self.raise_()

    def show_state(self, state: State) -> None:
        """What the job says of these strips."""
        self._state = state
        strips = self._strips_of(state.job)
        band = band_at(strips.zones, self.first, self.last)
        what = self._what.capitalize()
        run = f"{what} {self.first}" if self.first == self.last else f"{what}s {self.first}–{self.last}"
        self.title.setText(run)
        self.wood.setCurrentIndex(max(self.wood.findData(band.wood), 0))
        self.wide.show_length(band.width, state.style, given_length(strips.width, state.style))
        self.thick.show_length(band.thickness, state.style, given_length(strips.thickness, state.style))
        tapered = strips.layout is not StripLayout.PARALLEL
        for widget in (self.wide, self.wide_name):
            widget.setVisible(not tapered)
        self.note.setText("" if self.first != self.last else "Shift-click another: all between")
        self.like.setEnabled(not band.plain)

    def _put(self, **fields: object) -> None:
        if self._state is None:
            return
        zones = self._strips_of(self._state.job).zones
        now = band_at(zones, self.first, self.last)
        own = {"width": now.width, "thickness": now.thickness, "wood": now.wood, **fields}
        band = Band(self.first, self.last, **own)  # type: ignore[arg-type]
        try:
            changed = with_band(zones, band)
        except InputError as error:
            self.note.setText(sentence(str(error), self._state.style))
            return
        self._changed(f"{self.title.text().lower()} of their own", changed)

    def _plain(self) -> None:
        if self._state is not None:
            band = Band(self.first, self.last)
            zones = self._strips_of(self._state.job).zones
            self._changed(f"{self.title.text().lower()} like the others", with_band(zones, band))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)

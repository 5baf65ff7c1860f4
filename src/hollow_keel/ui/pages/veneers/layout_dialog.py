"""Ways of laying a layer of veneers side by side, and the one that wastes least; worked out in a process of its own."""

from __future__ import annotations

from PySide6.QtWidgets import QHeaderView, QPushButton, QVBoxLayout, QWidget

from ....app.processes.layout_finder import FindLayout
from ....core.job import Job
from ....core.units import LengthStyle, format_length
from ....core.veneers.find import LaidWay, reasons
from ...background.beside_dialog import BesideDialog
from ...views.data_table import Column, DataTable


class LayoutDialog(BesideDialog):
    """Begins to look at once; `chosen` is the way to use, if any, once the dialog is accepted."""

    def __init__(self, job: Job, layer: int, style: LengthStyle, parent: QWidget | None = None) -> None:
        super().__init__(style, parent)
        self.setWindowTitle(f"Find me a layout: layer {layer}")
        self.job, self.layer = job, layer
        self.ways: list[LaidWay] = []
        self.chosen: LaidWay | None = None
        self.table = DataTable("Ways of laying it", self._columns(), lambda way: str(self.ways.index(way)))
        self.table.picked.connect(lambda _: self._show_buttons())
        self.said.setText("Angles, widths and places of the first veneer are being tried; the best is kept on top.")
        self.stop_button = QPushButton("Stop")
        self.stop_button.clicked.connect(self._enough)
        self.use = QPushButton("Use this layout")
        self.use.clicked.connect(self._use)
        self.leave = QPushButton("Close")
        self.leave.clicked.connect(self.reject)
        layout = QVBoxLayout(self)
        layout.addWidget(self.table, 1)
        layout.addWidget(self.said)
        layout.addLayout(self.foot_with((self.stop_button, self.use, self.leave)))
        self.resize(980, 460)
        self.begin_work(FindLayout(job, layer))

    def take(self, value: LaidWay) -> None:
        """A way that was weighed."""
        self.ways.append(value)

    def work_done(self) -> None:
        self._say_best()

    def _enough(self) -> None:
        self.stop()
        self._say_best()

    @property
    def best(self) -> LaidWay | None:
        """The best way so far."""
        return min(self.ways, key=lambda way: way.order) if self.ways else None

    def _say_best(self) -> None:
        best = self.best
        if best is not None:
            self.said.setText(f"Of {len(self.ways)} ways tried the first is best: {reasons(best, self.ways[0])}")
        self.show_now()

    def _columns(self) -> list[Column]:
        def length(mm: float) -> str:
            return format_length(mm, self.style_of_lengths)

        def first(way: LaidWay) -> str:
            return "amidships" if way.master is None else length(way.master)

        def runs(way: LaidWay) -> str:
            now = "now: " if self.ways and way is self.ways[0] else ""
            return f"{now}{way.layer.degrees:g}°"

        return [
            Column("Runs at", runs, lambda way: way.layer.degrees),
            Column("Widest veneer", lambda way: length(way.layer.width), lambda way: way.layer.width),
            Column("First one at", first),
            Column("A side", lambda way: str(way.count), lambda way: way.count),
            Column("Cut off", lambda way: f"{way.lost:.0%}", lambda way: way.lost),
            Column("Overstrained", lambda way: str(way.overstrained), lambda way: way.overstrained),
            Column("Lies flat up to", lambda way: length(round(way.widest)), lambda way: way.widest),
        ]

    def show_now(self) -> None:
        """The ways there are, the best on top."""
        self.table.show_rows(sorted(self.ways, key=lambda way: way.order), self._columns())
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.bar.setVisible(self.running)
        self.stop_button.setVisible(self.running)
        self._show_buttons()

    def selected(self) -> LaidWay | None:
        """The way whose row is chosen; the best where none is."""
        text = self.table.current_key()
        return self.ways[int(text)] if text else self.best

    def _show_buttons(self) -> None:
        chosen = self.selected()
        self.use.setEnabled(chosen is not None and chosen is not self.ways[0])

    def _use(self) -> None:
        self.chosen = self.selected()
        self.accept()

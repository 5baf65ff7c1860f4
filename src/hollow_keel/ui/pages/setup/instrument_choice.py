"""Where readings come from: typed, from an instrument on a serial line, or from a simulated one."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QWidget

from ....app.instrument_line import InstrumentLine, SimulatedLine, serial_ports
from ....core.errors import InputError
from ....core.setup.instruments import SIMULATED

TYPED, PORT, MADE_UP = "typed", "port:", "simulated:"


class InstrumentChoice(QWidget):
    """A choice of instruments; `heard` comes with every line that one sends. A simulated one measures what is planned at the
    press of its button."""

    heard = Signal(str)
    said = Signal(str)

    def __init__(self, planned: Callable[[], float | None], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._planned = planned
        self._line: InstrumentLine | None = None
        self._simulated: SimulatedLine | None = None
        self.choice = QComboBox()
        self.choice.setAccessibleName("Where readings come from")
        self.choice.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.choice.addItem("typed, or sent as by a keyboard", TYPED)
        for port in serial_ports():
            self.choice.addItem(f"serial line {port}", PORT + port)
        for name in SIMULATED:
            self.choice.addItem(f"simulated: {name}", MADE_UP + name)
        self.choice.activated.connect(lambda _: self.choose(str(self.choice.currentData())))
        self.measure = QPushButton("Measure (F5)")
        self.measure.setShortcut("F5")
        self.measure.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.measure.clicked.connect(self._measure)
        self.measure.setVisible(False)
        row = QHBoxLayout(self)
        row.addWidget(QLabel("Readings:"))
        row.addWidget(self.choice)
        row.addWidget(self.measure)

    def choose(self, source: str) -> None:
        """Listen to another instrument; one that cannot be opened is said, and typing goes on."""
        self.close_line()
        port = source.removeprefix(PORT)
        if source.startswith(MADE_UP):
            self._simulated = SimulatedLine(SIMULATED[source.removeprefix(MADE_UP)]())
            port = self._simulated.port
        if source != TYPED:
            try:
                self._line = InstrumentLine(port, self.heard.emit, self.said.emit)
            except InputError as error:
                self.said.emit(str(error))
                self.close_line()
                source = TYPED
        self.choice.setCurrentIndex(max(self.choice.findData(source), 0))
        self.measure.setVisible(self._simulated is not None)

    def _measure(self) -> None:
        planned = self._planned()
        if self._simulated is not None and planned is not None:
            self._simulated.measure(planned)

    def close_line(self) -> None:
        """Give the line back."""
        if self._line is not None:
            self._line.close()
            self._line = None
        if self._simulated is not None:
            self._simulated.close()
            self._simulated = None

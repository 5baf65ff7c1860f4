"""An instrument on a serial line: what it sends, line by line; and a simulated one on a line of its own."""

from __future__ import annotations

import contextlib
import os
from collections import deque
from collections.abc import Callable
from time import monotonic

from ..core.errors import InputError
from ..core.setup.instruments import Instrument

WAIT_S = 0.2
LONGEST_LINE = 200
MOST_LINES, IN_SECONDS = 20, 1.0
"""An instrument that sends more lines in so short a time is not read off by anybody."""
FLOOD = "The instrument sends without being asked, faster than anybody measures: switch that off on it, and choose it anew."


def serial_ports() -> list[str]:
    """The names of the serial ports of this machine."""
    from serial.tools.list_ports import comports  # not before somebody asks

    return sorted(port.device for port in comports())


class InstrumentLine:
    """Reads a serial port in a thread of its own. `heard` is called there with each line, `lost` once with the reason when the
    line breaks off, or sends without end: then no more is heard. Raises InputError where the port cannot be opened, or another
    window listens to it."""

    def __init__(self, port: str, heard: Callable[[str], None], lost: Callable[[str], None], baud: int = 9600) -> None:
        from serial import Serial, SerialException  # loads slowly
        from serial.threaded import Packetizer, ReaderThread

        class Line(Serial):  # type: ignore[misc]
            """A port that is gone says so in one way, whether it is asked or read."""

            @property
            def in_waiting(self) -> int:
                try:
                    return int(super().in_waiting)
                except (OSError, TypeError) as error:
                    raise SerialException(str(error)) from error

        class Reader(Packetizer):  # type: ignore[misc]
            """Lines, however the instrument ends them."""

            TERMINATOR = b"\n"
            half = False
            flooded = False

            def __init__(self) -> None:
                super().__init__()
                self.times: deque[float] = deque(maxlen=MOST_LINES)

            def data_received(self, data: bytes) -> None:
                if self.flooded:
                    return
                whole = data[1:] if self.half and data[:1] == b"\n" else data  # the end of a line came in two parts
                self.half = data[-1:] == b"\r"
                super().data_received(whole.replace(b"\r\n", b"\n").replace(b"\r", b"\n"))
                del self.buffer[:-LONGEST_LINE]

            def handle_packet(self, packet: bytes) -> None:
                now = monotonic()
                if self.flooded or (len(self.times) == MOST_LINES and now - self.times[0] < IN_SECONDS):
                    if not self.flooded:
                        lost(FLOOD)
                    self.flooded = True
                    return
                self.times.append(now)
                heard(packet.replace(b"\0", b"")[:LONGEST_LINE].decode("ascii", "replace").strip())

            def connection_lost(self, exc: Exception | None) -> None:
                if exc is not None:
                    lost(f"The instrument's line broke off ({exc}): plug it in again and choose it anew.")

        try:
            self._line = Line(port, baud, timeout=WAIT_S, exclusive=True)
        except (SerialException, OSError, ValueError) as error:
            raise InputError(
                "this line cannot be opened", value=port, mend=f"Is the instrument plugged in and switched on? ({error})"
            ) from None
        self._thread = ReaderThread(self._line, Reader)
        self._thread.start()

    def close(self) -> None:
        """Stop listening and give the port back."""
        self._thread.close()


class SimulatedLine:
    """A simulated instrument at the far end of a pseudo terminal: `port` is its name, `measure` makes it send."""

    def __init__(self, instrument: Instrument) -> None:
        self._instrument = instrument
        self._own, self._far = os.openpty()
        self.port = os.ttyname(self._far)

    def measure(self, true: float) -> None:
        """Read a true length (mm) and send it as the instrument would."""
        os.write(self._own, self._instrument.typed(true).replace("\n", "\r\n").encode("ascii"))

    def close(self) -> None:
        """Hang up."""
        for end in (self._own, self._far):
            with contextlib.suppress(OSError):
                os.close(end)

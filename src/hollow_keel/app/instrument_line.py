"""An instrument on a serial line: what it sends, line by line; and a simulated one on a line of its own."""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Callable

from ..core.errors import InputError
from ..core.setup.instruments import Instrument

WAIT_S = 0.2
LONGEST_LINE = 200


def serial_ports() -> list[str]:
    """The names of the serial ports of this machine."""
    from serial.tools.list_ports import comports  # not before somebody asks

    return sorted(port.device for port in comports())


class InstrumentLine:
    """Reads a serial port in a thread of its own. `heard` is called there with each line, `lost` once with the reason when the
    line breaks off. Raises InputError where the port cannot be opened."""

    def __init__(
        self, port: str, heard: Callable[[str], None], lost: Callable[[str], None], baud: int = 9600
    ) -> None:
        import serial

        try:
            self._line = serial.Serial(port, baud, timeout=WAIT_S)
        except (serial.SerialException, OSError, ValueError) as error:
            raise InputError(
                "this line cannot be opened",
                value=port,
                mend=f"Is the instrument plugged in and switched on? ({error})",
            ) from None
        self._heard, self._lost = heard, lost
        self._closed = threading.Event()
        self._thread = threading.Thread(target=self._read, name="instrument", daemon=True)
        self._thread.start()

    def _read(self) -> None:
        import serial

        pending = b""
        while not self._closed.is_set():
            try:
                pending += self._line.read(max(1, self._line.in_waiting))
            except (serial.SerialException, OSError, TypeError) as error:
                if not self._closed.is_set():
                    self._lost(
                        f"The instrument's line broke off ({error}): plug it in again and choose it anew."
                    )
                return
            *lines, pending = pending.replace(b"\r\n", b"\n").replace(b"\r", b"\n").split(b"\n")
            pending = pending[-LONGEST_LINE:]
            for line in lines:
                self._heard(line[:LONGEST_LINE].decode("ascii", "replace").strip())

    def close(self) -> None:
        """Stop listening and give the port back."""
        self._closed.set()
        self._thread.join(timeout=10 * WAIT_S)
        with contextlib.suppress(OSError):
            self._line.close()


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

"""Instruments on a serial line: a simulated one on a pseudo terminal of its own, and lines that break."""

from __future__ import annotations

import os
import queue
import time
import tty
from collections.abc import Iterator

import pytest

from hollow_keel.app.instrument_line import LONGEST_LINE, MOST_LINES, InstrumentLine, SimulatedLine, serial_ports
from hollow_keel.core.errors import InputError
from hollow_keel.core.setup.instruments import SIMULATED, Instrument, caliper
from hollow_keel.core.units import LengthUnit, parse_length

PATIENCE_S = 10.0
Raw = tuple[int, queue.Queue[str], queue.Queue[str]]


@pytest.fixture
def raw() -> Iterator[Raw]:
    """What an instrument writes its bytes to, the lines that are heard of it, and why no more are."""
    heard: queue.Queue[str] = queue.Queue()
    lost: queue.Queue[str] = queue.Queue()
    own, far = os.openpty()
    tty.setraw(far)
    line = InstrumentLine(os.ttyname(far), heard.put, lost.put)
    yield own, heard, lost
    line.close()
    os.close(own)
    os.close(far)


def lines(instrument: Instrument, true: list[float]) -> list[str]:
    heard: queue.Queue[str] = queue.Queue()
    far = SimulatedLine(instrument)
    line = InstrumentLine(far.port, heard.put, heard.put)
    try:
        found = []
        for value in true:
            far.measure(value)
            found.append(heard.get(timeout=PATIENCE_S))
        return found
    finally:
        line.close()
        far.close()


def test_every_simulated_kind_can_be_heard_and_read() -> None:
    assert {"tape", "laser", "level", "caliper"} <= set(SIMULATED)
    for name, make in SIMULATED.items():
        read = [parse_length(text, LengthUnit.MM) for text in lines(make(), [388.0] * 4) if text]
        assert read or name == "laser that often fails"
        assert read == pytest.approx([388.0] * len(read), abs=3.0), name


def test_a_dropout_is_an_empty_line_and_a_caliper_is_fine() -> None:
    assert lines(Instrument(fails=1.0), [10.0]) == [""]
    assert float(lines(caliper(), [6.35])[0].removesuffix(" mm")) == pytest.approx(6.35, abs=0.15)


@pytest.mark.parametrize("end", [b"\n", b"\r", b"\r\n"])
def test_a_line_ends_as_the_instrument_ends_it(end: bytes, raw: Raw) -> None:
    """Byte by byte, so that no end of a line comes whole."""
    own, heard, lost = raw
    for text in (b"12.5", b"", b"7"):
        for k in range(len(text + end)):
            os.write(own, (text + end)[k : k + 1])
            time.sleep(0.01)
    assert [heard.get(timeout=PATIENCE_S) for _ in range(3)] == ["12.5", "", "7"]
    assert heard.empty()
    assert lost.empty()


def test_zeros_before_a_reading_go(raw: Raw) -> None:
    """An adapter that is plugged in sends some, before the first reading and between."""
    own, heard, _ = raw
    os.write(own, b"\0\0\x0012.5\n\0\n")
    assert [heard.get(timeout=PATIENCE_S) for _ in range(2)] == ["12.5", ""]


def test_a_port_that_is_not_there_is_said() -> None:
    with pytest.raises(InputError, match="plugged in"):
        InstrumentLine("/dev/no-such-port", print, print)
    assert isinstance(serial_ports(), list)


def test_a_line_that_breaks_off_is_said() -> None:
    heard: queue.Queue[str] = queue.Queue()
    lost: queue.Queue[str] = queue.Queue()
    far = SimulatedLine(Instrument())
    line = InstrumentLine(far.port, heard.put, lost.put)
    far.close()
    assert "broke off" in lost.get(timeout=PATIENCE_S)
    line.close()


def test_a_flood_is_said_once_and_no_longer_heard(raw: Raw) -> None:
    own, heard, lost = raw
    for _ in range(1000):
        os.write(own, b"12.5\r\n" * 100)
    assert "sends without being asked" in lost.get(timeout=PATIENCE_S)
    time.sleep(0.3)
    assert heard.qsize() == MOST_LINES
    assert lost.empty()


def test_rubbish_is_a_line_that_nothing_is_read_from(raw: Raw) -> None:
    own, heard, _ = raw
    os.write(own, bytes(k for k in range(256) if k not in (10, 13)) * 40 + b"\n" + b"7.5\n")
    assert len(heard.get(timeout=PATIENCE_S)) <= LONGEST_LINE
    assert heard.get(timeout=PATIENCE_S) == "7.5"


def test_two_cannot_listen_to_one_instrument() -> None:
    far = SimulatedLine(Instrument())
    first = InstrumentLine(far.port, print, print)
    try:
        with pytest.raises(InputError, match="cannot be opened"):
            InstrumentLine(far.port, print, print)
    finally:
        first.close()
        far.close()

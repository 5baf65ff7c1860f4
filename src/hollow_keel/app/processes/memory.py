"""What is given back is given back to the system: else a window of weeks keeps the most that each of its threads ever held."""

from __future__ import annotations

import ctypes
from contextlib import suppress

POOLS, POOLS_MOST = -8, 2
LARGE, LARGE_BYTES = -3, 1 << 20
"""Options of the C library's mallopt, by number, and what they are set to: so many pools of memory for all threads (else eight
for each core, every one of which keeps what it once held), and from how many bytes on a piece stands by itself, given back when it
is let go of (else up to 32 times as many)."""


def keep_little() -> None:
    """Set that up, once, before there are threads. Where the C library has no such thing, nothing is done."""
    with suppress(OSError, AttributeError):
        own = ctypes.CDLL(None)
        own.mallopt(POOLS, POOLS_MOST)
        own.mallopt(LARGE, LARGE_BYTES)


def give_back() -> None:
    """Give back what nobody holds any more. It takes some milliseconds."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)

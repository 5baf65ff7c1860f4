"""Which head that stands now a reading was taken at: heads are told by their place, for frames that are spaced anew keep their
names and stand elsewhere."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TypeVar

from ..findings import Finding, Weight, mm
from ..settings.readings import HeadReading
from .sheer import SheerMark

R = TypeVar("R", bound=HeadReading)
THERE_MM = 1.0
"""A head so near is the one that was read: no mark is struck closer."""


def at_heads(readings: Sequence[R], marks: Sequence[SheerMark]) -> Iterator[tuple[SheerMark, R]]:
    """Readings with the heads that they belong to; those whose head stands no more are left out."""
    for reading in readings:
        mark = head_of(reading, marks)
        if mark is not None:
            yield mark, reading


def head_of(reading: HeadReading, marks: Sequence[SheerMark]) -> SheerMark | None:
    """The head that a reading belongs to: the one that stands where it was read, or has its name where no place is known."""
    if reading.at is None:
        return next((mark for mark in marks if mark.name == reading.head), None)
    nearest = min(marks, key=lambda mark: abs(mark.station - reading.at), default=None)  # type: ignore[operator]
    return nearest if nearest is not None and abs(nearest.station - reading.at) <= THERE_MM else None


def lost(readings: Sequence[HeadReading], marks: Sequence[SheerMark], page: str, what: str) -> list[Finding]:
    """That something was read where no head stands now, once a head."""
    gone = dict.fromkeys((r.head, r.at) for r in readings if head_of(r, marks) is None)
    return [
        Finding(
            "arc-no-head", Weight.INFORMATION, page, head,
            f"{what} were read at a head that is not there any more{_stood(at)}.",
        )
        for head, at in gone
    ]  # fmt: skip


def _stood(at: float | None) -> str:
    return (
        ""
        if at is None
        else f": it stood at position {mm(round(at, 1))}; they count again once one stands there"
    )

"""Which mold or head that stands now something was read at: they are told by their place, for molds and frames that are spaced anew
keep their names and stand elsewhere."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import Protocol, TypeVar

from ..findings import Finding, Weight, mm
from ..settings.readings import HeadReading, is_of


class Standing(Protocol):
    """What stands at a place along the hull, mm: a mold, or a head."""

    @property
    def name(self) -> str:
        """What it is called now."""

    @property
    def station(self) -> float:
        """Where it stands."""


R = TypeVar("R", bound=HeadReading)
S = TypeVar("S", bound=Standing)
Read = tuple[str, float | None]
"""What something was read at was called then, and where it stood (None: not known)."""


def at_heads(readings: Sequence[R], marks: Sequence[S]) -> Iterator[tuple[S, R]]:
    """Readings with the heads that they belong to; those whose head stands no more are left out."""
    for reading in readings:
        mark = there((reading.head, reading.at), marks)
        if mark is not None:
            yield mark, reading


def there(read: Read, stand: Sequence[S]) -> S | None:
    """The one that something was read at: the one that stands at its place, or has its name where no place is known."""
    name, at = read
    own = [one for one in stand if is_of(name, at, one.name, one.station)]
    return min(own, key=lambda one: 0.0 if at is None else abs(one.station - at), default=None)


def lost(read: Iterable[Read], stand: Sequence[Standing], page: str, what: str, kind: str = "mold") -> list[Finding]:
    """That something was read where nothing stands now, once a place."""
    gone = dict.fromkeys(own for own in read if there(own, stand) is None)
    return [
        Finding(
            "read-elsewhere",
            Weight.INFORMATION,
            page,
            f"mold {name}" if kind == "mold" else name,
            f"{what} were read at a {kind} that is not there any more{_stood(at)}.",
        )
        for name, at in gone
    ]


def _stood(at: float | None) -> str:
    if at is None:
        return ""
    return f": it stood at position {mm(round(at, 1))}; they count again once one stands there"

"""Runs of strips that differ from the others: another width, thickness or wood for some, or the same as the others again."""

from __future__ import annotations

from dataclasses import dataclass

from pydantic import ValidationError

from ..errors import InputError
from ..refusal import refusal
from ..settings.strips import Zone


@dataclass(frozen=True)
class Band:
    """What strips `first` to `last`, by their number from the guide, have of their own (mm; None or empty: as the others)."""

    first: int
    last: int
    width: float | None = None
    thickness: float | None = None
    wood: str = ""

    @property
    def plain(self) -> bool:
        """Whether nothing is different."""
        return self.width is None and self.thickness is None and not self.wood


def band_at(zones: tuple[Zone, ...], first: int, last: int) -> Band:
    """What all strips of a run have in common that is not as the others; of zones that overlap the later one counts."""
    found: dict[str, set[object]] = {"width": set(), "thickness": set(), "wood": set()}
    for number in range(first, last + 1):
        own: dict[str, object] = {"width": None, "thickness": None, "wood": ""}
        for zone in zones:
            if zone.first <= number <= zone.last:
                own |= {"width": zone.width} if zone.width is not None else {}
                own |= {"thickness": zone.thickness} if zone.thickness is not None else {}
                own |= {"wood": zone.wood} if zone.wood else {}
        for name, value in own.items():
            found[name].add(value)
    return Band(first, last, **{name: values.pop() for name, values in found.items() if len(values) == 1})  # type: ignore[arg-type]


def with_band(zones: tuple[Zone, ...], band: Band) -> tuple[Zone, ...]:
    """The zones with a run of strips that is just as `band` says; the rest of each zone stays as it is. Raises InputError for a
    width or a thickness that no strip has."""
    kept: list[Zone] = []
    for zone in zones:
        if zone.last < band.first or zone.first > band.last:
            kept.append(zone)
            continue
        if zone.first < band.first:
            kept.append(zone.model_copy(update={"last": band.first - 1}))
        if zone.last > band.last:
            kept.append(zone.model_copy(update={"first": band.last + 1}))
    if not band.plain:
        kept.append(_zone(band))
    return tuple(sorted(kept, key=lambda zone: zone.first))


def _zone(band: Band) -> Zone:
    try:
        return Zone(first=band.first, last=band.last, width=band.width, thickness=band.thickness, wood=band.wood)
    except ValidationError as error:
        found = refusal(error, Zone)
        raise InputError("no strip is like this", found.where, found.value, found.mend) from None

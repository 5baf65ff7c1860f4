"""What is typed in one field: numbers, strips that differ, heights at positions; lengths in the builder's unit."""

from __future__ import annotations

import re

from ..core.errors import InputError
from ..core.job import Zone
from ..core.units import LengthStyle, format_length, parse_length

_ZONE = re.compile(r"^\s*(\d+)(?:\s*[-–]\s*(\d+))?\s*:\s*(.*)$")

Heights = tuple[tuple[float, float], ...]


def read_number(text: str, label: str = "", example: float = 7.7) -> float:
    """A plain number, with a point or a comma. Raises InputError."""
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise InputError("this is not a number", label, text, f"Write for example {example:g}.") from None


def read_whole(text: str, label: str = "", example: int = 2) -> int:
    """A whole number. Raises InputError."""
    try:
        return int(text)
    except ValueError:
        raise InputError("this is not a whole number", label, text, f"Write for example {example}.") from None


def read_zones(text: str, style: LengthStyle) -> tuple[Zone, ...]:
    """Zones such as "1-2: 10 wide; 12: 14 wide of ash; 30-34: 4 thick". Raises InputError with the part that cannot be read."""
    return tuple(_zone(part, style) for part in text.split(";") if part.strip())


def _zone(part: str, style: LengthStyle) -> Zone:
    found = _ZONE.match(part)
    mend = "Write for example 1-2: 10 wide; 12: 14 wide of ash; 30-34: 4 thick."
    if found is None:
        raise InputError("this is not a run of strips", "strips that differ", part.strip(), mend)
    first, last = int(found[1]), int(found[2] or found[1])
    if not 1 <= first <= last <= 2000:
        raise InputError(
            "strips are numbered from 1, the smaller number first", "strips that differ", part.strip(), mend
        )
    rest, _, wood = found[3].partition(" of ")
    width = thickness = None
    for bit in rest.split(","):
        words = bit.strip()
        if words.endswith("thick"):
            thickness = parse_length(words.removesuffix("thick"), style.unit)
        elif words:
            width = parse_length(words.removesuffix("wide"), style.unit)
    for value in (width, thickness):
        if value is not None and value <= 0:
            raise InputError("a strip has a width and a thickness", "strips that differ", part.strip(), mend)
    return Zone(first=first, last=last, width=width, thickness=thickness, wood=wood.strip())


def write_zones(zones: tuple[Zone, ...], style: LengthStyle) -> str:
    """Zones as they are typed."""
    said = []
    for zone in zones:
        bits = [f"{format_length(zone.width, style)} wide"] if zone.width is not None else []
        bits += [f"{format_length(zone.thickness, style)} thick"] if zone.thickness is not None else []
        run = f"{zone.first}" if zone.first == zone.last else f"{zone.first}-{zone.last}"
        said.append(f"{run}: {', '.join(bits)}{' of ' + zone.wood if zone.wood else ''}")
    return "; ".join(said)


def read_heights(text: str, style: LengthStyle) -> Heights:
    """Heights at positions, typed as "position: height; …". Raises InputError."""
    found = []
    for part in text.split(";"):
        if not part.strip():
            continue
        position, colon, height = part.partition(":")
        if not colon:
            raise InputError(
                "a position and a height belong together",
                "master line",
                part.strip(),
                "Write for example 500: 420; 2600: 300.",
            )
        found.append((parse_length(position, style.unit), parse_length(height, style.unit)))
    return tuple(found)


def write_heights(heights: Heights, style: LengthStyle) -> str:
    """Heights as they are typed."""
    return "; ".join(f"{format_length(x, style)}: {format_length(z, style)}" for x, z in heights)

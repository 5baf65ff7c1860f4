"""Several lengths typed as one text: one after the other, or so many apart from one to another; places from an end of the boat."""

from __future__ import annotations

import math
import re

from .errors import InputError
from .units import LengthUnit, parse_length

MOST = 500
SHORT_MM = 0.05
"""The last of a row that comes so near to where it is to end is there."""
_ONE = r"[^,;\t\r\n\u2028]+?"
_RANGES = (
    re.compile(rf"(?:from\s+)?(?P<first>{_ONE})\s+(?:to|until|-|–)\s+(?P<last>{_ONE})\s+every\s+(?P<step>{_ONE})", re.IGNORECASE),
    re.compile(rf"every\s+(?P<step>{_ONE})\s+from\s+(?P<first>{_ONE})\s+(?:to|until|-|–)\s+(?P<last>{_ONE})", re.IGNORECASE),
)
_COMMA = re.compile(rf"(\s(?:to|until|-|–)\s+{_ONE})\s*[,;]\s*(?=every\s(?!{_ONE}\sfrom\s))", re.IGNORECASE)
"""A comma within a row, before its `every`."""


Ends = tuple[float, float]
"""Where along the hull she begins and ends, mm: the foremost and the aftermost point of the table."""
_END = re.compile(
    r"(?:the\s+)?(?P<end>bow|stem|stern|transom|aft(?:er)? end|end)(?:\s*(?P<way>less|minus|-|\u2212|and|plus|\+)\s*(?P<by>.+))?",
    re.IGNORECASE,
)


def parse_place(text: str, unit: LengthUnit = LengthUnit.MM, ends: Ends | None = None) -> float:
    """A place along the hull, mm: a length, or with known `ends` `the stern`, `the stern less 9`, `bow plus 150`. Raises
    InputError."""
    match = _END.fullmatch(text.strip())
    if match is None:
        return parse_length(text, unit)
    if ends is None:
        raise InputError("where bow and stern are is not known here", value=text, mend="Give the place as a length.")
    at = ends[0] if match["end"].lower() in ("bow", "stem") else ends[1]
    if match["way"] is None:
        return at
    by = parse_length(match["by"], unit)
    return at + by if match["way"].lower() in ("and", "plus", "+") else at - by


def parse_lengths(text: str, unit: LengthUnit = LengthUnit.MM, ends: Ends | None = None) -> tuple[float, ...]:
    """Lengths, mm, in the order they are typed: between commas, semicolons, tabs or lines (a column of a spreadsheet), or in rows:
    `28 to 168 every 10`, `every 12 in from 6 to 150`, with known `ends` of the hull `every 12 in from 6 to the stern less 9`. Bare
    numbers are in `unit`. Raises InputError that names the part which is wrong."""
    found: list[float] = []
    for part in re.split(r"[,;\t\r\n\u2028]+", _COMMA.sub(r"\1 ", text)):
        if part.strip():
            found += _row(part.strip(), unit, ends) or (_length(part.strip(), unit, ends),)
    if len(found) > MOST:
        raise InputError("these are too many places", value=f"{len(found)}", mend=f"Give at most {MOST}.")
    return tuple(found)


def _length(part: str, unit: LengthUnit, ends: Ends | None) -> float:
    if re.fullmatch(r"\d{1,3}(?: \d{3})+", part):
        raise InputError("this could be one number or several", value=part, mend="Put commas between numbers, no space within one.")
    try:
        return parse_place(part, unit, ends)
    except InputError as error:
        raise error if error.value else InputError(error.problem, error.where, part, error.mend) from None


def _row(part: str, unit: LengthUnit, ends: Ends | None) -> tuple[float, ...] | None:
    """The places of a row, the last one where it comes out; None where the part is none."""
    match = next((own for pattern in _RANGES if (own := pattern.fullmatch(part))), None)
    if match is None:
        return None
    first, last, step = (_length(match[name], unit, ends) for name in ("first", "last", "step"))
    if step <= 0:
        raise InputError("places must be some way apart", value=match["step"], mend="Write for example 28 to 168 every 10.")
    count = math.floor((abs(last - first) + SHORT_MM) / step) + 1
    if count > MOST:
        raise InputError("these are too many places", value=part, mend=f"Give at most {MOST}: a wider step.")
    sign = 1.0 if last >= first else -1.0
    return tuple(first + sign * step * k for k in range(count))

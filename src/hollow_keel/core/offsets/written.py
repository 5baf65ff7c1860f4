"""The text of an offset as the designer or builder wrote it, kept beside its value."""

from __future__ import annotations

import re

from ..errors import InputError
from ..units import LengthUnit, is_bare_number, parse_length
from .table import OffsetRow

_FRACTION = re.compile(r"[-\u2212]?(?:\d+\s+)?(?:\d+/\d+)|[-\u2212]?\d*\s?[\u00bc-\u00be\u2150-\u215e]")
"""A number with a fraction: it says no more of its unit than one without."""
SAME_MM = 1e-6
"""A text belongs to a value for as long as it reads as that value."""


def with_unit(text: str, unit: LengthUnit | None) -> str:
    """A typed length so that it can be read without knowing the field's unit; empty where the number in mm says it all.

    `unit` is that of a bare number; None is decimal feet.
    """
    text = " ".join(text.split())
    fraction = _FRACTION.fullmatch(text) is not None
    if not is_bare_number(text) and not fraction:
        return text
    match unit:
        case LengthUnit.MM:
            return f"{text} mm" if fraction else ""
        case LengthUnit.M:
            return f"{text} m"
        case None:
            return f"{text} ft"
        case _:
            return f"{text} in"


def written(row: OffsetRow, field: str) -> str:
    """What was written for a field of a row, or an empty text where it has been changed since."""
    text = row.written.get(field, "")
    if not text:
        return ""
    try:
        same = abs(parse_length(text) - getattr(row, field)) < SAME_MM
    except InputError:
        return ""
    return text if same else ""


def rewritten(row: OffsetRow, field: str, value: float, text: str) -> OffsetRow:
    """The row with one length replaced, and the text it was typed as (see with_unit)."""
    kept = {k: t for k, t in row.written.items() if k != field} | ({field: text} if text else {})
    return row.model_copy(update={field: value, "written": kept})

"""Areas, volumes and weights as builders read them: metric, or US gallons, pounds and yards.

The factors are exact by definition (international yard and pound agreement of 1959; the US gallon of 231 cubic inches).
"""

from __future__ import annotations

import re
from enum import StrEnum

from .units import INCHES, MM_PER_INCH, LengthStyle, LengthUnit, format_length

KG_PER_LB = 0.45359237
L_PER_GALLON = 231 * (MM_PER_INCH / 100) ** 3
M2_PER_YD2 = (0.0254 * 36) ** 2
OUNCES = 16
FLUID_OUNCES = 128
MM_PER_FOOT = 12 * MM_PER_INCH

_AMOUNT = re.compile("\u27e6([^|\u27e7]*)\\|([^|\u27e7]*)\\|([^\u27e7]*)\u27e7")


class Amounts(StrEnum):
    """What areas, volumes and weights are told in."""

    METRIC = "metric"
    US = "US"


_US = {
    "kg": ("lb", 1 / KG_PER_LB),
    "g": ("lb", 0.001 / KG_PER_LB),
    "l": ("gal", 1 / L_PER_GALLON),
    "ml": ("fl oz", FLUID_OUNCES / L_PER_GALLON / 1000),
    "m": ("ft", 1000 / MM_PER_FOOT),
    "mm": ("in", 1 / MM_PER_INCH),
    "m²": ("sq yd", 1 / M2_PER_YD2),
    "m³": ("cu ft", 1e9 / MM_PER_FOOT**3),
    "kg/m³": ("lb/cu ft", MM_PER_FOOT**3 / 1e9 / KG_PER_LB),
    "g/m²": ("oz/sq yd", OUNCES / KG_PER_LB / 1000 * M2_PER_YD2),
    "kg/l": ("lb/gal", L_PER_GALLON / KG_PER_LB),
}


def converted(value: float, unit: str, amounts: Amounts) -> tuple[float, str]:
    """An amount in a metric unit as it is told: less than a gallon in fluid ounces."""
    if amounts is Amounts.METRIC or unit not in _US:
        return value, unit
    if unit == "l" and value < L_PER_GALLON:
        value, unit = 1000 * value, "ml"
    name, factor = _US[unit]
    return value * factor, name


def quantity(value: float, unit: str, spec: str = "g") -> str:
    """An amount within a text, in a metric unit and with the format it has there; `in_amounts` writes it out."""
    return f"\u27e6{value!r}|{unit}|{spec}\u27e7"


def in_amounts(text: str, amounts: Amounts) -> str:
    """A text with its marked amounts written out."""

    def said(found: re.Match[str]) -> str:
        value, unit, spec = float(found[1]), found[2], found[3]
        number, name = converted(value, unit, amounts)
        return f"{number:{spec}} {name}" if name == unit else f"{_three(number)} {name}"

    return _AMOUNT.sub(said, text)


def _three(number: float) -> str:
    """Three figures, and all of those before the point."""
    return f"{number:.0f}" if abs(number) >= 100 else f"{number:.3g}"


def far_length(mm: float, style: LengthStyle, decimals: int = 0) -> str:
    """A total length or a radius: metres, or feet where lengths are in inches."""
    if style.unit in INCHES:
        return f"{mm / MM_PER_FOOT:.{decimals}f} ft"
    return f"{mm / 1000:.{decimals}f} m"


def data_style(style: LengthStyle) -> LengthStyle:
    """How lengths that will be added up are written into a file: decimal, and so fine that no rounding enters a sum."""
    return LengthStyle(LengthUnit.INCH, 0.0001) if style.unit in INCHES else LengthStyle(LengthUnit.MM, 0.01)


def data_length(mm: float, style: LengthStyle) -> str:
    """A length, mm, in the data style, for a spreadsheet."""
    return format_length(mm, data_style(style)).replace("\u202f", "")

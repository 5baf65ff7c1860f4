"""Lengths and angles as builders write them.

Everything inside the program is millimetres and radians; this module is the edge where text is
read and written. A unit is never guessed from the size of a number: a bare number is in the unit
the field says.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from .errors import InputError

MM_PER_INCH = 25.4
_THIN = "\u202f"


class LengthUnit(StrEnum):
    """How lengths are shown and how a bare number is read."""

    MM = "mm"
    M = "m"
    INCH = "in"
    INCH_FRACTION = "in-frac"
    FEET_INCH_FRACTION = "ft-in"
    FEET_INCH_EIGHTHS = "fie"


INCHES = frozenset({LengthUnit.INCH, LengthUnit.INCH_FRACTION, LengthUnit.FEET_INCH_FRACTION, LengthUnit.FEET_INCH_EIGHTHS})
"""The units of the inch."""


@dataclass(frozen=True)
class LengthStyle:
    """A display unit with its rounding: `step` in mm for metric and decimal inches in inches;
    for fractions the smallest part of an inch (1/8 … 1/64)."""

    unit: LengthUnit = LengthUnit.MM
    step: float = 0.5

    @property
    def step_mm(self) -> float:
        """The rounding step in millimetres."""
        match self.unit:
            case LengthUnit.MM | LengthUnit.M:
                return self.step
            case LengthUnit.FEET_INCH_EIGHTHS:
                return MM_PER_INCH / 16
            case _:
                return self.step * MM_PER_INCH

    @property
    def fine(self) -> LengthStyle:
        """The same for what a caliper measures: tenths of a millimetre or thousandths of an inch."""
        if self.unit in (LengthUnit.MM, LengthUnit.M):
            return LengthStyle(LengthUnit.MM, 0.1)
        return LengthStyle(LengthUnit.INCH, 0.001)

    @property
    def name(self) -> str:
        """The unit in words, for labels beside a number."""
        return {
            LengthUnit.MM: "mm",
            LengthUnit.M: "m",
            LengthUnit.INCH: "in",
            LengthUnit.INCH_FRACTION: "in",
            LengthUnit.FEET_INCH_FRACTION: "ft in",
            LengthUnit.FEET_INCH_EIGHTHS: "ft-in-8ths",
        }[self.unit]

    @property
    def rounding_name(self) -> str:
        """The rounding in words: `nearest 0.5`, `nearest 1/16`."""
        match self.unit:
            case LengthUnit.INCH_FRACTION | LengthUnit.FEET_INCH_FRACTION:
                return f"nearest {Fraction(self.step).limit_denominator(128)}"
            case LengthUnit.FEET_INCH_EIGHTHS:
                return "nearest 1/16"
            case _:
                return f"nearest {self.step:g}"


STYLES: tuple[LengthStyle, ...] = (
    LengthStyle(LengthUnit.MM, 0.1),
    LengthStyle(LengthUnit.MM, 0.5),
    LengthStyle(LengthUnit.MM, 1.0),
    LengthStyle(LengthUnit.INCH, 0.01),
    LengthStyle(LengthUnit.INCH_FRACTION, 1 / 8),
    LengthStyle(LengthUnit.INCH_FRACTION, 1 / 16),
    LengthStyle(LengthUnit.INCH_FRACTION, 1 / 32),
    LengthStyle(LengthUnit.INCH_FRACTION, 1 / 64),
    LengthStyle(LengthUnit.FEET_INCH_FRACTION, 1 / 16),
    LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, 1 / 16),
)
"""The styles a builder can choose from."""

_VULGAR = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
    "⅕": "1/5",
    "⅖": "2/5",
    "⅗": "3/5",
    "⅘": "4/5",
}
_FACTORS = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": MM_PER_INCH,
    '"': MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    "ft": 12 * MM_PER_INCH,
    "'": 12 * MM_PER_INCH,
    "feet": 12 * MM_PER_INCH,
    "foot": 12 * MM_PER_INCH,
}
LONGEST = 200
"""A longer text is no length."""
_NUMBER = r"(?:\d+(?:\.\d*)?e[+-]?\d{1,3}|\d+\s+\d+/\d+|\d+/\d+|\d+\.\d*|\.\d+|\d+)"
_TERM = re.compile(rf"(?P<number>{_NUMBER})\s*(?P<unit>[a-z]+|\"|')?\s*", re.ASCII)
_EIGHTHS = re.compile(r"(?P<sign>-?)(?P<feet>\d+)-(?P<inches>\d+)-(?P<eighths>\d+)(?P<plus>\+?)")


_THOUSANDS = re.compile(r"-?[1-9]\d{0,2}(?:\.\d{3})+")
_SIXTY_FOURTH = MM_PER_INCH / 64
AS_WRITTEN_MM = 6e-4
"""A fraction of an inch in millimetres with three decimals is so near."""


def refuse_thousands(text: str, unit: LengthUnit) -> None:
    """Raises InputError for what may have been typed with a point for thousands: 1.250 where bare numbers are mm. Fractions of an
    inch in millimetres, as 9.525, are taken for what they say."""
    text = text.strip()
    if unit is not LengthUnit.MM or not _THOUSANDS.fullmatch(text):
        return
    plain = text.replace(".", "")
    value = float(text) if text.count(".") == 1 else float(plain)
    off = abs(value - round(value / _SIXTY_FOURTH) * _SIXTY_FOURTH)
    if off > AS_WRITTEN_MM or text.count(".") > 1:
        either = f"{plain} or {value:g} mm" if text.count(".") == 1 else plain
        raise InputError("this point could mean thousands or a decimal", value=text, mend=f"Write {either}.")


def parse_typed(text: str, unit: LengthUnit = LengthUnit.MM) -> float:
    """A length (mm) that was typed by hand: as `parse_length`, but what may be thousands is asked for. Raises InputError."""
    refuse_thousands(text, unit)
    return parse_length(text, unit)


FARTHEST_MM = 1e6
"""Nothing of a boat is a kilometre long: settings and readings end below."""


def parse_reading(text: str, unit: LengthUnit = LengthUnit.MM) -> float:
    """A length (mm) that was measured, as `parse_length` reads it. Raises InputError, also for one that nothing of a boat has."""
    value = parse_length(text, unit)
    if not abs(value) < FARTHEST_MM:
        raise InputError("nothing of a boat is as long", value=text.strip(), mend="Read it again, and look at the unit.")
    return value


def parse_length(text: str, unit: LengthUnit = LengthUnit.MM) -> float:
    """Read a length in any unit the trade writes; a bare number is in `unit`. Returns mm.

    Reads `5' 3 1/2"`, `63.5in`, `5-3-4` and `5-3-4+` (feet-inches-eighths, `+` a sixteenth),
    `1613`, `1.613 m`, `2 743.5`, and sums whose signs stand between spaces (`42 1/2 + 3/4`).
    Raises InputError with the mend.
    """
    if len(text) > LONGEST:
        raise InputError("this is too long to be a length", value=f"{text[:20]}…", mend="Type it again.")
    cleaned = _clean(text)
    if not cleaned:
        raise InputError("a length is missing", mend="Type a number, such as 1613 or 5' 3 1/2\".")
    parts = re.split(r"\s+([+-])\s+", cleaned)
    total = _parse_signed(parts[0], unit, text)
    for sign, term in zip(parts[1::2], parts[2::2], strict=True):
        value = _parse_signed(term, unit, text)
        total += value if sign == "+" else -value
    if not math.isfinite(total):
        raise InputError("this length is not a number that can be used", value=text, mend="Type it again.")
    return total


def is_bare_number(text: str) -> bool:
    """Whether a text is a number alone, which means nothing without its field's unit."""
    try:
        float(text)
    except ValueError:
        return False
    return True


def _clean(text: str) -> str:
    for mark, plain in _VULGAR.items():
        text = text.replace(mark, f" {plain}")
    if re.search(r"(?<![\d'\u2019])\d{1,3}(?:['\u2019]\d{3})+(?!\d)", text):
        raise InputError(
            "this mark could mean thousands or feet",
            value=text,
            mend="Write it without the mark, or feet and inches with a space between.",
        )
    for odd, plain in (("\u2212", "-"), ("′", "'"), ("’", "'"), ("″", '"'), ("”", '"'), ("“", '"'), ("''", '"')):
        text = text.replace(odd, plain)
    text = re.sub(r"[\s\u00a0\u2009\u202f]+", " ", text).strip().lower()
    if re.search(r"\d,\d", text):
        if re.search(r"\d,\d{3}(?!\d)", text):
            raise InputError(
                "this comma could mean thousands or a decimal",
                value=text,
                mend="Write it without the comma, or with a point for the decimal.",
            )
        text = re.sub(r"(\d),(\d)", r"\1.\2", text)
    # thousands in groups of three, as we show them ourselves: 2 743.5
    return re.sub(r"(?<![\d/.])(\d{1,3})((?: \d{3})+)(?![\d/])", lambda m: m.group(0).replace(" ", ""), text)


def _parse_signed(term: str, unit: LengthUnit, whole: str) -> float:
    eighths = _EIGHTHS.fullmatch(term)
    if eighths:
        return _from_eighths(eighths, whole)
    sign = 1.0
    if term.startswith(("-", "+")):
        sign, term = (-1.0 if term[0] == "-" else 1.0), term[1:].strip()
    return sign * _parse_terms(term, unit, whole)


def _from_eighths(match: re.Match[str], whole: str) -> float:
    feet, inches, eighths = (int(match[k]) for k in ("feet", "inches", "eighths"))
    if inches > 11 or eighths > 7:
        raise InputError(
            "feet-inches-eighths has inches up to 11 and eighths up to 7",
            value=whole,
            mend="Carry the rest over, for example 2-12-8 is 3-1-0.",
        )
    value = (feet * 12 + inches + eighths / 8 + (1 / 16 if match["plus"] else 0)) * MM_PER_INCH
    return -value if match["sign"] else value


def _parse_terms(term: str, unit: LengthUnit, whole: str) -> float:
    position, total, last_factor = 0, 0.0, math.inf
    bad = InputError(
        "this cannot be read as a length", value=whole, mend="Write for example 1613, 1.613 m, 63.5in, 5' 3 1/2\" or 5-3-4."
    )
    while position < len(term):
        match = _TERM.match(term, position)
        if match is None:
            raise bad
        factor = _factor(match["unit"], unit, last_factor, match["number"], whole)
        if factor is None or factor >= last_factor:
            raise bad
        total += _number(match["number"], whole) * factor
        position, last_factor = match.end(), factor
    if math.isinf(last_factor):
        raise bad
    return total


def _factor(written: str | None, unit: LengthUnit, last: float, number: str, whole: str) -> float | None:
    if written:
        return _FACTORS.get(written)
    if last == _FACTORS["ft"]:
        return MM_PER_INCH  # 5' 3 1/2
    if not math.isinf(last):
        return None
    if unit is LengthUnit.FEET_INCH_EIGHTHS and _number(number, whole) != 0:
        raise InputError(
            "a bare number is not feet-inches-eighths", value=whole, mend="Write for example 2-3-4, or add the unit: 27.5in."
        )
    return {LengthUnit.MM: 1.0, LengthUnit.M: 1000.0}.get(unit, MM_PER_INCH)


def _number(text: str, whole: str) -> float:
    total = 0.0
    for part in text.split():
        top, _, bottom = part.partition("/")
        if bottom:
            if int(bottom) == 0:
                raise InputError("a fraction is divided by nothing", value=whole, mend="Type it again.")
            total += int(top) / int(bottom)
        else:
            total += float(top)
    return total


def round_to(value: float, step: float) -> float:
    """Nearest multiple of `step`, of any one unit, halves away from zero (as a builder rounds)."""
    return math.copysign(math.floor(abs(value) / step + 0.5 + 1e-9) * step, value) if step > 0 else value


def format_length(mm: float, style: LengthStyle | None = None, *, unit: bool = False) -> str:
    """Write `mm` in the given style (default mm to 0.5), rounded once. `unit` adds the unit's mark.

    A length that is not finite is written as a dash.
    """
    style = style or LengthStyle()
    if not math.isfinite(mm):
        return "–"
    match style.unit:
        case LengthUnit.MM | LengthUnit.M | LengthUnit.INCH:
            return _decimal(mm, style) + (f" {style.name}" if unit else "")
        case LengthUnit.INCH_FRACTION:
            return _inches(mm, style.step) + ('"' if unit else "")
        case LengthUnit.FEET_INCH_FRACTION:
            return _feet_inches(mm, style.step)
        case LengthUnit.FEET_INCH_EIGHTHS:
            return _eighths(mm)


SHOWN_MM = 0.02
"""A length that a builder gave is not shown as another one, by more than this."""


def given_length(mm: float, style: LengthStyle, *, unit: bool = False) -> str:
    """A length that somebody gave: as `format_length` where that says what it is, else with the digits that do: 12 mm on a tape of
    sixteenths is 0.472, not 1/2. Read again in the style's unit it is the length to SHOWN_MM."""
    finer = (
        (LengthStyle(style.unit, 1 / parts) for parts in (32, 64) if 1 / parts < style.step)
        if style.unit in (LengthUnit.INCH_FRACTION, LengthUnit.FEET_INCH_FRACTION)
        else ()
    )
    for own in (style, *finer):
        if not math.isfinite(mm) or abs(parse_length(format_length(mm, own), style.unit) - mm) <= SHOWN_MM:
            return format_length(mm, own, unit=unit)
    match style.unit:
        case LengthUnit.MM:
            step = 0.1 if abs(mm - round(mm, 1)) <= SHOWN_MM else 0.01
            return format_length(mm, LengthStyle(LengthUnit.MM, step), unit=unit)
        case LengthUnit.M:
            return f"{mm / 1000:.5f}" + (" m" if unit else "")
        case LengthUnit.FEET_INCH_EIGHTHS:  # a bare number is none of it
            return f"{mm / MM_PER_INCH:.3f}in"
        case _:
            return format_length(mm, LengthStyle(LengthUnit.INCH, 0.001), unit=unit)


def given_size(sides: Iterable[float], style: LengthStyle, *, unit: bool = False) -> str:
    """The sides of a piece that somebody gave, mm: 14.0 × 8.0 mm."""
    *first, last = sides
    return " × ".join([*(given_length(side, style) for side in first), given_length(last, style, unit=unit)])


TOLD_MM = 0.05
"""A shorter length is nothing in a sentence."""


def spoken_length(mm: float, style: LengthStyle) -> str:
    """A length within a sentence, with its unit; whole millimetres without decimals. One that would read as nothing, and is worth
    a word, is told as a caliper measures it."""
    if style.unit is LengthUnit.MM:
        return f"{round(mm, 1):.12g} mm"
    as_nothing = TOLD_MM <= abs(mm) <= style.step_mm / 2
    return format_length(mm, style.fine if as_nothing else style, unit=True)


def plain_length(mm: float, style: LengthStyle) -> str:
    """As format_length, for a spreadsheet: without the narrow spaces between thousands."""
    return format_length(mm, style).replace(_THIN, "")


def _decimal(mm: float, style: LengthStyle) -> str:
    if style.unit is LengthUnit.M:
        return f"{round_to(mm, style.step) / 1000:.3f}"
    value = mm if style.unit is LengthUnit.MM else mm / MM_PER_INCH
    decimals = max(0, -math.floor(math.log10(style.step) + 1e-9))
    text = f"{round_to(value, style.step):,.{decimals}f}".replace(",", _THIN)
    return text[1:] if text.startswith("-") and not any(c in "123456789" for c in text) else text


def _parts(mm: float, step: float) -> tuple[str, int, Fraction]:
    """Sign, whole inches and the fraction of an inch left, rounded once."""
    bottom = round(1 / step)
    count = round(round_to(abs(mm) / MM_PER_INCH, step) * bottom)
    return ("-" if mm < 0 and count else ""), count // bottom, Fraction(count % bottom, bottom)


def _inches(mm: float, step: float) -> str:
    sign, whole, part = _parts(mm, step)
    if not part:
        return f"{sign}{whole}"
    return f"{sign}{whole} {part}" if whole else f"{sign}{part}"


def _feet_inches(mm: float, step: float) -> str:
    sign, whole, part = _parts(mm, step)
    feet, inches = divmod(whole, 12)
    tail = f"{inches} {part}" if part and inches else (str(part) if part else str(inches))
    return f"{sign}{feet}' {tail}\"" if feet else f'{sign}{tail}"'


def _eighths(mm: float) -> str:
    sign, whole, part = _parts(mm, 1 / 16)
    sixteenths = int(part * 16)
    return f"{sign}{whole // 12}-{whole % 12}-{sixteenths // 2}" + ("+" if sixteenths % 2 else "")


def format_angle(radians: float, step: float = 0.5) -> str:
    """Write an angle, radians, in degrees rounded to `step` degrees."""
    return format_degrees(math.degrees(radians), step)


def format_degrees(degrees: float, step: float = 0.1) -> str:
    """Write degrees rounded to `step` degrees: without a sign where they are nothing, a dash where they are not finite."""
    if not math.isfinite(degrees):
        return "–"
    decimals = 0 if step >= 1 else max(1, -math.floor(math.log10(step) + 1e-9))
    return f"{round_to(degrees, step) + 0.0:.{decimals}f}°"

"""Numbers in a table: blanks, decimal commas, lengths in whatever unit a cell or its column says."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

from ...core.errors import InputError
from ...core.offsets.written import with_unit
from ...core.units import LengthUnit, is_bare_number, parse_length

BLANK = re.compile(r"^(?:[-\u2013\u2014\u2212_.\u2026\u00b7\s*x]*|n\.?/?a\.?|nil|none|blank|null|#n/a)$", re.IGNORECASE)
"""What stands where the designer gave nothing: a dash, dots, n/a, a cross."""
_EIGHTHS = re.compile(r"^-?\d+-\d+-\d+\+?$")
_GROUPED = re.compile(r"^-?\d{1,3}(?:,\d{3})+(?:\.\d+)?$")
_GROUPED_BY_POINT = re.compile(r"^-?\d{1,3}(?:\.\d{3})+(?:,\d+)?$")
_BY_POINT_ALONE = re.compile(r"^-?[1-9]\d{0,2}(?:\.\d{3})+$")
_BY_MARK = re.compile(r"^-?[1-9]\d{0,2}(?:['\u2019]\d{3})+(?:[.,]\d+)?$")
"""1’613: no feet and inches, since no foot has 613 of them."""
_SURELY_DECIMAL = re.compile(r"^-?(?:0|\d{4,}),\d+$|^-?\d*,(?:\d{1,2}|\d{4,})$")


class Comma(StrEnum):
    """What a comma in a number is, and what a point is, or a mark between figures, where that is not plain."""

    NONE = "there is none"
    DECIMAL = "decimals"
    GROUPS = "thousands"
    EITHER = "either"
    POINTS = "none: a point, or a mark, is thousands"
    OTHER = "none, but a point or a mark may be thousands"


def is_blank(cell: str) -> bool:
    """Whether a cell says that nothing was given."""
    return BLANK.match(cell.strip()) is not None


def is_eighths(cell: str) -> bool:
    """Whether a cell is feet-inches-eighths, which says its unit itself."""
    return _EIGHTHS.match(cell.strip()) is not None


def comma_of(cells: Iterable[str], *, fine: bool = False) -> Comma:
    """What commas are, decided over a whole table: one cell that can be read in one way only settles all of them. In a table whose
    unit is not `fine`, thousandths of it are as hard to believe as thousands are."""
    either = decimal = grouped = marked = other = pointed = False
    for cell in cells:
        text = cell.strip().rstrip("+*")
        if "," not in text:
            marked = marked or _BY_MARK.match(text) is not None
            other = other or may_be_thousands(text, fine=fine)
            pointed = pointed or ("." in text and is_number(text) and not _BY_POINT_ALONE.match(text))
            continue
        if _SURELY_DECIMAL.match(text) or (_GROUPED_BY_POINT.match(text) and "." in text):
            decimal = True
        elif _GROUPED.match(text) and ("." in text or text.count(",") > 1):
            grouped = True
        elif _GROUPED.match(text):
            either = True
    if decimal and not grouped:
        return Comma.DECIMAL
    if grouped and not decimal:
        return Comma.GROUPS
    if either or decimal:
        return Comma.EITHER
    return Comma.OTHER if marked or (other and not pointed) else Comma.NONE


def may_be_thousands(cell: str, *, fine: bool = False) -> bool:
    """Whether a cell without a comma may be thousands: 1.250 where it is mm, 1’613."""
    text = cell.strip()
    return _BY_MARK.match(text) is not None or (not fine and _BY_POINT_ALONE.match(text) is not None)


def plain(cell: str, comma: Comma) -> str:
    """A number with a point and no groups."""
    text = cell.strip()
    if comma is Comma.DECIMAL and (re.search(r"\d,\d|^-?,\d", text) or _BY_POINT_ALONE.match(text)):
        return re.sub(r"(?<=\d)\.(?=\d{3}\b)", "", text).replace(",", ".")
    if comma is Comma.POINTS and may_be_thousands(text):
        return re.sub(r"(?<=\d)[.'\u2019](?=\d{3}(?!\d))", "", text)
    if comma is Comma.GROUPS:
        return re.sub(r"(?<=\d),(?=\d{3})", "", text)
    return text


def is_number(cell: str) -> bool:
    """Whether a cell is a length without words, whatever its comma: a number, perhaps with a unit, fractions, or
    feet-inches-eighths."""
    text = cell.strip()
    if not any(c.isdigit() for c in text):
        return False
    if _BY_MARK.match(text):
        return True
    text = text.replace(",", ".") if text.count(",") == 1 else text.replace(",", "")
    try:
        parse_length(text)
    except InputError:
        return False
    return True


UNIT_WORDS: tuple[tuple[str, str], ...] = (
    (r"feet[-, ]*inches[-, ]*(?:and[- ]*)?(?:8ths|eighths)|ft[-. ]*in[-. ]*(?:8ths|eighths)|f[-.]i[-.]e|fie", "fie"),
    (r"mm|millimet(?:re|er)s?", "mm"),
    (r"cm|centimet(?:re|er)s?", "cm"),
    (r"feet(?: and|,|-)? ?inches|ft[-. ]*in|ft\.? ?& ?in", "ft-in"),
    (r"inch(?:es)?|in\.?(?=\s*[)\]]?$)|ins\.?|\"", "in"),
    (r"feet|foot|ft\.?|'", "ft"),
    (r"met(?:re|er)s?|m", "m"),
)
"""Words for units, the longer ones first."""
_UNITS = tuple((re.compile(rf"(?:^|[\s(\[_,;:/=])(?:{words})(?=$|[\s)\],;:.])", re.IGNORECASE), unit) for words, unit in UNIT_WORDS)


def unit_in(text: str) -> str | None:
    """The unit that a heading or a title names: mm, cm, m, in, ft, ft-in or fie; None where it names none."""
    return next((unit for pattern, unit in _UNITS if pattern.search(text.strip())), None)


MOST = 1e9
FACTORS = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8}
STYLE = {
    "mm": LengthUnit.MM,
    "m": LengthUnit.M,
    "in": LengthUnit.INCH,
    "ft-in": LengthUnit.INCH,
    "fie": LengthUnit.FEET_INCH_EIGHTHS,
}


@dataclass(frozen=True)
class Lengths:
    """How the lengths of a table are read: the unit of bare numbers, and what a comma is."""

    unit: str
    comma: Comma = Comma.NONE

    def read(self, cell: str) -> tuple[float, str]:
        """A cell's length in mm, and the text that says so by itself. Raises InputError."""
        text = plain(cell, self.comma)
        if is_bare_number(text):
            if not math.isfinite(float(text)) or abs(float(text)) > MOST:
                raise InputError("this is no length of a boat", value=cell, mend="Type it again.")
            if self.unit in FACTORS:
                return float(text) * FACTORS[self.unit], "" if self.unit == "mm" else f"{text} {self.unit}"
        style = STYLE.get(self.unit, LengthUnit.INCH)
        return parse_length(text, style), with_unit(text, style)

    def maybe(self, cell: str) -> tuple[float, str] | None:
        """As `read`; None for what is no length."""
        try:
            return self.read(cell)
        except InputError:
            return None

    @property
    def said(self) -> Lengths:
        """How answers are read: in the table's unit, their commas being no business of the table's."""
        return Lengths(self.unit)

    def hint(self, mm: float) -> str:
        """A length with its unit, as an answer could be."""
        match self.unit:
            case "m" | "cm":
                return f"{mm / FACTORS[self.unit]:g} {self.unit}"
            case "in" | "ft" | "ft-in" | "fie":
                return f"{mm / 25:g} in"
            case _:
                return f"{mm:g} mm"


def unit_by_form(cells: Iterable[str], comma: Comma) -> str | None:
    """The unit that cells say themselves: all but blanks and zeros are feet-inches-eighths, or each carries its own unit."""
    own = [cell for cell in cells if not is_blank(cell)]
    bare = [cell for cell in own if is_bare_number(plain(cell, comma)) and float(plain(cell, comma)) != 0]
    if own and not bare:
        return "fie" if any(is_eighths(cell) for cell in own) else "in"
    return None

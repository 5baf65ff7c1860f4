"""The grammar of a line of the log: phrases, each with its place in the line, read one after the other.

A phrase is tried at every word; the first that fits takes its words, and what no phrase takes is a word by itself. What phrases
mean together is for `quick.py`.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum, auto
from typing import Any

import parsy

from ..errors import InputError
from .vocabulary import KIN, MONTHS, NUMBERS, RAILS, TIMBER, WEEKDAYS


class Kind(Enum):
    """What a phrase tells."""

    DAY = auto()
    SPAN = auto()
    HOURS = auto()
    EACH = auto()
    PEOPLE = auto()
    MORE = auto()
    NAMES = auto()
    GLUE = auto()
    WARM = auto()
    MIXED = auto()
    USED_UP = auto()
    THINGS = auto()
    COUNTED = auto()
    SIDE = auto()
    SHEETS = auto()
    WOOD = auto()
    METRES = auto()
    DONE = auto()
    STOP = auto()
    FAULT = auto()
    WORD = auto()


@dataclass(frozen=True)
class Phrase:
    """A phrase from one place of the line to another, what it tells, and its value."""

    begin: int
    end: int
    kind: Kind
    value: Any
    text: str


@dataclass(frozen=True)
class Run:
    """Numbers from the first to the last, and the side where it is told with them (`both` is told, too)."""

    first: int
    last: int
    side: str = ""


def _re(pattern: str) -> parsy.Parser:
    return parsy.regex(pattern, flags=re.IGNORECASE)


def _found(pattern: str) -> parsy.Parser:
    """What a pattern fits, as its match."""
    compiled = re.compile(pattern, re.IGNORECASE)

    def read(stream: Any, index: int) -> Any:
        match = compiled.match(stream, index)
        if match is None:
            return parsy.Result.failure(index, pattern)
        return parsy.Result.success(match.end(), match)

    return parsy.Parser(read)


# -- numbers ---------------------------------------------------------------------------------------------------

_PARTS = {"½": 1 / 2, "¼": 1 / 4, "¾": 3 / 4, "⅓": 1 / 3, "⅔": 2 / 3, "⅛": 1 / 8, "⅜": 3 / 8, "⅝": 5 / 8, "⅞": 7 / 8}
_WORDS = "|".join(NUMBERS)
_NUM = (
    rf"(?:\d+\s+\d+/\d+|\d+\s?[{''.join(_PARTS)}]|[{''.join(_PARTS)}]|\d+/\d+|\d+[.,]\d+|\d+"
    rf"|(?:{_WORDS})(?:\s+and\s+a\s+half)?\b|half\s+an?\b|half\b|an?\b|a\s+couple\s+of\b)"
)
_PLAIN = r"\d+(?:[.,]\d+)?"
UNITS = {
    "g": r"g(?:r(?:ams?|ammes?|amm)?|m)?",
    "kg": r"k(?:g|ilos?|ilograms?)",
    "oz": r"oz\.?|ounces?",
    "lb": r"lbs?\.?|pounds?",
    "ml": r"ml|cc|millilit(?:re|er)s?",
    "l": r"l|lit(?:re|er)s?",
    "cup": r"cups?",
    "pump": r"pumps?|squirts?|strokes?",
}
_UNIT = "|".join(f"(?:{own})" for own in UNITS.values())
_COUNTED = (
    rf"(?:{_UNIT}|h|hrs?|hours?|std|stunden|heures?|min(?:ute)?s?|days?|°|deg\w*|[cf]|celsius|fahrenheit|am|pm|uhr|people|persons?|hands|men|"
    r"helpers?|of\s+us|sheets?|m|met(?:re|er)s?|mm|cm|ft|feet|foot|in|inch(?:es)?|yd|yards?|coats?|layers?|mou?lds?|strips?|veneers?|"
    r"frames?|beams?|times|pairs?|hours|rails?|deck)"
)
_NOT_COUNTED = rf"(?![.,]?\d|\s*[/%]|:\d|\s*(?:-|–|—|x|×)\s*\d|\s*\+\s*\d+(?:[.,]\d+)?\s*(?:{_UNIT})(?![a-z])|\s*{_COUNTED}\b)"


class Unclear(ValueError):
    """A number that could be two."""


def number(text: str) -> float:
    """A number as it is written: 2 1/2, 2½, 1,5, half an, two and a half. Raises Unclear for a thousands' sign or a decimal
    sign."""
    own = " ".join(text.lower().split())
    if re.fullmatch(r"[1-9]\d{0,2}[.,]\d{3}", own):
        raise Unclear(f"{text} could be {own.replace(',', '').replace('.', '')} or {number(own[:-1])}: write one of them.")
    said = {"half": 0.5, "half a": 0.5, "half an": 0.5, "a": 1.0, "an": 1.0, "a couple of": 2.0, **NUMBERS}
    if own in said:
        return float(said[own])
    if own.endswith("and a half"):
        return number(own.removesuffix("and a half").strip()) + 0.5
    return _figures(own)


def _figures(text: str) -> float:
    """A number in figures, with a fraction of either kind behind it."""
    if text[-1] in _PARTS:
        return float(text[:-1].strip() or 0) + _PARTS[text[-1]]
    if "/" in text:
        whole, _, part = text.rpartition(" ")
        up, down = part.split("/")
        return float(whole or 0) + float(up) / max(float(down), 1e-9)
    return float(text.replace(",", "."))


def unit_of(text: str) -> str:
    """Which of UNITS a word is."""
    return next(name for name, own in UNITS.items() if re.fullmatch(own, text.strip(), re.IGNORECASE))


# -- when ------------------------------------------------------------------------------------------------------

_MONTH = "(?:" + "|".join(sorted((name for names in MONTHS for name in names), key=len, reverse=True)) + r")(?![a-zäéûô])\.?"
_WEEKDAY = "|".join(name for names in WEEKDAYS for name in names)
_DAYS = _found(
    r"(?:on\s+|am\s+|le\s+)?(?:"
    r"(?P<iso>\d{4}-\d{1,2}-\d{1,2})"
    r"|(?P<dots>\d{1,2}\.\s?\d{1,2}\.(?:\s?\d{4}|\s?\d{2}\b)?)"
    r"|(?P<slashes>\d{1,2}/\d{1,2}/(?:\d{4}|\d{2}\b))"
    rf"|(?P<named>\d{{1,2}}(?:st|nd|rd|th)?\.?\s+(?:of\s+)?{_MONTH}(?![a-z])(?:,?\s+\d{{4}}\b)?)"
    rf"|(?P<months>{_MONTH}\s+\d{{1,2}}(?:st|nd|rd|th)?\b(?!\s*{_COUNTED}\b)(?:,?\s+\d{{4}}\b)?)"
    r"|(?P<word>(?:the\s+day\s+before\s+)?yesterday|today|tonight|last\s+night|heute|gestern|hier|aujourd'hui)\b"
    rf"|(?P<ago>(?:\d+|{_WORDS}|a)\s+(?:days?|weeks?)\s+ago)\b"
    rf"|(?P<weekday>(?:last\s+|this\s+|letzten\s+)?(?:{_WEEKDAY}|(?:mon|tues?|wed|thu(?:rs?)?|fri|sat|sun)(?:\.|\b)))"
    r")(?=\W|$)"
)
_CLOCK = r"(?:noon|midnight|midday|(?:[01]?\d|2[0-4])(?:\s?[:.h]\s?[0-5]\d)?(?:\s?(?:[ap]\.?m\b\.?|h\b|uhr\b|o'clock\b))?)"
_SPAN = _found(
    r"(?!\d{1,2}\s*(?:-|–|—|to\b|bis\b)\s*\d{1,2}(?![\d]|\s?[:.h]|\s?(?:[ap]\.?m\b|uhr\b|o'clock\b)))"
    rf"(?!(?:from\s+)?{_CLOCK}\s*and\b)(?P<from>(?:from|between|von|de)\s+)?(?<![\d/])(?P<begin>{_CLOCK})\s*(?:-|–|—|to|until|till|til|bis|à|(?P<and>and))\s*(?P<end>{_CLOCK})"
    r"(?!\d|[:/]\d|\s*(?:h(?:ou)?rs?|hours?|min)\b)"
)
_SURE = r"(?:noon|midnight|(?:[01]?\d|2[0-4])(?:\s?[:.h]\s?[0-5]\d(?:\s?[ap]\.?m\b\.?)?|\s?[ap]\.?m\b\.?|\s?uhr\b))"
"""A time that can be no number."""
_MIXED = _found(rf"mixed(?:\s+up)?\s+(?:at\s+)?(?P<at>{_SURE})")
_USED_UP = _found(rf"(?:all\s+)?used(?:\s+up)?\s+(?:at\s+|by\s+|until\s+|till\s+)?(?P<at>{_SURE})(?!\d)")


def minute_of(text: str) -> int | None:
    """A clock's time as a minute of the day; 24:00 is the end of the day. None: no such time."""
    own = text.lower().replace(" ", "")
    if own in ("noon", "midday"):
        return 12 * 60
    if own == "midnight":
        return 24 * 60
    found = re.match(r"(\d{1,2})(?:[:.h](\d\d))?(am|pm|a\.m\.?|p\.m\.?|h|uhr|o'clock)?", own)
    if found is None:
        return None
    hour, minute, half = int(found[1]), int(found[2] or 0), (found[3] or "")[:1]
    if half in ("a", "p"):
        if not 1 <= hour <= 12:
            return None
        hour = hour % 12 + (12 if half == "p" else 0)
    return hour * 60 + minute if hour * 60 + minute <= 24 * 60 else None


def is_clock(text: str) -> bool:
    """Whether a time is plainly one, and no number."""
    return re.fullmatch(r"\d{1,2}", text.strip()) is None


_HOURS = _found(
    rf"(?:(?:for|about|ca\.?|~)\s*)?(?:(?P<quarter>(?:a|three)\s+quarters?\s+of\s+an\s+hour)\b|(?P<anhalf>an\s+hour\s+and\s+a\s+half)\b"
    rf"|(?P<n>{_NUM})\s*-?\s*(?:hours?|hrs?\.?|h|std\.?|stunden?|heures?)(?![a-z])"
    r"(?:(?P<close>\d{1,2})(?:\s?m(?:in(?:ute)?s?)?)?(?![\w/]|[.,]\d)|\s+(?:and\s+)?(?P<min>\d{1,2})\s*min(?:ute)?s?\b|\s+(?P<two>\d\d)(?=\s*(?:$|[,;.])))?"
    rf"|(?P<minutes>{_NUM})\s*-?\s*min(?:ute)?[sn]?\b"
    r"|(?P<clock>[0-9]:[0-5]\d)(?![\d:]|\s*(?:-|–|to\b|until\b|am\b|pm\b|uhr\b)))"
)
_BARE_CLOCK = _found(rf"(?:at|since|around|before|after|by)\s+{_CLOCK}(?![\w:/]|[.,]\d)")


def hours_of(match: re.Match[str]) -> float:
    """How many hours a phrase tells. Raises Unclear."""
    if match["quarter"]:
        return 0.25 if match["quarter"].lower().startswith("a") else 0.75
    if match["anhalf"]:
        return 1.5
    if match["minutes"]:
        return number(match["minutes"]) / 60
    if match["clock"]:
        hour, minute = match["clock"].split(":")
        return int(hour) + int(minute) / 60
    return number(match["n"]) + int(match["close"] or match["min"] or match["two"] or 0) / 60


def hours_typed(text: str) -> float:
    """Hours in a field for nothing else: 2.5, 2,5, 2 1/2, 2½, 2:30, 1h30, 90 min. Raises InputError."""
    own = text.strip()
    for told in (own, f"{own} h"):
        try:
            return hours_of(_HOURS.parse(told))
        except (parsy.ParseError, Unclear, ValueError):
            continue
    raise InputError("this cannot be read as hours", value=text, mend="Write for example 2.5, 2 1/2 or 2:30.")


# -- who -------------------------------------------------------------------------------------------------------

_COUNT = rf"(?:\d{{1,3}}|{_WORDS})"
_PEOPLE = _found(
    rf"(?:(?:the\s+|all\s+)?(?P<n>{_COUNT}|both)\s+(?:of\s+us|people|persons?|pers\.?|hands|men|women)\b"
    r"|(?P<one>alone|by\s+myself|on\s+my\s+own|solo|just\s+me)\b)"
)
_WITH = _found(rf"(?:with|und|avec)\s+(?:(?P<n>{_COUNT}|a|my|our|his|her|the)\s+)(?P<kin>(?:{'|'.join(KIN)})s?)\b")
_NAME = r"(?-i:[A-ZÄÖÜÉÈ][\w'’-]*[a-zäöüéè])"
_WITH_NAMES = _found(rf"with\s+(?P<names>{_NAME}(?:\s*(?:,\s*and\s|,|\band\b|&|\+)\s*{_NAME})*)")
_PAIR = _found(
    rf"(?P<names>{_NAME}(?:\s*,\s*{_NAME})*\s*(?:and|&|\+)\s*{_NAME})(?=\s|[,;:.]|$)(?:(?P<me>\s*(?:,\s*)?(?:and|&|\+)\s+(?:I|me|myself))\b)?"
)
_AND_ME = _found(
    rf"(?:(?P<first>{_NAME})\s+(?:and|&|\+)\s+(?:I|me|myself)|(?:I|me)\s+(?:and|&|\+)\s+(?P<second>{_NAME}))(?=\s|[,;:.]|$)"
)
_OWN_HOURS = _found(rf"(?P<name>{_NAME}|(?-i:I)|me)(?!\w)\s*:?\s*(?={_NUM}\s*-?\s*(?:h(?!a)|min))")


def count_of(text: str) -> int:
    """How many people a word says."""
    own = text.lower()
    return 2 if own == "both" else NUMBERS.get(own) or int(own)


# -- with what -------------------------------------------------------------------------------------------------

_GLUE_WORDS = r"(?:glue|epoxy|resin|goop|adhesive|thickened\s+epoxy|mix|batch)"
_ONE = rf"(?P<a>{_NUM})\s*(?P<u>{_UNIT})(?![a-z])"
_TWO_PARTS = _found(
    rf"(?P<a>{_PLAIN})\s*(?P<ua>{_UNIT})?(?:\s+(?:of\s+)?resin\s*(?:\+|/|and\b|,)|\s*(?P<slash>\+|/))\s*(?P<b>{_PLAIN})\s*(?P<u>{_UNIT})(?![a-z])"
    rf"(?P<hard>\s+(?:of\s+)?hardener)?(?:\s+(?:of\s+)?{_GLUE_WORDS}\b)?"
)
_GLUE = _found(
    rf"(?:(?:used|about|ca\.?)\s+)?(?:(?P<times>{_COUNT})\s*(?:x|×|times|batch(?:es)?\s+of)\s*)?{_ONE}(?:\s+(?:of\s+)?(?:(?:mixed|slow|fast|thickened|white|two-part)\s+)?(?P<what>{_GLUE_WORDS}|hardener)\b)?"
)
_WARM = _found(
    r"(?:(?:at|@|bei|à)\s+)?(?P<n>(?:minus\s+|[-−+])?\d+(?:[.,]\d+)?)\s*"
    r"(?:°\s*(?P<u>[CF])?|deg(?:rees?)?\.?\s*(?P<v>[CF]\b|celsius|fahrenheit)?|(?P<w>[CF]|celsius|fahrenheit)(?![a-z]))(?![a-z])"
)

# -- what was it done to ---------------------------------------------------------------------------------------

_NOUNS = {
    "deck strips": r"deck[\s-]+strips?",
    "strips": r"strips?|planks|strakes",
    "veneers": r"veneers?",
    "molds": r"mou?lds?",
    "frames": r"frames?",
    "stations": r"stations?",
    "beams": r"(?:deck\s+)?beams?",
    "ribbands": r"ribbands?",
    "sheets": r"sheets?",
    "batches": r"batch(?:es)?",
}
_NOUN = "|".join(f"(?:{own})" for own in _NOUNS.values())
_SIDES = (
    r"(?:both\s+sides|each\s+side|port\s+(?:and|&|\+)\s+starboard|starboard\s+(?:and|&|\+)\s+port|p\s?&\s?s"
    r"|port|starboard|stbd\.?|stb\.?)(?![a-z])"
)
_TO = r"(?:-|–|—|to|through|thru|bis|\.\.)"
_RUN = rf"#?(?P<first>\d{{1,4}})(?![.,:/]?\d)(?:\s*{_TO}\s*#?(?P<last>\d{{1,4}})(?![.,:/]?\d))?{_NOT_COUNTED}"
_SIDE = _found(rf"(?:(?:on|to|at)\s+(?:the\s+)?)?(?P<side>{_SIDES})(?:\s+side)?")
_SEPARATOR = _re(r"\s*(?:,\s*(?:and|und|et)\b|,|and\b|und\b|&|\+|/)\s*")
_SPACE = _re(r"\s*")


def side_of(text: str) -> str:
    """Which side a word names: port, starboard or both."""
    own = " ".join(text.lower().split())
    if re.match(r"both|each|p\s?&|port\s+\S+\s+starboard|starboard\s+\S+\s+port", own):
        return "both"
    return "port" if own.startswith("p") else "starboard"


def noun_of(text: str) -> str:
    """Which of the things that have numbers a word is."""
    return next(name for name, own in _NOUNS.items() if re.fullmatch(own, text.strip(), re.IGNORECASE))


_OWN_SIDE = (_SPACE >> (_SIDE.map(lambda match: side_of(match["side"])) | _re(r"[ps]\b(?!\s?[&.])").map(side_of))).optional("")
_NUMBERED = parsy.seq(_found(_RUN), _OWN_SIDE).combine(
    lambda match, side: Run(int(match["first"]), int(match["last"] or match["first"]), side)
)
_LIST = _NUMBERED.sep_by(_SEPARATOR, min=1).map(tuple)
_SIDE_FIRST = parsy.seq(_SIDE.map(lambda match: side_of(match["side"])) << _re(r"\s*:?\s*"), _found(_RUN)).combine(
    lambda side, match: Run(int(match["first"]), int(match["last"] or match["first"]), side)
)
_BY_SIDE = _SIDE_FIRST.sep_by(_re(r"\s*(?:,\s*(?:and\b)?|;|and\b|&)\s*"), min=1).map(tuple)
_THINGS = parsy.seq(
    _found(rf"(?P<noun>{_NOUN})(?![a-z])\s*(?:nos?\.|numbers?|no\b|nr\.?|:)?\s*").map(lambda match: noun_of(match["noun"])),
    _BY_SIDE | _LIST,
)
_COUNTED_THINGS = _found(rf"(?P<n>{_COUNT}|half)\s+(?:more\s+|new\s+|full\s+)?(?P<noun>{_NOUN})(?![a-z])(?!\s*#?\d+\s*(?:{_TO}|,))")
_SHEETS = _found(rf"(?P<n>{_NUM})\s*sheets?\b")
_LENGTH = rf"(?P<n>{_NUM})\s*(?P<u>m|met(?:re|er)s?|ft|feet|foot|yd|yards?)(?![a-z²³])"
_WOOD = _found(
    rf"(?:used\s+(?:up\s+)?)?{_LENGTH}\s+(?:of\s+)?(?P<wood>(?:[a-z][a-z-]*\s+){{0,2}}?(?:{'|'.join(TIMBER)}))\b(?!\s+(?:{'|'.join(RAILS)})\b)"
)
_METRES = _found(_LENGTH)
_DONE = _found(r"(?:(?:is|are|was|were|all)\s+)*(?:done|finished|completed?|fertig|fini)\b")


def day_told(text: str) -> dict[str, str | None] | None:
    """A text that is a day and nothing else, by its named parts; None where it is none."""
    try:
        told: dict[str, str | None] = _DAYS.parse(text).groupdict()
    except parsy.ParseError:
        return None
    return told


# -- the line --------------------------------------------------------------------------------------------------

_STOP = _re(r"[;.,:!?()\[\]\"“”]+|(?:-|–|—)(?=\s|$)|\bthen\b")
_WORD = _re(r"[^\W\d_][\w'’/-]*|\d[\w.,:/–-]*\w|\S")


def _as(kind: Kind, parser: parsy.Parser) -> parsy.Parser:
    return parser.map(lambda value: (kind, value))


_UNSURE = _found(
    r"\d+(?:[.,]\d+)?\s*(?:-|–|to|or)\s*\d+(?:[.,]\d+)?\s*(?:hours?|hrs?|h|std|min(?:ute)?s?)\b|(?:an?|one)\s+hour\s+or\s+(?:two|three)\b"
)
_PHRASE = parsy.alt(
    _as(Kind.FAULT, _UNSURE),
    _as(Kind.MIXED, _MIXED),
    _as(Kind.USED_UP, _USED_UP),
    _as(Kind.THINGS, _THINGS),
    _as(Kind.WOOD, _WOOD),
    _as(Kind.DAY, _DAYS),
    _as(Kind.PEOPLE, _PEOPLE),
    _as(Kind.MORE, _WITH),
    _as(Kind.NAMES, _WITH_NAMES),
    _as(Kind.NAMES, _AND_ME),
    _as(Kind.NAMES, _PAIR),
    _as(Kind.EACH, _OWN_HOURS),
    _as(Kind.SPAN, _SPAN),
    _as(Kind.HOURS, _HOURS),
    _as(Kind.WARM, _WARM),
    _as(Kind.GLUE, _TWO_PARTS),
    _as(Kind.GLUE, _GLUE),
    _as(Kind.SHEETS, _SHEETS),
    _as(Kind.METRES, _METRES),
    _as(Kind.COUNTED, _COUNTED_THINGS),
    _as(Kind.THINGS, parsy.seq(parsy.success(""), _BY_SIDE)),
    _as(Kind.SIDE, _SIDE),
    _as(Kind.DONE, _DONE),
    _as(Kind.WORD, _BARE_CLOCK),
    _as(Kind.THINGS, parsy.seq(parsy.success(""), _LIST)),
    _as(Kind.STOP, _STOP),
    _as(Kind.WORD, _WORD),
)
_LINE = _re(r"\s*") >> (parsy.seq(parsy.index, _PHRASE, parsy.index) << _re(r"\s*")).many()


def phrases(line: str) -> list[Phrase]:
    """A line as its phrases, in their order; every word of it is in one."""
    return [Phrase(begin, end, kind, value, line[begin:end]) for begin, (kind, value), end in _LINE.parse(line)]

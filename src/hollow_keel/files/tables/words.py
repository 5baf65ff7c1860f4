"""The words that tables of offsets are headed by, in full and short."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from ...core.offsets.table import LABEL_WORDS


class Meaning(StrEnum):
    """What a column of a table by points holds."""

    STATION = "station"
    LABEL = "point"
    HALF_BREADTH = "half-breadth"
    HEIGHT = "height"
    UNUSED = "not used"


class Line(StrEnum):
    """What a row of a table by lines is."""

    KEEL = "keel"
    SHEER = "sheer"
    CHINE = "chine"
    WATERLINE = "wl"
    BUTTOCK = "buttock"
    DIAGONAL = "diagonal"
    POSITION = "position"
    STEM_BOW = "stem_bow"
    STEM_STERN = "stem_stern"
    TRANSOM = "transom"
    SIDING = "half-siding"
    DECK = "deck"


ENDS = (Line.STEM_BOW, Line.STEM_STERN, Line.TRANSOM)
PLANES = (Line.WATERLINE, Line.BUTTOCK, Line.DIAGONAL)


@dataclass(frozen=True)
class Named:
    """A row's name: the line, `level` as it is written (a length, or only a name), a diagonal's angle in degrees, and whether
    heights or half-breadths are given where the name says so. `load` tells the load waterline."""

    line: Line
    level: str = ""
    angle: str = ""
    field: str = ""
    load: bool = False

    @property
    def key(self) -> str:
        """The level, or what stands for it."""
        return self.level or ("load waterline" if self.load else "")


_HEIGHT = re.compile(
    r"\b(?:heights?|hts?|hgts?|elev(?:ation)?s?|above (?:the )?(?:base ?line|base|b\.?l\.?|dwl|lwl|wl)|abl)\b\.?", re.IGNORECASE
)
_BREADTH = re.compile(
    r"(?:\bhalf|\u00bd|1/2)[-_ ]*bread?ths?\b|\bhalf[-_ ]*beams?\b|\bh\.? ?[./]? ?b\.?(?=$|[\s)(])|\bbread?ths?\b|\bwidths?\b"
    r"|\bfrom (?:the )?(?:cl|centre ?line|center ?line)\b",
    re.IGNORECASE,
)
_DIAGONALS = re.compile(r"^(?:the )?diag(?:onal)?s?\.?\s*(?:\(.*|in .*|dist.*|from .*)?$", re.IGNORECASE)
_STATION = re.compile(
    r"^(?:stations?|stas?|stns?|st|frames?|molds?|moulds?|sections?|ordinates?|x|pos(?:ition)?s?|dist(?:ance)?s?|longitudinal)\b",
    re.IGNORECASE,
)
_LABEL = re.compile(r"^(?:label|point|pt|line|what|edge|type|name|description|remark|note)s?\b", re.IGNORECASE)
_POSITION = re.compile(r"^(?:pos(?:ition)?|dist(?:ance)?|station pos|from (?:bow|fp|zero|stern|stem)|x)\b", re.IGNORECASE)
_EDGES = (
    (Line.SIDING, r"half[- ]?siding(?: of (?:the )?stems?)?|siding"),
    (Line.STEM_STERN, r"stem[ _]stern|stern ?post|stern[ _]stem"),
    (Line.STEM_BOW, r"stem[ _]bow|bow[ _]stem|stem(?: profile)?"),
    (Line.TRANSOM, r"transom"),
    (Line.SHEER, r"sheer|shear|gunwale|gunnel|deck(?: edge| at side| line)?|rail"),
    (Line.CHINE, r"(?:upper |lower |main )?(?:chine|knuckle)"),
    (Line.KEEL, r"keel|rabbet|rebate|fair ?body|profile|bottom|hog|centre ?line|center ?line|c\.?l\.?"),
)
_NUMBERED = r"\s*(?:no\.?|nr\.?|number|#|@|at|=|:|-)?\s*(?P<level>.*)$"
_LOAD = re.compile(
    r"^(?:[dlc]\.? ?w\.? ?l\.?|load ?(?:water)? ?line|design(?:ed)? ?water ?line)(?:\s*\(?wl\)?)?" + _NUMBERED, re.IGNORECASE
)
_PLANE = (
    (Line.WATERLINE, re.compile(r"^(?:w\.? ?l\.?|water ?lines?|w/l)" + _NUMBERED, re.IGNORECASE)),
    (
        Line.BUTTOCK,
        re.compile(r"^(?:buttocks?|butts?\.?|but\.?|btk\.?|b\.?(?=\s*[-#]?\s*(?:\d|[ivx]+$|[a-e]$)))" + _NUMBERED, re.IGNORECASE),
    ),
    (
        Line.DIAGONAL,
        re.compile(r"^(?:diagonals?|diag\.?|dia\.?|d\.?(?=\s*[-#]?\s*(?:\d|[ivx]+$|[a-e]$)))" + _NUMBERED, re.IGNORECASE),
    ),
)
_BEHIND = re.compile(
    r"^(?P<level>[\d' \"/.,\-½¼¾⅛⅜⅝⅞+]+(?:mm|cm|m|in|ft)?)\s*"
    r"(?P<word>w\.? ?l\.?|water ?line|butt(?:ock)?|diag(?:onal)?)\.?$",
    re.IGNORECASE,
)
_ANGLE = re.compile(r"\s*(?:@|at|,|;)?\s*(?P<angle>\d+(?:[.,]\d+)?)\s*(?:\u00b0|deg(?:rees)?)\s*$", re.IGNORECASE)
_AT = re.compile(r"\s*@\s*(?P<angle>\d+(?:[.,]\d+)?)\s*$")


def meaning_of(cell: str) -> Meaning | None:
    """What a column's heading says that it holds."""
    text = cell.replace("_", " ").strip()
    if not text:
        return None
    if _BREADTH.search(text) or re.match(r"^(?:y|offsets?)\b(?!.*\d)", text, re.IGNORECASE):
        return Meaning.HALF_BREADTH
    if _HEIGHT.search(text) or re.match(r"^[zh]\b(?!.*\d)", text, re.IGNORECASE):
        return Meaning.HEIGHT
    if _LABEL.match(text):
        return Meaning.LABEL
    if _STATION.match(text):
        return Meaning.STATION
    return None


def section_of(cell: str) -> str:
    """What the rows below are, where a row says just that: height, half-breadth, diagonal or nothing."""
    text = cell.replace("_", " ").strip()
    if _DIAGONALS.match(text):
        return "diagonal"
    if re.match(r"^(?:the |table of )?(?:half|½|1/2|bread|widths?|h\.?[./]?b)", text, re.IGNORECASE) and _BREADTH.search(text):
        return "half-breadth"
    if re.match(r"^(?:the |table of )?(?:heights?|hts?|elev)", text, re.IGNORECASE):
        return "height"
    return ""


def is_station_word(cell: str) -> bool:
    """Whether a cell heads stations."""
    return _STATION.match(cell.replace("_", " ").strip()) is not None


def line_of(cell: str, section: str = "") -> Named | None:
    """The line that a row's name says, under a section's heading; None where it says none."""
    text = " ".join(cell.replace("_", " ").split())
    if not text:
        return None
    if _POSITION.match(text):
        return Named(Line.POSITION)
    end = _end_of(text) or _deck_of(text)
    if end is not None:
        return end
    field = "half-breadth" if _BREADTH.search(text) else "height" if _HEIGHT.search(text) else ""
    bare = re.sub(r"^(?:of|the|to|at)\s+", "", " ".join(_HEIGHT.sub(" ", _BREADTH.sub(" ", text)).split()).strip(" .,;:()-"))
    for line, words in _EDGES:
        match = re.match(rf"^(?:{words})\b\.?\s*(?P<rest>.*)$", bare, re.IGNORECASE)
        if match and not re.match(r"^[a-z]{4,}", match["rest"], re.IGNORECASE):
            number = re.search(r"\d+", match["rest"])
            which = "2" if line is Line.CHINE and "upper" in bare.lower() else number[0] if number else ""
            return Named(line, which if line is Line.CHINE else "", field=field)
    return _plane(bare, section)


_END_FIELD = re.compile(
    r"[ _,]+(?:at[ _]+)?(?P<what>positions?|pos\.?|stations?|x|heights?|hts?\.?|half[- _]?breadths?|hb)\s*$", re.IGNORECASE
)


def _end_of(text: str) -> Named | None:
    """A row of an end's profile by its name: the stem's or the transom's positions, heights or half-breadths, a point a column."""
    match = _END_FIELD.search(text)
    if match is None:
        return None
    name = text[: match.start()].strip().lower()
    what = match["what"].lower()
    field = "height" if what.startswith(("height", "ht")) else "half-breadth" if what.startswith(("half", "hb")) else "position"
    at_bow = re.search(r"\bbow\b", name) is not None
    if name.startswith("transom") or name.endswith("transom"):
        return Named(Line.TRANSOM, "bow" if at_bow else "", field=field)
    if re.fullmatch(r"(?:bow )?stem(?: bow| profile)?|bow", name):
        return Named(Line.STEM_BOW, field=field)
    if re.fullmatch(r"(?:stern )?stem(?: stern)?|stern ?post", name):
        return Named(Line.STEM_STERN, field=field)
    return None


_DECK = re.compile(
    r"^deck[ _,]+(?:heights?[ _]+)?(?:at[ _]+)?(?:"
    r"(?P<centre>cent(?:re|er)(?:[ _]?line)?|c\.?l\.?)|(?P<chine>chine|knuckle)|b(?:utt(?:ock)?s?)?[ .]*(?P<level>\d.*?))"
    r"(?P<rest>.*)$",
    re.IGNORECASE,
)


def _deck_of(text: str) -> Named | None:
    """A row of the deck past its edge: heights at the centreline (level 0) or on a buttock, or an offset of its chine."""
    match = _DECK.match(text)
    if match is None:
        return None
    field = "half-breadth" if _BREADTH.search(match["rest"]) else "height"
    if match["chine"]:
        return Named(Line.DECK, "chine", field=field)
    level = "0" if match["centre"] else _HEIGHT.sub(" ", match["level"] + match["rest"]).strip(" ,:")
    return Named(Line.DECK, level, field="height")


def _plane(bare: str, section: str) -> Named | None:
    load = _LOAD.match(bare)
    if load:
        level = load["level"].strip(" ()")
        return Named(Line.WATERLINE, level if re.search(r"\d", level) else "", load=True)
    behind = _BEHIND.match(bare)
    if behind:
        line = {"w": Line.WATERLINE, "b": Line.BUTTOCK, "d": Line.DIAGONAL}[behind["word"][0].lower()]
        return Named(line, behind["level"].strip())
    for line, pattern in _PLANE:
        match = pattern.match(bare)
        if match:
            level = match["level"].strip(" ()")
            if line is not Line.DIAGONAL:
                return Named(line, level) if level else None
            angle = _AT.search(level) or _ANGLE.search(level)
            if angle:
                level = level[: angle.start()].strip(" @,;")
            return Named(line, level, angle["angle"].replace(",", ".") if angle else "")
    if section and re.match(r"^[\d'\"/., \-½¼¾⅛⅜⅝⅞+]+(?:mm|cm|m|in|ft)?$", bare):
        plane = {"height": Line.BUTTOCK, "half-breadth": Line.WATERLINE, "diagonal": Line.DIAGONAL}[section]
        return Named(plane, bare)
    return None


_LABELS = (
    ("stem_bow_chine", r"stem[ _]bow[ _]chine"),
    ("stem_stern_chine", r"stem[ _]stern[ _]chine"),
    ("transom_chine", r"transom[ _]chine"),
    ("deck_chine", r"deck[ _](?:chine|knuckle)"),
    ("deck_centre", r"deck[ _](?:at )?(?:cent(?:re|er)(?:[ _]?line)?|c\.?l\.?)|crown|ridge"),
    ("stem_bow", r"stem[ _]bow|bow[ _]stem|bow|stem"),
    ("stem_stern", r"stem[ _]stern|stern[ _]?post|stern[ _]stem"),
    ("transom", r"transom"),
    ("sheer", r"sheer|shear|gunwale|gunnel|deck(?: edge| at side)?|s"),
    ("chine", r"(?:upper |lower )?(?:chine|knuckle)(?: \d)?|ch\.?"),
    ("keel", r"keel|rabbet|fair ?body|k|centre ?line|center ?line|c\.?l\.?|bottom"),
    ("wl", r"(?:wl|w\.l|water ?line|[dl]\.?w\.?l|butt|diag).*|[bd][ .]*\d+.*|point|pt|"),
)


def label_of(cell: str) -> str:
    """The label of a point as it is named in a table, or as we show it; empty where the name says nothing."""
    shown = " ".join(cell.lower().split())
    for label, words in LABEL_WORDS.items():
        if shown == words:
            return label
    text = " ".join(cell.lower().split())
    for label, words in _LABELS:
        if re.fullmatch(words, text):
            return label
    return ""


_LONG = r"\d[\d'\"\s./,½¼¾⅛⅜⅝⅞-]*(?:mm|cm|m|in|ft|inches|feet)?"
_SPACING = re.compile(
    r"\b(?:stations?|sta|stns?|molds?|frames?)[ -]*(?:spacing|spaced|apart|interval|every|at)\b[^\d]{0,16}"
    rf"(?P<length>{_LONG})|\bspac(?:ing|ed)\b[^\d]{{0,24}}(?P<other>{_LONG})",
    re.IGNORECASE,
)


def spacing_in(text: str) -> str:
    """The spacing of stations that a title tells; empty where it tells none."""
    match = _SPACING.search(text)
    return (match["length"] or match["other"]).strip(" .,") if match else ""

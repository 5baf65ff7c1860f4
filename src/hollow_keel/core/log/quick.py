"""A line typed in haste, read as an entry: `2h planking strips 21-24 port, 250 g at 14 C, two of us`.

Words may stand in any order; what is not understood is kept as it was typed, in the entry's own words. What cannot be is said with
its place, and nothing is kept until it is mended.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from ..settings.log_entry import Batch, Entry, Task, Told
from ..settings.readings import Side
from ..settings.woods import WOODS

DAY_MINUTES = 24 * 60
MOST_HOURS, MOST_LETTERS = 24.0, 4000
WORDS = {
    Task.MOLDS: ("molds?", "moulds?"),
    Task.SETTING_UP: ("setting[ -]?up", "set[ -]?up", "strongback"),
    Task.PLANKING: ("planking", "planked", "strips?"),
    Task.VENEERS: ("veneers?", "cold[ -]?molding"),
    Task.FAIRING: ("fairing", "sanding", "planing", "longboard"),
    Task.GLASSING: ("glassing", "glass", "cloth", "coats?"),
    Task.TURNING: ("turning(?: over)?", "turned(?: over)?", "lifting"),
    Task.SHEER: ("sheer", "rails?", "inwales?", "outwales?", "gunwales?", "beams?"),
    Task.DECK: ("deck",),
}
TIMBER = (
    "wood", "timber", "stock", "strips", "cedar", "fir", "larch", "mahogany", "oak", "ash", "ply",
    *sorted({name.split()[-1].lower() for name in WOODS}),
)  # fmt: skip
"""Words for what strips are sawn from: so many metres of it were used up."""
NUMBERS = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8}
WEEKDAYS = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
NUMBER = r"\d+(?:[.,]\d+)?"
CLOCK = r"([01]?\d|2[0-3])[:.h]([0-5]\d)"


@dataclass(frozen=True)
class Understood:
    """A part of the line, from one place to another, and what it was taken for."""

    begin: int
    end: int
    meaning: str


@dataclass(frozen=True)
class Quick:
    """What a line came to: the entry (None where something in it cannot be), what was understood, what cannot be, in words, and
    whether the line tells its day."""

    entry: Entry | None
    parts: tuple[Understood, ...]
    faults: tuple[str, ...]
    dated: bool = False


@dataclass
class _Reading:
    """A line as it is being read: what was taken out of it leaves blanks, so that places stay."""

    line: str
    today: date
    rest: str = ""
    values: dict[str, Any] = field(default_factory=dict)
    parts: list[Understood] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)

    def take(self, pattern: str, use: Callable[[re.Match[str]], str], *, keep: bool = False) -> None:
        """Take out all places that a pattern fits (`keep`: look at the first, and leave it in): `use` says what each means, or
        nothing where it is not what was looked for."""
        for match in list(re.finditer(pattern, self.rest, re.IGNORECASE)):
            meaning = use(match)
            if not meaning:
                continue
            self.parts.append(Understood(match.start(), match.end(), meaning))
            if keep:
                return
            self.rest = self.rest[: match.start()] + " " * len(match[0]) + self.rest[match.end() :]


def read_line(line: str, today: date) -> Quick:
    """Read a line. Nothing in it raises."""
    reading = _Reading(line, today, line)
    _day(reading)
    _told(reading)
    _glue(reading)
    _times(reading)
    _people(reading)
    _numbered(reading)
    _task(reading)
    return _finished(reading)


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _day(reading: _Reading) -> None:
    today = reading.today

    def iso(match: re.Match[str]) -> str:
        try:
            day = date(int(match[1]), int(match[2]), int(match[3]))
        except ValueError:
            reading.faults.append(f"There is no day {match[0].strip()}.")
            return "no such day"
        reading.values["day"] = day
        return f"on {day.isoformat()}"

    def word(match: re.Match[str]) -> str:
        name = match[1].lower()
        back = {"today": 0, "yesterday": 1}.get(name)
        if back is None:
            back = (today.weekday() - WEEKDAYS.index(name)) % 7
        reading.values["day"] = today - timedelta(days=back)
        return f"on {reading.values['day'].isoformat()}"

    reading.take(r"\b(?:on\s+)?(\d{4})-(\d{1,2})-(\d{1,2})\b", iso)
    reading.take(rf"\b(?:on\s+)?(today|yesterday|{'|'.join(WEEKDAYS)})\b", word)
    day = reading.values.get("day", today)
    if day > today:
        reading.faults.append(f"{day.isoformat()} is still to come.")


def _told(reading: _Reading) -> None:
    def kind(match: re.Match[str]) -> str:
        reading.values["told"] = Told(match[1].lower())
        return match[1].lower()

    reading.take(r"^\s*(mistake|setting|decision)\s*[:,]", kind)

    def mend(match: re.Match[str]) -> str:
        reading.values["mend"] = match[2].strip()
        return f"mend: {match[2].strip()}"

    if reading.values.get("told"):
        plain = re.sub(r"^\s*\w+\s*[:,]\s*", "", reading.line)
        reading.values["what"] = re.split(r"[;,]?\s*\b(?:mend|because|reason)\b", plain, flags=re.IGNORECASE)[
            0
        ].strip()
        reading.take(r"[;,]?\s*\b(mend|because|reason)\s*:?\s+(.+)$", mend)


def _glue(reading: _Reading) -> None:
    batches: list[dict[str, Any]] = []

    def grams(match: re.Match[str]) -> str:
        batches.append({"resin": _number(match[1]), "hardener": _number(match[2]) if match[2] else 0.0})
        return f"{match[1]}{' + ' + match[2] if match[2] else ''} g of glue"

    def degrees(match: re.Match[str]) -> str:
        value = _number(match[1])
        celsius = value if match[2].upper() == "C" else (value - 32.0) / 1.8
        if not -20 <= celsius <= 60:
            reading.faults.append(f"{match[0].strip()} is no temperature of a shed.")
        else:
            reading.values["_temperature"] = round(celsius, 1)
        return f"at {celsius:.0f} °C"

    def when(name: str) -> Callable[[re.Match[str]], str]:
        def told(match: re.Match[str]) -> str:
            reading.values[f"_{name}"] = int(match[1]) * 60 + int(match[2])
            return f"{name.replace('_', ' ')} at {match[1]}:{match[2]}"

        return told

    reading.take(rf"\bmixed\s+(?:at\s+)?{CLOCK}", when("mixed"))
    reading.take(rf"\bused(?:\s+up)?\s+(?:at\s+)?{CLOCK}", when("used_up"))
    reading.take(
        rf"({NUMBER})\s*(?:g\s*)?(?:\+\s*({NUMBER})\s*)?g(?:rams?)?\b(?:\s+of)?(?:\s+(?:glue|epoxy|resin))?",
        grams,
    )
    reading.take(rf"\b(?:at\s+)?(-?{NUMBER})\s*(?:°|deg(?:rees)?)?\s*([CF])\b", degrees)
    own = {
        key.removeprefix("_"): reading.values.pop(key)
        for key in ("_temperature", "_mixed", "_used_up")
        if key in reading.values
    }
    if batches:
        try:
            reading.values["batches"] = tuple(Batch(**batch, **own) for batch in batches)
        except ValueError:  # a limit of a field
            reading.faults.append(f"{batches[0]['resin']:g} g of glue are no batch: grams are meant.")
    elif own and set(own) != {"temperature"}:
        reading.faults.append("When glue was mixed is told, but not how much: say so many g.")


def _times(reading: _Reading) -> None:
    hours: list[float] = []

    def span(match: re.Match[str]) -> str:
        begin, end = int(match[1]) * 60 + int(match[2]), int(match[3]) * 60 + int(match[4])
        if end <= begin:
            reading.faults.append(
                f"It ends at {match[3]}:{match[4]}, before it begins: put a late night on two days."
            )
            return "times the wrong way round"
        reading.values["begin"], reading.values["end"] = begin, end
        hours.append((end - begin) / 60.0)
        return f"from {match[1]}:{match[2]} to {match[3]}:{match[4]}"

    def whole(match: re.Match[str]) -> str:
        hours.append(_number(match[1]) + (int(match[2]) / 60.0 if match[2] else 0.0))
        return f"{hours[-1]:g} hours"

    def minutes(match: re.Match[str]) -> str:
        hours.append(_number(match[1]) / 60.0)
        return f"{match[1]} minutes"

    reading.take(rf"\b(?:from\s+)?{CLOCK}\s*(?:-|–|to|until)\s*{CLOCK}\b", span)
    reading.take(rf"({NUMBER})\s*h(?:(?:ours?|rs?)\b|\s?(\d{{2}})\b|\b)", whole)
    reading.take(rf"({NUMBER})\s*min(?:utes?|s)?\b", minutes)
    if len(hours) > 1:
        reading.faults.append("Hours are told twice: keep one of them.")
    elif hours and not 0 < hours[0] <= MOST_HOURS:
        reading.faults.append(f"{hours[0]:g} hours are no day's work.")
    elif hours:
        reading.values["hours"] = hours[0]


def _people(reading: _Reading) -> None:
    def count(match: re.Match[str]) -> str:
        word = match[1].lower()
        number = NUMBERS.get(word) or int(word)
        if not 1 <= number <= 99:
            reading.faults.append(f"{number} people are too many, or none.")
            return "people"
        reading.values["people"] = number
        return f"{number} people"

    def named(match: re.Match[str]) -> str:
        names = tuple(name.strip() for name in re.split(r",|\band\b|&", match[1]) if name.strip())
        reading.values["names"] = names
        reading.values.setdefault("people", len(names) + 1)
        return f"with {', '.join(names)}"

    words = "|".join(NUMBERS)
    reading.take(rf"\b(?:the\s+)?(\d{{1,3}}|{words})\s+(?:of\s+us|people|persons|hands)\b", count)
    reading.take(r"\b[Ww]ith\s+((?-i:[A-Z])\w+(?:\s*(?:,|and|&)\s*(?-i:[A-Z])\w+)*)", named)


def _numbered(reading: _Reading) -> None:
    def pair(name: str, task: Task) -> Callable[[re.Match[str]], str]:
        def told(match: re.Match[str]) -> str:
            first, last = int(match[1]), int(match[2] or match[1])
            if first > last or not first >= 1 or last > 5000:
                reading.faults.append(f"{match[0].strip()} are no numbers of {name}.")
                return name
            reading.values[name] = (first, last)
            reading.values.setdefault("_task", task)
            return f"{name} {first} to {last}" if last > first else f"{name.removesuffix('s')} {first}"

        return told

    def molds(match: re.Match[str]) -> str:
        names: list[str] = []
        for part in re.split(r",|\band\b|&", match[1]):
            first, _, last = part.strip().partition("-")
            if first.isdigit() and last.strip().isdigit() and 0 <= int(last) - int(first) < 500:
                names += [str(k) for k in range(int(first), int(last) + 1)]
            elif part.strip():
                names.append(part.strip())
        reading.values["molds"] = tuple(names)
        reading.values.setdefault("_task", Task.MOLDS)
        return f"molds {', '.join(names)}"

    def amount(name: str, words: str) -> Callable[[re.Match[str]], str]:
        def told(match: re.Match[str]) -> str:
            reading.values[name] = _number(match[1])
            return f"{match[1]} {words}"

        return told

    def side(match: re.Match[str]) -> str:
        reading.values["side"] = Side(match[1].lower())
        return match[1].lower()

    def both(match: re.Match[str]) -> str:
        reading.values["side"] = None
        return "both sides"

    to = r"\s*(\d{1,4})(?:\s*(?:-|–|to)\s*(\d{1,4}))?\b"
    reading.take(rf"\bstrips?{to}", pair("strips", Task.PLANKING))
    reading.take(rf"\bveneers?{to}", pair("veneers", Task.VENEERS))
    reading.take(r"\bmou?lds?\s+((?:\d+(?:\s*-\s*\d+)?)(?:\s*(?:,|and|&)\s*\d+(?:\s*-\s*\d+)?)*)", molds)

    def wood(match: re.Match[str]) -> str:
        reading.values["wood"], reading.values["wood_metres"] = match[2].strip(), _number(match[1])
        reading.values.setdefault("_task", Task.PLANKING)
        return f"{match[1]} m of {match[2].strip()} used up"

    reading.take(
        rf"(?:\bused\s+(?:up\s+)?)?({NUMBER})\s*m(?:et(?:re|er)s?)?\s+(?:of\s+)?((?:[a-z][a-z-]*\s+){{0,2}}?(?:{'|'.join(TIMBER)}))\b"
        r"(?!\s+(?:rails?|inwales?|outwales?|gunwales?|keel)\b)",
        wood,
    )
    reading.take(rf"({NUMBER})\s*sheets?\b", amount("sheets", "sheets"))
    reading.take(rf"({NUMBER})\s*m(?:et(?:re|er)s?)?\b(?!²|in)", amount("metres", "metres"))
    reading.take(r"\b(both sides|port and starboard)\b", both)
    reading.take(r"\b(port|starboard)\b", side)


def _task(reading: _Reading) -> None:
    def done(match: re.Match[str]) -> str:
        reading.values["finished"] = True
        return "the task is done"

    task = reading.values.pop("_task", None)
    found: list[tuple[int, Task]] = []
    for own, words in WORDS.items():
        match = re.search(rf"\b(?:{'|'.join(words)})\b", reading.rest, re.IGNORECASE)
        if match is not None:
            found.append((match.start(), own))
            reading.parts.append(Understood(match.start(), match.end(), own.value))
    said = min(found)[1] if found else None
    reading.values["task"] = said or task or Task.OTHER
    reading.take(r"\b(?:all\s+)?(?:done|finished)\b", done, keep=True)


def _finished(reading: _Reading) -> Quick:
    what = " ".join(reading.rest.replace(",", " ").replace(";", " ").split())
    values = reading.values
    if not reading.line.strip():
        reading.faults.append("Nothing is typed yet.")
    people = values.get("people", 1)
    if len(values.get("names", ())) > people:
        values["people"] = len(values["names"])
    dated = "day" in values
    values.setdefault("day", reading.today)
    parts = tuple(sorted(reading.parts, key=lambda part: part.begin))
    if reading.faults:
        return Quick(None, parts, tuple(reading.faults))
    try:
        values.setdefault("what", what)
        entry = Entry(**{**values, "what": values["what"][:MOST_LETTERS]}, line=reading.line[:MOST_LETTERS])
    except ValueError as error:  # a limit of a field
        return Quick(
            None, parts, (str(error).splitlines()[-2].strip() if "\n" in str(error) else str(error),)
        )
    return Quick(entry, parts, (), dated)

"""When a line's work was done and by whom: days, times, hours, people and names."""

from __future__ import annotations

import re

from . import grammar
from .grammar import Kind, Unclear
from .reading import At, Reading, is_word, read_word
from .when import day_of


def read_day(reading: Reading, at: At) -> None:
    phrase = at.phrase
    found = day_of(phrase.value.groupdict(), reading.today, day_first=reading.knows.day_first)
    said = phrase.text.strip()
    if found is None:
        reading.faults.append(f"There is no day {said}.")
        return
    if found > reading.today:
        reading.faults.append(f"{found.isoformat()} is still to come.")
    elif "day" in reading.values and reading.values["day"] != found:
        reading.faults.append(f"Two days are told, {reading.values['day'].isoformat()} and {found.isoformat()}: keep one of them.")
    reading.values["day"] = found
    reading.took(phrase, f"on {found.isoformat()}")


def read_span(reading: Reading, at: At) -> None:
    phrase = at.phrase
    match = phrase.value
    first, last = match["begin"].strip(), match["end"].strip()
    plain = grammar.is_clock(first) or match["from"] or grammar.is_clock(last)
    in_hours = re.fullmatch(r"\d{1,2}\s?h?", first) and re.fullmatch(r"\d{1,2}\s?h", last) and int(first.rstrip("h ")) < 12
    figures = re.fullmatch(r"\d{1,2}", first) and re.fullmatch(r"\d{1,2}", last)
    if figures and at.before is not None and at.before.kind is Kind.WORD:
        raise Unclear(f"{phrase.text.strip()} could be numbers or times: write times with minutes, as 7:00.")
    if not plain or (in_hours and not match["from"]):
        if re.search(r"h$", last):
            raise Unclear(f"{phrase.text.strip()} could be hours or times: say how many hours, or from when to when with minutes.")
        reading.leave(phrase)
        return
    half = re.search(r"([ap])\.?m", last, re.IGNORECASE)
    begin, end = grammar.minute_of(first), grammar.minute_of(last)
    if half and not re.search(r"[ap]\.?m|noon|midnight", first, re.IGNORECASE) and begin is not None and end is not None:
        own = grammar.minute_of(f"{first} {half[1]}m")
        begin = own if own is not None and own < end else begin
    if begin is None or end is None:
        reading.faults.append(f"There is no such time: {phrase.text.strip()}.")
        return
    if end <= begin:
        reading.faults.append(f"It ends at {last}, before it begins: put a late night on two days.")
        return
    reading.values["begin"], reading.values["end"] = begin, min(end, 24 * 60 - 1)
    reading.hours.append(("", (end - begin) / 60.0))
    reading.took(phrase, f"from {begin // 60}:{begin % 60:02d} to {end // 60}:{end % 60:02d}")


def read_hours(reading: Reading, at: At) -> None:
    before = at.before
    phrase = at.phrase
    found = grammar.hours_of(phrase.value)
    name = ""
    if before is not None and before.kind is Kind.EACH and before.begin in reading.gone:
        name = before.value["name"]
    reading.hours.append((name, found))
    reading.took(phrase, f"{found:.4g} hour{'' if found == 1 else 's'}")


def read_each(reading: Reading, at: At) -> None:
    """A name with hours of its own: one of several, or of somebody who has worked before; else it is a word."""
    phrase = at.phrase
    name = phrase.value["name"]
    several = [p for c in reading.clauses for p in c.phrases if p.kind is Kind.EACH and not is_word(p.value["name"])]
    if is_word(name) or not (len(several) > 1 or name in reading.knows.names or name.lower() in ("i", "me")):
        read_word(reading, at)
        return
    reading.took(phrase, "hours of your own" if name.lower() in ("i", "me") else f"hours of {name}")


def read_people(reading: Reading, at: At) -> None:
    phrase = at.phrase
    count = 1 if phrase.value["one"] else grammar.count_of(phrase.value["n"])
    if not 1 <= count <= 99:
        reading.faults.append(f"{count} people are too many, or none.")
        return
    reading.values["people"] = count
    reading.took(phrase, "alone" if phrase.value["one"] else f"{count} people")


def read_more(reading: Reading, at: At) -> None:
    phrase = at.phrase
    word = phrase.value["n"].lower()
    count = 1 + (1 if word in ("a", "my", "our", "his", "her", "the") else grammar.count_of(word))
    reading.values.setdefault("people", min(count, 99))
    reading.took(phrase, f"{min(count, 99)} people", gone=False)


def read_names(reading: Reading, at: At) -> None:
    phrase = at.phrase
    groups = phrase.value.groupdict()
    told = groups.get("names") or groups.get("first") or groups.get("second") or ""
    names = tuple(name.strip() for name in re.split(r",|\band\b|&|\+", told) if name.strip())
    if any(is_word(name) for name in names):
        read_word(reading, at)
        return
    reading.values["names"] = (*reading.values.get("names", ()), *names)
    alone = "names" in groups and "me" in groups and not groups["me"]
    reading.values.setdefault("people", len(names) + (0 if alone else 1))
    reading.took(phrase, f"{'' if alone else 'with '}{', '.join(names)}")

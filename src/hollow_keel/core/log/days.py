"""Days to come as they are typed: the first day of the work, holidays from one to another, a workshop that is closed."""

from __future__ import annotations

import re
from collections.abc import Iterable
from datetime import MAXYEAR, date, timedelta

from ..errors import InputError
from .grammar import count_of, day_told
from .when import day_of

MOST_DAYS = 3650
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
_FREE = re.compile(
    r"^(?:(?:the\s+)?(?:work)?shop\s+)?(?:closed|shut|holidays?|away|free|no work|vacation"
    r"|urlaub|ferien|geschlossen|vacances|fermé)\b\s*:?\s*",
    re.IGNORECASE,
)
_TO = re.compile(r"\s+(?:to|until|till|through|bis|au|-)\s+|\s*[–—]\s*", re.IGNORECASE)
_UNTIL = re.compile(r"^(?:until|till|to|bis|jusqu'au)\s+", re.IGNORECASE)
_FOR = re.compile(r"\s+for\s+(?P<many>\w+)\s+(?P<unit>days?|weeks?)$", re.IGNORECASE)
_NEXT = re.compile(r"^next\s+", re.IGNORECASE)
_EITHER = re.compile(r"0?(\d|1[0-2])/0?(\d|1[0-2])/\d+")
"""Which of the two is the month nobody can tell."""
MEND = "Write for example 24 Dec to 6 Jan, 14 July."


def read_day(text: str, today: date, *, after: date | None = None) -> date:
    """A day as it is typed; without its year the first such from `after` (without: `today`) on. Raises InputError."""
    own, since = " ".join(text.split()), after or today
    if own.lower() in ("tomorrow", "morgen", "demain"):
        return today + timedelta(days=1)
    told = day_told(_NEXT.sub("", own))
    if told is None:
        raise InputError("this cannot be read as a day", value=text, mend=MEND)
    if (pair := _EITHER.fullmatch(told["slashes"] or "")) and pair[1] != pair[2]:
        raise InputError("this could be one of two days", value=text, mend="Write the month by its name, or the year first.")
    yearless = not (_has_year(own) or told["word"] or told["ago"] or told["weekday"])
    if yearless:  # the 29th of February waits for a leap year
        ends = (date(min(since.year + k, MAXYEAR), 12, 31) for k in range(9))
        found = next((day for end in ends if (day := day_of(told, end, day_first=True)) and day >= since), None)
    else:
        found = day_of(told, since, day_first=True)
    if found is None:
        raise InputError("there is no such day", value=text, mend=MEND)
    if told["weekday"] and (found < since or _NEXT.match(own)):
        return found + timedelta(days=7)
    return found


def _has_year(text: str) -> bool:
    return re.search(r"\d{4}|[./]\d{1,2}[./]\d{2}$", text) is not None


def read_days(text: str, today: date) -> tuple[date, ...]:
    """Days without work, in order: days and spans between commas, `24 Dec to 6 Jan, 14 July`, `closed until 6 Jan`, `3 Aug for two
    weeks`. Raises InputError that names the part which is wrong."""
    found: set[date] = set()
    for part in re.split(r"[,;\n\u2028]+", text):
        own = _FREE.sub("", " ".join(part.split()))
        if own:
            found.update(_span(own, today))
    if len(found) > MOST_DAYS:
        raise InputError("these are too many days", value=f"{len(found)}", mend="Look at the years.")
    return tuple(sorted(found))


def _span(part: str, today: date) -> list[date]:
    lasting = _FOR.search(part)
    if lasting:
        first = read_day(part[: lasting.start()], today)
        try:
            count = count_of(lasting["many"].lower()) * (7 if lasting["unit"].lower().startswith("w") else 1)
        except (KeyError, ValueError):
            raise InputError("this cannot be read as a number of days", value=lasting["many"], mend=MEND) from None
        return _days(first, first + timedelta(days=min(count, MOST_DAYS) - 1), part)
    if _UNTIL.match(part):
        return _days(today, read_day(_UNTIL.sub("", part), today), part)
    ends = _TO.split(re.sub(r"^(?:from|von|du)\s+", "", part, flags=re.IGNORECASE))
    if len(ends) > 2:
        raise InputError("this cannot be read as days from one to another", value=part, mend=MEND)
    first = read_day(ends[0], today)
    last = first if len(ends) == 1 else read_day(ends[1], today, after=first)
    return _days(first, last, part)


def _days(first: date, last: date, part: str) -> list[date]:
    if last < first:
        raise InputError("these days end before they begin", value=part, mend=MEND)
    count = (last - first).days + 1
    if count > MOST_DAYS:
        raise InputError("these are too many days", value=part, mend="Look at the years.")
    return [first + timedelta(days=k) for k in range(count)]


def day_text(day: date) -> str:
    """A day as it is shown and typed."""
    return f"{day.day} {MONTHS[day.month - 1]} {day.year:04d}"


def spans(days: Iterable[date]) -> list[tuple[date, date]]:
    """Days as spans of days that follow each other, each by its first and its last."""
    found: list[tuple[date, date]] = []
    for day in sorted(set(days)):
        if found and day - found[-1][1] == timedelta(days=1):
            found[-1] = (found[-1][0], day)
        else:
            found.append((day, day))
    return found


def days_text(days: Iterable[date]) -> str:
    """Days as they are shown and typed: spans of them as from one to another."""
    return ", ".join(day_text(a) if a == b else f"{day_text(a)} to {day_text(b)}" for a, b in spans(days))

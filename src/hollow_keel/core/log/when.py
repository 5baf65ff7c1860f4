"""Days as they are written, in English and with German and French habits."""

from __future__ import annotations

import re
from datetime import date, datetime, timedelta
from typing import Any, ClassVar

from .grammar import count_of
from .vocabulary import MONTHS, WEEKDAYS

BACK = {"today": 0, "tonight": 0, "heute": 0, "aujourd'hui": 0, "yesterday": 1, "gestern": 1, "hier": 1, "last night": 1}


def day_of(told: dict[str, str | None], today: date, *, day_first: bool) -> date | None:
    """The day that a phrase tells (`told`: its named parts), the latest such before `today` where no year is; None: there is no
    such day."""
    word = " ".join((told["word"] or "").lower().split())
    if word:
        return today - timedelta(days=2 if word.startswith("the day before") else BACK[word])
    if told["ago"]:
        many, unit = told["ago"].lower().split()[:2]
        days = 1 if many == "a" else count_of(many)
        return today - timedelta(days=days * (7 if unit.startswith("week") else 1))
    if told["weekday"]:
        last, name = (told["weekday"].lower().startswith(("last", "letzten")), told["weekday"].lower().split()[-1].rstrip("."))
        wanted = next(k for k, names in enumerate(WEEKDAYS) if any(own.startswith(name) for own in names))
        back = (today.weekday() - wanted) % 7
        return today - timedelta(days=7 if last and back == 0 else back)
    text = told["iso"] or told["dots"] or told["slashes"] or told["named"] or told["months"] or ""
    return _written(text, today, year_first=bool(told["iso"]), day_first=day_first or not told["slashes"])


def _written(text: str, today: date, *, year_first: bool, day_first: bool) -> date | None:
    from dateutil.parser import ParserError, parser, parserinfo

    class Habits(parserinfo):  # type: ignore[misc]
        MONTHS: ClassVar[Any] = list(MONTHS)
        JUMP: ClassVar[Any] = [" ", ".", ",", ";", "-", "/", "'", "st", "nd", "rd", "th", "of"]

    plain = re.sub(r"(?<=\d)\s*\.\s*(?=\d)", ".", text).rstrip(".")
    reader = parser(Habits(dayfirst=day_first and not year_first, yearfirst=year_first))
    yearless = not re.search(r"\d{4}|[./]\d{1,2}[./]\d{2}$", plain)
    try:
        if re.fullmatch(r"\d{1,2}\.\d{1,2}", plain):
            day, month = (int(part) for part in plain.split("."))
            found = date(today.year, month, day)
        else:
            found = reader.parse(plain, default=datetime(today.year, 1, 1)).date()
        return found.replace(year=found.year - 1) if yearless and found > today else found
    except (ParserError, ValueError, OverflowError):
        return None

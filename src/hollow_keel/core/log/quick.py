"""A line typed in haste, read as an entry: `2h planking strips 21-24 port, 250 g at 14 C, two of us`.

The grammar (`grammar.py`) makes phrases of it; what each means stands in `who.py` and `what.py`; here is what they come to.
Whatever has no meaning is kept as it was typed and told as not understood. What cannot be is said with its place, and nothing is
kept until it is mended.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from datetime import date

from ..settings.log_entry import Batch, Entry, Laid, Task, Told
from . import grammar, what, who
from .grammar import Kind, Phrase, Unclear
from .reading import At, Clause, Knows, Quick, Reading, Understood, read_word

__all__ = ["Knows", "Quick", "Understood", "read_line"]
MOST_HOURS, MOST_LETTERS = 24.0, 4000


def read_line(line: str, today: date, knows: Knows | None = None) -> Quick:
    """Read a line. Nothing in it raises."""
    reading = Reading(line, today, knows or Knows())
    phrases = grammar.phrases(_told(reading))
    clause = Clause()
    for phrase in phrases:
        if phrase.kind is Kind.STOP:
            reading.clauses.append(clause)
            clause = Clause()
        else:
            clause.phrases.append(phrase)
    reading.clauses.append(clause)
    flat = [(clause, k, phrase) for clause in reading.clauses for k, phrase in enumerate(clause.phrases)]
    before: Phrase | None = None
    for clause, k, phrase in flat:
        following = clause.phrases[k + 1] if k + 1 < len(clause.phrases) else None
        try:
            _READ[phrase.kind](reading, At(clause, phrase, before if k else None, following))
        except Unclear as error:
            reading.faults.append(str(error))
        before = phrase
    return _finished(reading, phrases)


# -- a mistake, a setting, a decision --------------------------------------------------------------------------


def _told(reading: Reading) -> str:
    """The line without what it tells of and its mend, as blanks, so that places stay."""
    line = reading.line
    kind = re.match(r"\s*(mistake|setting|decision)\s*[:,]", line, re.IGNORECASE)
    if kind is None:
        return line
    reading.values["told"] = Told(kind[1].lower())
    reading.parts.append(Understood(kind.start(1), kind.end(1), kind[1].lower()))
    rest = " " * kind.end() + line[kind.end() :]
    mend = re.search(r"[;,]?\s*\b(mend|because|reason)\b\s*:?\s+(.+)$", rest, re.IGNORECASE | re.DOTALL)
    reading.values["what"] = (rest[: mend.start()] if mend else rest).strip()
    if mend:
        reading.values["mend"] = mend[2].strip()
        reading.parts.append(Understood(mend.start(1), mend.end(), f"mend: {mend[2].strip()}"))
        rest = rest[: mend.start()] + " " * (len(rest) - mend.start())
    return rest


def _unsure(reading: Reading, at: At) -> None:
    reading.faults.append(f"{at.phrase.text.strip()} could be either: say how many.")


def _nothing(_reading: Reading, _at: At) -> None:
    return


_READ: Mapping[Kind, Callable[[Reading, At], None]] = {
    Kind.DAY: who.read_day,
    Kind.SPAN: who.read_span,
    Kind.HOURS: who.read_hours,
    Kind.EACH: who.read_each,
    Kind.PEOPLE: who.read_people,
    Kind.MORE: who.read_more,
    Kind.NAMES: who.read_names,
    Kind.GLUE: what.read_glue,
    Kind.WARM: what.read_warm,
    Kind.MIXED: what.glue_time("mixed", "mixed"),
    Kind.USED_UP: what.glue_time("used_up", "used up"),
    Kind.THINGS: what.read_things,
    Kind.COUNTED: what.read_counted,
    Kind.SIDE: what.read_side,
    Kind.SHEETS: what.read_sheets,
    Kind.WOOD: what.read_wood,
    Kind.METRES: what.read_metres,
    Kind.DONE: what.read_done,
    Kind.STOP: _nothing,
    Kind.FAULT: _unsure,
    Kind.WORD: read_word,
}


# -- together --------------------------------------------------------------------------------------------------


def _finished(reading: Reading, phrases: Sequence[Phrase]) -> Quick:
    values = reading.values
    if not reading.line.strip():
        reading.faults.append("Nothing is typed yet.")
    _sum_hours(reading)
    _glue_together(reading)
    _strips_together(reading)
    side = values.pop("_side", None)
    if "side" not in values and (values.get("veneers") or not reading.runs):
        values["side"] = side
    values["task"] = min(reading.tasks)[2] if reading.tasks else Task.OTHER
    if len(values.get("names", ())) > values.get("people", 1):
        values["people"] = len(values["names"])
    dated = "day" in values
    values.setdefault("day", reading.today)
    parts = tuple(sorted(reading.parts, key=lambda part: part.begin))
    left = tuple(sorted(reading.left, key=lambda part: part.begin))
    if reading.faults:
        return Quick(None, parts, tuple(dict.fromkeys(reading.faults)), dated, left)
    values.setdefault("what", _words(reading, phrases))
    try:
        entry = Entry(**{**values, "what": values["what"][:MOST_LETTERS]}, line=reading.line[:MOST_LETTERS])
    except ValueError:  # a limit of a field that no phrase has of its own
        return Quick(None, parts, ("Something in this line is larger than can be kept.",), dated, left)
    return Quick(entry, parts, (), dated, left)


def _words(reading: Reading, phrases: Sequence[Phrase]) -> str:
    """What of the line no field holds, as it was typed."""
    kept = [p.text.strip() for p in phrases if p.begin not in reading.gone and not (p.kind is Kind.STOP and p.text[0] in ".,;:")]
    return " ".join(" ".join(kept).split())


def _sum_hours(reading: Reading) -> None:
    own = {name: hours for name, hours in reading.hours if name}
    plain = [hours for name, hours in reading.hours if not name]
    if len(set(plain)) > 1 or (own and plain):
        reading.faults.append("Hours are told twice: keep one of them.")
        return
    every = [hours for _, hours in reading.hours]
    wrong = [hours for hours in every if not 0 < hours <= MOST_HOURS]
    if wrong:
        reading.faults.append(f"{wrong[0]:g} hours are no day's work.")
    elif own:
        mine = [hours for name, hours in own.items() if name.lower() in ("i", "me")]
        names = tuple(name for name in own if name.lower() not in ("i", "me"))
        reading.values["names"], reading.values["people"] = names, len(names) + len(mine)
        reading.values["hours"] = mine[0] if mine else max(every)
        reading.values["own_hours"] = tuple(own[name] for name in names)
    elif every:
        reading.values["hours"] = every[0]


def _glue_together(reading: Reading) -> None:
    if reading.batches:
        try:
            reading.values["batches"] = tuple(Batch(**batch, **reading.glue) for batch in reading.batches)
        except ValueError:  # a limit of a field
            reading.faults.append(f"{reading.batches[0]['resin']:g} g of glue are no batch: grams are meant.")
    elif set(reading.glue) == {"temperature"}:
        reading.values["temperature"] = reading.glue["temperature"]
    elif reading.glue:
        reading.faults.append("When glue was mixed is told, but not how much: say so many g.")


def _told_twice(runs: Sequence[Laid]) -> int:
    """The first strip that lies in two runs of one side; 0: none does."""
    for k, run in enumerate(runs):
        for other in runs[:k]:
            apart = None not in (run.side, other.side) and run.side is not other.side
            if not apart and run.first <= other.last and other.first <= run.last:
                return max(run.first, other.first)
    return 0


def _strips_together(reading: Reading) -> None:
    """Runs that follow each other on one side are one; the first is the entry's own."""
    twice = _told_twice(reading.runs)
    if twice:
        reading.faults.append(f"Strip {twice} is told twice: say each of them once.")
        return
    runs: list[Laid] = []
    for run in sorted(reading.runs, key=lambda own: (own.side or "", own.first)):
        if runs and runs[-1].side is run.side and run.first <= runs[-1].last + 1:
            runs[-1] = Laid(first=runs[-1].first, last=max(run.last, runs[-1].last), side=run.side)
        else:
            runs.append(run)
    noun = reading.values.pop("_of", "strips")
    if not runs:
        return
    runs.sort(key=lambda own: (own.first, own.side or ""))
    first = (runs[0].first, runs[0].last)
    if noun != "veneers":
        reading.values.update(strips=first, side=runs[0].side, also=tuple(runs[1:]))
    elif len(runs) == 1:
        reading.values.update(veneers=first, side=runs[0].side)
    else:
        reading.faults.append("Veneers that do not follow each other on one side are entries of their own.")

"""What a line's work was done to, and with what: glue and warmth, strips, molds and all that has numbers, stock, what is done."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import dropwhile, pairwise

from ..amounts import KG_PER_LB, L_PER_GALLON, MM_PER_FOOT, OUNCES
from ..rules import WARMEST_C
from ..settings.log_entry import Laid, Task
from ..settings.readings import Side
from . import grammar
from .grammar import Kind, Phrase, Run
from .reading import TWO_WORDS, At, Clause, Reading
from .vocabulary import LAID, PLAIN, SCARF, THINGS, UNDONE, WORK

MOST_NUMBER, MOST_BATCHES = 5000, 20
CUPS = 16
"""In a gallon."""
GRAMS = {"g": 1.0, "kg": 1000.0, "oz": 1000 * KG_PER_LB / OUNCES, "lb": 1000 * KG_PER_LB}
MILLILITRES = {"ml": 1.0, "l": 1000.0, "cup": 1000 * L_PER_GALLON / CUPS}
METRE = {"m": 1.0, "f": MM_PER_FOOT / 1000, "y": 3 * MM_PER_FOOT / 1000}
TASKS = {"strips": Task.PLANKING, "veneers": Task.VENEERS, "molds": Task.MOLDS, "deck strips": Task.DECK}
"""Of these it is counted which are done."""
NAMED = {**TASKS, "beams": Task.SHEER}
"""What has numbers or is counted, and what work on it is."""


def read_glue(reading: Reading, at: At) -> None:
    """An amount of glue, or of something else that is only kept in words: 2 kg of screws."""
    following, phrase = at.following, at.phrase
    groups = phrase.value.groupdict()
    unit = grammar.unit_of(groups["u"])
    if "b" in groups:
        first, second = grammar.number(groups["a"]), grammar.number(groups["b"])
        if groups["slash"] == "/" and first < second:  # half a cup
            _batch(reading, phrase, first / second, 0.0, unit, unit)
        else:
            own = grammar.unit_of(groups["ua"]) if groups["ua"] else unit
            _batch(reading, phrase, first, second, own, unit)
        return
    foreign = following is not None and following.kind is Kind.WORD and groups["what"] is None
    if foreign and following is not None:
        word = following.text.lower().split()[0]
        if word == "of" or not (word in PLAIN or word in LAID or word in WORK or word in THINGS or word in UNDONE):
            reading.leave(phrase)
            return
    for _ in range(min(grammar.count_of(groups["times"] or "one"), MOST_BATCHES)):
        _batch(reading, phrase, grammar.number(groups["a"]), 0.0, unit, unit)


def _batch(reading: Reading, phrase: Phrase, resin: float, hardener: float, unit: str, other: str) -> None:
    knows = reading.knows
    own = _grams(resin, unit, knows.resin if hardener else knows.mixed, knows.pump)
    more = _grams(hardener, other, knows.hardener, knows.pump)
    if own is None or more is None:
        reading.faults.append("How much a stroke of the pump gives is not told: set it on the page Stock, or say grams.")
        return
    reading.batches.append({"resin": round(own, 1), "hardener": round(more, 1)})
    reading.took(phrase, f"{own:.4g}{f' + {more:.4g}' if hardener else ''} g of glue")


def _grams(value: float, unit: str, density: float, pump: float) -> float | None:
    if unit == "pump":
        return value * pump if pump or not value else None
    return value * GRAMS[unit] if unit in GRAMS else value * MILLILITRES[unit] * density


def read_warm(reading: Reading, at: At) -> None:
    phrase = at.phrase
    match = phrase.value
    text = match["n"].lower().replace("minus", "-").replace("−", "-").replace(" ", "").replace(",", ".")
    told = match["u"] or match["v"] or match["w"] or ("F" if float(text) > WARMEST_C else "C")
    letter = told[0].upper()
    celsius = float(text) if letter == "C" else (float(text) - 32.0) / 1.8
    if not -20 <= celsius <= 60:
        reading.faults.append(f"{phrase.text.strip()} is no temperature of a shed.")
        return
    reading.glue["temperature"] = round(celsius, 1)
    reading.took(phrase, f"at {celsius:.0f} °C")


def glue_time(name: str, words: str) -> Callable[[Reading, At], None]:
    """How a time of a batch is read."""

    def read(reading: Reading, at: At) -> None:
        phrase = at.phrase
        minute = grammar.minute_of(phrase.value["at"])
        if minute is None or minute >= 24 * 60 or not grammar.is_clock(phrase.value["at"].strip()):
            reading.leave(phrase)
            return
        reading.glue[name] = minute
        reading.took(phrase, f"{words} at {minute // 60}:{minute % 60:02d}")

    return read


def read_things(reading: Reading, at: At) -> None:
    """Things by their numbers: molds that were worked on, strips and veneers that came on, and what is only named."""
    phrase, (noun, runs) = at.phrase, at.phrase.value
    if not noun:
        verb = at.before is not None and at.before.kind is Kind.WORD and at.before.text.lower() in LAID
        if not verb and not all(run.side for run in runs):
            reading.leave(phrase)
            return
        noun = "strips"
    if any(run.first > run.last or run.first < 1 or run.last > MOST_NUMBER for run in runs):
        reading.faults.append(f"{phrase.text.strip()} are no numbers of {noun}.")
        return
    task = NAMED.get(noun)
    worked = not reading.values.get("told")  # of a mistake only the words are told
    if worked and noun == "molds":
        names = (str(k) for run in runs for k in range(run.first, run.last + 1))
        reading.values["molds"] = (*reading.values.get("molds", ()), *names)
        reading.took(phrase, _named(noun, runs))
    elif worked and noun in TASKS:
        _strips_or_veneers(reading, at, noun, runs)
        return
    else:
        reading.took(phrase, _named(noun, runs), gone=False)
    if task is not None:
        reading.tasks.append((1, phrase.begin, task))


def _named(noun: str, runs: Sequence[Run]) -> str:
    """Things and their numbers, as they are told under the line."""
    numbers = ", ".join(
        (f"{run.first} to {run.last}" if run.last > run.first else f"{run.first}") + (f" {run.side}" if run.side else "")
        for run in runs
    )
    return f"{noun if len(runs) > 1 or runs[0].last > runs[0].first else noun.removesuffix('s')} {numbers}"


def _strips_or_veneers(reading: Reading, at: At, noun: str, runs: Sequence[Run]) -> None:
    """What came on, if the line says so and the plan has it; else it is named, and counted by nothing."""
    phrase, most = at.phrase, reading.knows.strips
    beyond = noun == "strips" and most is not None and any(run.last > most for run in runs)
    if beyond or not _came_on(reading, at.clause, phrase):
        why = f"the plan has {most} a side" if beyond else "not counted as laid"
        reading.tasks.append((1, phrase.begin, TASKS[noun]))
        reading.took(phrase, f"{_named(noun, runs)}: {why}", gone=False)
        return
    told = [
        Laid(first=run.first, last=run.last, side=side) for run, side in zip(runs, _sides(runs, at.clause, reading), strict=True)
    ]
    if reading.values.setdefault("_of", noun) != noun:
        reading.faults.append(f"{noun.capitalize()} and {reading.values['_of']} are two entries: keep them one after the other.")
        return
    reading.tasks.append((-1, phrase.begin, TASKS[noun]))
    reading.runs += told
    reading.took(phrase, _named(noun, runs))


def _came_on(reading: Reading, whole: Clause, phrase: Phrase) -> bool:
    """Whether what a clause names was laid: it says so, or it says of no other work, and no words after it do."""
    clause = whole.about(phrase)
    if clause.undone:
        return False
    if clause.laid:
        return True
    if clause.other_work or SCARF & set(clause.words):
        return False
    after = list(dropwhile(lambda own: own is not whole, reading.clauses))[1:]
    return not any(other.only_work for other in after if not other.laid)


def _sides(runs: Sequence[Run], clause: Clause, reading: Reading) -> list[Side | None]:
    """The side of each run: what is told with it, or with the next that has one told, or elsewhere in the clause, or in the line
    where it is told once."""
    found: list[Side | None] = []
    own = [p for p in clause.phrases if p.kind is Kind.SIDE]
    every = [p for c in reading.clauses for p in c.phrases if p.kind is Kind.SIDE]
    told_once = own or (every if len(every) == 1 else [])
    common = grammar.side_of(told_once[0].value["side"]) if told_once else ""
    for k in range(len(runs)):
        told = next((run.side for run in runs[k:] if run.side), "") or common
        found.append(None if told in ("", "both") else Side(told))
    return found


def read_counted(reading: Reading, at: At) -> None:
    phrase = at.phrase
    noun = grammar.noun_of(phrase.value["noun"])
    if noun in NAMED:
        reading.tasks.append((1, phrase.begin, NAMED[noun]))
    reading.took(phrase, f"{phrase.text.strip()}, which of them is not told", gone=False)


def read_side(reading: Reading, at: At) -> None:
    phrase = at.phrase
    told = grammar.side_of(phrase.value["side"])
    reading.values.setdefault("_side", None if told == "both" else Side(told))
    reading.took(phrase, "both sides" if told == "both" else told)


def read_sheets(reading: Reading, at: At) -> None:
    phrase = at.phrase
    reading.values["sheets"] = reading.values.get("sheets", 0.0) + grammar.number(phrase.value["n"])
    reading.took(phrase, f"{phrase.value['n']} sheets")


def _length(phrase: Phrase) -> float:
    return grammar.number(phrase.value["n"]) * METRE[phrase.value["u"][0].lower()]


def read_wood(reading: Reading, at: At) -> None:
    phrase = at.phrase
    reading.values["wood"], reading.values["wood_metres"] = (phrase.value["wood"].strip(), round(_length(phrase), 3))
    reading.tasks.append((2, phrase.begin, Task.PLANKING))
    reading.took(phrase, f"{_length(phrase):.4g} m of {phrase.value['wood'].strip()} used up")


def read_metres(reading: Reading, at: At) -> None:
    phrase = at.phrase
    reading.values["metres"] = reading.values.get("metres", 0.0) + round(_length(phrase), 3)
    reading.took(phrase, f"{_length(phrase):.4g} m")


def read_done(reading: Reading, at: At) -> None:
    """*Done* ends what it stands beside: the whole of a task only where that alone is named."""
    clause = at.clause
    phrase = at.phrase
    named = [word for word in clause.words if word in WORK or word in LAID or word in THINGS]
    named += [" ".join(pair) for pair in pairwise(clause.words) if pair in TWO_WORDS]
    whole = named and not clause.things and not clause.undone and (named != ["strips"] or "all" in clause.words)
    if whole:
        reading.values["finished"] = True
    reading.took(phrase, "the task is done" if whole else "done", gone=False)

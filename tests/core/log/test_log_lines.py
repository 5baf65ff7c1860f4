"""Lines of the log as people write them: what each means was told by hand (`log_lines.py`)."""

from __future__ import annotations

import re
from datetime import date
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_keel.core.log.quick import Knows, Quick, read_line
from hollow_keel.core.settings.log_entry import Entry, Told
from hollow_keel.core.settings.readings import Side

from .log_lines import EVERY, REFUSED, TASKS

TODAY = date(2026, 11, 29)
KNOWS = Knows(strips=65, pump=30.0)
SIDES = {None: "B", Side.PORT: "P", Side.STARBOARD: "S"}


def told(entry: Entry) -> dict[str, Any]:
    """All that an entry tells, but for its task and words."""
    found: dict[str, Any] = {"day": entry.day.isoformat(), "hours": round(entry.hours, 4), "people": entry.people}
    found |= {name: getattr(entry, name) for name in ("begin", "end", "temperature", "sheets", "finished")}
    found |= {"metres": round(entry.metres, 3), "names": entry.names, "own": entry.own_hours, "told": entry.told.value}
    found["laid"] = [(run.first, run.last, SIDES[run.side]) for run in entry.laid]
    found["molds"] = list(entry.molds)
    found["veneers"] = (*entry.veneers, SIDES[entry.side]) if entry.veneers else None
    found["side"] = SIDES[entry.side] if entry.side and not entry.veneers and not entry.laid else None
    found["wood"] = (entry.wood, entry.wood_metres) if entry.wood else None
    found["glue"] = [(round(batch.resin, 1), round(batch.hardener, 1)) for batch in entry.batches]
    first = entry.batches[0] if entry.batches else None
    found |= {"warm": first and first.temperature, "mixed": first and first.mixed, "used_up": first and first.used_up}
    return found


NOTHING: dict[str, Any] = {
    "day": "2026-11-29",
    "hours": 0,
    "people": 1,
    "begin": None,
    "end": None,
    "temperature": None,
    "sheets": 0,
    "finished": False,
    "metres": 0,
    "names": (),
    "own": (),
    "told": "work",
    "laid": [],
    "molds": [],
    "veneers": None,
    "side": None,
    "wood": None,
    "glue": [],
    "warm": None,
    "mixed": None,
    "used_up": None,
}


def left(quick: Quick) -> list[str]:
    return [part.meaning for part in quick.left]


@pytest.mark.parametrize(("line", "task", "wanted"), EVERY, ids=[line for line, *_ in EVERY])
def test_a_line_means_what_it_says_and_nothing_more(line: str, task: str, wanted: dict[str, Any]) -> None:
    quick = read_line(line, TODAY, KNOWS)
    assert quick.faults == ()
    assert quick.entry is not None
    expected = {**NOTHING, **{name: value for name, value in wanted.items() if name != "left"}}
    assert told(quick.entry) == expected
    assert quick.entry.task is TASKS[task]
    assert sorted(left(quick)) == sorted(wanted.get("left", ()))


def test_there_are_as_many_lines_as_it_takes() -> None:
    """And nearly all of them are understood to the last word."""
    assert len(EVERY) + len(REFUSED) >= 300
    assert sum("left" not in wanted for *_, wanted in EVERY) >= 270


@pytest.mark.parametrize(("line", "said"), REFUSED)
def test_what_cannot_be_or_could_be_two_things_is_said(line: str, said: str) -> None:
    quick = read_line(line, TODAY, KNOWS)
    if not said:
        assert quick.left
        return
    assert quick.entry is None
    assert any(said in fault for fault in quick.faults)


WORDS = sorted({word for line, *_ in EVERY for word in line.split()})
lines = st.one_of(st.text(max_size=80), st.lists(st.sampled_from(WORDS), max_size=12).map(" ".join))


@given(lines)
def test_no_word_of_any_line_is_lost(line: str) -> None:
    """Each is in something understood, or named as left, or in the words that the entry keeps: none vanishes unseen."""
    quick = read_line(line, TODAY, KNOWS)
    assert (quick.entry is None) == bool(quick.faults)
    if quick.entry is None or quick.entry.told is not Told.WORK:
        return
    seen = [False] * len(line)
    for part in (*quick.parts, *quick.left):
        for k in range(part.begin, min(part.end, len(line))):
            seen[k] = True
    kept = quick.entry.what.lower()
    for match in re.finditer(r"[^\W_]+", line):
        if not any(seen[match.start() : match.end()]):
            assert match[0].lower() in kept


@given(lines)
def test_an_entry_read_again_from_what_it_kept_is_the_same(line: str) -> None:
    quick = read_line(line, TODAY, KNOWS)
    if quick.entry is not None:
        again = read_line(quick.entry.line, TODAY, KNOWS)
        assert again.entry == quick.entry
        assert Entry.model_validate(quick.entry.model_dump(mode="json")) == quick.entry

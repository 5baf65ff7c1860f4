"""Numbers with what they count."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from hollow_keel.core.words import counted, plural, times, verb

SOURCE = Path(__file__).parents[2] / "src"
COUNT = re.compile(r"\{len\([^{}]*\)\} (?:rows|points|stations|strips|molds|veneers|sheets|heads|joints|parts|entries|pieces)\b")


@pytest.mark.parametrize(
    ("number", "thing", "said"),
    [
        (1, "strip", "1 strip"),
        (2, "strip", "2 strips"),
        (0, "entry", "0 entries"),
        (1, "entry", "1 entry"),
        (3, "batch", "3 batches"),
        (2, "day", "2 days"),
    ],
)
def test_a_number_and_what_it_counts(number: int, thing: str, said: str) -> None:
    assert counted(number, thing) == said


def test_the_words_of_a_sentence() -> None:
    assert [times(n) for n in (1, 2, 3)] == ["once", "twice", "3 times"]
    assert (verb(1, "needs", "need"), verb(2, "needs", "need")) == ("needs", "need")
    assert counted(2, "half", "halves") == "2 halves"
    assert plural("box") == "boxes"


def test_no_sentence_counts_one_as_several() -> None:
    """What is counted by the length of a list is written by `counted`; where a list is long for certain it says so here."""
    sure = {"molds/pieces.py": 1, "veneers/layer_remarks.py": 1, "planking/levels.py": 0}
    found = {
        "/".join(path.parts[-2:]): len(COUNT.findall(path.read_text(encoding="utf-8")))
        for path in SOURCE.rglob("*.py")
        if COUNT.search(path.read_text(encoding="utf-8"))
    }
    assert found == {name: count for name, count in sure.items() if count}

"""Drawings are as they were when they were last looked at (looked_at.py): what moves in one is seen, whatever moved it."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest

from tests.drawing.looked_at import KEPT, all_drawings, told

NUMBER = re.compile(r"-?\d+(?:\.\d+)?")
APART, SHARE = 0.6, 2e-3
"""A length may be out by the tape's half millimetre and a little, and by so much of itself: libraries differ at the end."""


def same(one: Any, other: Any) -> bool:
    """Whether two things told of a drawing are the same, numbers in texts too."""
    if isinstance(one, list):
        return isinstance(other, list) and len(one) == len(other) and all(map(same, one, other))
    if isinstance(one, bool | None) or isinstance(other, bool | None):
        return one is other
    if isinstance(one, int | float):
        return isinstance(other, int | float) and abs(one - other) <= max(APART, SHARE * abs(one))
    words, numbers = NUMBER.split(one.replace("\u202f", "")), NUMBER.findall(one.replace("\u202f", ""))
    return (
        isinstance(other, str)
        and words == NUMBER.split(other.replace("\u202f", ""))
        and all(
            abs(float(a) - float(b)) <= APART for a, b in zip(numbers, NUMBER.findall(other.replace("\u202f", "")), strict=True)
        )
    )


def changes(kept: dict[str, Any], now: dict[str, Any]) -> list[str]:
    """What is other in a drawing, in words."""
    found = [] if kept["title"] == now["title"] else [f"title: {kept['title']} → {now['title']}"]
    for kind in sorted(kept["lines"].keys() | now["lines"].keys()):
        before, after = kept["lines"].get(kind), now["lines"].get(kind)
        if before is None or after is None or before[:3] != after[:3] or not same(before, after):
            found.append(f"{kind}: {before} → {after}")
    for part in ("texts", "rings"):
        pairs = [(a, b) for a, b in zip(kept[part], now[part], strict=False) if not same(a, b)]
        found += [f"{a} → {b}" for a, b in pairs]
        if len(kept[part]) != len(now[part]):
            found.append(f"{part}: {len(kept[part])} → {len(now[part])}")
    return found


def test_drawings_are_as_they_were_looked_at() -> None:
    kept = json.loads(KEPT.read_text(encoding="utf-8"))
    now = {name: told(drawing) for name, drawing in all_drawings()}
    other = {name: changes(kept[name], own) for name, own in now.items() if name in kept}
    other = {name: own[:4] for name, own in other.items() if own}
    assert other == {}, "look at them, then run: python -m tests.drawing.looked_at"
    assert now.keys() == kept.keys()


@pytest.mark.parametrize(
    ("one", "other", "alike"),
    [
        (["12.5 wide", 3.0], ["12.4 wide", 3.2], True),
        (["12.5 wide", 3.0], ["12.5 high", 3.0], False),
        (["12.5 wide"], ["14.0 wide"], False),
        ([1000.0], [1001.5], True),
        ([1000.0], [1005.0], False),
        ([1.0], [-1.0], False),
    ],
)
def test_what_counts_as_a_change(one: Any, other: Any, alike: bool) -> None:
    assert same(one, other) is alike

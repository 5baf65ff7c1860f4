"""Numbers with what they count, in a sentence."""

from __future__ import annotations


def counted(number: int, thing: str, things: str = "") -> str:
    """So many of a thing: 1 strip, 4 strips, 1 entry, 3 entries (`things` where it is not the `thing` with an s)."""
    return f"{number} {thing if number == 1 else things or plural(thing)}"


def plural(thing: str) -> str:
    """A thing's name for several of it: strips, batches, entries."""
    if thing.endswith("y") and thing[-2:-1] not in "aeiou":
        return f"{thing[:-1]}ies"
    return f"{thing}es" if thing.endswith(("s", "x", "ch", "sh")) else f"{thing}s"


def verb(number: int, one: str, more: str) -> str:
    """The verb of so many: 1 veneer needs, 2 veneers need."""
    return one if number == 1 else more


def times(number: int) -> str:
    """How often: once, twice, 3 times."""
    return {1: "once", 2: "twice"}.get(number, f"{number} times")

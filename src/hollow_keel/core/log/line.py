"""An entry that nobody typed, as a line that could have been typed: so that it can be put right without losing what it tells."""

from __future__ import annotations

from ..settings.log_entry import Entry, Task


def line_of(entry: Entry) -> str:
    """The line of an entry as it was typed, or one that reads as the entry does: its task, what it advanced, hours, people,
    words."""
    if entry.line:
        return entry.line
    parts = [] if entry.task is Task.OTHER else [entry.task.value]
    for name, pair in (("strips", entry.strips), ("veneers", entry.veneers)):
        if pair is not None:
            parts.append(
                f"{name} {pair[0]}-{pair[1]}" + (f" {entry.side.value}" if entry.side is not None else "")
            )
    if entry.molds and all(name.isdigit() for name in entry.molds):
        parts.append(f"molds {', '.join(entry.molds)}")
    if entry.hours:
        parts.append(f"{entry.hours:g} h")
    if entry.people > 1 and not entry.names:
        parts.append(f"{entry.people} people")
    if entry.names:
        parts.append(f"with {' and '.join(entry.names)}")
    return "; ".join([*parts, *([entry.what] if entry.what else [])])

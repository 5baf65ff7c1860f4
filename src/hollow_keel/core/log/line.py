"""An entry that nobody typed, as a line that could have been typed: so that it can be put right without losing what it tells."""

from __future__ import annotations

from ..settings.log_entry import Entry, Task


def line_of(entry: Entry) -> str:
    """The line of an entry as it was typed, or one that reads as the entry does: its task, what it advanced, hours, people,
    words."""
    if entry.line:
        return entry.line
    parts = [] if entry.task is Task.OTHER else [entry.task.value]
    for run in entry.laid:
        parts.append(f"strips {run.first}-{run.last} {run.side.value if run.side is not None else 'both sides'}")
    if entry.veneers is not None:
        first, last = entry.veneers
        parts.append(f"veneers {first}-{last} {entry.side.value if entry.side is not None else 'both sides'}")
    if entry.molds and all(name.isdigit() for name in entry.molds):
        parts.append(f"molds {', '.join(entry.molds)}")
    if entry.own_hours:
        mine = [f"I {entry.hours:g} h"] if entry.people > len(entry.names) else []
        parts.append(", ".join([*(f"{name} {hours:g} h" for name, hours in entry.hours_by_name.items()), *mine]))
    elif entry.hours:
        parts.append(f"{entry.hours:g} h")
    if entry.people > 1 and not entry.names:
        parts.append(f"{entry.people} people")
    if entry.names and not entry.own_hours:
        parts.append(f"with {' and '.join(entry.names)}")
    return "; ".join([*parts, *([entry.what] if entry.what else [])])

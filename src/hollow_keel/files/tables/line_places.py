"""Where stations and lines of a table lie: as their names say, as titles or a row of positions say, or as the builder answers."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from ...core.offsets.table import LineKind, TableLine
from .line_rows import LinesRead, Row, place_in, station_number
from .numbers import Lengths
from .understood import Asked, LeftOut, Question
from .words import PLANES, Line

KINDS = {Line.WATERLINE: LineKind.WATERLINE, Line.BUTTOCK: LineKind.BUTTOCK, Line.DIAGONAL: LineKind.DIAGONAL}
ASKED = {Line.WATERLINE: Asked.WATERLINES, Line.BUTTOCK: Asked.BUTTOCKS, Line.DIAGONAL: Asked.DIAGONALS}
ROMAN = {"I": 1, "II": 2, "III": 3, "IV": 4, "V": 5, "VI": 6, "VII": 7, "VIII": 8, "IX": 9, "X": 10}

Planes = dict[tuple[Line, str], TableLine]
"""Lines by what they are and their names."""


@dataclass(frozen=True)
class Places:
    """Where stations and planes lie, mm, by their names; texts that say so."""

    stations: dict[str, tuple[float, str]]
    planes: Planes


@dataclass
class _Asking:
    """The rows, how their lengths are read, what is known beside them; questions go to the rows."""

    read: LinesRead
    lengths: Lengths
    said: Mapping[Asked, str]
    load: float | None

    def ask(self, about: Asked, text: str, hint: str = "") -> None:
        """One question more."""
        self.read.questions.append(Question(about, text, hint=hint))


def placed(read: LinesRead, lengths: Lengths, said: Mapping[Asked, str], load: float | None) -> Places | None:
    """Where the stations and planes lie; None, with questions, where that is not known. `said` are answers, from titles or the
    builder; `load` the height of the load waterline, mm."""
    asking = _Asking(read, lengths, said, load)
    stations = _stations(asking)
    planes: Planes = {}
    for line in PLANES:
        planes |= _planes(asking, [row for row in read.rows if row.name.line is line], line)
    return None if read.questions or stations is None else Places(stations, planes)


def _stations(asking: _Asking) -> dict[str, tuple[float, str]] | None:
    read, lengths = asking.read, asking.lengths
    given = next((row for row in read.rows if row.name.line is Line.POSITION), None)
    if given is None and _are_counted(read.stations):
        return _spaced(asking)
    texts = {name: place_in(name) for name in read.stations}
    if given is not None:
        texts = {name: given.cells[name][1] for name in read.stations if name in given.cells}
    found = {name: lengths.maybe(text) for name, text in texts.items()}
    return {name: length for name, length in found.items() if length is not None}


def _are_counted(stations: list[str]) -> bool:
    """Whether stations are numbered, not placed: they step by one (or a half, a quarter at the ends)."""
    numbers = [n for n in map(station_number, stations) if n is not None]
    if len(numbers) < 3 or len(numbers) != len(stations):
        return False
    steps = [b - a for a, b in zip(numbers[:-1], numbers[1:], strict=True)]
    counted = sum(abs(abs(s) - 1) < 1e-9 for s in steps) >= 0.5 * len(steps)
    return counted and all(abs(s) <= 2 for s in steps) and max(numbers) <= 60


def _spaced(asking: _Asking) -> dict[str, tuple[float, str]] | None:
    """Numbered stations at even steps from station 0."""
    stations, said = asking.read.stations, asking.said.get(Asked.SPACING, "")
    if not said:
        text = f"Stations {stations[0]} to {stations[-1]} are numbers, not places. How far apart do they stand?"
        asking.ask(Asked.SPACING, text, asking.lengths.hint(500.0))
        return None
    spacing = asking.lengths.said.maybe(said)
    if spacing is None:
        asking.ask(Asked.SPACING, f"“{said}” is no length. How far apart do stations stand?")
        return None
    asking.read.notes.append(f"Stations stand {said} apart, counted from station 0.")
    return {name: ((station_number(name) or 0.0) * spacing[0], "") for name in stations}


def _planes(asking: _Asking, rows: list[Row], line: Line) -> Planes:
    names = list(dict.fromkeys(row.name for row in rows))
    if line is Line.DIAGONAL and any(not name.angle for name in names):
        return _asked_diagonals(asking, list(dict.fromkeys(name.key for name in names)))
    found: Planes = {}
    counted = _counted([name.level for name in names if name.level])
    if counted:
        levels = _asked_levels(asking, line, counted)
        if levels is None:
            return {}
        found = {(line, name): TableLine(kind=KINDS[line], level=mm) for name, mm in levels.items()}
    for name in names:
        if (line, name.key) in found:
            continue
        length = asking.lengths.maybe(name.level) if name.level else _load(asking)
        if length is not None:
            angle = float(name.angle or 0.0)
            found[line, name.key] = TableLine(kind=KINDS[line], level=length[0], angle=angle)
        elif name.level:
            number = next(row.number for row in rows if row.name == name)
            why = "where this line lies cannot be read: the row is left out"
            asking.read.left_out.append(LeftOut(number, 1, name.level, why))
        else:
            return {}
    return found


def _load(asking: _Asking) -> tuple[float, str] | None:
    """The height of the load waterline; None where it has to be asked for."""
    said = asking.said.get(Asked.LOAD, "")
    if not said and asking.load is not None:
        return asking.load, ""
    length = asking.lengths.said.maybe(said) if said else None
    if length is None:
        text = "How high is the load waterline above the base of this table?"
        asking.ask(Asked.LOAD, text, asking.lengths.hint(250.0))
    return length


def _counted(levels: list[str]) -> dict[str, int]:
    """Levels that are only counted (1, 2, 3; A, B, C; I, II, III): each with its number; none where they are lengths."""
    found: dict[str, int] = {}
    for level in levels:
        text = level.strip().upper().rstrip(".")
        if text.isdigit() and int(text) <= 30:
            found[level] = int(text)
        elif text in ROMAN:
            found[level] = ROMAN[text]
        elif re.fullmatch("[A-H]", text):
            found[level] = ord(text) - 64
        else:
            return {}
    numbers = sorted(found.values())
    steps = {b - a for a, b in zip(numbers[:-1], numbers[1:], strict=True)}
    return found if numbers and numbers[0] <= 2 and steps <= {1} else {}


def _asked_levels(asking: _Asking, line: Line, counted: dict[str, int]) -> dict[str, float] | None:
    what, far = ("waterlines", "How high are they")
    if line is not Line.WATERLINE:
        what, far = ("buttocks", "How far out do they lie")
    said, hint = asking.said.get(ASKED[line], ""), asking.lengths.hint(100.0)
    if not said:
        text = (
            f"The {what} {', '.join(counted)} are only numbered. {far}? Give their spacing, counted from the base or the "
            "centreline, or all of them one after the other."
        )
        asking.ask(ASKED[line], text, hint)
        return None
    parts = [part for part in re.split(r"[;,]\s*|\s{2,}", said.strip()) if part]
    own = [length[0] for part in parts if (length := asking.lengths.said.maybe(part)) is not None]
    if len(own) != len(parts) or len(own) not in (1, len(counted)):
        asking.ask(ASKED[line], f"“{said}” is neither one spacing nor {len(counted)} lengths. {far}?", hint)
        return None
    if len(own) == 1:
        return {name: n * own[0] for name, n in counted.items()}
    return dict(zip(sorted(counted, key=lambda name: counted[name]), own, strict=True))


def _asked_diagonals(asking: _Asking, names: list[str]) -> Planes:
    said = asking.said.get(Asked.DIAGONALS, "")
    if said.strip() == "-":
        return {}
    found: Planes = {}
    for name, part in zip(names, re.split(r"[;,]\s*", said), strict=False):
        level, _, angle = part.partition("@")
        length = asking.lengths.said.maybe(level.strip())
        if length is None or not re.fullmatch(r"\s*\d+(?:\.\d+)?\s*°?\s*", angle):
            break
        found[Line.DIAGONAL, name] = TableLine(kind=LineKind.DIAGONAL, level=length[0], angle=float(angle.strip(" °")))
    if len(found) != len(names):
        text = (
            f"Where do the diagonals {', '.join(names)} lie? For each the height at which it leaves the centreline @ its angle "
            "down from level in degrees; - leaves all of them out."
        )
        hint = "; ".join(f"{asking.lengths.hint(400.0)} @ 40" for _ in names)
        asking.ask(Asked.DIAGONALS, text, hint)
    return found

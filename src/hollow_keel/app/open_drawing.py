"""A job from a lines drawing, what each layer is said by names: the command line's way."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from ..core.errors import InputError
from ..core.job import Job
from ..core.offsets.from_curves import Taken
from ..core.offsets.table import read_lines
from ..core.units import LengthUnit, parse_length
from ..files.lines.drawing import ORIGINS, LayerRole, LinesDrawing, Role, offsets_from_drawing, origins_of, positions_of
from ..files.tables.numbers import FACTORS
from .processes.foreign import read_foreign

ROLES = {role.name.lower().replace("_", "-"): role for role in Role}
"""What a layer can be, by its name on the command line."""
EVERY_MM = 500.0


def job_from_drawing(path: Path, said: Mapping[str, str], option: str) -> tuple[Job, Taken]:
    """The job and what should be known of it. `said`: each layer's name with what it is and where (`st1`: `station 500`), `unit`,
    the origins of the views in the drawing's own numbers, `bow` (left or right), `siding`, `every`. Raises InputError."""
    drawing: LinesDrawing = read_foreign("drawing", path)
    mm = FACTORS.get(said["unit"]) if "unit" in said else drawing.mm
    if mm is None:
        raise InputError(
            "this drawing does not say what one of its units is on the hull",
            path.name,
            said.get("unit", ""),
            f"Say it with {option} unit=mm ({', '.join(FACTORS)}).",
        )
    roles = _roles(drawing, said, path, option)
    siding, every = (_length(said[key], key) if key in said else usual for key, usual in (("siding", 0.0), ("every", EVERY_MM)))
    origins = origins_of({name: said[name] for name in ORIGINS if name in said}, bow_left=said.get("bow", "left") == "left")
    taken = offsets_from_drawing(drawing, roles, origins, mm, siding, every)
    read_lines(taken.table)
    return Job(name=path.stem, offsets=taken.table), taken


def _roles(drawing: LinesDrawing, said: Mapping[str, str], path: Path, option: str) -> dict[str, LayerRole]:
    roles = {name: _role(said[name.lower()], name, len(curves)) for name, curves in drawing.layers.items() if name.lower() in said}
    if not roles:
        first = next(iter(drawing.layers))
        raise InputError(
            "nothing says what the layers of this drawing are",
            path.name,
            ", ".join(drawing.layers),
            f'Say it layer by layer: {option} "{first}=station 500". A layer can be: {", ".join(ROLES)}.',
        )
    return roles


def _role(text: str, name: str, count: int) -> LayerRole:
    word, _, places = text.strip().partition(" ")
    role = ROLES.get(word.lower())
    if role is None:
        raise InputError("a layer can be no such thing", name, word, f"It can be: {', '.join(ROLES)}.")
    if role is Role.STATIONS:
        return LayerRole(role, 0.0, positions_of(places, count, lambda part: _length(part, name)))
    return LayerRole(role, _length(places, name) if places.strip() else 0.0)


def _length(text: str, where: str) -> float:
    try:
        return parse_length(text, LengthUnit.MM)
    except InputError as error:
        raise error.at(where) from None

"""Opening what a builder has: a job file, a table of offsets in whatever habit, a scanned hull, a lines drawing."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path

from ..core.errors import InputError
from ..core.job import Job
from ..core.offsets.table import read_lines
from ..files.offsets.plan import parse_offsets_json
from ..files.offsets.points_csv import OffsetsFile, is_own_csv, read_offsets_csv
from ..files.store.job_file import BACKUP, SUFFIX, load_job
from ..files.tables.grid import SPREADSHEETS, Grid, grids_of
from ..files.tables.text_table import read_text
from .processes.foreign import read_foreign

# What reads tables is loaded when there is one: starting must not wait for it.

DRAWINGS = frozenset({".dxf", ".svg"})
MESHES = frozenset({".stl", ".obj", ".ply"})
TABLES = frozenset({".csv", ".txt", ".tsv"}) | SPREADSHEETS
HOW = "--read"
"""The command line's option that answers what a file leaves open."""
MEND = "Head the columns station_mm,label,half_breadth_mm,height_mm, or see Getting offsets in."


def _nobody(_text: str) -> None:
    """Nobody listens."""


@dataclass(frozen=True)
class AsRead:
    """How a file is to be read, by names, and who is told what was made of it."""

    said: Mapping[str, str]
    told: Callable[[str], None] = _nobody


PLAINLY = AsRead({})


def open_job(path: Path, how: AsRead = PLAINLY) -> Job:
    """A job from a job file or its backup, or a new one from a table of offsets, a mesh or a lines drawing. Raises InputError."""
    if path.exists() and not (path.is_file() or path.is_dir()):
        raise InputError("this is no file, but a device or a pipe", value=path.name, mend="Save it as a file, and open that.")
    if is_job_file(path) or path.name.lower().endswith(SUFFIX + BACKUP):
        return load_job(path)
    if path.suffix.lower() in MESHES:
        return _job_from_mesh(path, how)
    if path.suffix.lower() in DRAWINGS:
        return _job_from_drawing(path, how)
    return job_from_offsets(path, how)


def is_job_file(path: Path) -> bool:
    """Whether what is opened from here is saved here again; a backup and a table of offsets are not written over."""
    return path.suffix.lower() == SUFFIX


def is_table(path: Path) -> bool:
    """Whether a file can be shown as a table before it is taken."""
    return path.is_file() and path.suffix.lower() in TABLES


def is_own(path: Path) -> bool:
    """Whether a table is headed as we head our own: then it is read strictly. Raises InputError for what is no text."""
    if path.suffix.lower() in SPREADSHEETS:
        return False
    try:
        return is_own_csv(read_text(path))
    except InputError as error:
        raise error.at(path.name) from None


def leaves_open(path: Path) -> bool:
    """Whether a file holds a table that leaves a question open: it can be answered where it is shown."""
    from ..files.tables.reading import understand

    try:
        return is_table(path) and not is_own(path) and bool(understand(grids(path)).questions)
    except InputError:
        return False


def grids(path: Path) -> list[Grid]:
    """The tables of a file; a spreadsheet is another program's. Raises InputError."""
    if path.suffix.lower() not in SPREADSHEETS:
        return grids_of(path)
    found: list[Grid] = read_foreign("tables", path)
    return found


def job_from_offsets(path: Path, how: AsRead = PLAINLY) -> Job:
    """A new job around the table in a file; the table's order is checked. Raises InputError, also for a question that the
    table leaves open."""
    from ..core.offsets.knuckles import read_marked

    given = _offsets_of(path, how)
    table, notes = read_marked(given.table)
    for text in notes:
        how.told(f"{path.name}: {text}")
    return Job(name=given.name or path.stem, offsets=table, waterline=given.waterline)


def _offsets_of(path: Path, how: AsRead) -> OffsetsFile:
    if path.suffix.lower() == ".json":
        return _read_json(path)
    if not is_own(path):
        return _understood(path, how)
    try:
        return read_offsets_csv(path)
    except InputError as fault:
        return _nearly_own(path, how, fault)


def _nearly_own(path: Path, how: AsRead, fault: InputError) -> OffsetsFile:
    """A table that is headed as ours, but is not strictly so: read as any other where nothing of it is left out or left open.
    Raises the `fault` of the strict reading where something is."""
    from ..files.tables.reading import understand

    try:
        found = understand(grids(path))
    except InputError:
        raise fault from None
    if found.table is None or found.problem or found.questions or found.left_out:
        raise fault
    return _understood(path, how)


def _read_json(path: Path) -> OffsetsFile:
    try:
        return parse_offsets_json(read_text(path))
    except InputError as error:
        raise error.at(path.name) from None


def _understood(path: Path, how: AsRead) -> OffsetsFile:
    from ..files.tables.reading import INSIDE, OUTSIDE, all_left_out, understand
    from ..files.tables.understood import Answers, Asked

    answers = Answers({about: how.said[about.value] for about in Asked if about.value in how.said})
    side = answers.said.get(Asked.SIDE, OUTSIDE)
    if side not in (INSIDE, OUTSIDE):
        raise InputError("offsets are to one side of the planking", path.name, side, f"Say {HOW} offsets-to=inside or =outside.")
    found = understand(grids(path), answers)
    if found.questions:
        asked = found.questions[0]
        choices = f" ({', '.join(asked.choices)})" if asked.choices else ""
        example = next(iter(asked.choices), asked.hint.replace(" ", "") or "…")
        raise InputError(
            f"this table leaves a question open: {asked.text}{choices}".rstrip(".?"),
            path.name,
            mend=f"Answer it with {HOW} {asked.about.value}={example}, or bring the table in through the window.",
        )
    if found.table is None or found.problem:
        raise InputError(found.problem.rstrip("."), path.name, mend="" if found.table else MEND)
    for text in (*found.notes, *all_left_out(found)):
        how.told(f"{path.name}: {text}")
    return OffsetsFile(found.table, found.name, found.waterline)


def _job_from_drawing(path: Path, how: AsRead) -> Job:
    from .open_drawing import job_from_drawing

    job, taken = job_from_drawing(path, how.said, HOW)
    for text in taken.remarks:
        how.told(f"{path.name}: {text}")
    return job


def _job_from_mesh(path: Path, how: AsRead) -> Job:
    from ..files.mesh.hull import AXES, MeshHull, Placing, likely_placing
    from ..files.mesh.offsets import offsets_from_mesh
    from ..files.tables.numbers import FACTORS

    mesh: MeshHull = read_foreign("mesh", path)
    likely = likely_placing(mesh)
    unit = how.said.get("unit", "")
    if unit not in FACTORS:
        raise InputError(
            "a mesh does not say in which unit it is",
            path.name,
            unit,
            f"Say it with {HOW} unit=mm ({', '.join(FACTORS)}); {HOW} bow=high where the bow is at the high end.",
        )
    pose = None if {"along", "up"} & set(how.said) else mesh.pose
    if pose is not None and not pose.bow_clear and "bow" not in how.said:
        raise InputError(
            "which end is the bow is not plain from its shape",
            path.name,
            "",
            f"Say it with {HOW} bow=found for the end that was found, or bow=other.",
        )
    placing = Placing(
        how.said.get("along", likely.along),
        how.said.get("up", likely.up),
        how.said.get("bow", "found") in ("found", "low"),
        FACTORS[unit],
        pose,
    )
    if {placing.along, placing.up} - set(AXES):
        raise InputError("an axis is x, y or z", path.name, f"{placing.along}, {placing.up}", f"Say it with {HOW} up=z.")
    long = float(mesh.sizes[AXES.index(placing.along)]) * placing.scale
    taken = offsets_from_mesh(mesh, placing, round(long / 12, 0))
    for text in taken.remarks:
        how.told(f"{path.name}: {text}")
    read_lines(taken.table)
    return Job(name=path.stem, offsets=taken.table)

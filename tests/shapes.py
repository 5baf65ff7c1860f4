"""Hulls with a known truth, as tables of offsets (mm, exact unless rounded)."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from hollow_keel.app.exports import export_named
from hollow_keel.core.findings import Finding
from hollow_keel.core.hull.build import Hull, build_hull
from hollow_keel.core.hull.stages import SETTLED
from hollow_keel.core.job import BeamSettings, FormSettings, Job, LogSettings, TrimSettings, VeneerSettings
from hollow_keel.core.molds.cut_stages import PIECES, PRINTED, PROUD
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable, read_lines
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.setup.stages import SURVEYS
from hollow_keel.demo.jobs import linnet


def written(kind: str, job: Job) -> bytes:
    """A kind of file, made from no more than it names."""
    export = export_named(kind)
    return export.write(Pipeline().results(job, export.needs, glad_of=export.glad_of))


def strip_planked(job: Job) -> Job:
    """A job without its layers of veneer: its strips alone are the skin."""
    blank = {"veneers": VeneerSettings(), "form": FormSettings()}
    own = {"skin": 16.0, "strapping": 0.0}
    if not job.veneers.layers:
        return job
    return job.model_copy(update={**blank, "molds": job.molds.model_copy(update=own)})


Section = Callable[[float, np.ndarray], tuple[np.ndarray, np.ndarray]]


def station_rows(x: float, y: np.ndarray, z: np.ndarray) -> list[OffsetRow]:
    last = len(y) - 1
    return [
        OffsetRow(station=x, label={0: "keel", last: "sheer"}.get(k, "wl"), half_breadth=float(a), height=float(b))
        for k, (a, b) in enumerate(zip(y, z, strict=True))
    ]


def end_rows(label: str, points: np.ndarray) -> list[OffsetRow]:
    return [OffsetRow(station=float(x), label=label, half_breadth=float(y), height=float(z)) for x, y, z in points]


def round_hull(radius: Callable[[float], float], stations: np.ndarray, points: int = 13) -> OffsetsTable:
    """A half-round hull about the x axis, open side up, a transom at the first and the last station."""
    angle = np.linspace(0, np.pi / 2, points)
    rows: list[OffsetRow] = []
    for k, x in enumerate(stations.tolist()):
        y, z = radius(x) * np.sin(angle), -radius(x) * np.cos(angle)
        z[-1] = 0.0
        y[0] = 0.0
        if k in (0, len(stations) - 1):
            rows += end_rows("transom", np.column_stack([np.full(points, x), y, z]))
        else:
            rows += station_rows(x, y, z)
    return OffsetsTable(rows=tuple(rows))


def cylinder(radius: float = 500.0, length: float = 3000.0) -> OffsetsTable:
    return round_hull(lambda _: radius, np.linspace(0, length, 9))


def cone(half_angle: float = np.radians(9), first: float = 700.0, last: float = 4800.0) -> OffsetsTable:
    return round_hull(lambda x: x * np.tan(half_angle), np.linspace(first, last, 9))


def sphere_zone(radius: float = 1000.0, reach: float = 600.0) -> OffsetsTable:
    """The lower half of a sphere between x = -reach and reach (positions shifted so that they grow from 0)."""
    return round_hull(lambda x: float(np.sqrt(radius**2 - (x - reach) ** 2)), np.linspace(0, 2 * reach, 33), 25)


def spheroid_zone(a: float = 2300.0, b: float = 520.0, reach: float = 1700.0) -> OffsetsTable:
    return round_hull(lambda x: float(b * np.sqrt(1 - ((x - reach) / a) ** 2)), np.linspace(0, 2 * reach, 33), 25)


WIGLEY = (4000.0, 800.0, 300.0)


def wigley_breadth(x: np.ndarray | float, z: np.ndarray | float) -> np.ndarray:
    """Half-breadth; x from the bow aft, z from the waterline (0) down to -T. W. C. S. Wigley, 1934."""
    length, beam, draft = WIGLEY
    along = 1 - (2 * (np.asarray(x) - length / 2) / length) ** 2
    return beam / 2 * along * (1 - (np.asarray(z) / draft) ** 2)


def wigley(stations: int = 11) -> OffsetsTable:
    """So many stations between the stems."""
    length, _, draft = WIGLEY
    z = np.linspace(-draft, 0, 13)
    ends = [np.column_stack([np.full(13, x), np.zeros(13), z]) for x in (0.0, length)]
    rows = end_rows("stem_bow", ends[0])
    for x in np.linspace(0, length, stations + 2)[1:-1]:
        rows += station_rows(float(x), wigley_breadth(float(x), z), z)
    return OffsetsTable(rows=(*rows, *end_rows("stem_stern", ends[1])))


def hull_of(table: OffsetsTable) -> Hull:
    return build_hull(read_lines(table))


def unworked(job: Job) -> Job:
    """A job before anything was measured on its planking."""
    return job.model_copy(update={"planked": None})


def bare_linnet() -> Job:
    """Linnet without sheer, beams and log: they have tests of their own, and no other waits for them."""
    return linnet().model_copy(update={"trim": TrimSettings(), "beams": BeamSettings(), "log": LogSettings()})


CHECKS = (SETTLED, PIECES, PROUD, PRINTED, SURVEYS)


def checked(job: Job) -> tuple[Finding, ...]:
    """What is found where table, molds and set-up are looked at more closely."""
    results = Pipeline().results(job, CHECKS)
    return tuple(f for stage in CHECKS for f in stage.findings(results[stage]))

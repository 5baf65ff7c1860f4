"""A whole job changed at once: counted from the other end, its baseline moved, scaled, cut at new stations. Everything that is told
by a position, a height, a side or a mold's name goes with the table: what a length lies along is told with it (settings/axis.py),
and only what is more than that stands here. What fairing moved stays what fairing moved, what was measured stays measured."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from functools import partial

from .by_axis import LEFT, BoatChange
from .job import Job, Layer, MasterLine, Opening, TrimSettings
from .offsets.table import OffsetsTable
from .offsets.transform import raised, scaled, turned
from .offsets.typed_sheet import TypedSheet
from .settings.axis import Axis
from .settings.layout import Placed
from .settings.progress import Planked
from .settings.readings import ArcReading, EyeReading
from .settings.sheer_choices import SeenFrom
from .settings.survey import Survey
from .settings.timber import MadeStrip

_OTHER_SIDE = {"port": "starboard", "starboard": "port"}
SQUARE_DEG = 90.0


def job_turned(job: Job, molds: Sequence[tuple[str, float]], zero_at: float | None, bases: Sequence[float] = ()) -> Job:
    """Counted from the other end: bow and stern are exchanged, and so are port and starboard. `molds` are the names and stations
    there are now, and `zero_at` where distances are measured from, mm (None: not known, what depends on it is left); `bases` where
    arcs are swung from, if they were left to us."""
    last = max(row.station for row in job.offsets.rows)
    names = dict(zip((name for name, _ in molds), (name for name, _ in reversed(molds)), strict=True))
    job = _pinned(job, molds, zero_at, bases)

    def away(value: float) -> float:
        return -value

    change = BoatChange(
        {Axis.POSITION: lambda x: last - x, Axis.OFF: away, Axis.LEAN: away},
        turned=True,
        names=names | {f"mold {a}": f"mold {b}" for a, b in names.items()} | _quarters_turned(),
        own={
            OffsetsTable: lambda own: turned(own, last),
            TypedSheet: LEFT,
            Opening: lambda own: change.plainly(own).model_copy(update={"forward": -own.forward}),
            Layer: _layer_turned,
            MadeStrip: _cut_turned,
            Placed: partial(_placed_turned, names=names),
        },
    )
    return change.of(job)


def _pinned(job: Job, molds: Sequence[tuple[str, float]], zero_at: float | None, bases: Sequence[float]) -> Job:
    """What is counted from an end, told by its place: molds at even steps stand where they stood."""
    every, setup, trim = job.molds.every, job.setup, job.trim
    if every and molds:
        own = {"stations": job.molds.stations or tuple(x for _, x in molds), "every": None}
        job = job.model_copy(update={"molds": job.molds.model_copy(update=own)})
    if setup.first_face is None and zero_at is not None:
        job = job.model_copy(update={"setup": setup.model_copy(update={"zero_at": zero_at})})
    if bases and trim.arcs and not trim.bases:
        job = job.model_copy(update={"trim": trim.model_copy(update={"bases": tuple(bases)})})
    return job


def _quarters_turned() -> dict[str, str]:
    """Names of heads between the last molds and the ends of the sheer, from the other end."""
    return {
        f"{own} quarter {k}": f"{other} quarter {k}" for own, other in (("bow", "stern"), ("stern", "bow")) for k in range(1, 4)
    }


def _layer_turned(layer: Layer) -> Layer:
    """A diagonal that climbs aft climbs forward."""
    return layer if abs(layer.angle) == SQUARE_DEG else layer.model_copy(update={"angle": -layer.angle + 0.0})


def _cut_turned(strip: MadeStrip) -> MadeStrip:
    """Its pieces and joints from its other end. A joint takes twice what the first piece reaches past its middle."""
    lengths = [p.length for p in strip.pieces]
    taken = 2 * (lengths[0] - strip.joints[0]) if strip.joints else 0.0
    whole = sum(lengths) - taken * len(strip.joints)
    joints = tuple(max(whole - j, 0.0) for j in reversed(strip.joints))
    return strip.model_copy(
        update={"side": _OTHER_SIDE.get(strip.side, strip.side), "pieces": strip.pieces[::-1], "joints": joints}
    )


def _placed_turned(placed: Placed, names: Mapping[str, str]) -> Placed:
    """A part of a mold on a sheet, by the mold's other name."""
    head, space, rest = placed.name.partition(" ")
    return placed.model_copy(update={"name": names.get(head, head) + space + rest})


def job_raised(job: Job, by: float) -> Job:
    """All heights `by` mm more: the baseline moved down by as much."""
    change = BoatChange(
        {Axis.HEIGHT: lambda z: z + by},
        own={
            OffsetsTable: lambda own: raised(own, by),
            TypedSheet: LEFT,
            TrimSettings: lambda own: _curve_kept(change.plainly(own), own, lambda y: y),
        },
    )
    return change.of(job)


def _curve_kept(changed: TrimSettings, was: TrimSettings, across: Callable[[float], float]) -> TrimSettings:
    """A trimming curve's points are heights, but seen from above they are half-breadths."""
    if was.curve_seen is SeenFrom.SIDE:
        return changed
    return changed.model_copy(update={"curve_to": tuple(map(across, was.curve_to))})


def job_scaled(job: Job, length: float, beam: float, depth: float) -> Job:
    """Positions times `length`, half-breadths times `beam`, heights times `depth` (bare numbers), and so all distances along,
    across and up that are the boat's; wood, tools and strongback stay. What was measured belongs to the hull as it was: it is kept,
    and not judged against the new one. Raises InputError for a factor out of reason."""
    if (length, beam, depth) == (1.0, 1.0, 1.0):
        return job

    def along(x: float) -> float:
        return x * length

    def across(y: float) -> float:
        return y * beam

    def up(z: float) -> float:
        return z * depth

    def master(own: MasterLine) -> MasterLine:
        angle = math.degrees(math.atan(math.tan(math.radians(own.angle)) * depth / beam))
        return change.plainly(own).model_copy(update={"angle": angle})

    change = BoatChange(
        {Axis.POSITION: along, Axis.ALONG: along, Axis.OFF: across, Axis.ACROSS: across, Axis.HEIGHT: up, Axis.UP: up},
        own={
            OffsetsTable: lambda own: scaled(own, length, beam, depth),
            TypedSheet: LEFT,
            MasterLine: master,
            TrimSettings: lambda own: _curve_kept(change.plainly(own), own, across),
            Survey: _of_another_hull,
            Planked: Planked.put_by,
            ArcReading: LEFT,
            EyeReading: LEFT,
        },
    )
    return change.of(job)


def _of_another_hull(survey: Survey) -> Survey:
    return survey if survey.on is None else survey.model_copy(update={"on": survey.on.of_another_hull()})


def job_restationed(job: Job, table: OffsetsTable, molds: Sequence[tuple[str, float]]) -> Job:
    """The job with a table of other stations. Where anything was read, printed or cut by the names of the molds at the old ones,
    `molds`, these stand where they stood."""
    changed = job.model_copy(update={"offsets": table})
    follow = not job.molds.stations and not job.molds.every
    read = (
        any(s.readings for s in job.surveys),
        job.planked,
        job.printed,
        job.layout,
        job.trim.arcs,
        job.trim.eye,
        any(entry.molds for entry in job.log.entries),
    )
    if not (follow and any(read) and molds):
        return changed
    own = job.molds.model_copy(update={"stations": tuple(x for _, x in molds)})
    return changed.model_copy(update={"molds": own})

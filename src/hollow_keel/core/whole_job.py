"""A whole job changed at once: counted from the other end, its baseline moved, scaled. Everything that is told by a position, a
height or a mold's name goes with the table: what fairing moved stays what fairing moved, what was measured stays measured."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

from .job import Job, MasterLine, MoldSettings, Printed, SetupSettings, StripSettings
from .offsets.table import OffsetsTable
from .offsets.transform import raised, scaled, turned
from .settings.layout import Layout
from .settings.mold_choices import FaceChoice
from .settings.progress import GirthLeft, Look, Planked
from .settings.setup_choices import HullEnd
from .settings.survey import MeasuredOn, Reading, Survey
from .settings.timber import MadeStrip

_OTHER_END = {HullEnd.BOW: HullEnd.STERN, HullEnd.STERN: HullEnd.BOW}
_OTHER_FACE = {FaceChoice.FORWARD: FaceChoice.AFT, FaceChoice.AFT: FaceChoice.FORWARD}
_OTHER_SIDE = {"port": "starboard", "starboard": "port"}


def job_turned(job: Job, molds: Sequence[tuple[str, float]], zero_at: float | None) -> Job:
    """Counted from the other end: bow and stern are exchanged, and so are port and starboard. `molds` are the names and stations
    there are now, and `zero_at` where distances are measured from, mm (None: not known, what depends on it is left)."""
    last = max(row.station for row in job.offsets.rows)
    names = dict(zip((name for name, _ in molds), (name for name, _ in reversed(molds)), strict=True))
    return job.model_copy(
        update={
            "offsets": turned(job.offsets, last),
            "unfaired": None if job.unfaired is None else turned(job.unfaired, last),
            "molds": _molds_turned(job.molds, molds, last),
            "setup": _setup_turned(job.setup, zero_at, last),
            "strips": _strips_turned(job.strips, last),
            "plans": tuple(_strips_turned(p, last) for p in job.plans),
            "surveys": tuple(_survey_turned(s, names, last) for s in job.surveys),
            "planked": None if job.planked is None else _planked_turned(job.planked, names),
            "stock": job.stock.model_copy(update={"cut": tuple(_cut_turned(c) for c in job.stock.cut)}),
            "printed": tuple(Printed(mold=names.get(p.mold, p.mold), was=p.was) for p in job.printed),
            "layout": None if job.layout is None else _layout_turned(job.layout, names),
        }
    )


def _molds_turned(molds: MoldSettings, stand: Sequence[tuple[str, float]], last: float) -> MoldSettings:
    given = molds.stations or tuple(x for _, x in stand if molds.every)
    return molds.model_copy(
        update={
            "stations": tuple(sorted(last - x for x in given)),
            "every": None if molds.every and stand else molds.every,  # they stand where they stood
            "faces": _OTHER_FACE.get(molds.faces, molds.faces),
        }
    )


def _setup_turned(setup: SetupSettings, zero_at: float | None, last: float) -> SetupSettings:
    kept = (
        setup.zero_at if setup.first_face is not None else zero_at if zero_at is not None else setup.zero_at
    )
    return setup.model_copy(
        update={
            "zero_end": _OTHER_END[setup.zero_end],
            "zero_at": None if kept is None else last - kept,
        }
    )


def _strips_turned(strips: StripSettings, last: float) -> StripSettings:
    def other(x: float | None) -> float | None:
        return None if x is None else last - x

    return strips.model_copy(
        update={
            "master": _master_changed(strips.master, lambda x: last - x, lambda z: z),
            "mixed_from": other(strips.mixed_to),
            "mixed_to": other(strips.mixed_from),
        }
    )


def _master_changed(
    master: MasterLine, along: Callable[[float], float], up: Callable[[float], float]
) -> MasterLine:
    return master.model_copy(
        update={
            "height": None if master.height is None else up(master.height),
            "heights": tuple(sorted((along(x), up(z)) for x, z in master.heights)),
        }
    )


def _survey_turned(survey: Survey, names: Mapping[str, str], last: float) -> Survey:
    def other(reading: Reading) -> Reading:
        values = reading.model_dump()
        values["mold"] = names.get(reading.mold, reading.mold)
        for what in ("along", "height"):
            values[f"{what}_port"], values[f"{what}_starboard"] = (
                values[f"{what}_starboard"],
                values[f"{what}_port"],
            )
        for what in ("centre_low", "centre_high", "lean"):  # to what was port, to what was the bow
            values[what] = None if values[what] is None else -values[what] + 0.0
        return Reading.model_validate(values)

    on = survey.on
    if on is not None:
        on = on.model_copy(update={"zero_end": _OTHER_END[on.zero_end], "zero_at": last - on.zero_at})
    return survey.model_copy(update={"readings": tuple(other(r) for r in survey.readings), "on": on})


def _planked_turned(planked: Planked, names: Mapping[str, str]) -> Planked:
    def other(rows: tuple[GirthLeft, ...]) -> tuple[GirthLeft, ...]:
        return tuple(
            GirthLeft(mold=names.get(r.mold, r.mold), port=r.starboard, starboard=r.port) for r in rows
        )

    earlier = tuple(Look(strips=k.strips, left=other(k.left)) for k in planked.earlier)
    return planked.model_copy(update={"left": other(planked.left), "earlier": earlier})


def _cut_turned(strip: MadeStrip) -> MadeStrip:
    """Its pieces and joints from its other end. A joint takes twice what the first piece reaches past its middle."""
    lengths = [p.length for p in strip.pieces]
    taken = 2 * (lengths[0] - strip.joints[0]) if strip.joints else 0.0
    whole = sum(lengths) - taken * len(strip.joints)
    joints = tuple(max(whole - j, 0.0) for j in reversed(strip.joints))
    return strip.model_copy(
        update={
            "side": _OTHER_SIDE.get(strip.side, strip.side),
            "pieces": strip.pieces[::-1],
            "joints": joints,
        }
    )


def _layout_turned(layout: Layout, names: Mapping[str, str]) -> Layout:
    def renamed(name: str) -> str:
        head, space, rest = name.partition(" ")
        return names.get(head, head) + space + rest

    placed = tuple(p.model_copy(update={"name": renamed(p.name)}) for p in layout.placed)
    return layout.model_copy(update={"placed": placed})


def job_raised(job: Job, by: float) -> Job:
    """All heights `by` mm more: the baseline moved down by as much."""

    def up(z: float) -> float:
        return z + by

    def strips(own: StripSettings) -> StripSettings:
        return own.model_copy(update={"master": _master_changed(own.master, lambda x: x, up)})

    def survey(own: Survey) -> Survey:
        on: MeasuredOn | None = own.on
        return (
            own
            if on is None
            else own.model_copy(update={"on": on.model_copy(update={"level": up(on.level)})})
        )

    return job.model_copy(
        update={
            "offsets": raised(job.offsets, by),
            "unfaired": None if job.unfaired is None else raised(job.unfaired, by),
            "waterline": None if job.waterline is None else up(job.waterline),
            "strips": strips(job.strips),
            "plans": tuple(strips(p) for p in job.plans),
            "surveys": tuple(survey(s) for s in job.surveys),
        }
    )


def job_scaled(job: Job, length: float, beam: float, depth: float) -> Job:
    """Positions times `length`, half-breadths times `beam`, heights times `depth` (bare numbers). What was measured belongs to the
    hull as it was: it is kept, and not judged against the new one. Raises InputError for a factor out of reason."""

    def table(own: OffsetsTable) -> OffsetsTable:
        return scaled(own, length, beam, depth)

    def along(x: float | None) -> float | None:
        return None if x is None else x * length

    def strips(own: StripSettings) -> StripSettings:
        angle = math.degrees(math.atan(math.tan(math.radians(own.master.angle)) * depth / beam))
        master = _master_changed(own.master, lambda x: x * length, lambda z: z * depth)
        return own.model_copy(
            update={
                "master": master.model_copy(update={"angle": angle}),
                "mixed_from": along(own.mixed_from),
                "mixed_to": along(own.mixed_to),
            }
        )

    if (length, beam, depth) == (1.0, 1.0, 1.0):
        return job
    molds = job.molds.model_copy(
        update={
            "stations": tuple(x * length for x in job.molds.stations),
            "every": along(job.molds.every),
            "spall_above": None if job.molds.spall_above is None else job.molds.spall_above * depth,
        }
    )
    return job.model_copy(
        update={
            "offsets": table(job.offsets),
            "unfaired": None if job.unfaired is None else table(job.unfaired),
            "waterline": None if job.waterline is None else job.waterline * depth,
            "molds": molds,
            "setup": job.setup.model_copy(update={"zero_at": along(job.setup.zero_at)}),
            "strips": strips(job.strips),
            "plans": tuple(strips(p) for p in job.plans),
            "surveys": tuple(_of_another_hull(s) for s in job.surveys),
            "planked": None if job.planked is None else job.planked.put_by(),
        }
    )


def _of_another_hull(survey: Survey) -> Survey:
    return survey if survey.on is None else survey.model_copy(update={"on": survey.on.of_another_hull()})

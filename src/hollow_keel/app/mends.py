"""Mends of findings: the job with what was found put right, to be tried before it is kept."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from ..core.amounts import far_length
from ..core.change import change
from ..core.errors import HollowKeelError
from ..core.fairing.stages import TABLE_SLIPS
from ..core.findings import Finding, in_words
from ..core.hull.stages import MEASURES
from ..core.job import Job, StripEdge
from ..core.molds.stages import BAYS, MOLDS
from ..core.planking.bands import Band, with_band
from ..core.planking.stages import BEHAVIOURS, PLANKING
from ..core.results import Results
from ..core.settings.mold_choices import StringerNotches
from ..core.settings.setup_choices import Strongback
from ..core.settings.strip_choices import StripLayout
from ..core.units import INCHES, MM_PER_INCH, format_length, round_to
from ..core.words import counted


@dataclass(frozen=True)
class Mend:
    """What a button says, and the job that it makes."""

    text: str
    job: Job


def _slip(results: Results) -> Mend | None:
    """The table with its likeliest slip put right."""
    slips = results.get(TABLE_SLIPS)
    if not slips:
        return None
    text = in_words(slips[0].mend, lambda mm: format_length(mm, results.job.units.style, unit=True))
    return Mend(text, change(results.job, "", offsets=slips[0].table))


def _half_widths(results: Results) -> Mend | None:
    """Strips that will not go on split into two half widths: twice as many of them, so the later runs move on."""
    from ..core.planking.mechanics import HARD, named_ranges, ranges

    strips, planking, found = results.job.strips, results.get(PLANKING), results.get(BEHAVIOURS)
    if planking is None or found is None or strips.layout is not StripLayout.PARALLEL or strips.edge is not StripEdge.SQUARE:
        return None
    places = planking.places
    hard = {places[n] for n, behaviour in found.items() if behaviour.grade in HARD}
    hard_runs = ranges(hard)
    if not hard_runs or len(hard_runs) > 3 or strips.width / 2 < strips.thickness / 2:
        return None
    zones, more = strips.zones, 0
    for first, last in hard_runs:
        count = last - first + 1
        band = Band(first + more, last + more + count, strips.width / 2)
        zones = with_band(zones, band)
        more += count
    return Mend(f"Half widths {named_ranges(hard)}", change(results.job, "strips", zones=zones))


def _no_widths(results: Results) -> Mend:
    """The widths that are not used taken out of the strips that differ."""
    zones = tuple(zone.model_copy(update={"width": None}) for zone in results.job.strips.zones)
    kept = tuple(zone for zone in zones if zone.thickness is not None or zone.wood)
    return Mend("Take the widths out", change(results.job, "strips", zones=kept))


def _beam_fitted(results: Results) -> Mend | None:
    """The height of the waterline above the strongback as it fits all molds; where that is so already, no beam at all."""
    if results.job.setup.waterline_above is None:
        return _on_a_table(results)
    return Mend("Let the height be fitted", change(results.job, "setup", waterline_above=None))


def _on_a_table(results: Results) -> Mend | None:
    """No beam through the molds: they stand on legs. None where there is no beam."""
    if results.job.setup.strongback is not Strongback.BEAM:
        return None
    setup = change(results.job, "setup", strongback=Strongback.TABLE, waterline_above=None)
    return Mend("Stand them on a table", setup)


def _no_spall(results: Results) -> Mend:
    return Mend("No cross spall", change(results.job, "molds", spall_above=None))


def _as_wood(results: Results) -> Mend:
    return Mend("Notch them where they lie", change(results.job, "molds", stringer_notches=StringerNotches.AS_WOOD))


ROUND_MM, ROUND_INCH = 10.0, 0.5
"""A mold that is put in between stands at a round number."""


def _one_mold_more(results: Results) -> Mend | None:
    """A mold in the middle of the space where strips leave the lines farthest."""
    found, molds = results.get(BAYS), results.get(MOLDS)
    if found is None or molds is None or found.worst is None:
        return None
    style = results.job.units.style
    step = ROUND_INCH * MM_PER_INCH if style.unit in INCHES else ROUND_MM
    at = round_to(found.worst.middle, step)
    stations = tuple(sorted({*(mold.station for mold in molds.molds), at}))
    return Mend(
        f"One mold more at {format_length(at, style, unit=True)}", change(results.job, "molds", stations=stations, every=None)
    )


MENDS: Mapping[str, Callable[[Results], Mend | None]] = {
    "table-slip": _slip,
    "wide-bay": _one_mold_more,
    "hard": _half_widths,
    "zone-width": _no_widths,
    "beam-misses": _beam_fitted,
    "beam-breaks-out": _beam_fitted,
    "thin-web": _beam_fitted,
    "falls-apart": _on_a_table,
    "spall-misses": _no_spall,
    "stringer-forced": _as_wood,
}
"""By the code of the finding."""


def mend_of(finding: Finding, results: Results) -> Mend | None:
    """How a finding could be put right; None where only the builder can say."""
    make = MENDS.get(finding.code)
    try:
        mend = make(results) if make is not None else None
    except (HollowKeelError, LookupError):
        return None
    return mend if mend is not None and mend.job != results.job else None


def what_changed(before: Results, after: Results) -> str:
    """What another job comes to beside an earlier one, in a few words; empty where nothing that is counted differs."""
    style = after.job.units.style
    said: list[str] = []
    old, new = before.get(PLANKING), after.get(PLANKING)
    if old is not None and new is not None:
        if len(old.strips) != len(new.strips):
            said.append(f"{counted(len(new.strips), 'strip')} a side, not {len(old.strips)}")
        lengths = far_length(old.total_length, style), far_length(new.total_length, style)
        if lengths[0] != lengths[1]:
            said.append(f"{lengths[1]} in all, not {lengths[0]}")
    hard = [_count_hard(results) for results in (before, after)]
    if None not in hard and hard[0] != hard[1]:
        said.append(f"{hard[1]} hard strips, not {hard[0]}")
    old_hull, new_hull = before.get(MEASURES), after.get(MEASURES)
    if old_hull is not None and new_hull is not None and abs(old_hull.volume - new_hull.volume) > 5e-4:
        said.append(f"{new_hull.volume:.3f} m³ below the waterline, not {old_hull.volume:.3f}")
    bays = [found.worst if (found := results.get(BAYS)) is not None else None for results in (before, after)]
    if bays[0] is not None and bays[1] is not None and bays[0].at != bays[1].at:
        off = [format_length(abs(bay.off), style.fine, unit=True) for bay in bays if bay is not None]
        said.append(f"strips stand {off[1]} off the lines at most, not {off[0]}")
    return "; ".join(said)


def _count_hard(results: Results) -> int | None:
    from ..core.planking.mechanics import HARD

    found = results.get(BEHAVIOURS)
    if found is None:
        return None
    return sum(behaviour.grade in HARD for behaviour in found.values())

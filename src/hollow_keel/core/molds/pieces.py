"""The piece of sheet that is cut for a mold: outline and openings, as a whole or as one of two halves."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..geometry.polyline import run_of
from ..job import MoldSettings, SetupSettings
from ..rules import LARGEST_HOLE_MM, LEAST_RING_MM, MOST_HOLES, ROUND_MM, SMALLEST_HOLE_MM, WEB_MM
from ..settings.mold_choices import MoldForm
from ..settings.setup_choices import Strongback
from ..setup.beam import beam_bottom
from .breaking import Breaking, saw_cuts
from .closed import ClosedEdge
from .notches import Notch, notches
from .stand import legs, stand_findings, stand_of
from .stations import Mold
from .stringers import StringerNotch

LEAST_OPENING_MM2 = 2500.0


@dataclass(frozen=True)
class Piece:
    """A mold as it is cut, on its reference face: half-breadths to the right, heights up, mm.

    `outline` (n, 2) and each of `holes` are closed without repeating their first point. `half` tells one of two
    halves that meet on the centreline. Findings name what cannot be cut as asked.
    """

    mold: str
    outline: Array
    holes: tuple[Array, ...]
    half: bool
    findings: tuple[Finding, ...]

    @property
    def why_not(self) -> Finding | None:
        """Why it cannot be cut; None where it can."""
        return next((finding for finding in self.findings if finding.weight is Weight.STOP), None)

    @property
    def area(self) -> float:
        """Area of sheet, mm²."""
        return float(shapely.Polygon(self.outline, self.holes).area)


def make_piece(
    mold: Mold,
    settings: MoldSettings,
    setup: SetupSettings,
    beam_level: float,
    stringers: Sequence[StringerNotch] = (),
    breaking: Breaking | None = None,
) -> Piece:
    """The piece for a mold; `beam_level` is the height of the strongback's top in the hull's own heights, mm; it is
    notched for `stringers`. A closed one is sawn part-way for `breaking`."""
    findings: list[Finding] = stand_findings(mold, setup, beam_level)
    whole = body(mold, settings)
    room = beam_room(setup, beam_level)
    shape = whole
    if settings.form is MoldForm.RING:
        shape = _ring(whole, settings.ring_width, room, mold.name, findings)
    elif settings.form is MoldForm.HOLES:
        shape = _lightened(whole, settings.ring_width, room)
    if room is not None:
        findings += _beam_findings(mold, setup, whole, room)
        shape = shapely.difference(shape, room)
    cuts = notches(mold, settings, stringers)
    findings += _notch_findings(mold, settings, stringers, cuts, whole, room)
    for notch in cuts:
        shape = shapely.difference(shape, notch.room)
    if breaking is not None and mold.deck is not None:
        shape = shapely.difference(shape, saw_cuts(mold.deck, whole, breaking))
    stand = stand_of(mold, setup, beam_level)
    if stand is not None:
        shape = shapely.union(shape, legs(mold, setup, stand))
    if settings.halves:
        left, low, right, high = shape.bounds
        shape = shapely.intersection(shape, shapely.box(0.0, low - 1.0, max(right, -left) + 1.0, high + 1.0))
    polygon = _largest(shape, _why_apart(mold, settings, cuts, room), mold.name, findings)
    rings = [np.asarray(r.coords)[:-1] for r in (polygon.exterior, *polygon.interiors)]
    return Piece(mold.name, frozen(rings[0]), tuple(frozen(r) for r in rings[1:]), settings.halves, tuple(findings))


def body(mold: Mold, settings: MoldSettings) -> shapely.Geometry:
    """A mold without openings and legs, both sides of it. A bevelled one is as large as the larger of its faces at each
    place, so that there is wood to bevel."""
    shape = _profile(mold.edge.points, mold.deck, settings)
    if mold.far is not None:
        shape = shapely.union(shape, _profile(mold.far.points, mold.far_deck, settings))
    return shape


def _profile(edge: Array, closed: ClosedEdge | None, settings: MoldSettings) -> shapely.Geometry:
    edge = with_extra_depth(edge, settings.beyond_sheer) if closed is None else closed.points
    shape = shapely.Polygon(np.concatenate([edge[::-1] * [-1.0, 1.0], edge]))
    return shape if shape.is_valid else shapely.make_valid(shape)


def beam_room(setup: SetupSettings, level: float) -> shapely.Polygon | None:
    """The hole for a beam whose top lies at height `level`, mm, with the room round it; None where the molds stand on legs."""
    if setup.strongback is not Strongback.BEAM:
        return None
    half, room = setup.beam_width / 2 + setup.beam_clearance, setup.beam_clearance
    low = beam_bottom(setup, level)
    return shapely.box(-half, low - room, half, low + setup.beam_height + room)


def _beam_findings(mold: Mold, setup: SetupSettings, whole: shapely.Geometry, room: shapely.Polygon) -> list[Finding]:
    """A beam that passes a mold by altogether; one that breaks out of its edge is told with the set-up."""
    if shapely.intersects(whole, room):
        return []
    _, low, _, high = whole.bounds
    past = max(low - (room.bounds[3] - setup.beam_clearance), room.bounds[1] + setup.beam_clearance - high, 0.0)
    text = (
        f"The beam misses this mold by {mm(round(past))}: it gets no hole and cannot be threaded on. "
        "Change the height of the waterline above the beam, or stand the molds on a table."
    )
    return [Finding("beam-misses", Weight.STOP, "molds", f"mold {mold.name}", text)]


def _notch_findings(
    mold: Mold,
    settings: MoldSettings,
    stringers: Sequence[StringerNotch],
    cuts: list[Notch],
    whole: shapely.Geometry,
    room: shapely.Polygon | None,
) -> list[Finding]:
    found: list[Finding] = []
    found += _over_the_edge(mold, settings.clearance, stringers)
    for notch in cuts:
        if room is not None and shapely.intersects(notch.room, room):
            text = f"The notch for the {notch.what} runs into the beam's hole: make it less deep."
            found.append(_look("notch-beam", mold.name, text))
        left, _, right, _ = notch.room.bounds
        if notch.what != "stringer" and right - left > whole.bounds[2] - whole.bounds[0]:
            text = f"The notch for the {notch.what} is wider than this mold: make it narrower, or leave it out here."
            found.append(_look("notch-outside", mold.name, text))
    deepest = max((_depth(n.what, settings, stringers) for n in cuts), default=0.0)
    if settings.form is not MoldForm.SOLID and cuts and settings.ring_width - deepest < LEAST_RING_MM:
        text = (
            f"Only {mm(round(max(settings.ring_width - deepest, 0.0), 1))} of wood is left behind a notch: make the ring wider "
            "or the notch less deep."
        )
        found.append(_look("thin-at-notch", mold.name, text))
    return found


def _over_the_edge(mold: Mold, clearance: float, stringers: Sequence[StringerNotch]) -> list[Finding]:
    """Stringers whose notch runs past the end of the edge."""
    girth = mold.edge.girth
    found = []
    for own in stringers:
        half, run = own.wide / 2 + clearance, run_of(mold.edge.points, own.at)
        past = (("sheer", run + half - girth), ("keel", half - run))
        line, over = max(past, key=lambda p: p[1])
        if over > 0:
            text = (
                f"The notch for stringer {own.number} runs {mm(round(over, 1))} past the {line}: "
                f"set it {mm(math.ceil(over - 1e-6))} farther from it, or make it narrower."
            )
            found.append(_look("notch-over", mold.name, text))
    return found


def _depth(what: str, settings: MoldSettings, stringers: Sequence[StringerNotch]) -> float:
    depths = {
        "keel": settings.notch_depth,
        "stem": settings.stem_depth,
        "stringer": max((own.deep for own in stringers), default=0.0),
    }
    return depths[what] + settings.clearance


def with_extra_depth(edge: Array, extra: float) -> Array:
    """An edge (n, 2), keel to sheer, carried on straight past the sheer by `extra` mm."""
    if extra <= 0:
        return edge
    along = edge[-1] - edge[-2]
    along = along / np.linalg.norm(along)
    return np.concatenate([edge, (edge[-1] + extra * along)[None]])


def _ring(
    whole: shapely.Polygon, width: float, beam: shapely.Polygon | None, name: str, findings: list[Finding]
) -> shapely.Geometry:
    """A ring of a width, with a bar that carries the beam's hole where there is one; its inner corners rounded."""
    if width < LEAST_RING_MM:
        findings.append(_look("thin-ring", name, f"A ring {mm(width)} wide will break: make it {mm(LEAST_RING_MM)} or wider."))
    inner = shapely.buffer(whole, -width)
    opening = inner
    if beam is not None:
        low, high = beam.bounds[1] - WEB_MM, beam.bounds[3] + WEB_MM
        opening = shapely.difference(inner, shapely.box(whole.bounds[0], low, whole.bounds[2], high))
    opening = shapely.buffer(shapely.buffer(opening, -ROUND_MM), ROUND_MM)
    kept = [part for part in shapely.get_parts(opening) if part.area > LEAST_OPENING_MM2]
    return shapely.difference(whole, shapely.union_all(kept)) if kept else whole


def _lightened(whole: shapely.Geometry, web: float, beam: shapely.Polygon | None) -> shapely.Geometry:
    """Round holes, the largest first, with `web` mm of wood round each; alike on both sides."""
    free = shapely.intersection(shapely.buffer(whole, -web), shapely.box(web / 2, -1e6, 1e6, 1e6))
    if beam is not None:
        free = shapely.difference(free, shapely.buffer(beam, WEB_MM))
    for _ in range(MOST_HOLES):
        if free.is_empty:
            break
        circle = shapely.maximum_inscribed_circle(free, tolerance=1.0)
        radius = min(float(circle.length), LARGEST_HOLE_MM / 2)
        if radius < SMALLEST_HOLE_MM / 2:
            break
        y, z = shapely.get_coordinates(circle)[0].tolist()
        for side in (1.0, -1.0):
            whole = shapely.difference(whole, shapely.Point(side * y, z).buffer(radius, quad_segs=16))
        free = shapely.difference(free, shapely.Point(y, z).buffer(radius + web))
    return whole


def _why_apart(mold: Mold, settings: MoldSettings, cuts: list[Notch], room: shapely.Polygon | None) -> tuple[str, str]:
    """Why a mold is in pieces or gone, as a code, and what to do about it."""
    half = float(mold.edge.points[:, 0].max())
    if settings.deducted > half:
        return "skin-deep", (
            f"The skin, {mm(round(settings.deducted, 1))}, is deeper than what it leaves of the section here, {mm(round(half, 1))} "
            "to a side: there is no mold to cut. Leave this station out, or put in what the skin really is."
        )
    do = ["make the ring wider"] if settings.form is MoldForm.RING else []
    do += ["the notch smaller" if do else "make the notch smaller"] if cuts else []
    if room is not None:
        wide = room.bounds[2] - room.bounds[0]
        do.append("move the beam or take a narrower one" if wide > half else "move the beam")
    return "falls-apart", " or ".join(do) or "look at its edge"


def _largest(shape: shapely.Geometry, why: tuple[str, str], name: str, findings: list[Finding]) -> shapely.Polygon:
    parts = [part for part in shapely.get_parts(shape) if part.geom_type == "Polygon" and part.area > 1.0]
    if why[0] == "skin-deep" and len(parts) != 1:
        findings.append(Finding(why[0], Weight.STOP, "molds", f"mold {name}", why[1]))
        return max(parts, key=lambda part: part.area, default=shapely.box(0, 0, 1, 1))
    if not parts:
        findings.append(
            Finding("nothing-left", Weight.STOP, "molds", f"mold {name}", "Nothing is left of this mold: its openings take it all.")
        )
        return shapely.box(0, 0, 1, 1)
    if len(parts) > 1:
        findings.append(
            Finding("falls-apart", Weight.STOP, "molds", f"mold {name}", f"This mold falls into {len(parts)} pieces: {why[1]}.")
        )
    return max(parts, key=lambda part: part.area)


def _look(code: str, name: str, text: str) -> Finding:
    return Finding(code, Weight.LOOK, "molds", f"mold {name}", text)

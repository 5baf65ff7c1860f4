"""A transom of several planks lying across it: how wide each is, with no joint where the edge turns, and no sliver at the top.

Which way the heart lies is turned from plank to plank, so that cupping does not add up (common practice).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
import shapely.affinity

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..hull.camber import camber_line, crown_at
from ..job import Job
from ..molds.ends import Transom
from ..rules import JOINTED_MM, THINNEST_PLANK
from ..sensible import count_of
from ..settings.timber import Board
from ..sheer.heads import PAGE

MORE = 4
"""So many planks more than the fewest are tried, to keep joints clear."""
SHIFTS = 41
CROWN_POINTS = 41


@dataclass(frozen=True)
class Plank:
    """A plank of a transom, from its foot up: of which transom, from which height to which, along the rake, how wide and how long
    it is, mm; how long the joint over it is (0 over the last); and whether its heart side lies aft."""

    number: int
    low: float
    high: float
    width: float
    length: float
    joint: float
    heart_aft: bool
    transom: str = "transom"


@dataclass(frozen=True)
class TransomPlanks:
    """The planks of a transom, named, from its foot up, its `outline` (n, 2), half-breadths and heights along the rake, the
    larger of both faces, the crown of the deck and what is left over at the head, mm; and how much spline its joints take, mm."""

    name: str
    planks: tuple[Plank, ...]
    outline: Array
    splines: float
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class PlankedTransoms:
    """All transoms of a hull, the stern's first: a pram has one at either end."""

    transoms: tuple[TransomPlanks, ...]
    findings: tuple[Finding, ...]

    @property
    def planks(self) -> tuple[Plank, ...]:
        """All their planks."""
        return tuple(plank for own in self.transoms for plank in own.planks)

    @property
    def splines(self) -> float:
        """How much spline they take, mm."""
        return sum(own.splines for own in self.transoms)


def planked_transoms(pieces: Sequence[tuple[Transom, bool]], beam: float, job: Job) -> PlankedTransoms:
    """The planks of the transoms of a hull, each with whether it is the stern's. Reads what `planked_transom` does."""
    found = tuple(planked_transom(piece, "transom" if stern else "bow transom", beam, job) for piece, stern in pieces)
    return PlankedTransoms(found, tuple(finding for own in found for finding in own.findings))


def planked_transom(piece: Transom, name: str, beam: float, job: Job) -> TransomPlanks:
    """The planks of a transom under the camber that the widest `beam` has. Reads the job's boards on hand and for sale, its trim's
    crown, what joints are clear of, what is left over at the head, and the splines."""
    outline, corners = _outline(piece, beam, job)
    whole = shapely.Polygon(outline)
    low, high = float(outline[:, 1].min()), float(outline[:, 1].max())
    widest = job.outer.plank or max((b.width - JOINTED_MM for b in _boards(job)), default=0.0)
    if widest <= 0:
        text = "No board is on hand: say how wide its planks are at most, or give boards on the page Stock."
        return TransomPlanks(name, (), frozen(outline), 0.0, (Finding("transom-boards", Weight.LOOK, PAGE, name, text),))
    joints = _joints(low, high, corners, widest, job.outer.clear)
    findings = []
    if joints is None:
        count = count_of(high - low, widest, "planks")
        joints = [low + k / count * (high - low) for k in range(1, count)]
        text = f"No joints lie {mm(job.outer.clear)} clear of where its edge turns: wider boards, or less clear of it."
        findings.append(Finding("transom-joints", Weight.LOOK, PAGE, name, text))
    edges = [float(edge) for edge in (low, *joints, high)]
    planks = tuple(
        replace(_plank(k + 1, whole, edges[k], edges[k + 1], last=k == len(joints)), transom=name) for k in range(len(joints) + 1)
    )
    longest = max((b.usable for b in _boards(job)), default=math.inf)
    short = [p for p in planks if p.length > longest]
    if short:
        text = f"Plank {short[0].number} is {mm(round(short[0].length))} long, the longest board {mm(longest)}."
        findings.append(Finding("transom-short", Weight.LOOK, PAGE, name, text))
    splines = sum(p.joint for p in planks) if job.outer.spline > 0 else 0.0
    return TransomPlanks(name, planks, frozen(outline), splines, tuple(findings))


def no_transom(why: str) -> PlankedTransoms:
    """For a hull that has none, in words."""
    return PlankedTransoms((), (Finding("no-transom", Weight.LOOK, PAGE, "transom", why),))


def _boards(job: Job) -> Sequence[Board]:
    return [board for board in job.stock.given if board.count > 0]


def _outline(piece: Transom, beam: float, job: Job) -> tuple[Array, tuple[float, ...]]:
    """Both sides of what planks have to cover, (n, 2), and the heights where its edge turns: the sheer of each face, and the top of
    its crown. The sheer rises or falls through the transom's thickness, and the crown stands on it at either face."""
    faces, corners = [], []
    for face in (piece.after, piece.forward):
        faces.append(shapely.Polygon(_both_sides(face)))
        half, top = face[np.argmax(face[:, 1])].tolist()
        corners.append(top)
        crown = crown_at(2 * half, job.trim.crown, job.trim.crown_on or beam, job.trim.rule) if beam > 0 else 0.0
        crown /= math.cos(piece.rake)  # heights are along the rake
        if crown > 0 and half > 0:
            side = camber_line(half, crown, 0.0, CROWN_POINTS) + np.array([0.0, top])
            faces.append(shapely.Polygon(_both_sides(side)))
            corners.append(top + crown)
    whole = shapely.union_all([shapely.make_valid(face) for face in faces])
    if job.outer.head_waste > 0:
        left, _, right, top = whole.bounds
        head = shapely.box(left, min(corners), right, top + job.outer.head_waste)
        raised = shapely.affinity.translate(whole, 0.0, job.outer.head_waste)
        whole = shapely.union(whole, shapely.intersection(raised, head))
    largest = max(shapely.get_parts(whole), key=lambda part: part.area)
    return shapely.get_coordinates(largest.exterior), tuple(corners)


def _both_sides(side: Array) -> Array:
    return np.concatenate([side, side[::-1] * [-1.0, 1.0]])


def _joints(low: float, high: float, corners: Sequence[float], widest: float, clear: float) -> list[float] | None:
    """Heights of joints, evenly spaced but for the lowest plank, as few as there can be and clear of the corners; None: none
    are."""
    fewest = count_of(high - low, widest, "planks")
    if fewest == 1:
        return []
    for count in range(fewest, fewest + MORE):
        even = (high - low) / count
        for first in sorted(np.linspace(THINNEST_PLANK * even, min(widest, 1.6 * even), SHIFTS), key=lambda w: abs(w - even)):
            rest = (high - low - first) / (count - 1)
            if not THINNEST_PLANK * first <= rest <= widest or first < THINNEST_PLANK * rest:
                continue
            joints = [low + float(first) + k * rest for k in range(count - 1)]
            if all(abs(joint - corner) >= clear for joint in joints for corner in corners):
                return joints
    return None


def _plank(number: int, whole: shapely.Polygon, low: float, high: float, *, last: bool) -> Plank:
    left, _, right, _ = whole.bounds
    band = whole.intersection(shapely.box(left - 1.0, low, right + 1.0, high))
    first, _, end, _ = band.bounds
    seam = whole.intersection(shapely.LineString([(left - 1.0, high), (right + 1.0, high)]))
    return Plank(number, low, high, high - low, end - first, 0.0 if last else float(seam.length), number % 2 == 1)

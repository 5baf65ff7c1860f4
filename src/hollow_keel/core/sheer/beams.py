"""Deck beams under the camber: how long each is, from what board it is sawn, or of how many laminations it is glued and over what
form."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..hull.camber import crown_at, edge_slope
from ..job import Job
from ..rules import THINNEST_LAMINATION_MM, given_back
from ..sensible import count_of
from ..settings.sheer_choices import Sawn
from .heads import PAGE, SheerPlan


@dataclass(frozen=True)
class BeamPiece:
    """The beam at one head. Lengths mm: its `breadth` from inside to inside of the skin at the sheer, its `crown` over that,
    `along` its upper edge; `board` the width of the board that it is sawn from; the `slope` of its end, degrees, at which a
    block at the head is bevelled, and how far the pattern stands above a straightedge from mark to mark at the centreline (its
    crown: the height of a block there). Laminated: how many of what thickness, the share of its crown that it gives back, and
    the crown of the form (0: sawn)."""

    name: str
    station: float
    breadth: float
    crown: float
    along: float
    board: float
    slope: float
    laminations: int
    each: float
    springback: float
    form_crown: float


@dataclass(frozen=True)
class FormBlock:
    """A block of the form: how far off its middle it stands, and how high its top is over the form's base, mm."""

    off: float
    high: float


@dataclass(frozen=True)
class BeamPlan:
    """The beams from the bow aft, and the blocks of the form for the widest, from its middle to its end; none where they are sawn.
    Where one pattern serves all beams, one form does."""

    beams: tuple[BeamPiece, ...]
    blocks: tuple[FormBlock, ...]
    findings: tuple[Finding, ...]


def make_beams(plan: SheerPlan, job: Job) -> BeamPlan:
    """The beams of all heads. Reads the job's beams, and the crown of its trim."""
    beams = tuple(
        _beam(mark.name, mark.station, 2 * float(mark.inside[0]), plan.beam, job) for mark in plan.marks if mark.inside[0] > 0
    )
    widest = max(beams, key=lambda beam: beam.breadth, default=None)
    blocks = _blocks(widest, job.beams.blocks) if widest is not None and widest.laminations else ()
    return BeamPlan(beams, blocks, tuple(_findings(beams, job)))


def arc_of_parabola(breadth: float, crown: float) -> float:
    """The length of a parabola of a crown over a breadth, mm (closed form, any textbook of analysis)."""
    if crown <= 0:
        return breadth
    slope = edge_slope(breadth, crown)
    return breadth / 2 * (math.hypot(1.0, slope) + math.asinh(slope) / slope)


def hollow_radius(breadth: float, crown: float, molded: float) -> float:
    """The tightest bend of a beam's lower edge, mm: that of the parabola at its crown, b²/8c, less its depth where it lies as deep
    under it all along; infinite where it is flat."""
    return breadth**2 / (8 * crown) - molded if crown > 0 else math.inf


def _beam(name: str, station: float, breadth: float, widest: float, job: Job) -> BeamPiece:
    own, trim = job.beams, job.trim
    crown = crown_at(breadth, trim.crown, trim.crown_on or widest, trim.rule)
    slope = math.degrees(math.atan(edge_slope(breadth, crown)))
    count, each, back = 0, 0.0, 0.0
    if own.made is Sawn.LAMINATED and crown > 0:
        thickest = max(hollow_radius(breadth, crown, own.molded), 0.0) / own.ratio
        count = max(math.ceil(own.molded / thickest - 1e-9), own.least) if thickest > 0 else 0
        each = own.molded / count if count else 0.0
        back = (own.springback / 100 if own.springback is not None else given_back(count)) if count else 0.0
    return BeamPiece(
        name,
        station,
        breadth,
        crown,
        arc_of_parabola(breadth, crown),
        crown + own.molded,
        slope,
        count,
        each,
        back,
        crown / (1.0 - back) if count else 0.0,
    )


def _blocks(beam: BeamPiece, every: float) -> tuple[FormBlock, ...]:
    """Blocks under the hollow side of a beam, from the middle of its form out to its end."""
    half = beam.breadth / 2
    count_of(half, every, "blocks under a beam")
    places = [*np.arange(0.0, half - every / 4, every).tolist(), half]
    return tuple(FormBlock(x, beam.form_crown * (1.0 - (x / half) ** 2)) for x in places)


def _findings(beams: Sequence[BeamPiece], job: Job) -> list[Finding]:
    found = []
    if job.trim.crown <= 0:
        text = "The beams are flat: give their crown under Camber, or leave them out."
        found.append(Finding("beams-flat", Weight.LOOK, PAGE, "beams", text))
    elif job.beams.made is Sawn.LAMINATED:
        tight = [beam for beam in beams if not beam.laminations]
        if tight:
            text = f"They turn more tightly than they are deep ({mm(job.beams.molded)}): make them less deep, or saw them."
            found.append(Finding("beams-tight", Weight.LOOK, PAGE, tight[0].name, text))
        thin = [beam for beam in beams if beam.laminations and beam.each < THINNEST_LAMINATION_MM]
        if thin:
            text = f"Its laminations would be {mm(round(thin[0].each, 1))} thick, too thin to plane: a smaller crown, or saw it."
            found.append(Finding("beam-thin", Weight.LOOK, PAGE, thin[0].name, text))
    return found

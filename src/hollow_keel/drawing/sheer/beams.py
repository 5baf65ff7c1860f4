"""Deck beams: the chosen one with what it is cut or glued from, and the form for the widest at full size."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.hull.camber import camber_across
from ...core.job import Job
from ...core.sheer.beams import BeamPiece, BeamPlan
from ...core.units import LengthStyle, format_degrees, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Stroke, line

POINTS = 81
BASE_MM, BLOCK_MM = 40.0, 30.0
"""The form's board below its lowest block, and how wide a block is."""


def _over(breadth: float, crown: float, lift: float) -> Array:
    """A camber from end to end, (n, 2), lifted so far."""
    lifted: Array = camber_across(breadth, crown, POINTS) + np.array([0.0, lift])
    return lifted


def beam_drawing(beam: BeamPiece, job: Job, style: LengthStyle) -> Drawing:
    """A beam from ahead, its laminations, and the dimensions that are typed where they stand."""
    own = job.beams
    upper, lower = _over(beam.breadth, beam.crown, 0.0), _over(beam.breadth, beam.crown, -own.molded)
    strokes = [
        Stroke(frozen(np.concatenate([upper, lower[::-1]])), Layer.MOLD, closed=True, filled=True),
        line((-beam.breadth / 2, 0.0), (beam.breadth / 2, 0.0), layer=Layer.GRID),
        line((0.0, 0.0), (0.0, beam.crown), layer=Layer.CENTRELINE),
    ]
    strokes += [Stroke(frozen(_over(beam.breadth, beam.crown, -k * beam.each)), Layer.GHOST) for k in range(1, beam.laminations)]
    half, tall = beam.breadth / 2, 0.06 * beam.breadth
    made = f"{beam.laminations} laminations of {format_length(beam.each, style.fine, unit=True)}"
    if not beam.laminations:
        made = f"sawn from a board {format_length(beam.board, style, unit=True)} wide"
    labels = [
        Label((0.0, beam.crown), f"{format_length(beam.breadth, style)} from inside to inside, {made}", Layer.NOTE, "middle", 1),
        Label((half, 0.0), f"falls {format_degrees(beam.slope)}", Layer.DIMENSION, "right", 1),
        decided((0.0, 0.0), "crown", format_length(job.trim.crown, style), "trim.crown", anchor="middle", rise=-1),
        decided((-half, -own.molded), "deep", format_length(own.molded, style), "beams.molded", anchor="left", rise=-1),
        decided((half, -own.molded), "wide", format_length(own.sided, style), "beams.sided", anchor="right", rise=-1),
    ]
    if beam.laminations:
        text = f"over a form of crown {format_length(beam.form_crown, style)}: it springs back {100 * beam.springback:.1f} %"
        labels.append(Label((0.0, -own.molded), text, Layer.NOTE, "middle", -1))
    room = ((0.0, beam.crown + tall), (0.0, -own.molded - tall))
    return Drawing(f"Beam at {beam.name}", tuple(strokes), tuple(labels), room=room)


def form_drawing(plan: BeamPlan, job: Job, style: LengthStyle) -> Drawing:
    """The form that beams are glued over: its board and blocks at full size, for the widest beam."""
    if not plan.blocks:
        return Drawing("Beam form", ())
    widest = max(plan.beams, key=lambda beam: beam.breadth)
    half = widest.breadth / 2
    strokes = [
        Stroke(frozen(_over(widest.breadth, widest.form_crown, 0.0)), Layer.SHEER_MARK),
        line((-half, -BASE_MM), (half, -BASE_MM), layer=Layer.BEAM),
        line((-half, 0.0), (half, 0.0), layer=Layer.GRID),
    ]
    labels = []
    for block in plan.blocks:
        for at in sorted({-block.off, block.off}):
            left, right = max(at - BLOCK_MM / 2, -half), min(at + BLOCK_MM / 2, half)
            corners = [(left, -BASE_MM), (right, -BASE_MM), (right, block.high), (left, block.high)]
            strokes.append(Stroke(frozen(corners), Layer.MOLD, closed=True))
        words = f"{format_length(block.off, style)}: {format_length(block.high, style.fine)} up"
        labels.append(Label((block.off, block.high), words, Layer.NOTE, "left", 1))
    text = f"BEAM FORM · {job.name} · crown {format_length(widest.form_crown, style)} on {format_length(widest.breadth, style)}"
    labels.append(Label((0.0, -BASE_MM), text, Layer.TITLE, rise=-1, strong=True))
    labels.append(
        decided((-half, -BASE_MM), "blocks every", format_length(job.beams.blocks, style), "beams.blocks", anchor="left", rise=-1)
    )
    return Drawing("The form for the widest beam", tuple(strokes), tuple(labels))

"""A transom at full size, seen square to its own plane from outside: both faces and the wood between them."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import Array, frozen
from ...core.molds.end_stages import TransomPiece
from ...core.molds.ends import Transom
from ...core.rules import CLEAR_OF_BEVEL_MM
from ...core.units import LengthStyle, format_angle, format_degrees, format_length
from ..model import Drawing, Label, Layer, Stroke, line

BETWEEN_RIBS_MM = 210.0
CENTRE_TICK_MM = 15.0
"""Of a bent transom a level line is no line across its flat shape: it is marked on the centreline alone."""


def transom_drawing(piece: TransomPiece, job: str, style: LengthStyle) -> Drawing:
    """Its face at the end of the hull in full, the other one as a second line, the outside of the planking dotted; both sides."""
    transom = piece.transom
    strokes = [
        Stroke(np.concatenate([side[::-1] * [-1.0, 1.0], side]), layer, closed, filled)
        for side, layer, closed, filled in (
            (transom.after, Layer.MOLD, True, True),
            (transom.forward, Layer.STATION, True, False),
            (transom.planking, Layer.GHOST, False, False),
        )
    ]
    bottom, top = float(transom.after[:, 1].min()), float(transom.after[:, 1].max())
    half = float(transom.after[:, 0].max())
    strokes.append(line((0.0, bottom), (0.0, top), layer=Layer.CENTRELINE))
    degrees = np.degrees(transom.bevels)
    shown = "true shape" if transom.radius is None else "unrolled"
    labels = [
        Label((0.0, top - 0.3 * (top - bottom)), "TRANSOM" if piece.stern else "BOW TRANSOM", Layer.TITLE, rise=1, strong=True),
        Label((0.0, top - 0.3 * (top - bottom)), f"{job} · {shown}, this face {'AFT' if piece.stern else 'FORWARD'}", rise=-1),
        Label((0.0, top - 0.4 * (top - bottom)), "cut to the outer line, then bevel to the inner", rise=0),
        Label((0.0, bottom), _rake_words(transom, style), rise=-1),
        Label((0.0, top), f"{format_length(2 * half, style, unit=True)} wide", Layer.DIMENSION, rise=1),
    ]
    for k in range(8, len(degrees) - 1, 10):
        middle = np.array([0.0, (bottom + top) / 2])
        y, z = (middle + 0.88 * (transom.after[k] - middle)).tolist()
        labels.append(Label((y, z), format_degrees(degrees[k]), Layer.DIMENSION, rise=0))
    for height, up in piece.waterlines:
        across = _half_at(transom.after, up) if transom.radius is None else CENTRE_TICK_MM
        strokes.append(line((-across, up), (across, up), layer=Layer.WATERLINE))
        name = "LOAD WATERLINE" if height == piece.load else "waterline"
        labels.append(Label((-across, up), f"{name} {format_length(height, style)}", Layer.WATERLINE, "left", 1))
    return Drawing("Transom" if piece.stern else "Bow transom", tuple(strokes), tuple(labels))


def _half_at(side: Array, up: float) -> float:
    """How wide half a transom is so far up its rake, mm."""
    return float(np.interp(up, side[:, 1], side[:, 0]))


def _rake_words(transom: Transom, style: LengthStyle) -> str:
    words = f"raked {format_angle(transom.rake, 0.1)} from upright"
    if transom.radius is None:
        return words
    return (
        f"{words}; bend it to {format_length(transom.radius, style, unit=True)} radius, its convex side out, then each line is "
        "true on its own face"
    )


def transom_mold_drawing(piece: TransomPiece, job: str, style: LengthStyle) -> Drawing:
    """What carries the transom until it is planked: a board with its legs, or ribs."""
    transom, board = piece.transom, piece.mold.board
    if board is None:
        return _ribs(piece, job, style)
    forward = np.concatenate([transom.forward[::-1] * [-1.0, 1.0], transom.forward])
    bottom, high = float(board[:, 1].min()), float(board[:, 1].max())
    middle = (0.0, bottom + 0.45 * (float(forward[:, 1].max()) - CLEAR_OF_BEVEL_MM - bottom))
    inside = format_length(CLEAR_OF_BEVEL_MM, style, unit=True)
    faces = ("after", "forward") if piece.stern else ("forward", "after")
    return Drawing(
        "Transom mold" if piece.stern else "Bow transom mold",
        (
            Stroke(board, Layer.MOLD, closed=True, filled=True),
            Stroke(forward, Layer.GHOST),
            line((0.0, bottom), (0.0, high), layer=Layer.CENTRELINE),
        ),
        (
            Label(middle, "TRANSOM MOLD" if piece.stern else "BOW TRANSOM MOLD", Layer.TITLE, rise=1, strong=True),
            Label(middle, f"{job} · its {faces[0]} face on the transom's {faces[1]} face, {_rake_words(transom, style)}", rise=-1),
            Label((middle[0], middle[1] - 6.0), f"{inside} inside its edge all round", rise=-1),
        ),
    )


def _ribs(piece: TransomPiece, job: str, style: LengthStyle) -> Drawing:
    """Ribs that a bent transom is clamped over, one below the other."""
    strokes: list[Stroke] = []
    labels: list[Label] = []
    for k, rib in enumerate(piece.mold.ribs):
        outline = rib.outline - [0.0, k * BETWEEN_RIBS_MM]
        low, high = float(outline[:, 1].min()), float(outline[:, 1].max())
        strokes.append(Stroke(frozen(outline), Layer.MOLD, closed=True, filled=True))
        strokes.append(line((0.0, low), (0.0, high), layer=Layer.CENTRELINE))
        text = f"RIB, {format_length(rib.up, style, unit=True)} up the rake"
        labels.append(Label((0.0, (low + high) / 2), text, Layer.TITLE, strong=True))
    over = f"{job} · the transom is bent over these ribs, {_rake_words(piece.transom, style)}"
    labels.append(Label((0.0, 10.0), over, rise=1))
    return Drawing("Transom ribs", tuple(strokes), tuple(labels))

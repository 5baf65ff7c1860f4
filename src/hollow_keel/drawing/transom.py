"""The transom at full size, seen square to its own plane from aft: both faces and the wood between them."""

from __future__ import annotations

import numpy as np
import shapely

from ..core.geometry.arrays import frozen
from ..core.molds.ends import Transom
from ..core.units import LengthStyle, format_length
from .model import Drawing, Label, Layer, Stroke, line

SET_IN_MM, LEG_MM, RIB_MM = 25.0, 80.0, 70.0
"""A transom mold stays so far inside the transom's edge, clear of its bevel; its legs; the depth of a rib."""


def transom_drawing(transom: Transom, job: str, style: LengthStyle) -> Drawing:
    """After face in full, forward face as a second line, the outside of the planking dotted; both sides."""
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
        Label((0.0, top - 0.3 * (top - bottom)), "TRANSOM", Layer.TITLE, rise=1, strong=True),
        Label(
            (0.0, top - 0.3 * (top - bottom)),
            f"{job} · {shown}, this face AFT",
            rise=-1,
        ),
        Label((0.0, top - 0.4 * (top - bottom)), "cut to the outer line, then bevel to the inner", rise=0),
        Label((0.0, bottom), _rake_words(transom, style), rise=-1),
        Label((0.0, top), f"{format_length(2 * half, style, unit=True)} wide", Layer.DIMENSION, rise=1),
    ]
    for k in range(8, len(degrees) - 1, 10):
        middle = np.array([0.0, (bottom + top) / 2])
        y, z = (middle + 0.88 * (transom.after[k] - middle)).tolist()
        labels.append(Label((y, z), f"{degrees[k]:.1f}°", Layer.DIMENSION, rise=0))
    return Drawing("Transom", tuple(strokes), tuple(labels))


def _rake_words(transom: Transom, style: LengthStyle) -> str:
    words = f"raked {np.degrees(transom.rake):.1f}° from upright"
    if transom.radius is None:
        return words
    return f"{words}; bend it to {format_length(transom.radius, style, unit=True)} radius, then each line is true on its own face"


def transom_mold_drawing(transom: Transom, job: str, style: LengthStyle, level: float | None) -> Drawing:
    """What carries the transom until it is planked: for a flat one a board along its forward face, SET_IN_MM inside its
    edge, with its legs to the set-up line `level` mm above the foot along the rake (None: to its own head); for a bent
    one the two ribs it is bent over."""
    if transom.radius is not None:
        return _ribs(transom, job, style)
    face = shapely.Polygon(np.concatenate([transom.forward[::-1] * [-1.0, 1.0], transom.forward]))
    board = max(shapely.get_parts(shapely.buffer(face, -SET_IN_MM)), key=lambda part: part.area)
    _, _, right, top = board.bounds
    if level is not None and level > top:
        half = 0.6 * right
        legs = [
            shapely.box(s * half - LEG_MM / 2, top - LEG_MM, s * half + LEG_MM / 2, level) for s in (-1, 1)
        ]
        board = shapely.union_all([board, *legs])
    outline = frozen(np.asarray(board.exterior.coords)[:-1])
    bottom, high = float(outline[:, 1].min()), float(outline[:, 1].max())
    middle = (0.0, bottom + 0.45 * (top - bottom))
    return Drawing(
        "Transom mold",
        (
            Stroke(outline, Layer.MOLD, closed=True, filled=True),
            Stroke(np.concatenate([transom.forward[::-1] * [-1.0, 1.0], transom.forward]), Layer.GHOST),
            line((0.0, bottom), (0.0, high), layer=Layer.CENTRELINE),
        ),
        (
            Label(middle, "TRANSOM MOLD", Layer.TITLE, rise=1, strong=True),
            Label(middle, f"{job} · its after face lies on the transom's forward face, {_rake_words(transom, style)}", rise=-1),
            Label((middle[0], middle[1] - 6.0), f"{format_length(SET_IN_MM, style, unit=True)} inside its edge all round", rise=-1),
        ),
    )  # fmt: skip


def _ribs(transom: Transom, job: str, style: LengthStyle) -> Drawing:
    """Ribs that a bent transom is clamped over, near its head and half-way down, each an arc of its forward face."""
    assert transom.radius is not None
    depth = transom.radius
    strokes: list[Stroke] = []
    labels: list[Label] = []
    for k, share in enumerate((0.9, 0.5)):
        high = share * float(transom.forward[-1, 1])
        wide = float(np.interp(high, transom.forward[:, 1], transom.forward[:, 0])) - SET_IN_MM
        angles = np.linspace(-wide / depth, wide / depth, 49)
        arc = np.column_stack([depth * np.sin(angles), depth * np.cos(angles) - depth])
        back = float(arc[:, 1].min()) - RIB_MM
        outline = np.concatenate([arc, [[arc[-1, 0], back], [arc[0, 0], back]]]) - [0.0, k * 3 * RIB_MM]
        strokes.append(Stroke(frozen(outline), Layer.MOLD, closed=True, filled=True))
        strokes.append(
            line((0.0, float(outline[:, 1].min())), (0.0, float(outline[:, 1].max())), layer=Layer.CENTRELINE)
        )
        where = format_length(high, style, unit=True)
        labels.append(
            Label((0.0, back / 2 - k * 3 * RIB_MM), f"RIB, {where} up the rake", Layer.TITLE, strong=True)
        )
    labels.append(
        Label(
            (0.0, 10.0), f"{job} · the transom is bent over these ribs, {_rake_words(transom, style)}", rise=1
        )
    )
    return Drawing("Transom ribs", tuple(strokes), tuple(labels))

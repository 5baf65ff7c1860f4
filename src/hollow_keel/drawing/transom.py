"""The transom at full size, seen square to its own plane from aft: both faces and the wood between them."""

from __future__ import annotations

import numpy as np

from ..core.molds.ends import Transom
from ..core.units import LengthStyle, format_length
from .model import Drawing, Label, Layer, Stroke, line


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
    labels = [
        Label((0.0, top - 0.3 * (top - bottom)), "TRANSOM", Layer.TITLE, rise=1, strong=True),
        Label((0.0, top - 0.3 * (top - bottom)), f"{job} · true shape, this face AFT", rise=-1),
        Label((0.0, top - 0.4 * (top - bottom)), "cut to the outer line, then bevel to the inner", rise=0),
        Label((0.0, bottom), f"raked {np.degrees(transom.rake):.1f}° from upright", rise=-1),
        Label((0.0, top), f"{format_length(2 * half, style, unit=True)} wide", Layer.DIMENSION, rise=1),
    ]
    for k in range(8, len(degrees) - 1, 10):
        middle = np.array([0.0, (bottom + top) / 2])
        y, z = (middle + 0.88 * (transom.after[k] - middle)).tolist()
        labels.append(Label((y, z), f"{degrees[k]:.1f}°", Layer.DIMENSION, rise=0))
    return Drawing("Transom", tuple(strokes), tuple(labels))

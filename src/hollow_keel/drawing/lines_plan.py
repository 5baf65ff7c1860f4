"""The hull's lines: body plan and profile."""

from __future__ import annotations

import numpy as np

from ..core.geometry.arrays import Array
from ..core.geometry.batch_spline import sample_splines
from ..core.offsets.table import EndKind
from ..core.pipeline import Shape
from .model import Drawing, Label, Layer, Stroke, line

DRAWN_POINTS = 33


def section_key(x: float) -> str:
    """The name by which a station is picked in any drawing."""
    return f"station:{x!r}"


def section_curve(points: Array, knuckles: tuple[int, ...]) -> Array:
    """A drawn curve through points, broken at its knuckles; same columns as `points`."""
    cuts = [0, *knuckles, len(points) - 1]
    return np.concatenate([_through(points[a : b + 1]) for a, b in zip(cuts[:-1], cuts[1:], strict=True)])


def _through(points: Array) -> Array:
    """The same cubic over chords as LoftCurve, without its measuring: this is only to be looked at."""
    chords = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    drawn: Array = sample_splines(chords[None] / chords[-1], points[None], np.linspace(0, 1, DRAWN_POINTS))[0]
    return drawn


def body_plan(shape: Shape) -> Drawing:
    """Sections seen from ahead: forward stations to the right, after stations to the left."""
    sections = shape.lines.stations
    widest = max(sections, key=lambda s: float(s.points[:, 1].max())).x
    strokes: list[Stroke] = []
    labels: list[Label] = []
    for section in sections:
        side = 1.0 if section.x <= widest else -1.0
        curve = section_curve(section.points, section.knuckles)[:, 1:] * [side, 1.0]
        key = section_key(section.x)
        strokes.append(Stroke(curve, Layer.STATION, key=key))
        strokes.append(Stroke(section.points[:, 1:] * [side, 1.0], Layer.OFFSET, key=key, crosses=True))
    for end, side in ((shape.lines.bow, 1.0), (shape.lines.stern, -1.0)):
        if end.kind is not EndKind.OPEN:
            strokes.append(Stroke(section_curve(end.points, end.knuckles)[:, 1:] * [side, 1.0], Layer.HULL))
    bottom = min(float(s.points[:, 2].min()) for s in sections)
    top = max(float(s.points[:, 2].max()) for s in sections)
    reach = max(float(s.points[:, 1].max()) for s in sections)
    strokes.append(line((0, bottom - 20), (0, top + 30), layer=Layer.CENTRELINE))
    strokes.append(line((-reach, shape.waterline), (reach, shape.waterline), layer=Layer.WATERLINE))
    labels.append(Label((reach, bottom), "forward stations", anchor="right", rise=-1))
    labels.append(Label((-reach, bottom), "after stations", anchor="left", rise=-1))
    labels.append(Label((-reach, shape.waterline), "load waterline", Layer.WATERLINE, "left", 1))
    return Drawing("Body plan", tuple(strokes), tuple(labels))


def profile(shape: Shape) -> Drawing:
    """The hull from the side, bow to the left: sheer, keel, stem, transom, stations, load waterline."""
    even = np.linspace(0, 1, 121)
    low, high = shape.hull.panels[0].surface, shape.hull.panels[-1].surface
    keel = low.points(even, np.zeros_like(even))[:, [0, 2]]
    sheer = high.points(even, np.ones_like(even))[:, [0, 2]]
    strokes = [Stroke(keel, Layer.HULL), Stroke(sheer, Layer.HULL)]
    for k, panel in enumerate(shape.hull.panels):
        for u in (0.0, 1.0):
            strokes.append(Stroke(panel.surface.points(np.full_like(even, u), even)[:, [0, 2]], Layer.HULL))
        if k:
            strokes.append(Stroke(panel.surface.points(even, np.zeros_like(even))[:, [0, 2]], Layer.HULL))
    labels: list[Label] = []
    floor = float(min(keel[:, 1].min(), shape.waterline)) - 30
    for number, section in enumerate(shape.lines.stations, start=1):
        z = section.points[:, 2]
        key = section_key(section.x)
        strokes.append(line((section.x, z[0]), (section.x, z[-1]), layer=Layer.STATION, key=key))
        labels.append(Label((section.x, floor), str(number), rise=-1, key=key))
    ends = (float(sheer[0, 0]), float(sheer[-1, 0]))
    strokes.append(
        line((ends[0] - 50, shape.waterline), (ends[1] + 50, shape.waterline), layer=Layer.WATERLINE)
    )
    return Drawing("Profile", tuple(strokes), tuple(labels))

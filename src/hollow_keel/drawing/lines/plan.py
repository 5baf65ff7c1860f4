"""The hull's lines: body plan and profile."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...core.fairing.plane_lines import plane_key, planes_of
from ...core.geometry.arrays import Array
from ...core.geometry.curves import cubics_through
from ...core.hull.slices import slice_along, slice_hull
from ...core.offsets.table import End, EndKind, LineKind, Section, stretches
from ...core.results import Shape
from ...core.settings.deck_choices import DeckFrom
from ..model import Drawing, Label, Layer, Stroke, line


def section_key(x: float) -> str:
    """The name by which a station is picked in any drawing."""
    return f"station:{x!r}"


def section_curves(sections: Sequence[Section | End]) -> list[Array]:
    """The drawn curves through the points of stations and ends, broken at their knuckles, (n, 3) each.

    The same cubics over chords as LoftCurve makes, without their measuring: these are only to be looked at.
    """
    return [np.concatenate([cubics_through(s.points[part]) for part in stretches(len(s.points), s.knuckles)]) for s in sections]


def body_plan(shape: Shape) -> Drawing:
    """Sections seen from ahead: forward stations to the right, after stations to the left."""
    sections = shape.lines.stations
    widest = max(sections, key=lambda s: float(s.points[:, 1].max())).x
    strokes: list[Stroke] = []
    labels: list[Label] = []
    ends = [(end, side) for end, side in ((shape.lines.bow, 1.0), (shape.lines.stern, -1.0)) if end.kind is not EndKind.OPEN]
    curves = section_curves([*sections, *(end for end, _ in ends)])
    for section, curve in zip(sections, curves, strict=False):
        side = 1.0 if section.x <= widest else -1.0
        key = section_key(section.x)
        strokes.append(Stroke(curve[:, 1:] * [side, 1.0], Layer.STATION, key=key))
        strokes.append(Stroke(section.points[:, 1:] * [side, 1.0], Layer.OFFSET, key=key, crosses=True))
    for (_, side), curve in zip(ends, curves[len(sections) :], strict=True):
        strokes.append(Stroke(curve[:, 1:] * [side, 1.0], Layer.HULL))
    strokes += _deck_sections(shape, widest)
    bottom = min(float(s.points[:, 2].min()) for s in sections)
    top = max(float(s.points[:, 2].max()) for s in sections)
    reach = max(float(s.points[:, 1].max()) for s in sections)
    strokes.append(line((0, bottom - 20), (0, top + 30), layer=Layer.CENTRELINE))
    strokes.append(line((-reach, shape.waterline), (reach, shape.waterline), layer=Layer.WATERLINE))
    labels.append(Label((reach, bottom), "forward stations", anchor="right", rise=-1))
    labels.append(Label((-reach, bottom), "after stations", anchor="left", rise=-1))
    labels.append(Label((-reach, shape.waterline), "load waterline", Layer.WATERLINE, "left", 1))
    return Drawing("Body plan", tuple(strokes), tuple(labels))


def _deck_sections(shape: Shape, widest: float) -> list[Stroke]:
    """The deck's part of every section, with its points where the table gives them."""
    if shape.deck is None:
        return []
    sections = shape.deck.surface.lines.stations
    given = shape.job.deck.source is DeckFrom.TABLE
    strokes: list[Stroke] = []
    for section, curve in zip(sections, section_curves(sections), strict=True):
        side, key = [1.0 if section.x <= widest else -1.0, 1.0], section_key(section.x)
        strokes.append(Stroke(curve[:, 1:] * side, Layer.STATION, key=key))
        if given:
            strokes.append(Stroke(section.points[1:, 1:] * side, Layer.OFFSET, key=key, crosses=True))
    return strokes


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
    if shape.deck is not None:
        ridge = shape.deck.surface.panels[-1].surface.points(even, np.ones_like(even))[:, [0, 2]]
        strokes.append(Stroke(ridge, Layer.HULL))
    labels: list[Label] = []
    floor = float(min(keel[:, 1].min(), shape.waterline)) - 30
    for number, section in enumerate(shape.lines.stations, start=1):
        z = section.points[:, 2]
        key = section_key(section.x)
        strokes.append(line((section.x, z[0]), (section.x, z[-1]), layer=Layer.STATION, key=key))
        labels.append(Label((section.x, floor), str(number), rise=-1, key=key))
    ends = (float(sheer[0, 0]), float(sheer[-1, 0]))
    strokes.append(line((ends[0] - 50, shape.waterline), (ends[1] + 50, shape.waterline), layer=Layer.WATERLINE))
    return Drawing("Profile", tuple(strokes), tuple(labels))


def half_breadth_plan(shape: Shape) -> Drawing:
    """The hull from above: sheer and waterlines outward from the centreline; below it the diagonals, laid flat."""
    planes = planes_of(shape.job.offsets, shape.waterline)
    levels = [plane for plane in planes if plane.kind is LineKind.WATERLINE]
    diagonals = [plane for plane in planes if plane.kind is LineKind.DIAGONAL]
    lines = slice_hull(shape.hull, [slice_along(plane) for plane in (*levels, *diagonals)])
    even = np.linspace(0, 1, 121)
    sheer = shape.hull.panels[-1].surface.points(even, np.ones_like(even))
    strokes = [Stroke(sheer[:, [0, 1]], Layer.HULL)]
    labels: list[Label] = []
    for plane, cut in zip(levels, lines, strict=False):
        if len(cut) > 1:
            load = plane.level == shape.waterline
            strokes.append(Stroke(cut[:, [0, 1]], Layer.WATERLINE if load else Layer.STATION, key=plane_key(plane)))
    flat: list[Array] = []
    for plane, cut in zip(diagonals, lines[len(levels) :], strict=True):
        if len(cut) > 1:
            out = np.hypot(cut[:, 1], plane.level - cut[:, 2])
            flat.append(np.column_stack([cut[:, 0], -out]))
            strokes.append(Stroke(flat[-1], Layer.STATION, key=plane_key(plane)))
    low, high = float(sheer[0, 0]), float(sheer[-1, 0])
    strokes.append(line((low, 0), (high, 0), layer=Layer.CENTRELINE))
    deep = min((float(f[:, 1].min()) for f in flat), default=0.0)
    for section in shape.lines.stations:
        strokes.append(
            line((section.x, deep), (section.x, float(section.points[:, 1].max())), layer=Layer.GRID, key=section_key(section.x))
        )
    labels.append(Label((low, 0), "waterlines", anchor="left", rise=1))
    labels.append(Label((low, 0), "diagonals", anchor="left", rise=-1))
    return Drawing("Half-breadth plan", tuple(strokes), tuple(labels))


def buttocks(shape: Shape) -> list[Stroke]:
    """Buttocks for the profile."""
    planes = planes_of(shape.job.offsets, shape.waterline)
    chosen = [plane for plane in planes if plane.kind is LineKind.BUTTOCK]
    cuts = slice_hull(shape.hull, [slice_along(plane) for plane in chosen])
    return [
        Stroke(cut[:, [0, 2]], Layer.GRID, key=plane_key(plane)) for plane, cut in zip(chosen, cuts, strict=True) if len(cut) > 1
    ]

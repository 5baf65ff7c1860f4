"""One mold on the strongback seen from the end, with the heights and widths that it is built to."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.molds.stations import Mold
from ...core.results import Shape
from ...core.settings.setup_choices import Strongback
from ...core.setup.schedule import Standing, floor_height
from ...core.units import LengthStyle, format_length
from ..decided import decided
from ..model import Drawing, Label, Layer, Stroke, box, line

RAIL_MM, TOP_MM = 45.0, 40.0
"""Rails and a table's top are drawn so thick."""
STEP_SHARE = 0.13
"""Dimensions stand so far apart, as a share of the width."""


@dataclass
class _View:
    """Strokes and labels as they come together: half-breadths across, heights above the strongback up."""

    style: LengthStyle
    step: float
    key: str
    strokes: list[Stroke] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)

    def height(self, at: float, low: float, high: float, name: str, *, on_top: bool = False, decides: str = "") -> None:
        """A height between two levels, measured at `at` across, and written beside it or over it."""
        if abs(high - low) < 1.0:
            return
        tick = 0.12 * self.step
        self.strokes.append(line((at, low), (at, high), layer=Layer.DIMENSION, key=self.key))
        self.strokes += [line((at - tick, y), (at + tick, y), layer=Layer.DIMENSION, key=self.key) for y in (low, high)]
        side = "left" if at > 0 else "right"
        # what is typed has its sign, as wherever it is typed; what is only told is told in words
        number = format_length(high - low if decides else abs(high - low), self.style)
        after = " below" if high < low and not decides else ""
        place, anchor, rise = ((at, high), "middle", 1) if on_top else ((at, (low + high) / 2), side, 0)
        self.labels.append(decided(place, name, number, decides, Layer.DIMENSION, anchor, rise, key=self.key, after=after))

    def width(self, level: float, left: float, right: float, name: str, decides: str = "") -> None:
        """A width between two places, measured at a level."""
        tick = 0.12 * self.step
        self.strokes.append(line((left, level), (right, level), layer=Layer.DIMENSION, key=self.key))
        self.strokes += [line((x, level - tick), (x, level + tick), layer=Layer.DIMENSION, key=self.key) for x in (left, right)]
        number = format_length(right - left, self.style)
        place = ((left + right) / 2, level)
        self.labels.append(decided(place, name, number, decides, Layer.DIMENSION, "middle", -1, key=self.key))


def end_view(shape: Shape, mold: Mold, style: LengthStyle) -> Drawing:
    """The mold on its strongback as it stands, seen from the end that distances are measured from."""
    job, setup = shape.job, shape.setup
    standing = next(s for s in shape.schedule.standings if s.mold == mold.name)
    edge = np.column_stack([mold.side[:, 0], setup.above(mold.side[:, 1])])
    half = max(float(edge[:, 0].max()), job.setup.leg_spread / 2)
    view = _View(style, STEP_SHARE * 2 * half, f"mold:{mold.name}")
    outline = np.concatenate([edge[::-1] * [-1.0, 1.0], edge])
    view.strokes.append(Stroke(frozen(outline), Layer.MOLD, closed=True, filled=True, key=view.key))
    low, high = float(edge[:, 1].min()), float(edge[:, 1].max())
    _strongback(view, shape, mold)
    _levels(view, shape, standing, half)
    right = half + view.step
    view.height(right, 0.0, setup.waterline_above, "waterline", decides="setup.waterline_above")
    view.height(right + 0.5 * view.step, 0.0, setup.above(float(mold.edge.keel[1])), "keel", on_top=True)
    floor = -floor_height(job.setup)
    if floor < 0:
        view.strokes.append(line((-half - view.step, floor), (right + view.step, floor), layer=Layer.STATION))
        view.labels.append(Label((0.0, floor), f"floor, {format_length(-floor, style)} below", Layer.STATION, rise=1))
        view.height(-half - view.step, floor, high, "from the floor", on_top=True)
    margin = half + 5 * view.step  # room for what is written beside the heights
    view.strokes.append(line((0.0, min(low, 0.0) - 40.0), (0.0, max(high, 0.0) + 40.0), layer=Layer.CENTRELINE))
    title = f"Mold {mold.name} on the strongback"
    return Drawing(title, tuple(view.strokes), tuple(view.labels), room=((-margin, 0.0), (margin, 0.0)))


def _levels(view: _View, shape: Shape, standing: Standing, half: float) -> None:
    """Waterline, cross spall, leg and post."""
    above = shape.setup.waterline_above
    view.strokes.append(line((-half - 0.3 * view.step, above), (half + view.step, above), layer=Layer.WATERLINE))
    if standing.spall_above is not None:
        level = standing.spall_above
        view.strokes.append(line((-half, level), (half, level), layer=Layer.SPALL, key=view.key))
        view.height(-0.45 * half, 0.0, level, "spall")
    if standing.leg is not None and standing.leg > 0:
        view.height(-half - 0.35 * view.step, 0.0, standing.leg, "leg")
    if standing.post is not None and standing.post > 0:
        view.strokes.append(box(-30.0, 0.0, 30.0, standing.post, Layer.BEAM, filled=True))


def _strongback(view: _View, shape: Shape, mold: Mold) -> None:
    """The strongback cut across, and the legs and feet on it."""
    setup = shape.job.setup
    below = -1.4 * view.step
    if setup.strongback is Strongback.BEAM:
        half, wall = setup.beam_width / 2, setup.beam_wall
        view.strokes.append(box(-half, -setup.beam_height, half, 0.0, Layer.BEAM, filled=True))
        if wall:
            inner = box(-half + wall, -setup.beam_height + wall, half - wall, -wall, Layer.BEAM)
            view.strokes.append(inner)
        for rise, name, size, path in (
            (1, "beam, wide", setup.beam_width, "setup.beam_width"),
            (-1, "high", setup.beam_height, "setup.beam_height"),
        ):
            place, number = (half + 10, -setup.beam_height / 2), format_length(size, view.style)
            view.labels.append(decided(place, name, number, path, Layer.BEAM, "left", rise))
        return
    stand = shape.marks[mold.name].stand
    if stand is not None:
        top = shape.setup.above(mold.top)
        for side in (-1.0, 1.0):
            a, b = sorted((side * stand.inside, side * stand.outside))
            view.strokes.append(box(a, 0.0, b, top, Layer.STATION, view.key))
        if stand.foot:
            foot = box(-stand.foot, 0.0, stand.foot, min(setup.foot_height, top), Layer.STATION, view.key)
            view.strokes.append(foot)
            view.width(below - view.step, -stand.foot, stand.foot, "foot")
    if setup.strongback is Strongback.RAILS:
        out = setup.rail_spread / 2
        view.strokes += [box(s * out, -90.0, s * (out - RAIL_MM), 0.0, Layer.BEAM, filled=True) for s in (-1.0, 1.0)]
        view.width(below, -out, out, "rails", "setup.rail_spread")
        return
    wide = (setup.width or setup.leg_spread) / 2
    view.strokes.append(box(-wide, -TOP_MM, wide, 0.0, Layer.BEAM, filled=True))
    if stand is not None:
        view.width(below, -stand.outside, stand.outside, "legs", "setup.leg_spread")

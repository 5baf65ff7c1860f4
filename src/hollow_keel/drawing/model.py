"""One description of every drawing, in millimetres, y up: painted on screen and written to paper alike."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from ..core.geometry.arrays import Array, frozen
from ..core.geometry.polyline import at_share, run_of, runs_along

NOTE_MM, STRONG_MM = 3.2, 7.0
"""Height of texts on paper at full size."""


class Layer(StrEnum):
    """What a line is for; its look on screen and paper follows from this alone."""

    HULL = "hull"
    STATION = "station"
    OFFSET = "offset"
    MOLD = "mold"
    HOLE = "hole"
    CENTRELINE = "centreline"
    WATERLINE = "waterline"
    SHEER_MARK = "sheer-mark"
    THIS_FACE = "this-face"
    OTHER_FACE = "other-face"
    BEVEL = "bevel"
    SPALL = "spall"
    SETUP_LINE = "setup-line"
    FITTING = "fitting"
    TICK = "tick"
    NEIGHBOUR = "neighbour"
    BEAM = "beam"
    STRIP = "strip"
    STRIP_ALT = "strip-alt"
    STRIP_2 = "strip-2"
    STRIP_3 = "strip-3"
    STRIP_4 = "strip-4"
    DIMENSION = "dimension"
    GHOST = "ghost"
    GRID = "grid"
    NOTE = "note"
    TITLE = "title"


STRIP_LAYERS = (Layer.STRIP, Layer.STRIP_2, Layer.STRIP_3, Layer.STRIP_4, Layer.STRIP_ALT)


@dataclass(frozen=True)
class Stroke:
    """A polyline (n, 2). `key` names the thing it stands for, so that it can be picked; `filled` closed areas;
    `crosses` a mark at each point instead of a line through them."""

    points: Array
    layer: Layer
    closed: bool = False
    filled: bool = False
    key: str = ""
    crosses: bool = False


@dataclass(frozen=True)
class Label:
    """A text at a point. `anchor` is where the point lies on the text: left, middle or right; and
    `rise` its place in height: -1 text below the point, 0 level with it, 1 above. Always horizontal.

    `decides` is the path of the setting that a part of the text, `value`, stands for: it is typed where it stands. One that `leads`
    is moved aside where there is no room for it, with a line to its point; others are left out."""

    at: tuple[float, float]
    text: str
    layer: Layer = Layer.NOTE
    anchor: str = "middle"
    rise: int = 0
    key: str = ""
    strong: bool = False
    decides: str = ""
    value: str = ""
    leads: bool = False


@dataclass(frozen=True)
class Ring:
    """What is dragged: a place that stands for `value` of a setting (`decides`, its path). Moved by d mm along the unit vector
    `way` the value grows by `per` x d, within `low` and `high`. One on a `track` (n, 2) goes along that line: its value is the
    share of the line's length. One that turns `about` a place tells an angle in degrees, more of it anticlockwise: it lies along
    `way` from there. Strokes, labels and rings whose key is `moves` go with it."""

    at: tuple[float, float]
    decides: str
    value: float
    way: tuple[float, float]
    per: float = 1.0
    low: float = -1e6
    high: float = 1e6
    moves: str = ""
    track: Array | None = None
    about: tuple[float, float] | None = None

    def value_at(self, x: float, y: float) -> float:
        """The value that a place of the drawing stands for, within the limits."""
        if self.track is not None:
            share = run_of(self.track, np.array([x, y])) / float(runs_along(self.track)[-1])
            return min(max(share, self.low), self.high)
        if self.about is not None:
            to = complex(x - self.about[0], y - self.about[1]) / complex(*self.way)
            turned = math.degrees(math.atan2(to.imag, to.real))
            return min(max(self.value + self.per * turned, self.low), self.high)
        along = (x - self.at[0]) * self.way[0] + (y - self.at[1]) * self.way[1]
        return min(max(self.value + self.per * along, self.low), self.high)

    def place_of(self, value: float) -> tuple[float, float]:
        """The place that stands for a value."""
        if self.track is not None:
            x, y = at_share(self.track, value)[0].tolist()
            return x, y
        if self.about is not None:
            turn = math.radians((value - self.value) / self.per)
            to = complex(self.at[0] - self.about[0], self.at[1] - self.about[1]) * complex(math.cos(turn), math.sin(turn))
            return self.about[0] + to.real, self.about[1] + to.imag
        along = (value - self.value) / self.per
        return self.at[0] + along * self.way[0], self.at[1] + along * self.way[1]


@dataclass(frozen=True)
class Drawing:
    """All strokes and labels of one drawing, and the rings by which it is changed."""

    title: str
    strokes: tuple[Stroke, ...]
    labels: tuple[Label, ...] = ()
    true_to_scale: bool = True
    rings: tuple[Ring, ...] = ()
    room: tuple[tuple[float, float], ...] = ()
    """Places that are to be seen besides the strokes: room for texts."""

    def stretched(self, across: float, up: float) -> Drawing:
        """The same drawing with its own scale in each direction."""
        scale = np.array([across, up])
        return replace(
            self,
            strokes=tuple(replace(s, points=frozen(s.points * scale)) for s in self.strokes),
            labels=tuple(replace(text, at=(text.at[0] * across, text.at[1] * up)) for text in self.labels),
            true_to_scale=False,
            rings=(),
            room=tuple((x * across, y * up) for x, y in self.room),
        )

    def bounds(self) -> tuple[float, float, float, float]:
        """Left, bottom, right, top of the strokes and the room beside them; all zero for an empty drawing."""
        if not self.strokes:
            return 0.0, 0.0, 0.0, 0.0
        every = np.concatenate([*(s.points for s in self.strokes), np.reshape(self.room, (-1, 2))])
        low, high = every.min(axis=0), every.max(axis=0)
        return float(low[0]), float(low[1]), float(high[0]), float(high[1])


def line(*points: tuple[float, float], layer: Layer, key: str = "") -> Stroke:
    """An open polyline from plain tuples."""
    return Stroke(frozen(points), layer, key=key)


def box(left: float, bottom: float, right: float, top: float, layer: Layer, key: str = "", *, filled: bool = False) -> Stroke:
    """A closed rectangle."""
    corners = [(left, bottom), (right, bottom), (right, top), (left, top)]
    return Stroke(frozen(corners), layer, closed=True, filled=filled, key=key)

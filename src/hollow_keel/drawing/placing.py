"""Where texts stand on a screen: none over another, the less important moved aside with a line to their place, or left out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from .model import Drawing, Label
from .tidy import importance

Box = tuple[float, float, float, float]
"""Left, top, right, bottom in pixels, downward."""
Measure = Callable[[Label], tuple[float, float]]
"""Width and height of a text in pixels."""

GAP = 2.0
"""Texts keep so far apart, pixels."""
ASIDE = ((0, 0), (0, -1), (0, 1), (0, -2), (0, 2), (1, 0), (-1, 0), (1, -1), (-1, -1), (1, 1), (-1, 1))
"""How far a text may be moved, in its own widths and heights."""
FARTHER = (*ASIDE, (0, -3), (0, 3), (1, -2), (-1, -2), (1, 2), (-1, 2), (0, -4), (0, 4), (1, 3), (-1, 3), (1, -3), (-1, -3))
"""The same for what is decided: it is never left out while there is any room near it."""


@dataclass(frozen=True)
class Placed:
    """A text's box by its own point, pixels, and whether a line leads from it to the point."""

    left: float
    top: float
    leader: bool


@dataclass(frozen=True)
class Frame:
    """How a drawing lies on the screen: pixels to the mm across and up, and where its origin falls, pixels."""

    across: float
    up: float
    x: float
    y: float

    def point(self, at: tuple[float, float]) -> tuple[float, float]:
        """Where a place of the drawing falls."""
        return self.x + at[0] * self.across, self.y - at[1] * self.up


@dataclass(frozen=True)
class Room:
    """What is kept free round a drawing, pixels."""

    side: float = 30.0
    top: float = 32.0
    bottom: float = 32.0


def fitted(drawing: Drawing, width: float, height: float, room: Room, *, stretch: bool = False) -> Frame:
    """The frame that shows the whole of a drawing in so many pixels."""
    left, bottom, right, top = drawing.bounds()
    wide, high = max(right - left, 1e-6), max(top - bottom, 1e-6)
    across = max(width - 2 * room.side, 20.0) / wide
    up = max(height - room.top - room.bottom, 20.0) / high
    if not stretch:
        across = up = min(across, up)
    middle_y = room.top + (height - room.top - room.bottom) / 2
    return Frame(across, up, width / 2 - across * (left + right) / 2, middle_y + up * (bottom + top) / 2)


def box_of(label: Label, size: tuple[float, float]) -> Box:
    """A text's box by its point where nothing is in the way."""
    width, height = size
    left = {"left": 0.0, "middle": -width / 2, "right": -width}[label.anchor]
    top = {-1: 2.0, 0: -height / 2, 1: -height - 2}[label.rise]
    return left, top, left + width, top + height


def place(
    labels: Sequence[Label], frame: Frame, measure: Measure, taken: Iterable[Box] = (), within: Box | None = None
) -> list[Placed | None]:
    """Where each text stands, in their order; None: it is left out. `taken` is not written over; nothing leaves `within` as long
    as its point is inside."""
    full = list(taken)
    found: list[Placed | None] = [None] * len(labels)
    for k in sorted(range(len(labels)), key=lambda k: importance(labels[k])):
        label = labels[k]
        size = measure(label)
        x, y = frame.point(label.at)
        left, top, right, bottom = box_of(label, size)
        may = FARTHER if label.decides else ASIDE if label.leads else ASIDE[:1]
        for dx, dy in may:
            shift_x, shift_y = dx * (size[0] + GAP), dy * (size[1] + GAP)
            own = (x + left + shift_x, y + top + shift_y, x + right + shift_x, y + bottom + shift_y)
            in_x, in_y = _inward(own, (x, y), within)
            own = (own[0] + in_x, own[1] + in_y, own[2] + in_x, own[3] + in_y)
            if any(_meet(own, other) for other in full):
                continue
            found[k] = Placed(left + shift_x + in_x, top + shift_y + in_y, abs(dx) + abs(dy) > 1)
            full.append((own[0] - GAP, own[1] - GAP, own[2] + GAP, own[3] + GAP))
            break
    return found


def _meet(a: Box, b: Box) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def _inward(box: Box, point: tuple[float, float], within: Box | None) -> tuple[float, float]:
    """How far a box is moved so that it does not leave the window that its point is in."""
    if within is None or not (within[0] <= point[0] <= within[2] and within[1] <= point[1] <= within[3]):
        return 0.0, 0.0
    across = max(within[0] - box[0], 0.0) + min(within[2] - box[2], 0.0)
    down = max(within[1] - box[1], 0.0) + min(within[3] - box[3], 0.0)
    return across, down

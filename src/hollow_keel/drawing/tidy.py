"""Texts kept off each other on paper at full size."""

from __future__ import annotations

from dataclasses import replace

from .model import NOTE_MM, STRONG_MM, Label, Layer

LETTER = 0.56
"""Mean width of a letter over its height, about."""
LINE = 1.45
TRIES = (0, 1, -1, 2, -2, 3, -3, 4, -4)
"""Lines by which a text may be moved up or down."""
_FIRST = (Layer.TITLE, Layer.WATERLINE, Layer.SHEER_MARK, Layer.SETUP_LINE, Layer.SPALL, Layer.NOTE)

_Box = tuple[float, float, float, float]


def importance(label: Label) -> int:
    """What gives way to what: the lower stays where it is."""
    if label.strong:
        return -2
    if label.decides:
        return -1
    return _FIRST.index(label.layer) if label.layer in _FIRST else len(_FIRST)


def apart(labels: tuple[Label, ...]) -> tuple[Label, ...]:
    """The same texts, the less important moved up or down by a few lines where they would print over each other."""
    taken: list[_Box] = []
    placed: dict[int, Label] = {}
    for k in sorted(range(len(labels)), key=lambda k: importance(labels[k])):
        label = labels[k]
        step = LINE * (STRONG_MM if label.strong else NOTE_MM)
        tries = [replace(label, at=(label.at[0], label.at[1] + n * step)) for n in TRIES]
        best = next((t for t in tries if not any(_over(_box(t), b) for b in taken)), label)
        placed[k] = best
        taken.append(_box(best))
    return tuple(placed[k] for k in range(len(labels)))


def _box(label: Label) -> _Box:
    size = STRONG_MM if label.strong else NOTE_MM
    wide = LETTER * size * len(label.text) + 1.0
    left = label.at[0] - {"left": 0.0, "middle": wide / 2, "right": wide}[label.anchor]
    bottom = label.at[1] + {-1: -1.6 * size, 0: -0.6 * size, 1: 0.25 * size}[label.rise]
    return left, bottom, left + wide, bottom + 1.25 * size


def _over(a: _Box, b: _Box) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]

"""A number on a drawing that the builder decides: its text, whose number is typed where it stands."""

from __future__ import annotations

from .model import Label, Layer


def decided(
    at: tuple[float, float],
    words: str,
    number: str,
    path: str,
    layer: Layer = Layer.DIMENSION,
    anchor: str = "left",
    rise: int = 1,
    *,
    key: str = "",
    after: str = "",
) -> Label:
    """`words`, then the `number` that stands for the setting at `path` (empty: it is only told), then what comes `after` it."""
    text = f"{words} {number}{after}"
    value = number if path else ""
    return Label(at, text, layer, anchor, rise, key, decides=path, value=value, leads=True)

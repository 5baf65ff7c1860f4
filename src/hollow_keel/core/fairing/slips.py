"""What slip of pen, tape or eye would turn the fair value into the written one."""

from __future__ import annotations

from collections.abc import Iterator

from ..offsets.table import OffsetsTable
from ..units import LengthStyle, LengthUnit, format_length

INCH = 25.4
SIXTEENTH = INCH / 16
IMPERIAL_STEPS = (
    (INCH / 8, "an eighth"),
    (INCH / 4, "a quarter inch"),
    (INCH / 2, "half an inch"),
    (INCH, "an inch"),
    (2 * INCH, "two inches"),
    (12 * INCH, "a foot"),
)
METRIC_STEPS = ((5.0, "5 mm"), (10.0, "a centimetre"), (50.0, "50 mm"), (100.0, "100 mm"), (1000.0, "a metre"))
SURE_MM = 1.0
"""A slip is named if it explains the value to within this or the doubt's own spread, whichever is more …"""
SHARE = 0.2
"""… but never worse than this share of the slip itself."""


def is_imperial(table: OffsetsTable) -> bool:
    """Whether nearly all offsets are whole sixteenths of an inch: then that is what they were written in."""
    values = [v for row in table.rows for v in (row.half_breadth, row.height)]
    whole = sum(abs(v / SIXTEENTH - round(v / SIXTEENTH)) < 0.02 for v in values)
    metric = sum(abs(v - round(v)) < 1e-6 for v in values)
    return whole >= 0.9 * len(values) and whole > metric


def likely_slip(written: float, fair: float, spread: float, neighbours: dict[str, float], *, imperial: bool) -> str:
    """The slip that fits best, in words, or an empty text. All lengths in mm.

    `spread` is how uncertain the fair value is; `neighbours` other offsets that may have been copied, by name.
    """
    off = abs(written - fair)
    near = min(max(SURE_MM, 1.5 * spread), SHARE * off)
    if off == 0:
        return ""
    found = [(abs(value - fair), text) for value, text in _rewritten(written, imperial) if abs(value - fair) <= near]
    if found:
        return min(found)[1]
    for name, value in neighbours.items():
        if abs(value - written) < 0.3:
            return f"the value of {name} again"
    steps = IMPERIAL_STEPS if imperial else METRIC_STEPS
    size, name = min(steps, key=lambda step: abs(step[0] - off))
    if abs(size - off) <= min(max(SURE_MM, 1.5 * spread), SHARE * size):
        return f"{name} too {'much' if written > fair else 'little'}"
    return ""


def _rewritten(written: float, imperial: bool) -> Iterator[tuple[float, str]]:
    """Values that a common slip in writing or reading would turn into `written`."""
    if written:
        yield -written, "the wrong sign"
    yield from _nought_left_out(written, imperial)
    yield from (_inches_exchanged if imperial else _digits_exchanged)(written)


def _nought_left_out(written: float, imperial: bool) -> Iterator[tuple[float, str]]:
    text = f"{written:.1f}".removesuffix(".0")
    if not imperial and text.isdigit():
        for k in range(1, len(text) + 1):
            right = f"{text[:k]}0{text[k:]}"
            yield float(right), f"a nought left out ({right} written as {text})"


def _digits_exchanged(written: float) -> Iterator[tuple[float, str]]:
    sign = -1.0 if written < 0 else 1.0
    text = f"{abs(written):.1f}".removesuffix(".0")
    digits = [k for k, c in enumerate(text) if c.isdigit()]
    for a, b in zip(digits[:-1], digits[1:], strict=True):
        if text[a] != text[b]:
            swapped = list(text)
            swapped[a], swapped[b] = swapped[b], swapped[a]
            right = "".join(swapped)
            yield sign * float(right), f"two digits exchanged ({right} written as {text})"


def _inches_exchanged(written: float) -> Iterator[tuple[float, str]]:
    """Feet, inches and eighths written in one another's place."""
    sign = -1.0 if written < 0 else 1.0
    eighths = round(abs(written) / (INCH / 8) * 2) / 2
    feet, rest = divmod(eighths, 96)
    inches, parts = divmod(rest, 8)
    style = LengthStyle(LengthUnit.FEET_INCH_EIGHTHS, INCH / 16)
    for f, i, e in ((feet, parts, inches), (inches, feet, parts)):
        if e < 8 and i < 12 and (f, i, e) != (feet, inches, parts):
            right = sign * (f * 96 + i * 8 + e) * INCH / 8
            yield (right, f"two figures exchanged ({format_length(right, style)} as {format_length(written, style)})")

"""The columns of the fairing page's lists."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from ....core.fairing.doubts import Doubt
from ....core.fairing.fairness import Fairness
from ....core.offsets.table import LABEL_WORDS
from ...views.data_table import Column
from ...window.state import State

Write = Callable[[float], str]
NAMES = {"half_breadth": "half-breadth", "height": "height"}


def doubt_columns(write: Write) -> list[Column]:
    """Offsets that stand out."""
    return [
        Column("Station", lambda d: write(d.written.station), lambda d: d.written.station),
        Column("Point", lambda d: f"{LABEL_WORDS[d.written.label]}, row {d.row + 1}"),
        Column("Offset", lambda d: NAMES[d.which]),
        Column("Written", lambda d: write(getattr(d.written, d.which)), lambda d: getattr(d.written, d.which)),
        Column("Would be fair", lambda d: write(getattr(d.fair, d.which)), lambda d: getattr(d.fair, d.which)),
        Column("Too much by", lambda d: signed(write, d.off), lambda d: d.off),
        Column("Skin is out by", lambda d: out_by(write, d), lambda d: abs(d.skin)),
        Column("Likely slip", lambda d: d.slip or "–"),
    ]


def move_columns(write: Write, tape: Write) -> list[Column]:
    """What fairing moved; how far at the rounding of the builder's tape."""
    return [
        Column("Station", lambda m: write(m.before.station), lambda m: m.before.station),
        Column("Point", lambda m: f"{LABEL_WORDS[m.before.label]}, row {m.row + 1}"),
        Column("Half-breadth was", lambda m: write(m.before.half_breadth), lambda m: m.before.half_breadth),
        Column("is", lambda m: write(m.after.half_breadth), lambda m: m.after.half_breadth),
        Column("Height was", lambda m: write(m.before.height), lambda m: m.before.height),
        Column("is", lambda m: write(m.after.height), lambda m: m.after.height),
        Column("Moved by", lambda m: tape(m.by), lambda m: m.by),
    ]


def measure_rows(fairness: Fairness, state: State) -> list[tuple[str, str]]:
    """Sectional areas and the volume by each rule."""
    h, volume = fairness.hydro, partial(state.amount, unit="m³", spec=".4f")
    rows = [(f"station {state.write(x)}", state.amount(a, "m²", ".4f")) for x, a in h.sections.tolist()]
    simpson = volume(h.simpson) if h.simpson is not None else "needs an odd number of evenly spaced stations"
    return [
        *rows,
        ("volume by the surface", volume(h.volume)),
        ("by the trapezoidal rule over the stations", volume(h.trapezoid)),
        ("by Simpson's rule", simpson),
    ]


MEASURE_COLUMNS = [Column("Section area below the load waterline, both sides", lambda r: r[0]), Column("", lambda r: r[1])]


def out_by(write: Write, doubt: Doubt) -> str:
    """How far the skin is out, and which way."""
    return f"{write(abs(doubt.skin))} {'outward' if doubt.skin > 0 else 'inward'}"


def signed(write: Write, mm: float) -> str:
    """A length with its sign."""
    return f"{'+' if mm > 0 else '−'}{write(abs(mm))}"

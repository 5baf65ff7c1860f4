"""What the bench card says of the lines, and of an offset that stands out."""

from __future__ import annotations

from collections.abc import Callable

from ....core.fairing.doubts import Doubt
from ....core.hull.hydro import Hydro
from ....core.offsets.table import LABEL_WORDS
from ....core.rules import FRESH, SALT
from ....core.units import MM_PER_INCH, LengthStyle
from ...views.bench_card import Card
from ...window.state import State
from .columns import NAMES, out_by, signed

Write = Callable[[float], str]


def lines_card(h: Hydro, state: State) -> Card:
    """What the hull displaces and how it floats."""
    write, amount = state.write, state.amount
    weight, unit = amount(h.volume * SALT, "kg", ".0f").rsplit(" ", 1)
    deeper, by = ("1 cm", 0.01) if unit == "kg" else ("1 in", MM_PER_INCH / 1000)

    def share(value: float | None) -> str:
        return "–" if value is None else f"{value:.3f}"

    return Card(
        "Lines",
        "both sides",
        weight,
        unit,
        "displaced in salt water at the load waterline",
        (
            ("fresh water", amount(h.volume * FRESH, "kg", ".0f")),
            ("at the height", write(h.waterline)),
            ("waterline long", write(h.length)),
            ("waterline wide", write(h.beam)),
            ("draft", write(h.draft)),
            ("waterplane", amount(h.waterplane, "m²", ".2f")),
            (f"sinks {deeper} for", amount(h.waterplane * by * FRESH, "kg", ".0f")),
            ("centre of buoyancy at", write(h.centre[0])),
            ("its height", write(h.centre[1])),
            ("centre of flotation at", write(h.flotation)),
            ("block coefficient", share(h.block)),
            ("prismatic", share(h.prismatic)),
            ("midship", share(h.midship)),
            ("waterplane coefficient", share(h.waterplane_coefficient)),
        ),
        "integrated over the surface through all offsets, to the outside of the planking",
        "Measures of shape, not an assessment of stability.",
    )


def doubt_card(doubt: Doubt, write: Write, style: LengthStyle) -> Card:
    """What is known of an offset that stands out; `write` gives offsets as exactly as they were given."""
    return Card(
        f"Row {doubt.row + 1}",
        f"station {write(doubt.written.station)}",
        write(getattr(doubt.fair, doubt.which)),
        style.name,
        f"{NAMES[doubt.which]} that would be fair",
        (
            ("point", LABEL_WORDS[doubt.written.label]),
            ("written", write(getattr(doubt.written, doubt.which))),
            ("too much by", signed(write, doubt.off)),
            ("skin is out by", out_by(write, doubt)),
            ("give or take", f"±{write(doubt.spread)}"),
            ("likely slip", doubt.slip or "none we know"),
        ),
        "predicted from all other offsets over the skin, this one left out",
        "Check against the drawing before anything is cut.",
    )

"""Readings against the plan, and a batten over the molds as they stand; errors drawn much larger than they are."""

from __future__ import annotations

import numpy as np

from ...core.geometry.arrays import frozen
from ...core.setup.as_built import BattenTest
from ...core.setup.judgement import Direction, SurveyJudgement
from ...core.units import LengthStyle, LengthUnit, format_length
from ..model import Drawing, Label, Layer, Stroke, line

LARGER = 40.0
"""Errors are drawn so many times larger than distances along the strongback."""
NAMES = {
    Direction.UP: "Heights",
    Direction.ACROSS: "Across",
    Direction.ALONG: "Along",
    Direction.ROLL: "Roll",
    Direction.YAW: "Squareness",
    Direction.PITCH: "Plumb",
}


def measured_style(style: LengthStyle) -> LengthStyle:
    """How what was measured is written: finer than the tape's own step where that is in millimetres."""
    return LengthStyle(LengthUnit.MM, 0.1) if style.unit is LengthUnit.MM else style


def errors_drawing(judgement: SurveyJudgement, direction: Direction, fairs: float, style: LengthStyle) -> Drawing:
    """Each reading less its plan over the distance from zero; the datum as a line with what `fairs` (mm) about it, what is out
    written beside it."""
    row = next((r for r in judgement.rows if r.direction is direction), None)
    if row is None:
        return Drawing(f"{NAMES[direction]}: not measured", ())
    places, judged = row.places, row.judged
    order = np.argsort(places)
    low, high = float(places.min()), float(places.max())
    strokes = [
        line((low, 0.0), (high, 0.0), layer=Layer.GRID),
        Stroke(frozen(np.column_stack([places, LARGER * judged.sweep])[order]), Layer.WATERLINE),
    ]
    strokes += [
        Stroke(frozen(np.column_stack([places, LARGER * (judged.sweep + s * fairs)])[order]), Layer.GHOST) for s in (-1.0, 1.0)
    ]
    labels = [Label((low, 0.0), "plan", Layer.GRID, "right")]
    for k, name in enumerate(row.molds):
        out = k in judged.out
        foot, head = LARGER * float(judged.sweep[k]), LARGER * float(row.raw[k])
        layer = Layer.SHEER_MARK if out else Layer.OFFSET
        place = float(places[k])
        strokes.append(line((place, foot), (place, head), layer=layer, key=f"mold:{name}"))
        strokes.append(Stroke(frozen([(place, head)]), layer, key=f"mold:{name}", crosses=True))
        text = name
        if out:
            error = float(judged.error[k])
            text = f"{name}: {format_length(abs(error), measured_style(style))} {_way(direction, error)}"
        if out:
            labels.append(Label((place, head), f" {text}", layer, "left", 0, f"mold:{name}", strong=True))
        else:
            labels.append(Label((place, head), text, Layer.NOTE, rise=1 if head >= foot else -1, key=f"mold:{name}"))
    return Drawing(f"{NAMES[direction]} against plan, {LARGER:g} times larger", tuple(strokes), tuple(labels), True)


def _way(direction: Direction, error: float) -> str:
    words = {
        Direction.UP: ("high", "low"),
        Direction.ACROSS: ("to starboard", "to port"),
        Direction.ALONG: ("too far", "too near"),
    }.get(direction, ("", "the other way"))
    return words[0] if error > 0 else words[1]


def batten_drawing(test: BattenTest | None, why_not: str, fairs: float, style: LengthStyle) -> Drawing:
    """The batten as built less the batten over perfect molds, with what `fairs` (mm) about it; each mold's own error as a mark,
    gaps as bars. Where there is no `test` it says why not."""
    if test is None:
        return Drawing(f"Batten: {why_not}", ())
    places = test.built.places
    even = np.linspace(float(places[0]), float(places[-1]), 241)
    off = test.built.at(even) - test.planned.at(even)
    strokes = [
        line((float(places[0]), 0.0), (float(places[-1]), 0.0), layer=Layer.GRID),
        Stroke(frozen(np.column_stack([even, LARGER * off])), Layer.WATERLINE),
    ]
    strokes += [
        line((float(places[0]), s * LARGER * fairs), (float(places[-1]), s * LARGER * fairs), layer=Layer.GHOST)
        for s in (-1.0, 1.0)
    ]
    labels: list[Label] = [Label((float(places[0]), 0.0), "fair", Layer.GRID, "right")]
    for k, name in enumerate(test.molds):
        at, error, shows = float(places[k]), float(test.errors[k]), float(test.shows[k])
        gap = abs(shows - error) > fairs
        layer = Layer.SHEER_MARK if gap or abs(shows) > fairs else Layer.OFFSET
        strokes.append(Stroke(frozen([(at, LARGER * error)]), layer, key=f"mold:{name}", crosses=True))
        text = name
        if gap:
            strokes.append(line((at, LARGER * error), (at, LARGER * shows), layer=Layer.SHEER_MARK, key=f"mold:{name}"))
            text = f"{name}: {format_length(abs(shows - error), measured_style(style))} off it"
        labels.append(Label((at, LARGER * min(error, shows)), text, layer if gap else Layer.NOTE, rise=-1, key=f"mold:{name}"))
    return Drawing(f"Batten against a fair one, {LARGER:g} times larger", tuple(strokes), tuple(labels), True)

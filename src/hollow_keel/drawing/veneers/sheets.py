"""Veneers at full size on the sheets that they are cut from."""

from __future__ import annotations

import shapely

from ...core.geometry.arrays import Array, frozen
from ...core.job import LayingSettings
from ...core.veneers.layer_plan import LayerPlan
from ...core.veneers.sheets import Cut, Sheeted
from ...core.veneers.veneer import Veneer
from ..model import Drawing, Label, Layer, Stroke, box

PART_EDGE_MM = 1.0
LEAST_MM = 1.0


def veneer_sheets(plan: LayerPlan, sheeted: Sheeted, laying: LayingSettings) -> list[Drawing]:
    """Every sheet of a layer with its veneers as they are cut, those of port turned over, and the lines they are trimmed to."""
    by_number = {v.number: v for v in plan.veneers}
    return [_sheet(plan, k, sheeted, by_number, laying) for k in range(sheeted.sheets)]


def _sheet(plan: LayerPlan, number: int, sheeted: Sheeted, veneers: dict[int, Veneer], laying: LayingSettings) -> Drawing:
    strokes = [box(0.0, 0.0, laying.sheet_length, laying.sheet_width, Layer.BEAM)]
    labels = []
    for cut in (c for c in sheeted.cuts if c.sheet == number):
        veneer = veneers[cut.veneer]
        strokes += [Stroke(_placed(ring, cut), Layer.MOLD, closed=True) for ring in _within(veneer.flat, cut)]
        for mark in veneer.marks:
            strokes += [Stroke(_placed(part, cut), Layer.SHEER_MARK) for part in _within(mark, cut, closed=False)]
        at = (cut.along + cut.length / 2, cut.across + cut.width / 3)
        labels.append(Label(at, cut_name(plan.number, cut, veneer.length), Layer.NOTE, "middle", 0))
    title = f"Layer {plan.number}, sheet {number + 1} of {sheeted.sheets}"
    labels.append(Label((0.0, laying.sheet_width), title, Layer.TITLE, "left", 1, strong=True))
    return Drawing(title, tuple(strokes), tuple(labels))


def cut_name(layer: int, cut: Cut, length: float) -> str:
    """What is written on a cut: its layer, veneer and side, and which part of it where it is butted."""
    side = "port" if cut.port else "starboard"
    part = "" if cut.length >= length - PART_EDGE_MM else f", from {cut.start:.0f} mm"
    return f"{layer}-{cut.veneer} {side}{part}"


def _within(line: Array, cut: Cut, *, closed: bool = True) -> list[Array]:
    """The parts of an outline, or of a line on it, that belong to a cut."""
    shape = shapely.Polygon(line) if closed else shapely.LineString(line)
    own = shapely.intersection(shapely.make_valid(shape), shapely.box(cut.start, -1.0, cut.start + cut.length, cut.width + 1.0))
    kind = shapely.Polygon if closed else shapely.LineString
    return [
        shapely.get_coordinates(part.exterior if closed else part)
        for part in shapely.get_parts(own)
        if isinstance(part, kind) and part.length > LEAST_MM
    ]


def _placed(line: Array, cut: Cut) -> Array:
    """A line of a veneer where its cut lies on the sheet; turned over for port."""
    x, y = line[:, 0] - cut.start, line[:, 1]
    placed = line.copy()
    placed[:, 0] = cut.along + (cut.length - x if cut.port else x)
    placed[:, 1] = cut.across + y
    return frozen(placed)

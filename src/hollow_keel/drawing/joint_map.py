"""The girth map with the pieces and joints of one side: every joint a mark across its strip."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..core.planking.choices import Course
from ..core.planking.strips import Planking
from ..core.results import Shape
from ..core.stock.needs import Need
from ..core.stock.plan import StockPlan
from ..core.units import LengthStyle
from .girth_map import girth_map, strip_levels
from .model import Drawing, Layer, Stroke, line


def joint_map(shape: Shape, planking: Planking, stock: StockPlan, side: str, style: LengthStyle) -> Drawing:
    """Joints of strips to be made, and of those cut already (these drawn as ghosts are)."""
    levels = {strip.number: (strip, level) for strip, level in strip_levels(planking)}
    needs = {(n.strip, n.side, n.part): n for n in stock.needs}
    strokes: list[Stroke] = []
    if stock.plan is not None:
        for made in stock.plan.made:
            if made.need.side == side and made.need.strip in levels:
                strokes += _marks(made.need, made.joints, levels[made.need.strip], Layer.SHEER_MARK)
        for cut in stock.plan.stays:
            need = needs.get((cut.strip, cut.side, cut.part))
            if need is not None and cut.side == side and cut.strip in levels:
                strokes += _marks(need, cut.joints, levels[cut.strip], Layer.CENTRELINE)
    base = girth_map(shape, planking, style)
    return replace(base, title=f"Joints, {side}", strokes=(*base.strokes, *strokes))


def _marks(need: Need, joints: tuple[float, ...], at: tuple[object, float], layer: Layer) -> list[Stroke]:
    strip, level = at
    way = 1.0 if strip.course is Course.UP else -1.0  # type: ignore[attr-defined]
    far = level + way * strip.width_max  # type: ignore[attr-defined]
    places = np.interp(joints, need.at[:, 0], need.at[:, 1]).tolist() if joints else []
    return [line((x, level), (x, far), layer=layer, key=f"strip:{need.strip}") for x in places]

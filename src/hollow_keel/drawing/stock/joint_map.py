"""The girth map with the pieces and joints of one side: every joint a mark across its strip."""

from __future__ import annotations

from dataclasses import replace

from ...core.planking.strips import Planking, Strip
from ...core.results import Shape
from ...core.settings.strip_choices import Course
from ...core.stock.needs import Need
from ...core.stock.plan import StockPlan
from ...core.units import LengthStyle
from ..model import Drawing, Layer, Stroke, line
from ..planking.girth_map import girth_map, strip_levels


def joint_map(
    shape: Shape, planking: Planking, stock: StockPlan, side: str, style: LengthStyle, shades: tuple[int, ...] = ()
) -> Drawing:
    """Joints of strips to be made, and of those cut already (drawn as centrelines are); `shades` as for the girth map."""
    levels = {strip.number: (strip, level) for strip, level in strip_levels(planking)}
    needs = {n.key: n for n in stock.needs}
    strokes: list[Stroke] = []
    for made, done in stock.plan.strips if stock.plan is not None else ():
        need = needs.get(made.key)
        if need is not None and made.side == side and made.strip in levels:
            strokes += _marks(need, made.joints, levels[made.strip], Layer.CENTRELINE if done else Layer.SHEER_MARK)
    base = girth_map(shape, planking, style, shades)
    return replace(base, title=f"Joints, {side}", strokes=(*base.strokes, *strokes))


def _marks(need: Need, joints: tuple[float, ...], at: tuple[Strip, float], layer: Layer) -> list[Stroke]:
    strip, level = at
    far = level + (1.0 if strip.course is Course.UP else -1.0) * strip.width_max
    return [line((x, level), (x, far), layer=layer) for x in need.positions(joints)]

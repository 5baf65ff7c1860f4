"""Ways of laying one layer side by side, and a search for the one that wastes least and overstrains no veneer."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ..hull.build import Hull
from ..job import Layer, VeneerSettings
from ..settings.veneer_choices import Direction
from ..units import round_to
from ..words import counted
from .layer_plan import LayerPlan
from .layer_remarks import is_stiff, puckers
from .layers import plan_layer

WIDTH_SHARES = (1.0, 1.5, 1.25, 0.8, 0.65)
ANGLES = (45.0, 60.0, 30.0)
MOVED_SHARES = (-0.15, 0.15)
"""The first veneer is tried so far off, in shares of the hull's length."""
LEAST_WIDTH_MM = 20.0
PER_CENT = 100
VENEER_COST = 0.002
"""One more veneer a side counts as so much more cut off: it is spiled, glued and stapled too (common practice)."""


@dataclass(frozen=True)
class LaidWay:
    """One way of laying a layer: the layer, where its first veneer lies (None: amidships); veneers a side, the share cut off, and
    how many are overstrained: will not lie flat, or are bent past what clamps do; the widest that lies flat everywhere, mm."""

    layer: Layer
    master: float | None
    count: int
    lost: float
    overstrained: int
    widest: float

    @property
    def order(self) -> tuple[float, ...]:
        """Numbers of which the lower is the better, the first before the second: overstrained veneers, then waste and work
        together."""
        return (self.overstrained, self.lost + VENEER_COST * self.count)


def weigh(hull: Hull, settings: VeneerSettings, number: int, layer: Layer, master: float | None) -> LaidWay:
    """What a way of laying layer `number`, from 1, comes to."""
    layers = (*settings.layers[: number - 1], layer, *settings.layers[number:])
    plan = plan_layer(hull, settings.model_copy(update={"layers": layers, "master": master}), number)
    return LaidWay(layer, master, len(plan.veneers), plan.lost, overstrained(plan), plan.widest)


def overstrained(plan: LayerPlan) -> int:
    """How many veneers of one side pucker when they are pressed down, or are bent past what clamps do."""
    return sum(puckers(v) or is_stiff(v, plan.layer) for v in plan.veneers)


def layers_to_try(layer: Layer, step: float, widest: float) -> list[Layer]:
    """Angles and widths worth a try, the present ones first: widths in whole steps of the builder's rule, mm, none over the
    `widest`; angles on the same diagonal. Thickness and wood stay, and a layer that runs along or across goes on doing so."""
    angles = [layer.angle]
    if layer.direction is Direction.ANGLE and layer.angle != 0:
        sign = 1.0 if layer.angle > 0 else -1.0
        angles += [sign * angle for angle in ANGLES]
    widths = [
        layer.width if share == 1.0 else min(max(round_to(layer.width * share, step), LEAST_WIDTH_MM), widest)
        for share in WIDTH_SHARES
    ]
    return list(dict.fromkeys(layer.model_copy(update={"angle": angle, "width": width}) for angle in angles for width in widths))


def search(
    hull: Hull, settings: VeneerSettings, number: int, step: float, widest: float, tick: Callable[[float], None]
) -> Iterator[LaidWay]:
    """Every way of laying layer `number` that is worth a try, as it is weighed: angles and widths with the first veneer where it
    is, then the best of them with that veneer elsewhere. `tick` is told the share done and may raise to give up."""
    tries = layers_to_try(settings.layers[number - 1], step, widest)
    every = len(tries) + len(MOVED_SHARES)
    found = []
    for k, layer in enumerate(tries):
        found.append(weigh(hull, settings, number, layer, settings.master))
        yield found[-1]
        tick((k + 1) / every)
    best = min(found, key=lambda way: way.order)
    stations = [x for x, _ in hull.girths]
    low, high = min(stations), max(stations)
    middle = settings.master if settings.master is not None else (low + high) / 2
    for k, share in enumerate(MOVED_SHARES):
        place = min(max(round_to(middle + share * (high - low), step), low), high)
        yield weigh(hull, settings, number, best.layer, place)
        tick((len(tries) + k + 1) / every)


def reasons(best: LaidWay, now: LaidWay) -> str:
    """Why a way is better than the present one, in words."""
    if best.order >= now.order:
        return "Nothing tried is better than what you have."
    said = []
    if best.overstrained != now.overstrained:
        said.append(f"{best.overstrained} overstrained veneers a side instead of {now.overstrained}")
    if round(PER_CENT * best.lost) != round(PER_CENT * now.lost):
        said.append(f"{best.lost:.0%} is cut off instead of {now.lost:.0%}")
    if best.count != now.count:
        said.append(f"{counted(best.count, 'veneer')} a side instead of {now.count}")
    return "; ".join(said) + "."

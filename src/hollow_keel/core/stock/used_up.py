"""Everything else that is used up: glue, fasteners, tape, cloth and resin, and what the planked shell weighs.

Plain sums over lengths and areas; every assumption is a setting of the builder's own. How glue's life shortens with warmth,
half for every ten degrees, is common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..molds.stations import Mold
from ..planking.strips import Planking
from .needs import Need
from .pieces import JointPlan
from .timber import JointSettings, UsedUpSettings

REFERENCE_C = 20.0
HALVES_EVERY_C = 10.0


@dataclass(frozen=True)
class Item:
    """One line of the list: what, how much in which unit, and what it was reckoned with, in words."""

    what: str
    amount: float
    unit: str
    reckoned: str


@dataclass(frozen=True)
class Shell:
    """What the list is made from: areas in m² of both sides together (hull skin, mold edges in m), and what strips cross."""

    area: float
    mold_edges: float
    crossings: int
    gaps: int


def shell_of(area: float, molds: Sequence[Mold], planking: Planking) -> Shell:
    """The shell of a planked hull of a skin `area` m², both sides, over molds."""
    stations = np.array([m.station for m in molds])
    crossings = gaps = 0
    for strip in planking.strips:
        for piece in strip.near or strip.far:
            x = piece.points[:, 0]
            own = int(((stations >= x.min()) & (stations <= x.max())).sum())
            crossings += 2 * own
            gaps += 2 * max(own - 1, 0)
    edges = sum(float(np.linalg.norm(np.diff(m.edge.points, axis=0), axis=1).sum()) for m in molds)
    return Shell(area, 2 * edges / 1000, crossings, gaps)


def pot_life(settings: UsedUpSettings) -> float:
    """Minutes that a batch holds at the day's temperature."""
    return settings.pot_life * 2 ** ((REFERENCE_C - settings.temperature) / HALVES_EVERY_C)


def glue_of(need: Need, settings: UsedUpSettings) -> float:
    """Mixed glue (ml) for one strip: one edge, both faces of that seam together make the line, with waste."""
    return need.length * need.section.thickness * settings.glue_line * (1 + settings.glue_waste / 100) / 1000


def used_up(
    needs: Sequence[Need], plan: JointPlan | None, joints: JointSettings, shell: Shell, settings: UsedUpSettings,
    minutes: float, densities: dict[str, float],
) -> tuple[Item, ...]:  # fmt: skip
    """The whole list. `minutes` is what laying one strip takes, `densities` kg/m³ by wood."""
    seams = sum(glue_of(n, settings) for n in needs)
    in_joints = _joint_glue(plan, joints, settings)
    glue = seams + in_joints
    life = pot_life(settings)
    batches, strips_a_batch = _batches(needs, life, minutes)
    hardener = settings.hardener / 100
    resin_l = glue / 1000 / (1 + hardener)
    by_weight = 100 * hardener * settings.hardener_density / settings.resin_density
    items = [
        Item(
            "Glue, mixed",
            glue / 1000,
            "l",
            f"line {settings.glue_line:g} mm on every seam, {settings.glue_waste:g} % waste; {glue / max(len(needs), 1):.0f} ml "
            f"a strip",
        ),
        Item(
            "Batches of glue",
            float(batches),
            "",
            f"one holds {life:.0f} min at {settings.temperature:g} °C ({settings.pot_life:g} at 20 °C): "
            f"{strips_a_batch:.2g} strips of {minutes:g} min, {glue / max(batches, 1):.0f} ml each",
        ),
        Item(
            "Resin for glue",
            resin_l * settings.resin_density,
            "kg",
            f"{100:g} parts to {settings.hardener:g} by volume",
        ),
        Item(
            "Hardener for glue",
            resin_l * hardener * settings.hardener_density,
            "kg",
            f"100 parts to {by_weight:.0f} by weight, at {settings.resin_density:g} and {settings.hardener_density:g} kg/l",
        ),
    ]
    if settings.staples:
        items.append(
            Item(
                "Staples, or screws with washers",
                float(shell.crossings * settings.staples),
                "",
                f"{settings.staples} in each strip at each mold, both sides",
            )
        )
    if settings.edge_screws:
        items.append(
            Item(
                "Edge screws or dowels",
                float(shell.gaps * settings.edge_screws),
                "",
                f"{settings.edge_screws} in each strip between two molds, both sides",
            )
        )
    if settings.tape:
        items.append(Item("Tape for mold edges", shell.mold_edges, "m", "once along every edge, both sides"))
    cloth_resin = _cloth(items, shell, settings)
    wood = sum(
        n.length * n.section.width * n.section.thickness / 1e9 * densities[n.section.wood] for n in needs
    )
    kept = wood + seams / 1000 / (1 + settings.glue_waste / 100) * 1.1 + cloth_resin
    items.append(
        Item(
            "The planked shell weighs",
            kept,
            "kg",
            f"{wood:.1f} kg of wood as sawn, glue in the seams, cloth, resin and filler; before planing and sanding",
        )
    )
    return tuple(items)  # fmt: skip


def _joint_glue(plan: JointPlan | None, joints: JointSettings, settings: UsedUpSettings) -> float:
    """Mixed glue (ml) in all end joints: the face of each is as long as its slope makes it."""
    if plan is None:
        return 0.0
    total = 0.0
    for made in plan.made:
        section = made.need.section
        slope = {
            "BUTT": 0.0,
            "NONE": 0.0,
            "SLOPE": joints.slope,
            "ANGLE": math.tan(math.radians(joints.angle)),
        }[joints.kind.name]
        face = section.thickness * math.hypot(1.0, slope) * section.width
        total += len(made.joints) * face * settings.glue_line * (1 + settings.glue_waste / 100) / 1000
    return total


def _batches(needs: Sequence[Need], life: float, minutes: float) -> tuple[int, float]:
    """How many batches of glue, and how many strips each serves within its life: at least one, which then wants two batches
    or more."""
    a_batch = life / minutes
    return math.ceil(len(needs) / a_batch - 1e-9), a_batch


def _cloth(items: list[Item], shell: Shell, settings: UsedUpSettings) -> float:
    """Cloth, resin and filler for both faces; their weight on the hull, kg."""
    total = 0.0
    over = 1 + settings.overlap / 100
    for where, weight in (("outside", settings.cloth_out), ("inside", settings.cloth_in)):
        if not weight:
            continue
        area = shell.area * over
        resin = area * weight * settings.resin_ratio / 1000
        items.append(
            Item(
                f"Cloth {where}",
                area,
                "m²",
                f"{weight:g} g/m² on {shell.area:.2f} m², {settings.overlap:g} % overlap",
            )
        )
        items.append(
            Item(
                f"Resin, mixed, for cloth {where}",
                resin,
                "kg",
                f"{settings.resin_ratio:g} times the cloth's weight",
            )
        )
        total += area * weight / 1000 + resin
        if settings.fill:
            fill = shell.area * settings.fill / 1000
            items.append(Item(f"Filler coat {where}", fill, "kg", f"{settings.fill:g} g/m²"))
            total += fill
    return total

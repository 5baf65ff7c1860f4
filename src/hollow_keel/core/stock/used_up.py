"""Everything else that is used up: glue, fasteners, tape, cloth and resin, and what the planked shell weighs.

Plain sums over lengths and areas; every assumption is a setting of the builder's own. How glue's life shortens with warmth,
half for every ten degrees, is common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .. import rules
from ..amounts import quantity
from ..molds.stations import Mold
from ..planking.strips import Planking
from ..rules import GLUE_KG_PER_L
from ..settings.timber import JointSettings, UsedUpSettings
from .joint_plan import JointPlan
from .joints import joint_of
from .needs import Need

WEIGHS = "The planked shell weighs"


@dataclass(frozen=True)
class Item:
    """One line of the list: what, how much in which metric unit, and what it was reckoned with, in words with marked amounts."""

    what: str
    amount: float
    unit: str
    reckoned: str


@dataclass(frozen=True)
class Veneered:
    """What layers of veneer take, both sides, kg, as the page of the veneers has it: mixed `glue`, what of it is `left` in the
    trimmed shell, and their `wood`, trimmed."""

    glue: float
    left: float
    wood: float


@dataclass(frozen=True)
class Shell:
    """What the list is made from: areas in m² of both sides together (hull skin, mold edges in m), and what strips cross."""

    area: float
    mold_edges: float
    crossings: int
    gaps: int

    def with_deck(self, deck: Shell) -> Shell:
        """Hull and deck together; molds have their edges once."""
        return Shell(self.area + deck.area, self.mold_edges, self.crossings + deck.crossings, self.gaps + deck.gaps)


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
    edges = sum(float(np.linalg.norm(np.diff(m.side, axis=0), axis=1).sum()) for m in molds)
    return Shell(area, 2 * edges / 1000, crossings, gaps)


def pot_life(settings: UsedUpSettings) -> float:
    """Minutes that a batch holds at the day's temperature."""
    return rules.pot_life(settings.pot_life, settings.temperature)


def seam_glue(length: float, thickness: float, settings: UsedUpSettings) -> float:
    """Mixed glue (ml) for a seam, mm: both faces together make the line, with waste."""
    return length * thickness * settings.glue_line * (1 + settings.glue_waste / 100) / 1000


def cloth_and_resin(area: float, weight: float, settings: UsedUpSettings) -> tuple[float, float]:
    """Cloth (m²) of a weight (g/m²) for one face of an area (m²), with its overlap, and the mixed resin in it (kg)."""
    cloth = area * (1 + settings.overlap / 100)
    return cloth, cloth * weight * settings.resin_ratio / 1000


def glue_of(need: Need, settings: UsedUpSettings) -> float:
    """Mixed glue (ml) for one strip: one edge, both faces of that seam together make the line, with waste."""
    return seam_glue(need.length, need.section.thickness, settings)


def used_up(
    needs: Sequence[Need],
    plan: JointPlan | None,
    joints: JointSettings,
    shell: Shell,
    settings: UsedUpSettings,
    minutes: float,
    densities: dict[str, float],
    layers: Veneered | None = None,
) -> tuple[Item, ...]:
    """The whole list. `minutes` is what laying one strip takes, `densities` kg/m³ by wood; `layers` what veneers take besides."""
    seams = sum(glue_of(n, settings) for n in needs)
    cloth, on_hull = _cloth(shell, settings)
    wood = sum(n.length * n.section.width * n.section.thickness / 1e9 * densities[n.section.wood] for n in needs)
    in_seams = seams / 1000 / (1 + settings.glue_waste / 100) * GLUE_KG_PER_L
    woods = [f"{quantity(wood, 'kg', '.1f')} of wood as sawn"] if needs else []
    veneers: list[Item] = []
    if layers is not None:
        woods.append(f"{quantity(layers.wood, 'kg', '.1f')} of veneers as trimmed")
        veneers = [Item("Glue between layers, mixed", layers.glue, "kg", "what is spread for every layer, past the hull too")]
    weighs = Item(
        WEIGHS,
        wood + in_seams + on_hull + (layers.wood + layers.left if layers is not None else 0.0),
        "kg",
        f"{' and '.join(woods) or 'no wood'}, glue in the seams, cloth, resin and filler; before planing and sanding",
    )
    if not needs:  # of veneers alone: no strip is glued or held down
        return (*veneers, *cloth, weighs)
    glue = _glue(seams + _joint_glue(needs, plan, joints, settings), len(needs), settings, minutes)
    return (*glue, *veneers, *_fasteners(shell, settings), *cloth, weighs)


def _glue(ml: float, strips: int, settings: UsedUpSettings, minutes: float) -> list[Item]:
    """Mixed glue (ml) for so many strips: in all, in batches, and its two parts by volume and by weight."""
    life = pot_life(settings)
    a_batch = life / minutes
    batches = math.ceil(strips / a_batch - 1e-9)
    hardener = settings.hardener / 100
    resin_l = ml / 1000 / (1 + hardener)
    by_weight = 100 * hardener * settings.hardener_density / settings.resin_density
    line = f"line {quantity(settings.glue_line, 'mm')} on every seam, {settings.glue_waste:g} % waste"
    holds = f"one holds {life:.0f} min at {settings.temperature:g} °C ({settings.pot_life:g} at 20 °C)"
    at = " and ".join(quantity(v, "kg/l") for v in (settings.resin_density, settings.hardener_density))
    parts = f"100 parts to {by_weight:.0f} by weight, at {at}"
    return [
        Item("Glue, mixed", ml / 1000, "l", f"{line}; {quantity(ml / max(strips, 1), 'ml', '.0f')} a strip"),
        Item(
            "Batches of glue",
            float(batches),
            "",
            f"{holds}: {a_batch:.2g} strips of {minutes:g} min, {quantity(ml / max(batches, 1), 'ml', '.0f')} each",
        ),
        Item("Resin for glue", resin_l * settings.resin_density, "kg", f"100 parts to {settings.hardener:g} by volume"),
        Item("Hardener for glue", resin_l * hardener * settings.hardener_density, "kg", parts),
    ]


def _joint_glue(needs: Sequence[Need], plan: JointPlan | None, joints: JointSettings, settings: UsedUpSettings) -> float:
    """Mixed glue (ml) in all end joints: the face of each is as long as its slope makes it."""
    sections = {n.key: n.section for n in needs}
    total = 0.0
    for made, _ in plan.strips if plan is not None else ():
        section = sections.get(made.key)
        if section is not None:
            face = section.width * math.hypot(section.thickness, joint_of(joints, section.thickness).lost)
            total += len(made.joints) * face * settings.glue_line * (1 + settings.glue_waste / 100) / 1000
    return total


def _fasteners(shell: Shell, settings: UsedUpSettings) -> list[Item]:
    """What holds strips while the glue sets, and the tape that keeps it off the molds."""
    staples, screws = settings.staples, settings.edge_screws
    found = [
        Item(
            "Staples, or screws with washers",
            float(shell.crossings * staples),
            "",
            f"{staples} in each strip at each mold, both sides",
        ),
        Item("Edge screws or dowels", float(shell.gaps * screws), "", f"{screws} in each strip between two molds, both sides"),
        Item("Tape for mold edges", shell.mold_edges if settings.tape else 0.0, "m", "once along every edge, both sides"),
    ]
    return [item for item in found if item.amount]


def _cloth(shell: Shell, settings: UsedUpSettings) -> tuple[list[Item], float]:
    """Cloth, resin and filler for both faces; and their weight on the hull, kg."""
    items: list[Item] = []
    total = 0.0
    for where, weight in (("outside", settings.cloth_out), ("inside", settings.cloth_in)):
        if not weight:
            continue
        area, resin = cloth_and_resin(shell.area, weight, settings)
        fill = shell.area * settings.fill / 1000
        reckoned = f"{quantity(weight, 'g/m²')} on {quantity(shell.area, 'm²', '.2f')}, {settings.overlap:g} % overlap"
        items += [
            Item(f"Cloth {where}", area, "m²", reckoned),
            Item(f"Resin, mixed, for cloth {where}", resin, "kg", f"{settings.resin_ratio:g} times the cloth's weight"),
        ]
        if fill:
            items.append(Item(f"Filler coat {where}", fill, "kg", quantity(settings.fill, "g/m²")))
        total += area * weight / 1000 + resin + fill
    return items, total

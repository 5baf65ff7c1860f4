"""What laying the layers takes: glue, staples, bags, hours, sheets of veneer; and what the shell weighs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..findings import Finding, Weight, mm
from ..job import Job, LayingSettings
from ..rules import OPEN_SHARE, pot_life
from ..settings.veneer_choices import Hold
from ..settings.woods import wood_of
from .layer_plan import LayerPlan
from .sheets import Sheeted, lay_on_sheets

PAGE = "veneers"
BUTT_MM = 1.0


@dataclass(frozen=True)
class LayerTakes:
    """What one layer takes, both sides: mixed glue under it, and what of that is left in the trimmed shell, grams; staples, how
    many of them come out again, and the scrap strips that they go through, mm; bag and breather, m² each; hours of two people;
    sheets of veneer, what of them ends up on the trimmed hull (a share; 0 where they are too narrow for some), and joints end to
    end; weight of its wood, trimmed, kg."""

    number: int
    glue: float
    glue_left: float
    staples: int
    pulled: int
    scrap: float
    bag: float
    hours: float
    sheets: int
    used: float
    joints: int
    weight: float


@dataclass(frozen=True)
class Laying:
    """What all layers take, and each on its sheets. `strips` is the weight of strips under them, kg; `buy` how many sheets more
    than are on hand; `open_time` how long spread glue stays open at the shed's temperature, and `spread` how long it is open under
    a veneer, minutes."""

    layers: tuple[LayerTakes, ...]
    sheeted: tuple[Sheeted, ...]
    strips: float
    buy: int
    open_time: float
    spread: float
    findings: tuple[Finding, ...]

    @property
    def glue(self) -> float:
        """All mixed glue, grams."""
        return sum(own.glue for own in self.layers)

    @property
    def weight(self) -> float:
        """The trimmed shell, wood and glue, kg; without cloth and coats."""
        return self.strips + sum(own.weight + own.glue_left / 1000.0 for own in self.layers)

    @property
    def hours(self) -> float:
        """Of two people, for all layers."""
        return sum(own.hours for own in self.layers)


def what_it_takes(plans: Sequence[LayerPlan], job: Job) -> Laying:
    """What laying the planned layers of a job takes. Reads its laying, the glue's spread, strips under veneers, and the shed's
    temperature."""
    laying, last = job.laying, len(plans)
    sheeted = tuple(lay_on_sheets(plan, laying, job.stock.joints) for plan in plans)
    takes = tuple(_layer(plan, own, job, laying, outermost=plan.number == last) for plan, own in zip(plans, sheeted, strict=True))
    strips = 0.0
    if job.veneers.over_strips and plans:
        density = wood_of(job.strips.wood, job.strips.modulus, job.strips.strength).density
        strips = 2 * plans[0].trimmed * job.strips.thickness / 1e9 * density
    open_time = pot_life(laying.open_time, job.stock.used_up.temperature)
    spread = laying.minutes * laying.wetting / 100.0
    buy = max(sum(own.sheets for own in takes) - laying.sheets_have, 0)
    found = tuple(_findings(sheeted, job, open_time, spread))
    return Laying(takes, sheeted, strips, buy, open_time, spread, found)


def _layer(plan: LayerPlan, sheeted: Sheeted, job: Job, laying: LayingSettings, *, outermost: bool) -> LayerTakes:
    glued = plan.number > 1 or job.veneers.over_strips
    spread = job.veneers.glue_spread if glued else 0.0
    stapled = plan.layer.hold is Hold.STAPLED
    rows = [int(v.width // laying.staple_rows) + 1 for v in plan.veneers]
    along = [int(v.length // laying.staple_every) + 1 for v in plan.veneers]
    staples = 2 * sum(a * b for a, b in zip(rows, along, strict=True)) if stapled else 0
    scrap = 2 * sum(a * v.length for a, v in zip(rows, plan.veneers, strict=True)) if stapled else 0.0
    whole = sheeted.sheets * laying.sheet_width * laying.sheet_length
    wood = wood_of(plan.layer.wood, None, None)
    return LayerTakes(
        plan.number,
        2 * plan.area / 1e6 * spread,
        2 * plan.trimmed / 1e6 * spread,
        staples,
        0 if outermost and laying.staples_stay else staples,
        scrap,
        0.0 if stapled else 2 * plan.area / 1e6 * (1 + laying.bag_more / 100.0),
        2 * len(plan.veneers) * laying.minutes / 60.0,
        sheeted.sheets,
        2 * plan.trimmed / whole if whole > 0 and not sheeted.too_wide else 0.0,
        sheeted.joints,
        2 * plan.trimmed * plan.layer.thickness / 1e9 * wood.density,
    )


def _findings(sheeted: Sequence[Sheeted], job: Job, open_time: float, spread: float) -> list[Finding]:
    found, laying, temperature = [], job.laying, job.stock.used_up.temperature
    if spread > OPEN_SHARE * open_time:
        text = (
            f"At {temperature:g} °C spread glue can be covered for {open_time:.0f} minutes, and a veneer keeps it open for "
            f"{spread:.0f}: a cooler shed, a slower glue, or shorter veneers."
        )
        found.append(Finding("open-time", Weight.LOOK, PAGE, "the glue", text))
    for own in sheeted:
        if own.too_wide:
            numbers = ", ".join(map(str, own.too_wide))
            text = f"Sheets of {mm(laying.sheet_width)} are narrower than veneer {numbers}: narrower ones, or wider sheets."
            found.append(Finding("sheet-narrow", Weight.LOOK, PAGE, f"layer {own.layer}", text))
        apart, stagger = own.butts.apart, job.stock.joints.stagger
        if apart is not None and apart < stagger - BUTT_MM:
            first, second = own.butts.between
            text = (
                f"Butts of veneers {first} and {second} are {mm(round(apart))} apart, joints are to be {mm(stagger)}: "
                "longer sheets, or scarf them before they are laid."
            )
            found.append(Finding("butts-near", Weight.LOOK, PAGE, f"layer {own.layer}", text))
    return found

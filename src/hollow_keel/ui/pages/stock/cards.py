"""What the bench card says on the stock page: one board and its strips, or the pieces of one strip."""

from __future__ import annotations

from ....core.amounts import in_amounts, quantity
from ....core.settings.timber import RipWay, SawSettings
from ....core.stock.plan import Lot
from ....core.stock.rip import SAW_CAUTION, rips
from ....core.stock.used_up import glue_of
from ....core.units import format_length, given_size
from ...views.bench_card import Card
from ...window.state import State


def board_card(state: State, lot: Lot) -> Card:
    """How one kind of board becomes strips."""
    rip = lot.rip
    rows = [
        ("strips from each", str(rip.count)),
        ("boards", f"{lot.count}{' to buy' if lot.bought else ''}"),
        ("set the fence to", state.write_fine(rip.blank)),
        ("then to", state.write_fine(rip.strip)),
        ("left over", f"{format_length(rip.left[0], state.style.fine)} + {state.write_fine(rip.left[1])}"),
        ("becomes strips", f"{100 * rip.yielded:.0f} %"),
        ("becomes dust", f"{100 * rip.dust:.0f} %"),
        ("grain on the face", rip.face.value),
    ]
    if rip.way is RipWay.OFF_EDGE:
        rows.pop(3)
    if lot.count * rip.count:
        rows.append(("numbered", f"{lot.boards[0]}.1 … {lot.boards[-1]}.{rip.count}"))
    return Card(
        f"Board {lot.mark}",
        "to buy" if lot.bought else "on hand",
        str(lot.count * rip.count),
        "strips",
        f"of {given_size((lot.section.width, lot.section.thickness), state.style, unit=True)}, "
        f"{state.write(lot.board.usable, unit=True)} long",
        tuple(rows),
        "n = (width + kerf) / (strip + kerf), rounded down, exactly",
        SAW_CAUTION,
    )


def strip_card(state: State) -> Card:
    """The pieces of the current strip, both sides."""
    plan = state.stock
    number = state.strip.number if state.strip else 0
    own = [row for row in plan.plan.strips if row[0].strip == number] if plan and plan.plan else []
    if not own or plan is None:
        return Card("Pieces", meaning="choose a strip")
    rows: list[tuple[str, str]] = []
    for made, cut in own:
        side = f"{made.side}, cut" if cut else made.side
        rows += [(f"{side}, {p.stick}", state.write(p.length)) for p in made.pieces]
    needs = [n for n in plan.needs if n.strip == number]
    length = needs[0].length if needs else 0.0
    if needs:
        rows.append(
            (
                "glue for one seam, mixed",
                in_amounts(quantity(glue_of(needs[0], state.job.stock.used_up), "ml", ".0f"), state.job.units.told_in),
            )
        )
    joints = state.job.stock.joints
    return Card(
        f"Strip {number}",
        "pieces",
        state.write(length),
        state.style.name,
        "to cut, with what is trimmed off at the ends",
        tuple(rows),
        f"a joint takes {state.write(plan.joint.lost, unit=True)}; about {100 * plan.joint.strength:.0f} % of the strength of "
        f"{plan.joint.of}; {plan.joint.bends}; {'on the bench the day before' if joints.on_bench else 'on the hull'}",
        "Epoxy: gloves and ventilation; a full pot grows hot.",
    )


def other_way(lot: Lot, saw: SawSettings) -> str:
    """What the other ways of ripping would give."""
    saw = saw.model_copy(update={"way": RipWay.BEST})
    said = ""
    for other in rips(lot.board, lot.section.width, lot.section.thickness, saw):
        if other.way is not lot.rip.way:
            grain = f", {other.face.value} grain on their faces" if other.face.value != "not known" else ""
            said += f"\n{other.way.value.capitalize()} would give {other.count}{grain}."
    return said

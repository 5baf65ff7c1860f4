"""What to buy: the fewest or cheapest boards for sale from which the rest of the strips can be made."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from ..settings.timber import Board, BuyingSettings, SawSettings, Wish
from .needs import Need, Scantling
from .rip import Rip, rips
from .solver import least_cost


@dataclass(frozen=True)
class Purchase:
    """So many of one kind of board for sale, `number` in the list, for strips of a section: each is ripped as `rip` says."""

    number: int
    board: Board
    count: int
    section: Scantling
    rip: Rip


def same_wood(board: Board, section: Scantling, wood: str) -> bool:
    """Whether a board is of a section's wood; an empty one is that of the job's strips, `wood`."""
    return (board.wood or wood).strip().lower() == section.wood.strip().lower()


def for_sale(section: Scantling, wood: str, saw: SawSettings, settings: BuyingSettings) -> list[tuple[int, Board, Rip]]:
    """What gives strips of a section: its number in the list, the board, and how it is ripped."""
    return [
        (number, board, found[0])
        for number, board in enumerate(settings.for_sale)
        if same_wood(board, section, wood) and (found := rips(board, section.width, section.thickness, saw))
    ]


def buy(
    needs: Sequence[Need],
    section: Scantling,
    wood: str,
    lost: float,
    have: float,
    saw: SawSettings,
    settings: BuyingSettings,
    extra: float = 1.0,
) -> list[Purchase]:
    """The boards to buy for strips of a section. `lost` mm goes in every joint; `have` mm (joints taken off) is on hand;
    `extra` times as much as is needed is bought. Raises ImpossiblePlan where nothing for sale will do."""
    offers = [o for o in for_sale(section, wood, saw, settings) if o[1].usable > 2 * lost]
    more = (1 + settings.spare / 100) * extra
    wanted = sum(n.length - lost for n in needs) * more - have
    if wanted <= 0:
        return []
    if not offers:
        raise ImpossiblePlan(nothing_for_sale(section))
    gains = np.array([rip.count * (board.usable - lost) for _, board, rip in offers])
    costs = costs_of([board for _, board, _ in offers], settings.wish)
    from scipy.optimize import LinearConstraint

    most = np.array([board.count or np.inf for _, board, _ in offers], dtype=float)
    found = least_cost(costs, [LinearConstraint(gains[None], lb=wanted)], most, exact=False)
    if found.x is None:
        short = wanted - float((gains * most).sum())
        if short <= 0:
            raise ImpossiblePlan(
                f"What to buy for strips of {section.wood} could not be found among so many kinds of boards: leave some out."
            )
        raise ImpossiblePlan(
            f"All that is for sale is not enough for strips of {section.wood} {mm(section.width)} by {mm(section.thickness)}: "
            f"{short / 1000:.0f} m of strip are missing."
        )
    counts = np.round(found.x).astype(int).tolist()
    return [Purchase(n, board, k, section, rip) for (n, board, rip), k in zip(offers, counts, strict=True) if k]


def costs_of(boards: list[Board], wish: Wish) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """What each board counts as: its price, or its wood (a little of it in any case, so that of equals the smaller is bought)."""
    wood = np.array([b.thickness * b.width * b.length / 1e9 for b in boards])
    price = np.array([b.price for b in boards])
    if wish is Wish.WASTE or not price.any():
        return wood
    result: np.ndarray[tuple[int], np.dtype[np.float64]] = price + 1e-6 * wood
    return result


def no_length(wanted: float, longest: float) -> str:
    """That strips `wanted` mm long cannot come in one piece of `longest` mm."""
    return (
        f"Strips as long as {mm(math.ceil(wanted))} cannot come in one piece from boards of {mm(math.floor(longest))}: "
        "allow joints, or find longer boards."
    )


def nothing_for_sale(section: Scantling) -> str:
    """That nothing gives strips of a section."""
    return (
        f"Nothing for sale gives strips of {section.wood}, {mm(section.width)} wide and {mm(section.thickness)} thick: give "
        f"boards of that wood that "
        "are thick or wide enough."
    )

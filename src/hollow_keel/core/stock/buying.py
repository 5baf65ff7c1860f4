"""What to buy: the fewest or cheapest boards for sale from which the rest of the strips can be made."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import mm
from .cutting import Bar, cut_stock
from .needs import Need, Section
from .rip import Rip, rips
from .timber import Board, BuyingSettings, JointKind, SawSettings, Wish


@dataclass(frozen=True)
class Purchase:
    """So many of one kind of board for sale, `number` in the list, for strips of a section: each is ripped as `rip` says."""

    number: int
    board: Board
    count: int
    section: Section
    rip: Rip


def same_wood(board: Board, section: Section, wood: str) -> bool:
    """Whether a board is of a section's wood; an empty one is that of the job's strips, `wood`."""
    return (board.wood or wood).strip().lower() == section.wood.strip().lower()


def buy(
    needs: Sequence[Need], section: Section, wood: str, lost: float, have: float, saw: SawSettings,
    settings: BuyingSettings, kind: JointKind, extra: float = 1.0,
) -> list[Purchase]:  # fmt: skip
    """The boards to buy for strips of a section. `lost` mm goes in every joint; `have` mm (joints taken off) is on hand;
    `extra` times as much as is needed is bought. Raises ImpossiblePlan where nothing for sale will do."""
    for_sale = [
        (number, board, found[0])
        for number, board in enumerate(settings.for_sale)
        if same_wood(board, section, wood)
        and (found := rips(board, section.width, section.thickness, saw))
        and board.usable > 2 * lost
    ]
    more = (1 + settings.spare / 100) * extra
    if kind is JointKind.NONE:
        return _whole_lengths(needs, section, for_sale, settings, more)
    wanted = sum(n.length - lost for n in needs) * more - have
    if wanted <= 0:
        return []
    if not for_sale:
        raise ImpossiblePlan(_nothing(section))
    gains = np.array([rip.count * (board.usable - lost) for _, board, rip in for_sale])
    costs = _costs([board for _, board, _ in for_sale], settings.wish)
    from scipy.optimize import Bounds, LinearConstraint, milp

    most = np.array([board.count or np.inf for _, board, _ in for_sale], dtype=float)
    found = milp(
        costs, constraints=[LinearConstraint(gains[None], lb=wanted)], integrality=np.ones(len(costs)), bounds=Bounds(0, most),
        options={"time_limit": 3.0},
    )  # fmt: skip
    if found.x is None:
        short = wanted - float((gains * most).sum())
        raise ImpossiblePlan(
            f"All that is for sale is not enough for strips of {section.wood} {mm(section.width)} by {mm(section.thickness)}: "
            f"{short / 1000:.0f} m of strip are missing."
        )
    counts = np.round(found.x).astype(int).tolist()
    return [
        Purchase(n, board, k, section, rip) for (n, board, rip), k in zip(for_sale, counts, strict=True) if k
    ]


def _costs(boards: list[Board], wish: Wish) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """What each board counts as: its price, or its wood (a little of it in any case, so that of equals the smaller is bought)."""
    wood = np.array([b.thickness * b.width * b.length / 1e9 for b in boards])
    price = np.array([b.price for b in boards])
    if wish is Wish.WASTE or not price.any():
        return wood
    result: np.ndarray[tuple[int], np.dtype[np.float64]] = price + 1e-6 * wood
    return result


def _whole_lengths(
    needs: Sequence[Need],
    section: Section,
    for_sale: list[tuple[int, Board, Rip]],
    settings: BuyingSettings,
    more: float,
) -> list[Purchase]:
    """Boards for strips without a joint: a cutting-stock problem over the lengths for sale."""
    if not needs:
        return []
    if not for_sale:
        raise ImpossiblePlan(_nothing(section))
    lengths: dict[int, int] = {}
    for need in needs:
        length = math.ceil(need.length - 1e-6)
        lengths[length] = lengths.get(length, 0) + 1
    costs = _costs([board for _, board, _ in for_sale], settings.wish)
    bars = [
        Bar(int(board.usable), float(cost) / rip.count, board.count * rip.count or None)
        for (_, board, rip), cost in zip(for_sale, costs, strict=True)
    ]
    longest = max(bar.length for bar in bars)
    if max(lengths) > longest:
        raise ImpossiblePlan(
            f"Strips as long as {mm(max(lengths))} cannot come in one piece from boards of {mm(longest)}: allow joints, or find "
            f"longer boards."
        )
    plan = cut_stock(list(lengths.items()), bars)
    strips = [0] * len(bars)
    for cut in plan.cuts:
        strips[cut.bar] += cut.times
    found = []
    for (number, board, rip), count in zip(for_sale, strips, strict=True):
        boards = math.ceil(count * more / rip.count - 1e-9)
        if boards:
            found.append(Purchase(number, board, min(boards, board.count or boards), section, rip))
    return found


def _nothing(section: Section) -> str:
    return (
        f"Nothing for sale gives strips of {section.wood}, {mm(section.width)} wide and {mm(section.thickness)} thick: give "
        f"boards of that wood that "
        "are thick or wide enough."
    )

"""Wood: what strips are made of, and what else is used up."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..hull.stages import MEASURES
from ..molds.stages import MOLDS
from ..planking.stages import BEHAVIOURS, PLANKING
from ..settings.timber import BuyingSettings, JointSettings, SawSettings, UsedUpSettings
from ..stage import Given, Stage, Turn, fields_of

if TYPE_CHECKING:
    from .plan import Pieces, StockPlan

STRIPS = (
    "strips.width", "strips.thickness", "strips.zones", "strips.layout", "strips.wood", "strips.modulus", "strips.strength",
    "strips.hand_push", "strips.clamp_push", "strips.allowance", "strips.meet_on",
)  # fmt: skip
TIMBER = (
    "stock.boards", "stock.cut", *fields_of(SawSettings, "stock.saw"), *fields_of(JointSettings, "stock.joints"),
    *fields_of(BuyingSettings, "stock.buying", but=("currency",)),
)  # fmt: skip


def _pieces(given: Given) -> Pieces:
    from .plan import plan_pieces

    molds = given[MOLDS].molds
    return plan_pieces(given.job, given[PLANKING], given[BEHAVIOURS], molds, given.tick)


def _stock(given: Given) -> StockPlan:
    from .plan import plan_stock
    from .used_up import shell_of

    shell = shell_of(given[MEASURES].planked_area, given[MOLDS].molds, given[PLANKING])
    return plan_stock(given.job, given[PIECES], shell)


PIECES = Stage(
    "strip-pieces", "stock", "the pieces of the strips", (*STRIPS, *TIMBER), (PLANKING, BEHAVIOURS, MOLDS), _pieces,
    turn=Turn.WOOD, shown=False,
)  # fmt: skip
STOCK = Stage(
    "stock", "stock", "the wood",
    (
        *fields_of(UsedUpSettings, "stock.used_up"), "stock.joints.kind", "stock.joints.slope", "stock.joints.angle",
        "strips.minutes",
    ),
    (PIECES, MEASURES, MOLDS, PLANKING), _stock, lambda stock: stock.findings, Turn.WOOD,
)  # fmt: skip

STAGES = (PIECES, STOCK)

"""Wood: what strips are made of, and what else is used up."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..deck.strip_stages import DECK_BEHAVIOURS, DECK_OPENINGS, DECK_PLAN
from ..deck.strip_stages import STRIP as DECK_STRIP
from ..hull.stages import DECK, MEASURES
from ..molds.stages import MOLDS
from ..planking.stages import BEHAVIOURS, PLANKING
from ..settings.timber import BuyingSettings, JointSettings, SawSettings, UsedUpSettings
from ..stage import Given, Stage, Turn, fields_of
from ..veneers.stages import LAYING

if TYPE_CHECKING:
    from .needs import Need
    from .plan import Pieces, StockPlan

STRIPS = (
    "strips.width",
    "strips.thickness",
    "strips.zones",
    "strips.layout",
    "strips.wood",
    "strips.modulus",
    "strips.strength",
    "strips.hand_push",
    "strips.clamp_push",
    "strips.allowance",
    "strips.meet_on",
)
TIMBER = (
    "stock.boards",
    "stock.cut",
    *fields_of(SawSettings, "stock.saw"),
    *fields_of(JointSettings, "stock.joints"),
    *fields_of(BuyingSettings, "stock.buying", but=("currency",)),
)


def _pieces(given: Given) -> Pieces:
    from .plan import plan_pieces

    job, molds = given.job, given[MOLDS].molds
    plan, openings = given[DECK_PLAN], given[DECK_OPENINGS]
    deck: tuple[Need, ...] = ()
    if plan is not None and openings is not None:
        from .deck_needs import deck_needs

        stations = [m.station for m in molds]
        deck = deck_needs(job, plan, given[DECK_BEHAVIOURS], stations, openings.openings)
    return plan_pieces(job, given[PLANKING], given[BEHAVIOURS], molds, given.tick, deck)


def _stock(given: Given) -> StockPlan:
    from .plan import plan_stock
    from .used_up import Veneered, shell_of

    molds = given[MOLDS].molds
    shell = shell_of(given[MEASURES].planked_area, molds, given[PLANKING])
    plan, deck = given[DECK_PLAN], given[DECK]
    if plan is not None and deck is not None:
        shell = shell.with_deck(shell_of(deck.area, molds, plan.planking))
    laying = given[LAYING]
    layers = None
    if laying is not None:
        left, wood = (sum(getattr(own, what) for own in laying.layers) for what in ("glue_left", "weight"))
        layers = Veneered(laying.glue / 1000.0, left / 1000.0, wood)
    return plan_stock(given.job, given[PIECES], shell, layers)


PIECES = Stage(
    "strip-pieces",
    "stock",
    "the pieces of the strips",
    (*STRIPS, *DECK_STRIP, *TIMBER),
    (PLANKING, BEHAVIOURS, MOLDS, DECK_PLAN, DECK_BEHAVIOURS, DECK_OPENINGS),
    _pieces,
    turn=Turn.WOOD,
    shown=False,
)
STOCK = Stage(
    "stock",
    "stock",
    "the wood",
    (
        *fields_of(UsedUpSettings, "stock.used_up"),
        "stock.joints.kind",
        "stock.joints.slope",
        "stock.joints.angle",
        "strips.minutes",
        "veneers.layers",
        "veneers.over_strips",
    ),
    (PIECES, MEASURES, MOLDS, PLANKING, DECK, DECK_PLAN, LAYING),
    _stock,
    lambda stock: stock.findings,
    Turn.WOOD,
)

STAGES = (PIECES, STOCK)

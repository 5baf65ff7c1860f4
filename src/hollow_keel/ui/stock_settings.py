"""What can be chosen about stock beyond what stands on its page."""

from __future__ import annotations

from ..core.amounts import Amounts
from ..core.stock.timber import BundleOrder, Wish
from .settings_dialog import Group, Kind, Setting

ORDERS = (
    ("as they come off the saw, matched", BundleOrder.MATCHED),
    ("every second one turned end for end", BundleOrder.TURNED),
)
TOLD_IN = (
    ("as lengths are: metric, or US with inches", None),
    ("kilograms, litres, square metres", Amounts.METRIC),
    ("pounds, gallons, square yards", Amounts.US),
)
WISHES = (("cost", Wish.COST), ("waste", Wish.WASTE))

STOCK_SETTINGS = (
    Group(
        "The saw",
        (
            Setting("Kerf", "stock.saw", "kerf", Kind.FINE),
            Setting("Left on every face for planing", "stock.saw", "planing", Kind.FINE),
            Setting("Off one edge to joint it", "stock.saw", "jointing", Kind.FINE),
            Setting("Strips in bundles", "stock.saw", "order", Kind.CHOICE, ORDERS),
        ),
    ),
    Group(
        "Joints",
        (
            Setting("How many strips back they count", "stock.joints", "rows", Kind.WHOLE),
            Setting("Clear of molds by", "stock.joints", "clear_molds", hint="0: anywhere"),
            Setting("Clear of the hardest place by", "stock.joints", "clear_bends", hint="0: anywhere"),
            Setting("No piece shorter than", "stock.joints", "least_piece"),
            Setting("Glued on the bench beforehand", "stock.joints", "on_bench", Kind.FLAG),
        ),
    ),
    Group(
        "Buying",
        (
            Setting("Least", "stock.buying", "wish", Kind.CHOICE, WISHES),
            Setting("Spare, per cent", "stock.buying", "spare", Kind.NUMBER),
            Setting("Currency", "stock.buying", "currency", Kind.WORD),
        ),
    ),
    Group(
        "Told in",
        (Setting("Areas, volumes and weights", "units", "amounts", Kind.CHOICE, TOLD_IN),),
    ),
    Group(
        "Glue",
        (
            Setting("Thickness of the glue line", "stock.used_up", "glue_line", Kind.FINE),
            Setting("Waste, per cent", "stock.used_up", "glue_waste", Kind.NUMBER),
            Setting("Pot life at 20 °C, minutes", "stock.used_up", "pot_life", Kind.NUMBER),
            Setting("In the shed, °C", "stock.used_up", "temperature", Kind.NUMBER),
            Setting("Hardener to 100 of resin, by volume", "stock.used_up", "hardener", Kind.NUMBER),
            Setting("Density of resin, kg/l", "stock.used_up", "resin_density", Kind.NUMBER),
            Setting("Density of hardener, kg/l", "stock.used_up", "hardener_density", Kind.NUMBER),
        ),
    ),
    Group(
        "Fasteners and tape",
        (
            Setting("Staples or screws a strip at a mold", "stock.used_up", "staples", Kind.WHOLE),
            Setting("Edge screws a strip between molds", "stock.used_up", "edge_screws", Kind.WHOLE),
            Setting("Tape on mold edges", "stock.used_up", "tape", Kind.FLAG),
        ),
    ),
    Group(
        "Cloth and resin",
        (
            Setting("Cloth outside, g/m²", "stock.used_up", "cloth_out", Kind.NUMBER, hint="0: none"),
            Setting("Cloth inside, g/m²", "stock.used_up", "cloth_in", Kind.NUMBER, hint="0: none"),
            Setting("Overlap, per cent", "stock.used_up", "overlap", Kind.NUMBER),
            Setting("Resin to cloth, by weight", "stock.used_up", "resin_ratio", Kind.NUMBER),
            Setting("Filler coat, g/m²", "stock.used_up", "fill", Kind.NUMBER, hint="0: none"),
        ),
    ),
)  # fmt: skip

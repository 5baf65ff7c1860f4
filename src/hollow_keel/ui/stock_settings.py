"""What can be chosen about stock beyond what stands on its page."""

from __future__ import annotations

from .settings_dialog import Group

STOCK_SETTINGS = (
    Group(
        "The saw",
        (
            "stock.saw.kerf",
            "stock.saw.planing",
            "stock.saw.jointing",
            "stock.saw.order",
        ),
    ),
    Group(
        "Joints",
        (
            "stock.joints.rows",
            "stock.joints.clear_molds",
            "stock.joints.clear_bends",
            "stock.joints.least_piece",
            "stock.joints.on_bench",
        ),
    ),
    Group(
        "Buying",
        (
            "stock.buying.wish",
            "stock.buying.spare",
            "stock.buying.currency",
        ),
    ),
    Group(
        "Told in",
        ("units.amounts",),
    ),
    Group(
        "Glue",
        (
            "stock.used_up.glue_line",
            "stock.used_up.glue_waste",
            "stock.used_up.pot_life",
            "stock.used_up.temperature",
            "stock.used_up.hardener",
            "stock.used_up.resin_density",
            "stock.used_up.hardener_density",
        ),
    ),
    Group(
        "Fasteners and tape",
        (
            "stock.used_up.staples",
            "stock.used_up.edge_screws",
            "stock.used_up.tape",
        ),
    ),
    Group(
        "Cloth and resin",
        (
            "stock.used_up.cloth_out",
            "stock.used_up.cloth_in",
            "stock.used_up.overlap",
            "stock.used_up.resin_ratio",
            "stock.used_up.fill",
        ),
    ),
)

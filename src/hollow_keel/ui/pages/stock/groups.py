"""What is decided about wood and all that is used up, in groups."""

from __future__ import annotations

from ...decide.groups import Group

STOCK_GROUPS = (
    Group(
        "Joints",
        (
            "stock.joints.kind",
            "stock.joints.slope",
            "stock.joints.angle",
            "stock.joints.stagger",
            "stock.joints.rows",
            "stock.joints.clear_molds",
            "stock.joints.clear_bends",
            "stock.joints.least_piece",
            "stock.joints.on_bench",
        ),
    ),
    Group("The saw", ("stock.saw.way", "stock.saw.kerf", "stock.saw.planing", "stock.saw.jointing", "stock.saw.order")),
    Group("Buying", ("stock.buying.wish", "stock.buying.spare", "stock.buying.currency", "units.amounts")),
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
    Group("Fasteners and tape", ("stock.used_up.staples", "stock.used_up.edge_screws", "stock.used_up.tape")),
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

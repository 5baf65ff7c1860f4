"""The stock plan as part of the plan file (see docs/plan-file.md). Lengths mm, amounts in their own units."""

from __future__ import annotations

from typing import Any

from ...core.amounts import Amounts, in_amounts
from ...core.job import Job
from ...core.stock.joint_plan import JointPlan
from ...core.stock.plan import Lot, StockPlan
from ..rounded import rounded


def stock_document(plan: StockPlan | None, job: Job) -> dict[str, Any]:
    """Empty where nobody has planned the stock; without boards only what is needed and used up."""
    if plan is None:
        return {}
    joints = job.stock.joints
    found: dict[str, Any] = {
        "lengths": len(plan.needs),
        "length_m": rounded(sum(n.length for n in plan.needs) / 1000),
        "joint": {
            "kind": joints.kind.value,
            "takes": rounded(plan.joint.lost),
            "strength": rounded(plan.joint.strength),
            "strength_of": plan.joint.of,
            "apart": joints.stagger,
            "rows": joints.rows,
            "clear_molds": joints.clear_molds,
            "clear_bends": joints.clear_bends,
        },
        "boards": [_lot(lot) for lot in plan.lots],
        "cost": rounded(plan.cost, 2),
        "currency": job.stock.buying.currency,
        "used_up": [
            {"what": i.what, "amount": rounded(i.amount), "unit": i.unit, "reckoned_with": in_amounts(i.reckoned, Amounts.METRIC)}
            for i in plan.items
        ],
    }
    if plan.plan is not None and job.stock.given:
        found.update(_pieces(plan.plan))
    return found


def _lot(lot: Lot) -> dict[str, Any]:
    board, rip = lot.board, lot.rip
    return {
        "mark": lot.mark,
        "buy": lot.bought,
        "count": lot.count,
        "wood": lot.section.wood,
        "thickness": board.thickness,
        "width": board.width,
        "usable_length": rounded(board.usable),
        "price": board.price,
        "strip_width": lot.section.width,
        "strip_thickness": lot.section.thickness,
        "ripped": rip.way.value,
        "blanks": rip.blanks,
        "strips_per_blank": rip.per_blank,
        "strips": rip.count,
        "left": [rounded(v) for v in rip.left],
        "no_margin": rip.tight,
        "yield": rounded(rip.yielded),
        "dust": rounded(rip.dust),
        "grain": rip.face.value,
    }


def _pieces(plan: JointPlan) -> dict[str, Any]:
    return {
        "joints": plan.joints,
        "waste": {
            "used_m": rounded(plan.used / 1000),
            "in_joints_m": rounded(plan.lost / 1000),
            "scrap_m": rounded(plan.scrap / 1000),
            "offcuts_m": rounded(sum(s.length for s in plan.left) / 1000),
            "share": rounded(plan.waste),
        },
        "missing": [{"n": n.strip, "side": n.side, "length": rounded(n.length)} for n in plan.missing],
        "pieces": [
            {
                "n": s.strip,
                "side": s.side,
                "part": s.part + 1,
                "cut_already": done,
                "pieces": [{"stick": p.stick, "length": rounded(p.length)} for p in s.pieces],
                "joints": [rounded(j) for j in s.joints],
            }
            for s, done in plan.strips
        ],
    }

"""The plan as a JSON document: every stage's results, stable field names (see docs/plan-file.md)."""

from __future__ import annotations

import math
from dataclasses import asdict
from typing import Any

from ..core.fairing.doubts import Doubt
from ..core.findings import Finding, in_words
from ..core.hull.hydro import Hydro
from ..core.molds.stages import UNCERTAIN_MOLDS
from ..core.planking.mechanics import Behaviour
from ..core.planking.stages import StripEnds
from ..core.planking.strips import Strip
from ..core.results import Results, Shape
from .planking.plan import strip_part
from .rounded import rounded
from .stock.plan import stock_document

SCHEMA = 1


def plan_document(results: Results) -> dict[str, Any]:
    """Lengths mm, areas m², volumes m³, angles degrees, curvatures 1/m, twist degrees/m."""
    shape, planking = results.shape, results.planking
    measures = shape.measures
    found, ends = results.behaviours, results.strip_ends
    out = results[UNCERTAIN_MOLDS]
    return {
        "schema": SCHEMA,
        "units": "mm",
        "name": shape.job.name,
        "waterline": shape.waterline,
        "offsets": {
            "points": len(shape.job.offsets.rows),
            "doubts": [_doubt(d) for d in results.fairness.doubts] if results.fairness else [],
            "doubts_checked": results.fairness is not None,
        },
        "hydrostatics": _hydro(results.fairness.hydro) if results.fairness else {},
        "hull": {
            "length": rounded(measures.length),
            "beam": rounded(measures.beam),
            "volume": rounded(measures.volume, 7),
            "wetted_area": rounded(measures.wetted_area, 6),
            "planked_area": rounded(measures.planked_area, 6),
            "girths": [{"station": x, "half_girth": rounded(g)} for x, g in shape.hull.girths],
        },
        "molds": [
            {
                "name": m.name,
                "station": m.station,
                "face": m.station,
                "reference_face": m.face.value,
                "points": [[rounded(y), rounded(z)] for y, z in m.edge.points],
                "bevels": [rounded(math.degrees(b)) for b in m.edge.bevels],
                "standing": [rounded(math.degrees(b)) for b in m.standing],
                "uncertain_by": rounded(out[m.name]),
                "sheer": [rounded(c) for c in m.edge.sheer],
                "keel": [rounded(c) for c in m.edge.keel],
                "waterline": None if m.edge.waterline is None else [rounded(c) for c in m.edge.waterline],
            }
            for m in shape.molds.molds
        ],
        "setup": {
            "zero_at": shape.setup.zero_at,
            "marks": [
                {
                    "mold": mark.mold,
                    "from_zero": rounded(mark.from_zero),
                    "reference_face": mark.face.value,
                    "gap_to_next": None if mark.gap_to_next is None else rounded(mark.gap_to_next),
                    "waterline_above_strongback": rounded(mark.waterline_above),
                    "keel_above_strongback": rounded(mark.keel_above),
                    "stands": {k: rounded(v) for k, v in asdict(stand).items() if k != "mold" and v is not None},
                }
                for mark, stand in zip(shape.setup.marks, shape.schedule.standings, strict=True)
            ],
        },
        "as_built": as_built_document(results.shape),
        "as_planked": _as_planked(results),
        "strips": {
            "per_side": len(planking.strips),
            "full_length": sum(s.runs_through for s in planking.strips),
            "total_length_m": rounded(planking.total_length / 1000),
            "strips": [_strip(s, found[s.number], ends[s.number]) for s in planking.strips],
        },
        "stock": stock_document(results.stock, shape.job),
        "warnings": [{"stage": f.stage, "where": f.where, "text": f.text} for f in map(Finding.said, results.findings)],
    }


def _as_planked(results: Results) -> dict[str, Any]:
    """The rest of the planking, planned again from what was measured; empty where nothing was."""
    plan = results.replan
    if not plan.rows:
        return {}
    return {
        "laid": plan.laid,
        "strips_to_come": plan.strips,
        "way": plan.way.value,
        "changed": plan.changed,
        "brought_back": None
        if plan.back is None
        else {
            "strips": plan.back.strips,
            "follows": plan.back.follows,
            "widths": {name: rounded(width) for name, width in plan.back.widths.items()},
        },
        "molds": [
            {"mold": r.mold, "planned": rounded(r.planned), "measured": rounded(r.measured), "width": rounded(r.width)}
            for r in plan.rows
        ],
        "warnings": [{"where": f.where, "text": f.text} for f in map(Finding.said, plan.findings)],
    }


def as_built_document(shape: Shape) -> dict[str, Any]:
    """What the last survey says; empty where nothing was measured."""
    if not shape.surveys:
        return {}
    judged = shape.surveys[-1]
    return {
        "survey": shape.job.surveys[-1].name,
        "judged": not judged.elsewhere,
        "moves": [
            {
                "mold": m.mold,
                "direction": m.direction.value,
                "error": rounded(m.error, 3),
                "sure": rounded(m.sure, 3),
                "grade": m.grade.value,
                "mend": in_words(m.mend),
                "cause": m.cause,
            }
            for m in judged.moves
        ],
        "datum": [in_words(text) for text in judged.datum],
    }


def _doubt(doubt: Doubt) -> dict[str, Any]:
    written, fair = doubt.written, doubt.fair
    return {
        "row": doubt.row + 1,
        "station": written.station,
        "label": written.label,
        "half_breadth": rounded(written.half_breadth),
        "height": rounded(written.height),
        "fair_half_breadth": rounded(fair.half_breadth),
        "fair_height": rounded(fair.height),
        "moves_skin": rounded(doubt.skin),
        "score": rounded(doubt.score, 3),
        "likely_slip": doubt.slip,
    }


def _hydro(hydro: Hydro) -> dict[str, Any]:
    def ratio(value: float | None) -> float | None:
        return None if value is None else rounded(value, 5)

    return {
        "waterline": hydro.waterline,
        "volume": rounded(hydro.volume, 7),
        "waterline_length": rounded(hydro.length),
        "waterline_beam": rounded(hydro.beam),
        "draft": rounded(hydro.draft),
        "waterplane_area": rounded(hydro.waterplane, 6),
        "centre_along": rounded(hydro.centre[0]),
        "centre_height": rounded(hydro.centre[1]),
        "floats_at": rounded(hydro.flotation),
        "block": ratio(hydro.block),
        "prismatic": ratio(hydro.prismatic),
        "midship": ratio(hydro.midship),
        "waterplane": ratio(hydro.waterplane_coefficient),
        "section_areas": [{"station": rounded(x), "area": rounded(a, 6)} for x, a in hydro.sections],
    }


def _strip(strip: Strip, own: Behaviour, ends: StripEnds) -> dict[str, Any]:
    return {**strip_part(strip, own), "push": rounded(own.push, 2), "uncertain_by": rounded(ends.uncertain_by)}

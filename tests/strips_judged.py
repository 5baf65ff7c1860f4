"""Would a builder nail these strips on? Judged from what is drawn, over guides and layouts."""

from __future__ import annotations

from collections.abc import Container

import numpy as np
import pytest

from hollow_keel.app.open_any import open_job
from hollow_keel.core.hull.build import Hull
from hollow_keel.core.job import Job, MasterLine
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.courses import Fields
from hollow_keel.core.planking.covering import surface_area
from hollow_keel.core.planking.end_turns import folded
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.planking.strips import Planking
from hollow_keel.core.rules import GLUE_FILLS_MM
from hollow_keel.core.settings.strip_choices import Guide, MasterKind, StripLayout
from hollow_keel.demo.jobs import demo_job
from hollow_keel.drawing.planking.mesh import planked_mesh
from tests.conftest import DATA
from tests.ends_of_strips import apart, end_turns, felt_more, hull_turn, off_line
from tests.shapes import unworked

GUIDES: dict[str, tuple[Guide, MasterLine]] = {
    "sheer": (Guide.SHEER, MasterLine()),
    "keel": (Guide.KEEL, MasterLine()),
    "both": (Guide.BOTH, MasterLine()),
    "height": (Guide.MASTER, MasterLine(kind=MasterKind.HEIGHT)),
    "natural": (Guide.MASTER, MasterLine(kind=MasterKind.NATURAL)),
    "girth": (Guide.MASTER, MasterLine(kind=MasterKind.GIRTH, share=0.6)),
    "diagonal": (Guide.MASTER, MasterLine(kind=MasterKind.DIAGONAL, angle=30)),
}
MOST_TURN_DEG = 12.2
"""Twelve, and what the last samples of a line leave open."""
OFF_MM = 0.8
"""No point of an edge lies farther off the line of its neighbours along it (in the median it is a thousandth of this)."""
FELT_NEARLY, FELT_AT_ALL = 5e-4, 2e-3
"""By how much more than a tenth edge-set and bend differ from what a general spline through the drawn points has over the same
stretch, per mm: at ninety-nine places of a hundred, and at nine hundred and ninety-eight of a thousand: what is left lies in
the tips of strips that fade, where two hands measure two things."""
FIELDS: dict[tuple[str, str], Fields] = {}


def job_of(name: str) -> Job:
    return open_job(DATA / name) if name.endswith(".csv") else unworked(demo_job(name))


def judge_boat(name: str, guide: str, layout: StripLayout) -> None:
    """One way of planking a demo boat or a case."""
    job = job_of(name)
    hull = Pipeline().shape(job).hull
    way, master = GUIDES[guide]
    known = FIELDS.setdefault((name, guide), Fields())
    laid = plank(hull, Laying(job.strips.cover, way, layout, master, job.strips.least_width), fields=known)
    lens = (guide, layout) == ("both", StripLayout.TAPERED)
    judge(hull, laid, job.strips.cover, tip=3 if lens else 0, over=0.2 if lens else 0.05)
    assert not folded(laid)
    assert not any(f.code == "edge-off" for f in laid.findings)


def judge(
    hull: Hull,
    laid: Planking,
    cover: float,
    tip: int = 0,
    over: float = 0.05,
    excused: Container[int] = (),
    felt: float = 1.0,
    off: float = OFF_MM,
) -> None:
    """Everything a builder sees at a glance, on strips that are to cover so much, mm; they may lie over each other by `over`; `tip`
    points of edges at the ends are left out, where a closing lens comes to nothing; ends of strips that are `excused` may turn;
    edges may stand `off` the line of their neighbours, mm; `felt` is how many times more edge-set and bend may differ from a
    general spline's."""
    for end in end_turns(hull, laid)[:20]:
        own = hull_turn(hull.panels[-1].surface, end.place)
        assert end.strip in excused or end.turn < max(MOST_TURN_DEG, own + 3), (end, own)
    for number, least in apart(hull, laid):
        assert least > -over, (number, least)
    for strip in laid.strips:
        for piece in strip.far:
            if piece.length > 300:
                away = off_line(piece)
                assert away[tip : len(away) - tip].max() < off, strip.number
        drawn = sum(np.linalg.norm(np.diff(p.points, axis=0), axis=1).sum() for p in strip.far)
        assert strip.far_length == pytest.approx(drawn, rel=1e-3, abs=0.05)
        assert max(strip.max_edge_set, strip.max_bend) < 0.012, "nothing turns on less than 80 mm"
        assert strip.max_twist < 0.02
    more = np.concatenate([felt_more(hull, s, p) for s in laid.strips for p in s.far if p.length > 300])
    assert np.quantile(more, 0.99) < felt * FELT_NEARLY, "edge-set and bend are those of the line that is drawn"
    assert np.quantile(more, 0.998) < felt * FELT_AT_ALL
    wider = max(s.width_max - cover for s in laid.strips)
    assert wider <= GLUE_FILLS_MM or any(f.code in ("milled-wider", "stands-open") for f in laid.findings)
    mesh = planked_mesh(laid)
    a, b, c, d = (mesh.points[mesh.quads[:, k]] for k in range(4))
    area = (np.linalg.norm(np.cross(b - a, c - a), axis=1) + np.linalg.norm(np.cross(c - a, d - a), axis=1)).sum() / 4
    assert area == pytest.approx(sum(surface_area(p.surface) for p in hull.panels), rel=0.005)

"""Strips that a builder would nail on: every guide with every layout of two demo boats, judged from what is drawn."""

from __future__ import annotations

import itertools
from dataclasses import replace

import numpy as np
import pytest

from hollow_keel.core.job import MasterLine
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.end_turns import end_turns as all_turns
from hollow_keel.core.planking.end_turns import fold_findings, folded
from hollow_keel.core.planking.plank import Laying, plank
from hollow_keel.core.settings.strip_choices import Course, Guide, MasterKind, StripLayout
from tests.ends_of_strips import end_turns
from tests.half import half
from tests.strips_judged import GUIDES, job_of, judge_boat


@pytest.mark.parametrize(("name", "guide", "layout"), half(["linnet", "sedge"], list(GUIDES), list(StripLayout)))
def test_would_a_builder_nail_it_on(name: str, guide: str, layout: StripLayout) -> None:
    judge_boat(name, guide, layout)


@pytest.mark.parametrize(("name", "layout"), [("sedge", StripLayout.TAPERED), ("pipit", StripLayout.FEW)])
def test_turns_at_ends_are_told_as_they_are_drawn(name: str, layout: StripLayout) -> None:
    """What counts ends that fold tells the same turn as the points that are drawn, end by end; a strip whose edge is bent by hand
    is found."""
    job = job_of(name)
    hull = Pipeline().shape(job).hull
    laid = plank(hull, Laying(job.strips.cover, layout=layout, least=job.strips.least_width))
    drawn = {(e.strip, round(e.place[0])): e.turn for e in end_turns(hull, laid)}
    told = {(e.strip, round(e.place)): e.turn for e in all_turns(laid)}
    assert drawn.keys() == told.keys()
    assert max(abs(told[k] - drawn[k]) for k in told) < 1.5
    assert not folded(laid)
    edge = laid.strips[4].far[0]
    bent = edge.curvatures + np.array([np.radians(20) / 220, 0, 0]) * (edge.run < 300)[:, None]
    strips = list(laid.strips)
    strips[4] = replace(strips[4], far=(replace(edge, curvatures=bent),))
    found = folded(replace(laid, strips=tuple(strips)))
    assert [f.strip for f in found] == [5]
    assert found[0].turn == pytest.approx(20, abs=4)
    (said,) = fold_findings(replace(laid, strips=tuple(strips)))
    assert said.code == "end-turns"
    assert said.where == "strip 5"


@pytest.mark.parametrize(
    ("name", "heights"),
    [("linnet", (251, 254, 257, 259, 261, 263, 265, 274)), ("sedge", (196, 201, 203, 207)), ("pipit", (177, 181, 183, 262))],
)
def test_a_master_line_moved_a_little_moves_the_plan_a_little(name: str, heights: tuple[int, ...]) -> None:
    """From height to height the strips above it never become more, nor by leaps fewer (her side leans out: a millimetre of height
    is up to four of girth)."""
    job = job_of(name)
    hull = Pipeline().shape(job).hull
    above = []
    for height in heights:
        master = MasterLine(kind=MasterKind.HEIGHT, height=float(height))
        laid = plank(hull, Laying(job.strips.cover, Guide.MASTER, master=master))
        above.append(sum(s.course is Course.UP for s in laid.strips))
    for (low, more), (high, fewer) in itertools.pairwise(zip(heights, above, strict=True)):
        assert 0 <= more - fewer <= 1 + 4 * (high - low) / job.strips.cover, (low, high)

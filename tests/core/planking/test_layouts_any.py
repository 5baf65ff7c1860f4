"""Whatever is asked for is laid, or refused with a reason: no warning, no traceback, no strip of nonsense."""

from __future__ import annotations

import math

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.hull.build import Hull
from hollow_keel.core.job import MasterLine, StripSettings, Zone
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.plank import Laying, laying_of, plank
from hollow_keel.core.settings.strip_choices import Guide, MasterKind, StripLayout
from hollow_keel.demo.jobs import linnet, pipit, sedge

HULLS: dict[str, Hull] = {}

masters = st.builds(
    MasterLine,
    kind=st.sampled_from(MasterKind),
    height=st.none() | st.floats(-200, 1200),
    share=st.floats(0.02, 0.98),
    angle=st.floats(-79, 79),
    heights=st.lists(st.tuples(st.floats(-500, 8000), st.floats(-100, 1000)), max_size=4).map(tuple),
)
zones = st.lists(
    st.builds(Zone, first=st.integers(1, 8), last=st.integers(1, 12), width=st.none() | st.floats(5, 200)), max_size=2
).map(tuple)


def hull(name: str) -> Hull:
    if name not in HULLS:
        HULLS[name] = Pipeline().shape({"linnet": linnet, "pipit": pipit, "sedge": sedge}[name]()).hull
    return HULLS[name]


@settings(
    max_examples=16,
    derandomize=True,
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow],
    phases=[Phase.explicit, Phase.generate],  # a laying takes a second: making a bad one smaller would take an hour
)
@given(
    st.sampled_from(["linnet", "pipit", "sedge"]),
    st.floats(45, 160),
    st.sampled_from(Guide),
    st.sampled_from(StripLayout),
    masters,
    st.floats(1, 60),
    st.integers(0, 12),
    st.none() | st.floats(-500, 8000),
    st.none() | st.floats(-500, 8000),
    zones,
)
def test_any_way_of_laying_is_laid_or_refused(
    name: str,
    width: float,
    guide: Guide,
    layout: StripLayout,
    master: MasterLine,
    least: float,
    bottom: int,
    first: float | None,
    last: float | None,
    own: tuple[Zone, ...],
) -> None:
    others = laying_of(StripSettings(width=width, layout=layout, zones=own)).others
    try:
        found = plank(hull(name), Laying(width, guide, layout, master, least, bottom, first, last, others))
    except ImpossiblePlan as error:
        assert str(error).rstrip().endswith(".")
        return
    assert found.strips
    for strip in found.strips:
        assert math.isfinite(strip.length)
        assert 0 <= strip.width_max <= max([width, *(z.width or 0 for z in own)]) * 1.05 + 0.6  # what glue fills
        for piece in (*strip.near, *strip.far):
            assert math.isfinite(float(piece.points.sum()))
            assert piece.length > 0


@pytest.mark.parametrize("width", [45.0, 46.51340018421133, 60.0, 120.0])
@pytest.mark.parametrize("layout", list(StripLayout))
def test_a_seam_that_reaches_the_sheer_is_no_girth(width: float, layout: StripLayout) -> None:
    """Found by the random layings: strips from the keel that come above the sheer at an end."""
    try:
        found = plank(hull("linnet"), Laying(width, Guide.BOTH, layout))
    except ImpossiblePlan as error:
        assert "next to nothing to plank" in str(error) or "would not cover the hull" in str(error)
        return
    assert all(math.isfinite(s.length) for s in found.strips)

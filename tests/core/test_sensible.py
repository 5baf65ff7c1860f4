"""So many of something that nobody builds it is said before it is worked out: each of these took all memory or never ended."""

from __future__ import annotations

from typing import Any

import pytest

from hollow_keel.core.change import change
from hollow_keel.core.errors import ImpossiblePlan
from hollow_keel.core.molds.cut_stages import MARKS
from hollow_keel.core.molds.stages import MOLDS
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.sensible import MOST, count_of
from hollow_keel.core.sheer.stages import SHEER
from hollow_keel.core.stage import Stage
from hollow_keel.core.veneers.stages import LAYERS
from hollow_keel.demo.jobs import demo_job


def test_pieces_are_counted_by_hand() -> None:
    assert [count_of(1000.0, each, "parts") for each in (1000.0, 999.0, 250.0, 1e9)] == [1, 2, 4, 1]
    assert count_of(1000.0, 1000.0 / MOST, "parts") == MOST
    with pytest.raises(ImpossiblePlan, match="1,000,000 parts"):
        count_of(1000.0, 0.001, "parts")
    with pytest.raises(ImpossiblePlan, match="endlessly many"):
        count_of(1000.0, 0.0, "parts")


@pytest.mark.parametrize(
    ("name", "part", "fields", "stage", "said"),
    [
        ("pipit", "molds", {"every": 0.001, "stations": ()}, MOLDS, "molds on"),
        ("pipit", "molds", {"mark_waterlines": 0.001}, MARKS, "lines on a mold"),
        ("linnet", "trim", {"frames": 0.001}, SHEER, "frames on"),
        ("sedge", "veneers", {"past_sheer": 100_000.0}, LAYERS, "past the hull"),
    ],
)
def test_so_many_or_so_far_that_it_is_no_plan_is_said(
    name: str, part: str, fields: dict[str, Any], stage: Stage[Any], said: str
) -> None:
    with pytest.raises(ImpossiblePlan, match=said):
        Pipeline().value(change(demo_job(name), part, **fields), stage)

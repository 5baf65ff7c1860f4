"""Strips that a builder would nail on: the small demo boats and a case."""

from __future__ import annotations

import pytest

from hollow_keel.core.settings.strip_choices import StripLayout
from tests.strips_judged import GUIDES, judge_boat


@pytest.mark.parametrize("layout", list(StripLayout))
@pytest.mark.parametrize("guide", list(GUIDES))
@pytest.mark.parametrize("name", ["pipit", "teasel", "double_ender.csv"])
def test_would_a_builder_nail_it_on(name: str, guide: str, layout: StripLayout) -> None:
    judge_boat(name, guide, layout)

"""Many cases of one kind: every other one is tried each time, all of them with --all."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Any

import pytest


def half(*lists: Sequence[Any]) -> list[Any]:
    """Every combination of one of each list, as cases; every other one along each list is tried with --all alone."""
    cases = itertools.product(*(enumerate(own) for own in lists))
    return [
        pytest.param(*(value for _, value in case), marks=[] if sum(k for k, _ in case) % 2 == 0 else pytest.mark.more)
        for case in cases
    ]

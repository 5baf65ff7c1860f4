"""Findings: what the program noticed about a design, with the place it belongs to."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Weight(StrEnum):
    """How much a finding matters: for information, to be judged, or in the way."""

    INFORMATION = "information"
    LOOK = "look"
    STOP = "stop"


@dataclass(frozen=True)
class Finding:
    """One remark. `code` is stable and short, `stage` names the page, `where` the place in words."""

    code: str
    weight: Weight
    stage: str
    where: str
    text: str

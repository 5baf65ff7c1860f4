"""Findings: what the program noticed about a design, with the place it belongs to.

Lengths within the words are marked with `mm`, so that whoever shows them writes them in the builder's units.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum

_LENGTH = re.compile("\u27e8([^\u27e8\u27e9]*)\u27e9")


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

    def said(self, write: Callable[[float], str] | None = None) -> Finding:
        """With every length written by `write`; by default as a plain number of mm with its unit."""
        return replace(self, where=in_words(self.where, write), text=in_words(self.text, write))

    def in_a_line(self) -> str:
        """Its place and its words, lengths as plain numbers of mm."""
        said = self.said()
        return f"{said.where}: {said.text}"


def mm(value: float) -> str:
    """A length (mm) within the words of a finding."""
    return f"\u27e8{value:.6g}\u27e9"


def in_words(text: str, write: Callable[[float], str] | None = None) -> str:
    """A text with its marked lengths (mm) written out by `write`."""
    return _LENGTH.sub(lambda found: (write or _plain)(float(found[1])), text)


def _plain(value: float) -> str:
    return f"{round(value, 1):.12g} mm"

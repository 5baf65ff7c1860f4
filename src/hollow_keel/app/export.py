"""A kind of file that can be written: its names, what it is made from, how."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from ..core.errors import ImpossiblePlan
from ..core.stage import Stage

if TYPE_CHECKING:
    from ..core.job import Job
    from ..core.results import Results

Write = Callable[["Results"], bytes]


PlanPart = tuple[str, Callable[["Results"], Any]]
"""What a feature adds to the plan file: the name of the part, and what makes it."""


@dataclass(frozen=True)
class Export:
    """`kind` is its id on the command line, `group` and `name` where it stands in the menu. `needs` are the stages it is made from:
    no more is worked out for it; what it is `glad_of` it does without where that cannot be had. `write` makes the file, raising
    InputError and ImpossiblePlan; it loads what it needs itself, for menus need the names only. `patterns` tells a full set
    of mold patterns, so that the job remembers what was printed."""

    kind: str
    group: str
    name: str
    suffix: str
    needs: tuple[Stage[Any], ...]
    write: Write
    glad_of: tuple[Stage[Any], ...] = ()
    patterns: bool = False
    shop: bool = False
    """Whether it is among what is wanted on paper when the work begins."""
    when: Callable[[Job], bool] = lambda _job: True
    """Whether a job has anything of the kind."""
    lacks: Callable[[Results], tuple[str, ...]] = lambda _results: ()
    """What is left out of the file because it cannot be made, and why: the rest is written all the same."""


def only_where(has: Callable[[Job], bool], lack: str, export: Export) -> Export:
    """An export for jobs that have something of the kind; of others its `write` says what they lack (ImpossiblePlan)."""

    def write(results: Results) -> bytes:
        if not has(results.job):
            raise ImpossiblePlan(lack)
        return export.write(results)

    return replace(export, write=write, when=has)

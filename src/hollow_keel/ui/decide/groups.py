"""What is decided on a page: settings that belong together, described as data."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ...app.deciding import record_of
from ...core.job import Job
from ..window.state import State


@dataclass(frozen=True)
class Doing:
    """A line that opens something: what it is called, what it says now, the command it runs, and whether it means anything."""

    label: str
    shown: Callable[[State], str]
    command: str
    when: Callable[[Job], bool] = lambda _job: True


Line = str | Doing
"""The path of a setting, or something done."""


@dataclass(frozen=True)
class Group:
    """Lines that belong together, under a heading."""

    heading: str
    lines: tuple[Line, ...]

    @property
    def paths(self) -> tuple[str, ...]:
        """The settings among them."""
        return tuple(line for line in self.lines if isinstance(line, str))


def means_something(line: Line, job: Job) -> bool:
    """Whether a line says anything about a job."""
    return line.when(job) if isinstance(line, Doing) else record_of(line).setting.when(job)

"""One stage of the work: what it reads, what it needs, how it is worked out, what it is found to want.

A stage names the fields of the Job that it reads, one by one, and the stages whose values it needs. Its key follows from those
alone: two jobs that give a stage the same key give it the same value, and whoever holds a value can tell by its key, without
working anything out, whether it is of a job. Nothing here loads what computes: stages do that when they run.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from enum import IntEnum, StrEnum
from typing import TYPE_CHECKING, Any, Generic, Protocol, TypeVar

from .errors import ImpossiblePlan, InputError

if TYPE_CHECKING:
    from pydantic import BaseModel

    from .findings import Finding
    from .geometry.curves import KeptCurves
    from .job import Job

T = TypeVar("T")
Tick = Callable[[float], None]


class Turn(IntEnum):
    """When, after an edit, a stage is worked out. What comes after the strips waits until nothing was changed for a moment, so
    that who types on is not kept waiting by it."""

    AT_ONCE = 0
    CUT = 1
    """Pieces, marks and what was measured: only those who look at them wait for them."""
    STRIPS = 2
    CHECKS = 3
    LINES = 4
    WOOD = 5


class Given(Protocol):
    """What a stage is worked out from. Only the values of the stages that it names can be had."""

    @property
    def job(self) -> Job:
        """The job; a stage reads what it names of it, nothing else."""

    @property
    def tick(self) -> Tick:
        """Told a share of the way now and then; raises to give the work up."""

    @property
    def curves(self) -> KeptCurves:
        """Curves of earlier runs: after an edit all stations but one are as they were."""

    def __getitem__(self, stage: Stage[T]) -> T:
        """The value of a stage that is needed. Raises what working it out raised."""


def _always(_job: Job) -> bool:
    return True


def _nothing_found(_value: Any) -> Iterable[Finding]:
    return ()


@dataclass(frozen=True, eq=False)
class Stage(Generic[T]):
    """`page` is where in the order of work its value is shown and its findings stand, `name` what is said of it. `reads` are
    dotted paths into the Job; `needs` the stages before it; `turn` is when, after an edit, it is worked out. One that is not
    `shown` is worked out only where it is asked for or needed, and stays there.
    Where a job gives it nothing to do (`when`) its value is None, whatever else there is."""

    id: str
    page: str
    name: str
    reads: tuple[str, ...]
    needs: tuple[Stage[Any], ...]
    compute: Callable[[Given], T]
    findings: Callable[[T], Iterable[Finding]] = _nothing_found
    turn: Turn = Turn.AT_ONCE
    shown: bool = True
    when: Callable[[Job], bool] = _always


class FailureKind(StrEnum):
    """Why a stage has no value: the input cannot be read, the plan cannot be, or there is a fault of ours."""

    INPUT = "input"
    IMPOSSIBLE = "impossible"
    FAULT = "fault"


@dataclass(frozen=True)
class Failed:
    """In place of a value: the stage where it went wrong (a stage that needs it has the same), and why."""

    stage: str
    kind: FailureKind
    message: str
    traceback: str = ""
    error: Exception | None = field(default=None, repr=False, compare=False)
    """What was raised; not sent to another process."""

    def __getstate__(self) -> dict[str, Any]:
        return {**self.__dict__, "error": None}

    def raised(self) -> Exception:
        """As an exception, to be raised by who cannot go on without the value."""
        if self.error is not None:
            return self.error
        if self.kind is FailureKind.INPUT:
            return InputError(self.message)
        return ImpossiblePlan(self.message)


@dataclass(frozen=True)
class Value:
    """What a stage came to: its value, or Failed, and the key of what it came from."""

    stage: str
    key: str
    value: Any


def fields_of(model: type[BaseModel], path: str, but: Sequence[str] = ()) -> tuple[str, ...]:
    """The dotted paths of all fields of one part of the Job, `but` for some."""
    unknown = set(but) - set(model.model_fields)
    if unknown:
        raise ValueError(f"{model.__name__} has no {', '.join(sorted(unknown))}")
    return tuple(f"{path}.{name}" for name in model.model_fields if name not in but)

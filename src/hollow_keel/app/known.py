"""What a window knows: the newest value of every stage, and what went wrong. Values are of a job when their keys say so."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, TypeVar

from ..core.findings import Finding
from ..core.stage import Failed, Stage, Value
from ..core.stages import ORDERED, findings_of

T = TypeVar("T")


@dataclass(frozen=True)
class Known:
    """`values` are the newest good values by stage, perhaps of an earlier job; `failures` what stands in the place of a value
    instead."""

    values: Mapping[str, Value] = field(default_factory=dict)
    failures: Mapping[str, Value] = field(default_factory=dict)

    def put(self, new: Iterable[Value]) -> Known:
        """With newer values; a failure leaves the last good value where it is."""
        values, failures = dict(self.values), dict(self.failures)
        for value in new:
            if isinstance(value.value, Failed):
                failures[value.stage] = value
            else:
                values[value.stage] = value
                failures.pop(value.stage, None)
        return Known(values, failures)

    def hopeful(self) -> Known:
        """Without failures: everything is tried again."""
        return replace(self, failures={}) if self.failures else self

    def get(self, stage: Stage[T]) -> T | None:
        """The newest value of a stage; None where there is none."""
        found = self.values.get(stage.id)
        return None if found is None else found.value

    def is_of(self, stage: Stage[Any], keys: Mapping[str, str]) -> bool:
        """Whether the newest value is of the job with these keys."""
        found = self.values.get(stage.id)
        return found is not None and found.key == keys[stage.id]

    def failed(self, keys: Mapping[str, str]) -> dict[str, Failed]:
        """Why there is no value for the job with these keys, by stage, there or in what it needs; nothing of those where there is
        one, or nobody knows yet."""
        found: dict[str, Failed] = {}
        for stage in ORDERED:
            own = self.failures.get(stage.id)
            if own is not None and own.key == keys[stage.id]:
                found[stage.id] = own.value
            elif not self.is_of(stage, keys):
                before = next((found[need.id] for need in stage.needs if need.id in found), None)
                if before is not None:
                    found[stage.id] = before
        return found

    @cached_property
    def keys(self) -> dict[str, str]:
        """The keys of all good values."""
        return {name: value.key for name, value in self.values.items()}

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Everything that was noticed, in order of work."""
        return findings_of(self.values)

"""The error family: everything a builder can put right names the place, the value and the mend."""

from __future__ import annotations

from dataclasses import dataclass


class HollowKeelError(Exception):
    """Base of all errors that Hollow Keel raises on purpose."""


@dataclass
class InputError(HollowKeelError):
    """Something given to us cannot be read or makes no sense.

    `where` is the place (file, row, column), `value` what stands there, `mend` what to do.
    """

    problem: str
    where: str = ""
    value: str = ""
    mend: str = ""

    def __str__(self) -> str:
        head = f"{self.where}: " if self.where else ""
        shown = f" (it says “{self.value}”)" if self.value else ""
        tail = f" {self.mend}" if self.mend else ""
        return f"{head}{self.problem.rstrip('.')}{shown}.{tail}"

    def at(self, where: str) -> InputError:
        """The same error with an outer place put before its own, where that does not begin with it already."""
        if self.where == where or self.where.startswith(f"{where}, "):
            return self
        inner = f"{where}, {self.where}" if self.where else where
        return InputError(self.problem, inner, self.value, self.mend)


class ImpossiblePlan(HollowKeelError):
    """The plan cannot be made as asked; the message says why and what to change."""


class Cancelled(BaseException):
    """Raised inside a computation whose result nobody wants any more. No Exception: libraries that it passes through catch those,
    and go on or raise another."""

"""What stages come to, remembered for all tests of a process: what one test has worked out no other waits for.

A value is told by its stage and its key, as in the application. Tests of how, when and whether stages are worked out are marked
`fresh`: for them nothing is remembered.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import pytest

from hollow_keel.core.newest import Newest
from hollow_keel.core.pipeline import Run
from hollow_keel.core.stage import Stage
from hollow_keel.core.stages import BY_ID

MOST = 600
"""Values kept: those looked for longest ago are let go."""


class Remembered:
    """The values of stages that were worked out in this process."""

    def __init__(self) -> None:
        self.on = True
        self._values: Newest[tuple[str, str], Any] = Newest(MOST)

    def value(self, run: Run, stage: Stage[Any], work: Callable[[Run, Stage[Any]], Any]) -> Any:
        """A stage's value, worked out where it is not remembered. Raises what working it out raises."""
        name = (stage.id, run.keys[stage.id])
        ours = self.on and stage is BY_ID[stage.id]  # not one that a test has put in its place
        return self._values.value(name, lambda: work(run, stage)) if ours else work(run, stage)

    @contextmanager
    def off(self) -> Iterator[None]:
        """Everything is worked out anew."""
        before, self.on = self.on, False
        try:
            yield
        finally:
            self.on = before


@contextmanager
def remembering() -> Iterator[Remembered]:
    """While it lasts, pipelines of this process share what they work out."""
    memory, work = Remembered(), Run._worked_out
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Run, "_worked_out", lambda run, stage: memory.value(run, stage, work))
        yield memory

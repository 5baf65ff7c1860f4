"""The table of stages: everything that a Job is worked out to, in the order of work.

Whoever works out, sends, shows, writes out or measures results walks this table. A new stage is a line of its feature's
`STAGES`.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping
from importlib import import_module
from typing import TYPE_CHECKING, Any

from .stage import Failed, Stage, Turn, Value

if TYPE_CHECKING:
    from .findings import Finding
    from .job import Job

FEATURES = (
    "hull",
    "fairing",
    "molds",
    "setup",
    "molds.cut",
    "molds.end",
    "planking",
    "deck.strip",
    "veneers",
    "stock",
    "sheer",
    "ends",
    "release",
    "inside",
    "log",
)
"""The modules with stages, in order of work: a new feature is one more name."""


def _stages() -> Iterable[Stage[Any]]:
    for name in FEATURES:
        part, _, own = name.partition(".")
        module = import_module(f".{part}.{own}{'_' if own else ''}stages", __package__)
        yield from module.STAGES


STAGES: tuple[Stage[Any], ...] = tuple(_stages())
BY_ID: Mapping[str, Stage[Any]] = {stage.id: stage for stage in STAGES}
SHOWN = tuple(stage for stage in STAGES if stage.shown)
"""What a job comes to for everybody; the rest is for who asks for it."""
KEY_BYTES = 12
MANY = 200
"""So many members of a setting are told one by one."""


def turns() -> list[tuple[Stage[Any], ...]]:
    """All stages that are shown, by when they are worked out after an edit."""
    return [tuple(s for s in SHOWN if s.turn is turn) for turn in Turn]


def needed_for(wanted: Iterable[Stage[Any]], job: Job | None = None) -> tuple[Stage[Any], ...]:
    """Some stages and all that they need (of a `job`, where they have anything to do), directly or by way of others, each after
    what it needs."""
    found: dict[str, Stage[Any]] = {}

    def add(stage: Stage[Any]) -> None:
        if stage.id not in found:
            for need in stage.needs if job is None or stage.when(job) else ():
                add(need)
            found[stage.id] = stage

    for stage in wanted:
        add(stage)
    return tuple(found.values())


ORDERED = needed_for(STAGES)
"""Every stage, each after what it needs."""


def findings_of(values: Mapping[str, Value], stages: Iterable[Stage[Any]] = STAGES) -> tuple[Finding, ...]:
    """What was noticed in the good ones of some values by stage, in the order of `stages`."""
    found: list[Finding] = []
    for stage in stages:
        value = values[stage.id].value if stage.id in values else None
        if value is not None and not isinstance(value, Failed):
            found += stage.findings(value)
    return tuple(found)


class Texts:
    """Texts of settings as they were told last, for as long as the same settings are there: an edit changes one of hundreds, or one
    of a log's thousands of entries."""

    def __init__(self) -> None:
        self._last: dict[str, tuple[object, str]] = {}
        self._members: dict[str, dict[int, tuple[object, str]]] = {}

    def of(self, path: str, value: object) -> str:
        """What stands at a path, as `_text_of` tells it."""
        last = self._last.get(path)
        if last is not None and last[0] is value:
            return last[1]
        text = self._of_members(path, value) if isinstance(value, tuple) and len(value) >= MANY else _text_of(value)
        self._last[path] = value, text  # what is held stays what it is: settings are frozen
        return text

    def _of_members(self, path: str, value: tuple[object, ...]) -> str:
        old = self._members.get(path, {})
        own = {id(one): old.get(id(one)) or (one, _text_of(one)) for one in value}
        self._members[path] = own
        return f"[{','.join([text for _, text in map(own.__getitem__, map(id, value))])}]"


def keys_of(job: Job, kept: Texts | None = None) -> dict[str, str]:
    """The key of every stage, by its id: what it reads of a job, and the keys of what it needs; texts that an earlier call `kept`
    are taken again. Nothing is worked out."""
    texts: dict[str, str] = {}
    all_texts = kept or Texts()

    def text(path: str) -> str:
        if path not in texts:
            texts[path] = all_texts.of(path, read(job, path))
        return texts[path]

    keys: dict[str, str] = {}
    for stage in ORDERED:
        parts = [stage.id]
        if stage.when(job):
            parts += [*(text(path) for path in stage.reads), *(keys[need.id] for need in stage.needs)]
        digest = hashlib.blake2b("\0".join(parts).encode("utf-8", "surrogatepass"), digest_size=KEY_BYTES)
        keys[stage.id] = digest.hexdigest()
    return keys


def _text_of(value: object) -> str:
    """A value as a text, other for every other value; numbers with all their figures."""
    from pydantic_core import to_json

    try:
        return to_json(value, inf_nan_mode="constants").decode()
    except ValueError:  # a lone half of a letter in a name, or what is no model and no plain value
        return repr(value)


def read(job: Job, path: str) -> object:
    """What stands at a dotted path of a job; None where a part of the way is not there."""
    value: Any = job
    for name in path.split("."):
        value = getattr(value, name)
        if value is None:
            return None
    return value

"""The table of all settings, read off the Job itself: nothing is listed twice."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from types import UnionType
from typing import Any, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from .errors import InputError
from .job import Job
from .settings.axis import Axis
from .settings.record import BOUNDS, Kind, Setting, setting_of


@dataclass(frozen=True)
class Record:
    """A setting where it stands: `path` into the Job, its words, pydantic's own field (type, limits, default)."""

    path: str
    setting: Setting
    info: FieldInfo

    @property
    def part(self) -> str:
        """The part of the Job it is a field of; empty for the Job's own."""
        return self.path.rpartition(".")[0]

    @property
    def field(self) -> str:
        """Its name there."""
        return self.path.rpartition(".")[2]

    @property
    def key(self) -> str:
        """Its name on the command line: the short one that it has always had, or its path."""
        return self.setting.key or self.path.replace("_", "-")

    @property
    def names(self) -> frozenset[str]:
        """All names it can be called by on the command line."""
        own = {self.key, self.path, self.path.replace("_", "-")}
        return frozenset({*own, self.setting.older} if self.setting.older else own)

    @property
    def may_be_none(self) -> bool:
        """Whether nothing may be set."""
        return type(None) in get_args(self.info.annotation)

    @property
    def default(self) -> Any:
        """What it is in a blank job."""
        return self.info.get_default(call_default_factory=True)

    @property
    def bounds(self) -> dict[str, float]:
        """Its limits as pydantic names them (gt, ge, lt, le), those of its items too."""
        found: dict[str, float] = {}
        for meta in _constraints(self.info):
            for name in BOUNDS:
                value = getattr(meta, name, None)
                if value is not None:
                    found.setdefault(name, value)
        return found

    @property
    def is_place(self) -> bool:
        """Whether it is one or several places along the hull."""
        return Axis.POSITION in _constraints(self.info)

    @property
    def limits(self) -> tuple[str, ...]:
        """Its limits in words: more than 0, at most 5 …"""
        return tuple(f"{BOUNDS[name]} {value:g}" for name, value in self.bounds.items() if abs(value) < 1e5)


def _constraints(info: FieldInfo) -> Iterator[Any]:
    """What limits a field, or the items of a tuple or of a choice between it and nothing."""
    yield from info.metadata
    todo = [info.annotation]
    while todo:
        kind = todo.pop()
        for meta in getattr(kind, "__metadata__", ()):
            yield from meta.metadata if isinstance(meta, FieldInfo) else (meta,)
        if get_origin(kind) in (Union, UnionType, tuple):
            todo += list(get_args(kind))


@cache
def all_settings() -> Mapping[str, Record]:
    """Every setting by its path, in the order of the Job. Raises LookupError for a field without a record."""
    return {record.path: record for record in _walk(Job, "")}


def _walk(model: type[BaseModel], path: str) -> Iterator[Record]:
    for name, info in model.model_fields.items():
        own = f"{path}.{name}".lstrip(".")
        given = setting_of(info)
        if given is not None:
            yield Record(own, given, info)
        elif isinstance(info.annotation, type) and issubclass(info.annotation, BaseModel):
            yield from _walk(info.annotation, own)
        else:
            raise LookupError(f"{own} has no record: say what it is for with setting()")


def item_record(path: str, whole: str, field: str) -> Record:
    """The record, at its own path, of a field of one of several things that a setting holds (`whole` is the setting's path). Raises
    LookupError for a field without one."""
    annotation = all_settings()[whole].info.annotation
    model = next((kind for kind in get_args(annotation) if isinstance(kind, type) and issubclass(kind, BaseModel)), None)
    info = model.model_fields.get(field) if model is not None else None
    given = setting_of(info) if info is not None else None
    if info is None or given is None:
        raise LookupError(f"{path} names nothing")
    return Record(path, given, info)


@cache
def _by_name() -> Mapping[str, Record]:
    return {name: record for record in all_settings().values() for name in record.names}


def setting_named(name: str) -> Record:
    """The setting of this name on the command line. Raises InputError."""
    found = _by_name().get(name)
    if found is None:
        raise InputError(
            "no such setting", value=name, mend="The table of all settings is in docs/settings.md; for example skin or strip.width."
        )
    return found


def is_length(record: Record) -> bool:
    """Whether a setting is a length."""
    return record.setting.kind in (Kind.LENGTH, Kind.FINE)

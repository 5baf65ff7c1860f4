"""A part of the Job changed by what its lengths lie along: each field's type tells it (settings/axis.py), so that no list of fields
has to be kept, and a new setting is changed with the others."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from enum import Enum
from types import UnionType
from typing import Annotated, Any, TypeVar, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from .settings.axis import Axis, Marker
from .settings.mold_choices import FaceChoice
from .settings.readings import Side
from .settings.record import Kind, setting_of
from .settings.setup_choices import HullEnd

P = TypeVar("P", bound=BaseModel)
Own = Callable[[Any], Any]
_OTHER = {
    HullEnd.BOW: HullEnd.STERN,
    HullEnd.STERN: HullEnd.BOW,
    Side.PORT: Side.STARBOARD,
    Side.STARBOARD: Side.PORT,
    FaceChoice.FORWARD: FaceChoice.AFT,
    FaceChoice.AFT: FaceChoice.FORWARD,
}
LENGTHS = (Kind.LENGTH, Kind.FINE, Kind.LENGTHS, Kind.RECORDS)
"""Kinds of settings that have lengths in them."""
_SIDES = {"port": "starboard", "starboard": "port"}


@dataclass(frozen=True)
class BoatChange:
    """What becomes of lengths, mm, by their axis; the others stay. Where the boat is `turned` end for end, bow and stern, port and
    starboard, forward and aft change places, and molds have other `names`. Some parts are changed in ways of their `own`."""

    lengths: Mapping[Axis, Callable[[float], float]]
    turned: bool = False
    names: Mapping[str, str] = field(default_factory=dict)
    own: Mapping[type, Own] = field(default_factory=dict)

    def of(self, part: P) -> P:
        """A part of the Job, or the whole of it, changed."""
        own = self.own.get(type(part))
        return part if own is _leave else own(part) if own is not None else self.plainly(part)

    def plainly(self, part: P) -> P:
        """A part changed field by field, whatever way of its own it has."""
        infos = type(part).model_fields
        new = {name: self._value(getattr(part, name), _with(info.annotation, info.metadata)) for name, info in infos.items()}
        if self.turned:
            twins = {name: _twin(name, info) for name, info in infos.items()}
            new = {name: new.get(twins[name], value) for name, value in new.items()}
        changed = {name: value for name, value in new.items() if value is not getattr(part, name)}
        return part.model_copy(update=changed) if changed else part

    def _value(self, value: Any, kind: Any) -> Any:
        kind, told = _told(kind)
        if isinstance(value, BaseModel):
            return self.of(value)
        if isinstance(value, tuple):
            return self._items(value, kind, told)
        if isinstance(value, Enum):
            return _OTHER.get(value, value) if self.turned else value  # type: ignore[call-overload]
        if isinstance(value, str):
            return self.names.get(value, value) if Marker.MOLD in told else value
        lengths = [self.lengths[axis] for axis in told if axis in self.lengths]
        return lengths[0](value) + 0.0 if lengths and value is not None else value

    def _items(self, value: tuple[Any, ...], kind: Any, told: tuple[Any, ...]) -> tuple[Any, ...]:
        """A list's items, each by its own type; the list itself where none changes."""
        items = tuple(map(self._value, value, _items(kind, len(value))))
        items = tuple(sorted(items)) if Marker.IN_ORDER in told else items
        return value if all(own is was for own, was in zip(items, value, strict=True)) else items


def _leave(part: Any) -> Any:
    return part


LEFT: Own = _leave
"""For a part that stays as it is."""


def _with(annotation: Any, metadata: list[Any]) -> Any:
    """A field's type with what pydantic has taken off it."""
    return Annotated[annotation, *metadata] if metadata else annotation


def _told(kind: Any) -> tuple[Any, tuple[Any, ...]]:
    """A type without what is told with it, and that; of a choice between it and nothing."""
    told: tuple[Any, ...] = ()
    while True:
        if get_origin(kind) is Annotated:
            kind, *more = get_args(kind)
            told += tuple(more)
        elif get_origin(kind) in (Union, UnionType) and len(some := _but_none(kind)) == 1:
            kind = some[0]
        else:
            return kind, told


def _but_none(kind: Any) -> list[Any]:
    return [own for own in get_args(kind) if own is not type(None)]


def _items(kind: Any, count: int) -> list[Any]:
    """The types of a tuple's items."""
    own = get_args(kind)
    return [own[0]] * count if len(own) == 2 and own[1] is Ellipsis else list(own)


def _twin(name: str, info: FieldInfo) -> str:
    """The field that one changes places with where a boat is turned; itself, if none."""
    record = setting_of(info)
    if record is not None and record.twin:
        return record.twin
    head, _, side = name.rpartition("_")
    return f"{head}_{_SIDES[side]}".lstrip("_") if side in _SIDES else name


def numbers_of(model: type[BaseModel], path: str = "") -> Iterator[tuple[str, frozenset[Axis]]]:
    """Every number with a fraction that a part, or the Job, can hold: its path, and the axes that are told with it; none of a
    setting that is no length is one."""
    for name, info in model.model_fields.items():
        record = setting_of(info)
        plain = record is not None and record.kind not in LENGTHS
        for at, axes in _numbers(_with(info.annotation, info.metadata), f"{path}.{name}".lstrip(".")):
            yield at, frozenset({Axis.NONE}) if plain and not axes else axes


def _numbers(kind: Any, path: str) -> Iterator[tuple[str, frozenset[Axis]]]:
    kind, told = _told(kind)
    if kind is float:
        yield path, frozenset(t for t in told if isinstance(t, Axis))
    elif isinstance(kind, type) and issubclass(kind, BaseModel):
        yield from numbers_of(kind, path)
    elif get_origin(kind) in (tuple, Union, UnionType):
        for own in get_args(kind):
            if own is not Ellipsis:
                yield from _numbers(own, path)

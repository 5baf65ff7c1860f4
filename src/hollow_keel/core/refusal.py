"""Why a value is refused, in the words of its setting: what it is, what was given, what it may be.

Limits stand once, with the fields of the Job, and pydantic watches them; but it speaks of inputs, and of numbers without a unit.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any, get_args

from pydantic import BaseModel, ValidationError

from .errors import InputError
from .findings import mm
from .settings.record import BOUNDS, Kind, Setting, setting_of

MOST_LETTERS = 60
"""So much of what was given is repeated."""
LENGTHS = (Kind.LENGTH, Kind.FINE, Kind.LENGTHS)
LIMITS = {"greater_than": "gt", "greater_than_equal": "ge", "less_than": "lt", "less_than_equal": "le"}
"""Pydantic's kinds of a limit that is not kept, and the limit's name there."""
COUNTS = {
    "string_too_long": ("max_length", "It may have at most {} letters."),
    "too_long": ("max_length", "There may be at most {} of them."),
    "too_short": ("min_length", "There must be at least {} of them."),
}
"""The same for how many there may be."""
MUST_BE = {
    "float": "It must be a number.",
    "finite": "It must be a number.",
    "int": "It must be a whole number.",
    "tuple": "There must be several of them.",
    "list": "There must be several of them.",
    "string": "It must be a text.",
    "bool": "It must be yes or no.",
    "missing": "It is missing.",
    "extra": "Nothing of that name is known.",
    "model": "It must be written by its fields, each with its name.",
    "date": "It must be a day, as 2026-05-31.",
    "time": "It must be a time, as 14:30.",
}
"""How pydantic's other kinds begin, and what is said of them."""
NAMES_WRONG = ("extra_forbidden", "missing")


def refusal(error: ValidationError, model: type[BaseModel]) -> InputError:
    """What is wrong first, of what was looked at as a `model`: the setting by its label, the value, and what it may be. Lengths in
    it are marked (`findings.mm`)."""
    first = error.errors()[0]
    loc = first["loc"]
    label, setting = _named(model, [own for own in loc if isinstance(own, str)])
    numbers = [own + 1 for own in loc if isinstance(own, int)]
    place = f"{label}, no. {numbers[-1]}" if numbers else label
    kind = setting.kind if setting is not None else None
    value = _written(first.get("input"), kind) if first["type"] != "missing" else ""
    if first["type"] in NAMES_WRONG and str(loc[-1]) != label:  # what is wrong is a name
        place += f", “{loc[-1]}”"
    return InputError("this value cannot be used", place, value, _may_be(first, setting))


def _named(model: type[BaseModel], names: Iterable[str]) -> tuple[str, Setting | None]:
    """The label and the record of a field by its path of names; what has no record goes by its own name."""
    label, setting = "", None
    owner: type[BaseModel] | None = model
    for name in names:
        info = owner.model_fields.get(name) if owner is not None else None
        if info is None:  # which of several types was tried, or a field that is not known
            label = label or name.replace("_", " ")
            continue
        setting = setting_of(info)
        label = setting.label if setting is not None else name.replace("_", " ")
        owner = next(_models(info.annotation), None)
    return label, setting


def _models(annotation: Any) -> Iterator[type[BaseModel]]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        yield annotation
    for inner in get_args(annotation):
        yield from _models(inner)


def _written(value: Any, kind: Kind | None) -> str:
    """A value as it was given, shortened: a length in the builder's units, a share as it is typed."""
    if value is None:
        return "nothing"
    if isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value):
        return _number(float(value), kind)
    if isinstance(value, Mapping | Sequence) and not isinstance(value, str):
        return ""  # several values: the place and the limit say more than their list
    return str(value)[:MOST_LETTERS]


def _number(value: float, kind: Kind | None) -> str:
    if kind in LENGTHS:
        return mm(value)
    if kind in (Kind.PER_CENT, Kind.SHARES):
        return f"{100 * value:g} %"
    return f"{value:.10g}"


def _may_be(first: Mapping[str, Any], setting: Setting | None) -> str:
    """What a value may be, as one sentence."""
    kind, context = first["type"], first.get("ctx") or {}
    if kind in LIMITS:
        name = LIMITS[kind]
        number = _number(float(context[name]), setting.kind if setting is not None else None)
        return f"It must be {BOUNDS[name]} {number}{_unit(setting)}."
    if kind in ("enum", "literal_error"):
        choices = [str(words) for words in setting.choices.values()] if setting is not None else []
        return f"It may be one of these: {', '.join(choices) or context['expected']}."
    if kind in COUNTS:
        name, words = COUNTS[kind]
        return words.format(context[name])
    otherwise = f"{str(first['msg']).removeprefix('Value error, ').rstrip('.')}."
    return next((words for own, words in MUST_BE.items() if kind.startswith(own)), otherwise)


def _unit(setting: Setting | None) -> str:
    if setting is None or not setting.unit:
        return ""
    return "°" if setting.unit == "degrees" else f" {setting.unit}"

"""A part of a Job with some of its fields changed, validated as a whole."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from .refusal import refusal

_Part = TypeVar("_Part", bound=BaseModel)


def change(job: _Part, part: str, **fields: Any) -> _Part:
    """The job with some fields of one part changed (part "" for the job's own, "stock.saw" for a part of a part), validated.

    Raises InputError naming the field, the value and what is wrong with it.
    """
    head, dot, rest = part.partition(".")
    if dot:
        return job.model_copy(update={head: change(getattr(job, head), rest, **fields)})
    owner = getattr(job, part) if part else job
    try:
        changed = type(owner).model_validate({**_shallow(owner), **fields})
    except ValidationError as error:
        raise refusal(error, type(owner)) from None
    return job.model_copy(update={part: changed}) if part else changed


def look_at(job: BaseModel, before: BaseModel, but: Collection[str] = ()) -> None:
    """Look whether every field that is another than `before` holds only what it may, however deep: what is made by `model_copy` is
    not looked at when it is made. `but` names fields that are left out.

    Raises InputError naming the place, the value and what is wrong with it.
    """
    fields = {name: getattr(job, name) for name in type(job).model_fields if name not in but}
    new = {name: _plain(value) for name, value in fields.items() if value is not getattr(before, name)}
    if not new:
        return
    try:
        type(job).model_validate({**_shallow(job), **new})
    except ValidationError as error:
        raise refusal(error, type(job)) from None


def _plain(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return value.model_dump()
    return tuple(map(_plain, value)) if isinstance(value, tuple) else value


def _shallow(model: Any) -> dict[str, Any]:
    return {name: getattr(model, name) for name in type(model).model_fields}

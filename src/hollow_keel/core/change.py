"""A part of a Job with some of its fields changed, validated as a whole."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from .errors import InputError

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
        first = error.errors()[0]
        raise InputError(
            "this value cannot be used", str(first["loc"][0]).replace("_", " "), str(first.get("input"))[:60],
            f"{first['msg'].rstrip('.')}.",
        ) from None  # fmt: skip
    return job.model_copy(update={part: changed}) if part else changed


def _shallow(model: Any) -> dict[str, Any]:
    return {name: getattr(model, name) for name in type(model).model_fields}

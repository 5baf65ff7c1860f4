"""Settings given as KEY=VALUE, as on the command line."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from ..core.errors import InputError
from ..core.job import Job
from ..core.units import LengthUnit, parse_length


def _stations(text: str, unit: LengthUnit) -> dict[str, Any]:
    if text == "offsets":
        return {"stations": (), "every": None}
    if text.startswith("every:"):
        return {"stations": (), "every": parse_length(text.removeprefix("every:"), unit)}
    return {"stations": tuple(parse_length(part, unit) for part in text.split(",")), "every": None}


def _word(text: str, _: LengthUnit) -> str:
    return text


def _guide(text: str, unit: LengthUnit) -> dict[str, Any]:
    """A guide line: sheer, keel, both, master:HEIGHT, natural:HEIGHT, or girth:SHARE."""
    kind, colon, value = text.partition(":")
    if not colon:
        return {"guide": text}
    if kind == "girth":
        try:
            return {"guide": "master", "master": {"kind": "girth", "share": float(value)}}
        except ValueError:
            raise InputError(
                "this is not a share", value=value, mend="Write for example girth:0.6."
            ) from None
    kinds = {"master": "height", "natural": "natural"}
    if kind not in kinds:
        raise InputError(
            "no such guide line",
            value=text,
            mend="Use sheer, keel, both, master:HEIGHT, natural:HEIGHT or girth:SHARE.",
        )
    return {"guide": "master", "master": {"kind": kinds[kind], "height": parse_length(value, unit)}}


_Part = TypeVar("_Part", bound=BaseModel)
_Reader = Callable[[str, LengthUnit], Any]
_KEYS: dict[str, tuple[str, str, _Reader]] = {
    "skin": ("molds", "skin", parse_length),
    "deduction": ("molds", "deduction", _word),
    "strapping": ("molds", "strapping", parse_length),
    "false-bottom": ("molds", "false_bottom", parse_length),
    "mold.thickness": ("molds", "thickness", parse_length),
    "mold.form": ("molds", "form", _word),
    "mold.ring": ("molds", "ring_width", parse_length),
    "mold.beyond-sheer": ("molds", "beyond_sheer", parse_length),
    "mold.faces": ("molds", "faces", _word),
    "mold.edge": ("molds", "edge", _word),
    "mold.kind": ("molds", "kind", _word),
    "mold.notch-width": ("molds", "notch_width", parse_length),
    "mold.notch-depth": ("molds", "notch_depth", parse_length),
    "mold.stations": ("molds", "*", _stations),
    "waterline": ("", "waterline", parse_length),
    "strip.width": ("strips", "width", parse_length),
    "strip.thickness": ("strips", "thickness", parse_length),
    "strip.edge": ("strips", "edge", _word),
    "strip.cove-depth": ("strips", "cove_depth", parse_length),
    "strip.guide": ("strips", "*", _guide),
    "strip.layout": ("strips", "layout", _word),
    "strip.least-width": ("strips", "least_width", parse_length),
    "strip.bottom": ("strips", "bottom", _word),
    "strip.meeting": ("strips", "meeting", _word),
    "strip.meet-on": ("strips", "meet_on", _word),
    "strip.wood": ("strips", "wood", _word),
    "strip.glue-gap": ("strips", "glue_gap", parse_length),
    "strip.cutter": ("strips", "cutter", parse_length),
    "stock.kerf": ("stock.saw", "kerf", parse_length),
    "stock.planing": ("stock.saw", "planing", parse_length),
    "stock.stagger": ("stock.joints", "stagger", parse_length),
    "stock.clear-molds": ("stock.joints", "clear_molds", parse_length),
    "stock.joint": ("stock.joints", "kind", _word),
    "setup.strongback": ("setup", "strongback", _word),
    "setup.zero": ("setup", "zero_at", parse_length),
    "setup.zero-end": ("setup", "zero_end", _word),
    "setup.first-face": ("setup", "first_face", parse_length),
    "setup.upright": ("setup", "upright", _word),
    "setup.waterline-above": ("setup", "waterline_above", parse_length),
}


def apply_override(job: Job, key: str, value: str, unit: LengthUnit = LengthUnit.MM) -> Job:
    """The job with one setting changed; a bare length is in `unit`. Raises InputError naming key, value and mend."""
    if key not in _KEYS:
        raise InputError("no such setting", value=key, mend=f"Use one of: {', '.join(sorted(_KEYS))}.")
    part, field, read = _KEYS[key]
    try:
        parsed = read(value, unit)
        changes = parsed if field == "*" else {field: parsed}
        return change(job, part, **changes)
    except InputError as error:
        raise error.at(key) from None


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

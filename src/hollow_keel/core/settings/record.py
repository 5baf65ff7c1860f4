"""One record a setting: its words, its unit, what it is for, when it means anything, where it comes from.

The record stands with the field itself; fields, dialogs, the command line, messages and the docs are made from it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import BaseModel, ConfigDict, Field
from pydantic.fields import FieldInfo

from ..units import FARTHEST_MM

if TYPE_CHECKING:
    from ..job import Job

Share = Annotated[float, Field(gt=0, lt=1, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, lt=1e6, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, lt=1e6, allow_inf_nan=False)]
Finite = Annotated[float, Field(gt=-FARTHEST_MM, lt=FARTHEST_MM, allow_inf_nan=False)]

COMMON = "common practice"
OWN = "the builder's own choice"

BOUNDS = {"gt": "more than", "ge": "at least", "lt": "less than", "le": "at most"}
"""Limits as pydantic names them, in words."""


class Part(BaseModel):
    """A part of the Job: frozen, and nothing in it that is not known."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Kind(StrEnum):
    """What a setting is, and so how it is typed and shown."""

    LENGTH = "length"
    FINE = "fine length"
    """What a caliper measures: shown to tenths of a millimetre or thousandths of an inch."""
    LENGTHS = "lengths"
    NUMBER = "number"
    WHOLE = "whole number"
    PER_CENT = "per cent"
    DEGREES = "degrees"
    SHARES = "shares"
    """Shares of a whole, typed in per cent."""
    FLAG = "yes or no"
    CHOICE = "choice"
    WORD = "text"
    DAY = "day"
    DAYS = "days"
    """Days, typed as spans: 24 Dec to 6 Jan, 14 July."""
    RECORDS = "records"
    """Several things with fields of their own, as JSON on the command line."""


def _always(_job: Job) -> bool:
    return True


@dataclass(frozen=True)
class Setting:
    """`label` names it; `why` says what it is for; `unit` what a number counts
    (lengths have the builder's own); `none` what is so where nothing is set; `choices` the words of each value; `key` an older
    name on the command line; `when` whether it means anything in a job; `source` where its value comes from."""

    label: str
    why: str
    kind: Kind = Kind.LENGTH
    unit: str = ""
    none: str = ""
    choices: Mapping[Any, str] = field(default_factory=dict)
    key: str = ""
    when: Callable[[Job], bool] = _always
    source: str = OWN
    older: str = ""
    """A name it was called by on the command line once, still understood."""
    twin: str = ""
    """The field of the same part that it changes places with where the boat is turned end for end."""


def setting(default: Any, label: str, why: str, kind: Kind = Kind.LENGTH, **words: Any) -> Any:
    """A field of the Job with its default and its record."""
    own: dict[str, Any] = {"setting": Setting(label, why, kind, **words)}
    return Field(default, description=why, json_schema_extra=own)


def setting_of(info: FieldInfo) -> Setting | None:
    """The record of a field; None where it has none."""
    extra = info.json_schema_extra
    own = extra.get("setting") if isinstance(extra, dict) else None
    return own if isinstance(own, Setting) else None

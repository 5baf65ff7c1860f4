"""Which other ways of laying strips a hull allows, before one is chosen."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..errors import ImpossiblePlan
from ..hull.build import Hull
from ..job import StripSettings
from ..settings.strip_choices import Guide, MasterKind, StripLayout
from .courses import Fields
from .plank import laying_of, plank

WAYS: dict[str, tuple[Any, ...]] = {
    "guide": tuple(Guide), "layout": tuple(StripLayout), "master.kind": tuple(MasterKind),
}  # fmt: skip
"""What is chosen among the ways of laying strips, by its setting among those of the strips."""


def refusals(hull: Hull, strips: StripSettings, setting: str) -> Iterator[tuple[Any, str]]:
    """Each choice of one of WAYS that cannot be laid on a hull with the other settings as they are, and why not; the present one is
    not asked. Heights of a master line that are not given yet refuse nothing: they are asked for once they are chosen."""
    fields: Fields = {}
    for choice in WAYS[setting]:
        other = _with(strips, setting, choice)
        given = (
            other.guide is not Guide.MASTER
            or other.master.kind is not MasterKind.HEIGHTS
            or other.master.heights
        )
        if other == strips or not given:
            continue
        try:
            plank(hull, laying_of(other), fields=fields)
        except ImpossiblePlan as error:
            yield choice, str(error)


def _with(strips: StripSettings, setting: str, choice: Any) -> StripSettings:
    if setting == "master.kind":
        return strips.model_copy(update={"master": strips.master.model_copy(update={"kind": choice})})
    return strips.model_copy(update={setting: choice})

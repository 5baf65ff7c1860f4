"""Every stage names all that it reads of the job: its key would otherwise stay the same when its value must not.

Stages are worked out from a job that writes down which of its fields are looked at. Nothing of ours tells what they ought to read.
"""

from __future__ import annotations

import inspect
from collections.abc import Iterator
from dataclasses import replace
from functools import cached_property, partial
from types import FunctionType, MethodType
from typing import Any

import pytest
from pydantic import BaseModel

from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline, Run
from hollow_keel.core.settings.progress import GirthLeft, Planked
from hollow_keel.core.settings.readings import ArcReading, EyeReading, Side
from hollow_keel.core.stage import Failed, FailureKind, Stage
from hollow_keel.core.stages import BY_ID, STAGES, keys_of, needed_for
from hollow_keel.demo.jobs import linnet, pipit, sedge, teasel
from tests.shapes import bare_linnet, unworked

pytestmark = pytest.mark.fresh


class Watched:
    """A part of a job that writes down what of it is looked at, as dotted paths; what is named as a whole counts as a whole."""

    def __init__(self, model: BaseModel, path: str, named: frozenset[str], seen: set[str]) -> None:
        self.__dict__.update(_model=model, _path=path, _named=named, _seen=seen)

    def __getattr__(self, name: str) -> Any:
        model, own = self._model, f"{self._path}.{name}".lstrip(".")
        kind = inspect.getattr_static(type(model), name, None)
        if own in self._named or (name in type(model).model_fields and not _is_part(getattr(model, name))):
            inside = getattr(model, name) is None and any(n.startswith(f"{own}.") for n in self._named)
            self._seen |= set() if inside else {own}  # the fields of a part that is not there are all None
            return getattr(model, name)
        if name in type(model).model_fields:
            return Watched(getattr(model, name), own, self._named, self._seen)
        if isinstance(kind, property):
            assert kind.fget is not None
            return kind.fget(self)
        if isinstance(kind, cached_property):
            return kind.func(self)
        if name == "model_copy":
            return self._copied
        if isinstance(kind, FunctionType):
            return MethodType(kind, self)
        raise AssertionError(f"{own} is looked at in a way that cannot be followed")

    def _copied(self, update: dict[str, Any]) -> Watched:
        plain = {k: v._model if isinstance(v, Watched) else v for k, v in update.items()}
        return Watched(self._model.model_copy(update=plain), self._path, self._named, self._seen)


def _is_part(value: object) -> bool:
    return isinstance(value, BaseModel)


ARCS = (ArcReading(head="mold 5", side=Side.PORT, radii=(1450.0, 2900.0, 2230.0)),)
EYE = tuple(EyeReading(head=f"mold {k}", side=Side.PORT, height=-420.0 + 40.0 * k) for k in range(1, 5))


class Looking:
    """What a stage is given, its job watched; by stage, what of it was looked at."""

    def __init__(self, looked_at: dict[str, set[str]], run: Run, stage: Stage[Any]) -> None:
        seen = looked_at.setdefault(stage.id, set())
        self.job = Watched(run.job, "", frozenset(stage.reads), seen)
        self.tick, self.curves, self._run, self._stage = run.tick, run.curves, run, stage

    def __getitem__(self, need: Stage[Any]) -> Any:
        assert need in self._stage.needs, f"{self._stage.id} does not name {need.id}"
        return self._run[need]


def jobs() -> Iterator[tuple[str, Job]]:
    fitted = change(linnet(), "trim", curve_at=(4890.0, 5060.0), curve_to=(150.0, 520.0), arcs=ARCS, eye=EYE)
    fitted = change(change(fitted, "outer", stems=True, keel=True, planks=True, knees=True), "release", wanted=True)
    bare = change(unworked(bare_linnet()), "strips", width=38.0)  # few: it is the same that is read
    yield "as it is", change(fitted, "inside", sole=True, bulkheads=(900.0,), stringers=(0.5,))
    yield "inches", pipit()
    yield "decked", change(teasel(), "stock", boards=linnet().stock.boards)
    yield "decked by a camber", change(pipit(), "deck", source="camber", king_width=30.0, guide="both")
    yield "tapered", change(sedge(), "strips", layout="tapered")
    yield ("whole lengths", change(change(bare, "stock.joints", kind="none: whole lengths"), "stock.saw", way="off the edge"))
    yield (
        "frames",
        change(change(bare, "molds", kind="frame", edge="bevelled", form="ring", spall_above=100.0), "setup", strongback="rails"),
    )
    yield (
        "table",
        change(
            change(bare, "molds", form="holes", every=400.0, halves=True, notch_width=30, notch_depth=20),
            "setup",
            strongback="table",
            width=700.0,
        ),
    )
    yield ("upright", change(change(bare, "", waterline=None), "setup", strongback="table", upright=True, zero_end="stern"))
    yield "few", change(bare, "strips", layout="few", least_width=6.0)
    yield "beaded", change(bare, "strips", edge="bead-cove", cutter=5.0, guide="keel", meet_on="centreline")
    yield "both", change(bare, "strips", guide="both")
    left = tuple(GirthLeft(mold=str(k), port=300.0 - k, starboard=302.0 - k) for k in range(3, 9))
    yield "measured", change(bare, "", planked=Planked(strips=20, left=left, way="taper"))  # type: ignore[arg-type]


@pytest.fixture(scope="module")
def pipeline() -> Pipeline:
    """One for all jobs: what several have alike is worked out once."""
    return Pipeline()


@pytest.mark.parametrize(("name", "job"), list(jobs()), ids=[name for name, _ in jobs()])
def test_stages_read_what_they_name(name: str, job: Job, pipeline: Pipeline, monkeypatch: pytest.MonkeyPatch) -> None:
    looked_at: dict[str, set[str]] = {}
    monkeypatch.setattr("hollow_keel.core.pipeline._Given", partial(Looking, looked_at))
    run = pipeline.run(job)
    for stage in needed_for(STAGES, job):
        value = run.attempt(stage).value
        assert not isinstance(value, Failed) or value.kind is not FailureKind.FAULT, value.message
        seen = looked_at.get(stage.id, set())  # nothing where it was worked out for a job before
        assert seen <= set(stage.reads), (stage.id, sorted(seen - set(stage.reads)))
    assert looked_at


def test_a_stage_that_reads_what_it_does_not_name_is_found(monkeypatch: pytest.MonkeyPatch) -> None:
    looked_at: dict[str, set[str]] = {}
    monkeypatch.setattr("hollow_keel.core.pipeline._Given", partial(Looking, looked_at))
    run = Pipeline().run(linnet())
    stage = replace(BY_ID["hull"], reads=())
    run.attempt(stage)
    assert looked_at["hull"]


def test_a_key_changes_with_what_is_read_and_with_what_is_needed() -> None:
    job = linnet()
    first = keys_of(job)
    thinner = keys_of(change(job, "molds", thickness=9.0))
    assert thinner["hull"] == first["hull"]
    assert thinner["molds"] != first["molds"]
    assert thinner["pieces"] != first["pieces"], "it needs the molds"
    assert keys_of(linnet()) == first

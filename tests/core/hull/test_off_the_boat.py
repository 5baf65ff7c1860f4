"""A place that the boat does not reach to is said, whatever lies there: it is not laid elsewhere."""

from __future__ import annotations

import re

import pytest

from hollow_keel.app.deciding import with_value
from hollow_keel.core.change import change
from hollow_keel.core.job import Job
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.record import Kind
from hollow_keel.core.settings_table import all_settings
from hollow_keel.core.stage import Failed
from hollow_keel.core.stages import STAGES, needed_for
from hollow_keel.demo.jobs import linnet, sedge

IN_PAIRS = "trim.curve_at"
"""As many positions as the other of a trimming curve."""
SAID = re.compile(r"no hull at|no mold can be made here|before the zero|zero lies|keel is not at", re.IGNORECASE)


def jobs() -> dict[str, Job]:
    fitted = change(change(linnet(), "release", wanted=True), "inside", sole=True, stringers=(0.5,))
    return {"linnet": fitted, "sedge": sedge()}


def said(pipeline: Pipeline, job: Job) -> str:
    """All findings and refusals of the stages that do not lay strips: they take long, and know nothing of places."""
    run, texts = pipeline.run(job), []
    for stage in needed_for(STAGES, job):
        if stage.page in ("planking", "stock", "log", "fairing", "deck"):
            continue
        outcome = run.attempt(stage)
        if isinstance(outcome.value, Failed):
            texts.append(outcome.value.message)
        texts += [finding.text for finding in getattr(outcome.value, "findings", ())]
    return "\n".join(texts)


@pytest.fixture(scope="module")
def pipeline() -> Pipeline:
    return Pipeline()


@pytest.mark.parametrize("place", [-9000.0, 99_999.0])
@pytest.mark.parametrize("name", list(jobs()))
def test_a_place_off_the_boat_is_said(name: str, place: float, pipeline: Pipeline) -> None:
    job = jobs()[name]
    assert not SAID.search(said(pipeline, job)), "nothing is off her as she is"
    tried = 0
    for path, record in all_settings().items():
        if not record.is_place or not record.setting.when(job) or path == IN_PAIRS:
            continue
        if record.setting.kind is Kind.RECORDS:
            continue
        value = (place,) if record.setting.kind is Kind.LENGTHS else place
        assert SAID.search(said(pipeline, with_value(job, path, value))), path
        tried += 1
    assert tried > 2

"""The molds on the strongback: where they are marked, how they stand, and what was measured of them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..findings import Finding
from ..hull.stages import HULL, WATERLINE
from ..job import SetupSettings
from ..molds.stages import MOLDS
from ..stage import Given, Stage, Turn, fields_of

if TYPE_CHECKING:
    from .beam import SetUp
    from .judgement import SurveyJudgement
    from .schedule import Schedule

PLACE = (
    "setup.strongback",
    "setup.upright",
    "setup.zero_end",
    "setup.zero_at",
    "setup.first_face",
    "setup.waterline_above",
    "setup.beam_width",
    "setup.beam_height",
)
"""What marks and heights depend on."""
TIMBER = fields_of(SetupSettings, "setup", but=("fairs_below", "mend_above"))


def _setup(given: Given) -> SetUp:
    from .beam import set_up

    return set_up(given[HULL], given[MOLDS], given.job.setup, given[WATERLINE].height)


def _schedule(given: Given) -> Schedule:
    from .schedule import schedule

    return schedule(given[HULL], given[MOLDS], given[SETUP], given.job, given[WATERLINE].height)


def _surveys(given: Given) -> tuple[SurveyJudgement, ...]:
    from .judgement import judge_survey

    job, molds = given.job, given[MOLDS].molds
    return tuple(judge_survey(survey, given[SETUP], molds, job) for survey in job.surveys) if molds else ()


def _survey_findings(judged: tuple[SurveyJudgement, ...]) -> tuple[Finding, ...]:
    from .judgement import survey_findings

    return survey_findings(judged[-1]) if judged else ()


SETUP = Stage("setup", "setup", "the set-up", PLACE, (HULL, MOLDS, WATERLINE), _setup, lambda setup: setup.findings)
SCHEDULE = Stage(
    "schedule",
    "setup",
    "how the molds stand",
    (*TIMBER, "molds.spall_above"),
    (HULL, MOLDS, SETUP, WATERLINE),
    _schedule,
    lambda schedule: schedule.findings,
)
SURVEYS = Stage(
    "surveys",
    "setup",
    "what was measured",
    (
        "surveys",
        "setup.fairs_below",
        "setup.mend_above",
        "setup.strongback",
        "setup.upright",
        "setup.zero_end",
        "molds.mark_waterlines",
        "molds.spall_above",
    ),
    (MOLDS, SETUP),
    _surveys,
    _survey_findings,
    Turn.CUT,
)

STAGES = (SETUP, SCHEDULE, SURVEYS)

"""What a survey of the molds comes to: which are out, the datum they share, causes, readings that cannot be."""

from __future__ import annotations

import io
import math

import numpy as np
import pytest
from pypdf import PdfReader

from hollow_keel.core.change import change
from hollow_keel.core.errors import InputError
from hollow_keel.core.job import HullEnd, SetupSettings
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import PLANKING
from hollow_keel.core.results import Shape
from hollow_keel.core.settings.survey import Reading, Survey
from hollow_keel.core.setup.as_built import batten_along, batten_test, heights_of
from hollow_keel.core.setup.instruments import Instrument
from hollow_keel.core.setup.judgement import Direction, Grade, SurveyJudgement, grade_of, judge_survey, standing_on
from hollow_keel.core.setup.long_batten import Batten
from hollow_keel.core.setup.outliers import judge_row
from hollow_keel.core.setup.schedule import rail_overhang, spacers
from hollow_keel.core.units import MM_PER_INCH, LengthUnit, parse_length, parse_reading
from hollow_keel.demo.jobs import LINNET_WATERLINE, linnet
from hollow_keel.files.plan_json import as_built_document, plan_document
from hollow_keel.files.setup.paper import setting_up_pdf
from tests.shapes import checked, unworked
from tests.survey_trials import Fault, simulated_survey, trials


@pytest.fixture(scope="module")
def shape() -> Shape:
    return Pipeline().shape(linnet())


def judged(shape: Shape, survey: Survey) -> SurveyJudgement:
    return judge_survey(survey, shape.setup, shape.molds.molds, shape.job)


def test_molds_that_are_out_are_found_and_innocent_ones_left() -> None:
    score = trials(200, (1, 3), (4.0, 12.0), 0.5, 6.0, seed=5)
    assert score.missed_share <= 0.05
    assert score.innocent_share <= 0.05


def test_a_sound_set_up_is_left_alone() -> None:
    score = trials(100, (0, 0), (0.0, 0.0), 0.5, 6.0, seed=6)
    assert score.named <= 3


def test_few_readings_name_nobody() -> None:
    for count in range(4):
        assert judge_row(np.arange(count) * 400.0, np.array([0, 9, 0])[:count].astype(float), 0.5).out == ()


def test_the_demo_has_two_molds_out_and_a_beam_that_sags(shape: Shape) -> None:
    assert shape.setup.waterline_above == LINNET_WATERLINE
    found = judged(shape, shape.job.surveys[-1])
    assert [(m.mold, m.direction) for m in found.moves] == [("4", Direction.UP), ("9", Direction.ACROSS)]
    assert found.moves[0].error == pytest.approx(6.0, abs=0.6)
    assert found.moves[1].error == pytest.approx(-5.0, abs=0.6)
    assert "to starboard" in found.moves[1].mend
    assert any("smooth sweep" in text for text in found.datum)
    checks = checked(shape.job)
    assert {f.where for f in checks if f.code == "out"} == {"mold 4", "mold 9"}


def test_everything_high_is_one_datum_and_not_twelve_errors(shape: Shape) -> None:
    survey = simulated_survey(shape.setup, {})
    raised = survey.model_copy(
        update={
            "readings": tuple(
                r.model_copy(update={"height_port": r.height_port + 3, "height_starboard": r.height_starboard + 3})  # type: ignore[operator]
                for r in survey.readings
            )
        }
    )
    found = judged(shape, raised)
    assert found.moves == ()
    assert any("All molds stand" in text and "high" in text for text in found.datum)


@pytest.mark.parametrize(
    ("fault", "direction", "cause"),
    [
        (Fault(along=-12.0), Direction.ALONG, "wrong face"),
        (Fault(up=6.0), Direction.UP, "cut long"),
        (Fault(up=-6.0), Direction.UP, "cut short"),
        (Fault(starboard_up=9.0), Direction.ROLL, "not flush"),
    ],
)
def test_likely_causes_are_named(shape: Shape, fault: Fault, direction: Direction, cause: str) -> None:
    (move,) = judged(shape, simulated_survey(shape.setup, {"6": fault}, sag=3.0, seed=3)).moves
    assert (move.mold, move.direction) == ("6", direction)
    assert cause in move.cause
    if direction is Direction.ROLL:
        assert abs(move.error) == pytest.approx(9.0, abs=1.0)
        assert "starboard" in move.mend


def test_the_wrong_line_is_recognised(shape: Shape) -> None:
    job = change(shape.job, "molds", mark_waterlines=50.0, spall_above=120.0)
    own = Pipeline().shape(job)
    for up, words in ((50.0, "other waterlines"), (-120.0, "cross spall")):
        (move,) = judged(own, simulated_survey(own.setup, {"5": Fault(up=up)})).moves
        assert words in move.cause


def test_a_missing_spacer_is_one_mistake(shape: Shape) -> None:
    faults = {m.mold: Fault(along=-12.0) for m in shape.setup.marks[6:]}
    found = judged(shape, simulated_survey(shape.setup, faults))
    assert found.moves == ()
    assert any("From mold 7 on" in text and "molds 6 and 7" in text for text in found.datum)
    (spacer,) = [f for f in found.findings if f.code == "spacer"]
    assert spacer.where == "mold 7"
    far = judged(shape, simulated_survey(shape.setup, {m.mold: Fault(along=-388.0) for m in shape.setup.marks[7:]}))
    assert [f.where for f in far.findings if f.code == "spacer"] == ["mold 8"]
    both = judged(shape, simulated_survey(shape.setup, {**faults, "3": Fault(along=7.0)}))
    assert [m.mold for m in both.moves] == ["3"]


def test_readings_that_cannot_be_are_named_and_left_out(shape: Shape) -> None:
    survey = simulated_survey(shape.setup, {})
    inches = survey.of("8").model_copy(update={"along_port": shape.setup.marks[7].from_zero / MM_PER_INCH})
    tenfold = survey.of("3").model_copy(update={"height_port": LINNET_WATERLINE * 10})
    found = judged(shape, survey.with_reading(inches).with_reading(tenfold))
    assert {(f.code, f.where) for f in found.findings} == {("wrong-unit", "mold 8"), ("wrong-unit", "mold 3")}
    assert found.moves == ()
    unmeasured = judged(shape, survey.with_reading(Reading(mold="2")))
    assert {(f.code, f.where) for f in unmeasured.findings} == {("not-measured", "mold 2")}
    assert unmeasured.error("2", Direction.UP) == 0.0
    first = survey.of("1").height_port
    assert first is not None
    drifted = judged(shape, survey.model_copy(update={"closing": first + 4.0}))
    assert [f.code for f in drifted.findings] == ["drift"]
    assert judged(shape, survey.model_copy(update={"closing": first + 0.5})).findings == ()


def test_grades_are_those_of_the_trade() -> None:
    """Common practice, no source: 1/64 in never matters, 1/16 will not show, 1/8 is not ideal, 1/2 must be found."""
    inch = MM_PER_INCH
    assert [grade_of(s * inch, SetupSettings()) for s in (1 / 64, 1 / 16, -1 / 8, 1 / 2)] == [
        Grade.NEVER,
        Grade.FAIRS,
        Grade.NOT_IDEAL,
        Grade.MEND,
    ]
    strict = SetupSettings(fairs_below=0.2, mend_above=0.8)
    assert [grade_of(s, strict) for s in (0.1, 0.3, 1.0)] == [Grade.NEVER, Grade.NOT_IDEAL, Grade.MEND]


def test_the_batten_shows_the_bump_and_bridges_the_hollow(shape: Shape) -> None:
    found = judged(shape, simulated_survey(shape.setup, {"4": Fault(across=6.0), "9": Fault(across=-6.0)}))
    strip = Batten.of_strip(14.0, 8.0)
    starboard = batten_test(found, shape.molds.molds, 175.0, strip, setup=shape.job.setup)
    port = batten_test(found, shape.molds.molds, 175.0, strip, starboard=False, setup=shape.job.setup)
    assert starboard is not None
    assert port is not None
    assert starboard.planned.gaps.max() <= 0.3
    four, nine = starboard.molds.index("4"), starboard.molds.index("9")
    assert starboard.errors[four] == pytest.approx(6.0, abs=0.7)
    assert "bump" in starboard.verdict(four)
    assert "bridges" in starboard.verdict(nine)
    assert "bridges" in port.verdict(four)
    assert "bump" in port.verdict(nine)
    assert batten_test(found, shape.molds.molds, 5000.0, strip, setup=shape.job.setup) is None


def test_a_mold_too_far_aft_stands_proud_where_the_hull_narrows_aft(shape: Shape) -> None:
    found = judged(shape, simulated_survey(shape.setup, {"11": Fault(along=9.0), "3": Fault(along=9.0)}))
    test = batten_test(found, shape.molds.molds, 300.0, Batten.of_strip(14.0, 8.0), setup=shape.job.setup)
    assert test is not None
    errors = dict(zip(test.molds, test.errors.tolist(), strict=True))
    after = shape.molds.molds[10].edge
    lean = float(np.interp(300.0, after.points[:, 1], after.narrowing))
    k = int(np.searchsorted(after.points[:, 1], 300.0))
    along = after.points[k] - after.points[k - 1]
    across = float(along[1] / np.linalg.norm(along))  # the hull flares: level, its square is a longer way
    assert errors["11"] == pytest.approx(9.0 * math.tan(lean) / across, abs=0.3)
    assert errors["11"] > 0 > errors["3"]
    from_stern = batten_test(
        found, shape.molds.molds, 300.0, Batten.of_strip(14.0, 8.0), setup=SetupSettings(zero_end=HullEnd.STERN)
    )
    assert from_stern is not None
    assert from_stern.errors[test.molds.index("11")] < 0


def test_a_batten_over_four_molds_shows_something_and_over_three_nothing(shape: Shape) -> None:
    found = judged(shape, simulated_survey(shape.setup, {}))
    batten = Batten.of_strip(14.0, 8.0)
    molds = shape.molds.molds
    four = batten_test(found, molds[3:7], 175.0, batten, setup=shape.job.setup)
    assert four is not None
    assert four.molds == tuple(mold.name for mold in molds[3:7])
    assert batten_test(found, molds[3:6], 175.0, batten, setup=shape.job.setup) is None


def test_a_batten_along_a_strip_shows_the_same_errors_square_to_the_hull(shape: Shape) -> None:
    found = judged(shape, simulated_survey(shape.setup, {"4": Fault(across=6.0), "9": Fault(up=-6.0)}))
    strips = Pipeline().value(shape.job, PLANKING).strips
    batten = Batten.of_strip(14.0, 8.0)
    low = batten_along(found, shape.molds.molds, strips[45].near[0], batten, setup=shape.job.setup)
    side = batten_along(found, shape.molds.molds, strips[5].near[0], batten, setup=shape.job.setup)
    assert low is not None
    assert side is not None
    four, nine = side.molds.index("4"), low.molds.index("9")
    assert side.errors[four] == pytest.approx(6.0, abs=1.0)  # the topside is all but upright
    assert abs(low.errors[low.molds.index("4")]) < 4.0  # and the bottom all but level
    assert low.errors[nine] < -4.0  # low on the strongback, upside down: the bottom stands in
    assert "bump" in side.verdict(four)


def test_simulated_instruments_type_what_a_field_can_read() -> None:
    metric, inches = Instrument(seed=4), Instrument(seed=4, inches=True, noise=0.0, step=0.001)
    assert parse_length(metric.typed(1613.0), LengthUnit.INCH) == pytest.approx(1613.0, abs=2.0)
    assert parse_length(inches.typed(1613.0), LengthUnit.MM) == pytest.approx(1613.0, abs=0.05)
    failing = Instrument(fails=1.0)
    assert failing.read(10.0) is None
    assert failing.typed(10.0) == "\n"
    drifting = Instrument(noise=0.0, drift=0.2, step=0.1)
    assert [drifting.read(100.0) for _ in range(3)] == pytest.approx([100.0, 100.2, 100.4])


def test_sums_of_the_trade(shape: Shape) -> None:
    """Common practice, no source: rails 48 in apart under a frame of 71 1/4 in: 23 1/4 in over, 11 5/8 each side."""
    inch = MM_PER_INCH
    assert rail_overhang(71.25 * inch, 48 * inch) == pytest.approx((23.25 * inch, 11.625 * inch))
    first, middle = spacers(shape.setup)
    assert (first.length, first.count) == (pytest.approx(388.0), 10)
    assert (middle.length, middle.count, middle.after) == (pytest.approx(376.0), 1, ("6",))


def test_a_survey_of_another_set_up_is_one_remark(shape: Shape) -> None:
    on_rails = Pipeline().shape(change(shape.job, "setup", strongback="rails", waterline_above=750.0))
    not_known = shape.job.surveys[-1].model_copy(update={"on": None})  # as in files of earlier versions
    found = judged(on_rails, not_known)
    (remark,) = [f for f in found.findings if f.code == "wrong-unit"]
    assert "another set-up" in remark.text
    nothing = judged(shape, Survey())
    assert [f.code for f in nothing.findings] == ["not-measured"]
    assert nothing.moves == ()


def test_a_survey_keeps_the_set_up_it_was_measured_on(shape: Shape) -> None:
    survey = shape.job.surveys[-1]
    assert survey.on == standing_on(shape.setup, shape.job.setup)
    for settings, words in (
        ({"strongback": "rails"}, "on rails, not on a beam"),
        ({"upright": True}, "upright, not upside down"),
        ({"zero_end": "stern"}, "measured from another zero"),
        ({"zero_at": 100.0}, "measured from another zero"),
        ({"waterline_above": 90.0}, "the strongback at another height"),
    ):
        other = Pipeline().shape(change(shape.job, "setup", **settings))
        found = judged(other, survey)
        (said,) = found.findings
        assert said.code == "other-set-up"
        assert words in said.text
        assert not found.rows
        assert not found.moves
        told = as_built_document(other)
        assert (told["judged"], told["moves"]) == (False, [])
        paper = "".join(page.extract_text() for page in PdfReader(io.BytesIO(setting_up_pdf(other))).pages)
        assert "taken on another set-up" in " ".join(paper.split())
        assert "No mold needs to be moved" not in paper
    thicker = Pipeline().shape(change(shape.job, "molds", thickness=15.0))
    assert judged(thicker, survey).rows, "the molds may change; what they are measured from has not"
    fresh = Survey().with_value("4", "along_port", 1700.0).measured_on(standing_on(shape.setup, shape.job.setup))
    assert fresh.on is not None
    assert fresh.measured_on(standing_on(other.setup, other.job.setup)).on == fresh.on, "it is kept"


@pytest.mark.parametrize("upright", [False, True])
def test_a_mold_turned_about_its_foot_reads_as_a_turn(shape: Shape, upright: bool) -> None:
    """A rigid body turned by a small angle about the end it stands on: the other end of its centreline goes aside by the angle
    times the way between them, the waterline's ends up and down by the angle times their half-breadth."""
    stands = Pipeline().shape(change(shape.job, "setup", upright=upright))
    mold = next(m for m in stands.molds.molds if m.name == "6")
    tall = float(np.ptp(mold.edge.points[[0, -1], 1]))
    assert mold.edge.waterline is not None
    out = float(mold.edge.waterline[0])
    angle = 8.0 / tall  # 8 mm aside at the other end, to starboard
    # upside down it stands on its sheer, upright on its keel; what is higher goes to port as the starboard side goes up
    low, high = (0.0, 8.0) if upright else (8.0, 0.0)
    rng = np.random.default_rng(7)
    readings = tuple(
        Reading(
            mold=m.name,
            centre_low=(low if m.name == "6" else 0.0) + float(rng.normal(0, 0.3)),
            centre_high=(high if m.name == "6" else 0.0) + float(rng.normal(0, 0.3)),
        )
        for m in stands.molds.molds
    )
    found = judged(stands, Survey(readings=readings))
    assert [(m.mold, m.direction) for m in found.moves] == [("6", Direction.ROLL)]
    (move,) = found.moves
    assert move.error == pytest.approx(-angle * out, abs=1.0)
    assert "turn it" in move.mend  # starboard is down: it goes up again
    assert "its starboard side up" in move.mend
    # measured by its heights too it says the same
    heights = tuple(
        r.model_copy(
            update={
                "height_port": mark.waterline_above + (angle * out if r.mold == "6" else 0.0),
                "height_starboard": mark.waterline_above - (angle * out if r.mold == "6" else 0.0),
            }
        )
        for r in readings
        for mark in stands.setup.marks
        if mark.mold == r.mold
    )
    both = judged(stands, Survey(readings=heights))
    assert [(m.mold, m.direction) for m in both.moves] == [("6", Direction.ROLL)]
    assert both.moves[0].error == pytest.approx(-angle * out, abs=0.6)
    aside = tuple(
        Reading(mold=m.name, centre_low=5.0 * (m.name == "6"), centre_high=5.3 * (m.name == "6")) for m in stands.molds.molds
    )
    assert [(m.mold, m.direction) for m in judged(stands, Survey(readings=aside)).moves] == [("6", Direction.ACROSS)]


def test_heights_that_rise_evenly_are_told_as_a_slope(shape: Shape) -> None:
    last = shape.setup.marks[-1].from_zero
    readings = tuple(Reading(mold=m.mold, height_port=m.waterline_above + 9.0 * m.from_zero / last) for m in shape.setup.marks)
    found = judged(shape, Survey(readings=readings))
    assert not found.moves
    (slope,) = [text for text in found.datum if "evenly" in text]
    rise = 9.0 * (last - shape.setup.marks[0].from_zero) / last
    assert f"by ⟨{rise:g}⟩" in slope
    assert "from mold 1 to mold 12" in slope
    assert not [text for text in found.datum if "stand" in text and "high" in text]
    aside = tuple(Reading(mold=m.mold, centre_low=-6.0 * m.from_zero / last) for m in shape.setup.marks)
    (off,) = judged(shape, Survey(readings=aside)).datum
    assert "to port from mold 1 to mold 12" in off


def test_a_batten_where_no_mold_is_says_where_there_are_some(shape: Shape) -> None:
    molds = shape.molds.molds
    low, high, at = heights_of(molds, 5000.0)
    assert at == 0
    assert low == min(float(m.edge.points[:, 1].min()) for m in molds)
    assert high == max(float(m.edge.points[:, 1].max()) for m in molds)
    found = judged(shape, shape.job.surveys[-1])
    batten = Batten.of_strip(14, 8)
    assert batten_test(found, molds, 5000.0, batten, setup=shape.job.setup) is None
    assert heights_of(molds, shape.waterline)[2] == 12


def test_the_plan_file_tells_what_to_move() -> None:

    pipeline = Pipeline()
    plan = plan_document(pipeline.results(linnet()))
    assert [m["mold"] for m in plan["as_built"]["moves"]] == ["4", "9"]
    assert plan["as_built"]["moves"][0]["mend"] == "move it 6.1 mm down"
    mold = plan["molds"][2]
    assert [abs(b) for b in mold["standing"]] == mold["bevels"]
    assert all(b > 0 for b in mold["standing"])
    assert plan_document(pipeline.results(change(linnet(), "", surveys=())))["as_built"] == {}


@pytest.mark.parametrize("lean", [8.0, 3.0])
def test_port_and_starboard_written_the_wrong_way_round(shape: Shape, lean: float) -> None:
    leaning = simulated_survey(shape.setup, {m.mold: Fault(starboard_up=lean) for m in shape.setup.marks}, seed=9)
    assert judged(shape, leaning).moves == ()  # all alike: that is the strongback's
    seven = leaning.of("7")
    swapped = seven.model_copy(update={"height_port": seven.height_starboard, "height_starboard": seven.height_port})
    (move,) = judged(shape, leaning.with_reading(swapped)).moves
    assert (move.mold, move.direction) == ("7", Direction.ROLL)
    assert "wrong way round" in move.cause


def test_a_reading_that_nothing_of_a_boat_has_is_refused_in_words() -> None:
    with pytest.raises(InputError, match="no length on a hull"):
        Survey().with_value("3", "height_port", 1e9)
    with pytest.raises(InputError, match="look at the unit"):
        parse_reading("1e9")
    assert parse_reading("12 1/2", LengthUnit.INCH) == pytest.approx(317.5)


def test_heights_measured_from_the_other_line_are_told_so() -> None:
    """Out by the distance from the strongback to the waterline, one mold or all of them: no leg is cut long, and it is no datum
    that does no harm."""
    job = unworked(linnet())
    shape = Pipeline().shape(job)
    above = shape.setup.waterline_above
    plan = {m.mold: m.waterline_above for m in shape.setup.marks}

    def judged(off: dict[str, float]) -> SurveyJudgement:
        readings = tuple(
            Reading(mold=name, height_port=at + off.get(name, 0.0), height_starboard=at + off.get(name, 0.0))
            for name, at in plan.items()
        )
        return judge_survey(Survey(readings=readings), shape.setup, shape.molds.molds, job)

    (move,) = judged({"5": above}).moves
    assert "measured from the other line" in move.cause
    assert "legs" not in move.cause
    (move,) = judged({"5": above / 2}).moves
    assert "cut long" in move.cause
    everything = judged(dict.fromkeys(plan, above))
    assert not everything.moves
    (said,) = everything.datum
    assert "measured from the other line" in said
    assert "does no harm" not in said
    (harmless,) = judged(dict.fromkeys(plan, 9.0)).datum
    assert "does no harm" in harmless

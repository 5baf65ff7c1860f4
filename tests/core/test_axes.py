"""What a length lies along is told with it: nothing on a boat is left behind when the boat is turned, raised or scaled."""

from __future__ import annotations

from datetime import date
from typing import Annotated

import pytest

from hollow_keel.core.by_axis import BoatChange, numbers_of
from hollow_keel.core.change import change
from hollow_keel.core.job import Job, Layer, MasterLine, Opening
from hollow_keel.core.log.keep import mold_ticked
from hollow_keel.core.log.stages import WORK
from hollow_keel.core.molds.read_at import there
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.stages import REPLAN
from hollow_keel.core.settings.axis import AsRead, Axis, Height, Off, Position, Positions
from hollow_keel.core.settings.deck_choices import OpeningShape
from hollow_keel.core.settings.log_entry import Task
from hollow_keel.core.settings.progress import GirthLeft, Planked
from hollow_keel.core.settings.readings import ArcReading, EyeReading, Side
from hollow_keel.core.settings.record import Part, setting
from hollow_keel.core.settings.sheer_choices import SeenFrom
from hollow_keel.core.settings.survey import Survey
from hollow_keel.core.setup.stages import SURVEYS
from hollow_keel.core.sheer.stages import BOTH_SIDES, SHEER
from hollow_keel.core.veneers.stages import LAYERS
from hollow_keel.core.whole_job import job_raised, job_restationed, job_scaled, job_turned
from hollow_keel.demo.jobs import linnet, sedge, teasel
from tests.shapes import unworked


def fitted() -> Job:
    """Teasel with everything that stands at a place."""
    job = teasel()
    openings = (
        Opening(name="hatch", at=3560.0, off=50.0, length=400.0, width=300.0),
        Opening(name="egg", shape=OpeningShape.EGG, at=1500.0, length=820.0, width=420.0, forward=0.2),
        Opening(name="drawn", shape=OpeningShape.DRAWN, drawn=((2000.0, -100.0), (2300.0, 0.0), (2000.0, 100.0))),
    )
    job = change(job, "deck", openings=openings, peak_bow=300.0, peak_stern=200.0, ridge_height=410.0, crown_on=500.0)
    job = change(job, "inside", height=100.0, begins=900.0, ends=2600.0, bulkheads=(700.0, 3900.0))
    job = change(job, "release", spalls=(800.0, 2000.0, 4000.0))
    job = change(job, "molds", spall_above=150.0)
    job = change(job, "veneers", master=1800.0, layers=(Layer(angle=45.0), Layer(angle=90.0)))
    job = change(job, "strips", master=MasterLine(height=200.0))
    arcs = (ArcReading(head="bow quarter 1", side=Side.PORT, at=120.0, radii=(1.0, 2.0, 3.0)),)
    return change(
        job,
        "trim",
        frames=300.0,
        bases=(500.0, 4000.0),
        curve_at=(0.0, 2000.0),
        curve_to=(300.0, 250.0),
        arcs=arcs,
        eye=(EyeReading(head="mold 2", side=Side.STARBOARD, at=600.0, height=-400.0),),
    )


LAST = max(row.station for row in teasel().offsets.rows)


def test_a_number_without_an_axis_is_refused() -> None:
    """Every number with a fraction that a job can hold tells what it lies along, or that it is no length."""
    wrong = {path: axes for path, axes in numbers_of(Job) if len(axes) != 1}
    assert not wrong, "say with its type what it lies along (settings/axis.py)"

    class New(Part):
        told: Position | None = setting(None, "Told", "a place")
        forgotten: float = setting(0.0, "Forgotten", "a place")
        pairs: tuple[tuple[Position, float], ...] = ()

    found = [(path, sorted(axes)) for path, axes in numbers_of(New)]
    assert found == [("told", [Axis.POSITION]), ("forgotten", []), ("pairs", [Axis.POSITION]), ("pairs", [])]


def test_a_new_setting_is_changed_with_the_others() -> None:
    class New(Part):
        at: Position | None = None
        places: Positions = ()
        port: AsRead | None = None
        starboard: AsRead | None = None
        points: tuple[tuple[Position, Off, Height], ...] = ()
        share: Annotated[float, Axis.NONE] = 0.5

    own = New(at=100.0, places=(200.0, 300.0), port=7.0, points=((1.0, 2.0, 3.0),))
    turn = BoatChange({Axis.POSITION: lambda x: 1000.0 - x, Axis.OFF: lambda y: -y}, turned=True)
    assert turn.of(own) == New(at=900.0, places=(700.0, 800.0), starboard=7.0, points=((999.0, -2.0, 3.0),)), (
        "lists stay in order, port becomes starboard"
    )
    assert BoatChange({}).of(own) is own


def test_turned_everything_goes_to_the_other_end() -> None:
    job = fitted()
    other = job_turned(job, [("1", 500.0), ("2", 600.0)], None)
    hatch, egg, drawn = other.deck.openings
    assert (hatch.at, hatch.off) == (pytest.approx(LAST - 3560.0), -50.0)
    assert egg.forward == -0.2
    assert drawn.drawn[0] == (pytest.approx(LAST - 2000.0), 100.0)
    assert (other.deck.peak_bow, other.deck.peak_stern) == (200.0, 300.0)
    assert (other.inside.begins, other.inside.ends) == pytest.approx((LAST - 2600.0, LAST - 900.0))
    assert other.inside.bulkheads == pytest.approx((LAST - 3900.0, LAST - 700.0))
    assert other.release.spalls == pytest.approx((LAST - 4000.0, LAST - 2000.0, LAST - 800.0))
    assert other.veneers.master == pytest.approx(LAST - 1800.0)
    assert [layer.angle for layer in other.veneers.layers] == [-45.0, 90.0]
    assert other.trim.bases == pytest.approx((LAST - 500.0, LAST - 4000.0)), "in the order of their readings"
    assert other.trim.curve_at == pytest.approx((LAST, LAST - 2000.0))
    assert other.trim.curve_to == job.trim.curve_to
    (arc,), (eye,) = other.trim.arcs, other.trim.eye
    assert (arc.head, arc.side, arc.at) == ("stern quarter 1", Side.STARBOARD, pytest.approx(LAST - 120.0))
    assert (eye.head, eye.side) == ("mold 1", Side.PORT)
    back = job_turned(other, [("1", 500.0), ("2", 600.0)], None)
    assert back.deck == job.deck
    assert back.inside == job.inside
    assert back.trim == job.trim


def test_raised_every_height_goes_up_and_nothing_else() -> None:
    job = fitted()
    other = job_raised(job, 100.0)
    assert other.deck.ridge_height == 510.0
    assert other.inside.height == 200.0
    assert other.strips.master.height == 300.0
    assert other.trim.curve_to == (400.0, 350.0)
    assert other.molds.spall_above == 150.0, "above the waterline, which went up too"
    assert other.deck.openings == job.deck.openings
    assert other.deck.crown == job.deck.crown
    above = change(job, "trim", curve_seen=SeenFrom.ABOVE)
    assert job_raised(above, 100.0).trim.curve_to == job.trim.curve_to, "half-breadths"
    assert job_raised(other, -100.0).trim == job.trim


def test_scaled_what_is_the_boats_grows_and_what_is_the_shops_stays() -> None:
    job = fitted()
    other = job_scaled(job, 2.0, 1.5, 1.25)
    hatch, egg, drawn = other.deck.openings
    assert (hatch.at, hatch.off, hatch.length, hatch.width) == (7120.0, 75.0, 800.0, 450.0)
    assert egg.length == 1640.0
    assert drawn.drawn[0] == (4000.0, -150.0)
    assert (other.deck.peak_bow, other.deck.crown, other.deck.crown_on) == (600.0, 1.25 * job.deck.crown, 750.0)
    assert (other.inside.height, other.inside.begins) == (125.0, 1800.0)
    assert other.release.spalls == (1600.0, 4000.0, 8000.0)
    assert other.molds.spall_above == 187.5
    assert other.trim.frames == 600.0
    assert other.trim.curve_to == (375.0, 312.5)
    assert other.trim.eye == job.trim.eye, "read on the hull as it was"
    for part in ("stock", "sheets", "stem", "outer", "beams", "laying", "form", "units"):
        assert getattr(other, part) == getattr(job, part)
    assert other.strips.width == job.strips.width
    assert other.deck.king_width == job.deck.king_width


def test_veneers_of_a_boat_that_is_turned_lie_where_they_lay() -> None:
    """Their areas from the bow aft are those from the stern forward, whatever way they run."""
    layers = (Layer(angle=45.0, width=150.0, shift=30.0), Layer(angle=-60.0, width=150.0))
    job = change(sedge(), "veneers", layers=layers, master=2500.0).in_step()
    stand = [(m.name, m.station) for m in Pipeline().shape(job).molds.molds]
    one, two = (Pipeline().value(own, LAYERS) for own in (job, job_turned(job, stand, None)))
    for own, other, off in zip(one, two, (600.0, 2000.0), strict=True):
        there = [v.area for v in own.veneers[::-1]]
        assert [v.area for v in other.veneers] == pytest.approx(there, abs=off), "mm²: a veneer is some 150 000"


def test_readings_belong_to_the_place_they_were_taken_at() -> None:
    """Frames spaced anew keep their names and stand elsewhere: what was read at one is not read at another."""
    job = change(linnet(), "trim", wanted=True, frames=350.0)
    plan = Pipeline().value(job, SHEER)
    frame = next(mark for mark in plan.marks if mark.name == "frame 2")
    arcs = (ArcReading(head=frame.name, side=Side.PORT, at=frame.station, radii=frame.radii[:3]),)
    job = change(job, "trim", arcs=arcs)
    (head,) = Pipeline().value(job, BOTH_SIDES).heads
    assert head.head == "frame 2"
    anew = change(job, "trim", frames=425.0)
    moved = Pipeline().value(anew, SHEER)
    assert any(mark.name == "frame 2" for mark in moved.marks)
    assert there((arcs[0].head, arcs[0].at), moved.marks) is None
    both = Pipeline().value(anew, BOTH_SIDES)
    assert not both.heads
    (said,) = [f for f in both.findings if f.code == "read-elsewhere"]
    assert f"{frame.station:g}" in said.text
    old = ArcReading(head="frame 2", side=Side.PORT, radii=frame.radii[:3])
    by_name = there((old.head, old.at), moved.marks)
    assert by_name is not None
    assert by_name.name == "frame 2", "of earlier versions: by its name"


def test_what_was_measured_on_molds_belongs_to_where_they_stood() -> None:
    """Molds spaced anew keep their numbers and stand elsewhere: surveys, what is left and ticks of one are not another's."""
    job = change(linnet(), "log", wanted=True, entries=())
    stand = job.molds.stations
    for number in (4, 9):
        job = mold_ticked(job, str(number), stand[number - 1], date(2031, 3, 1))
    assert [entry.molds for entry in job.log.entries] == [("4", "9")]
    before = Pipeline().run(job)
    assert {move.mold for move in before[SURVEYS][-1].moves} == {"4", "9"}
    done = {piece.task: piece.done for piece in before[WORK].pieces}
    assert done[Task.SETTING_UP] == 2
    # one mold more between the first two: every later number means the one before it now
    more = (stand[0], (stand[0] + stand[1]) / 2, *stand[1:])
    after = Pipeline().run(change(job, "molds", stations=more))
    assert {move.mold for move in after[SURVEYS][-1].moves} == {"5", "10"}
    assert {piece.task: piece.done for piece in after[WORK].pieces}[Task.SETTING_UP] == 2
    measured = [
        {row.station: round(row.measured, 3) for row in run[REPLAN].rows if row.port_more is not None} for run in (before, after)
    ]
    assert measured[0] == measured[1], "at the same places, under other numbers"
    assert len(measured[0]) == 5
    # all of them 60 mm farther aft: nothing was read there, whatever set-up it was
    (survey,) = job.surveys
    anywhere = job.model_copy(update={"surveys": (survey.model_copy(update={"on": None}),)})
    moved = Pipeline().run(change(anywhere, "molds", stations=tuple(x + 60.0 for x in stand)))
    judged = moved[SURVEYS][-1]
    assert not judged.moves
    assert sum(f.code == "read-elsewhere" for f in judged.findings) == len(stand)
    assert not moved[REPLAN].rows
    assert sum(f.code == "read-elsewhere" for f in moved[REPLAN].findings) == 5
    assert {piece.task: piece.done for piece in moved[WORK].pieces}[Task.SETTING_UP] == 0
    # and back again
    assert Pipeline().run(change(job, "molds", stations=stand))[SURVEYS][-1].moves == before[SURVEYS][-1].moves


def test_a_reading_typed_where_a_mold_stands_now_leaves_the_others() -> None:
    survey = Survey().with_value("4", "height_port", 75.0, 1200.0)
    moved = survey.with_value("4", "height_port", 80.0, 1300.0)
    assert [(r.mold, r.at, r.height_port) for r in moved.readings] == [("4", 1200.0, 75.0), ("4", 1300.0, 80.0)]
    renamed = moved.with_value("5", "height_starboard", 76.0, 1200.4)
    assert renamed.of("5", 1200.4).height_port == 75.0, "the same mold under another name"
    assert len(renamed.readings) == 2
    left = Planked(strips=20).with_row(GirthLeft(mold="4", at=1200.0, port=300.0))
    assert left.now("4", 1300.0).port is None
    assert left.now("7", 1200.0).port == 300.0
    assert len(left.with_row(GirthLeft(mold="4", at=1300.0, port=310.0)).left) == 2


def test_molds_that_were_measured_stay_when_the_table_has_other_stations() -> None:
    job = change(linnet(), "molds", stations=(), every=None)
    shape = Pipeline().shape(job)
    stand = [(m.name, m.station) for m in shape.molds.molds]
    assert job.surveys
    assert job_restationed(job, job.offsets, stand).molds.stations == tuple(x for _, x in stand)
    free = job.model_copy(update={"surveys": (), "planked": None, "printed": (), "layout": None})
    free = change(free, "log", entries=())
    assert job_restationed(free, job.offsets, stand).molds.stations == ()


def test_arcs_that_were_read_say_the_same_after_the_boat_is_turned() -> None:
    """Where arcs were swung from goes along, left to us or not; what was swung from the stemhead is not swung from another."""
    job = change(unworked(linnet()), "trim", wanted=True)
    plan = Pipeline().value(job, SHEER)
    mark = next(m for m in plan.marks if m.of_mold == "5")
    off = (2.0, -1.5, 0.0)
    arcs = tuple(
        ArcReading(head=mark.name, side=side, at=mark.station, radii=tuple(r + e for r, e in zip(mark.radii, off, strict=True)))
        for side in Side
    )
    job = change(job, "trim", arcs=arcs)
    stand = [(m.name, m.station) for m in Pipeline().shape(job).molds.molds]
    other = job_turned(job, stand, None, [float(base[0]) for base in plan.bases])
    one, two = (Pipeline().value(own, BOTH_SIDES).heads[0] for own in (job, other))
    for side, same in ((one.port, two.starboard), (one.starboard, two.port)):
        assert side is not None
        assert same is not None
        assert same.errors[:2] == pytest.approx(side.errors[:2], abs=0.2)
        assert len(same.errors) == 2, "the stemhead is at the stern now, and off the keel"

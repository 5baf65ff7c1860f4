"""The form that veneers are laid on: ribbands over molds, stringers in frames. Truth: tubes and cones, and the molds' own girths
summed by hand."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.geometry.polyline import run_of, runs_along
from hollow_keel.core.job import DeckSettings, FormSettings, Job, Layer, MoldSettings, VeneerSettings
from hollow_keel.core.molds.stages import MOLDS as MOLD_STAGE
from hollow_keel.core.offsets.table import OffsetRow, OffsetsTable
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.planking.mechanics import Handling
from hollow_keel.core.settings.deck_choices import DeckFrom, DeckMolds
from hollow_keel.core.settings.mold_choices import StringerNotches
from hollow_keel.core.settings.veneer_choices import FormKind
from hollow_keel.core.veneers.ribbands import Form
from hollow_keel.core.veneers.stages import FORM, LAYER_SKIN
from hollow_keel.core.veneers.sticks import butts_of, sticks_of
from hollow_keel.demo.jobs import demo_job
from tests.shapes import round_hull

RADIUS, LENGTH = 700.0, 3000.0
STATIONS = np.linspace(0.0, LENGTH, 11)
MOLDS = tuple(np.linspace(300.0, 2700.0, 9).tolist())


def formed(job: Job, **form: object) -> Job:
    job = change(job, "veneers", layers=(Layer(thickness=3.0), Layer(thickness=3.0, angle=-45)))
    return change(job, "form", **{"kind": FormKind.RIBBANDS, **form}).in_step()


def form_of(job: Job) -> Form:
    return Pipeline().results(job, [FORM])[FORM]


def tube(**form: object) -> Job:
    return formed(Job(offsets=round_hull(lambda _: RADIUS, STATIONS), molds=MoldSettings(stations=MOLDS)), **form)


def test_ribbands_of_a_tube_lie_straight_and_even() -> None:
    """Molds of radius 700 - 6 - 20: a quarter of its round divided by the fewest steps of at most 150 mm."""
    form = form_of(tube())
    girth = (RADIUS - 26.0) * np.pi / 2
    count = int(np.ceil(girth / 150.0))
    *hull, past = form.ribbands
    assert len(hull) == count
    assert past.past_sheer
    assert hull[-1].at_sheer
    for k, ribband in enumerate(hull):
        assert ribband.length == pytest.approx(LENGTH + 120.0, abs=0.3)  # 60 mm past both transoms
        assert [c.mold for c in ribband.crossings] == [str(n + 1) for n in range(len(MOLDS))]
        for c in ribband.crossings:
            assert c.from_keel == pytest.approx((k + 1) * girth / count, abs=0.1)
            assert c.from_sheer == pytest.approx(girth - (k + 1) * girth / count, abs=0.1)
        assert ribband.behaviour.grade is Handling.HAND
    assert [c.from_sheer for c in past.crossings] == pytest.approx([-60.0] * len(MOLDS), abs=0.1)


def test_the_form_ends_in_a_mold_past_the_transom() -> None:
    """Of a tube it is a quarter of a round of 700 - 26 mm, 60 mm past each transom, and as deep as the form is past the sheer."""
    ends = dict(form_of(tube()).ends)
    assert set(ends) == {"bow", "stern"}
    stern = ends["stern"]
    assert (stern.low, stern.high) == pytest.approx((LENGTH + 60.0, LENGTH + 60.0), abs=0.1)
    assert stern.off_plane < 0.05
    radius = RADIUS - 26.0
    below = stern.edge[stern.edge[:, 1] < radius]
    assert np.hypot(below[:, 0], radius - below[:, 1]) == pytest.approx(np.full(len(below), radius), abs=0.1)
    assert stern.edge[-1] == pytest.approx([radius, radius + 60.0], abs=0.2)


def test_no_mold_is_wanted_past_stems() -> None:
    assert form_of(formed(demo_job("pipit"))).ends == ()
    assert [end for end, _ in form_of(formed(demo_job("linnet"))).ends] == ["stern"]


def test_a_closer_spacing_takes_more_ribbands_and_more_sticks() -> None:
    wide, close = form_of(tube()), form_of(tube(spacing=75.0, stick=2000.0))
    assert (len(wide.ribbands), len(close.ribbands)) == (9, 16)
    assert all(r.pieces == 2 for r in close.ribbands)  # 3120 from sticks of 2000
    assert close.sticks == 2 * 2 * len(close.ribbands)  # a whole one and 1120 mm of another: no two rests from one


def test_sticks_are_counted_as_they_are_cut() -> None:
    assert sticks_of([4000.0, 4000.0], 4000.0) == 2
    assert sticks_of([5000.0, 5000.0, 5000.0, 5000.0], 4000.0) == 5  # four whole, four rests of 1000 from one
    assert sticks_of([3000.0, 1500.0, 900.0], 4000.0) == 2
    assert [butts_of(length, 4000.0) for length in (900.0, 4000.0, 4000.5, 4100.0, 8100.0)] == [0, 0, 0, 1, 2]


@pytest.mark.parametrize("name", ["sedge", "linnet", "pipit"])
def test_ribbands_cross_molds_where_the_molds_own_girths_say(name: str) -> None:
    """The place so far round a mold's edge is on the ribband; both girths together are the mold's."""
    job = formed(demo_job(name))
    results = Pipeline().results(job, [FORM, MOLD_STAGE])
    form, molds = results[FORM], {m.name: m for m in results[MOLD_STAGE].molds}
    assert sum(r.at_sheer for r in form.ribbands) == 1
    for ribband in form.ribbands:
        for c in ribband.crossings:
            edge = molds[c.mold].edge.points
            run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(edge, axis=0).T))])
            assert c.from_keel + c.from_sheer == pytest.approx(run[-1], abs=1e-6)
            if ribband.past_sheer:
                assert c.from_sheer < -job.form.width
                continue
            marked = [np.interp(c.from_keel, run, edge[:, k]) for k in (0, 1)]
            x = molds[c.mold].station
            there = [np.interp(x, ribband.line[:, 0], ribband.line[:, k]) for k in (1, 2)]
            assert np.hypot(*np.subtract(marked, there)) < 0.5
            if ribband.at_sheer:
                assert c.from_sheer == pytest.approx(0.0, abs=0.05)


def test_ribbands_that_come_too_near_stop_at_a_mold() -> None:
    """A cone whose girth shrinks from 1100 to 110 mm: where ribbands would lie less than their width and 10 mm apart, half of
    them stop, and those that stay are at least so far apart."""
    table = round_hull(lambda x: 70.0 + 630.0 * x / LENGTH, STATIONS)
    job = formed(Job(offsets=table, molds=MoldSettings(stations=MOLDS)), width=25.0)
    form = form_of(job)
    own = [r for r in form.ribbands if not r.past_sheer]
    short = [r for r in own if len(r.crossings) < len(MOLDS)]
    assert 0 < len(short) < len(own)
    assert own[-1] not in short
    for name in {c.mold for r in own for c in r.crossings}:
        rounds = sorted(c.from_keel for r in own for c in r.crossings if c.mold == name)
        assert min(np.diff(rounds), default=99.0) >= 34.0


def test_stringers_run_through_the_notches_of_the_frames() -> None:
    job = change(demo_job("sedge"), "inside", stringers=(0.35, 0.7), stringer_width=30.0, stringer_thickness=22.0)
    job = change(job, "molds", stringer_notches=StringerNotches.SHARE)
    job = formed(job, kind=FormKind.STRINGERS)
    assert job.molds.strapping == 0.0
    form = form_of(job)
    assert len(form.ribbands) == 2
    for ribband, share in zip(form.ribbands, (0.35, 0.7), strict=True):
        assert len(ribband.crossings) == len(job.molds.stations)
        for c in ribband.crossings:
            assert c.from_keel == pytest.approx(share * (c.from_keel + c.from_sheer), abs=0.5)


def test_stringers_without_notches_are_asked_for() -> None:
    job = formed(demo_job("linnet"), kind=FormKind.STRINGERS)
    (finding,) = form_of(job).findings
    assert finding.code == "no-ribbands"


def test_the_molds_follow_the_form() -> None:
    job = formed(demo_job("linnet"), thickness=22.0)
    assert (job.molds.strapping, job.molds.beyond_sheer) == (22.0, 60.0)
    closed = change(job, "form", kind=FormKind.MOLDS).in_step()
    assert closed.molds.strapping == 0.0
    assert formed(demo_job("linnet"), thickness=22.0).in_step() == job
    assert FormSettings().kind is FormKind.MOLDS
    assert change(job, "veneers", **VeneerSettings().model_dump()).molds_of_layers == {}


def test_hard_ribbands_and_too_little_past_the_sheer_are_said() -> None:
    job = formed(change(demo_job("linnet"), "veneers", past_sheer=20.0), width=40.0)
    codes = {f.code for f in form_of(job).findings}
    assert codes == {"ribband-hard", "no-waste-ribband"}


CHINE, TOP = np.array([400.0, 120.0]), np.array([520.0, 420.0])


def chined(bottom: float = 0.0) -> Job:
    """A prism: keel at (0, 0), chine and sheer in straight lines; a transom at both ends."""
    rows: list[OffsetRow] = []
    points = [(np.zeros(2), "keel"), (CHINE / 2, "wl"), (CHINE, "chine"), ((CHINE + TOP) / 2, "wl"), (TOP, "sheer")]
    for x in STATIONS.tolist():
        rows += [OffsetRow(station=x, label=label, half_breadth=at[0], height=at[1]) for at, label in points]
    molds = MoldSettings(stations=MOLDS, false_bottom=bottom)
    return Job(offsets=OffsetsTable(rows=tuple(rows)), molds=molds)


@pytest.mark.parametrize("bottom", [0.0, 9.0])
def test_a_knuckle_s_ribband_ends_in_the_molds_corner(bottom: float) -> None:
    """Both faces of the mold lie so far inside the lines that they are offset by: their corner by plane geometry."""
    results = Pipeline().run(formed(chined(bottom)))
    form = results[FORM]
    assert {r.panel for r in form.ribbands} == {0, 1}
    (knuckle,) = [r for r in form.ribbands if r.at_knuckle]
    square = [np.array([own[1], -own[0]]) / np.hypot(*own) for own in (CHINE, TOP - CHINE)]
    deep = np.array([26.0 + bottom, 26.0])
    away = np.array([square[0] @ CHINE - deep[0], square[1] @ CHINE - deep[1]])
    corner = np.linalg.solve(np.array(square), away)
    for mold, crossing in zip(results[MOLD_STAGE].molds, knuckle.crossings, strict=True):
        assert crossing.mold == mold.name
        assert crossing.from_keel == pytest.approx(run_of(mold.edge.points, corner), abs=0.05)
    inside = [r for r in form.ribbands if r.panel == 0]
    rounds = [r.crossings[4].from_keel for r in inside]
    even = np.diff([rounds[0] - (rounds[1] - rounds[0]), *rounds])
    assert even == pytest.approx(even[0], abs=0.05), "even between the keel and the corner"
    (sheer,) = [r for r in form.ribbands if r.at_sheer]
    assert sheer.panel == 1
    assert [c.from_sheer for c in sheer.crossings] == pytest.approx([0.0] * len(MOLDS), abs=0.05)


def test_no_ribband_lies_past_the_corner_of_a_closed_mold() -> None:
    """Molds that go on under a deck end in the corner of both skins, below the sheer."""
    deck = DeckSettings(source=DeckFrom.CAMBER, molds=DeckMolds.CLOSED, skin=12.0, crown=60.0)
    job = change(tube(), "", deck=deck)
    results = Pipeline().run(job)
    form, molds = results[FORM], results[MOLD_STAGE].molds
    assert all(mold.deck is not None for mold in molds)
    assert not any(r.past_sheer for r in form.ribbands)
    assert "form-closed" in {f.code for f in results[LAYER_SKIN]}
    assert min(c.from_sheer for r in form.ribbands for c in r.crossings) > -0.1
    (sheer,) = [r for r in form.ribbands if r.at_sheer]
    for mold, crossing in zip(molds, sheer.crossings, strict=True):
        assert crossing.from_keel == pytest.approx(runs_along(mold.edge.points)[-1], abs=0.1)
        assert mold.edge.points[-1, 1] < -5.0, "well below the sheer"

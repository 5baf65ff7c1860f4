"""Arcs that copy marks to the other side, and a curve by eye. Truth: distances in space by hand, planted bulges, straight lines."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hollow_keel.core.change import change
from hollow_keel.core.hull.stages import HULL
from hollow_keel.core.job import Job, MoldSettings
from hollow_keel.core.pipeline import Pipeline
from hollow_keel.core.settings.readings import ArcReading, EyeReading, Side
from hollow_keel.core.sheer.both_sides import BothSides, by_three_arcs, sureness, swung
from hollow_keel.core.sheer.by_eye import ByEye
from hollow_keel.core.sheer.heads import SheerPlan
from hollow_keel.core.sheer.stages import BOTH_SIDES, BY_EYE, SHEER
from tests.shapes import round_hull, wigley

STATIONS = np.linspace(0.0, 3000.0, 13)
MOLDS = MoldSettings(skin=12.0, stations=tuple(np.linspace(300.0, 2700.0, 9).tolist()))
TUBE = change(Job(offsets=round_hull(lambda _: 700.0, STATIONS), molds=MOLDS), "trim", wanted=True)
HEAD = "mold 4"


def plan_of(job: Job) -> SheerPlan:
    return Pipeline().results(job, [SHEER])[SHEER]


def compared(*arcs: ArcReading) -> BothSides:
    return Pipeline().results(change(TUBE, "trim", arcs=arcs), [BOTH_SIDES])[BOTH_SIDES]


def read(side: Side, out: float = 0.0, add: tuple[float, float, float] = (0.0, 0.0, 0.0)) -> ArcReading:
    """The arcs of a mark that lies `out` of a tube's skin: straight out from its axis."""
    plan = plan_of(TUBE)
    mark = next(m for m in plan.marks if m.name == HEAD)
    way = np.array([0.0, *mark.outside]) / np.hypot(*mark.outside)
    place = np.array([mark.station, *mark.outside]) + out * way
    radii = [float(np.linalg.norm(place - base)) + more for base, more in zip(plan.bases, add, strict=True)]
    return ArcReading(head=HEAD, side=side, radii=(radii[0], radii[1], radii[2]))


def test_three_arcs_meet_in_one_place() -> None:
    rng = np.random.default_rng(5)
    for _ in range(50):
        bases = [np.array([x, 0.0, z]) for x, z in rng.uniform(-1000, 1000, (3, 2))]
        place = rng.uniform(-800, 800, 3)
        place[1] = abs(place[1]) + 50.0
        found = by_three_arcs(bases, [float(np.linalg.norm(place - base)) for base in bases])
        assert found == pytest.approx(place, abs=1e-5)


def test_arcs_from_one_line_or_too_short_meet_nowhere() -> None:
    line = [np.array([x, 0.0, 0.1 * x]) for x in (0.0, 700.0, 2000.0)]
    assert by_three_arcs(line, [900.0, 800.0, 1500.0]) is None
    assert by_three_arcs([*line[:2], np.array([0.0, 0.0, 900.0])], [100.0, 100.0, 100.0]) is None


def test_how_sure_arcs_are_is_what_reading_errors_come_to() -> None:
    """Against a few thousand readings with errors of 1 mm."""
    bases = [np.array([200.0, 0.0, 0.0]), np.array([2600.0, 0.0, 50.0]), np.array([0.0, 0.0, 900.0])]
    place, out = np.array([1200.0, 500.0, 600.0]), np.array([0.0, 0.8, 0.6])
    exact = np.array([np.linalg.norm(place - base) for base in bases])
    rng = np.random.default_rng(8)
    off = [
        out @ (by_three_arcs(bases, exact + rng.normal(0, 1.0, 3)) - place)  # type: ignore[operator]
        for _ in range(4000)
    ]
    assert sureness(bases, place, out) == pytest.approx(float(np.std(off)), rel=0.05)


def test_arcs_of_one_side_find_the_mark_of_the_other() -> None:
    """On Wigley's hull, looked for from 40 mm off: the mirrored mark within a tenth of a millimetre."""
    job = change(Job(offsets=wigley(), molds=MoldSettings(stations=(1000.0, 2000.0, 2900.0))), "trim", wanted=True)
    results = Pipeline().results(job, [SHEER, HULL])
    plan, surface = results[SHEER], results[HULL].panels[-1].surface
    assert len(plan.marks) == 3
    for mark in plan.marks:
        place = np.array([mark.station, *mark.outside])
        found = swung(surface, plan.bases, mark.radii, place + np.array([30.0, -10.0, -25.0]))
        assert found == pytest.approx(place, abs=0.1)
    far = np.array([0.0, 100.0, 0.0])
    assert swung(surface, plan.bases, (10.0, 10.0), far) is None


@pytest.mark.parametrize("bulge", [5.0, -5.0, 20.0])
def test_a_bulge_on_one_side_is_reported(bulge: float) -> None:
    (head,) = compared(read(Side.PORT), read(Side.STARBOARD, bulge)).heads
    assert head.differs == pytest.approx(bulge, rel=0.1)
    assert head.port is not None
    assert head.port.out == pytest.approx(0.0, abs=0.05)
    assert head.starboard is not None
    assert (head.starboard.up, head.starboard.aft) == pytest.approx((0.0, 0.0), abs=0.1)


def test_a_bulge_that_matters_is_a_finding_with_its_side() -> None:
    own = compared(read(Side.PORT, 20.0), read(Side.STARBOARD))
    assert [finding.code for finding in own.findings] == ["sides-differ"]
    assert own.heads[0].verdict == "fuller to port"
    alike = compared(read(Side.PORT), read(Side.STARBOARD))
    assert (alike.findings, alike.heads[0].verdict.startswith("alike")) == ((), True)


def test_the_arc_that_is_read_wrong_is_named() -> None:
    own = compared(read(Side.PORT), read(Side.STARBOARD, add=(0.0, 60.0, 0.0)))
    (finding,) = own.findings
    assert finding.code == "arc-wrong"
    assert finding.where == HEAD
    assert "starboard" in finding.text
    assert "longer" in finding.text
    assert own.heads[0].verdict == "read again"
    assert own.heads[0].differs is None


def test_arcs_that_do_not_meet_are_said() -> None:
    own = compared(read(Side.PORT, add=(-500.0, -500.0, -500.0)))
    assert [finding.code for finding in own.findings] == ["arcs-miss"]


def test_two_arcs_alone_tell_no_shape() -> None:
    whole = read(Side.PORT)
    (head,) = compared(whole.model_copy(update={"radii": (*whole.radii[:2], None)}), read(Side.STARBOARD)).heads
    assert head.differs is None
    assert head.verdict == "read the third arc on both sides"


def test_arcs_from_one_line_say_that_they_do_not_tell() -> None:
    job = change(TUBE, "trim", bases=(300.0, 2500.0, 1400.0), arcs=(read(Side.PORT), read(Side.STARBOARD)))
    (head,) = Pipeline().results(job, [BOTH_SIDES])[BOTH_SIDES].heads
    assert (head.differs, head.verdict) == (None, "these places do not tell the shape")
    assert head.sure > 1e5 or math.isinf(head.sure)


def test_of_more_than_three_places_the_first_three_are_read() -> None:
    job = change(TUBE, "trim", bases=(300.0, 2500.0, 1400.0, 900.0), arcs=(read(Side.PORT), read(Side.STARBOARD)))
    (head,) = Pipeline().results(job, [BOTH_SIDES])[BOTH_SIDES].heads
    assert head.verdict == "these places do not tell the shape"


def test_arcs_at_a_head_that_is_gone_are_kept_and_said() -> None:
    own = compared(ArcReading(head="mold 99", side=Side.PORT, radii=(1.0, 2.0, 3.0)))
    assert [finding.code for finding in own.findings] == ["read-elsewhere"]


# -- by eye -------------------------------------------------------------------------------------------------


def eye_of(heights: dict[str, float], side: Side = Side.PORT, both: bool = False, *more: EyeReading) -> ByEye:
    own = tuple(EyeReading(head=head, side=side, height=height) for head, height in heights.items())
    return Pipeline().results(change(TUBE, "trim", eye=(*own, *more), eye_both=both), [BY_EYE])[BY_EYE]


LINE = {f"mold {k}": 500.0 - 20.0 * k for k in range(1, 6)}


def test_a_batten_through_nails_on_a_line_is_that_line() -> None:
    eye = eye_of(LINE)
    assert (eye.end, eye.side, eye.turns, eye.findings) == ("bow", Side.PORT, 0, ())
    assert [nail.off for nail in eye.nails[1:-1]] == pytest.approx([0.0] * 3, abs=1e-6)
    assert (eye.nails[0].off, eye.nails[-1].off) == (None, None)
    for far, height in eye.batten.tolist():
        assert height == pytest.approx(500.0 - 20.0 * far / 300.0, abs=1e-6)
    assert [place.head for place in eye.places] == list(LINE)


def test_the_nail_that_spoils_the_sweep_is_named() -> None:
    eye = eye_of({**LINE, "mold 3": LINE["mold 3"] + 9.0})
    worst = max(eye.nails, key=lambda nail: abs(nail.off or 0.0))
    assert (worst.head, worst.off) == ("mold 3", pytest.approx(9.0))
    assert [(f.code, f.where) for f in eye.findings] == [("eye-nail", "mold 3")]
    assert eye.turns == 2


def test_other_corners_are_held_against_the_first() -> None:
    """The stern's heads, as far from the stern as the bow's are from the bow, have the same heights; starboard is read 6 low."""
    low = EyeReading(head="mold 2", side=Side.STARBOARD, height=LINE["mold 2"] - 6.0)
    eye = eye_of(LINE, Side.PORT, True, low)
    stern = {place.head: place for place in eye.places if place.end == "stern"}
    assert stern["mold 8"].height == pytest.approx(LINE["mold 2"], abs=1e-6)
    bow = next(p for p in eye.places if p.head == "mold 2" and p.end == "bow")
    assert (bow.port, bow.starboard) == pytest.approx((0.0, -6.0))
    assert [(f.code, f.where) for f in eye.findings] == [("eye-corners", "mold 2")]


def test_two_heights_are_too_few_for_a_batten() -> None:
    eye = eye_of({"mold 1": 400.0, "mold 2": 380.0})
    assert [finding.code for finding in eye.findings] == ["eye-few"]
    assert len(eye.batten) == 0
    assert len(eye.nails) == 2

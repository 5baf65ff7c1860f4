"""What a survey says: the datum that all readings share, which molds are out, which way each is to be moved, and why.

A mold is a rigid body: its readings give how far it stands along, across and up from where it should, and how it is
turned. What all molds share (everything 3 mm high, a beam that sags) is the datum, not an error of each. Grades are common
practice, no source: under a sixty-fourth of an inch never matters, a sixteenth will not show, an eighth is not ideal, half
an inch must be found.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..job import Job, SetupSettings
from ..molds.read_at import lost
from ..molds.stations import Mold
from ..rules import ACROSS_SWEEP, ALONG_SWEEP, NEVER_MM, TURN_SWEEP, WRONG_UNITS
from ..settings.survey import MeasuredOn, Reading, Survey
from .beam import Mark, SetUp
from .outliers import Judged, judge_row

FEW = 3
OTHER_LINE = "the distance from the strongback to the load waterline: they may have been measured from the other line"
OTHER_SHARE = 0.02
"""All heights together may be out by so much more or less than that, of it."""
OTHER_SET_UP = "other-set-up"


class Direction(StrEnum):
    """A way in which a mold can be out."""

    UP = "up"
    ACROSS = "across"
    ALONG = "along"
    ROLL = "roll"
    YAW = "yaw"
    PITCH = "pitch"


WORDS = {
    Direction.UP: ("down", "up"),
    Direction.ACROSS: ("to port", "to starboard"),
    Direction.ALONG: ("towards the zero", "away from the zero"),
    Direction.ROLL: ("its port side up", "its starboard side up"),
    Direction.YAW: ("its port side away from the zero", "its starboard side away from the zero"),
    Direction.PITCH: ("its keel end towards the bow", "its keel end towards the stern"),
}
"""How a mold is to be moved to mend a positive, a negative error."""


class Grade(StrEnum):
    """What an error comes to."""

    NEVER = "never matters"
    FAIRS = "will not show"
    NOT_IDEAL = "not ideal"
    MEND = "put right"


def grade_of(error: float, settings: SetupSettings) -> Grade:
    """The grade of an error in mm at the skin, by the builder's own limits."""
    size = abs(error)
    if size <= min(NEVER_MM, settings.fairs_below):
        return Grade.NEVER
    if size <= settings.fairs_below:
        return Grade.FAIRS
    return Grade.NOT_IDEAL if size <= settings.mend_above else Grade.MEND


@dataclass(frozen=True)
class Move:
    """A mold that is out: which way, by how much (mm at the skin, its sign that of the error), give or take `sure`, what
    mends it in words, and the likely cause where one is recognised."""

    mold: str
    direction: Direction
    error: float
    sure: float
    grade: Grade
    mend: str
    cause: str = ""


@dataclass(frozen=True)
class Row:
    """One direction over all molds that were measured in it: their names, places from zero, errors against plan, and what
    of them is the datum's and what their own, mm."""

    direction: Direction
    molds: tuple[str, ...]
    places: Array
    raw: Array
    judged: Judged


@dataclass(frozen=True)
class SurveyJudgement:
    """`moves`, the greatest first; `leave` molds that are out of place but need not be moved, with the reason; `rows` by
    direction; findings on readings that cannot be right."""

    moves: tuple[Move, ...]
    leave: tuple[Move, ...]
    rows: tuple[Row, ...]
    datum: tuple[str, ...]
    findings: tuple[Finding, ...]

    @property
    def elsewhere(self) -> bool:
        """Whether nothing is judged, for it was measured on another set-up."""
        return any(f.code == OTHER_SET_UP for f in self.findings)

    def error(self, mold: str, direction: Direction) -> float:
        """A mold's own error in a direction with the datum taken off, mm; 0 where it was not measured."""
        for row in self.rows:
            if row.direction is direction and mold in row.molds:
                return float(row.judged.error[row.molds.index(mold)])
        return 0.0


def judge_survey(survey: Survey, setup: SetUp, molds: tuple[Mold, ...], job: Job) -> SurveyJudgement:
    """Judge one round of measuring against the plan; against another set-up than it was measured on nothing is judged."""
    other = survey.on.differs(standing_on(setup, job.setup)) if survey.on is not None else ""
    if other:
        text = (
            f"These readings were taken on another set-up: the plan is now {other}. They are kept, and not judged against it. "
            "Go back to that set-up, or measure on this one."
        )
        said = Finding(OTHER_SET_UP, Weight.LOOK, "setup", f"survey {survey.name}", text)
        return SurveyJudgement((), (), (), (text,), (said,))
    findings: list[Finding] = []
    by_name = {m.name: m for m in molds}
    errors: dict[Direction, list[tuple[Mark, float]]] = {d: [] for d in Direction}
    for mark in setup.marks:
        reading = _sound(survey.of(mark.mold, mark.station), mark, findings)
        for direction, error in _displaced(reading, mark, by_name[mark.mold], setup, 4 * survey.noise):
            errors[direction].append((mark, error))
        if all(getattr(reading, f) is None for f in ("along_port", "along_starboard", "height_port", "height_starboard")):
            findings.append(_note("not-measured", mark.mold, "Not measured: nothing is said of this mold."))
    read = [(reading.mold, reading.at) for reading in survey.readings]
    findings = [*_gathered(findings), *_closing(survey, setup), *lost(read, molds, "setup", "Places and heights")]
    rows = tuple(_row(d, pairs, survey.noise) for d, pairs in errors.items() if pairs)
    findings += [step for row in rows if (step := _step_of(row)) is not None]
    found = [_move(row, k, by_name, job, survey.noise, setup) for row in rows for k in row.judged.out]
    found = _one_sided(found, 4 * survey.noise, job.setup)
    found.sort(key=lambda move: -abs(move.error))
    moves = tuple(m for m in found if m.grade in (Grade.MEND, Grade.NOT_IDEAL))
    leave = tuple(m for m in found if m not in moves)
    return SurveyJudgement(moves, leave, rows, tuple(_datum(rows, job.setup.fairs_below, setup)), tuple(findings))


def standing_on(setup: SetUp, settings: SetupSettings) -> MeasuredOn:
    """The set-up as it is, as a survey keeps it."""
    return MeasuredOn(
        strongback=settings.strongback,
        upright=settings.upright,
        zero_end=settings.zero_end,
        zero_at=setup.zero_at,
        level=setup.beam_level,
    )


def with_last_survey(job: Job, setup: SetUp | None, survey: Survey) -> Job:
    """The job with its last survey changed, or begun; it keeps the set-up that it is measured on."""
    kept = survey if setup is None else survey.measured_on(standing_on(setup, job.setup))
    return job.model_copy(update={"surveys": (*job.surveys[:-1], kept)})


def survey_findings(judged: SurveyJudgement) -> tuple[Finding, ...]:
    """What a survey says, as findings."""
    moves = [
        Finding("out", Weight.LOOK, "setup", f"mold {m.mold}", f"{m.mend}{': ' + m.cause if m.cause else ''}.")
        for m in judged.moves
    ]
    return (*moves, *judged.findings)


def _displaced(reading: Reading, mark: Mark, mold: Mold, setup: SetUp, slack: float) -> list[tuple[Direction, float]]:
    """Errors of a mold that its readings tell, mm; turns are given as mm at the skin's waterline, or at the keel."""
    found: list[tuple[Direction, float]] = []
    along = [v - mark.from_zero for v in (reading.along_port, reading.along_starboard) if v is not None]
    if along:
        found.append((Direction.ALONG, float(np.mean(along))))
    if len(along) == 2:
        found.append((Direction.YAW, (along[1] - along[0]) / 2))
    up = [v - mark.waterline_above for v in (reading.height_port, reading.height_starboard) if v is not None]
    if up:
        found.append((Direction.UP, float(np.mean(up))))
    rolls = [((up[1] - up[0]) / 2, 0.5)] if len(up) == 2 else []
    across = [v for v in (reading.centre_low, reading.centre_high) if v is not None]
    if len(across) == 2:
        turned = _roll_of_centreline(mold, setup)
        rolls += [(turned * (across[1] - across[0]), 2 * turned**2)] if turned else []
        if abs(across[1] - across[0]) > slack:
            across = [min(across, key=abs)]  # the rest of the other end is the turn
    if rolls:
        found.append((Direction.ROLL, _one_turn(rolls, slack)))
    if across:
        found.append((Direction.ACROSS, float(np.mean(across))))
    if reading.lean is not None:
        found.append((Direction.PITCH, reading.lean))
    return found


def _one_turn(told: list[tuple[float, float]], slack: float) -> float:
    """One turn out of what heights and centreline tell of it, each with its variance: their mean by how well they are known, or,
    where they contradict each other, the greater one."""
    if len(told) == 2 and abs(told[0][0] - told[1][0]) > slack * max(1.0, told[1][1] ** 0.5):
        return max((roll for roll, _ in told), key=abs)
    weight = sum(1 / spread for _, spread in told)
    return sum(roll / spread for roll, spread in told) / weight


def _roll_of_centreline(mold: Mold, setup: SetUp) -> float:
    """What a mold's starboard side stands up at the waterline, mm, for each mm that its centreline stands more to starboard near
    the sheer than near the keel. Turned starboard side up, what lies higher goes to port."""
    edge = mold.edge
    rise = setup.sense * float(edge.points[-1, 1] - edge.points[0, 1])
    out = float(edge.waterline[0]) if edge.waterline is not None else float(edge.points[:, 0].max())
    return -out / rise if abs(rise) > 1.0 else 0.0


def _row(direction: Direction, pairs: list[tuple[Mark, float]], noise: float) -> Row:
    places = np.array([mark.from_zero for mark, _ in pairs])
    raw = np.array([error for _, error in pairs])
    sweep = {Direction.ALONG: ALONG_SWEEP, Direction.ACROSS: ACROSS_SWEEP, Direction.UP: ACROSS_SWEEP}.get(direction, TURN_SWEEP)
    return Row(
        direction,
        tuple(mark.mold for mark, _ in pairs),
        places,
        raw,
        judge_row(places, raw, noise, sweep, steps=direction is Direction.ALONG),
    )


def _move(row: Row, k: int, molds: dict[str, Mold], job: Job, noise: float, setup: SetUp) -> Move:
    error, sure = float(row.judged.error[k]), float(row.judged.sure[k])
    mold = molds[row.molds[k]]
    low, high = WORDS[row.direction]
    way = low if error > 0 else high
    mend = (
        f"move it {mm(abs(error))} {way}"
        if row.direction in (Direction.UP, Direction.ACROSS, Direction.ALONG)
        else (f"turn it: {way} by {mm(abs(error))}")
    )
    return Move(
        mold.name,
        row.direction,
        error,
        sure,
        grade_of(error, job.setup),
        mend,
        _cause(row, k, mold, job, max(3 * sure, 3 * noise), setup),
    )


def _cause(row: Row, k: int, mold: Mold, job: Job, slack: float, setup: SetUp) -> str:
    """A cause whose known length the error matches within `slack` mm; empty where none does."""
    direction, error, shared = row.direction, float(row.judged.error[k]), float(row.judged.sweep[k])
    if direction in (Direction.ROLL, Direction.YAW) and abs(shared) > slack / 2 and abs(error + 2 * shared) <= slack:
        return "the opposite of what all others read: port and starboard may have been written the wrong way round"
    if direction is Direction.UP:
        return _height_cause(error, job, slack, setup)
    if direction is Direction.ALONG and abs(abs(error) - mold.thickness) <= min(slack, 0.25 * mold.thickness):
        return "one sheet's thickness: the wrong face may stand on the mark, or the mold is turned end for end"
    return {
        Direction.ROLL: "one side only: a foot or a bracket is not flush",
        Direction.YAW: "not square to the centreline: check it with two equal diagonals",
    }.get(direction, "")


def _height_cause(error: float, job: Job, slack: float, setup: SetUp) -> str:
    """Why a mold stands too high or too low: what fits its error best, by known lengths before what is only likely."""
    size, spacing, spall = abs(error), job.molds.mark_waterlines, job.molds.spall_above
    if _other_line(error, slack, setup):
        return OTHER_LINE
    if spall and abs(size - abs(spall)) <= slack:
        return "the distance from the waterline to the cross spall's line: the wrong line may have been used"
    if spacing and size > spacing / 2 and abs(size - spacing * round(size / spacing)) <= slack:
        return "a whole number of the other waterlines marked on it: the wrong line may have been used"
    if size > job.setup.mend_above:
        return "both sides alike: its legs or its hole are cut " + ("long" if error > 0 else "short")
    return ""


def _one_sided(found: list[Move], slack: float, settings: SetupSettings) -> list[Move]:
    """A mold as much too high as it is rolled stands wrong on one side only: one move mends both."""
    ups = {m.mold: m for m in found if m.direction is Direction.UP}
    rolls = {m.mold: m for m in found if m.direction is Direction.ROLL}
    merged: list[Move] = []
    for move in found:
        up, roll = ups.get(move.mold), rolls.get(move.mold)
        both = up is not None and roll is not None and abs(abs(up.error) - abs(roll.error)) <= slack
        if not both or move.direction not in (Direction.UP, Direction.ROLL):
            merged.append(move)
        elif move is roll and up is not None:
            side = "starboard" if (roll.error > 0) == (up.error > 0) else "port"
            error = 2 * roll.error
            way = "lower" if up.error > 0 else "raise"
            merged.append(
                replace(move, error=error, grade=grade_of(error, settings), mend=f"{way} its {side} side by {mm(abs(error))}")
            )
    return merged


def _sound(reading: Reading, mark: Mark, findings: list[Finding]) -> Reading:
    """A reading without what cannot be: a length in another unit than the rest."""
    wrong: dict[str, None] = {}
    for names, plan in (
        (("along_port", "along_starboard"), mark.from_zero),
        (("height_port", "height_starboard"), mark.waterline_above),
    ):
        for name in names:
            value = getattr(reading, name)
            if value is None or abs(plan) < 20 or value == 0:
                continue
            ratio = value / plan
            factor = next((f for f in WRONG_UNITS if abs(ratio / f - 1) < 0.05), None)
            if factor is not None:
                times = f"{factor:g} times" if factor > 1 else f"a {1 / factor:g}th of"
                text = (
                    f"The {name.replace('_', ', ')} reading {mm(value)} is {times} what is planned ({mm(plan)}): "
                    "it is probably in another unit, and was left out. Type it again."
                )
                findings.append(_note("wrong-unit", mark.mold, text))
                wrong[name] = None
    return reading.model_copy(update=wrong) if wrong else reading


def _gathered(findings: list[Finding]) -> list[Finding]:
    """Many readings in another unit are one mistake, and so are many molds that nobody measured."""
    gathered: list[Finding] = []
    for code, text in (
        (
            "wrong-unit",
            "Their readings are many times what is planned, or a fraction of it: were they taken in another unit, or on "
            "another set-up? They were left out.",
        ),
        ("not-measured", "Not measured: nothing is said of these molds."),
    ):
        own = [f for f in findings if f.code == code]
        if len(own) <= FEW:
            gathered += own
            continue
        names = list(dict.fromkeys(f.where.removeprefix("mold ") for f in own))
        gathered.append(Finding(code, Weight.LOOK, "setup", f"molds {', '.join(names)}", text))
    return gathered


def _closing(survey: Survey, setup: SetUp) -> list[Finding]:
    """Whether the level still reads at the end what it read at the beginning."""
    mark = next(iter(setup.marks), None)
    first = survey.of(mark.mold, mark.station).height_port if mark is not None else None
    if survey.closing is None or first is None:
        return []
    drift = survey.closing - first
    if abs(drift) <= 3 * survey.noise:
        return []
    text = (
        f"The first height read {mm(first)} at the beginning and {mm(survey.closing)} at the end: the instrument was moved or its "
        "zero drifted. Set it up firmly and measure the heights again."
    )
    return [Finding("drift", Weight.LOOK, "setup", f"mold {setup.marks[0].mold}", text)]


def _other_line(error: float, slack: float, setup: SetUp) -> bool:
    """Whether heights are out by as much as the load waterline lies from the strongback."""
    return abs(setup.waterline_above) > slack and abs(abs(error) - abs(setup.waterline_above)) <= slack


def _datum(rows: tuple[Row, ...], shows: float, setup: SetUp) -> list[str]:
    """What all molds share, in words, where it is more than `shows` mm."""
    said: list[str] = []
    for row in rows:
        step = _step_of(row)
        if step is not None:
            said.append(step.text)
        if row.direction not in (Direction.UP, Direction.ACROSS) or len(row.molds) < 4:
            continue
        sweep = row.judged.sweep
        t = (row.places - row.places.mean()) / max(float(np.ptp(row.places)), 1.0)
        level = np.polynomial.Polynomial.fit(t, sweep, 1)
        bend = sweep - level(t)
        mean, size = float(sweep.mean()), float(np.ptp(bend))
        rise = float(level(t.max()) - level(t.min()))
        what = "high" if row.direction is Direction.UP else "to starboard"
        other = "low" if row.direction is Direction.UP else "to port"
        if abs(rise) > shows:
            said.append(_slope(row, rise))
        elif row.direction is Direction.UP and _other_line(mean, max(shows, OTHER_SHARE * abs(mean)), setup):
            said.append(f"All heights are out by {mm(abs(mean))}, {OTHER_LINE}. Measure them again from the strongback.")
        elif abs(mean) > shows:
            said.append(f"All molds stand {mm(abs(mean))} {what if mean > 0 else other}: that is the datum, and does no harm.")
        if size > shows:
            middle = float(bend[int(np.argmin(np.abs(t)))] - (bend[int(np.argmin(t))] + bend[int(np.argmax(t))]) / 2)
            word = ("sags" if middle < 0 else "bows up") if row.direction is Direction.UP else "is bent sideways"
            said.append(
                f"The strongback {word} by {mm(size)} in one smooth sweep: straighten it with wedges if it shall be as drawn; "
                "the planking will be fair over it either way."
            )
    return said


def _slope(row: Row, rise: float) -> str:
    """A datum that rises, or runs off, evenly from one end to the other."""
    order = np.argsort(row.places)
    first, last = row.molds[int(order[0])], row.molds[int(order[-1])]
    if row.direction is Direction.UP:
        low, high = (first, last) if rise > 0 else (last, first)
        return (
            f"The molds rise evenly by {mm(abs(rise))} from mold {low} to mold {high}: a slope of the strongback or of the line "
            "the heights were taken from. The hull's shape takes no harm; level the strongback before anything is levelled on it."
        )
    side = "starboard" if rise > 0 else "port"
    return (
        f"The molds run off evenly by {mm(abs(rise))} to {side} from mold {first} to mold {last}: the string does not lie over the "
        "strongback's middle. The hull's shape takes no harm."
    )


def _step_of(row: Row) -> Finding | None:
    """Where all molds from one on stand off together: a spacer."""
    if row.judged.step is None:
        return None
    first, off = row.judged.step
    way = "farther from" if off > 0 else "nearer to"
    text = (
        f"From mold {row.molds[first]} on everything stands {mm(abs(off))} {way} the zero: look between molds "
        f"{row.molds[first - 1]} and {row.molds[first]} for a spacer that is missing, doubled or of the wrong length."
    )
    return _note("spacer", row.molds[first], text)


def _note(code: str, mold: str, text: str) -> Finding:
    return Finding(code, Weight.LOOK, "setup", f"mold {mold}", text)

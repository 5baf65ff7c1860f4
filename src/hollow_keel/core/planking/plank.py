"""Strips laid over the half hull from a guide line: which courses there are, and all their strips together.

Each panel between knuckles is planked from its own upper or lower edge: a strip does not bend across a knuckle.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import ImpossiblePlan
from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..geometry.surface_line import SurfaceLine
from ..hull.build import Hull, Panel
from ..job import MasterLine, StripSettings
from ..settings.strip_choices import Course, Guide, MasterKind, RestWay, StripLayout
from ..stage import Tick
from ..words import counted, verb
from .closing import closing_findings
from .courses import Fields, Laid, Task, evenly, few, full_between, lay, parallel, seam_heights, share_line
from .covering import check_covering
from .edges import hull_end_names, limit_name
from .end_turns import fold_findings
from .guides import master_line
from .left_by_plan import course_in_work
from .limits import Bounds, Limit
from .mechanics import named_strips
from .off_line import off_line_findings
from .relaid import Drift, LaidSoFar
from .strips import Planking, Strip

CLOSE_CALL_MM = 3.0
MANY_PIECES = 3
"""A strip in two pieces is met on sound hulls, where a rockered keel cuts it in the middle."""
NOTHING_MM = 0.75
LEAST_SEAM = 4
"""Points that a seam needs to be drawn."""
MASTER = MasterLine()


@dataclass(frozen=True)
class Laying:
    """How strips are to be laid: everything that their lines depend on. Lengths mm.

    `width` is what a strip covers; `others` are the first, the last and the cover of strips, by their number from the guide, that
    cover something else, no two of them overlapping; `bottom` is how many come
    from the keel where both edges are guides (0: up to the turn of the bilge); `mixed_from`, `mixed_to` the positions
    between which mixed strips keep their width (None: where the girth is at least nine tenths of the greatest).
    """

    width: float
    guide: Guide = Guide.SHEER
    layout: StripLayout = StripLayout.PARALLEL
    master: MasterLine = MASTER
    least: float = 8.0
    bottom: int = 0
    mixed_from: float | None = None
    mixed_to: float | None = None
    others: tuple[tuple[int, int, float], ...] = ()

    def cover_of(self, number: int) -> float:
        """Width that strip `number` (from 1) of a course covers."""
        return next((width for first, last, width in self.others if first <= number <= last), self.width)


def laying_of(strips: StripSettings) -> Laying:
    """What the strips' lines depend on."""
    return Laying(
        strips.cover,
        strips.guide,
        strips.layout,
        strips.master,
        strips.least_width,
        strips.bottom,
        strips.mixed_from,
        strips.mixed_to,
        strips.other_covers,
    )


@dataclass(frozen=True)
class Work:
    """A plan that is worked to, and how the work has drifted from it."""

    plan: Planking
    drift: Drift

    def so_far(self, task: Task) -> LaidSoFar | None:
        """What is on of the course that the work is in; None for another."""
        course = self.plan.course(task.panel, task.course)
        on = tuple(s for s in course if s.number <= self.drift.laid)
        if not on or not on[-1].far or course_in_work(self.plan, self.drift.laid) != course:
            return None
        return LaidSoFar(on, self.drift)

    def done(self, task: Task) -> tuple[Strip, ...]:
        """The strips of a course that is wholly laid, numbered from 1; nothing for another."""
        course = self.plan.course(task.panel, task.course)
        done = bool(course) and course[-1].number <= self.drift.laid and self.so_far(task) is None
        return tuple(replace(s, number=k + 1) for k, s in enumerate(course)) if done else ()


def plank(
    hull: Hull,
    laying: Laying | float,
    guide: str = "sheer",
    tick: Tick = lambda _: None,
    work: Work | None = None,
    fields: Fields | None = None,
) -> Planking:
    """Lay strips over the half hull; a bare width lays parallel strips from the `guide` ("sheer" or "keel"). Where there is `work`,
    what is laid stays and the rest goes on from where it really lies.

    `fields` keeps distances that were worked out, for another plan of this very hull. `tick` is told a share 0..1 and may raise to
    cancel. Raises ImpossiblePlan.
    """
    if not isinstance(laying, Laying):
        laying = Laying(laying, Guide(guide))
    findings: list[Finding] = []
    strips: list[Strip] = []  # numbered through all courses
    limits: dict[tuple[int, Course], Array] = {}
    known = Fields() if fields is None else fields
    tasks = _tasks(hull, laying, known, tick)
    for turn, (task, most) in enumerate(tasks):
        share = 1.0 / len(tasks)
        laid = _lay(task, laying, most, lambda s, t=turn, p=share: tick((t + s) * p), work)  # type: ignore[misc]
        if most is not None:
            tasks[turn + 1 :] = [(_seamed(following, laid), m) for following, m in tasks[turn + 1 :]]
        else:
            far = task.bounds.far(task.upward)
            if work is None or work.drift.way is not RestWay.TAPER:
                _say_close_call(laid, laying, far.name, findings)
        limits[task.panel, task.course] = _limit_points(task)
        if laid.faded:
            findings.append(_faded_finding(laid.faded, len(strips)))
        findings += _pieces_finding(laid, len(strips))
        if laying.layout is StripLayout.FEW:
            findings += _few_finding(laid, len(strips))
        strips += [replace(s, number=len(strips) + 1 + k) for k, s in enumerate(laid.strips)]
    if len(hull.panels) > 1:
        findings.append(
            Finding(
                "knuckle-guide",
                Weight.INFORMATION,
                "planking",
                "the knuckle",
                "Strips do not bend across a knuckle: each part of the hull is planked from its own edge, "
                "and the knuckle is the guide of the part beyond it.",
            )
        )
    ends = {k: _end_lines(panel) for k, panel in enumerate(hull.panels)}
    planking = Planking(tuple(strips), laying.width, laying.guide.value, tuple(findings), limits, ends)
    wider = check_covering(hull, planking, laying.layout, laying.cover_of)
    return replace(
        planking, findings=(*findings, *wider, *closing_findings(planking), *fold_findings(planking), *off_line_findings(planking))
    )


def _bounds(hull: Hull, panel: Panel) -> Bounds:
    bow, stern = hull_end_names(hull)
    return Bounds(Limit(limit_name(panel.lower), 0.0), Limit(limit_name(panel.upper), 1.0), bow, stern)


def _tasks(hull: Hull, laying: Laying, fields: Fields, tick: Tick) -> list[tuple[Task, int | None]]:
    """The courses in the order they are laid, each with the number of strips it is to have (None: until its limit)."""
    panels = list(enumerate(hull.panels))

    def task(index: int, panel: Panel, upward: bool, guide: SurfaceLine | None = None) -> Task:
        line = (0.0 if upward else 1.0) if guide is None else guide
        return Task(panel.surface, line, upward, _bounds(hull, panel), index, fields)

    if laying.guide is Guide.KEEL:
        return [(task(k, p, True), None) for k, p in panels]
    if laying.guide is Guide.SHEER:
        return [(task(k, p, False), None) for k, p in reversed(panels)]
    if laying.guide is Guide.BOTH:
        found: list[tuple[Task, int | None]] = []
        if len(panels) == 1:
            found.append((task(0, hull.panels[0], True), laying.bottom or _to_the_bilge(hull.panels[0], laying.width)))
            found.append((task(0, hull.panels[0], False), None))
            return found
        found.append((task(0, hull.panels[0], True), None))
        return found + [(task(k, p, False), None) for k, p in reversed(panels[1:])]

    def master() -> tuple[int, SurfaceLine]:
        if laying.master.kind is not MasterKind.GIRTH:
            return _master(hull, laying.master)
        index = len(panels) - 1
        return index, share_line(task(index, hull.panels[index], False), 1 - laying.master.share, tick)

    index, line = fields.masters.value(laying.master, master)
    panel = hull.panels[index]
    below = [(task(k, p, False), None) for k, p in reversed(panels[:index])]
    above = [(task(k, p, True), None) for k, p in panels[index + 1 :]]
    return [(task(index, panel, False, line), None), *below, (task(index, panel, True, line), None), *above]


def _master(hull: Hull, master: MasterLine) -> tuple[int, SurfaceLine]:
    """The panel that the master line lies on, and the line. Raises ImpossiblePlan where it lies on none."""
    top = hull.panels[-1].surface
    even = np.linspace(0.0, 1.0, 401)
    sheer = top.points(even, np.ones_like(even))

    def height(x: Array) -> Array:
        result: Array = np.interp(x, sheer[:, 0], sheer[:, 2])
        return result

    refused: ImpossiblePlan | None = None
    for index in reversed(range(len(hull.panels))):
        try:
            return index, master_line(hull.panels[index].surface, master, height)
        except ImpossiblePlan as error:
            refused = refused or error
    assert refused is not None
    raise refused


def _to_the_bilge(panel: Panel, width: float) -> int:
    """How many strips from the keel come to the tightest turn amidships."""
    v = np.linspace(0.0, 1.0, 97)
    jet = panel.surface.jet(np.full_like(v, 0.5), v)
    speed = np.linalg.norm(jet.dv, axis=1)
    bend = -(jet.dvv * jet.normal).sum(axis=1) / speed**2
    run = np.concatenate([[0.0], np.cumsum((speed[1:] + speed[:-1]) / 2 * np.diff(v))])
    inner = (run > 0.1 * run[-1]) & (run < 0.9 * run[-1])
    at = run[inner][int(np.argmax(bend[inner]))]
    return max(1, round(float(at) / width))


def _lay(task: Task, laying: Laying, most: int | None, tick: Tick, work: Work | None) -> Laid:
    if work is not None and (done := work.done(task)):
        return Laid(done)
    so_far = work.so_far(task) if work is not None else None
    even = evenly(laying.width, laying.least)
    if laying.layout is StripLayout.PARALLEL or most is not None:
        rule = parallel(lambda k: laying.cover_of(k + 1))
    elif laying.layout is StripLayout.TAPERED:
        rule = even
        if so_far is not None:
            so_far = replace(so_far, drift=replace(so_far.drift, way=RestWay.TAPER))
    elif laying.layout is StripLayout.FEW:
        rule = few(laying.width, laying.least)
    else:
        rule = full_between(laying.width, laying.least, _places(task, laying))
    return lay(task, rule, tick, most, so_far, even)


def _places(task: Task, laying: Laying) -> tuple[float | None, float | None]:
    """Where mixed strips keep their width, as u; None where the girth itself is to tell."""
    even = np.linspace(0.0, 1.0, 201)
    x = task.surface.points(even, np.full_like(even, 0.5))[:, 0]

    def at(position: float | None) -> float | None:
        return None if position is None else float(np.interp(position, x, even))

    return at(laying.mixed_from), at(laying.mixed_to)


def _seamed(task: Task, laid: Laid) -> Task:
    """The course above one that ends in mid-hull: its strips end on that one's last edge."""
    from scipy.interpolate import CubicSpline

    edge = laid.strips[-1].far
    u, v = seam_heights(edge) if edge else (np.zeros(0), np.zeros(0))
    if len(u) < LEAST_SEAM:
        raise ImpossiblePlan("So many strips from the keel cover the whole hull: take fewer, or start from the keel alone.")
    return replace(task, bounds=replace(task.bounds, low=Limit("seam", 0.0, CubicSpline(u, v))))


def _end_lines(panel: Panel) -> tuple[Array, Array]:
    """The bow and the stern end of a panel, from its lower edge up, (401, 3) each."""
    even = np.linspace(0.0, 1.0, 401)
    bow, stern = (frozen(panel.surface.points(np.full_like(even, u), even)) for u in (0.0, 1.0))
    return bow, stern


def _limit_points(task: Task) -> Array:
    """The line that a course ends on, bow to stern, (401, 3)."""
    even = np.linspace(0.0, 1.0, 401)
    return frozen(task.surface.points(even, task.bounds.far(task.upward).at(even)))


def _faded_finding(numbers: tuple[int, ...], before: int) -> Finding:
    named = ", ".join(str(before + n) for n in numbers)
    return Finding(
        "stealers",
        Weight.INFORMATION,
        "planking",
        f"strips {named}",
        "These come to nothing before an end, so that the others stay wide enough: let them in as stealers, with a nib.",
    )


def _few_finding(laid: Laid, before: int) -> list[Finding]:
    own = [before + s.number for s in laid.strips if s.shaped]
    if not own:
        return []
    through = sum(s.runs_through for s in laid.strips)
    return [
        Finding(
            "few-tapered",
            Weight.INFORMATION,
            "planking",
            f"strips {own[0]} to {own[-1]}" if len(own) > 1 else f"strip {own[0]}",
            f"{'These are' if len(own) > 1 else 'This one is'} tapered and bring the run back: {through} of "
            f"{counted(len(laid.strips), 'strip')} {verb(len(laid.strips), 'runs', 'run')} from end to end. "
            "The others keep their width.",
        )
    ]


def _pieces_finding(laid: Laid, before: int) -> list[Finding]:
    own = [s for s in laid.strips if s.pieces >= MANY_PIECES]
    if not own:
        return []
    middle = own[len(own) // 2]
    line = max(middle.near or middle.far, key=lambda p: p.length, default=None)
    place = f" near position {mm(round(float(line.points[-1, 0])))}" if line else ""
    return [
        Finding(
            "in-pieces",
            Weight.LOOK,
            "planking",
            named_strips([before + s.number for s in own]),
            f"They come in three pieces or more: lines of equal distance run into themselves{place}, over a hollow or "
            "round a tight turn. Start from another line, taper the strips, or make the turn a knuckle (label it chine), so "
            "that each side of it is planked by itself.",
        )
    ]


def _say_close_call(laid: Laid, laying: Laying, far: str, findings: list[Finding]) -> None:
    if laying.layout is StripLayout.TAPERED:
        return
    whole = laying.cover_of(len(laid.strips))
    left = laid.strips[-1].width_max
    if min(left, whole - left) >= CLOSE_CALL_MM:
        return
    what = (
        "The last strip is next to nothing wide"
        if left < NOTHING_MM
        else f"The last strip is only {mm(round(left, 1))} wide at its widest"
        if left <= whole - left
        else f"The last strip is full to within {mm(round(whole - left, 1))}"
    )
    findings.append(
        Finding(
            "close-call",
            Weight.LOOK,
            "planking",
            f"the {far}",
            f"{what}: a small error decides whether it is needed. Have one more strip at hand.",
        )
    )

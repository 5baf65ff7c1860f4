"""What a plan leaves at a mold after so many strips: the open way from the last of them to the line it is worked towards."""

from __future__ import annotations

from ..geometry.polyline import run_of
from ..molds.stations import Mold
from ..settings.strip_choices import Course, Guide
from .crossings import edge_at
from .strips import Planking, Strip


def course_in_work(planking: Planking, laid: int) -> tuple[Strip, ...]:
    """The course that the work is in when `laid` strips a side are on; nothing where the plan has none."""
    if not planking.strips:
        return ()
    last = planking.strips[min(max(laid, 1), len(planking.strips)) - 1]
    course = planking.course(last.panel, last.course)
    following = planking.strips[last.number : last.number + 1]
    # the last of a course is on, and the next one runs the same way over the next part of the hull
    if last.number == laid and course[-1] is last and following and following[0].course is last.course:
        return planking.course(following[0].panel, following[0].course)
    return course


def left_as_planned(mold: Mold, laid: int, planking: Planking) -> float | None:
    """How much of a mold's edge a plan leaves after `laid` strips, along it, mm; None where they do not come there."""
    course = course_in_work(planking, laid)
    if not course:
        return None
    edge = mold.edge.points[::-1]
    whole = run_of(edge, edge[-1])
    downward = course[0].course is Course.DOWN
    done = [s for s in planking.strips if s.course is course[0].course and s.number <= laid]
    reached = _reached(done, mold, downward)
    if reached is None:
        return whole if planking.guide in (Guide.SHEER, Guide.KEEL) else None
    return abs(_end(mold, planking, course, whole, downward=downward) - reached)


def _end(mold: Mold, planking: Planking, course: tuple[Strip, ...], whole: float, *, downward: bool) -> float:
    """How far down a mold the line lies that a course is worked towards: the last edge of the course from the other edge of the
    hull where that is planked already, else the edge of the hull."""
    if planking.guide == Guide.BOTH and course[0].number > 1:
        below = [s for s in planking.strips if s.course is Course.UP]
        seam = _reached(below, mold, downward=False)
        return whole if seam is None else seam
    return whole if downward else 0.0


def _reached(done: list[Strip], mold: Mold, downward: bool) -> float | None:
    """How far down a mold the last of some strips comes."""
    edge = mold.edge.points[::-1]
    for strip in reversed(done):
        for pieces in (strip.far, strip.near):
            points = edge_at(pieces, mold.station)
            if len(points):
                runs = [run_of(edge, p[1:]) for p in points]
                if pieces is strip.far:
                    return max(runs) if downward else min(runs)
                whole = run_of(edge, edge[-1])  # its far edge has run out: there it covers all
                return whole if downward else 0.0
    return None

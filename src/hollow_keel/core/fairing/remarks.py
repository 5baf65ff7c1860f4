"""What looks wrong in the lines themselves: inflections nobody asked for, angles that run forth and back,
points in the wrong order, a station that seems to be missing."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.polyline import runs_along
from ..hull.build import Hull
from ..offsets.table import EndKind, Lines, Section

HOLLOW_MM = 1.5
"""Least depth of a bend off the chord of its neighbours that is more than rounding."""
TURN = np.radians(55)
"""A turn of a section within one point that is sharper than this is a knuckle or a mistake."""
ANGLE_BACK = np.radians(1.5)
"""A section angle may run back by this much: less cannot be seen."""
GAP = 1.8
"""A gap between stations so many times both its neighbours looks like a station left out."""


def remarks(hull: Hull) -> tuple[Finding, ...]:
    """Everything noticed about the lines, to be looked at."""
    lines = hull.lines
    return (*_inflections(lines), *_angles(lines), *_doubling(lines), *_missing(lines))


def _look(code: str, where: str, text: str) -> Finding:
    return Finding(code, Weight.LOOK, "fairing", where, text)


def _inflections(lines: Lines) -> Iterator[Finding]:
    tops = np.array([s.points[-1] for s in lines.stations])
    feet = np.array([s.points[0] for s in _on_keel(lines)])
    for name, points, column in (
        ("sheer in profile", tops, 2),
        ("sheer in the half-breadth plan", tops, 1),
        ("keel in profile", feet, 2),
    ):
        for at in turnings(points[:, [0, column]]):
            yield _look(
                "inflection",
                f"the {name}, near {mm(round(at))}",
                "It turns from hollow to round or back here. If that is not meant, look at the offsets on both sides.",
            )
    for name, end in (("bow", lines.bow), ("stern", lines.stern)):
        if end.kind is EndKind.STEM:
            for at in turnings(_along_chord(end.points[:, [0, 2]])):
                yield _look(
                    "inflection",
                    f"the {name} profile, {mm(round(at))} from its foot",
                    "It turns from hollow to round or back here. If that is not meant, look at its points.",
                )


def _on_keel(lines: Lines) -> list[Section]:
    """Stations that start on the keel, not on a raked end."""
    low, high = lines.bow.points[0, 0], lines.stern.points[0, 0]
    return [s for s in lines.stations if low <= s.x <= high]


def _along_chord(points: Array) -> Array:
    """Points (n, 2) as distance along the chord from first to last and distance off it."""
    chord = points[-1] - points[0]
    chord = chord / np.linalg.norm(chord)
    away = points - points[0]
    result: Array = np.column_stack([away @ chord, away[:, 0] * chord[1] - away[:, 1] * chord[0]])
    return result


def turnings(points: Array) -> list[float]:
    """Where, mm along its first coordinate, a line through points (n, 2), mm, turns from hollow to round, by more than rounding can
    explain.

    A bend is the depth of a point off the chord of its neighbours; two bends of opposite sign, each deeper than HOLLOW_MM, with
    nothing but slight ones between, are a turning half-way between them."""
    if len(points) < 4:
        return []
    x, y = points[:, 0], points[:, 1]
    share = (x[1:-1] - x[:-2]) / (x[2:] - x[:-2])
    depth = y[1:-1] - (y[:-2] + share * (y[2:] - y[:-2]))
    strong = np.flatnonzero(np.abs(depth) > HOLLOW_MM)
    return [float((x[a + 1] + x[b + 1]) / 2) for a, b in zip(strong[:-1], strong[1:], strict=True) if depth[a] * depth[b] < 0]


def _angles(lines: Lines) -> Iterator[Finding]:
    """The angle of the sections at three heights must open to amidships and close again, never forth and back."""
    sections = [s for s in _on_keel(lines) if not s.knuckles]
    if len(sections) < 5:
        return
    for share in (0.3, 0.5, 0.7):
        angle = np.array([_angle(s.points, share) for s in sections])
        for k in range(1, len(angle) - 1):
            forth, back = angle[k] - angle[k - 1], angle[k + 1] - angle[k]
            if forth * back < 0 and min(abs(forth), abs(back)) > ANGLE_BACK and _twice(angle, k):
                yield _look(
                    "angles",
                    f"station {mm(sections[k].x)}, at {share:.0%} of its girth",
                    f"The section's angle runs back and forth here ({_degrees(angle, k)}): a point near there stands out.",
                )


def _twice(angle: Array, k: int) -> bool:
    """Whether the angle turns at a neighbour too: turning once, at the fullest section, is as it should be."""
    steps = np.diff(angle[max(k - 2, 0) : k + 3])
    turns = np.sum((steps[:-1] * steps[1:] < 0) & (np.minimum(abs(steps[:-1]), abs(steps[1:])) > ANGLE_BACK))
    return bool(turns > 1)


def _degrees(angle: Array, k: int) -> str:
    return ", ".join(f"{np.degrees(a):.0f}°" for a in angle[k - 1 : k + 2])


def _angle(points: Array, share: float) -> float:
    """Angle of the section's chord about a share of its chord length, from upright."""
    run = runs_along(points) / 1.0
    run /= run[-1]
    a, b = (np.array([np.interp(share + step, run, points[:, c]) for c in (1, 2)]) for step in (-0.15, 0.15))
    return float(np.arctan2(b[0] - a[0], b[1] - a[1]))


def _doubling(lines: Lines) -> Iterator[Finding]:
    for section in lines.stations:
        steps = np.diff(section.points[:, 1:], axis=0)
        turn = np.abs(np.angle(np.exp(1j * np.diff(np.arctan2(steps[:, 1], steps[:, 0])))))
        for k in np.flatnonzero(turn > TURN) + 1:
            if k not in section.knuckles:
                y, z = section.points[k, 1:]
                yield _look(
                    "sharp-turn",
                    f"station {mm(section.x)}, half-breadth {mm(y)}, height {mm(z)}",
                    f"The section turns by {np.degrees(turn[k - 1]):.0f}° at this point. Are its rows in order, keel to "
                    "sheer? If it is a knuckle, label the point chine at every station it passes.",
                )


def _missing(lines: Lines) -> Iterator[Finding]:
    x = np.array([s.x for s in lines.stations])
    gaps = np.diff(x)
    for k in range(1, len(gaps) - 1):
        if gaps[k] > GAP * max(gaps[k - 1], gaps[k + 1]):
            yield _look(
                "missing-station",
                f"between stations {mm(x[k])} and {mm(x[k + 1])}",
                f"The gap of {mm(gaps[k])} is much wider than its neighbours: is a station left out, or a position wrong?",
            )

"""Sections of known shape and ways of measuring them, for the curves through their points: half-breadths and heights, mm."""

from __future__ import annotations

import numpy as np

Array = np.ndarray
DENSE = 4001


def from_arcs(heading: float, *parts: tuple[float, ...]) -> Array:
    """A dense line from the origin: each part a straight length (mm), or a radius (mm) and a turn (radians, left positive)."""
    points, here = [np.zeros((1, 2))], np.zeros(2)
    for part in parts:
        if len(part) == 1:
            ahead = np.array([np.cos(heading), np.sin(heading)])
            new = here + np.linspace(0, part[0], 801)[1:, None] * ahead
        else:
            radius, turn = part
            way = np.sign(turn)
            centre = here + way * radius * np.array([-np.sin(heading), np.cos(heading)])
            angle = heading + np.linspace(0, turn, 801)[1:]
            new = centre + way * radius * np.column_stack([np.sin(angle), -np.cos(angle)])
            heading += turn
        points.append(new)
        here = new[-1]
    return np.concatenate(points)


def families() -> dict[str, Array]:
    """Dense sections, keel to sheer."""
    turn = np.linspace(0, np.pi / 2, DENSE)
    x = np.linspace(0, 1, DENSE)
    jump = np.where(x < 0.5, 0.15 * x**2, 0.15 * x**2 + 1.4 * (x - 0.5) ** 2)
    deg = np.radians
    return {
        "circle": np.column_stack([500 * np.sin(turn), -500 * np.cos(turn)]),
        "ellipse": np.column_stack([800 * np.sin(turn), -300 * np.cos(turn)]),
        "flat and arc": from_arcs(0.0, (500.0,), (100.0, deg(90)), (350.0,)),
        "deadrise, arc and side": from_arcs(deg(12), (450.0,), (180.0, deg(70)), (300.0,)),
        "reverse garboard": from_arcs(deg(60), (250.0, -deg(48)), (200.0,), (300.0, deg(70)), (150.0,)),
        "flare": from_arcs(deg(20), (350.0, deg(55)), (900.0, -deg(25))),
        "tumblehome": from_arcs(deg(5), (900.0, deg(20)), (220.0, deg(85)), (120.0,)),
        "V": from_arcs(deg(28), (520.0,), (2000.0, deg(10))),
        "jump of curvature": np.column_stack([900 * x, 900 * jump]),
    }


def _run(line: Array) -> Array:
    return np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))])


def _at(line: Array, where: Array) -> Array:
    run = _run(line)
    return np.column_stack([np.interp(where, run, line[:, k]) for k in range(2)])


def _crowded(line: Array, count: int, share: float) -> Array:
    """Points closer where the line turns: `share` of the weight lies on the turn, the rest on the length."""
    run = _run(line)
    step = np.diff(line, axis=0)
    angle = np.unwrap(np.arctan2(step[:, 1], step[:, 0]))
    bend = np.abs(np.gradient(np.interp(run, (run[1:] + run[:-1]) / 2, angle), run))
    bend = np.convolve(bend, np.ones(41) / 41, "same")
    weight = np.concatenate([[0.0], np.cumsum((bend[1:] + bend[:-1]) / 2 * np.diff(run))])
    weight = share * weight / weight[-1] + (1 - share) * run / run[-1]
    return _at(line, np.interp(np.linspace(0, 1, count), weight, run))


def samplings(line: Array) -> dict[str, Array]:
    """Ways in which a builder measures a section."""
    total = _run(line)[-1]
    heights = np.linspace(line[0, 1], line[-1, 1], 9)
    rising = np.maximum.accumulate(line[:, 1]) + np.arange(len(line)) * 1e-9
    even = _at(line, np.linspace(0, total, 9))
    crowded = _crowded(line, 9, 0.85)
    return {
        "even girth, 9": even,
        "even girth, 13": _at(line, np.linspace(0, total, 13)),
        "even heights, 9": np.column_stack([np.interp(heights, rising, line[:, 0]), heights]),
        "few, 5": _at(line, np.linspace(0, total, 5)),
        "where it turns, 6": _crowded(line, 6, 0.75),
        "crowded, 9": crowded,
        "crowded, 11": _crowded(line, 11, 0.97),
        "even girth, 9, to 1 mm": np.round(even),
        "crowded, 9, to 1 mm": np.round(crowded),
        "even girth, 9, to 5 mm": np.round(even / 5) * 5,
        "crowded, 9, to 5 mm": np.round(crowded / 5) * 5,
    }

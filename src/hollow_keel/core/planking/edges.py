"""The edges of strips: pieces of lines on the hull, and what they ask of wood that is bent along them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..geometry.arrays import Array, BoolArray, frozen, ranges_of
from ..geometry.batch_spline import even_slopes
from ..hull.build import Hull
from ..offsets.table import EndKind
from ..rules import STRETCH_MM

EDGE_SAMPLES = 101
CLOSER = 0.66
"""An edge is drawn with so many places, by so much closer together at its ends than evenly."""
SHORTEST_PIECE_MM = 1.0
FINE = 8
"""Where a piece is cut in two is looked for at so many times as many places."""


def _shares() -> Array:
    even = np.linspace(0.0, 1.0, EDGE_SAMPLES)
    return frozen(even - CLOSER * np.sin(2 * np.pi * even) / (2 * np.pi))


SHARES = _shares()
"""Where they stand, as shares of its length."""


@dataclass(frozen=True)
class EdgePiece:
    """One unbroken piece of a strip's edge on the hull, bow end first.

    `points` (n, 3) mm at guide parameters `at` (n,); `g` their range; `starts`, `ends` where it ends. `run` (n,) is the
    length from the bow end, `curvatures` (n, 3) edge-set, bend and twist over STRETCH_MM about the points, per mm, with their signs
    (`asked_of`), `uv` (n, 2) their place on the surface; `edge_set`, `bend` and `twist` are the greatest sizes, ends and all.
    """

    points: Array
    at: Array
    g: tuple[float, float]
    length: float
    starts: str
    ends: str
    edge_set: float
    bend: float
    twist: float
    run: Array
    curvatures: Array
    uv: Array


BOW_ENDS = frozenset({"stem_bow", "transom", "open"})
STERN_ENDS = frozenset({"stem_stern", "transom", "open"})


def hull_end_names(hull: Hull) -> tuple[str, str]:
    """What strips end on at the bow and at the stern."""

    def end(kind: EndKind, stem: str) -> str:
        return {EndKind.STEM: stem, EndKind.TRANSOM: "transom", EndKind.OPEN: "open"}[kind]

    return end(hull.lines.bow.kind, "stem_bow"), end(hull.lines.stern.kind, "stem_stern")


def limit_name(edge: str) -> str:
    """What a strip ends on at an edge of a panel."""
    return "seam" if edge.startswith("chine") else edge


def where(piece: EdgePiece, wide: Callable[[Array], BoolArray]) -> list[EdgePiece]:
    """The parts of a piece at whose guide parameters, (n,), something is `wide`; where they end in mid-hull they end on a seam."""
    fine = np.linspace(0.0, piece.length, FINE * EDGE_SAMPLES)
    parts = ranges_of(wide(np.interp(fine, piece.run, piece.at))).tolist()
    if parts == [[0, len(fine)]]:
        return [piece]
    found = []
    for first, stop in parts:
        a, b = float(fine[first]), float(fine[stop - 1])
        if b - a > SHORTEST_PIECE_MM:
            starts = piece.starts if first == 0 else "seam"
            found.append(_between(piece, a, b, starts, piece.ends if stop == len(fine) else "seam"))
    return found


def _between(piece: EdgePiece, first: float, last: float, starts: str, ends: str) -> EdgePiece:
    """A piece from one place of its length to another, mm."""
    from scipy.interpolate import Akima1DInterpolator  # loads slowly: not before it is needed

    run = first + (last - first) * SHARES
    columns = np.column_stack([piece.points, piece.uv, piece.curvatures, piece.at])
    own = Akima1DInterpolator(piece.run, columns)(np.clip(run, 0.0, piece.run[-1]))
    at = np.maximum.accumulate(own[:, 8])
    most = np.abs(own[:, 5:8]).max(axis=0)
    return EdgePiece(
        points=frozen(own[:, :3]),
        at=frozen(at),
        g=(float(at[0]), float(at[-1])),
        length=last - first,
        starts=starts,
        ends=ends,
        edge_set=float(most[0]),
        bend=float(most[1]),
        twist=float(most[2]),
        run=frozen(run - first),
        curvatures=frozen(own[:, 5:8]),
        uv=frozen(own[:, 3:5]),
    )


def asked_of(points: Array, normals: Array, rays: Array, runs: Array) -> Array:
    """Edge-set, bend and twist of lines (lines, m, 3), m places each, told over STRETCH_MM about every place (at an end over the
    last so much of a line), per mm, (lines, m, 3): by how much the line that is drawn leaves its chord there, within the surface
    and square to it, and how far the surface turns under it.

    `normals` of the surface and `rays` away from the guide (lines, m, 3), `runs` along each line (lines, m), mm. Edge-set is
    positive where a line curves towards its guide, bend where the hull is convex. Source: any textbook of differential geometry
    (Darboux frame of a curve on a surface), its derivatives as central differences."""
    half = np.minimum(STRETCH_MM, runs[:, -1:]) / 2
    middle = np.clip(runs, half, runs[:, -1:] - half)
    along = _Along(np.concatenate([points, normals], axis=2), runs)
    behind, here, ahead = (along.at(middle + k * half) for k in (-1, 0, 1))
    tangent = unit(ahead[..., :3] - behind[..., :3])
    normal = here[..., 3:]
    normal = unit(normal - (normal * tangent).sum(axis=2, keepdims=True) * tangent)
    aside = np.cross(normal, tangent)
    aside *= np.where((aside * rays).sum(axis=2, keepdims=True) < 0, -1.0, 1.0)
    off = (ahead - 2 * here + behind)[..., :3] / half[..., None] ** 2
    turned = (ahead - behind)[..., 3:] / (2 * half[..., None])
    return np.stack([-(off * aside).sum(axis=2), -(off * normal).sum(axis=2), (turned * aside).sum(axis=2)], axis=2)


class _Along:
    """Values (lines, m, d) along lines with `runs` (lines, m), mm, as smooth curves over their places' numbers."""

    def __init__(self, values: Array, runs: Array) -> None:
        lines, m, d = values.shape
        rows = np.moveaxis(values, 1, 2).reshape(-1, m)
        self._slopes = np.moveaxis(even_slopes(rows, m - 1.0).reshape(lines, d, m), 1, 2)
        self._values, self._runs = values, runs

    def at(self, places: Array) -> Array:
        """At places (lines, k) along each, mm: (lines, k, d)."""
        rows = np.arange(len(places))[:, None]
        numbers = np.arange(self._runs.shape[1], dtype=float)
        at = np.array([np.interp(p, own, numbers) for p, own in zip(places, self._runs, strict=True)])
        k = np.minimum(at.astype(int), len(numbers) - 2)
        t = (at - k)[..., None]
        a, b, sa, sb = (self._values[rows, k], self._values[rows, k + 1], self._slopes[rows, k], self._slopes[rows, k + 1])
        rest = 1 - t
        result: Array = (1 + 2 * t) * rest * rest * a + t * rest * rest * sa + t * t * (3 - 2 * t) * b - t * t * rest * sb
        return result


def unit(rows: Array) -> Array:
    """Vectors of any shape (…, 3) and any unit, as directions."""
    result: Array = rows / np.maximum(np.linalg.norm(rows, axis=-1, keepdims=True), 1e-12)
    return result


def over_stretch(run: Array, values: Array) -> Array:
    """Means of values (n, d), told at places of a line as far along it as `run` (n,), mm, over STRETCH_MM of it about each place;
    at its ends over the last so much of it."""
    half = min(STRETCH_MM, float(run[-1])) / 2
    step = np.diff(run)
    rise = np.diff(values, axis=0)
    summed = np.concatenate([np.zeros((1, values.shape[1])), np.cumsum((values[1:] - rise / 2) * step[:, None], axis=0)])
    middle = np.clip(run, half, run[-1] - half)

    def upto(place: Array) -> Array:
        k = np.clip(np.searchsorted(run, place, side="right") - 1, 0, len(step) - 1)
        off = (place - run[k])[:, None]
        result: Array = summed[k] + off * (values[k] + off * rise[k] / (2 * step[k, None]))
        return result

    result: Array = (upto(middle + half) - upto(middle - half)) / (2 * half)
    return result

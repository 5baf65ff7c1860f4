"""The ends of the hull as pieces: the transom's true shape on both its faces, and the stem's bevels by height.

A raked transom is seen true when looked at square to its own plane: heights are then lengths along its rake. One that
is bent about its rake is unrolled. Its forward face is larger than its after face, or smaller, by what the hull narrows
over its thickness: between the two lies the wood that is bevelled away.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import ImpossiblePlan
from ..geometry.arrays import Array, frozen
from ..geometry.surface import TensorSurface, cross, dot
from ..hull.build import Hull
from ..offsets.table import End, EndKind
from ..rules import FLAT_MM, LANDING_MM

PER_PANEL = 61
POINT_MM = 1.0
"""An end of a panel that is no longer is a point."""
FOOT_SHARE = 0.02
"""In the very corner of a stem with the keel the surface says nothing of use about bevels."""


@dataclass(frozen=True)
class Transom:
    """A transom unrolled flat: (n, 2) half-breadths along it and lengths along the rake from its foot, keel to sheer.

    `after` and `forward` are its faces inside the planking; `planking` the outside of the skin on the after face.
    `rake` is its angle from upright, radians, positive where the sheer lies farther from the hull's middle;
    `bevels` (n,) the angle of its edge from square, radians, positive where the forward face is larger. `radius` is that
    of its after face where it is bent (None where it is flat): each face is unrolled on its own radius.
    """

    planking: Array
    after: Array
    forward: Array
    bevels: Array
    rake: float
    radius: float | None = None


@dataclass(frozen=True)
class _Face:
    """A plane, or a round face about an axis along the rake: its foot on the centreline, the way up it, the way out of
    the hull, and its radius (None: flat)."""

    foot: Array
    along: Array
    out: Array
    radius: float | None

    def inside(self, depth: float) -> _Face:
        """The face `depth` mm farther inside the hull."""
        radius = None if self.radius is None else self.radius - depth
        return _Face(self.foot - depth * self.out, self.along, self.out, radius)

    def miss(self, points: Array) -> tuple[Array, Array]:
        """How far points (n, 3) lie outside the face, mm, and how that grows with each coordinate, (n, 3)."""
        away = (points - self.foot) @ self.out
        if self.radius is None:
            return away, np.broadcast_to(self.out, points.shape)
        from_axis = np.column_stack([away + self.radius, points[:, 1]])
        far = np.linalg.norm(from_axis, axis=1)
        slope = from_axis / far[:, None]
        return far - self.radius, slope[:, :1] * self.out + slope[:, 1:] * np.array([0.0, 1.0, 0.0])

    def unrolled(self, points: Array) -> Array:
        """Points of the face (n, 3) as they lie when it is flat, (n, 2)."""
        y = points[:, 1]
        round_it = y if self.radius is None else self.radius * np.arcsin(np.clip(y / self.radius, -1, 1))
        return np.column_stack([round_it, (points - self.foot) @ self.along])


def transom(hull: Hull, skin: float, thickness: float, *, stern: bool = True) -> Transom:
    """The transom at one end of a hull, `thickness` mm thick, inside `skin` mm of planking.

    Raises ImpossiblePlan where that end has none, or one that is neither flat nor bent to one radius about its rake.
    """
    end = hull.lines.stern if stern else hull.lines.bow
    if end.kind is not EndKind.TRANSOM:
        raise ImpossiblePlan(f"This hull has no transom at its {'stern' if stern else 'bow'}.")
    outer = _face_of(end, stern)
    inner = outer.inside(thickness)
    planking, after, forward = [], [], []
    for panel in hull.panels:
        v = np.linspace(0.0, 1.0, PER_PANEL)
        planking.append(panel.surface.points(np.full_like(v, 1.0 if stern else 0.0), v))
        after.append(_on_face(panel.surface, v, skin, outer, stern))
        forward.append(_on_face(panel.surface, v, skin, inner, stern))
    first, second = outer.unrolled(np.concatenate(planking)), outer.unrolled(np.concatenate(after))
    third = inner.unrolled(np.concatenate(forward))
    bevels = np.arctan2(_outward(second, third), thickness)
    rake = float(np.arctan2(outer.along[0] if stern else -outer.along[0], outer.along[2]))
    return Transom(frozen(first), frozen(second), frozen(third), frozen(bevels), rake, outer.radius)


def transoms(hull: Hull, skin: float, thickness: float) -> list[tuple[Transom, bool]]:
    """All transoms of a hull that can be told, each with whether it is the stern's, that first: a pram has one at either end.
    Raises ImpossiblePlan where there is none, or as `transom` does where none can."""
    return told_transoms(hull, skin, thickness)[0]


def told_transoms(hull: Hull, skin: float, thickness: float) -> tuple[list[tuple[Transom, bool]], str]:
    """`transoms`, and why the other one cannot be told, in words. Raises ImpossiblePlan as that does."""
    ends = [stern for stern, end in ((True, hull.lines.stern), (False, hull.lines.bow)) if end.kind is EndKind.TRANSOM]
    if not ends:
        raise ImpossiblePlan("This hull has no transom.")
    found: list[tuple[Transom, bool]] = []
    refused: ImpossiblePlan | None = None
    for stern in ends:
        try:
            found.append((transom(hull, skin, thickness, stern=stern), stern))
        except ImpossiblePlan as error:
            refused = refused or error
    if refused is not None and not found:
        raise refused
    return found, "" if refused is None else str(refused)


def _face_of(end: End, stern: bool) -> _Face:
    """The face that a transom's edge lies in, of its own rake and radius."""
    x, y, z = end.points.T
    flat, *_ = np.linalg.lstsq(np.column_stack([np.ones_like(z), z]), x, rcond=None)
    if np.abs(flat[0] + flat[1] * z - x).max() <= FLAT_MM:
        return _Face(*_frame(flat[0], flat[1], z[0], stern), None)
    sign = 1.0 if stern else -1.0
    bowed, *_ = np.linalg.lstsq(np.column_stack([np.ones_like(z), z, y * y]), x, rcond=None)
    if -sign * float(bowed[2]) > 0:
        face = _round_fit(end, bowed, stern)
        if np.abs(face.miss(end.points)[0]).max() <= FLAT_MM:
            return face
    raise ImpossiblePlan(
        "This transom is neither flat nor bent to one radius: its true shape has to be taken from the hull itself."
    )


def _frame(start: float, slope: float, low: float, stern: bool) -> tuple[Array, Array, Array]:
    """Foot on the centreline, the way up and the way out of a face whose centreline stands at start + slope z."""
    along = np.array([slope, 0.0, 1.0]) / np.hypot(slope, 1.0)
    out = np.array([along[2], 0.0, -along[0]]) * (1.0 if stern else -1.0)
    return np.array([start + slope * low, 0.0, low]), along, out


def _round_fit(end: End, bowed: Array, stern: bool) -> _Face:
    """The round face nearest to the edge's points, from a first guess by a parabola (start, slope, bow)."""
    from scipy.optimize import least_squares

    sign, low = (1.0 if stern else -1.0), float(end.points[0, 2])
    radius = 1.0 / (2.0 * -sign * float(bowed[2]))

    def face(guess: Array) -> _Face:
        return _Face(*_frame(guess[0], guess[1], low, stern), float(np.exp(guess[2])))

    def misses(guess: Array) -> Array:
        return face(guess).miss(end.points)[0]

    first = [bowed[0], bowed[1], np.log(radius)]
    return face(least_squares(misses, first, x_scale=[1.0, 1e-3, 1e-3]).x)


def _on_face(surface: TensorSurface, v: Array, skin: float, face: _Face, stern: bool) -> Array:
    """Where the inner face of the skin comes to a face of the transom, (n, 3)."""
    u = np.full_like(v, 1.0 if stern else 0.0)
    for _ in range(6):
        jet = surface.jet(u, v)
        normal = jet.normal
        product = cross(jet.dv, jet.du)
        change = cross(jet.duv, jet.du) + cross(jet.dv, jet.duu)
        size = np.linalg.norm(product, axis=1, keepdims=True)
        turning = (change - normal * dot(normal, change)[:, None]) / size
        away, slope = face.miss(jet.point - skin * normal)
        u = np.clip(u - away / dot(jet.du - skin * turning, slope), -0.2, 1.2)
    jet = surface.jet(u, v)
    result: Array = jet.point - skin * jet.normal
    return result


def _outward(inner: Array, other: Array) -> Array:
    """How far each point of another line lies outside the nearest place of a line, mm; negative inside it."""
    along = np.gradient(inner, axis=0)
    along = along / np.linalg.norm(along, axis=1, keepdims=True)
    away = other - inner
    result: Array = away[:, 0] * along[:, 1] - away[:, 1] * along[:, 0]
    return result


def stem_bevels(hull: Hull, *, stern: bool = False, count: int = 13) -> list[tuple[float, float, float]]:
    """Along a stem's rabbet from its foot: (position, height, bevel), mm and radians. See rabbet_bevels."""
    points, angles = rabbet_bevels(hull, stern=stern, count=count)
    return [(float(x), float(z), float(angle)) for (x, _, z), angle in zip(points, angles, strict=True)]


def rabbet_bevels(hull: Hull, *, stern: bool, count: int) -> tuple[Array, Array]:
    """Points of a stem's rabbet (n, 3) from its foot, `count` on each panel, and the bevel at each (n,), radians.

    The bevel is the angle between the planking and the centre plane over the first LANDING_MM, measured square to the
    rabbet: the wood of the inner stem is cut to it on each side. Raises ImpossiblePlan where that end has no stem.
    """
    end = hull.lines.stern if stern else hull.lines.bow
    if end.kind is not EndKind.STEM:
        raise ImpossiblePlan(f"This hull has no stem at its {'stern' if stern else 'bow'}.")
    points, angles = [], []
    for number, panel in enumerate(hull.panels):
        v = np.linspace(FOOT_SHARE if number == 0 else 0.0, 1.0, count)
        jet = panel.surface.jet(np.full_like(v, 1.0 if stern else 0.0), v)
        if np.linalg.norm(np.diff(jet.point, axis=0), axis=1).sum() < POINT_MM:
            continue  # a flat bottom that comes to a point at the stem's foot has no rabbet
        rabbet = jet.dv / np.linalg.norm(jet.dv, axis=1, keepdims=True)
        step = LANDING_MM / np.linalg.norm(jet.du, axis=1)
        landing = panel.surface.points(1.0 - step if stern else step, v) - jet.point
        square = landing - dot(landing, rabbet)[:, None] * rabbet
        points.append(jet.point)
        angles.append(np.arcsin(np.clip(square[:, 1] / np.linalg.norm(square, axis=1), -1.0, 1.0)))
    return np.concatenate(points), np.concatenate(angles)

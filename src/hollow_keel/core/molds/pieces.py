"""The piece of sheet that is cut for a mold: outline and openings, as a whole or as one of two halves."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array, frozen
from ..job import MoldSettings, SetupSettings
from .choices import MoldForm
from .stations import Mold

LEAST_RING_MM = 25.0
"""A ring narrower than this breaks in the hand."""
LEAST_OPENING_MM2 = 2500.0
ROUND_MM = 12.0
"""Radius of the inner corners of a ring's opening: a saw turns there and a crack does not start."""
WEB_MM = 40.0
"""Wood left round the beam's hole in a ring."""


@dataclass(frozen=True)
class Piece:
    """A mold as it is cut, on its reference face: half-breadths to the right, heights up, mm.

    `outline` (n, 2) and each of `holes` are closed without repeating their first point. `half` tells one of two
    halves that meet on the centreline. Findings name what cannot be cut as asked.
    """

    mold: str
    outline: Array
    holes: tuple[Array, ...]
    half: bool
    findings: tuple[Finding, ...]

    @property
    def area(self) -> float:
        """Area of sheet, mm²."""
        return float(shapely.Polygon(self.outline, self.holes).area)


def make_piece(mold: Mold, settings: MoldSettings, setup: SetupSettings, beam_level: float) -> Piece:
    """The piece for a mold; `beam_level` is the height of the beam's lower edge in the hull's own heights, mm."""
    findings: list[Finding] = []
    edge = with_extra_depth(mold.edge.points, settings.beyond_sheer)
    whole = shapely.Polygon(np.concatenate([edge[::-1] * [-1.0, 1.0], edge]))
    if not whole.is_valid:
        whole = shapely.make_valid(whole)
    beam = shapely.box(
        -setup.beam_width / 2, beam_level, setup.beam_width / 2, beam_level + setup.beam_height
    )
    shape = whole
    if settings.form is MoldForm.RING:
        shape = _ring(whole, settings.ring_width, beam, mold.name, findings)
    shape = shapely.difference(shape, beam)
    notch = _notch(mold, settings)
    if notch is not None:
        if notch.bounds[3] > beam_level and notch.bounds[1] < beam_level:
            findings.append(
                _look(
                    "notch-beam",
                    mold.name,
                    "The notch for the keel runs into the beam's hole: make it less deep.",
                )
            )
        shape = shapely.difference(shape, notch)
    if settings.halves:
        low, high = whole.bounds[1] - 1.0, whole.bounds[3] + 1.0
        shape = shapely.intersection(shape, shapely.box(0.0, low, whole.bounds[2] + 1.0, high))
    polygon = _largest(shape, mold.name, findings)
    rings = [np.asarray(r.coords)[:-1] for r in (polygon.exterior, *polygon.interiors)]
    return Piece(
        mold.name, frozen(rings[0]), tuple(frozen(r) for r in rings[1:]), settings.halves, tuple(findings)
    )


def with_extra_depth(edge: Array, extra: float) -> Array:
    """An edge (n, 2), keel to sheer, carried on straight past the sheer by `extra` mm."""
    if extra <= 0:
        return edge
    along = edge[-1] - edge[-2]
    along = along / np.linalg.norm(along)
    return np.concatenate([edge, (edge[-1] + extra * along)[None]])


def _ring(
    whole: shapely.Polygon, width: float, beam: shapely.Polygon, name: str, findings: list[Finding]
) -> shapely.Geometry:
    """A ring of a width with a bar that carries the beam's hole, its inner corners rounded."""
    if width < LEAST_RING_MM:
        findings.append(
            _look(
                "thin-ring",
                name,
                f"A ring {mm(width)} wide will break: make it {mm(LEAST_RING_MM)} or wider.",
            )
        )
    inner = shapely.buffer(whole, -width)
    low, high = beam.bounds[1] - WEB_MM, beam.bounds[3] + WEB_MM
    bar = shapely.box(whole.bounds[0], low, whole.bounds[2], high)
    opening = shapely.difference(inner, bar)
    opening = shapely.buffer(shapely.buffer(opening, -ROUND_MM), ROUND_MM)
    kept = [part for part in shapely.get_parts(opening) if part.area > LEAST_OPENING_MM2]
    return shapely.difference(whole, shapely.union_all(kept)) if kept else whole


def _notch(mold: Mold, settings: MoldSettings) -> shapely.Polygon | None:
    """The room for keel or hog at the foot of a mold, with its clearance."""
    if settings.notch_width <= 0 or settings.notch_depth <= 0:
        return None
    half = settings.notch_width / 2 + settings.clearance
    foot = float(mold.edge.keel[1])
    return shapely.box(-half, foot - 50.0, half, foot + settings.notch_depth + settings.clearance)


def _largest(shape: shapely.Geometry, name: str, findings: list[Finding]) -> shapely.Polygon:
    parts = [part for part in shapely.get_parts(shape) if part.geom_type == "Polygon" and part.area > 1.0]
    if not parts:
        findings.append(
            Finding(
                "nothing-left",
                Weight.STOP,
                "molds",
                f"mold {name}",
                "Nothing is left of this mold: its openings take it all.",
            )
        )
        return shapely.box(0, 0, 1, 1)
    if len(parts) > 1:
        findings.append(
            Finding(
                "falls-apart", Weight.STOP, "molds", f"mold {name}",
                f"This mold falls into {len(parts)} pieces: make the ring wider, the notch smaller, or move the beam.",
            )
        )  # fmt: skip
    return max(parts, key=lambda part: part.area)


def _look(code: str, name: str, text: str) -> Finding:
    return Finding(code, Weight.LOOK, "molds", f"mold {name}", text)

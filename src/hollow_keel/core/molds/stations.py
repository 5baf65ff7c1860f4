"""Where molds stand, which face stands on the line, and the molds of a whole hull."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..findings import Finding, Weight, mm
from ..hull.build import Hull
from ..job import MoldSettings
from .shape import Face, MoldEdge, mold_edges


@dataclass(frozen=True)
class Mold:
    """One mold: its number, the position of its reference face, which face that is, its edge."""

    name: str
    station: float
    face: Face
    thickness: float
    edge: MoldEdge

    @property
    def body(self) -> tuple[float, float]:
        """The mold's forward and after face, positions along the hull in mm."""
        if self.face is Face.FORWARD:
            return self.station, self.station + self.thickness
        return self.station - self.thickness, self.station


@dataclass(frozen=True)
class MoldSet:
    """All molds from the bow aft, and what was noticed."""

    molds: tuple[Mold, ...]
    findings: tuple[Finding, ...]


def face_positions(hull: Hull, settings: MoldSettings) -> list[float]:
    """Positions of the reference faces along the hull, mm, from the bow aft."""
    if settings.stations:
        return sorted(set(settings.stations))
    if settings.every:
        ends = [p.surface.points(np.array([0.0, 1.0]), np.array([1.0, 1.0]))[:, 0] for p in hull.panels]
        first, last = float(min(e[0] for e in ends)), float(max(e[1] for e in ends))
        start = np.ceil(first / settings.every + 1e-9)
        return [float(x) for x in np.arange(start * settings.every, last, settings.every)]
    return [x for x, _ in hull.girths]


def make_molds(hull: Hull, settings: MoldSettings, waterline: float) -> MoldSet:
    """Every mold's edge, with the reference face turned towards the near end.

    The near end is the one the hull narrows to, so that the body of a square-edged mold lies where the
    hull is wider than at its reference face and never stands proud.
    """
    findings: list[Finding] = []
    edges: list[MoldEdge] = []
    places = face_positions(hull, settings)
    made = mold_edges(hull, places, settings.skin, settings.deduction, waterline)
    for x, edge in zip(places, made, strict=True):
        if edge is None:
            findings.append(
                Finding(
                    "no-mold", Weight.LOOK, "molds", f"station {mm(x)}",
                    "No mold can be made here: the plane misses the hull, or the skin is thicker than the hull is wide. "
                    "Leave this station out or move it.",
                )
            )  # fmt: skip
        else:
            edges.append(edge)
            findings += edge.findings
    widest = _fullest(edges)
    molds = tuple(
        Mold(str(k), e.face_at, Face.FORWARD if e.face_at < widest else Face.AFT, settings.thickness, e)
        for k, e in enumerate(edges, start=1)
    )
    return MoldSet(molds, tuple(findings))


def _fullest(edges: list[MoldEdge]) -> float:
    """Position of the mold with the greatest area, where the reference faces turn over."""
    if not edges:
        return 0.0
    areas = [abs(float(np.trapezoid(e.points[:, 0], e.points[:, 1]))) for e in edges]
    return edges[int(np.argmax(areas))].face_at

"""Where molds stand, which face stands on the line, and the molds of a whole hull."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..findings import Finding, Weight, mm
from ..geometry.arrays import Array
from ..geometry.polyline import height_crossing
from ..hull.build import Hull
from ..hull.deck import Deck
from ..hull.foot import foot_slopes
from ..job import MoldSettings
from ..rules import TRAPPED_MM
from ..sensible import count_of
from ..settings.mold_choices import FaceChoice, MoldEdgeKind
from .closed import ClosedEdge, closed_edges, ended_at_corner
from .shape import Face, MoldEdge, mold_edges


@dataclass(frozen=True)
class Mold:
    """One mold: its number, the position of its reference face, which face that is, its edge there, and for a bevelled
    one its edge on the other face (None for a square one, or where that face misses the hull).

    `foot` is how the keel or stem line climbs at it, radians, positive where it rises towards the stern; `on_stem`
    whether the mold stands over a stem. `deck` is the closed side of a mold that goes on under the deck, `far_deck` that of its
    other face: its edges on the hull end in the corner under the sheer.
    """

    name: str
    station: float
    face: Face
    thickness: float
    edge: MoldEdge
    far: MoldEdge | None = None
    foot: float = 0.0
    on_stem: bool = False
    deck: ClosedEdge | None = None
    far_deck: ClosedEdge | None = None

    @property
    def body(self) -> tuple[float, float]:
        """The mold's forward and after face, positions along the hull in mm."""
        if self.face is Face.FORWARD:
            return self.station, self.station + self.thickness
        return self.station - self.thickness, self.station

    @property
    def side(self) -> Array:
        """One side of it from the keel to its upper end, (n, 2), mm: to the sheer, or to the deck's centreline of a closed one."""
        return self.edge.points if self.deck is None else self.deck.points

    @property
    def top(self) -> float:
        """Height of its upper end, mm: of the sheer, or of the highest place under the deck."""
        sheer = float(self.edge.sheer[1])
        return sheer if self.deck is None else max(sheer, float(self.deck.deck[:, 1].max()))

    @property
    def standing(self) -> Array:
        """The bevel at each point of the edge seen from the reference face, radians, (n,): positive where the other face
        is larger (a standing bevel), negative where it is smaller (an under bevel)."""
        result: Array = -self.edge.narrowing if self.face is Face.FORWARD else self.edge.narrowing
        return result


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
        count_of(last - first, settings.every, "molds")
        start = np.ceil(first / settings.every + 1e-9)
        return [float(x) for x in np.arange(start * settings.every, last, settings.every)]
    return [x for x, _ in hull.girths]


@dataclass(frozen=True)
class UnderDeck:
    """A deck that molds go on under: its surface and what its planking takes off, mm."""

    deck: Deck
    skin: float


def make_molds(hull: Hull, settings: MoldSettings, waterline: float, under: UnderDeck | None = None) -> MoldSet:
    """Every mold's edge, mm, with the reference face turned towards the near end; closed where they go on `under` a deck.

    The near end is the one the hull narrows to, so that the body of a square-edged mold lies where the
    hull is wider than at its reference face and never stands proud.
    """
    findings: list[Finding] = []
    edges: list[MoldEdge] = []
    places = face_positions(hull, settings)
    made = mold_edges(hull, places, settings.deducted, settings.deduction, waterline, settings.false_bottom)
    for x, edge in zip(places, made, strict=True):
        if edge is None:
            findings.append(
                Finding(
                    "no-mold",
                    Weight.LOOK,
                    "molds",
                    f"station {mm(x)}",
                    "No mold can be made here: the plane misses the hull, or the skin is thicker than the hull is wide. "
                    "Leave this station out or move it.",
                )
            )
        else:
            edges.append(edge)
            findings += edge.findings
    widest = _fullest(edges)
    findings += _trapped(edges) if under is None else []  # closed molds are taken out of the hull, not it off them
    if settings.false_bottom and len(hull.panels) < 2:
        findings.append(
            Finding(
                "no-bottom",
                Weight.LOOK,
                "molds",
                "the false bottom",
                "This hull has no chine, so nothing says where its bottom ends: the false bottom is not taken off.",
            )
        )
    faces = [_face(settings.faces, e.face_at, widest) for e in edges]
    far: list[MoldEdge | None] = [None] * len(edges)
    if settings.edge is MoldEdgeKind.BEVELLED:
        behind = [
            e.face_at + (1 if face is Face.FORWARD else -1) * settings.thickness for e, face in zip(edges, faces, strict=True)
        ]
        far = mold_edges(hull, behind, settings.deducted, settings.deduction, waterline, settings.false_bottom)
    findings += _spall_misses(edges, settings, waterline)
    feet = foot_slopes(hull, [e.face_at for e in edges])
    molds = tuple(Mold(str(k + 1), e.face_at, faces[k], settings.thickness, e, far[k], *feet[k]) for k, e in enumerate(edges))
    if under is not None:
        molds = _closed(molds, settings, waterline, under, findings)
    return MoldSet(molds, tuple(findings))


def _closed(
    molds: tuple[Mold, ...], settings: MoldSettings, waterline: float, under: UnderDeck, findings: list[Finding]
) -> tuple[Mold, ...]:
    """Molds that go on under a deck, each face of them; those that cannot are left open, and said."""

    def close(edges: list[MoldEdge]) -> list[ClosedEdge | None]:
        return closed_edges(under.deck, edges, settings.deduction, under.skin, waterline)

    sides = close([mold.edge for mold in molds])
    behind = dict(
        zip(
            [mold.name for mold in molds if mold.far is not None],
            close([mold.far for mold in molds if mold.far is not None]),
            strict=True,
        )
    )
    found = []
    for mold, side in zip(molds, sides, strict=True):
        if side is None:
            text = "The deck is too narrow here, or its skin too thick, for a part under it: this mold ends at the sheer."
            findings.append(Finding("no-deck-part", Weight.LOOK, "molds", f"mold {mold.name}", text))
            found.append(mold)
            continue
        if not side.meets:
            text = "The hull's and the deck's inner faces do not meet under the sheer here: the corner is cut straight."
            findings.append(Finding("corner-open", Weight.LOOK, "molds", f"mold {mold.name}", text))
        far = behind.get(mold.name)
        found.append(
            replace(
                mold,
                edge=ended_at_corner(mold.edge, side),
                deck=side,
                far_deck=far,
                far=mold.far if mold.far is None or far is None else ended_at_corner(mold.far, far),
            )
        )
    return tuple(found)


def _face(choice: FaceChoice, at: float, widest: float) -> Face:
    if choice is FaceChoice.NEAR_END:
        return Face.FORWARD if at < widest else Face.AFT
    return Face.FORWARD if choice is FaceChoice.FORWARD else Face.AFT


def _spall_misses(edges: list[MoldEdge], settings: MoldSettings, waterline: float) -> list[Finding]:
    """Molds that the cross spalls' common line passes by."""
    if settings.spall_above is None:
        return []
    level = waterline + settings.spall_above
    missed = [str(k + 1) for k, e in enumerate(edges) if height_crossing(e.points, level) is None]
    if not missed:
        return []
    which = "all molds" if len(missed) == len(edges) else f"mold{'s' if len(missed) > 1 else ''} {', '.join(missed)}"
    them, these = ("them", "these") if len(missed) > 1 else ("it", "it")
    text = (
        f"The cross spalls' line, {mm(settings.spall_above)} above the waterline, does not come to {them}: no spall is marked "
        f"there. Lower the line, or brace {these} otherwise."
    )
    return [Finding("spall-misses", Weight.LOOK, "molds", which, text)]


def _trapped(edges: list[MoldEdge]) -> list[Finding]:
    """Molds that the finished hull cannot be lifted off, since it is narrower at the sheer than below."""
    found: list[Finding] = []
    for edge in edges:
        tight = float(edge.points[:, 0].max() - edge.sheer[0])
        if tight > TRAPPED_MM:
            found.append(
                Finding(
                    "trapped",
                    Weight.LOOK,
                    "molds",
                    f"station {mm(edge.face_at)}",
                    f"The hull is {mm(round(tight, 1))} narrower at the sheer than below it on each side: it will not lift off "
                    "this mold. Cut the mold in halves that can be taken out inside the hull.",
                )
            )
    return found


def _fullest(edges: list[MoldEdge]) -> float:
    """Position of the mold with the greatest area, where the reference faces turn over."""
    if not edges:
        return 0.0
    areas = [abs(float(np.trapezoid(e.points[:, 0], e.points[:, 1]))) for e in edges]
    return edges[int(np.argmax(areas))].face_at

"""What a mold was like when it was printed, so that a pattern that is no longer right is noticed."""

from __future__ import annotations

import hashlib

import numpy as np

from ..findings import Finding, Weight
from ..job import Printed
from .pieces import Piece
from .stations import Mold


def print_of(mold: Mold, piece: Piece) -> str:
    """Short text that changes when what is cut or marked from a mold's pattern does (to 0.1 mm)."""
    lines = [piece.outline, *piece.holes, mold.edge.sheer[None]]
    if mold.edge.waterline is not None:
        lines.append(mold.edge.waterline[None])
    rounded = [(np.round(line, 1) + 0.0).tolist() for line in lines]
    text = f"{mold.face.value} {mold.thickness:.1f} {mold.station:.1f} {piece.half} {rounded}"
    return hashlib.sha256(text.encode()).hexdigest()[:12]


def printed_now(molds: tuple[Mold, ...], pieces: list[Piece]) -> tuple[Printed, ...]:
    """What a job remembers of the patterns printed just now: molds that cannot be cut are not among them."""
    return tuple(Printed(mold=m.name, was=print_of(m, p)) for m, p in zip(molds, pieces, strict=True) if p.why_not is None)


def changed_since(printed: tuple[Printed, ...], molds: tuple[Mold, ...], pieces: list[Piece]) -> tuple[Finding, ...]:
    """Molds whose printed pattern is no longer right, and patterns for which there is no mold any more."""
    now = {m.name: print_of(m, p) for m, p in zip(molds, pieces, strict=True)}
    changed = [p.mold for p in printed if p.mold in now and now[p.mold] != p.was]
    gone = [p.mold for p in printed if p.mold not in now]
    known = {p.mold for p in printed}
    new = [p.mold for p in pieces if printed and p.why_not is None and p.mold not in known]
    found: list[Finding] = []
    for names, text in (
        (changed, "changed since printed: throw the old patterns away and print these again."),
        (gone, "printed, but no longer there: throw the patterns away."),
        (new, "not among the printed patterns: print them too."),
    ):
        if names:
            where = f"mold{'s' if len(names) > 1 else ''} {', '.join(names)}"
            found.append(Finding("printed-changed", Weight.LOOK, "molds", where, text))
    return tuple(found)
